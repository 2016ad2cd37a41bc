import { Injector } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { NgbActiveModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { STARTER_WORDS, allBlocks } from '@jentrix/core/job';
import { FakeEngine } from '../bench/testing';
import { EngineService } from '../engine/engine.service';
import { named, press } from '../ui/testing';
import { begin } from './begin';
import { type NewJob, NewJobDialog } from './new-job-dialog';

describe('a new job', () => {
  let asked: NewJob[];
  beforeEach(() => {
    asked = [];
    localStorage.removeItem('jentrix.new-job.size');
    TestBed.configureTestingModule({
      providers: [
        { provide: NgbActiveModal, useValue: { close: (one: NewJob) => asked.push(one), dismiss: () => undefined } },
        { provide: EngineService, useClass: FakeEngine },
      ],
    });
  });
  async function open() {
    const fixture = TestBed.createComponent(NewJobDialog);
    await fixture.whenStable();
    const host = fixture.nativeElement as HTMLElement;
    return { fixture, host, words: host.querySelector('textarea')! };
  }

  it('has answers to both questions already, and remembers the size', async () => {
    const { fixture, host } = await open();
    await press(fixture, 'Create', host);
    expect(asked.map(({ words, sizes }) => [words, sizes.map(({ name }) => name)])).toEqual([['', ['Poster A2']]]);
    await press(fixture, 'Poster A2 420 × 594 mm', host);
    expect((named('Create', host) as HTMLButtonElement).disabled).toBeTrue();
    await press(fixture, 'Square 1:1 1080 × 1080 px', host);
    await press(fixture, 'Create', host);
    const again = await open();
    expect(again.host.querySelector('[aria-pressed=true]')?.textContent.trim()).toBe('Square 1:1 1080 × 1080 px');
  });

  it('shows the sizes in their proportions', async () => {
    const { host } = await open();
    const proportion = (name: string): number => {
      const { style } = named(name, host).querySelector<HTMLElement>('jx-size-picture')!;
      return parseFloat(style.width) / parseFloat(style.height);
    };
    expect(proportion('Tall 9:16 1080 × 1920 px')).toBeCloseTo(9 / 16, 1);
    expect(proportion('Slide 16:9 1920 × 1080 px')).toBeCloseTo(16 / 9, 1);
  });

  it('is one design in the sizes that were chosen, the first before the others, with the words in all of them', async () => {
    const { fixture, host, words } = await open();
    words.value = 'Tonight:\nVega';
    await press(fixture, 'Tall 9:16 1080 × 1920 px', host);
    await press(fixture, 'Slide 16:9 1920 × 1080 px', host);
    words.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', ctrlKey: true }));
    const [made] = asked;
    if (!made) throw new Error('not asked');
    const job = await begin(made, 1.2, TestBed.inject(Injector));
    expect(job.sheets.map(({ name }) => name)).toEqual(['Poster A2', 'Tall 9:16', 'Slide 16:9']);
    expect(allBlocks(job).map(({ words: said }) => said)).toEqual(Array(3).fill('Tonight:\nVega') as string[]);
    expect(job.title).toBe('Tonight:');
    const [first] = made.sizes;
    const plain = await begin({ words: '', sizes: [first] }, 1.2, TestBed.inject(Injector));
    expect(allBlocks(plain).map(({ words: said, part }) => [said, part])).toEqual([[STARTER_WORDS, null]]);
  });
});
