import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { NgbActiveModal, type NgbModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { DialogHead } from './dialog-head';

/** Asks for a yes, or for a name. */
@Component({
  selector: 'jx-ask-dialog',
  imports: [DialogHead],
  template: `
    <jx-dialog-head titleId="ask-title">{{ title() }}</jx-dialog-head>
    <form (submit)="$event.preventDefault(); modal.close(field.value)">
      <div class="modal-body">
        @for (line of lines(); track line) {
          <p>{{ line }}</p>
        }
        <input
          i18n-aria-label="@@askDialog.name"
          #field
          class="form-control"
          [attr.ngbAutofocus]="asksName() ? '' : null"
          [hidden]="!asksName()"
          maxlength="80"
          aria-label="Name"
          [value]="name()"
        />
      </div>
      <div class="modal-footer">
        <button i18n="@@askDialog.cancel" type="button" class="btn btn-link" (click)="modal.dismiss()">Cancel</button>
        <button type="submit" class="btn btn-dark" [attr.ngbAutofocus]="asksName() ? null : ''">{{ yes() }}</button>
      </div>
    </form>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AskDialog {
  protected readonly modal = inject(NgbActiveModal);
  readonly title = signal('');
  readonly lines = signal<readonly string[]>([]);
  readonly asksName = signal(false);
  readonly name = signal('');
  readonly yes = signal('');
}

/** Opens the dialog. @returns the name (empty where none was asked for), or undefined for no. */
export async function ask(modal: NgbModal, what: { title: string; lines?: readonly string[]; name?: string; yes: string }): Promise<string | undefined> {
  const dialog = modal.open(AskDialog, { ariaLabelledBy: 'ask-title' });
  const component = dialog.componentInstance as AskDialog;
  component.title.set(what.title);
  component.lines.set(what.lines ?? []);
  component.asksName.set(what.name !== undefined);
  component.name.set(what.name ?? '');
  component.yes.set(what.yes);
  return (dialog.result as Promise<string>).catch(() => undefined);
}
