import { ChangeDetectionStrategy, Component, ElementRef, computed, inject, input, signal } from '@angular/core';
import {
  type Block,
  type Frame,
  type Job,
  factorInTenths,
  findBlock,
  moveBlocks,
  resizeFrame,
  scaleBlock,
  updateBlock,
  withBlockSettings,
  withTenths,
} from '@jentrix/core/job';
import { type SnapLine, middleOf, snapBox, snapLines, turnedPoint } from '@jentrix/core/placing';
import { type BlockSetting, baselinesOf } from '@jentrix/core/setting';
import { fromPoints } from '@jentrix/core/units';
import { BenchStore } from '../bench.store';
import type { Gesture } from '../state/job-history';
import { showSigned, showValue } from '../../ui/numbers';
import { pressAndDrag } from '../../ui/press-and-drag';

interface Point {
  xPt: number;
  yPt: number;
}

/** The dragged part: the block, an edge of its frame, a corner of its words, or its turn. */
type Grip = 'move' | 'turn' | `edge-${'n' | 'e' | 's' | 'w'}` | `corner-${'nw' | 'ne' | 'sw' | 'se'}`;

interface Drag {
  grip: Grip;
  from: Point;
  /** The block as it was taken hold of, and its frame with what it had grown by. */
  block: Block;
  frame: Frame;
  gesture: Gesture;
  moved: boolean;
}

const SNAP_PX = 6;
const TURN_STEP = 15;

/**
 * The frame of a picked block. Bars on its edges change the frame and the words reflow; rings on its corners scale words and frame
 * together (with Alt evenly from the middle); the tab moves it, the knob above turns it.
 */
@Component({
  selector: 'g[jxFrame]',
  template: `
    <svg:rect class="line" [class.main]="main()" [attr.x]="x()" [attr.y]="y()" [attr.width]="w()" [attr.height]="h()" />
    @if (main() && handles() && !block().locked) {
      <svg:g data-handle="move" class="tab" [attr.transform]="at(x(), y())" (pointerdown)="start($event, 'move')">
        <svg:title>Move (or Alt and arrow keys)</svg:title>
        <svg:rect class="reach" x="-1" y="-25" width="34" height="24" />
        <svg:rect x="-1" y="-19" width="34" height="16" rx="3" />
        <svg:path d="M8 -14h18M8 -11h18M8 -8h18" />
      </svg:g>
      <svg:g data-handle="turn" class="knob" [attr.transform]="at(x() + w() / 2, y())" (pointerdown)="start($event, 'turn')">
        <svg:title>Rotate; ⇧: steps of 15°</svg:title>
        <svg:path d="M0 -3V-16" />
        <svg:circle class="reach" cy="-20" r="12" />
        <svg:circle cy="-20" r="5" />
      </svg:g>
      @for (edge of edges(); track edge.grip) {
        <svg:g data-handle="edge" class="edge" [class.flat]="edge.flat" [attr.transform]="at(edge.x, edge.y)" (pointerdown)="start($event, edge.grip)">
          <svg:title>Resize frame; words reflow</svg:title>
          <svg:rect class="reach" x="-12" y="-12" width="24" height="24" />
          <svg:rect
            [attr.x]="edge.flat ? -9 : -2.5"
            [attr.y]="edge.flat ? -2.5 : -9"
            [attr.width]="edge.flat ? 18 : 5"
            [attr.height]="edge.flat ? 5 : 18"
            rx="2"
          />
        </svg:g>
      }
      @for (corner of corners(); track corner.grip) {
        <svg:g
          data-handle="corner"
          class="corner"
          [attr.data-corner]="corner.grip"
          [attr.transform]="at(corner.x, corner.y)"
          (pointerdown)="start($event, corner.grip)"
        >
          <svg:title>Scale words and frame; Alt: from the centre; ⇧: exact sizes</svg:title>
          <svg:circle class="reach" r="12" />
          <svg:circle r="5.5" />
        </svg:g>
      }
    }
    @if (block().locked && main()) {
      <svg:text class="note" [attr.transform]="at(x(), y())" y="-6">Locked</svg:text>
    }
    @for (line of met(); track $index) {
      <svg:line
        class="snap"
        [attr.x1]="line.axis === 'x' ? line.atPt : x() - far"
        [attr.x2]="line.axis === 'x' ? line.atPt : x() + w() + far"
        [attr.y1]="line.axis === 'y' ? line.atPt : y() - far"
        [attr.y2]="line.axis === 'y' ? line.atPt : y() + h() + far"
      />
    }
    @if (says(); as text) {
      <svg:g [attr.transform]="at(x(), y() + h())" class="says" data-testid="distance">
        <svg:rect x="0" y="8" [attr.width]="text.length * 6.4 + 14" height="20" rx="3" />
        <svg:text x="7" y="22">{{ text }}</svg:text>
      </svg:g>
    }
  `,
  styleUrl: './frame-handles.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { 'data-handle': 'frame' },
})
export class FrameHandles {
  private readonly store = inject(BenchStore);
  private readonly element = inject<ElementRef<SVGGElement>>(ElementRef);
  readonly block = input.required<Block>();
  readonly setting = input.required<BlockSetting>();
  /** Pixels per point. */
  readonly scale = input.required<number>();
  readonly main = input(false);
  /** Shows what can be dragged; without, only the frame's line. */
  readonly handles = input(true);

