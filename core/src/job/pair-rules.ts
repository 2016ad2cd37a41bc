/** Pair rules: one hand value for every occurrence of a pair in a block, a sheet or the job, until it is removed. */
import { graphemeBoundaries } from './graphemes';
import { styleAt } from './runs';
import type { Block, HandKern, Job, PairRule, PairScope, Sheet } from './schema';

/** Two letters that stand side by side, in one face. */
export interface Pair {
  left: string;
  right: string;
  faceId: string;
}

const segmenter = new Intl.Segmenter('und', { granularity: 'grapheme' });

/** The pair around a place between two letters, or undefined where there is none. The face is the left letter's. */
export function pairAt(block: Block, at: number): Pair | undefined {
  const segments = segmenter.segment(block.words);
  const left = at > 0 ? segments.containing(at - 1) : undefined;
  const right = segments.containing(at);
  if (!left || right?.index !== at || /\s/u.test(left.segment + right.segment)) return undefined;
  return { left: left.segment, right: right.segment, faceId: styleAt(block, left.index).faceId };
}

const covers = (scope: PairScope, sheetId: string, blockId: string): boolean =>
  scope.kind === 'job' || scope.id === (scope.kind === 'sheet' ? sheetId : blockId);

/** The narrower a scope the stronger: a block's rule wins over its sheet's, that over the job's. */
const STRENGTH: Readonly<Record<PairScope['kind'], number>> = { job: 0, sheet: 1, block: 2 };

/** The rules that can touch a block, strongest first. */
function rulesFor(job: Job, sheetId: string, blockId: string): PairRule[] {
  return job.pairs.filter(({ scope }) => covers(scope, sheetId, blockId)).sort((a, b) => STRENGTH[b.scope.kind] - STRENGTH[a.scope.kind]);
}

const isOf = (rule: Pair, pair: Pair): boolean => rule.left === pair.left && rule.right === pair.right && rule.faceId === pair.faceId;

/** The rule that gives a gap its value where the gap has none of its own. */
export function ruleAt(job: Job, blockId: string, at: number): PairRule | undefined {
  if (job.pairs.length === 0) return undefined;
  for (const sheet of job.sheets) {
    const block = sheet.blocks.find(({ id }) => id === blockId);
    const pair = block && pairAt(block, at);
    if (pair) return rulesFor(job, sheet.id, blockId).find((rule) => isOf(rule, pair));
  }
  return undefined;
}

const resolved = new WeakMap<Block, { pairs: Job['pairs']; sheetId: string; block: Block }>();

/**
 * A block as it is set: the values of pair rules stand among its hand kerning; its own values win.
 * The same block with the same rules comes back as the same object.
 */
export function resolveBlock(job: Job, sheetId: string, block: Block): Block {
  if (job.pairs.length === 0) return block;
  const known = resolved.get(block);
  if (known?.pairs === job.pairs && known.sheetId === sheetId) return known.block;
  const rules = rulesFor(job, sheetId, block.id);
  const own = new Set(block.hand.map(({ at }) => at));
  const added: HandKern[] = [];
  for (const at of rules.length > 0 ? graphemeBoundaries(block.words) : []) {
    const pair = own.has(at) ? undefined : pairAt(block, at);
    const rule = pair && rules.find((candidate) => isOf(candidate, pair));
    if (rule && rule.milliem !== 0) added.push({ at, milliem: rule.milliem });
  }
  const made = added.length === 0 ? block : { ...block, hand: [...block.hand, ...added].sort((a, b) => a.at - b.at) };
  resolved.set(block, { pairs: job.pairs, sheetId, block: made });
  return made;
}

/** A sheet as it is set, exported and measured: every block resolved. */
export function resolveSheet(job: Job, sheet: Sheet): Sheet {
  if (job.pairs.length === 0) return sheet;
  return { ...sheet, blocks: sheet.blocks.map((block) => resolveBlock(job, sheet.id, block)) };
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
export function setPairRule(job: Job, pair: Pair, milliem: number, scope: PairScope): Job {
  const others = job.pairs.filter((rule) => !(isOf(rule, pair) && sameScope(rule.scope, scope)));
  const sheets = job.sheets.map((sheet) => {
    const blocks = sheet.blocks.map((block) => {
      if (!covers(scope, sheet.id, block.id)) return block;
      const hand = block.hand.filter(({ at }) => {
        const own = pairAt(block, at);
        return !own || !isOf(own, pair);
      });
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
export function countPair(job: Job, pair: Pair, scope: PairScope): number {
  let count = 0;
  for (const sheet of job.sheets) {
    for (const block of sheet.blocks) {
      if (!covers(scope, sheet.id, block.id)) continue;
      for (const at of graphemeBoundaries(block.words)) {
        const own = pairAt(block, at);
        if (own && isOf(own, pair)) count++;
      }
    }
  }
  return count;
}
