import { ChangeDetectionStrategy, Component, ElementRef, inject, input } from '@angular/core';
import { type Sheet, setSheet } from '@jentrix/core/job';
import { fromPoints } from '@jentrix/core/units';
import { BenchStore } from '../bench.store';
import { showValue } from '../../ui/numbers';

let gestures = 0;

/** The guides of the sheet: dragged to move, dragged off the sheet to take away. */
@Component({
  selector: 'g[jxGuides]',
  template: `
    @for (guide of sheet().guides; track $index) {
      <svg:g
        data-handle="guide"
        class="guide"
        [class.x]="guide.axis === 'x'"
        (pointerdown)="start($event, $index)"
        (pointermove)="drag($event)"
        (pointerup)="end($event)"
        (pointercancel)="end($event)"
      >
        <svg:title>Guide at {{ place(guide.atPt) }}; drag off the sheet to take it away</svg:title>
        <svg:line
          class="reach"
          [attr.x1]="from(guide.axis, guide.atPt).x"
          [attr.y1]="from(guide.axis, guide.atPt).y"
          [attr.x2]="to(guide.axis, guide.atPt).x"
          [attr.y2]="to(guide.axis, guide.atPt).y"
        />
        <svg:line
          [attr.x1]="from(guide.axis, guide.atPt).x"
          [attr.y1]="from(guide.axis, guide.atPt).y"
          [attr.x2]="to(guide.axis, guide.atPt).x"
          [attr.y2]="to(guide.axis, guide.atPt).y"
        />
      </svg:g>
    }
  `,
  styles: `
    .guide {
      cursor: ns-resize;
    }
    .x {
      cursor: ew-resize;
    }
    line {
      stroke: #2aa3a3;
      vector-effect: non-scaling-stroke;
    }
    .reach {
      stroke: transparent;
      stroke-width: 9px;
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
  private dragging: { index: number; gesture: string } | undefined;

  protected from(axis: 'x' | 'y', at: number): { x: number; y: number } {
    return axis === 'x' ? { x: at, y: 0 } : { x: 0, y: at };
  }

  protected to(axis: 'x' | 'y', at: number): { x: number; y: number } {
    return axis === 'x' ? { x: at, y: this.sheet().heightPt } : { x: this.sheet().widthPt, y: at };
  }

  protected place(pt: number): string {
    const { unit } = this.sheet();
    return `${showValue(fromPoints(pt, unit), 1)} ${unit}`;
  }

  protected start(event: PointerEvent, index: number): void {
    if (event.button !== 0) return;
    event.stopPropagation();
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    this.dragging = { index, gesture: `guide-${++gestures}` };
  }

  protected drag(event: PointerEvent): void {
    const { dragging } = this;
    if (!dragging) return;
    const sheet = this.sheet();
    const matrix = this.element.nativeElement.getScreenCTM()?.inverse();
    const { x, y } = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix);
    const guides = sheet.guides.map((guide, i) => (i === dragging.index ? { ...guide, atPt: Math.round((guide.axis === 'x' ? x : y) * 10) / 10 } : guide));
    this.store.apply((job) => setSheet(job, sheet.id, { guides }), dragging.gesture);
  }

  protected end(event: PointerEvent): void {
    const { dragging } = this;
    if (!dragging) return;
    (event.currentTarget as Element).releasePointerCapture(event.pointerId);
    this.dragging = undefined;
    const sheet = this.sheet();
    const inside = sheet.guides.filter(({ axis, atPt }) => atPt >= 0 && atPt <= (axis === 'x' ? sheet.widthPt : sheet.heightPt));
    if (inside.length < sheet.guides.length) this.store.apply((job) => setSheet(job, sheet.id, { guides: inside }), dragging.gesture);
    this.store.endGesture();
  }
}
