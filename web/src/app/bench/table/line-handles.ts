import { ChangeDetectionStrategy, Component, ElementRef, computed, inject, input, signal } from '@angular/core';
import {
  type Block,
  type WordRange,
  type WordSpaceLink,
  findBlock,
  graphemeBoundaries,
  relead,
  withLineLeading,
  restyle,
  retrack,
  styleAt,
  styledRanges,
} from '@jentrix/core/job';
import { limitsOf } from '@jentrix/core/preferences';
import { levelsFor, turnedPoint } from '@jentrix/core/placing';
import type { BlockSetting, SetLine } from '@jentrix/core/setting';
import { leadingPoints, roundMilliem } from '@jentrix/core/units';
import { UserPreferences } from '../../settings/user-preferences';
import { showSigned, showValue } from '../../ui/numbers';
import { pressAndDrag } from '../../ui/press-and-drag';
import { BenchStore } from '../bench.store';
import type { Gesture } from '../state/job-history';
import { TrackingState } from '../deck/tracking/tracking.state';
import { linePlaceOf } from './line-place';

interface Drag {
  kind: 'tracking' | 'leading';
  index: number;
  x: number;
  y: number;
  block: Block;
  lines: readonly SetLine[];
  frame: BlockSetting['frame'];
  /** The letters that were picked. */
  range: WordRange | undefined;
  /** How word space follows. */
  link: WordSpaceLink | undefined;
  gesture: Gesture;
}

const SNAP_PX = 6;

/**
 * The handles on the lines of the current block: in the Tracking pass the end of the line or of the picked letters (with
 * Shift their word spaces, with Alt that line alone), in the Leading pass every baseline (with Shift that line alone), which meets the
 * sheet's guides and rules. Inks that meet are marked.
 */
@Component({
  selector: 'g[jxLines]',
  template: `
    @if (pass() === 'tracking' && ends(); as end) {
      @for (extent of extents(); track $index) {
        <svg:path class="extent" [attr.d]="extent.path" [attr.data-level]="extent.level" />
      }
      <svg:g class="grip across" data-testid="tracking-handle" [attr.transform]="at(end.x, end.y)" (pointerdown)="start($event, 'tracking', end.index)">
        <svg:title>{{ end.picked ? 'Drag to track the picked letters' : 'Drag to track; Alt: this line only' }}; ⇧: word spaces</svg:title>
        <svg:rect class="reach" x="-4" y="-14" width="24" height="24" />
        <svg:rect x="4" y="-13" width="7" height="22" rx="3" />
      </svg:g>
    }
    @if (pass() === 'leading') {
      @for (line of lines(); track $index) {
        <svg:line class="baseline" [attr.x1]="left()" [attr.x2]="right()" [attr.y1]="line.baselinePt" [attr.y2]="line.baselinePt" />
        @if ($index > 0) {
          <svg:g class="grip along" [attr.data-line]="$index" [attr.transform]="at(left(), line.baselinePt)" (pointerdown)="start($event, 'leading', $index)">
            <svg:title>Drag for leading; ⇧: this line only. Snaps to guides and rules.</svg:title>
            <svg:rect class="reach" x="-28" y="-12" width="26" height="24" />
            <svg:rect x="-26" y="-3.5" width="22" height="7" rx="3" />
          </svg:g>
        }
      }
      @for (gap of collisions(); track gap.at) {
        <svg:g class="collision" [attr.transform]="at(gap.xPt, gap.yPt)">
          <svg:title>These lines touch</svg:title>
          <svg:circle r="9" />
        </svg:g>
      }
    }
    @if (says(); as text) {
      <svg:g class="says" [attr.transform]="at(place().x, place().y)">
        <svg:rect x="14" y="-30" [attr.width]="text.length * 5.8 + 14" height="20" rx="3" />
        <svg:text x="21" y="-16">{{ text }}</svg:text>
      </svg:g>
    }
  `,
  styleUrl: './line-handles.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { 'data-handle': 'line' },
})
export class LineHandles {
  private readonly store = inject(BenchStore);
  private readonly preferences = inject(UserPreferences).preferences;
  private readonly element = inject<ElementRef<SVGGElement>>(ElementRef);
  private readonly view = this.store.current.view;
  readonly block = input.required<Block>();
  readonly setting = input.required<BlockSetting>();
  /** Pixels per point. */
  readonly scale = input.required<number>();
  private readonly tracking = inject(TrackingState);
  private readonly sheetSetting = this.store.current.setting;
  protected readonly says = signal('');
  protected readonly place = signal({ x: 0, y: 0 });
  private dragging: Drag | undefined;

