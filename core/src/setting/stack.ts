/** Stack stage: baselines, the frame that grows with its words, and what of them a fixed frame shows. */
import type { Block, Frame, Style } from '../job';
import { leadingPoints } from '../units';
import { indentOf } from './align';
import type { FaceSet } from './faces';

/** A line before it is stacked. */
export interface LineToStack {
  /** Offset of its first letter. */
  readonly start: number;
  /** True for the first line of a paragraph. */
  readonly first: boolean;
  /** The styles on it; of an empty line, the one its words would have. */
  readonly styles: readonly Style[];
}

/** A line's place in the stack, in points from the frame's top. */
export interface StackedLine {
  readonly baseline: number;
  readonly leadingPt: number;
  /** Largest type size on the line. */
  readonly sizePt: number;
  /** Where the line ends downwards. */
  readonly bottom: number;
}

/** Stacks lines: the first stands as high as its metrics ask, each other by its leading and its paragraph's space below the one before. */
export function stack({ leading, lineLeading, paragraph: { beforePt, afterPt }, trim }: Block, lines: readonly LineToStack[], faces: FaceSet): StackedLine[] {
  const own = new Map(lineLeading.map(({ at, byPt }) => [at, byPt]));
  let baseline = 0;
  return lines.map(({ start, first, styles }, i) => {
    let sizePt = 0;
    for (const style of styles) sizePt = Math.max(sizePt, style.sizePt);
    const leadingPt = leadingPoints(leading, sizePt);
    if (i === 0) baseline = extreme(styles, faces, trim ? 'capHeight' : 'ascender');
    else baseline += leadingPt + (own.get(start) ?? 0) + (first ? beforePt + afterPt : 0);
    return { baseline, leadingPt, sizePt, bottom: trim ? baseline : baseline - extreme(styles, faces, 'descender') };
  });
}

/** Rounding of sums of leading, in points: a line that is lower than its frame by less still stands inside. */
const HAIR = 0.001;

/** How many lines a block shows: all, but where its frame is fixed; one at least. */
export function shownLines({ grow, frame }: Block, lines: readonly StackedLine[]): number {
  if (grow !== 'fixed') return lines.length;
  return Math.max(1, lines.filter(({ bottom }) => bottom <= frame.heightPt + HAIR).length);
}

/** The contents of the frame, in points. */
export interface Contents {
  heightPt: number;
  /** Widest line, with its indent and the room of list marks. */
  widthPt: number;
}

/** The frame as its words make it. Growing in both directions keeps the edge (or middle) that the lines align to. */
export function grownFrame({ frame, grow, align }: Block, { heightPt, widthPt }: Contents): Frame {
  if (grow === 'fixed') return frame;
  if (grow === 'down') return { ...frame, heightPt };
  const wide = Math.max(1, widthPt);
  return { xPt: frame.xPt + indentOf(align, frame.widthPt, wide), yPt: frame.yPt, widthPt: wide, heightPt };
}

/** Where the first line's top stands in a frame. @param heightPt of the lines. */
export function topOf({ grow, vertical }: Block, frame: Frame, heightPt: number): number {
  const slack = grow === 'fixed' ? frame.heightPt - heightPt : 0;
  return frame.yPt + (vertical === 'top' ? 0 : vertical === 'middle' ? slack / 2 : slack);
}

function extreme(styles: readonly Style[], faces: FaceSet, metric: 'ascender' | 'descender' | 'capHeight'): number {
  let found = 0;
  for (const style of styles) {
    const instance = faces.instance(style);
    const value = (instance.metrics[metric] * style.sizePt * style.scaleY) / instance.unitsPerEm;
    found = metric === 'descender' ? Math.min(found, value) : Math.max(found, value);
  }
  return found;
}
