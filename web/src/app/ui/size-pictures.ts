import { ChangeDetectionStrategy, Component, model } from '@angular/core';
import { SHEET_PRESETS, type SheetPreset } from '@jentrix/core/job';
import { SizePicture, sizeLabel } from './size-picture';

/** How long the longest of a kind is shown, in CSS pixels. */
const LARGEST = 58;
const KIND_NAMES: Readonly<Record<SheetPreset['kind'], string>> = { poster: 'Posters', slides: 'Slides', social: 'Social graphics', flyer: 'Flyers and pages' };

/** Common sizes as pictures in their proportions; one or several are chosen. */
@Component({
  selector: 'jx-size-pictures',
  imports: [SizePicture],
  template: `
    @for (kind of kinds; track kind.name) {
      <section>
        <h3>{{ kind.name }}</h3>
        <div class="sizes" role="group" [attr.aria-label]="kind.name">
          @for (preset of kind.presets; track preset.name) {
            @let label = labelOf(preset);
            <button type="button" [attr.aria-pressed]="chosen().includes(preset)" (click)="toggle(preset)">
              <span class="room"><jx-size-picture [preset]="preset" [among]="kind.presets" [largest]="largest" /></span>
              <span>{{ label.name + ' ' }}</span>
              <small class="quiet">{{ label.measures }}</small>
            </button>
          }
        </div>
      </section>
    }
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: auto auto;
      gap: 8px 24px;
      justify-content: start;
    }
    h3 {
      margin: 0 0 2px;
      font-size: 12px;
      font-weight: 600;
    }
    .sizes {
      display: flex;
      flex-wrap: wrap;
      gap: 4px;
    }
    button {
      display: grid;
      justify-items: center;
      min-width: 88px;
      padding: 6px;
      border: 1px solid transparent;
      border-radius: 3px;
      background: transparent;
      color: var(--jx-ink);
      line-height: 1.3;
    }
    button:hover {
      border-color: var(--jx-rule);
    }
    button[aria-pressed='true'] {
      border-color: var(--jx-accent);
      background: color-mix(in srgb, var(--jx-accent) 8%, transparent);
    }
    .room {
      display: grid;
      place-items: end center;
      height: 60px;
      margin-bottom: 4px;
    }
    [aria-pressed='true'] jx-size-picture {
      border: 2px solid var(--jx-accent);
    }
    @media (max-width: 820px) {
      :host {
        grid-template-columns: minmax(0, 1fr);
      }
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SizePictures {
  /** In the order they were chosen. */
  readonly chosen = model.required<readonly SheetPreset[]>();

  protected readonly largest = LARGEST;
  protected readonly labelOf = sizeLabel;
  protected readonly kinds = (['poster', 'flyer', 'social', 'slides'] as const).map((kind) => ({
    name: KIND_NAMES[kind],
    presets: SHEET_PRESETS.filter((preset) => preset.kind === kind),
  }));

  protected toggle(preset: SheetPreset): void {
    this.chosen.update((chosen) => (chosen.includes(preset) ? chosen.filter((one) => one !== preset) : [...chosen, preset]));
  }
}
