import { ChangeDetectionStrategy, Component, ElementRef, computed, inject, input, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { type Block, type Job, type Style, findBlock, graphemeBoundaries, setLeading, setLineLeading, setStyle } from '@jentrix/core/job';
import { limitsOf } from '@jentrix/core/preferences';
import type { BlockSetting, SetLine } from '@jentrix/core/setting';
import { leadingPoints, roundMilliem } from '@jentrix/core/units';
import { map, switchMap } from 'rxjs';
import { EngineService } from '../../engine/engine.service';
import { PreferencesService } from '../../ui/preferences.service';
import { BenchStore } from '../bench.store';
import { showSigned, showValue } from '../../ui/numbers';

interface Drag {
  kind: 'tracking' | 'leading';
  index: number;
  x: number;
  y: number;
  job: Job;
  block: Block;
  lines: readonly SetLine[];
  gesture: string;
}

const SNAP_PX = 6;
let gestures = 0;

/**
 * What can be taken hold of on the lines of the current block: in the Tracking pass the line's end (with Shift its word spaces), in the
 * Leading pass every baseline (with Shift that line alone), which meets the sheet's guides. Inks that meet are marked.
 */
@Component({
  selector: 'g[jxLines]',
  template: `
    @if (pass() === 'tracking' && ends(); as end) {
      <svg:path class="extent" [attr.d]="end.path" [attr.data-level]="end.level" />
      <svg:g class="grip across" data-testid="tracking-handle" [attr.transform]="at(end.x, end.y)" (pointerdown)="start($event, 'tracking', end.index)">
        <svg:title>Drag to track; with Shift, the word spaces</svg:title>
        <svg:rect x="4" y="-13" width="7" height="22" rx="3" />
      </svg:g>
    }
    @if (pass() === 'leading') {
      @for (line of lines(); track $index) {
        <svg:line class="baseline" [attr.x1]="left()" [attr.x2]="right()" [attr.y1]="line.baselinePt" [attr.y2]="line.baselinePt" />
        @if ($index > 0) {
          <svg:g class="grip along" [attr.data-line]="$index" [attr.transform]="at(left(), line.baselinePt)" (pointerdown)="start($event, 'leading', $index)">
            <svg:title>Drag for leading; with Shift, this line alone. Meets guides.</svg:title>
            <svg:rect x="-26" y="-3.5" width="22" height="7" rx="3" />
          </svg:g>
        }
      }
      @for (gap of collisions(); track gap.at) {
        <svg:g class="collision" [attr.transform]="at(gap.xPt, gap.yPt)">
          <svg:title>The inks of these lines meet</svg:title>
          <svg:circle r="9" />
        </svg:g>
      }
    }
    @if (says(); as text) {
      <svg:g class="says" [attr.transform]="at(place().x, place().y)">
        <svg:rect x="14" y="-30" [attr.width]="text.length * 6.4 + 14" height="20" rx="3" />
        <svg:text x="21" y="-16">{{ text }}</svg:text>
      </svg:g>
    }
  `,
  styleUrl: './line-handles.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { 'data-handle': 'line', '(pointermove)': 'drag($event)', '(pointerup)': 'end($event)', '(pointercancel)': 'end($event)' },
})
export class LineHandles {
  private readonly store = inject(BenchStore);
  private readonly engine = inject(EngineService);
  private readonly preferences = toSignal(inject(PreferencesService).preferences$, { requireSync: true });
  private readonly element = inject<ElementRef<SVGGElement>>(ElementRef);
  private readonly view = toSignal(this.store.view$, { requireSync: true });
  readonly block = input.required<Block>();
  readonly setting = input.required<BlockSetting>();
  /** Pixels per point. */
  readonly scale = input.required<number>();
  protected readonly says = signal('');
  protected readonly place = signal({ x: 0, y: 0 });
  private dragging: Drag | undefined;

  protected readonly pass = computed(() => this.view().pass);
  protected readonly lines = computed(() => this.setting().lines);
  protected readonly left = computed(() => this.setting().frame.xPt);
  protected readonly right = computed(() => this.setting().frame.xPt + this.setting().frame.widthPt);
  protected readonly collisions = toSignal(
    this.store.setting$.pipe(
      map(() => this.store.resolvedSheet?.blocks.find(({ id }) => id === this.store.view.blockId)),
      switchMap((block) => (block && this.store.view.pass === 'leading' ? this.engine.lineGaps(block).catch(() => []) : Promise.resolve([]))),
      map((gaps) => gaps.filter(({ clearPt }) => clearPt !== undefined && clearPt <= 0)),
    ),
    { initialValue: [] },
  );
  /** The line the caret is in, with its end, and how its tracking stands against the limits. */
  protected readonly ends = computed(() => {
    const at = this.view().gap?.at ?? 0;
    const lines = this.lines();
    const index = Math.max(0, lines.findIndex((line) => line.start <= at && at < line.visibleEnd)); // prettier-ignore
    const line = lines[index];
    if (!line) return undefined;
    const { caution, strong, out } = limitsOf(this.preferences());
    const tracking = this.block().style.trackingMilliem;
    const k = this.scale();
    const y = line.baselinePt;
    const level = tracking < out ? 'out' : tracking < strong ? 'strong' : tracking < caution ? 'caution' : 'free';
    return {
      index,
      x: line.leftPt + line.widthPt,
      y,
      level,
      path: lines.map(({ leftPt, widthPt, baselinePt }) => `M${leftPt} ${baselinePt + 4 / k}v${5 / k}h${widthPt}v${-5 / k}`).join(''),
    };
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
    this.element.nativeElement.setPointerCapture(event.pointerId);
    this.dragging = { kind, index, x: event.clientX, y: event.clientY, job, block, lines: this.lines(), gesture: `line-${++gestures}` };
  }

  protected drag(event: PointerEvent): void {
    const { dragging } = this;
    const line = dragging?.lines[dragging.index];
    if (!dragging || !line) return;
    const across = (event.clientX - dragging.x) / this.scale();
    const down = (event.clientY - dragging.y) / this.scale();
    if (dragging.kind === 'tracking') this.track(dragging, line, across, event.shiftKey);
    else this.lead(dragging, line, down, event.shiftKey);
  }

  protected end(event: PointerEvent): void {
    if (!this.dragging) return;
    this.element.nativeElement.releasePointerCapture(event.pointerId);
    this.dragging = undefined;
    this.says.set('');
    this.store.endGesture();
  }

  private track({ job, block, gesture }: Drag, line: SetLine, byPt: number, words: boolean): void {
    const text = block.words.slice(line.start, line.visibleEnd);
    const steps = words ? (text.match(/\p{Zs}/gu) ?? []).length : graphemeBoundaries(text).length;
    if (steps < 1) return;
    const key = words ? 'wordSpaceMilliem' : 'trackingMilliem';
    const value = roundMilliem(Math.round(block.style[key] + (byPt * 1000) / (line.sizePt * steps)));
    this.tell(`${words ? 'word ' : ''}${showSigned(value)}`, line.leftPt + line.widthPt, line.baselinePt);
    const change: Partial<Style> = { [key]: Math.min(5000, Math.max(-1000, value)) };
    this.store.apply(() => setStyle(job, block.id, change), gesture);
  }

  private lead({ job, block, index, lines, gesture }: Drag, line: SetLine, byPt: number, alone: boolean): void {
    const sheet = this.store.sheet;
    let by = byPt;
    const wanted = line.baselinePt + byPt;
    const guide = sheet?.guides.find(({ axis, atPt }) => axis === 'y' && Math.abs(atPt - wanted) * this.scale() < SNAP_PX);
    if (guide && block.rotationDeg === 0) by = guide.atPt - line.baselinePt;
    const first = lines[0];
    if (alone) {
      const own = (block.lineLeading.find(({ at }) => at === line.start)?.byPt ?? 0) + by;
      this.tell(`${showSigned(own, 2)} pt more`, this.left(), wanted);
      this.store.apply(() => setLineLeading(job, block.id, line.start, Math.round(own * 100) / 100), gesture);
    } else if (first) {
      const pt = Math.max(0, Math.round((leadingPoints(block.leading, first.sizePt) + by / index) * 100) / 100);
      this.tell(`${showValue(pt)} pt${guide ? ' · guide' : ''}`, this.left(), wanted);
      this.store.apply(() => setLeading(job, block.id, { kind: 'pt', pt }), gesture);
    }
  }

  private tell(text: string, x: number, y: number): void {
    this.says.set(text);
    this.place.set({ x, y });
  }
}
