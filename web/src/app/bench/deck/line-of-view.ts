import { type Block, STRAIGHT, spliceWords } from '@jentrix/core/job';
import { type SetLine, straightLines } from '@jentrix/core/setting';
import type { BenchStore } from '../bench.store';

/** The line that is worked on: the gap caret's, else the first of the current block. Line and block are of one state: as the block was set. */
export function lineOfView({ current }: Pick<BenchStore, 'current'>): { block: Block; line: SetLine } | undefined {
  const view = current.view();
  const set = current.setting()?.blocks.get(view.blockId ?? '');
  if (!set) return undefined;
  const lines = straightLines(set.setting);
  const at = view.gap?.at ?? 0;
  const line = lines.find((candidate) => candidate.start <= at && at < candidate.visibleEnd) ?? lines[0];
  return line && { block: set.block, line };
}

/** A block that holds one line of another and never wraps: for showing that line in other settings. */
export function loneLine(block: Block, line: SetLine, id: string): Block {
  const alone = spliceWords(spliceWords(block, { start: line.visibleEnd, end: block.words.length, insert: '' }), { start: 0, end: line.start, insert: '' });
  return { ...alone, id, path: STRAIGHT, align: 'left', frame: { xPt: 0, yPt: 0, widthPt: 50_000, heightPt: block.frame.heightPt } };
}

/** A line of which only some letters are left, as far apart as they stand; letters are named by their clusters. */
export function lettersOnly(line: SetLine, clusters: ReadonlySet<number>): SetLine {
  const runs = line.runs
    .map((run) => ({ ...run, glyphs: run.glyphs.filter(({ cluster }) => clusters.has(cluster)) }))
    .filter(({ glyphs }) => glyphs.length > 0);
  const all = line.runs.flatMap(({ glyphs }) => glyphs);
  const kept = runs.flatMap(({ glyphs }) => glyphs);
  const first = kept[0];
  const last = kept[kept.length - 1];
  if (!first || !last) return { ...line, runs: [] };
  const next = all[all.indexOf(last) + 1];
  const leftPt = first.xPt - first.offsetPt;
  const endPt = next ? next.xPt - next.offsetPt : line.leftPt + line.widthPt;
  return { ...line, runs, leftPt, widthPt: endPt - leftPt };
}
