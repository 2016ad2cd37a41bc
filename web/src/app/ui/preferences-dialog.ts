import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import type { Preferences } from '@jentrix/core/preferences';
import { UnitError, parseMilliem } from '@jentrix/core/units';
import { NgbActiveModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { PreferencesService } from './preferences.service';
import { ToastService } from './toasts';
import { ValueField } from './value-field';

interface Field {
  key: keyof Preferences;
  label: string;
  unit: string;
  min?: number;
  max: number;
}

/** What a person sets for themselves. Takes effect with every change. */
@Component({
  selector: 'jx-preferences-dialog',
  imports: [ValueField],
  template: `
    <div class="modal-header">
      <h2 class="modal-title fs-5" id="preferences-title" i18n>Preferences</h2>
      <button type="button" class="btn-close" aria-label="Close" i18n-aria-label (click)="modal.close()"></button>
    </div>
    <div class="modal-body">
      @for (group of groups; track group.title) {
        <h3 class="fs-6">{{ group.title }}</h3>
        @for (field of group.fields; track field.key) {
          <jx-value
            [label]="field.label"
            [unit]="field.unit"
            [value]="preferences()[field.key]"
            [fine]="field.unit === 'pt' ? 0.5 : 1"
            [coarse]="5"
            [min]="field.min ?? 0.1"
            [max]="field.max"
            [parse]="parse"
            (changed)="set(field.key, $event.value)"
          />
        }
      }
    </div>
    <div class="modal-footer"><button type="button" class="btn btn-dark" (click)="modal.close()" i18n>Done</button></div>
  `,
  styles: `
    jx-value {
      grid-template-columns: 1fr 80px 70px;
      margin-bottom: 4px;
    }
    h3:not(:first-child) {
      margin-top: 16px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PreferencesDialog {
  protected readonly modal = inject(NgbActiveModal);
  private readonly service = inject(PreferencesService);
  private readonly toasts = inject(ToastService);
  protected readonly preferences = toSignal(this.service.preferences$, { requireSync: true });

  protected readonly groups: readonly { title: string; fields: readonly Field[] }[] = [
    {
      title: $localize`Steps of kerning, tracking and word space`,
      fields: [
        { key: 'fineMilliem', label: $localize`fine step (arrow keys)`, unit: '1/1000 em', max: 200 },
        { key: 'coarseMilliem', label: $localize`coarse step (with Shift)`, unit: '1/1000 em', max: 500 },
      ],
    },
    {
      title: $localize`Limits of tightening`,
      fields: [
        { key: 'cautionMilliem', label: $localize`unseen down to`, unit: '1/1000 em', min: -500, max: 0 },
        { key: 'strongMilliem', label: $localize`it shows below`, unit: '1/1000 em', min: -500, max: 0 },
        { key: 'outMilliem', label: $localize`wrong below`, unit: '1/1000 em', min: -500, max: 0 },
      ],
    },
    {
      title: $localize`Steps of leading`,
      fields: [
        { key: 'fineLeadingPt', label: $localize`fine step`, unit: 'pt', max: 50 },
        { key: 'coarseLeadingPt', label: $localize`coarse step (with Shift)`, unit: 'pt', max: 200 },
      ],
    },
  ];

  protected readonly parse = (text: string): number => {
    if (!/^[-−+\d.,\s]+$/.test(text)) throw new UnitError('A plain number is needed here.');
    return parseMilliem(text, 1);
  };

  protected set(key: keyof Preferences, value: number): void {
    this.service.change({ [key]: value }).catch(() => this.toasts.fail($localize`The server can’t be reached: this holds until you leave the page.`));
  }
}
