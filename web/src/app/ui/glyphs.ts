import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { NgTemplateOutlet } from '@angular/common';
import { paintOf } from '@jentrix/core/formats';
import type { Frame } from '@jentrix/core/job';
import type { SetLine } from '@jentrix/core/setting';
import { EngineService } from '../engine/engine.service';
import { instanceKey } from '../engine/protocol';

interface DrawnGlyph {
  /** Offset in the words; -1 for list marks and ellipses, which are not among them. */
  at: number;
  data: string;
  transform: string | null;
}

let lines = 0;

/**
 * The letters of one line as outlines, at their places on the sheet: used on the table, with all their paint, and, enlarged and in one
 * colour, in the deck. Coordinates are points; whoever holds this scales it.
 */
@Component({
  selector: '[jxGlyphs]',
  imports: [NgTemplateOutlet],
  template: `
    @for (run of runs(); track $index) {
      @if (run.paint.gradient; as line) {
        <svg:linearGradient [attr.id]="line.id" gradientUnits="userSpaceOnUse" [attr.x1]="line.x1" [attr.y1]="line.y1" [attr.x2]="line.x2" [attr.y2]="line.y2">
          <svg:stop [attr.stop-color]="line.from" />
          <svg:stop offset="1" [attr.stop-color]="line.to" />
        </svg:linearGradient>
      }
      <svg:g [attr.opacity]="run.paint.opacity < 1 ? run.paint.opacity : null">
        @if (run.paint.shadow; as shadow) {
          <svg:filter [attr.id]="shadow.id" x="-1" y="-1" width="3" height="3"><svg:feGaussianBlur [attr.stdDeviation]="shadow.deviationPt" /></svg:filter>
          <svg:g
            [attr.transform]="'translate(' + shadow.xPt + ' ' + shadow.yPt + ')'"
            [attr.fill]="shadow.colour"
            [attr.stroke]="run.paint.stroke ? shadow.colour : null"
            [attr.stroke-linejoin]="run.paint.stroke?.join"
            [attr.filter]="shadow.deviationPt > 0 ? 'url(#' + shadow.id + ')' : null"
          >
            @for (glyph of run.glyphs; track $index) {
              <svg:path [attr.d]="glyph.data" [attr.transform]="glyph.transform" [attr.stroke-width]="run.paint.stroke?.widthPt" />
            }
            <ng-container *ngTemplateOutlet="rules; context: { $implicit: run.rules }" />
          </svg:g>
        }
        <svg:g [attr.fill]="run.paint.fill" [attr.stroke]="run.paint.stroke?.colour" [attr.stroke-linejoin]="run.paint.stroke?.join">
          @for (glyph of run.glyphs; track $index) {
            <svg:path [attr.d]="glyph.data" [attr.transform]="glyph.transform" [attr.data-at]="glyph.at" [attr.stroke-width]="run.paint.stroke?.widthPt" />
          }
          <ng-container *ngTemplateOutlet="rules; context: { $implicit: run.rules }" />
        </svg:g>
      </svg:g>
    }
    <ng-template #rules let-list>
      @for (rule of list; track $index) {
        <svg:rect [attr.x]="rule.xPt" [attr.y]="rule.yPt" [attr.width]="rule.widthPt" [attr.height]="rule.heightPt" stroke="none" />
      }
    </ng-template>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Glyphs {
  private readonly engine = inject(EngineService);
  readonly line = input.required<SetLine>({ alias: 'jxGlyphs' });
  /** Draws all letters in this colour instead of with their own paint. */
  readonly colour = input<string>();
  /** The block's frame, which gradients run over. */
  readonly frame = input<Frame>();
  private readonly id = `line-${++lines}`;

  protected readonly runs = computed(() => {
    const { runs, mark, leftPt, widthPt, baselinePt, sizePt } = this.line();
    const colour = this.colour();
    const frame = this.frame() ?? { xPt: leftPt, yPt: baselinePt - sizePt, widthPt, heightPt: sizePt };
    return (mark ? [mark, ...runs] : runs).map(({ start, end, style, scale, xScale, glyphs, rules }, i) => {
      const outlines = this.engine.drawing(instanceKey(style))?.outlines;
      const inPoints = colour === undefined && (style.gradient !== null || style.outline !== null);
      const drawn: DrawnGlyph[] = [];
      for (const { glyphId, cluster, xPt, yPt } of glyphs) {
        const data = outlines?.get(glyphId);
        if (!data) continue;
        const at = start === end ? -1 : cluster;
        // Gradients and edges are in points: such letters are written in the sheet's own coordinates.
        if (inPoints) drawn.push({ at, data: moved(data, xPt, yPt, xScale, scale), transform: null });
        else drawn.push({ at, data, transform: `translate(${xPt} ${yPt}) scale(${xScale} ${scale})` });
      }
      const paint = colour === undefined ? paintOf(style, frame, `${this.id}-${i}`) : { fill: colour, opacity: 1 };
      return { paint, glyphs: drawn, rules };
    });
  });
}

/** Path data scaled and moved. */
function moved(data: string, x: number, y: number, xScale: number, yScale: number): string {
  return data.replace(
    /(-?[\d.]+),(-?[\d.]+)/g,
    (_, px: string, py: string) => `${(x + Number(px) * xScale).toFixed(3)},${(y + Number(py) * yScale).toFixed(3)}`,
  );
}
