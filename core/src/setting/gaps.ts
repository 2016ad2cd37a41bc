/** Gaps: what stands between two neighbouring letters of a line, and why. */
import { type Block, handAt } from '../job';
import { milliemToPoints, roundMilliem } from '../units';
import { isSpace } from './breaking';
import type { FaceSet } from './faces';
import type { SetLine } from './setting';
import { paragraphs } from './setting';
import { type KerningMode, shapeRange } from './shaping';

/** A place between two letters of a line. */
export interface GapPlace {
  /** Offset in the words: the anchor of a hand value. */
  at: number;
  /** Where the letter on the right begins, in points from the sheet's left. */
  xPt: number;
}

/** The gaps of a line from left to right. A ligature counts as one letter. */
export function gapsOf(line: SetLine): GapPlace[] {
  const gaps: GapPlace[] = [];
  let previous: number | undefined;
  for (const run of line.runs) {
    for (const glyph of run.glyphs) {
      if (previous !== undefined && glyph.cluster !== previous) gaps.push({ at: Math.max(glyph.cluster, previous), xPt: glyph.xPt - glyph.offsetPt });
      previous = glyph.cluster;
    }
  }
  return gaps;
}

/** Everything a gap holds. Values in 1/1000 em refer to the size of the letter on the left. */
export interface GapLedger extends GapPlace {
  /** The letters on both sides, in visual order, as offsets into the words. */
  left: { start: number; end: number };
  right: { start: number; end: number };
  /** What the font's own kerning holds for this pair, whether or not it is applied. */
  fontMilliem: number;
  /** True where the style takes kerning from the font. */
  fontApplied: boolean;
  handMilliem: number;
  /** Font (where applied) and hand together. */
  totalMilliem: number;
  totalPt: number;
  trackingMilliem: number;
  /** Size of the letter on the left, in points. */
  sizePt: number;
  /** True where one side is a word space. */
  atSpace: boolean;
}

/** The ledgers of all gaps of a line. Shapes the line twice, with and without the font's kerning. */
export function ledgersOf(block: Block, line: SetLine, faces: FaceSet): GapLedger[] {
  const paragraph = paragraphs(block.words).find(({ start, end }) => start <= line.start && line.end <= end);
  if (!paragraph) return [];
  const range = { start: line.start, end: line.visibleEnd };
  const kerned = letterPositions(block, paragraph, range, faces, 'with');
  const bare = letterPositions(block, paragraph, range, faces, 'without');
  const places = gapsOf(line);
  const ledgers: GapLedger[] = [];
  for (let i = 0; i + 1 < kerned.length; i++) {
    const [left, right, bareLeft, bareRight] = [kerned[i], kerned[i + 1], bare[i], bare[i + 1]];
    const place = places[i];
    if (!left || !right || !place) continue;
    const sameRun = left.run === right.run;
    const comparable = sameRun && bareLeft?.cluster === left.cluster && bareRight?.cluster === right.cluster;
    const fontUnits = comparable ? right.x - left.x - (bareRight.x - bareLeft.x) : 0;
    const { style, unitsPerEm } = left;
    const fontMilliem = roundMilliem((fontUnits * 1000) / unitsPerEm);
    const fontApplied = style.kerning === 'font';
    const handMilliem = handAt(block, place.at);
    const totalMilliem = roundMilliem((fontApplied ? fontMilliem : 0) + handMilliem);
    ledgers.push({
      ...place,
      left: { start: left.cluster, end: left.end },
      right: { start: right.cluster, end: right.end },
      fontMilliem,
      fontApplied,
      handMilliem,
      totalMilliem,
      totalPt: milliemToPoints(totalMilliem, style.sizePt),
      trackingMilliem: style.trackingMilliem,
      sizePt: style.sizePt,
      atSpace: isSpace(block.words.charAt(left.cluster)) || isSpace(block.words.charAt(right.cluster)),
    });
  }
  return ledgers;
}

/** Where the letters of a stretch stand, in font units of their own run. */
function letterPositions(block: Block, paragraph: { start: number; end: number }, range: { start: number; end: number }, faces: FaceSet, kerning: KerningMode) {
  const letters = shapeRange(block, paragraph, range, faces, kerning).flatMap((run, index) => {
    let pen = 0;
    const found: { cluster: number; end: number; x: number; widest: number; run: number; style: typeof run.style; unitsPerEm: number }[] = [];
    for (const glyph of run.glyphs) {
      const last = found[found.length - 1];
      const x = pen + glyph.xOffset;
      if (last?.cluster !== glyph.cluster) {
        found.push({ cluster: glyph.cluster, end: run.end, x, widest: glyph.xAdvance, run: index, style: run.style, unitsPerEm: run.instance.unitsPerEm });
      } else if (glyph.xAdvance > last.widest) {
        last.x = x; // the base of a letter with marks
        last.widest = glyph.xAdvance;
      }
      pen += glyph.xAdvance;
    }
    return found;
  });
  const starts = letters.map(({ cluster }) => cluster).sort((a, b) => a - b);
  for (const letter of letters) letter.end = starts[starts.indexOf(letter.cluster) + 1] ?? range.end;
  return letters;
}
