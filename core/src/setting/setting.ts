/**
 * Setting: words and style become lines of placed glyphs. Positions inside a run are sums of whole numbers (font units and
 * tenths of 1/1000 em), scaled to points once. From here on y grows downwards.
 */
import type { FaceInstance, FaceMetrics, ShapedGlyph } from '../face';
import type { Block, Frame, Sheet, Style } from '../job';
import { graphemeBoundaries, styleAt } from '../job';
import { firstIndex } from '../ordered';
import { type Align, leadingPoints } from '../units';
import { type LineRange, breakGreedily, isSpace, trimEnd } from './breaking';
import { type Box, joined } from './box';
import type { FaceSet } from './faces';
import { hasSmallCaps } from './letter-case';
import { kernByShape } from './shape-kerning';
import { inVisualOrder } from './bidi';
import type { Stretch } from './itemise';
import { type ShapedItem, type ShapedRun, runsOf, shapeItems, shapeRange } from './shaping';

/** A glyph on the sheet. */
export interface PlacedGlyph {
  glyphId: number;
  /** Offset in the block's words of the first letter it stands for. */
  cluster: number;
  /** Where its origin stands, in points from the sheet's left and top. */
  xPt: number;
  yPt: number;
  /** The font's own x offset within `xPt`, which marks have: without it, `xPt` is where the pen stood. */
  offsetPt: number;
}

/** Glyphs of one style on one line. */
export interface PlacedRun {
  start: number;
  end: number;
  style: Style;
  /** Points per font unit: upright, and across. */
  scale: number;
  xScale: number;
  glyphs: PlacedGlyph[];
  /** Underline and strike-through, from the font's own metrics. */
  rules: Rule[];
}

/** A straight rule on the sheet, in points. */
export interface Rule {
  xPt: number;
  yPt: number;
  widthPt: number;
  heightPt: number;
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
  /** The mark of a list before the line's first letter. */
  mark?: PlacedRun;
}

/** A block as it stands on the sheet; plain data. Lines are not turned: the block's rotation turns all of it around the middle of `frame`. */
export interface BlockSetting {
  blockId: string;
  lines: SetLine[];
  /** The frame as the words have made it: as stated where it is fixed, else as wide or as high as they need. */
  frame: Frame;
  /** From the frame's top to the lower end of the last line, in points. */
  heightPt: number;
  /** True where a fixed frame cuts words off; the last line then ends with an ellipsis. */
  cut: boolean;
  /** True where small capitals had to be made by reducing capitals. */
  reducedCaps: boolean;
  /** The face's own word space in 1/1000 em, where it has a space. */
  wordSpaceMilliem: number | undefined;
  /** Faces the job names that are not here; a stand-in was used. */
  missingFaces: string[];
}

/** A line shaped and measured, not placed yet. */
interface ShapedLine extends LineRange {
  runs: readonly ShapedRun[];
  widthPt: number;
}

/** White between a list mark and its words, in em. */
const MARK_GAP = 0.4;

