import { Injector } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import type { FaceEntry, ReadFile } from '@jentrix/core/api';
import { writeJobFile } from '@jentrix/core/formats';
import { allBlocks } from '@jentrix/core/job';
import { of } from 'rxjs';
import { ApiService } from '../api/api.service';
import { AllRecipes } from '../settings/all-recipes';
import { ToastService } from '../ui/toasts';
import { pageProviders, until } from '../ui/testing';
import { BenchStore } from './bench.store';
import { bringIn, paste } from '../intake/onto-bench';
import { FakeEngine, FakePreferences, FakePullsApi, benchProviders, sample } from './testing';

/** A server that reads every file as the sample job. */
class FakeIntake extends FakePullsApi {
  readonly asked: string[] = [];
  read: ReadFile = { job: sample(), notes: ['The face “X” is not here.'] };
  readFile({ name }: File, { widthPt, heightPt }: { widthPt: number; heightPt: number }) {
    this.asked.push(`${name} ${widthPt} ${heightPt}`);
    return of(this.read);
  }
  takeFile() {
    return of({ id: 'taken', notes: [] });
  }
  createJob() {
    return of({ id: 'made' });
  }
  uploadFace() {
    return of({ id: 'tide', family: 'Tide', style: 'Bold', axes: [] } as unknown as FaceEntry);
  }
}

describe('files brought to the bench', () => {
  let store: BenchStore;
  let api: FakeIntake;
  let toasts: readonly { message: string; action: { label: string; run: () => void } | undefined }[];
  const injector = (): Injector => TestBed.inject(Injector);
  const bring = (name: string, content = 'x', at?: { xPt: number; yPt: number }) => bringIn([new File([content], name)], at, store, injector());

  beforeEach(() => {
    api = new FakeIntake();
    const refresh = (): Promise<void> => Promise.resolve();
    TestBed.configureTestingModule({
      providers: [
        pageProviders,
        ...benchProviders(new FakeEngine(), new FakePreferences()),
        { provide: ApiService, useValue: api },
        { provide: AllRecipes, useValue: { refresh } },
      ],
    });
    store = TestBed.inject(BenchStore);
    TestBed.inject(ToastService).toasts$.subscribe((all) => (toasts = all));
    const job = sample();
    store.open({
      ...job,
      sheets: job.sheets.map((sheet) => ({ ...sheet, id: `own-${sheet.id}`, blocks: sheet.blocks.map((block) => ({ ...block, id: `own-${block.id}` })) })),
    });
  });

  it('a picture is the ground of the sheet, and one step of undo', async () => {
    await bring('view.JPG');
    expect(store.sheet?.background).toEqual({ kind: 'picture', pictureId: 'scan', fit: 'cover', colour: '#ffffff' });
    toasts.at(-1)?.action?.run();
    expect(store.sheet?.background.kind).toBe('colour');
  });

  it('words are blocks of this sheet from where they are let go, and one step of undo', async () => {
    await bring('copy.md', '# A', { xPt: 50, yPt: 200 });
    expect(api.asked).toEqual(['copy.md 600 800']);
    expect(store.sheet?.blocks.map(({ id, frame }) => `${id} ${frame.yPt}`)).toEqual(['own-a 10', 'own-b 10', 'a 200', 'b 200']);
    expect([store.block?.id, toasts.at(-1)?.message]).toEqual(['a', '“copy.md” is 2 blocks on this sheet. The face “X” is not here.']);
    await bring('more.txt', 'B', { xPt: 50, yPt: 5000 });
    expect(store.sheet?.blocks.at(-1)?.frame.yPt).toBe(700);
    store.undo();
    store.undo();
    expect(store.sheet?.blocks.length).toBe(2);
  });

  it('an SVG with words is a sheet of its own; one without lies under this one', async () => {
    await bring('Old poster.svg');
    expect(store.job?.sheets.map(({ name }) => name)).toEqual(['Sheet one', 'Old poster', 'Sheet two']);
    expect(store.sheet?.name).toBe('Old poster');
    const { job } = api.read;
    const [first] = job.sheets;
    api.read = {
      notes: [],
      job: { ...job, sheets: [{ ...first!, blocks: [], background: { kind: 'picture', pictureId: 'under', fit: 'contain', colour: '#000000' } }] },
    };
    await bring('mark.svg');
    expect([store.job?.sheets.length, store.sheet?.background]).toEqual([3, jasmine.objectContaining({ pictureId: 'under' })]);
  });

  it('a font goes into the type case, and the block into it where that is wished', async () => {
    store.selectBlock('own-a');
    await bring('Tide.otf');
    expect(store.block?.style.faceId).not.toBe('tide');
    expect(toasts.at(-1)?.message).toBe('Tide Bold is in your type case.');
    toasts.at(-1)?.action?.run();
    expect(store.block?.style.faceId).toBe('tide');
  });

  it('jobs and packages go to the shelf, with a way to them; what is none is refused in words', async () => {
    const went = spyOn(TestBed.inject(Router), 'navigate').and.resolveTo(true);
    const before = store.job;
    await bring('other.jentrix.json', writeJobFile(sample()));
    toasts.at(-1)?.action?.run();
    await bring('other.jentrix.zip');
    toasts.at(-1)?.action?.run();
    expect(went.calls.allArgs()).toEqual([[['/jobs', 'made']], [['/jobs', 'taken']]]);
    await bring('other.json', '{}');
    expect(toasts.at(-1)?.message).toContain('not a Jentrix job');
    await bring('film.mp4');
    expect(toasts.at(-1)?.message).toContain('unsupported file type');
    expect(store.job).toBe(before);
  });

  it('pasted words are a new block with what they look like; a pasted SVG is taken like a file', async () => {
    const made: string[] = [];
    const add = (words = '', change?: (job: NonNullable<typeof store.job>, id: string) => NonNullable<typeof store.job>): void => {
      made.push(words);
      store.addCopy({ xPt: 0, yPt: 0, widthPt: 100, heightPt: 20 }, words, change);
    };
    await paste({ files: [], html: '', text: 'Low\r\nwater ' }, add, store, injector());
    await paste({ files: [], html: '<p>Low <span style="color:#00f">tide</span></p>', text: '' }, add, store, injector());
    expect(made).toEqual(['Low\nwater', 'Low tide']);
    expect(store.block?.runs.map(({ start, style }) => [start, style.colour])).toEqual([[4, '#0000ff']]);
    store.undo();
    expect(allBlocks(store.job!).length).toBe(4);
    await paste({ files: [], html: '<meta>', text: '<svg/>' }, add, store, injector());
    await until(() => store.job?.sheets.length === 3);
    await paste({ files: [], html: '', text: ' ' }, add, store, injector());
    expect(made.length).toBe(2);
  });
});
