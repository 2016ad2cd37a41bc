import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { gradientLine } from '@jentrix/core/formats';
import type { Sheet, Style } from '@jentrix/core/job';
import type { Box } from '@jentrix/core/setting';
import { coloursOf, contrastNeeded, contrastOver } from '@jentrix/core/spacing';
import { UnitError, splitQuantity } from '@jentrix/core/units';
import { debounceTime, map, switchMap } from 'rxjs';
import { type ValueChange, ValueField } from '../../../ui/value-field';
import { BenchStore } from '../../bench.store';
import { showValue } from '../../../ui/numbers';

type Shadow = NonNullable<Style['shadow']>;
type Outline = NonNullable<Style['outline']>;

/** Pixels across the sheet when its ground is looked at. */
const LOOKED_AT = 360;
const SWATCHES = 6;

/** What is known of the sheet behind the words. */
interface Ground {
  swatches: string[];
  contrast: { worst: number; mean: number } | undefined;
}

/** Colour and effects of the picked letters or the block, with the contrast against what really lies behind them. */
@Component({
  selector: 'jx-colour-panel',
  imports: [ValueField],
  templateUrl: './colour-panel.html',
  styleUrl: './sheet-panel.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ColourPanel {
  private readonly store = inject(BenchStore);
  protected readonly joins: readonly Outline['join'][] = ['miter', 'round', 'bevel'];
  protected readonly print = showValue;

  protected readonly style = this.store.current.style;
  protected readonly ground = toSignal(
    this.store.setting$.pipe(
      debounceTime(60),
      map((setting) => ({ sheet: setting?.sheet, ink: setting?.inks.get(this.store.view.blockId ?? ''), colour: this.store.style?.colour ?? '#000000' })),
      switchMap(({ sheet, ink, colour }) => (sheet ? lookAt(sheet, ink, colour).catch(() => undefined) : Promise.resolve(undefined))),
    ),
  );
  protected readonly verdict = computed(() => {
    const contrast = this.ground()?.contrast;
    const style = this.style();
    if (!contrast || !style) return undefined;
    const needed = contrastNeeded(style.sizePt, /bold|black|heavy/i.test(style.faceId));
    return { worst: showValue(contrast.worst, 1), mean: showValue(contrast.mean, 1), needed, enough: contrast.worst >= needed };
  });

  protected readonly parsePercent = (text: string): number => {
    const { value, unit } = splitQuantity(text);
    if (unit !== '' && unit !== '%') throw new UnitError('A percentage is needed here.');
    return value;
  };

  protected set(change: Partial<Style>, gesture?: string): void {
    this.store.applyStyle(change, gesture);
  }

  protected colour(colour: string): void {
    this.set({ colour }, 'colour');
  }

  protected gradient(on: boolean): void {
    this.set({ gradient: on ? { to: '#9c92e0', angleDeg: 180 } : null });
  }

  protected setGradient(change: { to?: string; angleDeg?: number }, gesture = 'gradient'): void {
    const gradient = this.style()?.gradient;
    if (gradient) this.set({ gradient: { ...gradient, ...change } }, gesture);
  }

  protected outline(on: boolean): void {
    this.set({ outline: on ? { milliem: 20, colour: '#1f2528', join: 'miter' } : null });
  }

  protected setOutline(change: Partial<Outline>, gesture = 'outline'): void {
    const outline = this.style()?.outline;
    if (outline) this.set({ outline: { ...outline, ...change } }, gesture);
  }

  protected shadow(on: boolean): void {
    this.set({ shadow: on ? { xMilliem: 30, yMilliem: 30, blurMilliem: 40, colour: '#000000' } : null });
  }

  protected setShadow(change: Partial<Shadow>, gesture = 'shadow'): void {
    const shadow = this.style()?.shadow;
    if (shadow) this.set({ shadow: { ...shadow, ...change } }, gesture);
  }

  protected number(key: 'xMilliem' | 'yMilliem' | 'blurMilliem', { value, gesture }: ValueChange): void {
    this.setShadow({ [key]: value }, gesture);
  }

  protected endGesture(): void {
    this.store.endGesture();
  }
}

/** Draws the ground of a sheet small, and reads its colours and the contrast of a colour where some ink stands. */
async function lookAt(sheet: Sheet, ink: Box | undefined, colour: string): Promise<Ground> {
  const scale = LOOKED_AT / Math.max(sheet.widthPt, sheet.heightPt);
  const [width, height] = [Math.max(1, Math.round(sheet.widthPt * scale)), Math.max(1, Math.round(sheet.heightPt * scale))];
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d', { willReadFrequently: true });
  if (!context) return { swatches: [], contrast: undefined };
  const { background } = sheet;
  context.fillStyle = background.kind === 'gradient' ? background.from : background.colour;
  if (background.kind === 'gradient') {
    const { x1, y1, x2, y2 } = gradientLine(width, height, background.angleDeg);
    const gradient = context.createLinearGradient(x1, y1, x2, y2);
    gradient.addColorStop(0, background.from);
    gradient.addColorStop(1, background.to);
    context.fillStyle = gradient;
  }
  context.fillRect(0, 0, width, height);
  if (background.kind === 'picture') {
    const image = new Image();
    image.src = `/api/pictures/${background.pictureId}`;
    await image.decode();
    const fit = background.fit === 'cover' ? Math.max : Math.min;
    const by = fit(width / image.naturalWidth, height / image.naturalHeight);
    const [w, h] = [image.naturalWidth * by, image.naturalHeight * by];
    context.drawImage(image, (width - w) / 2, (height - h) / 2, w, h);
  }
  const swatches = background.kind === 'colour' ? [] : coloursOf(context.getImageData(0, 0, width, height).data, SWATCHES);
  if (!ink) return { swatches, contrast: undefined };
  const left = Math.max(0, Math.floor(ink.leftPt * scale));
  const top = Math.max(0, Math.floor(ink.topPt * scale));
  const right = Math.min(width, Math.ceil(ink.rightPt * scale));
  const bottom = Math.min(height, Math.ceil(ink.bottomPt * scale));
  if (right <= left || bottom <= top) return { swatches, contrast: undefined };
  return { swatches, contrast: contrastOver(colour, context.getImageData(left, top, right - left, bottom - top).data) };
}
