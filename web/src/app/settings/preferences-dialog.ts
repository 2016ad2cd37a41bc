import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { NUMBER_LANGUAGES, type Preferences, THEMES, readPreferences, writePreferences } from '@jentrix/core/preferences';
import { LEAST_DECISIONS, decisionsOf, tasteLines } from '@jentrix/core/taste';
import { LENGTH_UNITS, UnitError, parseMilliem } from '@jentrix/core/units';
import { NgbActiveModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { decimalSign } from '../ui/numbers';
import { UserPreferences } from './user-preferences';
import { download, pickedFile } from '../ui/files';
import { ToastService } from '../ui/toasts';
import { ValueField } from '../ui/value-field';
import { ChoiceName } from '../ui/choice-name.pipe';
import { DialogHead } from '../ui/dialog-head';

/** The preferences that are numbers. */
type NumberKey = { [K in keyof Preferences]: Preferences[K] extends number ? K : never }[keyof Preferences];

interface Field {
  key: NumberKey;
  label: string;
  unit: string;
  min?: number;
  max: number;
  /** A share is shown in percent. */
  shownTimes?: number;
}

/** A person's preferences. Takes effect with every change. */
@Component({
  selector: 'jx-preferences-dialog',
  imports: [ChoiceName, DialogHead, ValueField],
  template: `
    <jx-dialog-head i18n="@@preferencesDialog.preferences" titleId="preferences-title">Preferences</jx-dialog-head>
    <div class="modal-body">
      <h3 i18n="@@preferencesDialog.page" class="fs-6">Page</h3>
      <div class="pick">
        <span i18n="@@preferencesDialog.theme">Theme</span>
        <div i18n-aria-label="@@preferencesDialog.theme" class="choice" role="group" aria-label="Theme">
          @for (theme of themes; track theme) {
            <button type="button" [attr.ngbAutofocus]="$first ? '' : null" [attr.aria-pressed]="preferences().theme === theme" (click)="change({ theme })">
              {{ theme | choiceName }}
            </button>
          }
        </div>
      </div>
      <div class="pick">
        <span i18n="@@preferencesDialog.unitOfNewJobs">Unit of new jobs</span>
        <div i18n-aria-label="@@preferencesDialog.unitOfNewJobs" class="choice" role="group" aria-label="Unit of new jobs">
          @for (unit of units; track unit) {
            <button type="button" [attr.aria-pressed]="preferences().unit === unit" (click)="change({ unit })">{{ unit }}</button>
          }
        </div>
      </div>
      <div class="pick">
        <label i18n="@@preferencesDialog.numberFormat" for="numbers">Number format</label>
        <select #numbers id="numbers" class="form-select form-select-sm" (change)="change({ numbers: languages[numbers.selectedIndex]?.id ?? 'en' })">
          @for (language of languages; track language.id) {
            <option [value]="language.id" [selected]="language.id === preferences().numbers">{{ language.name }}</option>
          }
        </select>
      </div>
      <div class="pick">
        <span
          i18n="@@preferencesDialog.smartPunctuation"
          i18n-title="@@preferencesDialog.correctsQuotesDoubleSpacesDashes"
          title="Corrects quotes, double spaces, dashes and ellipses as you type. Pasted text is left; findings report it."
        >
          Smart punctuation
        </span>
        <div i18n-aria-label="@@preferencesDialog.smartPunctuationLabel" class="choice" role="group" aria-label="Smart punctuation">
          @for (on of [true, false]; track on) {
            <button type="button" [attr.aria-pressed]="preferences().typingHelp === on" (click)="change({ typingHelp: on })">{{ on ? 'On' : 'Off' }}</button>
          }
        </div>
      </div>
      <div class="pick">
        <span i18n="@@preferencesDialog.hints" i18n-title="@@preferencesDialog.shortTipsEachShownOnce" title="Short tips, each shown once">Hints</span>
        <div i18n-aria-label="@@preferencesDialog.hints" class="choice" role="group" aria-label="Hints">
          @for (on of [true, false]; track on) {
            <button type="button" [attr.aria-pressed]="preferences().hints === on" (click)="change({ hints: on, hintsSeen: [] })">
              {{ on ? 'On' : 'Off' }}
            </button>
          }
        </div>
      </div>
      <h3 i18n="@@preferencesDialog.yourTaste" class="fs-6">Your taste</h3>
      <div class="pick">
        <span
          i18n="@@preferencesDialog.adjustProposals"
          i18n-title="@@preferencesDialog.learnedFromProposalsYouApply"
          title="Learned from proposals you apply, change or ignore, by kind of pair. Exported with the preferences."
        >
          Adjust proposals
        </span>
        <div i18n-aria-label="@@preferencesDialog.adjustProposalsToMyTaste" class="choice" role="group" aria-label="Adjust proposals to my taste">
          @for (on of [true, false]; track on) {
            <button type="button" [attr.aria-pressed]="preferences().taste.on === on" (click)="change({ taste: { on, kinds: preferences().taste.kinds } })">
              {{ on ? 'On' : 'Off' }}
            </button>
          }
        </div>
      </div>
      <p class="quiet small" data-testid="hand">{{ handNote() }}</p>
      @if (hand().length > 0) {
        <ul class="hand">
          @for (line of hand(); track line.kind) {
            <li>
              <span>{{ line.kind }}</span>
              <span class="quiet">{{ line.decisions }}</span>
              <b>{{ line.says }}</b>
            </li>
          }
        </ul>
        <button
          i18n="@@preferencesDialog.reset"
          type="button"
          class="btn btn-link btn-sm"
          (click)="change({ taste: { on: preferences().taste.on, kinds: {} } })"
        >
          Reset
        </button>
      }
      @for (group of groups; track group.title) {
        <h3 class="fs-6">{{ group.title }}</h3>
        @for (field of group.fields; track field.key) {
          <jx-value
            [label]="field.label"
            [unit]="field.unit"
            [value]="preferences()[field.key] * (field.shownTimes ?? 1)"
            [fine]="field.unit === 'pt' ? 0.5 : 1"
            [coarse]="5"
            [min]="(field.min ?? 0.1) * (field.shownTimes ?? 1)"
            [max]="field.max * (field.shownTimes ?? 1)"
            [parse]="parse"
            (changed)="set(field, $event.value)"
          />
        }
      }
    </div>
    <div class="modal-footer">
      <button i18n="@@preferencesDialog.export" type="button" class="btn btn-link" (click)="handOver()">Export</button>
      <button i18n="@@preferencesDialog.import" type="button" class="btn btn-link me-auto" (click)="file.click()">Import</button>
      <input #file type="file" hidden accept=".json,application/json" data-testid="preferences-file" (change)="bringIn(file)" />
      <button i18n="@@preferencesDialog.done" type="button" class="btn btn-dark" (click)="modal.close()">Done</button>
    </div>
  `,
  styles: `
    jx-value {
      grid-template-columns: 1fr 80px 70px;
      margin-bottom: 4px;
    }
    select {
      width: auto;
    }
    .pick {
      display: flex;
      justify-content: space-between;
      align-items: center;
      margin-bottom: 4px;
    }
    .hand {
      margin: 0;
      padding: 0;
      list-style: none;
    }
    .hand li {
      display: grid;
      grid-template-columns: 1fr 40px 110px;
      border-top: 1px dotted var(--jx-rule);
      padding: 2px 0;
      text-align: right;
    }
    .hand li span:first-child {
      text-align: left;
    }
    h3:not(:first-child) {
      margin-top: 16px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PreferencesDialog {
  protected readonly modal = inject(NgbActiveModal);
  private readonly service = inject(UserPreferences);
  private readonly toasts = inject(ToastService);
  protected readonly preferences = this.service.preferences;

  protected readonly groups: readonly { title: string; fields: readonly Field[] }[] = [
    {
      title: 'Steps of kerning, tracking and word space',
      fields: [
        { key: 'fineMilliem', label: 'Fine step (arrow keys)', unit: '1/1000 em', max: 200 },
        { key: 'coarseMilliem', label: 'Coarse step (with ⇧)', unit: '1/1000 em', max: 500 },
      ],
    },
    {
      title: 'Limits of tightening',
      fields: [
        { key: 'cautionMilliem', label: 'Invisible down to', unit: '1/1000 em', min: -500, max: 0 },
        { key: 'strongMilliem', label: 'Visible below', unit: '1/1000 em', min: -500, max: 0 },
        { key: 'outMilliem', label: 'Too tight below', unit: '1/1000 em', min: -500, max: 0 },
      ],
    },
    {
      title: 'Steps of leading',
      fields: [
        { key: 'fineLeadingPt', label: 'Fine step', unit: 'pt', max: 50 },
        { key: 'coarseLeadingPt', label: 'Coarse step (with ⇧)', unit: 'pt', max: 200 },
      ],
    },
    {
      title: 'Automatic leading',
      fields: [{ key: 'autoLeadingFactor', label: '× size, for the next “auto”', unit: '%', shownTimes: 100, min: 0.5, max: 3 }],
    },
  ];

  protected readonly parse = (text: string): number => {
    if (!/^[-−+\d.,\s]+%?$/.test(text)) throw new UnitError('A plain number is needed here.');
    return parseMilliem(text.replace('%', ''), 1);
  };

  /** The measured hand of the person, kind by kind. */
  protected readonly hand = computed(() =>
    tasteLines(this.preferences().taste).map(({ kind, decisions, percent }) => ({
      kind,
      decisions,
      says: percent === 0 ? 'As proposed' : `${Math.abs(percent)} % ${percent > 0 ? 'more' : 'less'}`,
    })),
  );
  protected readonly handNote = computed(() => {
    const count = decisionsOf(this.preferences().taste);
    if (count === 0) return `Nothing learned yet: it starts after ${LEAST_DECISIONS} proposals applied, changed or ignored.`;
    return count < LEAST_DECISIONS ? `${count} decisions; it starts at ${LEAST_DECISIONS}.` : `${count} decisions. Compared with proposals:`;
  });

  protected readonly themes = THEMES;
  protected readonly units = LENGTH_UNITS;
  /** Each language by its own name, with a number as it writes it. */
  protected readonly languages = NUMBER_LANGUAGES.map((id) => {
    const name = new Intl.DisplayNames(id, { type: 'language' }).of(id) ?? id;
    return { id, name: `${name} · 0${decimalSign(id)}5` };
  });

  protected set({ key, shownTimes = 1 }: Field, value: number): void {
    this.change({ [key]: Math.round((value / shownTimes) * 1e6) / 1e6 });
  }

  protected change(change: Partial<Preferences>): void {
    this.service.change(change).catch(() => this.toasts.fail('The server can’t be reached: changes last until you leave the page.'));
  }

  /** Gives the preferences as a file. */
  protected handOver(): void {
    const url = URL.createObjectURL(new Blob([writePreferences(this.preferences())], { type: 'application/json' }));
    download(url, 'jentrix-preferences.json');
    URL.revokeObjectURL(url);
  }

  protected async bringIn(field: HTMLInputElement): Promise<void> {
    const file = pickedFile(field);
    if (file) await this.toasts.trying(async () => this.change(readPreferences(await file.text())), 'The file can’t be read.');
  }
}
