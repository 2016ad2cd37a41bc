/** Break stage: a line as part of its paragraph's list of advances; only what stands otherwise beside an end is shaped and spaced anew. */
import { isMeasured } from './shape-kerning';
import type { WordRange } from '../job';
import { firstIndex } from '../base';
import { hasInvisible } from './blank';
import { firstAt } from './cut';
import type { OpenLine } from './fit';
import type { Surroundings } from './itemise';
import { shapeItems } from './shape';
import { type HandTenths, type SpacedRun, space, runsWidth } from './space';
import { type StyledRun, runsOf } from './spans';

/** The letters that lines of a paragraph are cut from. */
export interface SpacedParagraph {
  readonly surroundings: Surroundings;
  /** In the order of the words. */
  readonly spaced: readonly SpacedRun[];
  readonly hand: HandTenths;
}

/**
 * Part of a paragraph that is spaced in the order of its words.
 * @returns undefined where that is no simple matter: letters that run to the left, kerning by shape or changes of style beside an end
 * that is not safe. Then the line has to be spaced as a whole.
 */
export function sliceOf(whole: SpacedParagraph, range: WordRange): OpenLine | undefined {
  const { spaced, surroundings } = whole;
  const { start, end } = range;
  if (surroundings.paragraph.levels) return undefined;
  const runs: SpacedRun[] = [];
  for (let r = firstIndex(spaced.length, (i) => (spaced[i]?.end ?? 0) > start); r < spaced.length; r++) {
    const run = spaced[r];
    if (!run || run.start >= end) break;
    // Where a line begins or ends with a run, but not with what that was shaped in, the letter that counts stands in another run.
    const { item } = run;
    if (run.start === start && start > item.start && unsafeAt(run, 0)) return undefined;
    if (run.end === end && end < item.end && unsafeAt(spaced[r + 1], 0)) return undefined;
    const part = run.start >= start && run.end <= end ? run : partOf(whole, run, { start: Math.max(start, run.start), end: Math.min(end, run.end) });
    if (!part) return undefined;
    runs.push(part);
  }
  const last = runs.pop();
  if (last) runs.push(ended(surroundings.block.words, last));
  return { runs, widthPt: runsWidth(runs) };
}

const unsafeAt = (run: SpacedRun | undefined, index: number): boolean => run?.glyphs[index]?.unsafeToBreak ?? true;

/** Part of a run, cut inside it at one end or both. */
function partOf(whole: SpacedParagraph, run: SpacedRun, { start, end }: WordRange): SpacedRun | undefined {
  const { glyphs, advances, between } = run;
  const count = glyphs.length;
  const from = start === run.start ? 0 : firstAt(glyphs, start);
  const past = end === run.end ? count : firstAt(glyphs, end);
  // A cut inside a letter.
  if (glyphs[from]?.cluster !== start || (past < count && glyphs[past]?.cluster !== end)) return undefined;
  let safeFrom = from;
  if (start > run.start) while (safeFrom < past && unsafeAt(run, safeFrom)) safeFrom++;
  let safePast = past;
  if (end < run.end) while (safePast > safeFrom && unsafeAt(run, safePast)) safePast--;
  const { style, instance, level, item, unitPt } = run;
  const part = (letters: Letters): SpacedRun => {
    return { start, end, style, instance, level, glyphs: letters.glyphs, item, advances: letters.advances, between: letters.between, unitPt };
  };
  const inside = { glyphs: glyphs.slice(safeFrom, safePast), advances: advances.slice(safeFrom, safePast), between: between.slice(safeFrom, safePast) };
  if (safeFrom === from && safePast === past) return part(inside);
  if (safeFrom >= safePast || isMeasured(run.style)) return undefined;
  const head =
    safeFrom > from
      ? spacedAnew(whole, run, { start, end: glyphs[safeFrom]?.cluster ?? end }, { ...run, start, end, glyphs: inside.glyphs.slice(0, 1) })
      : NONE;
  const tail = safePast < past ? spacedAnew(whole, run, { start: glyphs[safePast]?.cluster ?? end, end }) : NONE;
  if (!head || !tail) return undefined;
  return part({
    glyphs: head.glyphs.concat(inside.glyphs, tail.glyphs),
    advances: head.advances.concat(inside.advances, tail.advances),
    between: head.between.concat(inside.between, tail.between),
  });
}

type Letters = Pick<SpacedRun, 'glyphs' | 'advances' | 'between'>;
const NONE: Letters = { glyphs: [], advances: [], between: [] };

/** Letters of a run shaped without what stood beside them in the paragraph. @param follows what still does. */
function spacedAnew({ surroundings, hand }: SpacedParagraph, run: SpacedRun, range: WordRange, follows?: StyledRun): Letters | undefined {
  const runs = runsOf(shapeItems(surroundings, range));
  const [only] = runs;
  if (runs.length !== 1 || only?.instance !== run.instance) return undefined;
  return space(surroundings.block.words, follows ? [only, follows] : runs, hand)[0];
}

/** A run that ends its line: nothing stands between its last letter that shows and a next. */
function ended(words: string, run: SpacedRun): SpacedRun {
  let i = run.between.length - 1;
  while (i > 0 && (run.between[i] ?? 0) === 0 && hasInvisible(words.charAt(run.glyphs[i]?.cluster ?? 0))) i--;
  const after = run.between[i] ?? 0;
  if (after === 0) return run;
  const [advances, between] = [run.advances.slice(), run.between.slice()];
  advances[i] = (advances[i] ?? 0) - after;
  between[i] = 0;
  return { ...run, advances, between };
}
