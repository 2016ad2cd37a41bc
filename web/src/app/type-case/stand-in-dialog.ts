import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import type { FaceEntry } from '@jentrix/core/api';
import { NgbActiveModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { DialogHead } from '../ui/dialog-head';

/** Asks which face stands in for one that is taken out while jobs use it. */
@Component({
  selector: 'jx-stand-in-dialog',
  imports: [DialogHead],
  template: `
    <jx-dialog-head i18n="@@standInDialog.isInUse" titleId="stand-in-title">{{ face()?.family }} {{ face()?.style }} is in use</jx-dialog-head>
    <div class="modal-body">
      <p>{{ message() }}</p>
      <label i18n="@@standInDialog.replaceItInTheseJobs" class="form-label" for="stand-in">Replace it in these jobs with</label>
      <select #choice id="stand-in" class="form-select">
        @for (other of faces(); track other.id) {
          <option [value]="other.id">{{ other.family }} {{ other.style }}</option>
        }
      </select>
    </div>
    <div class="modal-footer">
      <button i18n="@@standInDialog.keepTheFace" type="button" class="btn btn-link" (click)="modal.dismiss()">Keep the face</button>
      <button i18n="@@standInDialog.remove" type="button" class="btn btn-dark" (click)="modal.close(choice.value)">Remove</button>
    </div>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class StandInDialog {
  protected readonly modal = inject(NgbActiveModal);
  readonly face = signal<FaceEntry | undefined>(undefined);
  readonly message = signal('');
  readonly faces = signal<readonly FaceEntry[]>([]);
}
