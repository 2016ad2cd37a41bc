import { ChangeDetectionStrategy, Component, afterRenderEffect, computed, inject, signal, viewChildren } from '@angular/core';
import { Router } from '@angular/router';
import {
  type PairRule,
  type PairScope,
  type Style,
  clearHand,
  countPair,
  handOf,
  pairAt,
  removePairRule,
  ruleAt,
  withHand,
  withPairRule,
  restyle,
} from '@jentrix/core/job';
import { LEAST_WORD_LETTERS, MOST_WORD_LETTERS } from '@jentrix/core/drill/kept';
import type { GapLedger } from '@jentrix/core/setting';
import { UnitError, parseMilliem, splitQuantity } from '@jentrix/core/units';
import { amountOf } from '@jentrix/core/taste';
import { UserPreferences } from '../../../settings/user-preferences';
import { type ValueChange, ValueField } from '../../../ui/value-field';
import { BenchStore } from '../../bench.store';
import { PlaceService } from '../../state/place';
import { KerningState } from './kerning.state';
import { FindingsList } from '../findings-list';
import { GapRibbon } from './gap-ribbon';
import { PairGlyphs } from './pair-glyphs';
import { SOURCE_CHOICES, SourceRows, startFrom } from './source-rows';
import { showSigned, showValue } from '../../../ui/numbers';
import { ChoiceName } from '../../../ui/choice-name.pipe';