  protected readonly far = 20_000;
  protected readonly met = signal<readonly SnapLine[]>([]);
  protected readonly says = signal('');
  private dragging: Drag | undefined;

  protected readonly x = computed(() => this.setting().frame.xPt);
  protected readonly y = computed(() => this.setting().frame.yPt);
  protected readonly w = computed(() => this.setting().frame.widthPt);
  protected readonly h = computed(() => this.setting().frame.heightPt);
  protected readonly edges = computed(() => {
    const [x, y, w, h] = [this.x(), this.y(), this.w(), this.h()];
    return [
      { grip: 'edge-w' as const, x, y: y + h / 2, flat: false },
      { grip: 'edge-e' as const, x: x + w, y: y + h / 2, flat: false },
      { grip: 'edge-s' as const, x: x + w / 2, y: y + h, flat: true },
    ];
  });
  protected readonly corners = computed(() => {
    const [x, y, w, h] = [this.x(), this.y(), this.w(), this.h()];
    return [
      { grip: 'corner-nw' as const, x, y },
      { grip: 'corner-ne' as const, x: x + w, y },
      { grip: 'corner-sw' as const, x, y: y + h },
      { grip: 'corner-se' as const, x: x + w, y: y + h },
    ];
  });

  /** Things that keep their size on screen, at a place on the sheet. */
  protected at(x: number, y: number): string {
    return `translate(${x} ${y}) scale(${1 / this.scale()})`;
  }

  protected start(event: PointerEvent, grip: Grip): void {
    if (event.button !== 0) return;
    event.stopPropagation();
    event.preventDefault();
    pressAndDrag(this.element.nativeElement, event, { move: (moved) => this.drag(moved), end: () => this.end() });
    this.dragging = { grip, from: this.point(event), block: this.block(), frame: this.setting().frame, gesture: this.store.begin(), moved: false };
  }

  private drag(event: PointerEvent): void {
    const { dragging } = this;
    if (!dragging) return;
    const to = this.point(event);
    const by = { xPt: to.xPt - dragging.from.xPt, yPt: to.yPt - dragging.from.yPt };
    if (!dragging.moved && Math.hypot(by.xPt, by.yPt) * this.scale() < 3) return;
    dragging.moved = true;
    if (dragging.grip === 'move') this.move(dragging, by, event.ctrlKey);
    else if (dragging.grip === 'turn') this.turn(dragging, to, event.shiftKey);
    else if (dragging.grip.startsWith('edge')) this.resize(dragging, by);
    else this.scaleWords(dragging, to, { fromMiddle: event.altKey, exact: event.shiftKey });
  }

  private end(): void {
    if (!this.dragging) return;
    this.dragging.gesture.end();
    this.dragging = undefined;
    this.met.set([]);
    this.says.set('');
  }

  private move({ frame, gesture }: Drag, by: Point, freely: boolean): void {
    const { picked } = this.store;
    const sheet = this.store.resolvedSheet;
    const set = this.store.sheetSetting?.blocks;
    let { xPt, yPt } = by;
    if (sheet && set && !freely) {
      const others = sheet.blocks.filter(({ id }) => !picked.includes(id)).flatMap(({ id }) => set.get(id)?.setting ?? []);
      const lines = snapLines(sheet, others);
      const box = { leftPt: frame.xPt + xPt, topPt: frame.yPt + yPt, rightPt: frame.xPt + frame.widthPt + xPt, bottomPt: frame.yPt + frame.heightPt + yPt };
      const now = this.setting();
      const baselines = (now.straight ? [] : now.lines).flatMap(baselinesOf).map((atPt) => atPt - now.frame.yPt + frame.yPt + yPt);
      const snapped = this.block().rotationDeg === 0 ? snapBox(box, baselines, lines, SNAP_PX / this.scale()) : { xPt: 0, yPt: 0, lines: [] };
      xPt += snapped.xPt;
      yPt += snapped.yPt;
      this.met.set(snapped.lines);
    } else this.met.set([]);
    this.tell(
      `${this.length(xPt, true)}, ${this.length(yPt, true)}${this.met()
        .map(({ kind }) => ` · ${kind}`)
        .join('')}`,
    );
    gesture.apply((start) => moveBlocks(start, picked, xPt, yPt));
  }

