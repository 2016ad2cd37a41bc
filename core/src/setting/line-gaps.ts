/** The white between neighbouring lines, by ink: how near they come, where, and what would make it even. Points, y down. */
import { type FaceInstance, flatten } from '../face';
import type { Block, Style } from '../job';
import type { FaceSet } from './faces';
import { glyphMatrix, inkOfGlyph } from './ink';
import { type BlockSetting, type SetLine, straightLines } from './block-setting';

export interface LineGap {
  /** First letter of the lower line: the anchor of its own leading. */
  at: number;
  /** Baseline to baseline. */
  baselinePt: number;
  /** Smallest clear distance between the inks straight up and down; negative where they overlap, undefined where nothing faces. */
  clearPt: number | undefined;
  /** Where that is on the sheet. */
  xPt: number;
  yPt: number;
  /** Mean white between the upper line's lower edge and the lower line's upper edge; baseline and x-height stand in where a line has no ink. */
  whitePt: number;
  /** From the upper baseline to the cap line of the lower line, where both are flat: capitals or figures. */
  flatPt?: number;
}

/** The measure of white between lines to even out: the mean of all ink, or flat edges alone, from cap line to baseline. */
export type EvenBy = 'ink' | 'flat';

/** Ink edges are read in columns this wide, as a share of the type size. */
const COLUMN = 1 / 40;

interface InkEdges {
  top: Float64Array;
  bottom: Float64Array;
}

const glyphEdges = new WeakMap<FaceInstance, Map<number, InkEdges & { left: number; step: number }>>();

/** Upper and lower edge of a glyph, column by column, in em, y up. */
function inkEdgesOf(instance: FaceInstance, glyphId: number): (InkEdges & { left: number; step: number }) | undefined {
  let cache = glyphEdges.get(instance);
  if (!cache) {
    cache = new Map();
    glyphEdges.set(instance, cache);
  }
  const known = cache.get(glyphId);
  if (known) return known;
  const bounds = instance.inkBounds(glyphId);
  if (!bounds) return undefined;
  const em = 1 / instance.unitsPerEm;
  const left = bounds.xMin * em;
  const count = Math.min(400, Math.max(1, Math.ceil((bounds.xMax - bounds.xMin) * em * (1 / COLUMN) * 2)));
  const step = ((bounds.xMax - bounds.xMin) * em) / count;
  const top = new Float64Array(count).fill(Number.NEGATIVE_INFINITY);
  const bottom = new Float64Array(count).fill(Number.POSITIVE_INFINITY);
  const reach = (x0: number, y0: number, x1: number, y1: number): void => {
    const from = Math.max(0, Math.min(count - 1, Math.floor((Math.min(x0, x1) - left) / step)));
    const to = Math.max(0, Math.min(count - 1, Math.floor((Math.max(x0, x1) - left) / step)));
    for (let column = from; column <= to; column++) {
      const middle = left + (column + 0.5) * step;
      const t = x1 === x0 ? 0 : Math.min(1, Math.max(0, (middle - x0) / (x1 - x0)));
      for (const y of from === to ? [y0, y1] : [y0 + (y1 - y0) * t]) {
        if (y > (top[column] ?? 0)) top[column] = y;
        if (y < (bottom[column] ?? 0)) bottom[column] = y;
      }
    }
  };
  flatten(instance.outline(glyphId), 8, (x0, y0, x1, y1) => reach(x0 * em, y0 * em, x1 * em, y1 * em));
  const made = { top, bottom, left, step };
  cache.set(glyphId, made);
  return made;
}

/** Columns of the sheet. */
interface Columns {
  fromPt: number;
  stepPt: number;
  count: number;
}

/** The upper or the lower edge of a line over columns of the sheet; infinite where it has no ink. */
function lineEdge(line: SetLine, side: keyof InkEdges, { fromPt, stepPt, count }: Columns, faces: FaceSet): Float64Array {
  // As heights above the sheet's top or below it, so that for both sides the greatest counts.
  const outwards = side === 'top' ? -1 : 1;
  const edge = new Float64Array(count).fill(Number.NEGATIVE_INFINITY);
  for (const run of line.runs) {
    const instance = faces.instance(run.style);
    const em = instance.unitsPerEm;
    for (const glyph of run.glyphs) {
      const edges = inkEdgesOf(instance, glyph.glyphId);
      if (!edges) continue;
      const { a, d, e: xPt, f: yPt } = glyphMatrix(glyph, run);
      const [across, up] = [a * em, -d * em];
      const heights = edges[side];
      for (let i = 0; i < heights.length; i++) {
        const column = Math.floor((xPt + (edges.left + (i + 0.5) * edges.step) * across - fromPt) / stepPt);
        const height = heights[i] ?? Number.NaN;
        if (column < 0 || column >= count || !Number.isFinite(height)) continue;
        const reaches = (yPt - height * up) * outwards;
        if (reaches > (edge[column] ?? 0)) edge[column] = reaches;
      }
    }
  }
  return edge.map((reaches) => reaches * outwards);
}

function xHeightPt(style: Style, faces: FaceSet): number {
  const { metrics, unitsPerEm } = faces.instance(style);
  return (metrics.xHeight / unitsPerEm) * style.sizePt * style.scaleY;
}

/** Tops and feet this near to cap line and baseline are on them, in em: what rounds overshoot and a little more. */
const ON_LINE = 0.035;
/** A line is flat where so many of its letters that are no small marks stand from baseline to cap line. */
const MOST_FLAT = 0.75;