/** Sets one block. Pure but for the faces' caches. */
export function setBlock(block: Block, faces: FaceSet): BlockSetting {
  const hand: HandTenths = new Map(block.hand.map(({ at, milliem }) => [at, Math.round(milliem * 10)]));
  const texts = paragraphs(block.words);
  const marks = listMarks(block, texts, faces);
  const measure = block.grow === 'both' ? Number.POSITIVE_INFINITY : Math.max(0, block.frame.widthPt - marks.hangPt);
  const { indentPt, beforePt, afterPt } = block.paragraph;
  const lineLeading = new Map(block.lineLeading.map(({ at, byPt }) => [at, byPt]));

  /** Lines with baselines counted from the frame's top, and their indents; not placed yet. */
  const stacked: { shaped: ShapedLine; baseline: number; leadingPt: number; sizePt: number; indentPt: number; mark: Mark | undefined; bottom: number }[] = [];
  let baseline = 0;
  texts.forEach((paragraph, p) => {
    shapeParagraph(block, paragraph, hand, faces, measure, indentPt).forEach((shaped, i) => {
      const styles = shaped.runs.length > 0 ? shaped.runs.map((run) => run.style) : [styleAt(block, shaped.start)];
      let sizePt = 0;
      for (const style of styles) sizePt = Math.max(sizePt, style.sizePt);
      const leadingPt = leadingPoints(block.leading, sizePt);
      if (stacked.length === 0) baseline = extreme(styles, faces, block.trim ? 'capHeight' : 'ascender');
      else baseline += leadingPt + (lineLeading.get(shaped.start) ?? 0) + (i === 0 ? beforePt + afterPt : 0);
      const bottom = block.trim ? baseline : baseline - extreme(styles, faces, 'descender');
      stacked.push({ shaped, baseline, leadingPt, sizePt, indentPt: i === 0 ? indentPt : 0, mark: i === 0 ? marks.marks[p] : undefined, bottom });
    });
  });

  const fitting = block.grow === 'fixed' ? Math.max(1, stacked.filter(({ bottom }) => bottom <= block.frame.heightPt + 0.001).length) : stacked.length;
  const cut = fitting < stacked.length;
  const kept = stacked.slice(0, fitting);
  const heightPt = kept.reduce((most, { bottom }) => Math.max(most, bottom), 0);
  const frame = grownFrame(block, marks.hangPt, heightPt, kept.map(({ shaped, indentPt: own }) => shaped.widthPt + own)); // prettier-ignore
  const slack = block.grow === 'fixed' ? frame.heightPt - heightPt : 0;
  const topPt = frame.yPt + (block.vertical === 'top' ? 0 : block.vertical === 'middle' ? slack / 2 : slack);

  const lines = kept.map(({ shaped, baseline: below, leadingPt, sizePt, indentPt: own, mark }, i): SetLine => {
    const last = cut && i === kept.length - 1 ? withEllipsis(block, shaped, hand, faces, measure - own) : undefined;
    const { start, end, visibleEnd, widthPt, runs } = last?.line ?? shaped;
    const baselinePt = topPt + below;
    const room = frame.widthPt - marks.hangPt - own;
    const leftPt = frame.xPt + marks.hangPt + own + indent(block.align, room, widthPt + (last?.ellipsis.widthPt ?? 0));
    const placed = placeRuns(block.words, runs, hand, leftPt, baselinePt);
    if (last) placed.push(placeText(last.ellipsis, visibleEnd, leftPt + widthPt, baselinePt));
    const line: SetLine = { start, end, visibleEnd, leftPt, widthPt: widthPt + (last?.ellipsis.widthPt ?? 0), baselinePt, leadingPt, sizePt, runs: placed };
    if (mark) line.mark = placeText(mark, start, leftPt - mark.gapPt - mark.widthPt, baselinePt);
    return line;
  });
  return {
    blockId: block.id,
    lines,
    frame,
    heightPt,
    cut,
    reducedCaps: stacked.some(({ shaped }) => shaped.runs.some(({ style, instance }) => style.case === 'small' && !hasSmallCaps(instance))),
    wordSpaceMilliem: ownWordSpace(block, faces),
    missingFaces: missingFaces(block, faces),
  };
}

/** A short text set by itself: a list mark or an ellipsis. */
interface LoneText {
  style: Style;
  scale: number;
  xScale: number;
  glyphs: readonly ShapedGlyph[];
  widthPt: number;
}
interface Mark extends LoneText {
  gapPt: number;
}

function shapeLone(text: string, style: Style, faces: FaceSet): LoneText {
  const instance = faces.instance(style);
  const glyphs = instance.shape(text, 0, text.length);
  const em = style.sizePt / instance.unitsPerEm;
  const xScale = em * style.scaleX;
  return { style, scale: em * style.scaleY, xScale, glyphs, widthPt: glyphs.reduce((sum, { xAdvance }) => sum + xAdvance, 0) * xScale };
}

function placeText({ style, scale, xScale, glyphs }: LoneText, at: number, leftPt: number, baselinePt: number): PlacedRun {
  let pen = 0;
  const placed = glyphs.map(({ glyphId, xAdvance, xOffset, yOffset }): PlacedGlyph => {
    const glyph = { glyphId, cluster: at, xPt: leftPt + (pen + xOffset) * xScale, yPt: baselinePt - yOffset * scale, offsetPt: xOffset * xScale };
    pen += xAdvance;
    return glyph;
  });
  return { start: at, end: at, style, scale, xScale, glyphs: placed, rules: [] };
}

