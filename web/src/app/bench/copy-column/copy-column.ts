import { CdkTextareaAutosize } from '@angular/cdk/text-field';
import {
  ChangeDetectionStrategy,
  Component,
  type ElementRef,
  Injector,
  type OnDestroy,
  type OnInit,
  afterNextRender,
  computed,
  inject,
  signal,
  viewChildren,
} from '@angular/core';
import {
  type Block,
  type Job,
  findBlock,
  leavePart,
  missingFace,
  removeBlock,
  blocksOfPart,
  withBlockSettings,
  STARTER_WORDS,
  STOCK_LINES,
} from '@jentrix/core/job';
import { copyPassage, carriedSplices, editWords, PASSAGE_TYPE, STORED_PASSAGE, pastePassage, splicesBetween, type Passage } from '@jentrix/core/wording';
import { fromStored, toStored } from '@jentrix/core/stored';
import { NgbDropdownModule } from '@ng-bootstrap/ng-bootstrap/dropdown';
import { NgbModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { NgIcon, provideIcons } from '@ng-icons/core';
import { bootstrapCopy, bootstrapLock, bootstrapPlus, bootstrapSearch, bootstrapTrash, bootstrapUnlock } from '@ng-icons/bootstrap-icons';
import type { Subscription } from 'rxjs';
import { MenuFocus } from '../../ui/menu-focus.directive';
import { NotLoaded } from '../../ui/not-loaded';
import { UserPreferences } from '../../settings/user-preferences';
import { ToastService } from '../../ui/toasts';
import { BenchStore } from '../bench.store';
import type { BriefDialog } from '../dialogs/brief-dialog';
import { AWAY, openDialog } from '../dialogs/dialogs';
import { FindPanel } from './find-panel';
import { SpecLine } from './spec-line';

/** Typing that pauses this long is a step of its own for undo, in milliseconds. */
const TYPING_PAUSE_MS = 3000;
/** The browser's names for typing letters (Input Events, W3C). */
const TYPING = /^insert(Text|CompositionText|LineBreak|Paragraph)$/;
const NEW_COPY = 'New copy';
const PLACEHOLDERS: readonly string[] = [NEW_COPY, STARTER_WORDS];

/** The manuscript: every block of the sheet as its words, with its spec line. */
@Component({
  selector: 'jx-copy-column',
  imports: [CdkTextareaAutosize, FindPanel, MenuFocus, NgbDropdownModule, NgIcon, NotLoaded, SpecLine],
  providers: [provideIcons({ bootstrapCopy, bootstrapLock, bootstrapPlus, bootstrapSearch, bootstrapTrash, bootstrapUnlock })],
  templateUrl: './copy-column.html',
  styleUrl: './copy-column.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CopyColumn implements OnInit, OnDestroy {
  protected readonly store = inject(BenchStore);
  private readonly preferences = inject(UserPreferences);
  private readonly toasts = inject(ToastService);
  private readonly injector = inject(Injector);
  private readonly modal = inject(NgbModal);
  private readonly job = this.store.current.job;
  protected readonly view = this.store.current.view;
  private readonly setting = this.store.current.setting;
  /** Where style sheets can make a field as tall as its words (CSS Basic User Interface 4), nothing has to be measured. */
  protected readonly growsItself = CSS.supports('field-sizing', 'content');
  protected readonly stock = STOCK_LINES;
  protected readonly finding = signal(false);
  protected readonly blocks = computed(() => this.store.current.sheet()?.blocks ?? []);
  /** The notes on a block's setting: faces that are missing, words that are cut, small capitals that are not the face's own. */
  protected readonly notes = computed(() => {
    const set = this.setting()?.blocks;
    return new Map(
      [...(set ?? [])].map(
        ([
          blockId,
          {
            setting: { missingFaces, cut, reducedCaps },
          },
        ]) => [
          blockId,
          [
            ...missingFaces.map((face) => ({ text: `The face “${missingFace(face).family}” is missing: showing a substitute.`, wrong: true })),
            ...(cut ? [{ text: 'The frame is too small for these words. None are lost.', wrong: true }] : []),
            ...(reducedCaps ? [{ text: 'The face has no small capitals: showing reduced capitals.', wrong: false }] : []),
          ],
        ],
      ),
    );
  });
  /** How many other blocks say the same, by block. */
  protected readonly shared = computed(() => {
    const job = this.job();
    return new Map(job ? this.blocks().map((block) => [block.id, blocksOfPart(job, block).length]) : []);
  });
  private readonly fields = viewChildren<ElementRef<HTMLTextAreaElement>>('words');
  /** The words are being entered by a press of the pointer. */
  private entering = false;
  private typing = { blockId: '', kind: '', blank: false, at: 0, gesture: 0 };
  /** The words of a field as they were before the edit that is about to come. */
  private before = { blockId: '', words: '' };
  private requests: Subscription | undefined;

  ngOnInit(): void {
    this.requests = this.store.editRequests$.subscribe(({ blockId, start, end }) => this.focus(blockId, start, end));
  }

  ngOnDestroy(): void {
    this.requests?.unsubscribe();
  }

  /** Shows a written brief beside the blocks. */
  protected brief(): void {
    void this.toasts.trying(async () => {
      const dialog = await openDialog(this.modal, 'brief', { ariaLabelledBy: 'brief-title', size: 'lg', scrollable: true });
      (dialog.componentInstance as BriefDialog).store.set(this.store);
    }, AWAY);
  }

  /** Opens finding, with what is picked as the text to find. */
  find(): void {
    this.finding.set(true);
  }

  protected select(block: Block, event: FocusEvent): void {
    if (this.view().blockId !== block.id) this.store.selectBlock(block.id);
    void loadHelper();
    if (event.target instanceof HTMLTextAreaElement) this.track(block, event.target);
  }

  protected enter(field: HTMLTextAreaElement): void {
    this.entering = document.activeElement !== field;
  }

  /** Words that only hold the place are picked by the click that enters them: the first key replaces them. */
  protected point(block: Block, field: HTMLTextAreaElement): void {
    if (this.entering && PLACEHOLDERS.includes(field.value)) field.select();
    this.entering = false;
    this.track(block, field);
  }

  /** Keeps the store's selection where the field's is. */
  protected track(block: Block, field: HTMLTextAreaElement): void {
    if (document.activeElement !== field) return;
    this.store.setSelection(block.id, { start: field.selectionStart, end: field.selectionEnd }, true);
  }

  /** Leaving the words keeps what is picked, so that settings can be given to it; a mere caret goes. */
  protected leave(block: Block): void {
    const { selection } = this.view();
    this.store.setSelection(block.id, selection && selection.end > selection.start ? selection : undefined, false);
  }

  protected edit(block: Block, field: HTMLTextAreaElement, event: Event): void {
    this.typed(block.id, event);
    const after = field.value.replaceAll('\t', ' ');
    // What was dropped is selected: it ends where the edit ends.
    const { selectionEnd } = field;
    const words = this.wordsOf(block.id);
    // Fast typing is ahead of what is drawn, and what others made of the words may not be drawn yet.
    const before = this.before.blockId === block.id ? this.before.words : words;
    this.before.blockId = '';
    const splices = carriedSplices(splicesBetween(before, after, selectionEnd), before, words);
    this.store.apply((job) => editWords(job, block.id, splices), `words-${block.id}-${this.typing.gesture}`);
    if (before !== words) {
      field.value = this.wordsOf(block.id);
      const [first] = splices;
      if (first) field.setSelectionRange(first.start + first.insert.length, first.start + first.insert.length);
    }
    if (event instanceof InputEvent && event.inputType === 'insertText') void this.help(block.id, field);
    this.track(block, field);
  }

  /** Keeps the words that an edit is about to change. */
  protected keepWords(block: Block, field: HTMLTextAreaElement): void {
    this.before = { blockId: block.id, words: field.value };
  }

  /** Begins a new step of undo at the blank behind a word, where typing turns to deleting or back, and after a pause. */
  private typed(blockId: string, event: Event): void {
    const { typing } = this;
    const { inputType = '', data = '' } = event instanceof InputEvent ? event : {};
    const kind = TYPING.test(inputType) ? 'typing' : /^deleteContent(Back|For)ward$/.test(inputType) ? 'deleting' : inputType;
    const blank = kind === 'typing' && !/\S/.test(data ?? '');
    const now = performance.now();
    const isOther = kind !== 'typing' && kind !== 'deleting' && kind !== '';
    const ended = blockId !== typing.blockId || kind !== typing.kind || isOther || now - typing.at > TYPING_PAUSE_MS;
    if (ended || (blank && !typing.blank)) typing.gesture++;
    Object.assign(typing, { blockId, kind, blank, at: now });
  }

  private wordsOf(blockId: string): string {
    return findBlock(this.store.job ?? { sheets: [] }, blockId)?.words ?? '';
  }

  /** Turns right what was typed as a typewriter has it: a step of its own, so that undo restores what was typed. */
  private async help(blockId: string, field: HTMLTextAreaElement): Promise<void> {
    const typed = field.value;
    // At hand since the words were entered; what can't be had helps nobody, and holds nobody up.
    if (!helper) await loadHelper();
    if (!helper || field.value !== typed) return;
    const { job } = this.store;
    const block = job && findBlock(job, blockId);
    if (!block || !this.preferences.current.typingHelp) return;
    const { splices, caret } = helper.helpTyping(block.words, field.selectionEnd, block.language ?? job.language);
    if (splices.length === 0) return;
    this.store.apply((now) => editWords(now, blockId, splices));
    this.typing.gesture++;
    field.value = this.wordsOf(blockId);
    field.setSelectionRange(caret, caret);
  }

  /** Copies the words as plain text, and with their settings for Jentrix. */
  protected copy(block: Block, field: HTMLTextAreaElement, event: ClipboardEvent): void {
    const { selectionStart: start, selectionEnd: end } = field;
    if (start === end || !event.clipboardData) return;
    event.preventDefault();
    const now = findBlock(this.store.job ?? { sheets: [] }, block.id) ?? block;
    event.clipboardData.setData('text/plain', now.words.slice(start, end));
    event.clipboardData.setData(PASSAGE_TYPE, JSON.stringify(toStored(STORED_PASSAGE, copyPassage(now, start, end))));
    if (event.type !== 'cut') return;
    this.store.apply((job) => editWords(job, block.id, [{ start, end, insert: '' }]));
    this.focus(block.id, start, start);
  }

  /** Pastes words with their settings where they carry them, else with what they look like; plain text is left to the field. */
  protected paste(block: Block, field: HTMLTextAreaElement, event: ClipboardEvent): void {
    const { clipboardData: data } = event;
    const { selectionStart: start, selectionEnd: end } = field;
    const passage = data ? readPassage(data.getData(PASSAGE_TYPE)) : undefined;
    const html = data?.getData('text/html') ?? '';
    if (passage) {
      event.preventDefault();
      this.store.apply((job) => pastePassage(job, block.id, start, end, passage));
      const caret = start + passage.words.length;
      this.focus(block.id, caret, caret);
    } else if (HAS_LOOKS.test(html)) {
      event.preventDefault();
      void this.pasteRich(block.id, { start, end }, html, data?.getData('text/plain') ?? '');
    }
  }

  private async pasteRich(blockId: string, place: { start: number; end: number }, html: string, plain: string): Promise<void> {
    try {
      const { pasteRich } = await import('../../intake/paste-rich');
      const caret = pasteRich(html, { blockId, ...place }, this.store, this.injector);
      if (caret !== undefined) this.focus(blockId, caret, caret);
    } catch {
      // What reads it can't be loaded: the words at least are pasted.
      const insert = plain.replace(/\r\n?/g, '\n');
      this.store.apply((job) => editWords(job, blockId, [{ ...place, insert }]));
      const caret = place.start + insert.length;
      this.focus(blockId, caret, caret);
    }
  }

  /** New copy goes below the last block. @param change what else is done to it in the same step. */
  add(words = NEW_COPY, change?: (job: Job, blockId: string) => Job): void {
    const { sheet } = this.store;
    if (!sheet) return;
    const { margins } = sheet;
    const widthPt = Math.max(20, sheet.widthPt - margins.leftPt - margins.rightPt);
    const set = this.store.sheetSetting?.blocks;
    const bottoms = sheet.blocks.map(({ id, frame }) => set?.get(id)?.setting.frame ?? frame).map(({ yPt, heightPt }) => yPt + heightPt);
    const sizePt = this.store.block?.style.sizePt ?? 48;
    const yPt = Math.min(Math.max(margins.topPt, ...bottoms), Math.max(0, sheet.heightPt - margins.bottomPt - sizePt * 1.3));
    this.store.addCopy({ xPt: margins.leftPt, yPt, widthPt, heightPt: sizePt * 1.3 }, words, change);
  }

  protected leavePart(block: Block): void {
    this.store.apply((job) => leavePart(job, block.id));
  }

  protected lock(block: Block): void {
    this.store.apply((job) => withBlockSettings(job, block.id, { locked: !block.locked }));
  }

  protected duplicate(block: Block): void {
    if (this.view().blockId !== block.id) this.store.selectBlock(block.id);
    this.store.duplicatePicked();
  }

  protected remove(block: Block): void {
    this.store.apply((job) => removeBlock(job, block.id));
    this.toasts.say('Deleted the block.', { label: 'Undo', run: () => this.store.undo() });
  }

  /** Puts the caret into a block's words once they are drawn. */
  private focus(blockId: string, start: number, end: number): void {
    const go = (): boolean => {
      const field = this.fields().find(({ nativeElement }) => nativeElement.dataset['words'] === blockId)?.nativeElement;
      const words = findBlock(this.store.job ?? { sheets: [] }, blockId)?.words;
      if (!field || field.value !== words) return false;
      field.focus({ preventScroll: false });
      field.setSelectionRange(start, end);
      this.store.setSelection(blockId, { start, end }, true);
      return true;
    };
    if (!go()) afterNextRender(() => go(), { injector: this.injector });
  }
}

/** Smart punctuation, once it is loaded. */
let helper: typeof import('@jentrix/core/findings/typing') | undefined;
const loadHelper = async (): Promise<unknown> => (helper ??= await import('@jentrix/core/findings/typing').catch(() => undefined));

/** HTML with something that words could look like. */
const HAS_LOOKS = /<(b|strong|i|em|h[1-6]|font|cite)\b|font-(weight|style|size)\s*:|[\s;"']color\s*:/i;

/** A passage from the clipboard, whichever version of Jentrix put it there; undefined for anything else. */
export function readPassage(text: string): Passage | undefined {
  try {
    return fromStored(STORED_PASSAGE, JSON.parse(text));
  } catch {
    return undefined;
  }
}
