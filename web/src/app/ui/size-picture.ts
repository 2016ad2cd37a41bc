import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { SHEET_PRESETS, type SheetPreset } from '@jentrix/core/job';
import { toPoints } from '@jentrix/core/units';

const longPt = ({ width, height, unit }: SheetPreset): number => toPoints(Math.max(width, height), unit);

/** The label of a size: its name, and its measures, which are not said twice where they are part of the name. */
export function sizeLabel({ name, width, height, unit }: SheetPreset): { name: string; measures: string } {
  const measures = `${width} × ${height} ${unit}`;
  return { name: name.replace(measures, '').trim(), measures };
}

/** A sheet in its proportions; of several the larger ones are larger, by the root, so that the small ones can still be told apart. */
@Component({
  selector: 'jx-size-picture',
  template: '',
  host: { '[style.width.px]': 'box().width', '[style.height.px]': 'box().height' },
  styles: `
    :host {
      display: block;
      border: 1px solid var(--jx-edge);
      background: #ffffff;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SizePicture {
  readonly preset = input.required<SheetPreset>();
  /** The sizes it is shown beside. */
  readonly among = input<readonly SheetPreset[]>(SHEET_PRESETS);
  /** How long the longest of them is shown, in CSS pixels. */
  readonly largest = input.required<number>();

  protected readonly box = computed(() => {
    const preset = this.preset();
    const long = this.largest() * Math.sqrt(longPt(preset) / Math.max(...this.among().map(longPt)));
    const by = long / Math.max(preset.width, preset.height);
    return { width: Math.round(preset.width * by), height: Math.round(preset.height * by) };
  });
}
