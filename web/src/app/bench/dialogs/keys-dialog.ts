import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type { Preferences } from '@jentrix/core/preferences';
import { DialogHead } from '../../ui/dialog-head';
import { UserPreferences } from '../../settings/user-preferences';
import { ToastService } from '../../ui/toasts';
import { BenchStore } from '../bench.store';
import { KEY_GROUPS, keyCharacters, allKeys, shownKeys } from '../keys';
import { type KeyBinding, PASSES } from '../pass';

/** The keys of the bench, from the table that acts on them: told, switched off, and given other characters. */
@Component({
  selector: 'jx-keys-dialog',
  imports: [DialogHead],
  template: `
    <jx-dialog-head i18n="@@keysDialog.keysOfTheBench" titleId="keys-title">Keys of the bench</jx-dialog-head>
    <div class="modal-body">
      <div class="settings">
        <label>
          <input ngbAutofocus type="checkbox" [checked]="preferences().characterKeys" (change)="change({ characterKeys: !preferences().characterKeys })" />
          Use single-letter keys
        </label>
        <label>
          <input type="checkbox" [checked]="changing()" (change)="changing.set(!changing())" />
          Change keys
        </label>
        @if (changed()) {
          <button i18n="@@keysDialog.resetToDefault" type="button" class="btn btn-link btn-sm" (click)="change({ ownKeys: {} })">Reset to default</button>
        }
        <span class="wrong" role="alert">{{ problem() }}</span>
      </div>
      <p>
        <a i18n="@@keysDialog.help" [href]="'/help/' + help() + '.html'" target="_blank">Help</a>
        ·
        <a i18n="@@keysDialog.allHelpPages" href="/help/README.html" target="_blank">All help pages</a>
      </p>
      <p i18n="@@keysDialog.keysWorkWhileTheSheet" class="quiet">Keys work while the sheet has the focus. Esc in a field or on a button moves it there.</p>
      <div class="groups">
        @for (group of groups; track group.name) {
          <section>
            <h3 class="fs-6">{{ group.name }}</h3>
            <dl>
              @for (binding of group.bindings; track binding.id) {
                <div [class.off]="!preferences().characterKeys && binding.characters">
                  <dt>
                    @if (changing() && binding.characters) {
                      @for (character of charactersOf(binding); track $index) {
                        <input
                          #field
                          class="form-control form-control-sm"
                          maxlength="1"
                          [attr.aria-label]="binding.says + ', key ' + ($index + 1)"
                          [value]="character"
                          (focus)="field.select()"
                          (input)="take(binding, $index, field)"
                        />
                      }
                    } @else {
                      @for (key of shown(binding); track $index) {
                        <kbd>{{ key }}</kbd>
                      }
                    }
                  </dt>
                  <dd>{{ binding.says }}</dd>
                </div>
              }
            </dl>
          </section>
        }
      </div>
    </div>
  `,
  styles: `
    .settings {
      display: flex;
      gap: 16px;
      align-items: center;
      min-height: 26px;
      margin-bottom: 10px;
    }
    .settings label {
      display: inline-flex;
      gap: 6px;
    }
    .wrong {
      color: var(--jx-tight);
    }
    .groups {
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
    .off {
      color: var(--jx-quiet);
      text-decoration: line-through;
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
    dt input {
      display: inline-block;
      width: 32px;
      margin-right: 3px;
      text-align: center;
    }
    @media (max-width: 700px) {
      .groups {
        columns: 1;
      }
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class KeysDialog {
  private readonly service = inject(UserPreferences);
  private readonly toasts = inject(ToastService);
  private readonly keys = allKeys(inject(PASSES));
  protected readonly preferences = this.service.preferences;
  private readonly view = inject(BenchStore).current.view;
  private readonly passes = inject(PASSES);
  protected readonly help = computed(() => this.passes.find(({ id }) => id === this.view().pass)?.help ?? 'README');
  protected readonly groups = KEY_GROUPS.map((name) => ({ name, bindings: this.keys.filter(({ group }) => group === name) }));
  protected readonly changing = signal(false);
  protected readonly problem = signal('');
  protected readonly changed = computed(() => Object.keys(this.preferences().ownKeys).length > 0);

  protected charactersOf(binding: KeyBinding): readonly string[] {
    return keyCharacters(binding, this.preferences());
  }

  protected shown(binding: KeyBinding): readonly string[] {
    return shownKeys(binding, this.preferences());
  }

  protected change(change: Partial<Preferences>): void {
    this.problem.set('');
    this.service.change(change).catch(() => this.toasts.fail('The server can’t be reached: changes last until you leave the page.'));
  }

  /** Gives a key another character, unless another key has it. */
  protected take(binding: KeyBinding, index: number, field: HTMLInputElement): void {
    const character = field.value.trim().toLowerCase();
    const own = [...this.charactersOf(binding)];
    if (character === '' || character === own[index]) return;
    const taken = this.keys.find((other) => this.charactersOf(other).some((one, i) => one === character && !(other === binding && i === index)));
    const typed = !taken && this.keys.find((other) => other.matches?.(new KeyboardEvent('keydown', { key: character })));
    const other = taken ?? typed;
    if (other) {
      this.problem.set(`“${character}” is in use: ${other.says}.`);
      field.value = own[index] ?? '';
      field.select();
      return;
    }
    own[index] = character;
    this.change({ ownKeys: { ...this.preferences().ownKeys, [binding.id]: own } });
    field.select();
  }
}
