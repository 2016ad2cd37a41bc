import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type { CollectionFont } from '@jentrix/core/api';
import { NgbActiveModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { DialogHead } from '../ui/dialog-head';

/** Asks which fonts of a collection go into the type case; closes with their numbers. */
@Component({
  selector: 'jx-collection-dialog',
  imports: [DialogHead],
  template: `
    <jx-dialog-head i18n="@@collectionDialog.holdsFonts" titleId="collection-title">{{ name() }} holds {{ fonts().length }} fonts</jx-dialog-head>
    <div class="modal-body">
      <fieldset>
        <legend i18n="@@collectionDialog.chooseTheFontsToImport" class="fs-6">Choose the fonts to import.</legend>
        @for (one of fonts(); track one.font; let first = $first) {
          <div class="form-check">
            <input
              type="checkbox"
              class="form-check-input"
              [id]="'collection-' + one.font"
              [attr.ngbAutofocus]="first ? '' : null"
              [checked]="chosen().has(one.font)"
              (change)="flip(one.font)"
            />
            <label class="form-check-label" [for]="'collection-' + one.font">{{ one.family }} {{ one.style }}</label>
          </div>
        }
      </fieldset>
    </div>
    <div class="modal-footer">
      <button i18n="@@collectionDialog.cancel" type="button" class="btn btn-link" (click)="modal.dismiss()">Cancel</button>
      <button type="button" class="btn btn-dark" data-testid="take-fonts" [disabled]="chosen().size === 0" (click)="modal.close([...chosen()])">
        {{ takes() }}
      </button>
    </div>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CollectionDialog {
  protected readonly modal = inject(NgbActiveModal);
  readonly name = signal('');
  readonly fonts = signal<readonly CollectionFont[]>([]);
  protected readonly chosen = signal<ReadonlySet<number>>(new Set());
  protected readonly takes = computed(() => (this.chosen().size > 1 ? `Import ${this.chosen().size} fonts` : 'Import 1 font'));

  protected flip(font: number): void {
    const chosen = new Set(this.chosen());
    if (!chosen.delete(font)) chosen.add(font);
    this.chosen.set(new Set([...chosen].sort((a, b) => a - b)));
  }
}
