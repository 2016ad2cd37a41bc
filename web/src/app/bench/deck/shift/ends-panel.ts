import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { type Ends, endsSchema, withBlockSettings } from '@jentrix/core/job';
import { PercentField } from '../../../ui/percent-field';
import { BenchStore } from '../../bench.store';
import { ChoiceName } from '../../../ui/choice-name.pipe';

const NEW: Ends = { of: 'words', which: 'both', ratio: 1.25, align: 'foot' };

/** Larger first and last letters of the block, as one setting. */
@Component({
  selector: 'jx-ends-panel',
  imports: [ChoiceName, PercentField],
  template: `
    <label class="on">
      <input type="checkbox" [checked]="ends() !== null" (change)="set(ends() ? null : fresh)" />
      End letters
    </label>
    @if (ends(); as ends) {
      <jx-percent
        i18n-label="@@endsPanel.size"
        label="Size"
        [share]="ends.ratio"
        [least]="0.2"
        [most]="5"
        [fine]="0.01"
        (changed)="set({ ...ends, ratio: $event.value }, $event.gesture)"
      />
      <div class="row">
        <span i18n="@@endsPanel.endsOf">Ends of</span>
        <div i18n-aria-label="@@endsPanel.endsOf" class="choice" role="group" aria-label="Ends of">
          @for (of of ofs; track of) {
            <button type="button" [attr.aria-pressed]="ends.of === of" (click)="set({ ...ends, of })">{{ of | choiceName }}</button>
          }
        </div>
      </div>
      <div class="row">
        <div i18n-aria-label="@@endsPanel.whichLetters" class="choice" role="group" aria-label="Which letters">
          @for (which of whiches; track which) {
            <button type="button" [attr.aria-pressed]="ends.which === which" (click)="set({ ...ends, which })">{{ which | choiceName }}</button>
          }
        </div>
      </div>
      <div class="row">
        <span i18n="@@endsPanel.align">Align</span>
        <div i18n-aria-label="@@endsPanel.align" class="choice" role="group" aria-label="Align">
          @for (align of aligns; track align) {
            <button type="button" [attr.aria-pressed]="ends.align === align" (click)="set({ ...ends, align })">{{ align | choiceName }}</button>
          }
        </div>
      </div>
      <p i18n="@@endsPanel.gapsBesideThemAreKerned" class="quiet">Gaps beside them are kerned by shape.</p>
    } @else {
      <p i18n="@@endsPanel.setsTheFirstAndLast" class="quiet">Sets the first and last letters of words or lines in another size.</p>
    }
  `,
  styles: `
    :host {
      display: block;
    }
    .on {
      display: flex;
      gap: 6px;
      align-items: center;
      min-height: 28px;
    }
    .row {
      display: flex;
      align-items: center;
      justify-content: space-between;
      min-height: 30px;
    }
    p {
      margin: 6px 0 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class EndsPanel {
  private readonly store = inject(BenchStore);
  protected readonly ends = computed(() => this.store.current.block()?.ends ?? null);
  protected readonly fresh = NEW;
  protected readonly ofs = endsSchema.shape.of.options;
  protected readonly whiches = endsSchema.shape.which.options;
  protected readonly aligns = endsSchema.shape.align.options;

  protected set(ends: Ends | null, gesture?: string): void {
    const { block } = this.store;
    if (block) this.store.apply((job) => withBlockSettings(job, block.id, { ends }), gesture);
  }
}
