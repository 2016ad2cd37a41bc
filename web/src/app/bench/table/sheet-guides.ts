import { ChangeDetectionStrategy, Component, ElementRef, computed, inject, input } from '@angular/core';
import { type Guide, type Sheet, withSheet } from '@jentrix/core/job';
import { type GuidePart, type Point, angleOf, isOnSheet, movedGuide } from '@jentrix/core/placing';
import { fromPoints } from '@jentrix/core/units';
import { showValue } from '../../ui/numbers';
import { pressAndDrag } from '../../ui/press-and-drag';
import { BenchStore } from '../bench.store';

let gestures = 0;

/** The guides and rules of the sheet: dragged to move, a rule's ends to turn it; dragged off the sheet to take away. */
@Component({
  selector: 'g[jxGuides]',
  template: `
    @for (line of lines(); track $index) {
      <svg:g data-handle="guide" class="guide" [attr.data-axis]="line.guide.axis" (pointerdown)="start($event, $index, 'whole')">
        <svg:title>{{ line.says }}; drag off the sheet to take it away</svg:title>
        <svg:line class="reach" [attr.x1]="line.from.xPt" [attr.y1]="line.from.yPt" [attr.x2]="line.to.xPt" [attr.y2]="line.to.yPt" />
        <svg:line [attr.x1]="line.from.xPt" [attr.y1]="line.from.yPt" [attr.x2]="line.to.xPt" [attr.y2]="line.to.yPt" />
        @if (line.guide.axis === 'rule') {
          @for (end of ends; track end) {
            <svg:g (pointerdown)="start($event, $index, end)">
              <svg:circle class="reach" [attr.r]="12 / scale()" [attr.cx]="line[end].xPt" [attr.cy]="line[end].yPt" />
              <svg:circle [attr.r]="5 / scale()" [attr.cx]="line[end].xPt" [attr.cy]="line[end].yPt" />
            </svg:g>
          }
        }
      </svg:g>
    }
  `,
  styles: `
    .guide {
      cursor: ns-resize;
    }
    [data-axis='x'] {
      cursor: ew-resize;
    }
    [data-axis='rule'] {
      cursor: move;
    }
    line {
      stroke: #2aa3a3;
      vector-effect: non-scaling-stroke;
    }
    [data-axis='rule'] line:not(.reach) {
      stroke: #3cc4c4;
      stroke-dasharray: 8 3;
    }
    .reach {
      stroke: transparent;
      stroke-width: 9px;
    }
    /* Letters stand on guides: only fingers need more of them. */
    @media (pointer: coarse) {
      .reach {
        stroke-width: 24px;
      }
    }
    circle.reach {
      fill: transparent;
      stroke: none;
    }
    circle:not(.reach) {
      fill: #2aa3a3;
      fill-opacity: 0.35;
      stroke: #2aa3a3;
      vector-effect: non-scaling-stroke;
      cursor: crosshair;
    }
    .guide:hover line:not(.reach) {
      stroke-width: 2px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SheetGuides {
  private readonly store = inject(BenchStore);
  private readonly element = inject<ElementRef<SVGGElement>>(ElementRef);
  readonly sheet = input.required<Sheet>();
  readonly scale = input.required<number>();
  private dragging: { index: number; part: GuidePart; from: Point; guide: Guide; gesture: string } | undefined;

  protected readonly ends = ['from', 'to'] as const;
  protected readonly lines = computed(() => {
    const { guides, widthPt, heightPt, unit } = this.sheet();
    return guides.map((guide) => {
      if (guide.axis === 'rule') return { guide, from: guide.from, to: guide.to, says: `Rule at ${showValue(angleOf(guide), 1)}°` };
      const says = `Guide at ${showValue(fromPoints(guide.atPt, unit), 1)} ${unit}`;
      return guide.axis === 'x'
        ? { guide, from: { xPt: guide.atPt, yPt: 0 }, to: { xPt: guide.atPt, yPt: heightPt }, says }
        : { guide, from: { xPt: 0, yPt: guide.atPt }, to: { xPt: widthPt, yPt: guide.atPt }, says };
    });
  });

  protected start(event: PointerEvent, index: number, part: GuidePart): void {
    const guide = this.sheet().guides[index];
    if (event.button !== 0 || !guide || this.store.view.drawing) return;
    event.stopPropagation();
    const line = (event.currentTarget as Element).closest('.guide');
    if (line) pressAndDrag(line, event, { move: (moved) => this.drag(moved), end: () => this.end() });
    this.dragging = { index, part, from: this.toSheet(event), guide, gesture: `guide-${++gestures}` };
  }

  private drag(event: PointerEvent): void {
    const { dragging } = this;
    if (!dragging) return;
    const sheet = this.sheet();
    const moved = movedGuide(dragging.guide, dragging.part, dragging.from, this.toSheet(event));
    const guides = sheet.guides.map((guide, i) => (i === dragging.index ? moved : guide));
    this.store.apply((job) => withSheet(job, sheet.id, { guides }), dragging.gesture);
  }

  private end(): void {
    const { dragging } = this;
    if (!dragging) return;
    this.dragging = undefined;
    const sheet = this.sheet();
    const inside = sheet.guides.filter((guide) => isOnSheet(guide, sheet));
    if (inside.length < sheet.guides.length) this.store.apply((job) => withSheet(job, sheet.id, { guides: inside }), dragging.gesture);
    this.store.endGesture();
  }

  private toSheet({ clientX, clientY }: PointerEvent): Point {
    const matrix = this.element.nativeElement.getScreenCTM()?.inverse();
    const { x, y } = new DOMPoint(clientX, clientY).matrixTransform(matrix);
    return { xPt: x, yPt: y };
  }
}
