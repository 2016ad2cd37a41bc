/** Where the edges of a block's lines are seen, whatever they are aligned by: what is judged, and drawn. */
import { type Block, USUAL_EDGES } from '../job';
import { type BlockSetting, type SetLine, straightLines } from './block-setting';
import type { FaceSet } from './faces';
import { type EdgeLook, type StandingGlyph, edgesOf } from './line-edges';
import { isHardBreak } from './paragraphs';
import { hangingBefore, hangingBehind } from '../edges';

/** A line as its edges are seen, in points from the sheet's left. */
export interface LineSeen {
  start: number;
  end: number;
  sizePt: number;
  /** First line of its paragraph. */
  first: boolean;
  leftPt: number;
  rightPt: number;
  /** The ink of its letters, without the marks before and behind them. */
  letters: { leftPt: number; rightPt: number };
  /** True where marks stand before or behind its letters. */
  marked: boolean;
}

/** Marks hang by their usual amounts, and letters reach past the edge in full. */
const BY_EYE: EdgeLook = { hang: USUAL_EDGES.hang, ink: 1, allInk: false, past: 1 };

/** The glyphs of a set line where they stand on the sheet before their shifts, its ellipsis among them. */
function standingOnSheet({ runs, leftPt, widthPt }: SetLine, faces: FaceSet): StandingGlyph[] {
  const standing: StandingGlyph[] = [];
  runs.forEach(({ glyphs, style, xScale: unit }, r) => {
    const instance = faces.instance(style);
    glyphs.forEach(({ cluster, glyphId, xPt, offsetPt: offset }, i) => {
      const room = xPt - offset;
      const next = glyphs[i + 1] ?? runs[r + 1]?.glyphs[0];
      const begins = next ? next.xPt - next.offsetPt : leftPt + widthPt;
      // An ellipsis comes last, on whichever side it stands.
      standing.push({ cluster, glyphId, instance, room, end: begins < room ? leftPt + widthPt : begins, offset, unit });
    });
  });
  return standing;
}

/** The lines of a block that is not on a path; undefined for lines without letters. */
export const seenLines = ({ words }: Block, setting: BlockSetting, faces: FaceSet): (LineSeen | undefined)[] =>
  straightLines(setting).map((line): LineSeen | undefined => {
    const { start, visibleEnd, sizePt } = line;
    const range = { start, end: visibleEnd };
    const first = start === 0 || isHardBreak(words.charAt(start - 1));
    const edges = edgesOf(words, range, standingOnSheet(line, faces), BY_EYE, first);
    if (!edges) return undefined;
    const text = words.slice(start, visibleEnd);
    return { ...range, ...edges, sizePt, first, marked: hangingBefore(text, first).length > 0 || hangingBehind(text).length > 0 };
  });
