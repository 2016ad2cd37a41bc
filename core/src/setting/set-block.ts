/** Setting: words and style become lines of placed glyphs, stage by stage; each stage is a file of its own (docs/architecture.md). */
import { type Block, STRAIGHT, isRide, type Sheet, type Style, styleAt, styledRanges } from '../job';
import { indentOf } from './align';
import type { BlockSetting, SetLine } from './block-setting';
import { withEllipsis } from './ellipsis';
import { withEnds } from './ends';
import type { FaceSet } from './faces';
import { justify } from './fit';
import type { Surroundings } from './itemise';
import { hasSmallCaps } from './letter-case';
import { type SpacedLine, linesOf } from './lines';
import { type LoneText, placeLone, shapeLone } from './lone-text';
import { type MarkedParagraph, paragraphs } from './paragraphs';
import { onPath } from './path';
import { placeRuns } from './place';
import type { HandTenths } from './space';
import { grownFrame, shownLines, stack, topOf } from './stack';

/** White between a list mark and its words, in em. */
const MARK_GAP = 0.4;

/** Sets one block. Pure but for the faces' caches. */
export function setBlock(block: Block, faces: FaceSet): BlockSetting {
  if (!block.ends) return setAs(block, block, faces);
  // Where lines end is known when they are broken; with larger ends they may break elsewhere once more.
  const lines = block.ends.of === 'lines' ? setAs({ ...block, path: STRAIGHT }, block, faces).lines : paragraphs(block);
  return setAs(block, withEnds(block, lines), faces);
}

/** Sets a block. @param dressed the same with what its letters are set in. */
function setAs(block: Block, dressed: Block, faces: FaceSet): BlockSetting {
  const hand: HandTenths = new Map(block.hand.map(({ at, milliem }) => [at, Math.round(milliem * 10)]));
  const texts = paragraphs(block);
  const marks = texts.map((text) => markOf(block, text, faces));
  const hangPt = marks.reduce((most, mark) => Math.max(most, mark ? mark.text.widthPt + mark.gapPt : 0), 0);
  // On a path lines break only where told: the frame says nothing of its length.
  const measure = block.grow === 'both' || isRide(block.path) ? Number.POSITIVE_INFINITY : Math.max(0, block.frame.widthPt - hangPt);
  const { indentPt } = block.paragraph;

  const lines = texts.flatMap((paragraph, p): OpenedLine[] => {
    const surroundings = { block: dressed, paragraph, faces };
    const spaced = linesOf(surroundings, hand, { others: measure, first: measure - indentPt });
    return spaced.map((line, i) => ({
      line,
      surroundings,
      start: line.start,
      first: i === 0,
      last: i === spaced.length - 1,
      styles: stylesOn(block, line),
      mark: i === 0 ? marks[p] : undefined,
      indentPt: i === 0 ? indentPt : 0,
    }));
  });

  const stacked = stack(block, lines, faces);
  const shown = shownLines(block, stacked);
  const cut = shown < lines.length;
  let heightPt = 0;
  let widthPt = 0;
  for (let i = 0; i < shown; i++) {
    heightPt = Math.max(heightPt, stacked[i]?.bottom ?? 0);
    widthPt = Math.max(widthPt, (lines[i]?.line.widthPt ?? 0) + (lines[i]?.indentPt ?? 0));
  }
  const frame = grownFrame(block, { heightPt, widthPt: hangPt + widthPt });
  const topPt = topOf(block, frame, heightPt);

  const set = lines.slice(0, shown).map((open, i): SetLine => {
    const { runsLeft } = open.surroundings.paragraph;
    const beforePt = hangPt + open.indentPt;
    const room = frame.widthPt - beforePt;
    const ended = cut && i === shown - 1 ? withEllipsis(open.surroundings, open.line, hand, measure - open.indentPt) : undefined;
    const line = ended?.line ?? open.line;
    const ellipsisPt = ended ? ended.gapPt + ended.ellipsis.widthPt : 0;
    const fitted = block.align === 'justified' && !open.last && !ended ? justify(block.words, line, room) : line;
    const width = fitted.widthPt + ellipsisPt;
    const { baseline = 0, leadingPt = 0, sizePt = 0 } = stacked[i] ?? {};
    const baselinePt = topPt + baseline;
    // What begins a paragraph, and what ends a cut line, stands where its words begin and end.
    const leftPt = frame.xPt + (runsLeft ? 0 : beforePt) + indentOf(block.align, room, width);
    const runs = placeRuns(fitted.runs, runsLeft ? leftPt + ellipsisPt : leftPt, baselinePt);
    if (ended) runs.push(placeLone(ended.ellipsis, line.visibleEnd, { leftPt: runsLeft ? leftPt : leftPt + fitted.widthPt + ended.gapPt, baselinePt }));
    const { start, end, visibleEnd } = line;
    const placed: SetLine = { start, end, visibleEnd, leftPt, widthPt: width, baselinePt, leadingPt, sizePt, runs };
    if (open.mark) {
      const { text, gapPt } = open.mark;
      placed.mark = placeLone(text, start, { leftPt: runsLeft ? leftPt + width + gapPt : leftPt - gapPt - text.widthPt, baselinePt });
    }
    return placed;
  });
  const ridden = onPath(block, set, faces);
  return {
    blockId: block.id,
    lines: ridden?.lines ?? set,
    ...(ridden ? { straight: set, beyondPath: ridden.beyondPath } : {}),
    frame,
    heightPt,
    cut,
    reducedCaps: lines.some(({ line }) => line.runs.some(({ style, instance }) => style.case === 'small' && !hasSmallCaps(instance))),
    wordSpaceMilliem: ownWordSpace(block, faces),
    missingFaces: facesOf(block).filter((id) => !faces.has(id)),
  };
}

/** The styles of a line's words, as they are stated: capitals that are reduced stand on the line of their size. */
function stylesOn(block: Block, { start, visibleEnd }: SpacedLine): readonly Style[] {
  if (block.runs.length === 0) return [block.style];
  return visibleEnd > start ? styledRanges(block, start, visibleEnd).map(({ style }) => style) : [styleAt(block, start)];
}

/** A line on its way to the stack. */
interface OpenedLine {
  line: SpacedLine;
  surroundings: Surroundings;
  start: number;
  /** First and last line of their paragraph. */
  first: boolean;
  last: boolean;
  styles: readonly Style[];
  mark: ListMark | undefined;
  indentPt: number;
}

interface ListMark {
  text: LoneText;
  gapPt: number;
}

/** The mark of a list, set as the paragraph's first letter is. */
function markOf(block: Block, { mark, start }: MarkedParagraph, faces: FaceSet): ListMark | undefined {
  if (mark === undefined) return undefined;
  const style = styleAt(block, start);
  return { text: shapeLone(mark, style, faces), gapPt: MARK_GAP * style.sizePt };
}

/** Sets every block of a sheet, in painting order. */
export const setSheet = (sheet: Sheet, faces: FaceSet): BlockSetting[] => sheet.blocks.map((block) => setBlock(block, faces));

/** All faces a block names. */
export const facesOf = (block: Block): string[] => [...new Set([block.style.faceId, ...block.runs.flatMap(({ style }) => style.faceId ?? [])])];

function ownWordSpace(block: Block, faces: FaceSet): number | undefined {
  const instance = faces.instance(block.style);
  const space = instance.nominalGlyph(0x20);
  return space === undefined ? undefined : (instance.advance(space) * 1000) / instance.unitsPerEm;
}