/** The marks of a list, one a paragraph (none before an empty one), and how far its words stand in for them. */
function listMarks(block: Block, texts: readonly Stretch[], faces: FaceSet): { marks: (Mark | undefined)[]; hangPt: number } {
  const { list } = block.paragraph;
  if (list === 'none') return { marks: [], hangPt: 0 };
  let count = 0;
  const marks = texts.map(({ start, end }) => {
    if (end === start) return undefined;
    count++;
    const style = styleAt(block, start);
    return { ...shapeLone(list === 'bullet' ? '•' : `${count}.`, style, faces), gapPt: MARK_GAP * style.sizePt };
  });
  return { marks, hangPt: marks.reduce((most, mark) => Math.max(most, mark ? mark.widthPt + mark.gapPt : 0), 0) };
}

/** A line shortened until an ellipsis fits behind it. */
function withEllipsis(block: Block, shaped: ShapedLine, hand: HandTenths, faces: FaceSet, measure: number): { line: ShapedLine; ellipsis: LoneText } {
  const { start } = shaped;
  const ellipsis = shapeLone('…', styleAt(block, Math.max(start, shaped.visibleEnd - 1)), faces);
  const paragraph = paragraphAt(block.words, start);
  const ends = [...graphemeBoundaries(block.words.slice(start, shaped.visibleEnd)).map((at) => at + start), shaped.visibleEnd];
  const upTo = (visibleEnd: number): ShapedLine => {
    if (visibleEnd === shaped.visibleEnd) return shaped;
    const runs = inVisualOrder(shapeRange(block, paragraph, { start, end: visibleEnd }, faces));
    kernByShape(runs);
    return { ...shaped, visibleEnd, runs, widthPt: widthOf(block.words, runs, hand) };
  };
  // No blank stands before the ellipsis. Lines grow with their letters, so the longest that fits is found by halving.
  const candidates = ends.filter((at) => !isSpace(block.words.charAt(at - 1)));
  let best: ShapedLine = { ...shaped, visibleEnd: start, runs: [], widthPt: 0 };
  let [low, high] = [0, candidates.length - 1];
  while (low <= high) {
    // The whole line is tried first: most often it is the one.
    const middle = high === candidates.length - 1 && low === 0 ? high : (low + high) >> 1;
    const line = upTo(candidates[middle] ?? start);
    if (line.widthPt + ellipsis.widthPt <= measure) {
      best = line;
      low = middle + 1;
    } else high = middle - 1;
  }
  return { line: best, ellipsis };
}

/** The frame as its words make it. Growing in both directions keeps the edge (or middle) that the lines align to. */
function grownFrame(block: Block, hangPt: number, heightPt: number, widths: readonly number[]): Frame {
  const { frame, grow, align } = block;
  if (grow === 'fixed') return frame;
  if (grow === 'down') return { ...frame, heightPt };
  const widthPt = Math.max(1, hangPt + Math.max(0, ...widths));
  const spare = frame.widthPt - widthPt;
  return { xPt: frame.xPt + indent(align, frame.widthPt, widthPt), yPt: frame.yPt, widthPt: frame.widthPt - spare, heightPt };
}

/** The box around a placed glyph's ink, not turned; undefined where it has none. */
export function inkOfGlyph({ glyphId, xPt, yPt }: PlacedGlyph, { scale, xScale }: PlacedRun, instance: FaceInstance): Box | undefined {
  const ink = instance.inkBounds(glyphId);
  return ink && { leftPt: xPt + ink.xMin * xScale, topPt: yPt - ink.yMax * scale, rightPt: xPt + ink.xMax * xScale, bottomPt: yPt - ink.yMin * scale };
}

