import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { SetLine } from '@jentrix/core/setting';
import { EngineService } from '../engine/engine.service';
import { instanceKey } from '../engine/protocol';

interface DrawnGlyph {
  /** Offset in the words; -1 for list marks and ellipses, which are not among them. */
  at: number;
  data: string;
  transform: string;
}

/**
 * The letters of one line as outlines, at their places on the sheet: used on the table and, enlarged, in the deck.
 * Coordinates are points; whoever holds this scales it.
 */
@Component({
  selector: '[jxGlyphs]',
  template: `
    @for (run of runs(); track $index) {
      <svg:g [attr.fill]="colour() ?? run.colour">
        @for (glyph of run.glyphs; track $index) {
          <svg:path [attr.d]="glyph.data" [attr.transform]="glyph.transform" [attr.data-at]="glyph.at" />
        }
      </svg:g>
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Glyphs {
  private readonly engine = inject(EngineService);
  readonly line = input.required<SetLine>({ alias: 'jxGlyphs' });
  /** Draws all letters in this colour instead of their own. */
  readonly colour = input<string>();

  protected readonly runs = computed(() => {
    const { runs, mark } = this.line();
    return (mark ? [mark, ...runs] : runs).map(({ start, end, style, scale, glyphs }) => {
      const outlines = this.engine.drawing(instanceKey(style))?.outlines;
      const drawn: DrawnGlyph[] = [];
      for (const { glyphId, cluster, xPt, yPt } of glyphs) {
        const data = outlines?.get(glyphId);
        if (data) drawn.push({ at: start === end ? -1 : cluster, data, transform: `translate(${xPt} ${yPt}) scale(${scale})` });
      }
      return { colour: style.colour, glyphs: drawn };
    });
  });
}
