import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { ALIGNMENTS, BREAKINGS, type Block, type Breaking, RAG_SHAPES, withBlockSettings } from '@jentrix/core/job';
import { editWords } from '@jentrix/core/wording';
import { canDivide, divisions, withoutDivisions } from '@jentrix/core/hyphenation';
import { parseLength } from '@jentrix/core/units';
import { showValue } from '../../../ui/numbers';
import { PercentField } from '../../../ui/percent-field';
import { ValueField } from '../../../ui/value-field';
import { BenchStore } from '../../bench.store';
import { ChoiceName } from '../../../ui/choice-name.pipe';

/** How the ends of the block's lines are found, and how justified ones are filled. */
@Component({
  selector: 'jx-breaks-panel',
  imports: [ChoiceName, PercentField, ValueField],
  template: `
    @if (block(); as block) {
      <label class="row">
        <span i18n="@@breaksPanel.lineBreaks">Line breaks</span>
        <select
          class="form-select form-select-sm"
          [disabled]="block.locked"
          (change)="change({ breaking: { way: $any($event.target).value, shape: block.breaking.shape } })"
        >
          @for (way of ways; track way) {
            <option [value]="way" [selected]="block.breaking.way === way">{{ names[way] }}</option>
          }
        </select>
      </label>
      @if (block.breaking.way === 'even') {
        <div class="row">
          <span i18n="@@breaksPanel.shape">Shape</span>
          <div i18n-aria-label="@@breaksPanel.shape" class="choice" role="group" aria-label="Shape">
            @for (shape of shapes; track shape) {
              <button type="button" [attr.aria-pressed]="block.breaking.shape === shape" (click)="change({ breaking: { way: 'even', shape } })">
                {{ shape | choiceName }}
              </button>
            }
          </div>
        </div>
      }
      <label class="row">
        <span i18n="@@breaksPanel.align">Align</span>
        <select class="form-select form-select-sm" [disabled]="block.locked" (change)="change({ align: $any($event.target).value })">
          @for (align of alignments; track align) {
            <option [value]="align" [selected]="block.align === align">{{ align | choiceName }}</option>
          }
        </select>
      </label>
      @if (block.align === 'justified') {
        <jx-value
          i18n-label="@@breaksPanel.letterSpaceRange"
          label="Letter space range"
          unit="/1000 em"
          [value]="block.justify.lettersMilliem"
          [min]="0"
          [max]="200"
          [fine]="2"
          [print]="print"
          [parse]="parse"
          (changed)="change({ justify: { lettersMilliem: $event.value, width: block.justify.width, last: block.justify.last } }, $event.gesture)"
        />
        <jx-percent
          i18n-label="@@breaksPanel.letterWidthRange"
          label="Letter width range"
          [share]="block.justify.width"
          [most]="0.02"
          [fine]="0.0025"
          (changed)="change({ justify: { lettersMilliem: block.justify.lettersMilliem, width: $event.value, last: block.justify.last } }, $event.gesture)"
        />
        <label class="on">
          <input
            type="checkbox"
            [checked]="block.justify.last === 'full'"
            (change)="
              change({
                justify: { lettersMilliem: block.justify.lettersMilliem, width: block.justify.width, last: block.justify.last === 'full' ? 'natural' : 'full' },
              })
            "
          />
          Justify last line
        </label>
      }
      @if (divided()) {
        <button i18n="@@breaksPanel.donTHyphenate" type="button" class="btn btn-link btn-sm" [disabled]="block.locked" (click)="undivide()">
          Don’t hyphenate
        </button>
      } @else if (mayDivide()) {
        <button
          i18n="@@breaksPanel.hyphenate"
          i18n-title="@@breaksPanel.addsHyphenationPointsByThe"
          type="button"
          class="btn btn-link btn-sm"
          title="Adds hyphenation points by the patterns of the language"
          [disabled]="block.locked"
          (click)="divide()"
        >
          Hyphenate
        </button>
      }
      @if (ties() > 0) {
        <p i18n="@@breaksPanel.ofWordsKeptTogether" class="quiet">{{ ties() }} {{ ties() === 1 ? 'pair' : 'pairs' }} of words kept together.</p>
      }
    }
  `,
  styles: `
    :host {
      display: block;
    }
    .row {
      display: flex;
      align-items: center;
      justify-content: space-between;
      gap: 8px;
      min-height: 30px;
    }
    .row select {
      width: 124px;
    }
    .choice button {
      padding: 0 5px;
      font-size: 12px;
    }
    .on {
      display: flex;
      gap: 6px;
      align-items: center;
      min-height: 26px;
    }
    p {
      margin: 6px 0 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BreaksPanel {
  private readonly store = inject(BenchStore);
  protected readonly block = this.store.current.block;
  protected readonly ways = BREAKINGS;
  protected readonly names: Readonly<Record<Breaking['way'], string>> = { greedy: 'Fill', even: 'Balanced', total: 'Even spaces' };
  protected readonly shapes = RAG_SHAPES;
  protected readonly alignments = ALIGNMENTS;
  protected readonly print = (value: number): string => showValue(value, 2);
  protected readonly parse = (text: string): number => parseLength(text);
  protected readonly ties = computed(() => this.block()?.words.match(/\u00a0/g)?.length ?? 0);

  protected readonly divided = computed(() => this.block()?.words.includes('\u00ad') ?? false);
  private readonly language = computed(() => this.block()?.language ?? this.store.job?.language ?? null);
  protected readonly mayDivide = computed(() => canDivide(this.language()));

  protected async divide(): Promise<void> {
    const block = this.block();
    if (!block || block.locked) return;
    const splices = await divisions(block.words, this.language());
    // The words may have changed meanwhile.
    if (this.block()?.words === block.words) this.store.apply((job) => editWords(job, block.id, splices));
  }

  protected undivide(): void {
    const block = this.block();
    if (block && !block.locked) this.store.apply((job) => editWords(job, block.id, withoutDivisions(block.words)));
  }

  protected change(change: Partial<Pick<Block, 'breaking' | 'justify' | 'align'>>, gesture?: string): void {
    const block = this.block();
    if (block && !block.locked) this.store.apply((job) => withBlockSettings(job, block.id, change), gesture);
  }
}
