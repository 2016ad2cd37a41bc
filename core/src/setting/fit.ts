/** Fit stage: lines whose advances a solver changes, so that they come out at a measure. */
import { isWordSpace } from './blank';
import { type SpacedRun, widthOf } from './space';

/** A line that is still to be fitted. */
export interface OpenLine {
  readonly runs: readonly SpacedRun[];
  readonly widthPt: number;
}

/** A word space may close to this share of itself when a line is justified, and opens as far as it must. */
const LEAST_SPACE = 0.5;

/**
 * Justifies a line: its word spaces open or close alike until it has a width. A line without word spaces stays as it is, and no space closes to less than half.
 * @param words the block's. @param widthPt the width to reach, in points.
 */
export function justify(words: string, line: OpenLine, widthPt: number): OpenLine {
  let spacesPt = 0;
  let count = 0;
  const isGap = (cluster: number): boolean => isWordSpace(words.charAt(cluster));
  for (const { glyphs, advances, unitPt } of line.runs) {
    glyphs.forEach(({ cluster }, i) => {
      if (!isGap(cluster)) return;
      count++;
      spacesPt += (advances[i] ?? 0) * unitPt;
    });
  }
  if (count === 0) return line;
  const eachPt = Math.max((widthPt - line.widthPt) / count, ((LEAST_SPACE - 1) * spacesPt) / count);
  const runs = line.runs.map((run): SpacedRun => {
    const advances = run.advances.map((advance, i) => (isGap(run.glyphs[i]?.cluster ?? 0) ? advance + eachPt / run.unitPt : advance));
    return { ...run, advances };
  });
  return { runs, widthPt: widthOf(runs) };
}
