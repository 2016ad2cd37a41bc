import { TestBed, type ComponentFixture } from '@angular/core/testing';
import type { CatalogueEntry, CataloguePage, CatalogueQuery, FaceEntry } from '@jentrix/core/api';
import { BehaviorSubject, type Observable, defer, of, throwError } from 'rxjs';
import { FakePreferences } from '../bench/testing';
import { UserPreferences } from '../settings/user-preferences';
import { ApiError, ApiService } from '../api/api.service';
import { EngineService } from '../engine/engine.service';
import { enter, offer, pageProviders, press, until, signalOf } from '../ui/testing';
import { ToastService } from '../ui/toasts';
import { TypeCasePage } from './type-case.page';

const face = (id: string, family: string, kind: 'serif' | 'sans', source: FaceEntry['source'] = 'shipped'): FaceEntry => ({
  id,
  family,
  style: 'Regular',
  licence: 'OFL-1.1',
  anatomy: {
    kind,
    stem: kind === 'serif' ? 0.05 : 0.09,
    contrast: kind === 'serif' ? 0.3 : 0.9,
    width: 1.2,
    xHeight: 0.48,
    capHeight: 0.7,
    condensed: false,
    display: false,
  },
  axes: [],
  weight: 400,
  italic: false,
  slopeDeg: 0,
  features: [],
  source,
  favourite: false,
});

/** Three faces at hand and a catalogue of one. */
class FakeApi {
  hand = [face('quarry', 'Quarry', 'serif'), face('slate', 'Slate', 'sans'), face('own', 'Own Hand', 'sans', 'upload')];
  readonly catalogue = face('beacon', 'Beacon', 'sans', 'catalogue');
  away = false;
  /** Faces that jobs use: they go only for a stand-in. */
  used = ['own'];
  readonly removed: (string | undefined)[][] = [];
  searchCatalogue({ page }: CatalogueQuery): Observable<CataloguePage> {
    return defer(() => {
      if (this.away) return throwError(() => new ApiError('refused', 'The catalogue is away.'));
      const { source, favourite, ...entry } = this.catalogue;
      const item: CatalogueEntry = { ...entry, atHand: source === 'catalogue' && !favourite && this.hand.some(({ id }) => id === entry.id) };
      return of({ items: page === 1 ? [item] : [], total: 1, page: Number(page), pageSize: 18 });
    });
  }
  addFace(): Observable<unknown> {
    this.hand.push(this.catalogue);
    return of(undefined);
  }
  likeFace(id: string, favourite: boolean): Observable<unknown> {
    this.hand = this.hand.map((one) => (one.id === id ? { ...one, favourite } : one));
    return of(undefined);
  }
  removeFace(id: string, standIn?: string): Observable<unknown> {
    if (this.used.includes(id) && standIn === undefined) return throwError(() => new ApiError('refused', 'Two jobs use it.'));
    this.removed.push([id, standIn]);
    this.hand = this.hand.filter((one) => one.id !== id);
    return of(undefined);
  }
  uploadFace(file: File): Observable<FaceEntry> {
    if (!file.name.endsWith('.ttf')) return throwError(() => new ApiError('refused', 'This is not a font file.'));
    const made = face('new', 'Lantern', 'serif', 'upload');
    this.hand.push(made);
    return of(made);
  }
  troubleCatalogue({ failing }: { failing: boolean }): Observable<unknown> {
    this.away = failing;
    return of(undefined);
  }
}