/** The Kerning pass: the gap ribbon, the ledger of the gap the caret stands in, and what is to be fixed. */
@Component({
  selector: 'jx-kerning-deck',
  imports: [ChoiceName, FindingsList, GapRibbon, PairGlyphs, SourceRows, ValueField],
  templateUrl: './kerning-deck.html',
  styleUrl: './kerning-deck.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class KerningDeck {
  protected readonly store = inject(BenchStore);
  protected readonly preferences = inject(UserPreferences).preferences;
  private readonly setting = this.store.current.setting;
  private readonly found = this.store.current.findings;
  private readonly view = this.store.current.view;
  private readonly job = this.store.current.job;
  private readonly fields = viewChildren(ValueField);
  protected readonly kerning = inject(KerningState);
  private readonly router = inject(Router);
  protected readonly place = inject(PlaceService);
  private readonly own = this.kerning.view;

  protected practise(queryParams: { words: string; face: string }): void {
    void this.router.navigate(['/drill'], { queryParams });
  }

  constructor() {
    // What was typed elsewhere goes into the hand field as soon as that is there.
    afterRenderEffect(() => {
      const field = this.handField();
      const { typed } = this.own();
      if (!field || !typed) return;
      field.focus(typed);
      this.kerning.taken();
    });
  }

  protected readonly sources = SOURCE_CHOICES;
  protected readonly signed = showSigned;
  protected readonly value = showValue;
  protected readonly listed = signal<'findings' | 'hand'>('findings');
  protected readonly ribbon = computed(() => this.own().ribbon);
  protected readonly guide = computed(() => this.own().guide);
  protected readonly block = this.store.current.block;
  protected readonly gapLine = computed(() => (this.view().gap ? this.setting()?.gapLine : undefined));
  protected readonly line = computed(() => this.gapLine()?.line);
  protected readonly ledger = computed(() => this.gapLine()?.ledgers.find(({ at }) => at === this.view().gap?.at));
  protected readonly evenness = computed(() => {
    const inspection = this.found().inspections.get(this.block()?.id ?? '');
    if (inspection?.evenness === undefined || inspection.evennessProposed === undefined) return undefined;
    const [now, proposed] = [inspection.evenness, inspection.evennessProposed].map((score) => score.toFixed(0));
    // Only what makes it better is an offer.
    return { now, proposed: inspection.evennessProposed > inspection.evenness && proposed !== now ? proposed : undefined };
  });
  /** The line of the gap, or the first of the block, as words to train the eye on. */
  protected readonly practised = computed(() => {
    const [block, line] = [this.block(), this.line()];
    const words = block && (line ? block.words.slice(line.start, line.visibleEnd) : block.words.split('\n')[0])?.trim();
    const letters = words?.replace(/\s/gu, '').length ?? 0;
    return block && words !== undefined && letters >= LEAST_WORD_LETTERS && letters <= MOST_WORD_LETTERS ? { words, face: block.style.faceId } : undefined;
  });
  /** The hand values of the current block, in reading order. */
  protected readonly handMade = computed(() => {
    const block = this.block();
    if (!block) return [];
    return block.hand.map(({ at, milliem }) => {
      const pair = pairAt(block, at);
      return { at, milliem, pair: pair ? `${pair.left} ${pair.right}` : block.words.slice(at - 1, at + 1).replaceAll(' ', '␣') };
    });
  });
  protected readonly rules = computed(() => this.job()?.pairs ?? []);
  protected readonly pair = computed(() => {
    const ledger = this.ledger();
    const words = this.block()?.words ?? '';
    return ledger ? `${words.slice(ledger.left.start, ledger.left.end)} ${words.slice(ledger.right.start, ledger.right.end)}` : '';
  });
  protected readonly pairText = computed(() => this.pair().replace(' ', ''));
  protected readonly shapes = computed(() => {
    const { left, right } = this.ledger()?.shapes ?? {};
    return [left, right].map((kind) => kind ?? 'blank').join(' | ');
  });
  /** Says where the designer's own hand is in it. */
  protected readonly byOwnHand = computed(() => {
    const { pair } = this.ledger() ?? {};
    return amountOf(this.preferences().taste, pair) === 1 ? '' : ', your hand';
  });
  protected readonly weighedSays = computed(
    () =>
      `Combines the font’s kerning and the shapes, each weighted by how reliable it is. A gap keeps the font’s value unless it is far from the target${this.byOwnHand()}.`,
  );
  protected readonly distance = computed(() => {
    const distance = this.ledger()?.distancePt;
    if (distance === undefined) return '–';
    return distance <= 0 ? 'touching' : `${showValue(distance)} pt`;
  });
  protected readonly caption = computed(() => captionOf(this.ledger(), this.pairText(), this.guide() !== undefined));
  /** The rule that gives the gap its value, while the gap has none of its own. */
  protected readonly rule = computed(() => {
    const job = this.job();
    const { gap } = this.view();
    const own = gap && this.block()?.hand.some(({ at }) => at === gap.at);
    return job && gap && !own ? ruleAt(job, gap.blockId, gap.at) : undefined;
  });
  /** Where the gap's hand value can be given to every such pair, and how many there are. */
  protected readonly scopes = computed(() => {
    const job = this.job();
    const block = this.block();
    const { gap, sheetId } = this.view();
    const pair = block && gap && pairAt(block, gap.at);
    if (!job || !pair) return [];
    const scopes: PairScope[] = [{ kind: 'block', id: block.id }, { kind: 'sheet', id: sheetId }, { kind: 'job' }];
    return scopes.map((scope) => ({ kind: scope.kind, scope, count: countPair(job, pair, scope) }));
  });
  protected readonly parseHand = computed(() => {
    const sizePt = this.ledger()?.sizePt ?? 12;
    return (text: string): number => parseMilliem(text, sizePt);
  });
  protected readonly parsePercent = (text: string): number => {
    const { value, unit } = splitQuantity(text);
    if (unit !== '' && unit !== '%') throw new UnitError('A percentage is needed here.');
    return value;
  };
  private readonly handField = computed(() => this.fields().find((field) => field.label() !== 'strength'));

  protected setHand({ value, gesture }: ValueChange): void {
    const { gap } = this.store.view;
    if (gap) this.store.apply((job) => withHand(job, gap.blockId, gap.at, value), gesture);
  }

  protected setStrength({ value, gesture }: ValueChange): void {
    const block = this.block();
    if (block) this.store.apply((job) => restyle(job, block.id, { kerningStrength: value / 100 }), gesture);
  }

  protected startFrom(kerning: Style['kerning']): void {
    startFrom(this.store, kerning);
  }

  /** The hand value of this gap becomes that of every such pair in a block, the sheet or the job. */
  protected applyToAll(scope: PairScope): void {
    const { gap } = this.store.view;
    this.store.apply((job) => {
      const block = this.store.block;
      const pair = block && gap && pairAt(block, gap.at);
      return pair ? withPairRule(job, pair, handOf(job, gap.blockId, gap.at), scope) : job;
    });
    this.listed.set('hand');
  }

  protected removeRule(rule: PairRule): void {
    this.store.apply((job) => removePairRule(job, rule));
  }

  protected clearAll(): void {
    const block = this.block();
    if (block) this.store.apply((job) => block.hand.reduce((next, { at }) => clearHand(next, block.id, at), job));
  }
}

/** How far the gap is from where it should be and what taking the proposal does, and (unless brief) why no more: one sentence. */
function captionOf(ledger: GapLedger | undefined, pair: string, brief: boolean): string {
  if (!ledger) return '';
  if (ledger.atSpace) return 'This is a word space. Set its width in Tracking.';
  const { deviationMilliem: deviation, limit } = ledger;
  if (limit === 'joined') return `${pair} is joined by strokes: no kerning.`;
  if (Math.abs(deviation) < 1) return `${pair} is on target.`;
  const far = showValue(Math.abs(deviation), 0);
  const [is, takes] = deviation > 0 ? ['too open', '−'] : ['too tight', '+'];
  return `${pair}: ${far} ${is}. Apply: ${takes}${far}${brief ? '' : (WHY[limit] ?? '')}.`;
}

/** Why a proposal takes no more. */
const WHY: Readonly<Partial<Record<GapLedger['limit'], string>>> = {
  touching: ', so that letters don’t touch',
  largest: ', the largest allowed',
};