  /** Bars: the stated frame changes. Dragging the lower edge fixes the height; a frame that grew both ways now has a width. */
  private resize({ grip, block, frame, gesture }: Drag, by: Point): void {
    const { id, rotationDeg, grow } = this.block();
    const own = turnedPoint(by, { xPt: 0, yPt: 0 }, -rotationDeg);
    const next = { ...frame };
    if (grip === 'edge-e') next.widthPt = Math.max(10, frame.widthPt + own.xPt);
    if (grip === 'edge-w') {
      next.widthPt = Math.max(10, frame.widthPt - own.xPt);
      next.xPt = frame.xPt + frame.widthPt - next.widthPt;
    }
    if (grip === 'edge-s') next.heightPt = Math.max(10, frame.heightPt + own.yPt);
    const growth = grip === 'edge-s' ? 'fixed' : grow === 'both' ? 'down' : grow;
    this.tell(`${this.length(next.widthPt)} × ${this.length(next.heightPt)}`);
    gesture.apply((start) => withBlockSettings(resizeFrame(start, id, restated(start, block, next)), id, { grow: growth }));
  }

  /** Rings: words and frame keep their proportion; sizes are tenths of a point unless they are asked for exactly. */
  private scaleWords({ grip, block, frame, gesture }: Drag, to: Point, { fromMiddle, exact }: { fromMiddle: boolean; exact: boolean }): void {
    const { id, rotationDeg } = this.block();
    const middle = middleOf(frame);
    const point = turnedPoint(to, middle, -rotationDeg);
    const [west, north] = [grip.endsWith('w'), grip.startsWith('corner-n')];
    const corner = { xPt: west ? frame.xPt : frame.xPt + frame.widthPt, yPt: north ? frame.yPt : frame.yPt + frame.heightPt };
    const origin = fromMiddle ? middle : { xPt: 2 * middle.xPt - corner.xPt, yPt: 2 * middle.yPt - corner.yPt };
    const [dx, dy] = [corner.xPt - origin.xPt, corner.yPt - origin.yPt];
    // The share of the way from the fixed point to the corner, along the diagonal.
    const way = Math.max(0.02, ((point.xPt - origin.xPt) * dx + (point.yPt - origin.yPt) * dy) / (dx * dx + dy * dy || 1));
    const factor = exact ? way : factorInTenths(block, way);
    this.tell(`${showValue(factor * 100, 1)} %, ${showValue(block.style.sizePt * factor, exact ? 3 : 1)} pt`);
    gesture.apply((start) => {
      const anchored = updateBlock(start, id, (own) => ({ ...own, frame: { ...own.frame, heightPt: frame.heightPt } }));
      const scaled = scaleBlock(anchored, id, factor, origin);
      return exact ? scaled : updateBlock(scaled, id, withTenths);
    });
  }

  private turn({ block, frame, gesture }: Drag, to: Point, inSteps: boolean): void {
    const middle = middleOf(frame);
    let degrees = (Math.atan2(to.xPt - middle.xPt, middle.yPt - to.yPt) * 180) / Math.PI;
    degrees = inSteps ? Math.round(degrees / TURN_STEP) * TURN_STEP : Math.round(degrees * 10) / 10;
    if (Math.abs(degrees) < 1) degrees = 0;
    this.tell(`${showValue(degrees, 1)}°`);
    gesture.apply((start) => withBlockSettings(start, block.id, { rotationDeg: degrees }));
  }

  private tell(text: string): void {
    this.says.set(text);
  }

  private length(pt: number, signed = false): string {
    const unit = this.store.sheet?.unit ?? 'pt';
    const value = fromPoints(pt, unit);
    return `${signed ? showSigned(value, 1) : showValue(value, 1)} ${unit}`;
  }

  /** A point of the window on the sheet, in points, not turned with the block. */
  private point({ clientX, clientY }: PointerEvent): Point {
    const group = this.element.nativeElement.parentElement as unknown as SVGGElement;
    const matrix = group.getScreenCTM()?.inverse();
    const { x, y } = new DOMPoint(clientX, clientY).matrixTransform(matrix);
    return { xPt: x, yPt: y };
  }
}

/** The frame of a block in a job, with what a drag states of it otherwise than it was stated before. */
function restated(job: Job, before: Block, next: Frame): Frame {
  const frame = findBlock(job, before.id)?.frame ?? next;
  const stated = (Object.keys(next) as (keyof Frame)[]).filter((key) => next[key] !== before.frame[key]);
  return { ...frame, ...Object.fromEntries(stated.map((key) => [key, next[key]])) };
}
