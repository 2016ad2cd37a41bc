/** Fit stage: lines whose advances are changed so that they come out at a measure. */
import type { Justify } from '../job';
import { hasInvisible, isWordSpace } from './blank';
import { type SpacedRun, runsWidth } from './space';

/** A line that is still to be fitted. */
export interface OpenLine {
  readonly runs: readonly SpacedRun[];
  readonly widthPt: number;
}

/** A word space may close to this share of itself when a line is justified, and opens as far as it must. */
export const LEAST_SPACE = 0.5;
/** Before letters give way, word spaces open and close by no more than these shares of themselves. */
export const EASY_OPEN = 0.5;
export const EASY_CLOSE = 0.25;

/** Letters close by half of what they may open by: what closes them closes the word spaces between them as well. */
export const CLOSING = 0.5;

/**
 * Justifies a line: its word spaces open or close alike, then its letter spaces and the widths of its letters as far as they may, then
 * word spaces for what remains. A line without word spaces stays as it is, and no space closes to less than half.
 * @param words the block's. @param widthPt the width to reach, in points.
 */
export function justify(words: string, line: OpenLine, widthPt: number, { lettersMilliem, width }: Justify): OpenLine {
  const { spaces, spacesPt, gapPt } = countedGaps(words, line);
  if (spaces === 0) return line;
  const missing = widthPt - line.widthPt;
  const easy = missing > 0 ? EASY_OPEN * spacesPt : EASY_CLOSE * spacesPt;
  const sign = Math.sign(missing);
  let rest = Math.max(0, Math.abs(missing) - easy);
  const most = missing > 0 ? lettersMilliem : lettersMilliem * CLOSING;
  const milliem = gapPt > 0 ? sign * Math.min(most, rest / gapPt) : 0;
  rest = Math.max(0, rest - Math.abs(milliem) * gapPt);
  const letters = Math.max(0, line.widthPt - spacesPt);
  const share = letters > 0 ? sign * Math.min(width, rest / letters) : 0;
  const given = milliem === 0 && share === 0 ? line : givenWay(words, line, milliem, share);
  const now = countedGaps(words, given);
  const eachPt = Math.max((widthPt - given.widthPt) / spaces, ((LEAST_SPACE - 1) * spacesPt) / spaces + (spacesPt - now.spacesPt) / spaces);
  const runs = given.runs.map((run): SpacedRun => {
    const advances = run.advances.map((advance, i) => (isWordSpace(words.charAt(run.glyphs[i]?.cluster ?? 0)) ? advance + eachPt / run.unitPt : advance));
    return { ...run, advances };
  });
  return { runs, widthPt: runsWidth(runs) };
}

/** The word spaces of a line and their room, and what 1/1000 em more between all its letters would add, in points. */
function countedGaps(words: string, { runs }: OpenLine): { spaces: number; spacesPt: number; gapPt: number } {
  let [spaces, spacesPt] = [0, 0];
  for (const { glyphs, advances, unitPt } of runs) {
    glyphs.forEach(({ cluster }, i) => {
      if (!isWordSpace(words.charAt(cluster))) return;
      spaces++;
      spacesPt += (advances[i] ?? 0) * unitPt;
    });
  }
  return { spaces, spacesPt, gapPt: perMilliem(words, runs).perLetterPt };
}

/** The width that 1/1000 em more of letter space and of word space adds to a line, in points. Nothing stands between letters that strokes join. */
export function perMilliem(words: string, runs: readonly SpacedRun[]): { perLetterPt: number; perWordPt: number } {
  let [perLetterPt, perWordPt] = [0, 0];
  let last: number | undefined;
  let lastEm = 0;
  for (const { glyphs, item, unitPt, instance } of runs) {
    const milliemPt = unitPt * 10 * instance.unitsPerEm;
    for (const { cluster } of glyphs) {
      if (hasInvisible(words.charAt(cluster)) || cluster === last) continue;
      if (last !== undefined && !item.cursive) perLetterPt += lastEm;
      if (isWordSpace(words.charAt(cluster))) perWordPt += milliemPt;
      last = cluster;
      lastEm = milliemPt;
    }
  }
  return { perLetterPt, perWordPt };
}

/** A line with letter space opened, and its letters made wider by a share, word spaces left as wide as they are. */
function givenWay(words: string, { runs }: OpenLine, milliem: number, share: number): OpenLine {
  const last = runs[runs.length - 1];
  const changed = runs.map((run): SpacedRun => {
    const { glyphs, instance, unitPt, style, item } = run;
    const [advances, between] = [run.advances.slice(), run.between.slice()];
    const units = milliem * 10 * instance.unitsPerEm;
    glyphs.forEach(({ cluster }, i) => {
      const next = glyphs[i + 1]?.cluster;
      const inside = next === cluster || (next === undefined && run === last) || item.cursive || hasInvisible(words.charAt(cluster));
      if (isWordSpace(words.charAt(cluster))) advances[i] = (advances[i] ?? 0) / (1 + share);
      if (inside) return;
      advances[i] = (advances[i] ?? 0) + units;
      between[i] = (between[i] ?? 0) + units;
    });
    if (share === 0) return { ...run, advances, between };
    return { ...run, advances, between, unitPt: unitPt * (1 + share), style: { ...style, scaleX: style.scaleX * (1 + share) } };
  });
  return { runs: changed, widthPt: runsWidth(changed) };
}
