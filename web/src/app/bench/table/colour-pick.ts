import { ChangeDetectionStrategy, Component, effect, inject, input, signal } from '@angular/core';
import type { Sheet } from '@jentrix/core/job';
import { hexOf } from '@jentrix/core/advice';
import { EngineService } from '../../engine/engine.service';
import { pixelsOf, wholeSheet } from '../../engine/sheet-pixels';
import { BenchStore } from '../bench.store';
import { type TableView, onSheet } from './sheet-view';

/** Pixels along the longer side of the sheet that colours are taken from. */
const DETAIL = 2000;

/** Lies over the table while a colour is picked from the sheet: tells the colour under the pointer, and a click takes it. */
@Component({
  selector: 'jx-colour-pick',
  template: `
    @if (under(); as under) {
      <div class="told" [style.left.px]="under.x" [style.top.px]="under.y" aria-live="polite">
        <svg viewBox="0 0 20 20" aria-hidden="true"><rect width="20" height="20" [attr.fill]="under.colour" /></svg>
        {{ under.colour }}
      </div>
    } @else {
      <p class="hint">{{ pixels() ? hint : waiting }}</p>
    }
  `,
  styles: `
    :host {
      position: absolute;
      inset: 0;
      cursor: crosshair;
    }
    .told,
    .hint {
      position: absolute;
      pointer-events: none;
      display: flex;
      align-items: center;
      gap: 6px;
      padding: 3px 8px;
      border-radius: 3px;
      background: var(--jx-ink);
      color: var(--jx-sheet);
      font-size: 12px;
      white-space: nowrap;
    }
    .told {
      translate: 14px -34px;
    }
    .hint {
      left: 12px;
      top: 12px;
    }
    svg {
      width: 18px;
      height: 18px;
      border: 1px solid var(--jx-sheet);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(pointermove)': 'move($event)', '(pointerleave)': 'under.set(undefined)', '(click)': 'take($event)' },
})
export class ColourPick {
  private readonly store = inject(BenchStore);
  private readonly engine = inject(EngineService);
  readonly sheet = input.required<Sheet>();
  readonly view = input.required<TableView>();
  protected readonly pixels = signal<ImageData | undefined>(undefined);
  protected readonly under = signal<{ x: number; y: number; colour: string } | undefined>(undefined);
  protected readonly hint = 'Click a colour on the sheet. Esc cancels.';
  protected readonly waiting = 'Reading the sheet …';

  constructor() {
    effect((onCleanup) => {
      const sheet = this.sheet();
      let current = true;
      onCleanup(() => (current = false));
      const ids = sheet.blocks.map(({ id }) => id);
      this.engine
        .svg(this.store.resolvedSheet ?? sheet, ids)
        .then((svg) => pixelsOf(svg, sheet, [wholeSheet(sheet)], DETAIL))
        .then(([pixels]) => current && this.pixels.set(pixels))
        .catch(() => this.store.pickColour(undefined));
    });
  }

  protected move({ offsetX, offsetY }: PointerEvent): void {
    const colour = this.colourAt(offsetX, offsetY);
    this.under.set(colour === undefined ? undefined : { x: offsetX, y: offsetY, colour });
  }

  protected take({ offsetX, offsetY }: MouseEvent): void {
    const colour = this.colourAt(offsetX, offsetY);
    if (colour === undefined) this.store.pickColour(undefined);
    else this.store.takeColour(colour);
  }

  /** The colour of the sheet at a point of the table; none beside the sheet. */
  private colourAt(x: number, y: number): string | undefined {
    const pixels = this.pixels();
    const { widthPt, heightPt } = this.sheet();
    const { xPt, yPt } = onSheet(this.view(), [x, y]);
    if (!pixels || xPt < 0 || yPt < 0 || xPt >= widthPt || yPt >= heightPt) return undefined;
    const at = 4 * (Math.floor((yPt / heightPt) * pixels.height) * pixels.width + Math.floor((xPt / widthPt) * pixels.width));
    return hexOf(pixels.data[at] ?? 0, pixels.data[at + 1] ?? 0, pixels.data[at + 2] ?? 0);
  }
}
