import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { drawLine } from '@jentrix/core/drawing';
import type { SetLine } from '@jentrix/core/setting';
import { Drawing } from './drawing';

/** The letters of one line as outlines in one colour, at their places on the sheet: how the deck shows them, enlarged. */
@Component({
  selector: '[jxGlyphs]',
  imports: [Drawing],
  template: `
    <svg:g [jxDrawing]="nodes()"></svg:g>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Glyphs {
  readonly line = input.required<SetLine>({ alias: 'jxGlyphs' });
  readonly colour = input.required<string>();

  protected readonly nodes = computed(() => {
    const line = this.line();
    const frame = { xPt: line.leftPt, yPt: line.baselinePt - line.sizePt, widthPt: line.widthPt, heightPt: line.sizePt };
    return drawLine(line, { words: '', frame, colour: this.colour() });
  });
}
