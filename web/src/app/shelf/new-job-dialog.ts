import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { SHEET_PRESETS, type SheetPreset, STARTER_WORDS } from '@jentrix/core/job';
import { NgbActiveModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { DialogHead } from '../ui/dialog-head';
import { SizePictures } from '../ui/size-pictures';

/** The start of a new job. */
export interface NewJob {
  words: string;
  /** The first is the one to work on; the others hold the same design. */
  sizes: readonly [SheetPreset, ...SheetPreset[]];
}

/** The size of the last new job, by name. */
const LAST = 'jentrix.new-job.size';

/** Asks what a new job is for and what it says; both have answers already. */
@Component({
  selector: 'jx-new-job-dialog',
  imports: [DialogHead, SizePictures],
  template: `
    <jx-dialog-head i18n="@@newJobDialog.newJob" titleId="new-job-title">New job</jx-dialog-head>
    <form (submit)="$event.preventDefault(); begin(words.value)">
      <div class="modal-body">
        <label i18n="@@newJobDialog.words" for="new-words">Words</label>
        <textarea
          #words
          ngbAutofocus
          id="new-words"
          class="form-control"
          rows="3"
          maxlength="2000"
          [placeholder]="starter"
          (keydown.control.enter)="begin(words.value)"
          (keydown.meta.enter)="begin(words.value)"
        ></textarea>
        <p class="what">
          Kind of work
          <span i18n="@@newJobDialog.chooseOneSizeOrSeveral" class="quiet">
            Choose one size, or several of one design. They share the words; each is fitted separately.
          </span>
        </p>
        <jx-size-pictures [(chosen)]="sizes" />
      </div>
      <div class="modal-footer">
        <span class="quiet said">{{ said() }}</span>
        <button i18n="@@newJobDialog.cancel" type="button" class="btn btn-link" (click)="modal.dismiss()">Cancel</button>
        <button i18n="@@newJobDialog.create" type="submit" class="btn btn-dark" [disabled]="sizes().length === 0">Create</button>
      </div>
    </form>
  `,
  styles: `
    textarea {
      font-size: 16px;
      margin-bottom: 12px;
    }
    .what {
      margin: 0 0 6px;
    }
    .what .quiet {
      margin-left: 8px;
    }
    .said {
      margin-right: auto;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class NewJobDialog {
  protected readonly modal = inject(NgbActiveModal);
  protected readonly starter = STARTER_WORDS;
  protected readonly sizes = signal<readonly SheetPreset[]>(lastOf());

  protected said(): string {
    const [first, ...more] = this.sizes();
    if (!first) return 'Choose a size.';
    return more.length === 0 ? `A sheet, ${first.name}.` : `${first.name} first, then ${more.map(({ name }) => name).join(', ')}.`;
  }

  protected begin(words: string): void {
    const [first, ...more] = this.sizes();
    if (!first) return;
    localStorage.setItem(LAST, first.name);
    this.modal.close({ words, sizes: [first, ...more] } satisfies NewJob);
  }
}

function lastOf(): SheetPreset[] {
  const name = localStorage.getItem(LAST);
  const [usual] = SHEET_PRESETS.filter((one) => one.name === 'Poster A2');
  const last = SHEET_PRESETS.find((one) => one.name === name) ?? usual;
  return last ? [last] : [];
}
