import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { DrillLine } from '@jentrix/core/drill';

/** The letters of a line at places of theirs, in 1/1000 em from the line's beginning and its baseline. */
@Component({
  selector: '[jxDrillLetters]',
  template: `
    @for (letter of placed(); track $index) {
      <svg:path vector-effect="non-scaling-stroke" [attr.d]="letter.outline" [attr.transform]="'translate(' + letter.x + ' 0)'" />
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DrillLetters {
  readonly line = input.required<DrillLine>({ alias: 'jxDrillLetters' });
  readonly places = input.required<readonly number[]>();

  protected readonly placed = computed(() => this.line().letters.map(({ outline }, i) => ({ outline, x: this.places()[i] ?? 0 })));
}

/** How wide a board is on the page at 1280 x 800, in CSS pixels: what is written on it is as large as elsewhere. */
const BOARD_WIDTH = 764;
const SIDE = 120;

/** CSS pixels in the units of a board that shows so much width, about. */
export const pixelOf = (widest: number): number => (widest + 2 * SIDE) / BOARD_WIDTH;

/** Room around lines of letters, as an SVG view box: from above the first baseline to below the last. */
export function roomFor(lines: readonly DrillLine[], { widest, last = 0, below = 0 }: { widest: number; last?: number; below?: number }): string {
  const top = Math.max(...lines.map(({ ascender, capHeight }) => Math.max(ascender, capHeight)));
  const bottom = last + Math.max(...lines.map(({ descender }) => -descender)) + below;
  return `${-SIDE} ${-top - 40} ${widest + 2 * SIDE} ${top + bottom + 80}`;
}

/** How wide letters at places are, in 1/1000 em. */
export const widthAt = (line: DrillLine, places: readonly number[]): number => Math.max(...line.letters.map(({ advance }, i) => (places[i] ?? 0) + advance));
