import {
  ChangeDetectionStrategy,
  Component,
  type ElementRef,
  type OnDestroy,
  afterNextRender,
  computed,
  effect,
  inject,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { type Block, styleAt } from '@jentrix/core/job';
import { type SetLine, gapsOf } from '@jentrix/core/setting';
import { select } from 'd3-selection';
import { type D3ZoomEvent, type ZoomBehavior, type ZoomTransform, zoom, zoomIdentity } from 'd3-zoom';
import { Glyphs } from '../../ui/glyphs';
import { SizeDirective } from '../../ui/size.directive';
import { BenchStore } from '../bench.store';

/** How much of a line's type size counts as the line when it is clicked, above and below the baseline. */
const REACH_UP = 0.95;
const REACH_DOWN = 0.35;
const PADDING_PX = 28;
/** Type shown smaller than this when a sheet appears is brought nearer, in pixels per em. */
const READABLE_PX = 36;

/** The sheet, live: what is here is, point for point, what is handed over. */
@Component({
  selector: 'jx-table',
  imports: [Glyphs, SizeDirective],
  templateUrl: './table.html',
  styleUrl: './table.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Table implements OnDestroy {
  protected readonly store = inject(BenchStore);
  protected readonly setting = toSignal(this.store.setting$);
  protected readonly view = toSignal(this.store.view$, { requireSync: true });
  private readonly job = toSignal(this.store.job$);

  private readonly surface = viewChild.required<ElementRef<SVGSVGElement>>('surface');
  private readonly size = signal({ width: 0, height: 0 });
  protected readonly transform = signal<ZoomTransform>(zoomIdentity);
  private zoomer: ZoomBehavior<SVGSVGElement, unknown> | undefined;
  /** The sheet that was brought into view; another one is fitted when it appears. */
  private fitted: string | undefined;
  private follows: 'sheet' | 'block' | undefined = 'sheet';

  protected readonly sheet = computed(() => {
    this.view();
    this.job();
    return this.store.sheet;
  });
  /** Screen pixels per point, as percent of true CSS size. */
  protected readonly percent = computed(() => Math.round(this.transform().k * 0.75 * 100));
  protected readonly blocks = computed(() => {
    const setting = this.setting();
    if (!setting) return [];
    return setting.sheet.blocks.map((block) => ({ block, lines: setting.settings.get(block.id)?.lines ?? [] }));
  });
  protected readonly current = computed(() => this.blocks().find(({ block }) => block.id === this.view().blockId));

  /** Where the gap caret stands on the sheet, in points. */
  protected readonly caret = computed(() => {
    const { gap } = this.view();
    const lines = this.blocks().find(({ block }) => block.id === gap?.blockId)?.lines ?? [];
    for (const line of lines) {
      const place = gap && gap.at > line.start && gap.at < line.visibleEnd ? gapsOf(line).find(({ at }) => at === gap.at) : undefined;
      if (place) return { x: place.xPt, top: line.baselinePt - line.sizePt * 0.82, bottom: line.baselinePt + line.sizePt * 0.24 };
    }
    return undefined;
  });

  constructor() {
    afterNextRender(() => this.startZoom());
    effect(() => {
      const sheet = this.sheet();
      const { width } = this.size();
      if (sheet && width > 0) untracked(() => this.fitWhenNew(sheet.id));
    });
  }

  ngOnDestroy(): void {
    select(this.surface().nativeElement).on('.zoom', null).on('click', null);
  }

  /** Brings the whole sheet, or the current block, into view. */
  zoomTo(what: 'sheet' | 'block'): void {
    const sheet = this.sheet();
    if (!sheet || !this.zoomer) return;
    const box = what === 'block' && this.boxOfBlock();
    const target = box || { x: 0, y: 0, width: sheet.widthPt, height: sheet.heightPt };
    const { width, height } = this.size();
    const padding = what === 'block' ? PADDING_PX * 1.5 : PADDING_PX;
    const k = Math.max(0.01, Math.min((width - 2 * padding) / target.width, (height - 2 * padding) / target.height));
    const moved = zoomIdentity.translate(width / 2 - k * (target.x + target.width / 2), height / 2 - k * (target.y + target.height / 2)).scale(k);
    this.zoomer.transform(select(this.surface().nativeElement), moved);
    this.follows = what;
  }

  protected zoomBy(factor: number): void {
    this.zoomer?.scaleBy(select(this.surface().nativeElement), factor);
  }

  protected resized(size: { width: number; height: number }): void {
    this.size.set(size);
    if (this.follows && this.fitted !== undefined) this.zoomTo(this.follows);
  }

  /** A click puts the caret into the nearest gap of the line under it; beside all lines it picks the block, or nothing. */
  private pick(event: MouseEvent): void {
    const { left, top } = this.surface().nativeElement.getBoundingClientRect();
    const [x, y] = this.transform().invert([event.clientX - left, event.clientY - top]);
    for (const { block, lines } of [...this.blocks()].reverse()) {
      const line = lines.find((candidate) => hits(candidate, x, y));
      if (!line) continue;
      const nearest = gapsOf(line).reduce<{ at: number; away: number } | undefined>((best, { at, xPt }) => {
        const away = Math.abs(xPt - x);
        return !best || away < best.away ? { at, away } : best;
      }, undefined);
      if (nearest) this.store.placeGap({ blockId: block.id, at: nearest.at });
      else this.store.selectBlock(block.id);
      return;
    }
    const framed = [...this.blocks()]
      .reverse()
      .find(({ block: { frame } }) => x >= frame.xPt && x <= frame.xPt + frame.widthPt && y >= frame.yPt && y <= frame.yPt + frame.heightPt);
    this.store.selectBlock(framed?.block.id);
  }

  /** The lines of a block as places between which leading is shown. */
  protected baselines(lines: readonly SetLine[]): { y: number; left: number; right: number }[] {
    return lines.map((line) => ({ y: line.baselinePt, left: line.leftPt, right: line.leftPt + line.widthPt }));
  }

  protected label(block: Block): string {
    return `${block.words.replaceAll('\n', ' ')}, ${styleAt(block, 0).sizePt} pt`;
  }

  private boxOfBlock(): { x: number; y: number; width: number; height: number } | undefined {
    const current = this.current();
    const frame = this.store.block?.frame;
    if (!frame) return undefined;
    const first = current?.lines[0];
    const last = current?.lines[current.lines.length - 1];
    if (!current || !first || !last) return { x: frame.xPt, y: frame.yPt, width: frame.widthPt, height: frame.heightPt };
    const left = Math.min(...current.lines.map((line) => line.leftPt));
    const right = Math.max(...current.lines.map((line) => line.leftPt + line.widthPt));
    const top = first.baselinePt - first.sizePt * 0.8;
    return { x: left, y: top, width: Math.max(1, right - left), height: last.baselinePt + last.sizePt * 0.25 - top };
  }

  private startZoom(): void {
    this.zoomer = zoom<SVGSVGElement, unknown>()
      .scaleExtent([0.02, 60])
      .clickDistance(3)
      .filter((event: MouseEvent | WheelEvent) => !(event.type === 'dblclick') && (!('button' in event) || event.button === 0 || event.button === 1))
      .on('zoom', (event: D3ZoomEvent<SVGSVGElement, unknown>) => {
        if (event.sourceEvent) this.follows = undefined;
        this.transform.set(event.transform);
      });
    const surface = this.surface().nativeElement;
    select(surface)
      .call(this.zoomer)
      .on('click', (event: MouseEvent) => this.pick(event));
    const sheet = this.sheet();
    if (sheet) this.fitWhenNew(sheet.id);
  }

  private fitWhenNew(sheetId: string): void {
    if (this.fitted === sheetId || !this.zoomer || this.size().width === 0) return;
    this.fitted = sheetId;
    this.zoomTo('sheet');
    // A tall sheet in a wide window leaves its letters too small to judge: the block that is worked on comes first.
    const size = this.store.block?.style.sizePt ?? 0;
    if (size > 0 && size * this.transform().k < READABLE_PX) this.zoomTo('block');
  }
}

function hits(line: SetLine, x: number, y: number): boolean {
  const slack = line.sizePt * 0.4;
  return (
    y >= line.baselinePt - line.sizePt * REACH_UP &&
    y <= line.baselinePt + line.sizePt * REACH_DOWN &&
    x >= line.leftPt - slack &&
    x <= line.leftPt + line.widthPt + slack
  );
}
