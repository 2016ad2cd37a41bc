import { ChangeDetectionStrategy, Component, Injector, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { type CatalogueEntry, type CataloguePage, type CatalogueQuery, FACE_SORTS, type FaceEntry, type Trouble } from '@jentrix/core/api';
import { FOUND_KINDS, type FoundKind, partnering, sayKind, searchFaces } from '@jentrix/core/advice';
import { NgbModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { NgbPaginationModule } from '@ng-bootstrap/ng-bootstrap/pagination';
import { NgIcon, provideIcons } from '@ng-icons/core';
import { bootstrapSearch, bootstrapStar, bootstrapStarFill, bootstrapUpload } from '@ng-icons/bootstrap-icons';
import { BehaviorSubject, type Observable, catchError, debounceTime, firstValueFrom, map, of, startWith, switchMap } from 'rxjs';
import { ApiError, ApiService } from '../api/api.service';
import { EngineService } from '../engine/engine.service';
import { sayTaken, takeFont } from '../intake/take-font';
import { FaceText } from '../ui/face-text.directive';
import { ToastService } from '../ui/toasts';
import { OfflineService } from '../offline/offline.service';
import { Hint } from '../settings/hint';
import { Places } from '../ui/places';
import { StandInDialog } from './stand-in-dialog';
import { showValue, thickToThin } from '../ui/numbers';
import { ChoiceName } from '../ui/choice-name.pipe';

const PAGE_SIZE = 18;

type Listing = { kind: 'loading' } | { kind: 'error' } | { kind: 'page'; page: CataloguePage };
type Filter = Required<Pick<CatalogueQuery, 'q' | 'sort' | 'order'>> & { page: number } & Pick<CatalogueQuery, 'kind' | 'condensed' | 'variable'>;

const ALL: Filter = { q: '', sort: 'family', order: 'asc', page: 1 };

/** A face on a card, from either list. */
interface Card {
  entry: FaceEntry | CatalogueEntry;
  url: string;
  atHand: FaceEntry | undefined;
}

/** A partner that goes well with a face, and why. */
interface Partner {
  entry: FaceEntry | CatalogueEntry;
  url: string;
  reasons: string;
}

/** The type case: the faces at hand, and the catalogue they come from. */
@Component({
  selector: 'jx-type-case',
  imports: [ChoiceName, FaceText, Hint, NgIcon, NgbPaginationModule, Places],
  providers: [provideIcons({ bootstrapSearch, bootstrapStar, bootstrapStarFill, bootstrapUpload })],
  templateUrl: './type-case.page.html',
  styleUrl: './type-case.page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TypeCasePage {
  private readonly api = inject(ApiService);
  private readonly engine = inject(EngineService);
  private readonly toasts = inject(ToastService);
  private readonly modal = inject(NgbModal);
  private readonly injector = inject(Injector);

  protected readonly kinds = FOUND_KINDS;
  protected readonly sayKind = sayKind;
  protected readonly sorts = FACE_SORTS.map((id) => ({
    id,
    name: { family: 'Name', stem: 'Stem weight', contrast: 'Thick-to-thin', width: 'Width', xHeight: 'x-height' }[id],
  }));
  protected readonly pageSize = PAGE_SIZE;
  protected readonly print = showValue;
  protected readonly thickToThin = thickToThin;
  protected readonly shelf = signal<'hand' | 'catalogue'>('hand');
  protected readonly words = signal('Two nights to watch');
  protected readonly chosen = signal<Card | undefined>(undefined);
  protected readonly busy = signal<string | undefined>(undefined);
  protected readonly dropping = signal(false);
  protected readonly trouble = signal<'none' | 'slow' | 'away'>('none');
  private readonly faces = this.engine.list;
  private readonly filterSubject = new BehaviorSubject<Filter>(ALL);
  protected readonly filter = toSignal(this.filterSubject, { requireSync: true });
  private readonly reload = new BehaviorSubject(0);

  protected readonly listing = toSignal(
    this.reload.pipe(
      switchMap(() => this.filterSubject),
      debounceTime(120),
      switchMap((filter): Observable<Listing> =>
        this.api.searchCatalogue({ ...filter, pageSize: PAGE_SIZE }).pipe(
          map((page): Listing => ({ kind: 'page', page })),
          catchError(() => of<Listing>({ kind: 'error' })),
          startWith<Listing>({ kind: 'loading' }),
        ),
      ),
    ),
    { initialValue: { kind: 'loading' } },
  );
  /** Everything the catalogue has, for finding partners; empty while it can't be reached. */
  private readonly everything = toSignal(
    this.reload.pipe(
      switchMap(() => Promise.all([1, 2].map((page) => firstValueFrom(this.api.searchCatalogue({ pageSize: 100, page }))))),
      map((pages) => pages.flatMap(({ items }) => items)),
      catchError(() => of<CatalogueEntry[]>([])),
    ),
    { initialValue: [] },
  );

  protected readonly cards = computed((): Card[] => {
    const byId = new Map(this.faces().items.map((face) => [face.id, face]));
    if (this.shelf() === 'catalogue') {
      const listing = this.listing();
      if (listing.kind !== 'page') return [];
      return listing.page.items.map((entry) => ({ entry, url: catalogueFile(entry.id), atHand: byId.get(entry.id) }));
    }
    const { q, kind, condensed, variable, sort, order } = this.filter();
    const flag = (value: 'true' | 'false' | undefined): boolean | undefined => (value === undefined ? undefined : value === 'true');
    const found = searchFaces(this.faces().items, { q, kind, condensed: flag(condensed), variable: flag(variable), sort, order });
    return [...found].sort((a, b) => Number(b.favourite) - Number(a.favourite)).map((entry) => ({ entry, url: faceFile(entry.id), atHand: entry }));
  });
  protected readonly total = computed(() => {
    const listing = this.listing();
    return listing.kind === 'page' ? listing.page.total : 0;
  });
  protected readonly partners = computed((): Partner[] => {
    const chosen = this.chosen();
    if (!chosen) return [];
    const hand = this.faces().items;
    const all: Omit<Partner, 'reasons'>[] = [
      ...hand.map((entry) => ({ entry, url: faceFile(entry.id) })),
      ...this.everything()
        .filter(({ atHand }) => !atHand)
        .map((entry) => ({ entry, url: catalogueFile(entry.id) })),
    ];
    const seen = new Set<string>();
    return all
      .flatMap((one) => {
        const fit = partnering(chosen.entry.anatomy, one.entry.anatomy);
        return fit ? [{ ...one, score: fit.score, reasons: fit.reasons.join(', ') }] : [];
      })
      .sort((a, b) => b.score - a.score)
      .filter(({ entry }) => !seen.has(entry.family) && seen.add(entry.family))
      .slice(0, 6);
  });

  constructor() {
    void this.engine.engine().catch(() => this.toasts.fail('The faces can’t be loaded: the server can’t be reached.'));
  }

  protected change(change: Partial<Filter>): void {
    this.filterSubject.next({ ...this.filterSubject.value, page: 1, ...change });
  }

  protected readonly away = inject(OfflineService).isAway;
  protected readonly filtered = computed(() => {
    const { q, kind, condensed, variable } = this.filter();
    return q !== '' || kind !== undefined || condensed !== undefined || variable !== undefined;
  });

  protected clear(): void {
    this.filterSubject.next(ALL);
  }

  protected kind(kind: FoundKind): void {
    this.change({ kind: this.filter().kind === kind ? undefined : kind });
  }

  protected flip(key: 'condensed' | 'variable'): void {
    this.change({ [key]: this.filter()[key] === 'true' ? undefined : 'true' });
  }

  protected again(): void {
    this.reload.next(this.reload.value + 1);
  }

  /** How the simulated font service behaves. */
  protected async behave(trouble: 'none' | 'slow' | 'away'): Promise<void> {
    const as: Record<typeof trouble, Trouble> = {
      none: { delayMs: 0, failing: false },
      slow: { delayMs: 2500, failing: false },
      away: { delayMs: 0, failing: true },
    };
    await firstValueFrom(this.api.troubleCatalogue(as[trouble]));
    this.trouble.set(trouble);
    this.again();
  }

  protected add(card: Card): Promise<void> {
    return this.work(card.entry.id, async () => {
      await firstValueFrom(this.api.addFace(card.entry.id));
      await this.engine.refreshFaces();
    });
  }

  protected like(face: FaceEntry): Promise<void> {
    return this.work(face.id, async () => {
      await firstValueFrom(this.api.likeFace(face.id, !face.favourite));
      await this.engine.refreshFaces();
    });
  }

  /** Takes a face out; one in use asks for a stand-in first. */
  protected remove(face: FaceEntry): Promise<void> {
    return this.work(face.id, async () => {
      try {
        await firstValueFrom(this.api.removeFace(face.id));
      } catch (error) {
        if (!(error instanceof ApiError) || error.kind !== 'refused') throw error;
        const dialog = this.modal.open(StandInDialog, { ariaLabelledBy: 'stand-in-title' });
        const component = dialog.componentInstance as StandInDialog;
        component.face.set(face);
        component.message.set(error.message);
        component.faces.set(this.faces().items.filter(({ id }) => id !== face.id));
        const standIn = await (dialog.result as Promise<string>).catch(() => undefined);
        if (standIn === undefined) return;
        await firstValueFrom(this.api.removeFace(face.id, standIn));
      }
      await this.engine.refreshFaces();
      this.chosen.set(undefined);
      this.toasts.say(`Removed ${face.family} ${face.style} from the type case.`);
    });
  }

  protected async upload(files: FileList | null): Promise<void> {
    for (const file of files ?? []) await this.work('upload', () => this.takeIn(file));
  }

  private async takeIn(file: File): Promise<void> {
    const kept = await takeFont(file, this.injector);
    if (kept.length === 0) return;
    // Whatever was filtered, the new faces are seen.
    this.shelf.set('hand');
    this.filterSubject.next(ALL);
    this.toasts.say(sayTaken(kept));
  }

  protected drop(event: DragEvent): void {
    event.preventDefault();
    this.dropping.set(false);
    void this.upload(event.dataTransfer?.files ?? null);
  }

  protected over(event: DragEvent): void {
    event.preventDefault();
    this.dropping.set(true);
  }

  private async work(id: string, task: () => Promise<void>): Promise<void> {
    this.busy.set(id);
    await this.toasts.trying(task);
    this.busy.set(undefined);
  }
}

const faceFile = (id: string): string => `/api/faces/${encodeURIComponent(id)}/file`;
const catalogueFile = (id: string): string => `/api/catalogue/${encodeURIComponent(id)}/file`;