  protected readonly pass = computed(() => this.view().pass);
  protected readonly lines = computed(() => this.setting().lines);
  protected readonly left = computed(() => this.setting().frame.xPt);
  protected readonly right = computed(() => this.setting().frame.xPt + this.setting().frame.widthPt);
  protected readonly collisions = computed(() => (this.sheetSetting()?.lineGaps ?? []).filter(({ clearPt }) => clearPt !== undefined && clearPt <= 0));
  /** The letters that are picked. */
  private readonly picked = computed(() => {
    const { selection } = this.view();
    return selection && selection.end > selection.start ? selection : undefined;
  });
  /** The line the caret is in, or that of the picked letters, and where its handle stands. */
  protected readonly ends = computed(() => {
    const { gap } = this.view();
    const picked = this.picked();
    const at = picked ? picked.end - 1 : (gap?.at ?? 0);
    const lines = this.lines();
    const index = Math.max(
      0,
      lines.findIndex((line) => line.start <= at && at < line.visibleEnd),
    );
    const line = lines[index];
    if (!line) return undefined;
    const k = this.scale();
    const y = line.baselinePt;
    return {
      index,
      picked: picked !== undefined,
      // Lines that are set to the right grow to the left.
      x: picked ? linePlaceOf(line, picked.end) : this.block().align === 'right' ? line.leftPt - 15 / k : line.leftPt + line.widthPt,
      y,
    };
  });

  /** The stretches that are tracked alike, as brackets under the lines, and how each stands against the limits. */
  protected readonly extents = computed(() => {
    const { caution, strong, out } = limitsOf(this.preferences());
    const picked = this.picked();
    const block = this.block();
    const k = this.scale();
    return this.lines().flatMap((line) => {
      const [from, to] = [Math.max(line.start, picked?.start ?? line.start), Math.min(line.visibleEnd, picked?.end ?? line.visibleEnd)];
      return styledRanges(block, from, Math.max(from, to)).map(({ start, end, style: { trackingMilliem } }) => {
        const level = trackingMilliem < out ? 'out' : trackingMilliem < strong ? 'strong' : trackingMilliem < caution ? 'caution' : 'free';
        const left = linePlaceOf(line, start);
        return { level, path: `M${left} ${line.baselinePt + 4 / k}v${5 / k}h${linePlaceOf(line, end) - left}v${-5 / k}` };
      });
    });
  });

  protected at(x: number, y: number): string {
    return `translate(${x} ${y}) scale(${1 / this.scale()})`;
  }

  protected start(event: PointerEvent, kind: Drag['kind'], index: number): void {
    const { job } = this.store;
    const block = job && findBlock(job, this.block().id);
    if (event.button !== 0 || !block || block.locked) return;
    event.stopPropagation();
    event.preventDefault();
    pressAndDrag(this.element.nativeElement, event, { move: (moved) => this.drag(moved), end: () => this.end() });
    this.dragging = {
      kind,
      index,
      x: event.clientX,
      y: event.clientY,
      block,
      lines: this.lines(),
      frame: this.setting().frame,
      range: this.store.range,
      link: this.tracking.wordSpaceLink,
      gesture: this.store.begin(),
    };
  }

  private drag(event: PointerEvent): void {
    const { dragging } = this;
    const line = dragging?.lines[dragging.index];
    const block = dragging?.gesture.start && findBlock(dragging.gesture.start, dragging.block.id);
    // In other words the lines are no longer those that were taken hold of.
    if (!dragging || !line || block?.words !== dragging.block.words) return;
    // The way of the pointer as the block is turned.
    const moved = { xPt: (event.clientX - dragging.x) / this.scale(), yPt: (event.clientY - dragging.y) / this.scale() };
    const by = turnedPoint(moved, { xPt: 0, yPt: 0 }, -block.rotationDeg);
    if (dragging.kind === 'tracking') this.track({ ...dragging, block }, line, by.xPt, { words: event.shiftKey, alone: event.altKey });
    else this.lead({ ...dragging, block }, line, by.yPt, event.shiftKey);
  }

