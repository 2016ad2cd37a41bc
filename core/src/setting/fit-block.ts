/**
 * Fit stage: a block whose lines are kept at a width, and together at a height, as the block that they come out in: sizes, letter and word
 * space, widths of letters and leading as plain values. What it asks for stays with the block.
 */
import { AT_REST, type LeverValues, type LineToFit, alone, solveLevers } from '../fitting';
import { type Beside, type Block, type Fit, type StyleChange, type WordRange, restyleRanges, styledRanges } from '../job';
import type { BlockSetting, LineFit, LineRange } from './block-setting';
import type { FaceSet } from './faces';
import { perMilliem } from './fit';
import { inkOf } from './ink';
import { type EdgeLook, edgesOf, lookOf, standingIn } from './line-edges';
import { evenOut, lineGapsOf } from './line-gaps';
import { type Opened, type OpenedLine, dressed, openLines } from './open-lines';
import { type FittedLines, setLines } from './set-lines';

/** A block after fitting, in plain values, and what was found out of its lines. */
export interface FittedBlock extends FittedLines {
  readonly block: Block;
}

/** Widths are reached within this, in points. */
const EXACT = 0.0002;
/** Ligatures, kerning by shape and what stands at a line's ends may change with what is set: then the line is asked again, so often at most. */
const ROUNDS = 8;
/** More lines than this are no display type: those behind stay as they are, and say what they miss. */
const MOST_FITTED = 200;
/** A block of more letters than this is copy: none of its lines is fitted, and each says what it misses. */
const MOST_LETTERS = 5000;
/** A fit that keeps the steps people use has sizes in tenths of a point. */
const SIZE_STEP = 10;

/** @param setOther sets another block, whose width may be what is asked for. */
export function fitBlock(block: Block, fit: Fit, faces: FaceSet, setOther: (block: Block, faces: FaceSet) => BlockSetting): FittedBlock {
  const free: Block = { ...block, fit: null };
  const natural = openLines(free, dressed(free, faces), faces);
  const breaks = natural.lines.map(({ line: { start, end, visibleEnd } }): LineRange => ({ start, end, visibleEnd }));
  const look: EdgeLook | undefined = fit.ink ? { ...lookOf(block), ink: 1, allInk: !block.edges, past: block.edges?.optical ?? fit.overshoot } : undefined;
  const measure = measureOf(block, fit, faces, setOther);
  const fitted = measure
    ? toWidth(free, fit, { natural, breaks, look, faces, widthPt: measure.widthPt })
    : { block: free, opened: natural, fits: new Map<number, LineFit>() };
  const lines = { breaks, opened: fitted.opened, fits: fitted.fits, look, span: measure?.span };
  if ((!fit.even && !fit.height) || breaks.length < 2) {
    return { block: fitted.block, ...lines, ...(fit.height && breaks.length < 2 ? { missingHeightPt: 0 } : {}) };
  }
  const led = toHeight(fitted.block, fit, lines, faces);
  return { ...lines, ...led };
}

/** The width lines are fitted to, and where that stands on the sheet where it says so; undefined where it is none. */
function measureOf(
  block: Block & Beside,
  { to }: Fit,
  faces: FaceSet,
  setOther: (block: Block, faces: FaceSet) => BlockSetting,
): { widthPt: number | undefined; span: FittedLines['span'] } | undefined {
  if (!to) return undefined;
  if (to.kind === 'pt') return { widthPt: to.pt, span: undefined };
  if (to.kind === 'between') {
    const [leftPt, rightPt] = [Math.min(to.leftPt, to.rightPt), Math.max(to.leftPt, to.rightPt)];
    return { widthPt: rightPt - leftPt, span: { leftPt, widthPt: rightPt - leftPt } };
  }
  if (to.kind === 'block') {
    const other = block.beside && setOther(block.beside, faces);
    const lines = other && (to.line === null ? other.lines : other.lines.slice(to.line, to.line + 1));
    const ink = lines && inkOf({ lines }, faces);
    if (!ink) return undefined;
    return { widthPt: ink.rightPt - ink.leftPt, span: undefined };
  }
  // The frame; margins are resolved to places before a block is set, and its frame stands for them where nobody did.
  return { widthPt: undefined, span: undefined };
}

interface ToWidth {
  natural: Opened;
  breaks: readonly LineRange[];
  look: EdgeLook | undefined;
  faces: FaceSet;
  widthPt: number | undefined;
}

/** A chosen line on its way to its width. */
interface Fitting {
  index: number;
  range: WordRange;
  targetPt: number;
  natural: LineToFit;
  values: LeverValues;
  missingPt: number;
  done: boolean;
}