describe('type case', () => {
  let api: FakeApi;
  let fixture: ComponentFixture<TypeCasePage>;
  let toasts: readonly string[];
  const host = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const shown = (): string[] => [...host().querySelectorAll('.about b')].map((family) => family.textContent);
  const card = (id: string): HTMLElement => host().querySelector(`[data-face=${id}]`) as HTMLElement;
  const dialog = (): HTMLElement | null => document.querySelector('ngb-modal-window');

  beforeEach(async () => {
    api = new FakeApi();
    const faces$ = new BehaviorSubject({ items: api.hand, standInId: 'slate' });
    const refreshFaces = (): Promise<void> => Promise.resolve(faces$.next({ items: [...api.hand], standInId: 'slate' }));
    TestBed.configureTestingModule({
      providers: [
        pageProviders,
        { provide: ApiService, useValue: api },
        { provide: UserPreferences, useValue: new FakePreferences() },
        { provide: EngineService, useValue: { faces$, list: signalOf(faces$), refreshFaces, engine: () => Promise.resolve() } },
      ],
    });
    fixture = TestBed.createComponent(TypeCasePage);
    TestBed.inject(ToastService).toasts$.subscribe((all) => (toasts = all.map(({ message }) => message)));
    await fixture.whenStable();
  });

  it('finds faces at hand by name and by measured kind', async () => {
    expect(shown()).toEqual(['Own Hand', 'Quarry', 'Slate']);
    await enter(fixture, 'Find a face', 'slat', host());
    expect(shown()).toEqual(['Slate']);
    await enter(fixture, 'Find a face', '', host());
    await press(fixture, 'Serif', host());
    expect(shown()).toEqual(['Quarry']);
    await press(fixture, 'Slab', host());
    expect(host().textContent).toContain('No matching faces.');
    await press(fixture, 'Slab', host());
    await press(fixture, 'Ascending ↑', host());
    expect(shown()).toEqual(['Slate', 'Quarry', 'Own Hand']);
  });

  it('shows every face in the words that are typed', async () => {
    await enter(fixture, 'Sample text', 'TO WATCH', host());
    expect([...host().querySelectorAll('.shown')].map((words) => words.textContent)).toEqual(['TO WATCH', 'TO WATCH', 'TO WATCH']);
  });

  it('puts favourites first', async () => {
    await press(fixture, 'Add to favourites: Slate Regular', host());
    await until(() => shown()[0] === 'Slate');
    await press(fixture, 'Remove from favourites: Slate Regular', host());
    await until(() => shown()[0] === 'Own Hand');
  });

  it('names partners that differ in kind and meet in x-height, with the reasons', async () => {
    await press(fixture, 'Partners for Quarry Regular: Two nights to watch', host());
    await until(() => host().querySelectorAll('aside section').length > 0);
    const partners = [...host().querySelectorAll('aside section .quiet')].map((line) => line.textContent);
    expect(partners.every((line) => /Slate|Own Hand|Beacon/.test(line) && line.includes('x-height'))).toBeTrue();
  });

  it('adds a face of the catalogue', async () => {
    await press(fixture, 'Catalogue', host());
    await until(() => shown().includes('Beacon'));
    await press(fixture, 'Add', card('beacon'));
    await until(() => card('beacon').textContent.includes('Remove'));
  });

  it('bears a catalogue that is away', async () => {
    await press(fixture, 'Catalogue', host());
    await until(() => shown().includes('Beacon'));
    await press(fixture, 'Unreachable', host());
    await until(() => host().textContent.includes('The catalogue can’t be reached right now.'));
    await press(fixture, 'My faces', host());
    expect(shown().length).toBe(3);
  });

  it('takes a face out that jobs use only for a stand-in', async () => {
    await press(fixture, 'Remove', card('own'));
    await until(() => dialog() !== null);
    expect(dialog()?.textContent).toContain('Two jobs use it.');
    await press(fixture, 'Keep the face');
    await until(() => dialog() === null);
    expect(api.removed).toEqual([]);
    await press(fixture, 'Remove', card('own'));
    await until(() => dialog() !== null);
    await enter(fixture, 'stand-in', 'slate', dialog() ?? undefined);
    await press(fixture, 'Remove', dialog() ?? undefined);
    await until(() => shown().length === 2);
    expect(api.removed).toEqual([['own', 'slate']]);
    expect(toasts.at(-1)).toBe('Removed Own Hand Regular from the type case.');
  });

  it('takes font files in, whatever is filtered, and refuses what is none', async () => {
    await press(fixture, 'Sans', host());
    const field = host().querySelector('[data-testid=font]') as HTMLInputElement;
    await offer(fixture, field, 'holiday.jpg', '…');
    await until(() => toasts.length === 1);
    expect(toasts).toEqual(['This is not a font file.']);
    await offer(fixture, field, 'lantern.ttf', '…');
    await until(() => shown().includes('Lantern'));
    expect(shown().length).toBe(4);
  });
});
