/** From a block to its lines, spaced but not placed yet: the first stages for all its paragraphs. */
import { type Block, STRAIGHT, type Style, isRide, styleAt, styledRanges, withTightened } from '../job';
import type { LineRange } from './block-setting';
import { withEnds } from './ends';
import type { FaceSet } from './faces';
import type { Surroundings } from './itemise';
import { type BreakableParagraph, type SpacedLine, breakable, spacedLinesOf } from './lines';
import { type LoneText, shapeLone } from './lone-text';
import { type MarkedParagraph, paragraphAt, paragraphs } from './paragraphs';
import type { HandTenths } from './space';

/** White between a list mark and its words, in em. */
const MARK_GAP = 0.4;

/** A block's letters with its tightening and larger end letters. @param breaks its lines, where they are known. */
export function dressed(block: Block, faces: FaceSet, breaks?: readonly LineRange[]): Block {
  const tight = withTightened(block);
  if (!block.ends) return tight;
  // Where lines end is known when they are broken; with larger ends they may break elsewhere once more.
  const lines = block.ends.of === 'words' ? paragraphs(block) : (breaks ?? openLines({ ...block, path: STRAIGHT }, tight, faces).lines.map(({ line }) => line));
  return withEnds(tight, lines);
}

/** The lines of a block on their way to the stack, and what stands before them. */
export interface Opened {
  lines: OpenedLine[];
  /** The room of list marks, in points. */
  hangPt: number;
}

/** The part of a block's frame for its words. */
interface Room {
  texts: readonly MarkedParagraph[];
  marks: readonly (ListMark | undefined)[];
  hangPt: number;
  /** Width of a line without indent, in points; infinite where lines break only at hard breaks. */
  measure: number;
}

function roomOf(block: Block, faces: FaceSet): Room {
  const texts = paragraphs(block);
  const marks = texts.map((text) => markOf(block, text, faces));
  const marksPt = marks.reduce((most, mark) => Math.max(most, mark ? mark.text.widthPt + mark.gapPt : 0), 0);
  const hangs = block.edges?.hang[block.paragraph.list === 'number' ? 'numbers' : 'bullets'] ?? 0;
  const hangPt = marksPt * (1 - hangs);
  // On a path lines break only where told: the frame says nothing of its length.
  const measure = block.grow === 'both' || isRide(block.path) ? Number.POSITIVE_INFINITY : Math.max(0, block.frame.widthPt - hangPt);
  return { texts, marks, hangPt, measure };
}

const handTenthsOf = ({ hand }: Block): HandTenths => new Map(hand.map(({ at, milliem }) => [at, Math.round(milliem * 10)]));

/** A paragraph that can be broken anew, with the room of its lines, in points. */
export interface ParagraphRoom extends BreakableParagraph {
  first: number;
  others: number;
  /** The room of list marks in the frame. */
  hangPt: number;
}

/** The paragraph that an offset of a block's words stands in. */
export function breakableAt(block: Block, faces: FaceSet, at: number): ParagraphRoom {
  const { hangPt, measure } = roomOf(block, faces);
  const surroundings = { block: dressed(block, faces), paragraph: paragraphAt(block.words, at), faces };
  return { ...breakable(surroundings, handTenthsOf(block)), first: measure - block.paragraph.indentPt, others: measure, hangPt };
}

export function openLines(block: Block, dressed: Block, faces: FaceSet, breaks?: readonly LineRange[]): Opened {
  const hand = handTenthsOf(block);
  const { texts, marks, hangPt, measure } = roomOf(block, faces);
  const { indentPt } = block.paragraph;
  const lines = texts.flatMap((paragraph, p): OpenedLine[] => {
    const surroundings = { block: dressed, paragraph, faces };
    const spaced = spacedLinesOf(surroundings, hand, { others: measure, first: measure - indentPt }, breaks);
    return spaced.map((line, i) => ({
      line,
      surroundings,
      start: line.start,
      first: i === 0,
      last: i === spaced.length - 1,
      styles: stylesOn(block, line),
      mark: i === 0 ? marks[p] : undefined,
      indentPt: i === 0 ? indentPt : 0,
      endedPt: i === 0 ? measure - indentPt : measure,
      hand,
    }));
  });
  return { lines, hangPt };
}

/** The styles of a line's words, as they are stated: capitals that are reduced stand on the line of their size. */
function stylesOn(block: Block, { start, visibleEnd }: SpacedLine): readonly Style[] {
  if (block.runs.length === 0) return [block.style];
  return visibleEnd > start ? styledRanges(block, start, visibleEnd).map(({ style }) => style) : [styleAt(block, start)];
}

/** A line on its way to the stack. */
export interface OpenedLine {
  line: SpacedLine;
  surroundings: Surroundings;
  start: number;
  /** First and last line of their paragraph. */
  first: boolean;
  last: boolean;
  styles: readonly Style[];
  mark: ListMark | undefined;
  indentPt: number;
  /** The room of a line that ends in an ellipsis. */
  endedPt: number;
  hand: HandTenths;
}

export interface ListMark {
  text: LoneText;
  gapPt: number;
}

/** The mark of a list, set as the paragraph's first letter is. */
function markOf(block: Block, { mark, start }: MarkedParagraph, faces: FaceSet): ListMark | undefined {
  if (mark === undefined) return undefined;
  const style = styleAt(block, start);
  return { text: shapeLone(mark, style, faces), gapPt: MARK_GAP * style.sizePt };
}