/** A block with every chosen line at its width. */
function toWidth(free: Block, fit: Fit, { natural, breaks, look, faces, widthPt }: ToWidth): { block: Block; opened: Opened; fits: Map<number, LineFit> } {
  let opened = natural;
  const widthIn = ({ line, first }: OpenedLine): number => {
    const edges = look && edgesOf(free.words, { start: line.start, end: line.visibleEnd }, standingIn(line), look, first);
    return edges ? edges.rightPt - edges.leftPt : line.widthPt;
  };
  const chosen = fit.lines === 'all' ? natural.lines.map((_, i) => i) : [...new Set(fit.lines)].sort((a, b) => a - b);
  const lines = chosen.flatMap((index): Fitting[] => {
    const first = natural.lines[index];
    if (!first || first.line.visibleEnd <= first.line.start) return [];
    const { line, indentPt } = first;
    const targetPt = widthPt ?? Math.max(1, free.frame.widthPt - natural.hangPt - indentPt);
    const asked: LineToFit = { widthPt: widthIn(first), ...perMilliem(free.words, line.runs) };
    return [{ index, range: { start: line.start, end: line.visibleEnd }, targetPt, natural: asked, values: AT_REST, missingPt: 0, done: false }];
  });
  const beyond = lines
    .splice(free.words.length > MOST_LETTERS ? 0 : MOST_FITTED)
    .map((line): Fitting => ({ ...line, missingPt: line.targetPt - line.natural.widthPt }));
  const asked = new Map(lines.map((line) => [line.index, line.natural]));
  let block = free;
  for (let round = 0; round < ROUNDS && lines.some(({ done }) => !done); round++) {
    for (const line of lines) if (!line.done) solveFit(line, fit, largestSize(free, line.range), round > 0);
    block = restyleRanges(
      free,
      lines.flatMap((line) => changesOf(free, line)),
    );
    opened = openLines(block, dressed(block, faces, breaks), faces, breaks);
    for (const line of lines) {
      const set = opened.lines[line.index];
      if (!set) continue;
      const width = widthIn(set);
      const { size, letters, words, width: wide } = line.values;
      const { perLetterPt, perWordPt } = perMilliem(free.words, natural.lines[line.index]?.line.runs ?? []);
      const rest = line.missingPt === 0 ? width - line.targetPt : width - (line.targetPt - line.missingPt);
      line.done = Math.abs(rest) < EXACT;
      // What it would be at rest, for all that has changed with what was set.
      line.natural = { widthPt: width / (size * wide) - perLetterPt * letters - perWordPt * words, perLetterPt, perWordPt };
      if (line.done && line.missingPt !== 0) line.missingPt = line.targetPt - width;
    }
  }
  const fits = new Map(
    [...lines, ...beyond].map(({ index, targetPt, values, missingPt, natural: now }): [number, LineFit] => {
      const first = asked.get(index) ?? now;
      return [index, { targetPt, naturalPt: first.widthPt, values, alone: alone(first, targetPt, fit.by), missingPt }];
    }),
  );
  return { block, opened, fits };
}

/** Sets a line's levers by what is known of it now. @param settled true once it was set with values: then a size in steps is kept. */
function solveFit(line: Fitting, { by, steps }: Fit, sizePt: number, settled: boolean): void {
  const solved = solveLevers(line.natural, line.targetPt, by);
  if (!steps || by.size.share <= 0) {
    line.values = solved.values;
    line.missingPt = solved.missingPt;
    return;
  }
  const size = settled ? line.values.size : Math.max(1, Math.round(solved.values.size * sizePt * SIZE_STEP)) / SIZE_STEP / sizePt;
  const { perLetterPt, perWordPt, widthPt } = line.natural;
  const { words, width } = settled ? line.values : solved.values;
  const left = line.targetPt - solved.missingPt;
  const letters = perLetterPt > 0 ? (left / (size * width) - widthPt - perWordPt * words) / perLetterPt : 0;
  line.values = { size, width, words, letters };
  line.missingPt = solved.missingPt;
}

const largestSize = (block: Block, { start, end }: WordRange): number =>
  styledRanges(block, start, end).reduce((most, { style }) => Math.max(most, style.sizePt), 1);

/** Limits of what a style may hold, as its schema has them. */
const clamped = (value: number, least: number, most: number): number => Math.max(least, Math.min(most, value));

/** The style changes that levers make in a line. */
function changesOf(block: Block, { range, values: { size, letters, words, width } }: Fitting): StyleChange[] {
  return styledRanges(block, range.start, range.end).map(({ start, end, style }) => ({
    start,
    end,
    change: {
      sizePt: clamped(style.sizePt * size, 1, 5000),
      trackingMilliem: clamped(style.trackingMilliem + letters, -1000, 5000),
      wordSpaceMilliem: clamped(style.wordSpaceMilliem + words, -1000, 5000),
      scaleX: clamped(style.scaleX * width, 0.1, 10),
    },
  }));
}

/** Baselines come no nearer than this share of the line's size, whatever height is asked for. */
const LEAST_LEADING = 0.1;

/** Leading by line, so that the white between lines is even, or their ink together as high as is asked for. */
function toHeight(block: Block, { even, height }: Fit, lines: FittedLines, faces: FaceSet): { block: Block; missingHeightPt?: number } {
  const before = { ...block, path: { kind: 'straight' as const } };
  const set = setLines(before, dressed(block, faces, lines.breaks), faces, lines);
  let led = block;
  if (even)
    led = { ...block, lineLeading: evenOut(block, lineGapsOf({ ...set, lines: set.lines.slice(0, MOST_FITTED) }, faces), even === true ? undefined : even) };
  const ink = inkOf(set, faces);
  if (!height || !ink) return { block: led };
  const byOf = (list: Block['lineLeading'], at: number): number => list.find((own) => own.at === at)?.byPt ?? 0;
  const inner = set.lines.slice(1);
  const added = inner.reduce((sum, { start }) => sum + byOf(led.lineLeading, start) - byOf(block.lineLeading, start), 0);
  const targetPt = height.kind === 'pt' ? height.pt : block.frame.heightPt;
  const wanted = (targetPt - (ink.bottomPt - ink.topPt + added)) / inner.length;
  const least = Math.max(
    ...inner.map((line, i) => {
      const distance = line.baselinePt - (set.lines[i]?.baselinePt ?? 0) + byOf(led.lineLeading, line.start) - byOf(block.lineLeading, line.start);
      return LEAST_LEADING * line.sizePt - distance;
    }),
  );
  const eachPt = clamped(Math.max(wanted, least), -5000, 5000);
  const lineLeading = inner.map(({ start }) => ({ at: start, byPt: clamped(byOf(led.lineLeading, start) + eachPt, -5000, 5000) }));
  return { block: { ...led, lineLeading }, missingHeightPt: (wanted - eachPt) * inner.length };
}
