import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { KEY_GROUPS, keysOf } from '../keys';
import { PASSES } from '../pass';
import { DialogHead } from '../../ui/dialog-head';

/** The keys of the bench, from the table that acts on them. */
@Component({
  selector: 'jx-keys-dialog',
  imports: [DialogHead],
  template: `
    <jx-dialog-head titleId="keys-title">Keys of the bench</jx-dialog-head>
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
  private readonly keys = keysOf(inject(PASSES));
  protected readonly groups = KEY_GROUPS.map((name) => ({ name, bindings: this.keys.filter(({ group }) => group === name) }));
}
