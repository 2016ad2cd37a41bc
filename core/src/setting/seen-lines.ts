/** Where the edges of a block's lines are seen, whatever they are aligned by: what is judged, and drawn. */
import { type Block, USUAL_EDGES } from '../job';
import { type BlockSetting, straightLines } from './block-setting';
import type { FaceSet } from './faces';
import { type EdgeLook, edgesOf } from './line-edges';
import { dressed, openLines } from './open-lines';
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

/** The lines of a block that is not on a path; undefined for lines without letters. */
export function seenLines(block: Block, setting: BlockSetting, faces: FaceSet): (LineSeen | undefined)[] {
  const set = straightLines(setting);
  const { lines } = openLines(block, dressed(block, faces), faces, set);
  return set.map(({ start, visibleEnd, leftPt, sizePt, widthPt, edges: own }, i): LineSeen | undefined => {
    const opened = lines[i];
    const edges = opened && edgesOf(block.words, { ...opened.line, end: opened.line.visibleEnd }, BY_EYE, opened.first);
    if (!opened || !edges) return undefined;
    // What justification has added stands between the edges.
    const wider = widthPt - opened.line.widthPt;
    const text = block.words.slice(start, visibleEnd);
    return {
      start,
      end: visibleEnd,
      sizePt,
      first: opened.first,
      // A fitted line is not as wide as what it was made from.
      leftPt: block.fit && own ? own.leftPt : leftPt + edges.leftPt,
      rightPt: block.fit && own ? own.rightPt : leftPt + edges.rightPt + wider,
      letters: { leftPt: leftPt + edges.letters.leftPt, rightPt: leftPt + edges.letters.rightPt + wider },
      marked: hangingBefore(text, opened.first).length > 0 || hangingBehind(text).length > 0,
    };
  });
}
