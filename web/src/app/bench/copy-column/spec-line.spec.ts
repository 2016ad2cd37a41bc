import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { findBlock } from '@jentrix/core/job';
import { BenchStore } from '../bench.store';
import { FakeEngine, FakePreferences, benchProviders, sample, settled } from '../testing';
import { SpecLine } from './spec-line';

const FACES = [
  { id: 'source-sans-3-regular', family: 'Source Sans 3', style: 'Regular' },
  { id: 'source-sans-3-semibold', family: 'Source Sans 3', style: 'SemiBold' },
  { id: 'playfair-display-bold', family: 'Playfair Display', style: 'Bold' },
];

describe('spec line', () => {
  let store: BenchStore;
  let preferences: FakePreferences;
  let fixture: ComponentFixture<SpecLine>;
  let field: HTMLInputElement;

  beforeEach(async () => {
    const engine = new FakeEngine();
    preferences = new FakePreferences();
    engine.subject.next({ items: FACES as never, standInId: FACES[0]!.id });
    TestBed.configureTestingModule({ providers: benchProviders(engine, preferences) });
    store = TestBed.inject(BenchStore);
    store.open(sample());
    await settled();
    fixture = TestBed.createComponent(SpecLine);
    fixture.componentRef.setInput('block', block());
    document.body.append(fixture.nativeElement as HTMLElement);
    await fixture.whenStable();
    field = (fixture.nativeElement as HTMLElement).querySelector('input') as HTMLInputElement;
  });
  afterEach(() => (fixture.nativeElement as HTMLElement).remove());

  const block = () => findBlock(store.job!, 'a')!;
  async function type(text: string, key = 'Enter'): Promise<void> {
    field.focus();
    field.value = text;
    field.dispatchEvent(new Event('input'));
    field.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }));
    fixture.componentRef.setInput('block', block());
    await fixture.whenStable();
  }
  const completions = (): string[] => [...(fixture.nativeElement as HTMLElement).querySelectorAll('option')].map(({ value }) => value);

  it('shows the settings and takes others as one step', async () => {
    expect(field.value).toBe('Source Sans 3 Regular 48/auto 0');
    await type('playfair 64/60 -12 centre');
    expect(field.value).toBe('Playfair Display Bold 64/60 −12 centre');
    store.undo();
    fixture.componentRef.setInput('block', block());
    await fixture.whenStable();
    expect(field.value).toBe('Source Sans 3 Regular 48/auto 0');
  });

  it('changes nothing while it can’t be read, and picks the word that is wrong', async () => {
    const before = block();
    await type('Source Sans 3 Regular 48/auto +x');
    expect(block()).toBe(before);
    expect(field.getAttribute('aria-invalid')).toBe('true');
    expect((fixture.nativeElement as HTMLElement).querySelector('[role=alert]')?.textContent).toContain('+x');
    expect(field.value.slice(field.selectionStart ?? 0, field.selectionEnd ?? 0)).toBe('+x');
    await type('Source Sans 3 Regular 48/auto +x', 'Escape');
    expect([field.value, field.getAttribute('aria-invalid')]).toEqual(['Source Sans 3 Regular 48/auto 0', 'false']);
  });

  it('leads automatically as the preferences say, but not where automatic was there before', async () => {
    await preferences.change({ autoLeadingFactor: 1.3 });
    await type('50/auto');
    expect(block().leading).toEqual({ kind: 'auto' });
    await type('50/60');
    await type('50/auto');
    expect(block().leading).toEqual({ kind: 'auto', factor: 1.3 });
  });

  it('completes faces through all their words, then what a line can say', async () => {
    await type('source sans 3 s', 'a');
    expect(completions()).toEqual(['Source Sans 3 SemiBold']);
    await type('S', 'a');
    expect(completions()).toEqual(['Source Sans 3 Regular', 'Source Sans 3 SemiBold']);
    await type('Playfair 64/60 ce', 'a');
    expect(completions()).toEqual(['Playfair 64/60 centre']);
  });
});
