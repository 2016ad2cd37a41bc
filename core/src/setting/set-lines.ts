/** From spaced lines to a setting: stack, fit, align, place, path. */
import type { Block } from '../job';
import { alignedTo, indentOf } from './align';
import type { BlockSetting, LineFit, LineRange, SetLine } from './block-setting';
import { withEllipsis } from './ellipsis';
import { type FaceSet, facesOf } from './faces';
import { justify } from './fit';
import { type EdgeLook, edgesOf, lookOf, standingIn } from './line-edges';
import { hasSmallCaps } from './letter-case';
import { placeLone } from './lone-text';
import { type Opened, openLines } from './open-lines';
import { onPath } from './path';
import { placeRuns } from './place';
import { grownFrame, shownLines, stack, topOf } from './stack';

/** The result of fitting a block's lines. */
export interface FittedLines {
  /** Its lines end where they did before: fitted ones may be wider than the frame. */
  readonly breaks: readonly LineRange[];
  /** They themselves, spaced as they come out: then they need not be again. */
  readonly opened: Opened;
  /** How lines were fitted, by their place among the lines. */
  readonly fits: ReadonlyMap<number, LineFit>;
  /** How the edges of fitted lines are looked at; undefined where they are measured by their advances. */
  readonly look: EdgeLook | undefined;
  /** Where fitted lines stand on the sheet, where their measure says so. */
  readonly span: { readonly leftPt: number; readonly widthPt: number } | undefined;
  readonly missingHeightPt?: number | undefined;
}

/** Sets a block. @param dressed the same with what its letters are set in. @param fitted how its lines were fitted, whose ends are known then. */
export function setLines(block: Block, dressed: Block, faces: FaceSet, fitted?: FittedLines): BlockSetting {
  const { lines, hangPt } = fitted?.opened ?? openLines(block, dressed, faces);
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

  const look = lookOf(block);
  const own = new Map(block.lineIndents.map(({ at, byPt }) => [at, byPt]));
  const set = lines.slice(0, shown).map((open, i): SetLine => {
    const { runsLeft } = open.surroundings.paragraph;
    const fit = fitted?.fits.get(i);
    const beforePt = hangPt + open.indentPt;
    // A line that is fitted to a place of the sheet stands there, wherever its frame does.
    const { leftPt: roomLeft, widthPt: room } = (fit && fitted?.span) ?? { leftPt: frame.xPt + (runsLeft ? 0 : beforePt), widthPt: frame.widthPt - beforePt };
    const ended = cut && i === shown - 1 ? withEllipsis(open.surroundings, open.line, open.hand, open.endedPt) : undefined;
    const line = ended?.line ?? open.line;
    const ellipsisPt = ended ? ended.gapPt + ended.ellipsis.widthPt : 0;
    const seenBy = (fit && fitted?.look) ?? look;
    const edges = seenBy && !ended ? edgesOf(block.words, { start: line.start, end: line.visibleEnd }, standingIn(line), seenBy, open.first) : undefined;
    // What hangs outside the edges is not among what fills the room.
    const outsidePt = edges ? edges.leftPt + line.widthPt - edges.rightPt : 0;
    const full = block.align === 'justified' && !ended && !fit && (!open.last || block.justify.last === 'full');
    const filled = full ? justify(block.words, line, room + outsidePt, block.justify) : line;
    const width = filled.widthPt + ellipsisPt;
    const { baseline = 0, leadingPt = 0, sizePt = 0 } = stacked[i] ?? {};
    const baselinePt = topPt + baseline;
    const byPt = own.get(open.start) ?? 0;
    // What begins a paragraph, and what ends a cut line, stands where its words begin and end.
    const plainPt = roomLeft + indentOf(block.align, room, width);
    const wider = filled.widthPt - line.widthPt;
    const leftPt = byPt + (edges ? roomLeft + alignedTo(block, edges, wider, room) : plainPt);
    const runs = placeRuns(filled.runs, runsLeft ? leftPt + ellipsisPt : leftPt, baselinePt);
    if (ended) runs.push(placeLone(ended.ellipsis, line.visibleEnd, { leftPt: runsLeft ? leftPt : leftPt + filled.widthPt + ended.gapPt, baselinePt }));
    const { start, end, visibleEnd } = line;
    const placed: SetLine = { start, end, visibleEnd, leftPt, widthPt: width, baselinePt, leadingPt, sizePt, runs };
    if (edges) placed.edges = { leftPt: leftPt + edges.leftPt, rightPt: leftPt + edges.rightPt + wider };
    if (leftPt !== plainPt) placed.offsetPt = leftPt - plainPt;
    if (fit) placed.fit = fit;
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
    ...(fitted?.missingHeightPt === undefined ? {} : { missingHeightPt: fitted.missingHeightPt }),
    frame,
    heightPt,
    cut,
    reducedCaps: lines.some(({ line }) => line.runs.some(({ style, instance }) => style.case === 'small' && !hasSmallCaps(instance))),
    wordSpaceMilliem: ownWordSpace(block, faces),
    missingFaces: facesOf(block).filter((id) => !faces.has(id)),
  };
}

function ownWordSpace(block: Block, faces: FaceSet): number | undefined {
  const instance = faces.instance(block.style);
  const space = instance.nominalGlyph(0x20);
  return space === undefined ? undefined : (instance.advance(space) * 1000) / instance.unitsPerEm;
}
