/** Pair rules: one hand value for every occurrence of a pair in a block, a sheet or the job, until it is removed. */
import { styleAt, styledRanges } from './runs';
import type { Block, HandKern, Job, PairRule, PairScope } from './schema';

/** Two letters that stand side by side, in one face. */
export interface LetterPair {
  left: string;
  right: string;
  faceId: string;
}

const segmenter = new Intl.Segmenter('und', { granularity: 'grapheme' });

const BLANK = /\s/u;

/** Every pair of a block that stands between two letters, in the order of the words. */
export function pairsIn(block: Block): { at: number; pair: LetterPair }[] {
  const found: { at: number; pair: LetterPair }[] = [];
  const ranges = styledRanges(block, 0, block.words.length);
  let r = 0;
  let left: { text: string; faceId: string } | undefined;
  for (const { segment: text, index: at } of segmenter.segment(block.words)) {
    while ((ranges[r]?.end ?? Number.POSITIVE_INFINITY) <= at) r++;
    const faceId = ranges[r]?.style.faceId ?? block.style.faceId;
    if (left && !BLANK.test(left.text + text)) found.push({ at, pair: { left: left.text, right: text, faceId: left.faceId } });
    left = { text, faceId };
  }
  return found;
}

/** The pair around a place between two letters, or undefined where there is none. The face is the left letter's. */
export function pairAt(block: Block, at: number): LetterPair | undefined {
  const segments = segmenter.segment(block.words);
  const left = at > 0 ? segments.containing(at - 1) : undefined;
  const right = segments.containing(at);
  if (!left || right?.index !== at || BLANK.test(left.segment + right.segment)) return undefined;
  return { left: left.segment, right: right.segment, faceId: styleAt(block, left.index).faceId };
}

const covers = (scope: PairScope, sheetId: string, blockId: string): boolean =>
  scope.kind === 'job' || scope.id === (scope.kind === 'sheet' ? sheetId : blockId);

/** The scopes that hold for a block, strongest first: the narrower the stronger. */
const scopesOf = (sheetId: string, blockId: string): PairScope[] => [{ kind: 'block', id: blockId }, { kind: 'sheet', id: sheetId }, { kind: 'job' }];

const scopeKey = (scope: PairScope): string => (scope.kind === 'job' ? 'job' : `${scope.kind} ${scope.id}`);
const pairKey = ({ left, right, faceId }: LetterPair): string => JSON.stringify([left, right, faceId]);

type RuleIndex = ReadonlyMap<string, ReadonlyMap<string, PairRule>>;
const indices = new WeakMap<Job['pairs'], RuleIndex>();

/** The rules of a job by scope and pair; the first of two alike counts. */
function indexOf(pairs: Job['pairs']): RuleIndex {
  let index = indices.get(pairs) as Map<string, Map<string, PairRule>> | undefined;
  if (!index) {
    index = new Map();
    for (const rule of pairs) {
      const scope = scopeKey(rule.scope);
      const rules = index.get(scope) ?? new Map<string, PairRule>();
      if (!rules.has(pairKey(rule))) rules.set(pairKey(rule), rule);
      index.set(scope, rules);
    }
    indices.set(pairs, index);
  }
  return index;
}

/** Finds the strongest rule for a pair of a block; undefined where no rule can touch the block. */
function finderFor(pairs: Job['pairs'], sheetId: string, blockId: string): ((pair: LetterPair) => PairRule | undefined) | undefined {
  const index = indexOf(pairs);
  const byScope = scopesOf(sheetId, blockId).flatMap((scope) => index.get(scopeKey(scope)) ?? []);
  if (byScope.length === 0) return undefined;
  return (pair) => {
    const key = pairKey(pair);
    for (const rules of byScope) {
      const rule = rules.get(key);
      if (rule) return rule;
    }
    return undefined;
  };
}

const isOf = (rule: LetterPair, pair: LetterPair): boolean => rule.left === pair.left && rule.right === pair.right && rule.faceId === pair.faceId;

