/** A pass and a format are added from outside, and turn up in rail, keys, deck, overlay and menu: nothing else has to know of them. */
import { ChangeDetectionStrategy, Component, Injectable, inject, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { SHEET_FORMATS, textFormat } from '@jentrix/core/formats';
import { NgbActiveModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { DEFAULT_PREFERENCES } from '@jentrix/core/preferences';
import * as z from 'zod';
import { pageProviders } from '../ui/testing';
import { BenchStore } from './bench.store';
import { KeysDialog } from './dialogs/keys-dialog';
import { heardKey, allKeys } from './keys';
import { HANDED_FORMATS, HandOverDialog } from './dialogs/hand-over-dialog';
import { type KeyContext, type Pass } from './pass';
import { PassRail } from './pass-rail';
import { ALL_PASSES } from './passes';
import { SaveService } from './save.service';
import { FakeEngine, FakePreferences, benchProviders, sample, settled } from './testing';
import { Table } from './table/table';

@Injectable()
class ToyState {
  waved = 0;
}

@Component({ selector: 'jx-toy-deck', template: 'A toy', changeDetection: ChangeDetectionStrategy.OnPush })
class ToyDeck {
  readonly state = inject(ToyState);
}

const toy: Pass = {
  id: 'toy',
  name: 'Toy',
  key: 'y',
  hint: 'A toy, to be waved.',
  help: 'begin',
  deck: () => Promise.resolve(ToyDeck),
  overlay: ['frame handles'],
  needs: ['line gaps'],
  state: [ToyState],
  keys: [{ id: 'wave', group: 'Work', says: 'Wave', characters: ['u'], run: ({ get }) => get(ToyState).waved++ }],
};
const passes = [...ALL_PASSES, toy];

const plain = textFormat({
  kind: 'text',
  id: 'words',
  name: 'plain words',
  mediaType: 'text/plain',
  extension: '.txt',
  options: z.object({ upper: z.coerce.boolean().default(false) }),
  says: 'for proofs',
  fields: [{ kind: 'switch', name: 'In capitals', key: 'upper' }],
  write: () => '',
});

describe('adding from outside', () => {
  let engine: FakeEngine;
  let store: BenchStore;
  beforeEach(async () => {
    engine = new FakeEngine();
    TestBed.configureTestingModule({
      providers: [
        ...pageProviders,
        ...benchProviders(engine, new FakePreferences(), passes),
        { provide: HANDED_FORMATS, useValue: [...SHEET_FORMATS, plain] },
        {
          provide: SaveService,
          useValue: { saved: signal({ kind: 'saved' }), others: signal([]), jobId: 'j1', flush: () => Promise.resolve(true) },
        },
        { provide: NgbActiveModal, useValue: {} },
      ],
    });
    store = TestBed.inject(BenchStore);
    store.open(sample());
    await settled();
  });

  it('a pass is in the rail, and a click brings it up; the engine is asked for what it needs', async () => {
    const fixture = TestBed.createComponent(PassRail);
    await fixture.whenStable();
    const host = fixture.nativeElement as HTMLElement;
    const button = [...host.querySelectorAll('button')].find(({ textContent }) => textContent.includes('Toy'));
    button?.click();
    await settled();
    await fixture.whenStable();
    expect(store.view.pass).toBe('toy');
    expect(button?.getAttribute('aria-current')).toBe('step');
    expect(engine.sets.at(-1)?.lineGapsOf).toBe('a');
    expect(store.sheetSetting?.lineGaps.length).toBe(1);
  });

  it('its keys act, are told to people, and reach what it keeps for itself', async () => {
    const fixture = TestBed.createComponent(KeysDialog);
    await fixture.whenStable();
    const said = (fixture.nativeElement as HTMLElement).textContent;
    expect(said).toContain('Wave');
    expect(said).toContain('The Toy pass');
    const heard = heardKey(allKeys(passes), new KeyboardEvent('keydown', { key: 'u' }), 'bench', DEFAULT_PREFERENCES);
    heard?.binding.run({ get: (state) => TestBed.inject(state) } as KeyContext, new KeyboardEvent('keydown'), heard.which);
    expect(TestBed.inject(ToyState).waved).toBe(1);
    expect(await toy.deck()).toBe(ToyDeck);
  });

  it('what it lays over the sheet is shown', async () => {
    const fixture = TestBed.createComponent(Table);
    document.body.append(fixture.nativeElement as HTMLElement);
    store.showPass('kerning');
    await settled();
    await fixture.whenStable();
    const handles = (): number => (fixture.nativeElement as HTMLElement).querySelectorAll('[data-handle="move"]').length;
    expect(handles()).toBe(0);
    store.showPass('toy');
    await settled();
    await fixture.whenStable();
    expect(handles()).toBe(1);
    (fixture.nativeElement as HTMLElement).remove();
  });

  it('a format is in the hand-over, with its options', async () => {
    const fixture = TestBed.createComponent(HandOverDialog);
    const host = fixture.nativeElement as HTMLElement;
    document.body.append(host);
    await fixture.whenStable();
    const ways = (): string[] => [...host.querySelectorAll('label')].map(({ textContent }) => textContent.replace(/\s+/g, ' ').trim());
    expect(ways()).toContain('plain wordsfor proofs');
    host.querySelector<HTMLInputElement>('[value="words"]')?.click();
    await fixture.whenStable();
    expect(ways()).toContain('In capitals');
    expect(ways()).not.toContain('Transparentwithout the ground');
    host.remove();
  });
});
