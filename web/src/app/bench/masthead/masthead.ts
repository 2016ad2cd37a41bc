import { ChangeDetectionStrategy, Component, Injector, computed, inject } from '@angular/core';
import {
  SHEET_PRESETS,
  type SheetPreset,
  addSheet,
  createSheet,
  duplicateSheet,
  moveSheet,
  removeSheet,
  withSheet,
  retitle,
  sheetOfPreset,
} from '@jentrix/core/job';
import { NgbDropdownModule } from '@ng-bootstrap/ng-bootstrap/dropdown';
import { NgbModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { NgIcon, provideIcons } from '@ng-icons/core';
import { bootstrapArrowClockwise, bootstrapArrowCounterclockwise, bootstrapPlus, bootstrapQuestionCircle, bootstrapSliders } from '@ng-icons/bootstrap-icons';
import { CommitField } from '../../ui/commit-field.directive';
import { MenuFocus } from '../../ui/menu-focus.directive';
import { ToastService } from '../../ui/toasts';
import { SizePicture, sizeLabel } from '../../ui/size-picture';
import { SortByDrag, type Sorted } from '../../ui/sort-by-drag.directive';
import { Places } from '../../ui/places';
import { WhoIsHere } from './who-is-here';
import { BenchStore } from '../bench.store';
import { ProofState } from '../deck/proof/proof.state';
import { WordsState } from '../deck/words/words.state';
import { AWAY, openDialog } from '../dialogs/dialogs';
import { HandOver } from '../state/hand-over';
import { StepNames } from '../state/step-names';
import { SaveService, type SaveState } from '../save.service';

const SAID: Record<SaveState['kind'], string> = {
  saved: 'Saved',
  saving: 'Saving…',
  offline: 'Server can’t be reached: kept in this browser',
  refused: 'Not saved: kept in this browser',
  conflict: 'Changed elsewhere',
  gone: 'No longer on the shelf',
};

/** Where the work is, whether it is safe, back and forth, and the way out. */
@Component({
  selector: 'jx-masthead',
  imports: [CommitField, MenuFocus, NgbDropdownModule, NgIcon, Places, SizePicture, SortByDrag, WhoIsHere],
  providers: [provideIcons({ bootstrapArrowClockwise, bootstrapArrowCounterclockwise, bootstrapPlus, bootstrapQuestionCircle, bootstrapSliders })],
  templateUrl: './masthead.html',
  styleUrl: './masthead.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Masthead {
  protected readonly store = inject(BenchStore);
  protected readonly words = inject(WordsState);
  protected readonly proof = inject(ProofState);
  private readonly save = inject(SaveService);
  private readonly toasts = inject(ToastService);
  private readonly modal = inject(NgbModal);
  private readonly injector = inject(Injector);

  protected readonly presets = SHEET_PRESETS;
  protected readonly labelOf = sizeLabel;
  protected readonly history = this.store.current.history;
  protected readonly job = this.store.current.job;
  protected readonly view = this.store.current.view;
  private readonly state = this.save.saved;
  protected readonly saved = computed(() => {
    const state = this.state();
    const detail = state.kind === 'refused' || state.kind === 'offline' ? state.message : undefined;
    // A server that answers is not away.
    const text = state.kind === 'offline' && detail ? SAID.refused : SAID[state.kind];
    return { kind: state.kind, text, detail, dataGone: state.kind === 'offline' && state.code === 'data-gone' };
  });

  protected readonly others = this.save.others;
  private readonly steps = inject(StepNames).value;
  protected readonly undoes = computed(() => `Undo ${this.steps().undo}`.trim());
  protected readonly redoes = computed(() => `Redo ${this.steps().redo}`.trim());

  protected readonly handOver = inject(HandOver);

  /** The database is gone from the disk, and somebody says that it is to be written again. */
  protected writeAgain(): void {
    void this.toasts.trying(async () => {
      const { writeAgain } = await import('./write-again');
      await writeAgain(this.injector);
    }, AWAY);
  }

  protected rename(title: string): void {
    this.store.apply((job) => retitle(job, title));
  }

  /** A name was left empty. */
  protected nameless(what: 'job' | 'sheet'): void {
    this.toasts.fail(`A ${what} needs a name: the old one stays.`);
  }

  protected addSheet(preset?: SheetPreset): void {
    const { sheet, job } = this.store;
    if (!sheet || !job) return;
    const id = crypto.randomUUID();
    const like = { ...createSheet(id, `Sheet ${job.sheets.length + 1}`, sheet.widthPt, sheet.heightPt, sheet.unit), margins: sheet.margins };
    this.store.apply((now) => addSheet(now, preset ? sheetOfPreset(id, preset) : { ...like, background: sheet.background }, sheet.id));
    this.store.showSheet(id);
  }

  protected duplicateSheet(id: string): void {
    const made: string[] = [];
    this.store.apply((job) =>
      duplicateSheet(job, id, () => {
        const next = crypto.randomUUID();
        made.push(next);
        return next;
      }),
    );
    if (made[0]) this.store.showSheet(made[0]);
  }

  protected renameSheet(id: string, name: string): void {
    this.store.apply((job) => withSheet(job, id, { name }));
  }

  protected moveSheet({ from, to }: Sorted): void {
    this.store.apply((job) => moveSheet(job, from, to));
  }

  protected shiftSheet(index: number, by: 1 | -1): void {
    this.store.apply((job) => moveSheet(job, index, index + by));
  }

  protected removeSheet(id: string): void {
    this.store.apply((job) => removeSheet(job, id));
    this.toasts.say('Deleted the sheet.', { label: 'Undo', run: () => this.store.undo() });
  }

  protected keys(): void {
    void this.toasts.trying(
      () => openDialog(this.modal, 'keys', { ariaLabelledBy: 'keys-title', size: 'lg', scrollable: true, injector: this.injector }),
      AWAY,
    );
  }

  protected sizes(): void {
    void this.toasts.trying(() => openDialog(this.modal, 'sizes', { ariaLabelledBy: 'sizes-title', size: 'lg', injector: this.injector }), AWAY);
  }

  protected preferences(): void {
    void this.toasts.trying(() => openDialog(this.modal, 'preferences', { ariaLabelledBy: 'preferences-title' }), AWAY);
  }

  protected showHandOver(): void {
    void this.toasts.trying(
      () => openDialog(this.modal, 'hand over', { ariaLabelledBy: 'hand-over-title', size: 'lg', scrollable: true, injector: this.injector }),
      AWAY,
    );
  }
}