/** The rule that gives a gap its value where the gap has none of its own. */
export function ruleAt(job: Job, blockId: string, at: number): PairRule | undefined {
  if (job.pairs.length === 0) return undefined;
  for (const sheet of job.sheets) {
    const block = sheet.blocks.find(({ id }) => id === blockId);
    const pair = block && pairAt(block, at);
    if (pair) return finderFor(job.pairs, sheet.id, blockId)?.(pair);
  }
  return undefined;
}

/** Where a pair stands in a block. */
const placesOf = (block: Block, pair: LetterPair): number[] =>
  pairsIn(block)
    .filter((one) => isOf(one.pair, pair))
    .map(({ at }) => at);

const resolved = new WeakMap<Block, { pairs: Job['pairs']; sheetId: string; block: Block }>();

const spoken = new WeakMap<Block, { language: string; block: Block }>();

/** A block with the job's language where it has none of its own. The same block comes back as the same object. */
function spokenIn({ language }: Job, block: Block): Block {
  if (language === null || block.language !== null) return block;
  const known = spoken.get(block);
  if (known?.language === language) return known.block;
  const made = { ...block, language };
  spoken.set(block, { language, block: made });
  return made;
}

/** A block in its language, the values of pair rules among its hand kerning; its own values win. The same block with the same rules comes back as the same object. */
export function pairedBlock(job: Job, sheetId: string, own: Block): Block {
  const block = spokenIn(job, own);
  if (job.pairs.length === 0) return block;
  const known = resolved.get(block);
  if (known?.pairs === job.pairs && known.sheetId === sheetId) return known.block;
  const find = finderFor(job.pairs, sheetId, block.id);
  const kept = new Set(block.hand.map(({ at }) => at));
  const added: HandKern[] = [];
  for (const { at, pair } of find ? pairsIn(block) : []) {
    const rule = kept.has(at) ? undefined : find?.(pair);
    if (rule && rule.milliem !== 0) added.push({ at, milliem: rule.milliem });
  }
  const made = added.length === 0 ? block : { ...block, hand: [...block.hand, ...added].sort((a, b) => a.at - b.at) };
  resolved.set(block, { pairs: job.pairs, sheetId, block: made });
  return made;
}

/** True where two scopes are the same. */
export function sameScope(a: PairScope, b: PairScope): boolean {
  return a.kind === b.kind && (a.kind === 'job' || b.kind === 'job' || a.id === b.id);
}

/**
 * Gives every occurrence of a pair inside a scope one value: own values of those gaps give way to the rule.
 * A rule for the same pair and scope is replaced.
 * @param milliem 1/1000 em of the left letter.
 */
export function withPairRule(job: Job, pair: LetterPair, milliem: number, scope: PairScope): Job {
  const others = job.pairs.filter((rule) => !(isOf(rule, pair) && sameScope(rule.scope, scope)));
  const sheets = job.sheets.map((sheet) => {
    const blocks = sheet.blocks.map((block) => {
      if (!covers(scope, sheet.id, block.id)) return block;
      const taken = new Set(placesOf(block, pair));
      const hand = block.hand.filter(({ at }) => !taken.has(at));
      return hand.length === block.hand.length ? block : { ...block, hand };
    });
    return blocks.some((block, i) => block !== sheet.blocks[i]) ? { ...sheet, blocks } : sheet;
  });
  const { left, right, faceId } = pair;
  return { ...job, sheets, pairs: [...others, { left, right, faceId, milliem, scope }] };
}

/** Takes a rule away; its pairs go back to what they have without it. */
export function removePairRule(job: Job, rule: PairRule): Job {
  const pairs = job.pairs.filter((known) => known !== rule && !(isOf(known, rule) && sameScope(known.scope, rule.scope)));
  return pairs.length === job.pairs.length ? job : { ...job, pairs };
}

/** How many gaps of the job a rule's scope and pair cover, those with values of their own included. */
export function countPair(job: Job, pair: LetterPair, scope: PairScope): number {
  let count = 0;
  for (const sheet of job.sheets) {
    for (const block of sheet.blocks) {
      if (!covers(scope, sheet.id, block.id)) continue;
      count += placesOf(block, pair).length;
    }
  }
  return count;
}
