import { CdkTextareaAutosize } from '@angular/cdk/text-field';
import { ChangeDetectionStrategy, Component, type ElementRef, Injector, afterNextRender, computed, inject, viewChildren } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { type Block, addBlock, createBlock, editWords, findBlock, removeBlock, splicesBetween } from '@jentrix/core/job';
import { NgIcon, provideIcons } from '@ng-icons/core';
import { bootstrapPlus, bootstrapTrash } from '@ng-icons/bootstrap-icons';
import { ToastService } from '../../ui/toasts';
import { BenchStore } from '../bench.store';
import { SpecLine } from './spec-line';

/** Typing that pauses this long is a step of its own for undo, in milliseconds. */
const TYPING_PAUSE_MS = 900;

/** The manuscript: every block of the sheet as its words, with its spec line. */
@Component({
  selector: 'jx-copy-column',
  imports: [CdkTextareaAutosize, NgIcon, SpecLine],
  providers: [provideIcons({ bootstrapPlus, bootstrapTrash })],
  templateUrl: './copy-column.html',
  styleUrl: './copy-column.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CopyColumn {
  protected readonly store = inject(BenchStore);
  private readonly toasts = inject(ToastService);
  private readonly injector = inject(Injector);
  private readonly job = toSignal(this.store.job$);
  protected readonly view = toSignal(this.store.view$, { requireSync: true });
  private readonly setting = toSignal(this.store.setting$);
  protected readonly blocks = computed(() => {
    this.job();
    this.view();
    return this.store.sheet?.blocks ?? [];
  });
  protected readonly missing = computed(() => {
    const settings = this.setting()?.settings;
    return new Map([...(settings?.values() ?? [])].map(({ blockId, missingFaces }) => [blockId, missingFaces]));
  });
  private readonly fields = viewChildren<ElementRef<HTMLTextAreaElement>>('words');
  private typing = { blockId: '', at: 0, gesture: 0 };

  protected select(block: Block): void {
    if (this.view().blockId !== block.id) this.store.selectBlock(block.id);
  }

  protected edit(block: Block, field: HTMLTextAreaElement): void {
    const now = performance.now();
    const { typing } = this;
    if (typing.blockId !== block.id || now - typing.at > TYPING_PAUSE_MS) typing.gesture++;
    typing.blockId = block.id;
    typing.at = now;
    const after = field.value.replaceAll('\t', ' ');
    const { selectionStart } = field;
    // Compared with the words as they are now: fast typing is ahead of what is drawn.
    this.store.apply(
      (job) => editWords(job, block.id, splicesBetween(findBlock(job, block.id)?.words ?? '', after, selectionStart)),
      `words-${block.id}-${typing.gesture}`,
    );
  }

  /** New copy goes below the last block, in the settings of the block that is worked on. */
  protected add(): void {
    const { sheet } = this.store;
    if (!sheet) return;
    const model = this.store.block ?? sheet.blocks[sheet.blocks.length - 1];
    const { margins } = sheet;
    const widthPt = Math.max(20, sheet.widthPt - margins.leftPt - margins.rightPt);
    const bottom = Math.max(margins.topPt, ...sheet.blocks.map(({ frame }) => frame.yPt + frame.heightPt));
    const sizePt = model?.style.sizePt ?? 48;
    const yPt = Math.min(bottom, Math.max(0, sheet.heightPt - margins.bottomPt - sizePt * 1.3));
    const id = crypto.randomUUID();
    const block: Block = {
      ...createBlock(id, 'New copy', { xPt: margins.leftPt, yPt, widthPt, heightPt: sizePt * 1.3 }, model?.style),
      align: model?.align ?? 'left',
      leading: model?.leading ?? { kind: 'auto' },
    };
    this.store.apply((job) => addBlock(job, sheet.id, block));
    this.store.selectBlock(id);
    afterNextRender(
      () => {
        const field = this.fields().at(-1)?.nativeElement;
        field?.focus();
        field?.select();
      },
      { injector: this.injector },
    );
  }

  protected remove(block: Block): void {
    this.store.apply((job) => removeBlock(job, block.id));
    this.toasts.say('Took the block off the sheet.', { label: 'Undo', run: () => this.store.undo() });
  }
}
