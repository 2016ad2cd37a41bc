import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import type { Background, Sheet, Style } from '@jentrix/core/job';
import { coloursOf, contrastNeeded, contrastOver } from '@jentrix/core/advice';
import { UnitError, splitQuantity } from '@jentrix/core/units';
import { debounceTime, switchMap } from 'rxjs';
import { EngineService } from '../../../engine/engine.service';
import { pixelsOf, wholeSheet } from '../../../engine/sheet-pixels';
import { showValue } from '../../../ui/numbers';
import { Switched } from '../../../ui/switched';
import { type ValueChange, ValueField } from '../../../ui/value-field';
import { BenchStore } from '../../bench.store';
import { PlaceColour } from './place-colour';
import { ChoiceName } from '../../../ui/choice-name.pipe';

type OutlineLook = NonNullable<Style['outline']>;

/** Pixels along the longer side of what is looked at. */
const LOOKED_AT = 320;
const SWATCHES = 5;

/** The background behind the words. */
interface Ground {
  swatches: string[];
  contrast: { worst: number; mean: number } | undefined;
}

/** Colour and effects of the picked letters or the block, with the contrast against what really lies behind them. */
@Component({
  selector: 'jx-colour-panel',
  imports: [ChoiceName, PlaceColour, Switched, ValueField],
  templateUrl: './colour-panel.html',
  styleUrl: './sheet-panel.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ColourPanel {
  private readonly store = inject(BenchStore);
  private readonly engine = inject(EngineService);
  private readonly faces = this.engine.list;
  protected readonly joins: readonly OutlineLook['join'][] = ['miter', 'round', 'bevel'];
  protected readonly shadowFields: readonly { key: 'xMilliem' | 'yMilliem' | 'blurMilliem'; label: string; min: number }[] = [
    { key: 'xMilliem', label: 'Right', min: -5000 },
    { key: 'yMilliem', label: 'Down', min: -5000 },
    { key: 'blurMilliem', label: 'Blur', min: 0 },
  ];

  private known: { background: Background; swatches: Promise<string[]> } | undefined;

  protected readonly style = this.store.current.style;
  protected readonly ground = toSignal(
    this.store.setting$.pipe(
      debounceTime(80),
      switchMap(() => this.look().catch(() => undefined)),
    ),
  );
  protected readonly verdict = computed(() => {
    const contrast = this.ground()?.contrast;
    const style = this.style();
    if (!contrast || !style) return undefined;
    const weight = style.axes['wght'] ?? this.faces().items.find(({ id }) => id === style.faceId)?.weight ?? 400;
    const needed = contrastNeeded(style.sizePt, weight);
    return { worst: showValue(contrast.worst, 1), mean: showValue(contrast.mean, 1), needed: showValue(needed, 1), enough: contrast.worst >= needed };
  });

  /** Reads the colours of the sheet's ground, and the contrast of the words with all that is painted before them. */
  private async look(): Promise<Ground | undefined> {
    const { sheetSetting, view, style } = this.store;
    if (!sheetSetting || !style) return undefined;
    const { sheet, blocks } = sheetSetting;
    const at = sheet.blocks.findIndex(({ id }) => id === view.blockId);
    const block = sheet.blocks[at];
    const { ink: box, setting } = blocks.get(block?.id ?? '') ?? {};
    const frame = setting?.frame;
    const contrast = async (): Promise<Ground['contrast']> => {
      if (!block || !box || !frame) return undefined;
      const behind = sheet.blocks.slice(0, at).map(({ id }) => id);
      const part = { box, turn: { degrees: block.rotationDeg, frame } };
      const [pixels] = await pixelsOf(await this.engine.svg(sheet, behind), sheet, [part], LOOKED_AT);
      const colours = style.gradient ? [style.colour, style.gradient.to] : [style.colour];
      return pixels && contrastOver(colours, pixels.data, style.opacity);
    };
    const [found, measured] = await Promise.all([this.swatchesOf(sheet), contrast()]);
    return { swatches: found, contrast: measured };
  }

  /** The colours of a ground, looked at once: edits leave the background what it is. */
  private swatchesOf(sheet: Sheet): Promise<string[]> {
    const { background } = sheet;
    if (background.kind === 'colour') return Promise.resolve([]);
    if (this.known?.background !== background) {
      const swatches = this.engine
        .svg(sheet, [])
        .then((svg) => pixelsOf(svg, sheet, [wholeSheet(sheet)], LOOKED_AT))
        .then(([pixels]) => (pixels ? coloursOf(pixels.data, SWATCHES) : []));
      this.known = { background, swatches };
      // Tried again with the next change.
      swatches.catch(() => (this.known = undefined));
    }
    return this.known.swatches;
  }

  protected readonly parsePercent = (text: string): number => {
    const { value, unit } = splitQuantity(text);
    if (unit !== '' && unit !== '%') throw new UnitError('A percentage is needed here.');
    return value;
  };

  protected set(change: Partial<Style>, gesture?: string): void {
    this.store.applyStyle(change, gesture);
  }

  protected gradient(on: boolean): void {
    this.set({ gradient: on ? { to: '#9c92e0', angleDeg: 180 } : null });
  }

  protected turnGradient({ value, gesture }: ValueChange): void {
    const gradient = this.style()?.gradient;
    if (gradient) this.set({ gradient: { ...gradient, angleDeg: value } }, gesture);
  }

  protected outline(on: boolean): void {
    this.set({ outline: on ? { milliem: 20, colour: '#1f2528', join: 'miter' } : null });
  }

  protected setOutline(change: Partial<OutlineLook>, gesture?: string): void {
    const outline = this.style()?.outline;
    if (outline) this.set({ outline: { ...outline, ...change } }, gesture);
  }

  protected shadow(on: boolean): void {
    this.set({ shadow: on ? { xMilliem: 30, yMilliem: 30, blurMilliem: 40, colour: '#000000' } : null });
  }

  protected setShadow(key: 'xMilliem' | 'yMilliem' | 'blurMilliem', { value, gesture }: ValueChange): void {
    const shadow = this.style()?.shadow;
    if (shadow) this.set({ shadow: { ...shadow, [key]: value } }, gesture);
  }
}
