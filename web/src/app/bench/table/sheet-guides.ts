import { ChangeDetectionStrategy, Component, ElementRef, computed, inject, input } from '@angular/core';
import { type Guide, type Job, type Sheet, withSheet } from '@jentrix/core/job';
import { type GuidePart, type Point, ruleAngle, isOnSheet, movedGuide } from '@jentrix/core/placing';
import { fromPoints } from '@jentrix/core/units';
import { showValue } from '../../ui/numbers';
import { pressAndDrag } from '../../ui/press-and-drag';
import { BenchStore } from '../bench.store';
import type { Gesture } from '../state/job-history';

/** The guides and rules of the sheet: dragged to move, a rule's ends to turn it; dragged off the sheet to take away. */
@Component({
  selector: 'g[jxGuides]',
  template: `
    @for (line of lines(); track $index) {
      <svg:g data-handle="guide" class="guide" [attr.data-axis]="line.guide.axis" (pointerdown)="start($event, $index, 'whole')">
        <svg:title>{{ line.says }}; drag off the sheet to remove</svg:title>
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
  private dragging: { part: GuidePart; from: Point; guide: Guide; gesture: Gesture } | undefined;

  protected readonly ends = ['from', 'to'] as const;
  protected readonly lines = computed(() => {
    const { guides, widthPt, heightPt, unit } = this.sheet();
    return guides.map((guide) => {
      if (guide.axis === 'rule') return { guide, from: guide.from, to: guide.to, says: `Rule at ${showValue(ruleAngle(guide), 1)}°` };
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
    if (line) pressAndDrag(line, event, { move: (moved) => this.drag(moved), end: (ended) => this.end(ended) });
    this.dragging = { part, from: this.toSheet(event), guide, gesture: this.store.begin() };
  }

  private drag(event: PointerEvent): void {
    const { dragging } = this;
    if (!dragging) return;
    const { guide, part, from, gesture } = dragging;
    const moved = movedGuide(guide, part, from, this.toSheet(event));
    gesture.apply((start) => this.withGuide(start, guide, moved));
  }

  private end(event: PointerEvent): void {
    const { dragging } = this;
    if (!dragging) return;
    this.dragging = undefined;
    const { guide, part, from, gesture } = dragging;
    const moved = movedGuide(guide, part, from, this.toSheet(event));
    if (!isOnSheet(moved, this.sheet())) gesture.apply((start) => this.withGuide(start, guide));
    gesture.end();
  }

  /** The job with another guide in the place of one, or without it; unchanged where that guide is not there any more. */
  private withGuide(job: Job, guide: Guide, ...instead: Guide[]): Job {
    const { id } = this.sheet();
    const guides = job.sheets.find((sheet) => sheet.id === id)?.guides ?? [];
    const index = guides.findIndex((one) => JSON.stringify(one) === JSON.stringify(guide));
    return index < 0 ? job : withSheet(job, id, { guides: guides.toSpliced(index, 1, ...instead) });
  }

  private toSheet({ clientX, clientY }: PointerEvent): Point {
    const matrix = this.element.nativeElement.getScreenCTM()?.inverse();
    const { x, y } = new DOMPoint(clientX, clientY).matrixTransform(matrix);
    return { xPt: x, yPt: y };
  }
}
