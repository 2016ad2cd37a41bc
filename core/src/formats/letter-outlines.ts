/** The outlines of chosen letters as SVG path data, where they stand on their sheet. */
import { pathData } from '../face';
import type { Block, WordRange } from '../job';
import { middleOf } from '../placing';
import { type BlockSetting, type FaceSet, type Matrix, compose, glyphMatrix, runsOfLine } from '../setting';
import { COORDINATE_DIGITS } from './xml';

/**
 * One path for all letters that stand for ranges of the words; a ligature belongs to each of its letters.
 * @returns path data in points from the sheet's top left, the block's turn included; empty where the letters show nothing.
 */
export function letterOutlines(block: Block, { lines, frame }: BlockSetting, ranges: readonly WordRange[], faces: FaceSet): string {
  const turn = turnOf(block, middleOf(frame));
  const parts: string[] = [];
  for (const line of lines) {
    const runs = runsOfLine(line).filter(({ start, end }) => end > start);
    const starts = [...new Set(runs.flatMap(({ glyphs }) => glyphs.map(({ cluster }) => cluster)))].sort((a, b) => a - b);
    const ends = new Map(starts.map((start, i) => [start, starts[i + 1] ?? line.visibleEnd]));
    for (const run of runs) {
      const instance = faces.instance(run.style);
      for (const glyph of run.glyphs) {
        const end = ends.get(glyph.cluster) ?? glyph.cluster + 1;
        if (!ranges.some((range) => range.start < end && range.end > glyph.cluster)) continue;
        const placed = glyphMatrix(glyph, run);
        parts.push(pathData(instance.outline(glyph.glyphId), turn ? compose(turn, placed) : placed, COORDINATE_DIGITS));
      }
    }
  }
  return parts.filter((part) => part !== '').join('');
}

function turnOf({ rotationDeg }: Block, { xPt, yPt }: { xPt: number; yPt: number }): Matrix | undefined {
  if (rotationDeg === 0) return undefined;
  const [cos, sin] = [Math.cos((rotationDeg * Math.PI) / 180), Math.sin((rotationDeg * Math.PI) / 180)];
  return { a: cos, b: sin, c: -sin, d: cos, e: xPt - cos * xPt + sin * yPt, f: yPt - sin * xPt - cos * yPt };
}
