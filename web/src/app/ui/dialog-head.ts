import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { NgbActiveModal } from '@ng-bootstrap/ng-bootstrap/modal';

/** The head of a dialog: what it is called, and the way out. */
@Component({
  selector: 'jx-dialog-head',
  template: `
    <h2 class="modal-title fs-5" [id]="titleId()"><ng-content /></h2>
    <button i18n-aria-label="@@dialogHead.close" type="button" class="btn-close" aria-label="Close" (click)="modal.dismiss()"></button>
  `,
  host: { class: 'modal-header' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DialogHead {
  protected readonly modal = inject(NgbActiveModal);
  /** The id of the dialog's label. */
  readonly titleId = input.required<string>();
}
