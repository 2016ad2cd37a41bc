import { ChangeDetectionStrategy, Component, afterRenderEffect, computed, inject, viewChild } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { type Style, setHand, setStyle } from '@jentrix/core/job';
import { parseMilliem, printSigned, printValue } from '@jentrix/core/units';
import { PreferencesService } from '../../../ui/preferences.service';
import { type ValueChange, ValueField } from '../../../ui/value-field';
import { BenchStore } from '../../bench.store';
import { GapRibbon } from './gap-ribbon';
import { PairGlyphs } from './pair-glyphs';

/** The Kerning pass: the gap ribbon, and the ledger of the gap the caret stands in. */
@Component({
  selector: 'jx-kerning-deck',
  imports: [GapRibbon, PairGlyphs, ValueField],
  templateUrl: './kerning-deck.html',
  styleUrl: './kerning-deck.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class KerningDeck {
  protected readonly store = inject(BenchStore);
  protected readonly preferences = toSignal(inject(PreferencesService).preferences$, { requireSync: true });
  private readonly setting = toSignal(this.store.setting$);
  private readonly view = toSignal(this.store.view$, { requireSync: true });
  private readonly job = toSignal(this.store.job$);
  private readonly handField = viewChild(ValueField);
  private waiting = '';

  constructor() {
    afterRenderEffect(() => {
      const field = this.handField();
      if (!field || !this.waiting) return;
      field.focus(this.waiting);
      this.waiting = '';
    });
  }

  protected readonly signed = printSigned;
  protected readonly value = printValue;
  protected readonly block = computed(() => {
    this.job();
    this.view();
    return this.store.block;
  });
  protected readonly gapLine = computed(() => (this.view().gap ? this.setting()?.gapLine : undefined));
  protected readonly line = computed(() => {
    const gapLine = this.gapLine();
    return gapLine && this.setting()?.settings.get(gapLine.block.id)?.lines[gapLine.lineIndex];
  });
  protected readonly lineCount = computed(() => this.setting()?.settings.get(this.view().blockId ?? '')?.lines.length ?? 0);
  protected readonly ledger = computed(() => this.gapLine()?.ledgers.find(({ at }) => at === this.view().gap?.at));
  /** The hand values of the current block, in reading order. */
  protected readonly handMade = computed(() => {
    const block = this.block();
    return (block?.hand ?? []).map(({ at, milliem }) => ({ at, milliem, pair: pairAt(block?.words ?? '', at) }));
  });
  protected readonly pair = computed(() => {
    const ledger = this.ledger();
    const words = this.block()?.words ?? '';
    return ledger ? `${words.slice(ledger.left.start, ledger.left.end)} ${words.slice(ledger.right.start, ledger.right.end)}` : '';
  });
  protected readonly parseHand = computed(() => {
    const sizePt = this.ledger()?.sizePt ?? 12;
    return (text: string): number => parseMilliem(text, sizePt);
  });

  /** Puts the caret into the hand field, with a character typed elsewhere; what comes before there is a field waits for it. */
  typeHand(character: string): void {
    const field = this.handField();
    if (field) field.focus(character);
    else this.waiting += character;
  }

  protected setHand({ value, gesture }: ValueChange): void {
    const { gap } = this.store.view;
    if (gap) this.store.apply((job) => setHand(job, gap.blockId, gap.at, value), gesture);
  }

  protected startFrom(kerning: Style['kerning']): void {
    const block = this.block();
    if (block) this.store.apply((job) => setStyle(job, block.id, { kerning }));
  }

  protected clearAll(): void {
    const block = this.block();
    if (block) this.store.apply((job) => block.hand.reduce((next, { at }) => setHand(next, block.id, at, 0), job));
  }
}

const segmenter = new Intl.Segmenter('und', { granularity: 'grapheme' });

function pairAt(words: string, at: number): string {
  const segments = segmenter.segment(words);
  return [segments.containing(at - 1)?.segment, segments.containing(at)?.segment].map((letter) => (letter === ' ' ? '␣' : (letter ?? ''))).join(' ');
}