/** The box around the ink of a block, not turned; undefined where there is none. */
export function inkOf({ lines }: Pick<BlockSetting, 'lines'>, faces: FaceSet): Box | undefined {
  const runs = lines.flatMap(({ runs, mark }) => (mark ? [mark, ...runs] : runs));
  return joined(runs.flatMap((run) => run.glyphs.map((glyph) => inkOfGlyph(glyph, run, faces.instance(run.style)))));
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
export function paragraphs(words: string): Stretch[] {
  const found: Stretch[] = [];
  let start = 0;
  for (;;) {
    const feed = words.indexOf('\n', start);
    found.push({ start, end: feed < 0 ? words.length : feed });
    if (feed < 0) return found;
    start = feed + 1;
  }
}

/** The hard-broken paragraph that an offset stands in. */
export function paragraphAt(words: string, offset: number): Stretch {
  const feed = words.indexOf('\n', offset);
  return { start: offset === 0 ? 0 : words.lastIndexOf('\n', offset - 1) + 1, end: feed < 0 ? words.length : feed };
}

function ownWordSpace(block: Block, faces: FaceSet): number | undefined {
  const instance = faces.instance(block.style);
  const space = instance.nominalGlyph(0x20);
  return space === undefined ? undefined : (instance.advance(space) * 1000) / instance.unitsPerEm;
}

function missingFaces(block: Block, faces: FaceSet): string[] {
  return facesOf(block).filter((id) => !faces.has(id));
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

function indent(align: Align, measure: number, width: number): number {
  if (align === 'left') return 0;
  return align === 'centre' ? (measure - width) / 2 : measure - width;
}

/** Hand values by place, in tenths of 1/1000 em. */
type HandTenths = ReadonlyMap<number, number>;

/** The lines of one paragraph. */
function shapeParagraph(block: Block, paragraph: Stretch, hand: HandTenths, faces: FaceSet, measure: number, indentPt: number): ShapedLine[] {
  const { words } = block;
  const { start, end } = paragraph;
  const items = shapeItems(block, paragraph, paragraph, faces);
  const whole = runsOf(items);
  kernByShape(whole);
  if (trimEnd(words, start, end) === end) {
    const runs = inVisualOrder(whole);
    if (runs !== whole) kernByShape(runs);
    const widthPt = widthOf(words, runs, hand);
    if (widthPt <= measure - indentPt) return [{ start, end, visibleEnd: end, runs, widthPt }];
    if (runs !== whole) kernByShape(whole);
  }
  const widths = new RunningWidths(words, paragraph, whole, hand);
  return breakGreedily(words, start, end, widths, measure, measure - indentPt).map((range) => {
    const runs = inVisualOrder(runsOf(cutItems(block, paragraph, items, { start: range.start, end: range.visibleEnd }, faces)));
    kernByShape(runs);
    return { ...range, runs, widthPt: widthOf(words, runs, hand) };
  });
}

/**
 * Part of shaped items. Where the font says that a cut is not safe, the letters from there to the nearest safe place are
 * shaped anew (the use HarfBuzz's unsafe-to-break flag is made for); the rest is taken as it is.
 */
function cutItems(block: Block, paragraph: Stretch, items: readonly ShapedItem[], range: Stretch, faces: FaceSet): ShapedItem[] {
  const out: ShapedItem[] = [];
  for (let i = firstIndex(items.length, (at) => (items[at]?.end ?? 0) > range.start); i < items.length; i++) {
    const item = items[i];
    if (!item || item.start >= range.end) break;
    const start = Math.max(item.start, range.start);
    const end = Math.min(item.end, range.end);
    if (start === item.start && end === item.end) {
      out.push(item);
      continue;
    }
    if (isBackwards(item)) {
      out.push(...shapeItems(block, paragraph, { start, end }, faces));
      continue;
    }
    const { glyphs } = item;
    const from = lowerBound(glyphs, start);
    const past = lowerBound(glyphs, end);
    let safeFrom = from;
    if (start > item.start) while (safeFrom < past && glyphs[safeFrom]?.unsafeToBreak) safeFrom++;
    let safePast = past;
    if (end < item.end) while (safePast > safeFrom && glyphs[safePast]?.unsafeToBreak) safePast--;
    const head = shapeBetween(block, paragraph, start, glyphs[safeFrom]?.cluster ?? end, end, faces);
    const tail = safePast < past ? shapeBetween(block, paragraph, glyphs[safePast]?.cluster ?? end, end, end, faces) : [];
    out.push({ ...item, glyphs: [...head, ...glyphs.slice(safeFrom, safePast), ...tail], start, end });
  }
  return out;
}

/** The glyphs of `words.slice(start, end)`, shaped by themselves; nothing where that is empty or past the limit. */
function shapeBetween(block: Block, paragraph: Stretch, start: number, end: number, limit: number, faces: FaceSet): ShapedGlyph[] {
  const to = Math.min(end, limit);
  if (to <= start) return [];
  return shapeItems(block, paragraph, { start, end: to }, faces).flatMap(({ glyphs }) => glyphs);
}

/** Index of the first glyph whose cluster is not before an offset; clusters ascend. */
const lowerBound = (glyphs: readonly ShapedGlyph[], offset: number): number => firstIndex(glyphs.length, (i) => (glyphs[i]?.cluster ?? 0) >= offset);

function isBackwards({ glyphs }: ShapedItem): boolean {
  const first = glyphs[0];
  const last = glyphs[glyphs.length - 1];
  return first !== undefined && last !== undefined && first.cluster > last.cluster;
}

/** What stands between a letter and the next besides the font's advance, in tenths of 1/1000 em. */
function extraTenths(words: string, cluster: number, tracking: number, wordSpace: number): number {
  return wordSpace !== 0 && isSpace(words.charAt(cluster)) ? tracking + wordSpace : tracking;
}

const isLetter = (code: number): boolean => (code >= 0x41 && code <= 0x5a) || (code >= 0x61 && code <= 0x7a);

/** True between two plain letters, where no line ends: by far the most places. */
const insideWord = (words: string, left: number, right: number): boolean => isLetter(words.charCodeAt(left)) && isLetter(words.charCodeAt(right));

/** Widths of stretches of a paragraph, in points, from running sums over its letters in reading order. */
class RunningWidths {
  private readonly sums: Float64Array;
  /** What stands after a letter only when another follows on the line: its tracking and kerning. */
  private readonly trailing: Float64Array;

  constructor(
    words: string,
    private readonly paragraph: Stretch,
    runs: readonly ShapedRun[],
    hand: HandTenths,
  ) {
    const length = paragraph.end - paragraph.start;
    const sums = new Float64Array(length + 1);
    const trailing = new Float64Array(length + 1).fill(Number.NaN);
    trailing[0] = 0;
    for (const { glyphs, style, instance, kerns } of runs) {
      const scale = (style.sizePt * style.scaleX) / instance.unitsPerEm;
      const em = (style.sizePt * style.scaleX) / 10000;
      const tracking = Math.round(style.trackingMilliem * 10);
      const wordSpace = Math.round(style.wordSpaceMilliem * 10);
      let previous = -1;
      for (let i = 0; i < glyphs.length; i++) {
        const glyph = glyphs[i];
        if (!glyph) continue;
        const kern = (kerns?.[i] ?? 0) * em;
        const at = glyph.cluster - paragraph.start + 1;
        sums[at] = (sums[at] ?? 0) + glyph.xAdvance * scale + kern;
        if (glyph.cluster !== previous) {
          previous = glyph.cluster;
          sums[at] += extraTenths(words, glyph.cluster, tracking, wordSpace) * em;
          trailing[at] = tracking * em;
        }
        trailing[at] = (trailing[at] ?? 0) + kern;
        // What the font's kerning has put between this letter and the next goes where a line ends between them.
        const next = glyphs[i + 1];
        if (next && next.cluster > glyph.cluster && next.unsafeToBreak && !insideWord(words, glyph.cluster, next.cluster))
          trailing[at] += (glyph.xAdvance - instance.advance(glyph.glyphId)) * scale;
      }
    }
    // Inside a ligature, the whole of it stands before.
    for (let i = 1; i <= length; i++) if (Number.isNaN(trailing[i])) trailing[i] = trailing[i - 1] ?? 0;
    for (let at = paragraph.start + 1, r = 0; hand.size > 0 && at < paragraph.end; at++) {
      const tenths = hand.get(at);
      if (tenths === undefined) continue;
      while (r < runs.length && (runs[r]?.end ?? 0) < at) r++;
      const left = runs[r];
      if (!left || left.start >= at) continue;
      const i = at - paragraph.start;
      const pt = (tenths * left.style.sizePt * left.style.scaleX) / 10000;
      sums[i] = (sums[i] ?? 0) + pt;
      trailing[i] = (trailing[i] ?? 0) + pt;
    }
    for (let i = 1; i <= length; i++) sums[i] = (sums[i] ?? 0) + (sums[i - 1] ?? 0);
    this.sums = sums;
    this.trailing = trailing;
  }

  /** The width of `words.slice(start, end)` set on one line. */
  between(start: number, end: number): number {
    if (end <= start) return 0;
    const to = end - this.paragraph.start;
    return (this.sums[to] ?? 0) - (this.sums[start - this.paragraph.start] ?? 0) - (this.trailing[to] ?? 0);
  }
}

/** The space after glyph `i` of run `r` besides its advance, in tenths of 1/1000 em; none inside a letter or after the line. */
function spaceAfter(words: string, runs: readonly ShapedRun[], r: number, i: number, hand: HandTenths, tracking: number, wordSpace: number): number {
  const glyphs = runs[r]?.glyphs;
  const cluster = glyphs?.[i]?.cluster ?? 0;
  const next = glyphs?.[i + 1]?.cluster ?? runs[r + 1]?.glyphs[0]?.cluster;
  if (next === cluster) return 0;
  const extra = extraTenths(words, cluster, tracking, wordSpace);
  if (next === undefined) return extra - tracking;
  const kerned = extra + (runs[r]?.kerns?.[i] ?? 0);
  return hand.size === 0 ? kerned : kerned + (hand.get(Math.max(next, cluster)) ?? 0);
}

/** The width of a line in points, from the first letter's origin to the end of the last letter's advance. */
function widthOf(words: string, runs: readonly ShapedRun[], hand: HandTenths): number {
  let widthPt = 0;
  for (let r = 0; r < runs.length; r++) {
    const run = runs[r];
    if (!run) continue;
    const em = run.instance.unitsPerEm;
    const tracking = Math.round(run.style.trackingMilliem * 10);
    const wordSpace = Math.round(run.style.wordSpaceMilliem * 10);
    let pen = 0;
    for (let i = 0; i < run.glyphs.length; i++) {
      pen += (run.glyphs[i]?.xAdvance ?? 0) * 10000 + spaceAfter(words, runs, r, i, hand, tracking, wordSpace) * em;
    }
    widthPt += (pen * run.style.sizePt * run.style.scaleX) / (em * 10000);
  }
  return widthPt;
}

/** Places the glyphs of one line from `leftPt` on its baseline. */
function placeRuns(words: string, runs: readonly ShapedRun[], hand: HandTenths, leftPt: number, baselinePt: number): PlacedRun[] {
  const placed: PlacedRun[] = [];
  let startPt = leftPt;
  for (let r = 0; r < runs.length; r++) {
    const run = runs[r];
    if (!run) continue;
    const { style, instance, glyphs } = run;
    const em = instance.unitsPerEm;
    const scale = (style.sizePt * style.scaleY) / em;
    const xScale = (style.sizePt * style.scaleX) / em;
    const toPoints = (style.sizePt * style.scaleX) / (em * 10000);
    const tracking = Math.round(style.trackingMilliem * 10);
    const wordSpace = Math.round(style.wordSpaceMilliem * 10);
    const out: PlacedGlyph[] = [];
    let pen = 0; // font units x 10,000: a whole number
    for (let i = 0; i < glyphs.length; i++) {
      const glyph = glyphs[i];
      if (!glyph) continue;
      const { glyphId, cluster, xOffset, yOffset } = glyph;
      out.push({ glyphId, cluster, xPt: startPt + (pen + xOffset * 10000) * toPoints, yPt: baselinePt - yOffset * scale, offsetPt: xOffset * xScale });
      pen += glyph.xAdvance * 10000 + spaceAfter(words, runs, r, i, hand, tracking, wordSpace) * em;
    }
    const rules = style.underline || style.strike ? rulesOf(style, instance.metrics, scale, startPt, pen * toPoints, baselinePt) : [];
    placed.push({ start: run.start, end: run.end, style, scale, xScale, glyphs: out, rules });
    startPt += pen * toPoints;
  }
  return placed;
}

function rulesOf(style: Style, metrics: FaceMetrics, scale: number, xPt: number, widthPt: number, baselinePt: number): Rule[] {
  const rule = (offset: number, size: number): Rule => ({ xPt, yPt: baselinePt - offset * scale, widthPt, heightPt: size * scale });
  return [
    ...(style.underline ? [rule(metrics.underlineOffset, metrics.underlineSize)] : []),
    ...(style.strike ? [rule(metrics.strikeOffset, metrics.strikeSize)] : []),
  ];
}
