/**
 * Setting: words and style become lines of placed glyphs. Positions inside a run are sums of whole numbers (font units and
 * tenths of 1/1000 em), scaled to points once. From here on y grows downwards.
 */
import type { Block, Sheet, Style } from '../job';
import { styleAt } from '../job';
import { type Align, leadingPoints } from '../units';
import { type LineRange, breakGreedily, isSpace } from './breaking';
import type { FaceSet } from './faces';
import { type ShapedRun, shapeRange } from './shaping';

/** A glyph on the sheet. */
export interface PlacedGlyph {
  glyphId: number;
  /** Offset in the block's words of the first letter it stands for. */
  cluster: number;
  /** Where its origin stands, in points from the sheet's left and top. */
  xPt: number;
  yPt: number;
  /** Where the pen stood: `xPt` without the font's own x offset (marks have one). */
  penPt: number;
}

/** Glyphs of one style on one line. */
export interface PlacedRun {
  start: number;
  end: number;
  style: Style;
  /** Points per font unit. */
  scale: number;
  glyphs: PlacedGlyph[];
}

/** One line of a block. Lengths in points, from the sheet's left and top. */
export interface SetLine extends LineRange {
  leftPt: number;
  /** From the first letter's origin to the end of the last letter's advance. */
  widthPt: number;
  baselinePt: number;
  /** Distance to the baseline above that this line asks for. */
  leadingPt: number;
  /** Largest type size on the line. */
  sizePt: number;
  runs: PlacedRun[];
}

/** A block as it stands on the sheet; plain data. */
export interface BlockSetting {
  blockId: string;
  lines: SetLine[];
  /** From the frame's top to the deepest descender, in points. */
  heightPt: number;
  /** Faces the job names that are not here; a stand-in was used. */
  missingFaces: string[];
}

/** Sets one block. Pure but for the faces' caches. */
export function setBlock(block: Block, faces: FaceSet): BlockSetting {
  const lines: SetLine[] = [];
  let baseline = block.frame.yPt;
  let bottom = baseline;
  for (const paragraph of paragraphs(block.words)) {
    for (const line of setParagraph(block, paragraph, faces)) {
      const style = styleAt(block, line.start);
      const styles = line.runs.length > 0 ? line.runs.map((run) => run.style) : [style];
      line.sizePt = Math.max(...styles.map(({ sizePt }) => sizePt));
      line.leadingPt = leadingPoints(block.leading, line.sizePt);
      baseline += lines.length === 0 ? extreme(styles, faces, 'ascender') : line.leadingPt;
      line.baselinePt = baseline;
      line.leftPt = block.frame.xPt + indent(block.align, block.frame.widthPt, line.widthPt);
      for (const run of line.runs) {
        for (const glyph of run.glyphs) {
          glyph.xPt += line.leftPt;
          glyph.penPt += line.leftPt;
          glyph.yPt += baseline;
        }
      }
      bottom = Math.max(bottom, baseline - extreme(styles, faces, 'descender'));
      lines.push(line);
    }
  }
  return { blockId: block.id, lines, heightPt: bottom - block.frame.yPt, missingFaces: missingFaces(block, faces) };
}

/** Sets every block of a sheet, in painting order. */
export function setSheet(sheet: Sheet, faces: FaceSet): BlockSetting[] {
  return sheet.blocks.map((block) => setBlock(block, faces));
}

/** All faces a block names. */
export function facesOf(block: Block): string[] {
  return [...new Set([block.style.faceId, ...block.runs.flatMap(({ style }) => style.faceId ?? [])])];
}

/** The hard-broken paragraphs of a text; a line feed belongs to neither side. */
export function paragraphs(words: string): { start: number; end: number }[] {
  const found: { start: number; end: number }[] = [];
  let start = 0;
  for (;;) {
    const feed = words.indexOf('\n', start);
    found.push({ start, end: feed < 0 ? words.length : feed });
    if (feed < 0) return found;
    start = feed + 1;
  }
}

function missingFaces(block: Block, faces: FaceSet): string[] {
  return facesOf(block).filter((id) => !faces.has(id));
}

function extreme(styles: readonly Style[], faces: FaceSet, metric: 'ascender' | 'descender'): number {
  const values = styles.map((style) => {
    const instance = faces.instance(style);
    return (instance.metrics[metric] * style.sizePt) / instance.unitsPerEm;
  });
  return metric === 'ascender' ? Math.max(...values) : Math.min(...values);
}

function indent(align: Align, measure: number, width: number): number {
  if (align === 'left') return 0;
  return align === 'centre' ? (measure - width) / 2 : measure - width;
}

/** Lines of one paragraph, placed from x = 0 on a baseline at y = 0. */
function setParagraph(block: Block, paragraph: { start: number; end: number }, faces: FaceSet): SetLine[] {
  const whole = shapeRange(block, paragraph, paragraph, faces);
  const hand = new Map(block.hand.map(({ at, milliem }) => [at, Math.round(milliem * 10)]));
  const advances = advancesByOffset(block.words, paragraph, whole, hand);
  const ranges = breakGreedily(block.words, paragraph.start, paragraph.end, advances.width, block.frame.widthPt);
  return ranges.map((range) => {
    const visible = { start: range.start, end: range.visibleEnd };
    const cut = ranges.length > 1 || range.visibleEnd < range.end;
    const runs = !cut ? whole : (slice(whole, visible) ?? shapeRange(block, paragraph, visible, faces));
    const { placed, widthPt } = placeRuns(block.words, runs, hand);
    return { ...range, leftPt: 0, widthPt, baselinePt: 0, leadingPt: 0, sizePt: 0, runs: placed };
  });
}

