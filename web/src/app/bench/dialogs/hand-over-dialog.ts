import { ChangeDetectionStrategy, Component, type OnDestroy, computed, inject, InjectionToken, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { JOB_FORMATS, SHEET_FORMATS, type FormatChoice, type FormatField, queryOf } from '@jentrix/core/formats';
import { fromPoints, parseMilliem } from '@jentrix/core/units';
import { NgbActiveModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { type Observable, catchError, combineLatest, debounceTime, forkJoin, from, map, of, startWith, switchMap, tap } from 'rxjs';
import { DialogHead } from '../../ui/dialog-head';
import { fileSize } from '../../ui/files';
import { showValue } from '../../ui/numbers';
import { messageOf } from '../../ui/toasts';
import { ValueField } from '../../ui/value-field';
import { BenchStore } from '../bench.store';
import { HandOver } from '../state/hand-over';
import { type HandedFormat, type Options, choose, isChosen, keep, readKept, startOf } from './hand-over-choice';

/** The formats of the hand-over. */
export const HANDED_FORMATS = new InjectionToken<readonly HandedFormat[]>('formats', { factory: () => [...SHEET_FORMATS, ...JOB_FORMATS] });

/** Previews are this many pixels at most, and half of that to tell how bytes grow with pixels. */
const SIDE = 640;

/** A preview of a file. */
interface Preview {
  href?: string;
  /** Of a file, as far as can be told. */
  bytes?: number;
  exact?: boolean;
  trouble?: string;
}

/** The subject of a preview. */
interface Shown {
  format: HandedFormat;
  options: Options;
  sheetId: string;
  /** Only this block of it. */
  blockId: string | undefined;
}

/** The way out: what, which sheets, how; what will come, and how large it will be. */
@Component({
  selector: 'jx-hand-over-dialog',
  imports: [DialogHead, ValueField],
  templateUrl: './hand-over-dialog.html',
  styleUrl: './hand-over-dialog.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class HandOverDialog implements OnDestroy {
  protected readonly modal = inject(NgbActiveModal);
  private readonly store = inject(BenchStore);
  protected readonly handOver = inject(HandOver);
  protected readonly formats = inject(HANDED_FORMATS);
  private readonly kept = readKept();

  private readonly chosenId = signal(this.kept?.format ?? this.formats[0]?.id ?? '');
  protected readonly format = computed(() => this.formats.find(({ id }) => id === this.chosenId()) ?? this.formats[0]);
  private readonly set = signal<Readonly<Record<string, Options>>>(this.kept?.options ?? {});
  protected readonly options = computed((): Options => {
    const format = this.format();
    return format ? startOf(format, this.set()[format.id]) : {};
  });
  private readonly parsed = computed(() => this.format()?.options.safeParse(this.options()));

  protected readonly job = this.store.current.job;
  protected readonly sheets = computed(() => this.job()?.sheets ?? []);
  /** Which sheets are handed over, by their identifiers. */
  private readonly picked = signal<ReadonlySet<string>>(new Set(this.kept?.all ? this.sheets().map(({ id }) => id) : [this.store.view.sheetId]));
  protected readonly wanted = computed(() => this.sheets().filter(({ id }) => this.picked().has(id)));
  protected readonly all = computed(() => this.wanted().length === this.sheets().length);
  protected readonly isOfJob = computed(() => this.format()?.kind === 'job');

  /** The block that is worked on, where it is on the sheet that is handed over. */
  protected readonly block = computed(() => {
    const [sheet, more] = this.wanted();
    const id = this.store.block?.id;
    return more || this.isOfJob() ? undefined : sheet?.blocks.find((one) => one.id === id);
  });
  private readonly alone = signal(false);
  /** Only that block, on nothing. */
  protected readonly onlyBlock = computed(() => this.alone() && this.block() !== undefined);

  protected readonly preview = signal<Preview | undefined>(undefined);
  private readonly shown = computed((): Shown | undefined => {
    const [format, sheet] = [this.format(), this.wanted()[0]];
    const blockId = this.onlyBlock() ? this.block()?.id : undefined;
    return format && sheet && this.parsed()?.success ? { format, options: this.options(), sheetId: sheet.id, blockId } : undefined;
  });
  protected readonly size = computed(() => this.sizeOf());
  protected readonly weight = computed(() => {
    const { bytes, exact } = this.preview() ?? {};
    if (bytes === undefined) return undefined;
    const several = this.wanted().length > 1 && !this.isOfJob();
    return `${exact ? '' : 'about '}${fileSize(bytes)}${several ? ' a sheet' : ''}`;
  });
  protected readonly canMake = computed(() => this.parsed()?.success === true && (this.isOfJob() || this.wanted().length > 0) && this.handOver.making() === 0);

  constructor() {
    toObservable(this.shown)
      .pipe(
        tap(() => this.show(undefined)),
        debounceTime(200),
        switchMap((shown) => (shown ? this.previewed(shown) : of(undefined))),
        takeUntilDestroyed(),
      )
      .subscribe((preview) => this.show(preview));
  }

  ngOnDestroy(): void {
    this.show(undefined);
  }

  protected readonly parse = (text: string): number => parseMilliem(text, 1);

  protected pickFormat({ id }: HandedFormat): void {
    this.chosenId.set(id);
  }

  protected readonly isChosen = (field: FormatField, choice: FormatChoice): boolean => isChosen(field, choice, this.options());

  protected pick(field: FormatField, choice: FormatChoice): void {
    this.setOptions(choose(field, choice, this.options()));
  }

  protected change(key: string, value: number | boolean): void {
    this.setOptions({ ...this.options(), [key]: value });
  }

  protected numberOf(key: string): number {
    return Number(this.options()[key] ?? 0);
  }

  protected pickSheet(id: string, on: boolean): void {
    this.picked.update((before) => new Set([...before].filter((one) => one !== id).concat(on ? [id] : [])));
  }

  protected isPicked(id: string): boolean {
    return this.picked().has(id);
  }

  protected pickBlock(on: boolean): void {
    this.alone.set(on);
  }

  protected pickAll(on: boolean): void {
    this.picked.set(new Set(on ? this.sheets().map(({ id }) => id) : [this.store.view.sheetId]));
  }

  protected async make(): Promise<void> {
    const format = this.format();
    if (!format || !this.canMake()) return;
    keep({ version: 1, format: format.id, all: this.all() && this.sheets().length > 1, options: { ...this.set(), [format.id]: this.options() } });
    if (await this.handOver.make(this.path(format))) this.modal.close();
  }

  private setOptions(options: Options): void {
    const format = this.format();
    if (format) this.set.update((all) => ({ ...all, [format.id]: options }));
  }

  /** Where the file is made, below the job. */
  private path(format: HandedFormat): string {
    const query = queryOf(this.options());
    if (format.kind === 'job') return `${format.id}?${query}`;
    const ids = this.wanted().map(({ id }) => id);
    const block = this.onlyBlock() ? `&block=${encodeURIComponent(this.block()?.id ?? '')}` : '';
    if (ids.length === 1) return `sheets/${encodeURIComponent(ids[0] ?? '')}/${format.id}?${query}${block}`;
    const sheets = this.all() ? '' : `&sheets=${ids.map(encodeURIComponent).join(',')}`;
    return format.kind === 'pages' ? `sheets${format.extension}?${query}${sheets}` : `sheets.zip?format=${format.id}&${query}${sheets}`;
  }

  /** How large what comes will be, in pixels or in the sheet's unit. */
  private sizeOf(): string {
    const [format, sheet, parsed] = [this.format(), this.wanted()[0], this.parsed()];
    if (!format || !sheet || !parsed?.success || format.kind === 'job' || this.onlyBlock()) return '';
    if (format.kind === 'pixels') {
      const { width, height } = format.pixels(sheet, parsed.data);
      return `${width} × ${height} pixels`;
    }
    const length = (pt: number): string => showValue(Math.round(fromPoints(pt, sheet.unit) * 10) / 10);
    return `${length(sheet.widthPt)} × ${length(sheet.heightPt)} ${sheet.unit}`;
  }

  private previewed(shown: Shown): Observable<Preview> {
    return from(this.handOver.upToDate()).pipe(
      switchMap((saved) => (saved ? this.drawn(shown) : of({ trouble: 'Your last edits are not saved yet.' }))),
      catchError((error: unknown) => of({ trouble: messageOf(error, 'No preview available.') })),
    );
  }

  private drawn({ format, options, sheetId, blockId }: Shown): Observable<Preview> {
    const query = queryOf(options) + (blockId === undefined ? '' : `&block=${encodeURIComponent(blockId)}`);
    const sheet = `sheets/${encodeURIComponent(sheetId)}`;
    if (format.kind === 'job') return this.handOver.look(`${format.id}?${query}`).pipe(map(({ bytes }) => ({ bytes: bytes.size, exact: true })));
    if (format.kind === 'pixels' && blockId === undefined) return this.drawnSmall(format, options, sheet);
    // A block alone is small enough to be made as it is.
    if (format.kind === 'pixels')
      return this.handOver
        .look(`${sheet}/${format.id}?${query}`)
        .pipe(map(({ bytes }) => ({ href: URL.createObjectURL(bytes), bytes: bytes.size, exact: true })));
    const picture = this.handOver.look(`${sheet}/preview?format=${format.id}&side=${SIDE}&${query}`);
    // The picture is there before the file is.
    return combineLatest([
      picture.pipe(map(({ bytes }) => URL.createObjectURL(bytes))),
      this.handOver.look(`${sheet}/${format.id}?${query}`).pipe(startWith(undefined)),
    ]).pipe(map(([href, file]) => ({ href, ...(file ? { bytes: file.bytes.size, exact: true } : {}) })));
  }

  /** Pictures are shown small, in their own format; two sizes tell how their bytes grow with their pixels. */
  private drawnSmall(format: HandedFormat & { kind: 'pixels' }, options: Options, path: string): Observable<Preview> {
    const sheet = this.wanted()[0];
    if (!sheet) return of({});
    const full = format.pixels(sheet, format.options.parse(options));
    const { scale: _scale, ppi: _ppi, ...rest } = options;
    const look = (width: number) => this.handOver.look(`${path}/${format.id}?${queryOf({ ...rest, width })}`);
    const width = Math.max(1, Math.min(full.width, Math.round((SIDE * full.width) / Math.max(full.width, full.height))));
    const half = Math.max(1, Math.round(width / 2));
    return forkJoin([look(width), look(half)]).pipe(
      map(([large, small]) => {
        const growth = half < width ? Math.log(large.bytes.size / small.bytes.size) / Math.log(width / half) : 1;
        const bytes = large.bytes.size * (full.width / width) ** Math.max(0, Math.min(2, growth));
        return { href: URL.createObjectURL(large.bytes), bytes: Math.round(bytes), exact: width === full.width };
      }),
    );
  }

  private show(preview: Preview | undefined): void {
    const { href } = this.preview() ?? {};
    if (href !== undefined && href !== preview?.href) URL.revokeObjectURL(href);
    this.preview.set(preview);
  }
}