/** How high above its baseline the cap line of a flat line is, in points; undefined for any other line. */
function capLineOf(line: SetLine, faces: FaceSet): number | undefined {
  let [letters, flat] = [0, 0];
  const heights: number[] = [];
  for (const run of line.runs) {
    const instance = faces.instance(run.style);
    const { sizePt, scaleY } = run.style;
    const em = sizePt * scaleY;
    const capital = instance.inkBounds(instance.nominalGlyph(0x48) ?? 0);
    const capLine = ((capital?.yMax ?? instance.metrics.capHeight) / instance.unitsPerEm) * em;
    for (const glyph of run.glyphs) {
      const ink = inkOfGlyph(glyph, run, instance);
      if (!ink) continue;
      const [top, foot] = [line.baselinePt - ink.topPt, line.baselinePt - ink.bottomPt];
      if (top - foot < capLine / 2) continue;
      letters++;
      if (Math.abs(top - capLine) > ON_LINE * em || Math.abs(foot) > ON_LINE * em) continue;
      flat++;
      heights.push(capLine);
    }
  }
  return flat > 0 && flat >= MOST_FLAT * letters ? Math.max(...heights) : undefined;
}

/** The gaps between the lines of a block as set. */
export function lineGapsOf(setting: Pick<BlockSetting, 'lines' | 'straight'>, faces: FaceSet): LineGap[] {
  const lines = straightLines(setting);
  const gaps: LineGap[] = [];
  for (let i = 1; i < lines.length; i++) {
    const upper = lines[i - 1];
    const lower = lines[i];
    if (!upper || !lower) continue;
    const stepPt = Math.max(upper.sizePt, lower.sizePt) * COLUMN;
    const from = Math.max(upper.leftPt, lower.leftPt);
    const to = Math.min(upper.leftPt + upper.widthPt, lower.leftPt + lower.widthPt);
    const count = Math.min(4000, Math.max(1, Math.ceil((to - from) / stepPt)));
    const columns = { fromPt: from, stepPt, count };
    const above = lineEdge(upper, 'bottom', columns, faces);
    const below = lineEdge(lower, 'top', columns, faces);
    const style = lower.runs[0]?.style;
    const xHeight = style ? xHeightPt(style, faces) : lower.sizePt / 2;
    const gap: LineGap = { at: lower.start, baselinePt: lower.baselinePt - upper.baselinePt, clearPt: undefined, xPt: from, yPt: upper.baselinePt, whitePt: 0 };
    let sum = 0;
    for (let column = 0; column < count; column++) {
      const bottom = above[column] ?? Number.NEGATIVE_INFINITY;
      const top = below[column] ?? Number.POSITIVE_INFINITY;
      sum += (Number.isFinite(top) ? top : lower.baselinePt - xHeight) - (Number.isFinite(bottom) ? bottom : upper.baselinePt);
      if (!Number.isFinite(bottom) || !Number.isFinite(top)) continue;
      const clear = top - bottom;
      if (gap.clearPt === undefined || clear < gap.clearPt) {
        gap.clearPt = clear;
        gap.xPt = from + (column + 0.5) * stepPt;
        gap.yPt = (top + bottom) / 2;
      }
    }
    gap.whitePt = sum / count;
    const [upperCap, lowerCap] = [capLineOf(upper, faces), capLineOf(lower, faces)];
    if (upperCap !== undefined && lowerCap !== undefined) gap.flatPt = gap.baselinePt - lowerCap;
    gaps.push(gap);
  }
  return gaps;
}

/** By what the eye compares the lines: flat edges where all are flat, else ink. */
export const evenedBy = (gaps: readonly LineGap[]): EvenBy => (gaps.length > 0 && gaps.every(({ flatPt }) => flatPt !== undefined) ? 'flat' : 'ink');

/** The white of a gap by what it is compared by; by ink where it has no flat edges. */
export const whiteBy = ({ whitePt, flatPt }: LineGap, by: EvenBy): number => (by === 'flat' ? (flatPt ?? whitePt) : whitePt);

/**
 * An edit of `lineLeading` that makes the white between all lines the mean of what it is now.
 * @param by what white is compared by; by default as the lines are.
 */
export function evenOut(block: Block, gaps: readonly LineGap[], by = evenedBy(gaps)): Block['lineLeading'] {
  if (gaps.length < 2) return block.lineLeading;
  const whites = gaps.map((gap) => whiteBy(gap, by));
  const mean = whites.reduce((sum, white) => sum + white, 0) / gaps.length;
  return gaps
    .map(({ at }, i) => ({
      at,
      byPt: Math.round(((block.lineLeading.find((own) => own.at === at)?.byPt ?? 0) + mean - (whites[i] ?? mean)) * 1000) / 1000,
    }))
    .filter(({ byPt }) => byPt !== 0)
    .sort((a, b) => a.at - b.at);
}

/** One level of size on a sheet, and how it stands to the next smaller. */
export interface SizeLevel {
  sizePt: number;
  /** The first words in it. */
  words: string;
  /** Size over the next smaller; undefined for the smallest. */
  ratio: number | undefined;
  /** Too near to the next to be told apart. */
  close: boolean;
}

/** Two levels nearer than this look like a mistake, not like two levels. */
const APART = 1.2;

/** The sizes on a sheet from large to small. */
export function hierarchyOf(blocks: readonly Block[]): SizeLevel[] {
  const first = new Map<number, string>();
  for (const { style, words } of blocks) {
    const size = Math.round(style.sizePt * style.scaleY * 100) / 100;
    if (!first.has(size)) first.set(size, words.split('\n')[0] ?? '');
  }
  const levels = [...first].sort((a, b) => b[0] - a[0]);
  return levels.map(([sizePt, words], i) => {
    const next = levels[i + 1]?.[0];
    const ratio = next === undefined ? undefined : sizePt / next;
    return { sizePt, words, ratio, close: ratio !== undefined && ratio < APART };
  });
}