/** Part of shaped runs, or undefined where the font says that it can't be cut there without shaping anew. */
function slice(runs: readonly ShapedRun[], range: { start: number; end: number }): ShapedRun[] | undefined {
  const out: ShapedRun[] = [];
  for (const run of runs) {
    if (run.end <= range.start || run.start >= range.end) continue;
    if (run.start >= range.start && run.end <= range.end) {
      out.push(run);
      continue;
    }
    const backwards = isBackwards(run);
    if (backwards) return undefined;
    const from = run.glyphs.findIndex((glyph) => glyph.cluster >= range.start);
    const past = run.glyphs.findIndex((glyph) => glyph.cluster >= range.end);
    if (from < 0) continue;
    if (run.start < range.start && run.glyphs[from]?.unsafeToBreak) return undefined;
    if (past >= 0 && run.glyphs[past]?.unsafeToBreak) return undefined;
    const glyphs = run.glyphs.slice(from, past < 0 ? undefined : past);
    out.push({ ...run, start: Math.max(run.start, range.start), end: Math.min(run.end, range.end), glyphs });
  }
  return out;
}

function isBackwards(run: ShapedRun): boolean {
  const first = run.glyphs[0];
  const last = run.glyphs[run.glyphs.length - 1];
  return first !== undefined && last !== undefined && first.cluster > last.cluster;
}

/** What stands between a letter and the next besides the font's advance, in tenths of 1/1000 em. */
function extraTenths(words: string, cluster: number, tracking: number, wordSpace: number): number {
  return wordSpace !== 0 && isSpace(words.charAt(cluster)) ? tracking + wordSpace : tracking;
}

/** Widths of stretches of a paragraph from running sums over its letters in reading order. */
function advancesByOffset(
  words: string,
  paragraph: { start: number; end: number },
  runs: readonly ShapedRun[],
  hand: ReadonlyMap<number, number>,
): { width: (start: number, end: number) => number } {
  const length = paragraph.end - paragraph.start;
  const sums = new Float64Array(length + 1);
  /** What stands after a letter only when another follows on the line: its tracking and hand kerning. */
  const trailing = new Float64Array(length + 1);
  for (const { glyphs, style, instance } of runs) {
    const scale = style.sizePt / instance.unitsPerEm;
    const em = style.sizePt / 10000;
    const tracking = Math.round(style.trackingMilliem * 10);
    const wordSpace = Math.round(style.wordSpaceMilliem * 10);
    let previous = -1;
    for (const glyph of glyphs) {
      const at = glyph.cluster - paragraph.start + 1;
      sums[at] = (sums[at] ?? 0) + glyph.xAdvance * scale;
      if (glyph.cluster === previous) continue;
      previous = glyph.cluster;
      const extra = extraTenths(words, glyph.cluster, tracking, wordSpace) * em;
      sums[at] += extra;
      trailing[at] = tracking * em;
    }
  }
  for (let i = 1; i <= length; i++) if (trailing[i] === 0) trailing[i] = trailing[i - 1] ?? 0;
  for (const [at, tenths] of hand) {
    if (at <= paragraph.start || at >= paragraph.end) continue;
    const left = runs.find((run) => run.start < at && run.end >= at);
    if (!left) continue;
    const i = at - paragraph.start;
    const pt = (tenths * left.style.sizePt) / 10000;
    sums[i] = (sums[i] ?? 0) + pt;
    trailing[i] = (trailing[i] ?? 0) + pt;
  }
  for (let i = 1; i <= length; i++) sums[i] = (sums[i] ?? 0) + (sums[i - 1] ?? 0);
  return {
    width: (start, end) => {
      if (end <= start) return 0;
      const to = end - paragraph.start;
      return (sums[to] ?? 0) - (sums[start - paragraph.start] ?? 0) - (trailing[to] ?? 0);
    },
  };
}

/** Places the glyphs of one line from x = 0, and measures it. */
function placeRuns(words: string, runs: readonly ShapedRun[], hand: ReadonlyMap<number, number>): { placed: PlacedRun[]; widthPt: number } {
  const placed: PlacedRun[] = [];
  let startPt = 0;
  let lastTrackingPt = 0;
  runs.forEach((run, runIndex) => {
    const { style, instance, glyphs } = run;
    const em = instance.unitsPerEm;
    const scale = style.sizePt / em;
    const toPoints = style.sizePt / (em * 10000);
    const tracking = Math.round(style.trackingMilliem * 10);
    const wordSpace = Math.round(style.wordSpaceMilliem * 10);
    const out = new Array<PlacedGlyph>(glyphs.length);
    let pen = 0; // font units x 10,000: a whole number
    for (let i = 0; i < glyphs.length; i++) {
      const glyph = glyphs[i];
      if (!glyph) continue;
      const penPt = startPt + pen * toPoints;
      out[i] = {
        glyphId: glyph.glyphId,
        cluster: glyph.cluster,
        xPt: glyph.xOffset === 0 ? penPt : startPt + (pen + glyph.xOffset * 10000) * toPoints,
        yPt: glyph.yOffset === 0 ? 0 : -glyph.yOffset * scale,
        penPt,
      };
      pen += glyph.xAdvance * 10000;
      const next = glyphs[i + 1]?.cluster ?? runs[runIndex + 1]?.glyphs[0]?.cluster;
      if (next === glyph.cluster) continue;
      let extra = extraTenths(words, glyph.cluster, tracking, wordSpace);
      if (next !== undefined && hand.size > 0) extra += hand.get(Math.max(next, glyph.cluster)) ?? 0;
      pen += extra * em;
    }
    placed.push({ start: run.start, end: run.end, style, scale, glyphs: out });
    startPt += pen * toPoints;
    if (glyphs.length > 0) lastTrackingPt = tracking * em * toPoints;
  });
  return { placed, widthPt: startPt - lastTrackingPt };
}
