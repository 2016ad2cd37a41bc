import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { NgbActiveModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { KEYS } from '../keys';

/** The keys of the bench, from the table that acts on them. */
@Component({
  selector: 'jx-keys-dialog',
  template: `
    <div class="modal-header">
      <h2 class="modal-title fs-5" id="keys-title" i18n>Keys of the bench</h2>
      <button type="button" class="btn-close" aria-label="Close" i18n-aria-label (click)="modal.close()"></button>
    </div>
    <div class="modal-body">
      @for (group of groups; track group.name) {
        <section>
          <h3 class="fs-6">{{ group.name }}</h3>
          <dl>
            @for (binding of group.bindings; track $index) {
              <div>
                <dt>
                  @for (key of binding.shown; track $index) {
                    <kbd>{{ key }}</kbd>
                  }
                </dt>
                <dd>{{ binding.says }}</dd>
              </div>
            }
          </dl>
        </section>
      }
    </div>
  `,
  styles: `
    .modal-body {
      columns: 2;
      column-gap: 32px;
    }
    section {
      break-inside: avoid;
    }
    dl div {
      display: grid;
      grid-template-columns: 104px 1fr;
      padding: 3px 0;
    }
    dt {
      font-weight: 400;
    }
    dd {
      margin: 0;
    }
    kbd {
      margin-right: 3px;
      display: inline-block;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class KeysDialog {
  protected readonly modal = inject(NgbActiveModal);
  protected readonly groups = [...new Set(KEYS.map(({ group }) => group))].map((name) => ({ name, bindings: KEYS.filter(({ group }) => group === name) }));
}