  private end(): void {
    if (!this.dragging) return;
    this.dragging.gesture.end();
    this.dragging = undefined;
    this.says.set('');
  }

  private track({ block, range, link, gesture }: Drag, line: SetLine, byPt: number, { words, alone }: { words: boolean; alone: boolean }): void {
    const whole = { start: line.start, end: line.visibleEnd };
    const reach = range ?? (alone ? whole : undefined);
    const [from, end] = [Math.max(line.start, reach?.start ?? 0), Math.min(line.visibleEnd, reach?.end ?? line.visibleEnd)];
    const text = block.words.slice(from, end);
    // Space follows every letter but the last of the line; letters picked inside a line move what comes after them.
    const steps = words ? (text.match(/\p{Zs}/gu) ?? []).length : graphemeBoundaries(text).length + (end < line.visibleEnd ? 1 : 0);
    if (steps < 1) return;
    // A line's end moves by the whole of what it gains, by half of it, or its beginning does the other way.
    const gained = block.align === 'centre' ? 2 * byPt : block.align === 'right' && !range ? -byPt : byPt;
    const key = words ? 'wordSpaceMilliem' : 'trackingMilliem';
    const value = roundMilliem(Math.round(styleAt(block, from)[key] + (gained * 1000) / (line.sizePt * steps)));
    const of = range ? ' · picked letters' : alone ? ' · this line' : '';
    this.tell(`${words ? 'word ' : ''}${showSigned(value)}${of}`, line.leftPt + line.widthPt, line.baselinePt);
    const within = Math.min(5000, Math.max(-1000, value));
    gesture.apply((start) => (words ? restyle(start, block.id, { wordSpaceMilliem: within }, reach) : retrack(start, block.id, within, reach, link)));
  }

  private lead(drag: Drag, line: SetLine, byPt: number, alone: boolean): void {
    const { block, index, lines, gesture } = drag;
    const met = this.meet(drag, line, byPt, alone);
    const by = met?.byPt ?? byPt;
    const wanted = line.baselinePt + by;
    const first = lines[0];
    const says = met ? ` · ${met.kind}` : '';
    if (alone) {
      const own = (block.lineLeading.find(({ at }) => at === line.start)?.byPt ?? 0) + by;
      this.tell(`${showSigned(own, 2)} pt more${says}`, this.left(), wanted);
      gesture.apply((start) => withLineLeading(start, block.id, line.start, Math.round(own * 100) / 100));
    } else if (first) {
      const pt = Math.max(0, Math.round((leadingPoints(block.leading, first.sizePt) + by / index) * 100) / 100);
      this.tell(`${showValue(pt)} pt${says}`, this.left(), wanted);
      gesture.apply((start) => relead(start, block.id, { kind: 'pt', pt }));
    }
  }

  /** How far a baseline has to move to meet the nearest guide or rule, if one is near where it would stand. */
  private meet({ block, index, lines, frame }: Drag, line: SetLine, byPt: number, alone: boolean): { byPt: number; kind: 'guide' | 'rule' } | undefined {
    const guides = this.store.sheet?.guides ?? [];
    // A turned block turns around the middle of its frame, which moves as the frame grows with the leading.
    const growth = block.grow === 'fixed' ? 0 : alone ? 1 : (lines.length - 1) / index;
    const levels = (by: number) => levelsFor(guides, block.rotationDeg, { ...frame, heightPt: frame.heightPt + by * growth });
    const far = ({ atPt }: { atPt: number }): number => Math.abs(atPt - line.baselinePt - byPt) * this.scale();
    const nearest = levels(byPt)
      .map((level, i) => ({ ...level, i }))
      .sort((a, b) => far(a) - far(b))[0];
    if (!nearest || far(nearest) >= SNAP_PX) return undefined;
    let by = byPt;
    for (let i = 0; i < 8; i++) by = (levels(by)[nearest.i]?.atPt ?? line.baselinePt + by) - line.baselinePt;
    return { byPt: by, kind: nearest.kind };
  }

  private tell(text: string, x: number, y: number): void {
    this.says.set(text);
    this.place.set({ x, y });
  }
}
