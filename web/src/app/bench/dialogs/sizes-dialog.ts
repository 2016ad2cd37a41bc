import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { findBlock, type SheetPreset } from '@jentrix/core/job';
import { NgbActiveModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { EngineService } from '../../engine/engine.service';
import { DialogHead } from '../../ui/dialog-head';
import { SizePictures } from '../../ui/size-pictures';
import { ToastService } from '../../ui/toasts';
import { BenchStore } from '../bench.store';

/** The design of the sheet in other sizes: sheets that share its words and recipes. */
@Component({
  selector: 'jx-sizes-dialog',
  imports: [DialogHead, SizePictures],
  template: `
    <jx-dialog-head i18n="@@sizesDialog.addSizes" titleId="sizes-title">Add sizes</jx-dialog-head>
    <div class="modal-body">
      <p i18n="@@sizesDialog.eachSizeBecomesASheet" class="quiet">
        Each size becomes a sheet after this one. Sheets share words and recipes; face, size, spacing and position are their own.
      </p>
      <jx-size-pictures [(chosen)]="sizes" />
    </div>
    <div class="modal-footer">
      <button i18n="@@sizesDialog.cancel" type="button" class="btn btn-link" ngbAutofocus (click)="modal.dismiss()">Cancel</button>
      <button type="button" class="btn btn-dark" [disabled]="sizes().length === 0 || busy()" (click)="add()">
        {{ sizes().length < 2 ? 'Add the sheet' : 'Add ' + sizes().length + ' sheets' }}
      </button>
    </div>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SizesDialog {
  protected readonly modal = inject(NgbActiveModal);
  private readonly store = inject(BenchStore);
  private readonly engine = inject(EngineService);
  private readonly toasts = inject(ToastService);
  protected readonly sizes = signal<readonly SheetPreset[]>([]);
  protected readonly busy = signal(false);

  protected async add(): Promise<void> {
    const { job, sheet } = this.store;
    if (!job || !sheet) return;
    this.busy.set(true);
    await this.toasts.trying(async () => {
      const made = await this.engine.sizes(job, sheet.id, this.sizes());
      // Whatever was changed meanwhile stays: of the answer only the new sheets and the parts are taken.
      this.store.apply((now) => ({
        ...now,
        sheets: now.sheets.flatMap((own) => {
          if (own.id !== sheet.id) return [own];
          const blocks = own.blocks.map((block) => ({ ...block, part: findBlock(made.job, block.id)?.part ?? block.part }));
          return [{ ...own, blocks }, ...made.job.sheets.filter(({ id }) => made.sheetIds.includes(id))];
        }),
      }));
      const [first] = made.sheetIds;
      if (first !== undefined) this.store.showSheet(first);
      this.modal.close();
    }, 'The sheets could not be made.');
    this.busy.set(false);
  }
}
