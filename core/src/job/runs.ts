import { firstIndex } from '../base';
import type { Block } from './schema';
import type { Style } from './style';

/** A stretch of words in one style. */
export interface StyledRange {
  start: number;
  end: number;
  style: Style;
}

/** Index of the first run that ends behind an offset; runs are sorted and apart. */
const firstRunBehind = (runs: Block['runs'], offset: number): number => firstIndex(runs.length, (i) => (runs[i]?.end ?? 0) > offset);

/** Styles of runs as they were put together last: most edits change neither the block's style nor that of most runs. */
const together = new WeakMap<Block['runs'][number]['style'], { base: Style; style: Style }>();

/** The block's style with what a run says of it; the very same as last time where both are the very same. */
function styleOfRun({ style: base }: Block, run: Block['runs'][number]): Style {
  const known = together.get(run.style);
  if (known?.base === base) return known.style;
  const style = { ...base, ...run.style };
  together.set(run.style, { base, style });
  return style;
}

/** The words of a block between two offsets, cut where the style changes. */
export function styledRanges(block: Block, start: number, end: number): StyledRange[] {
  const ranges: StyledRange[] = [];
  let at = start;
  for (let r = firstRunBehind(block.runs, start); r < block.runs.length; r++) {
    const run = block.runs[r];
    if (!run || run.start >= end) break;
    if (run.start > at) ranges.push({ start: at, end: run.start, style: block.style });
    const from = Math.max(at, run.start);
    const to = Math.min(end, run.end);
    ranges.push({ start: from, end: to, style: styleOfRun(block, run) });
    at = to;
  }
  if (at < end) ranges.push({ start: at, end, style: block.style });
  return ranges;
}

/** The style of the letter at an offset; past the end, of the last letter. */
export function styleAt(block: Block, offset: number): Style {
  const at = Math.max(0, Math.min(offset, block.words.length - 1));
  const run = block.runs[firstRunBehind(block.runs, at)];
  return run && run.start <= at ? styleOfRun(block, run) : block.style;
}

/** True where two styles say the same. */
export function sameStyle(a: Style, b: Style): boolean {
  return a === b || JSON.stringify(a) === JSON.stringify(b);
}
