/** Blocks and sheets as they are set: with everything that is stated elsewhere in their job. */
import { findBlock } from './edits';
import type { Beside } from './fit';
import { pairedBlock } from './pair-rules';
import type { Block, Job, Sheet } from './schema';

/**
 * A block as it is set: in its language, and the values of pair rules stand among its hand kerning; its own values win.
 * The same block with the same rules comes back as the same object.
 */
export function resolveBlock(job: Job, sheetId: string, own: Block): Block {
  const paired = pairedBlock(job, sheetId, own);
  return paired.fit ? measured(job, sheetId, paired, new Set([own.id])) : paired;
}

const measures = new WeakMap<Block, { margins: Sheet['margins'] | undefined; widthPt: number; beside: Block | undefined; block: Block }>();

/**
 * A fitted block with what it is fitted to: the places of its margins, or the block whose width it shares. The same block beside the same
 * comes back as the same object.
 * @param asking blocks whose own measure asks for this one: in a ring of blocks the last has its frame for a measure.
 */
function measured(job: Job, sheetId: string, block: Block, asking: ReadonlySet<string>): Block {
  const to = block.fit?.to;
  const sheet = job.sheets.find(({ id }) => id === sheetId);
  if (!block.fit || !sheet || (to?.kind !== 'margins' && to?.kind !== 'block')) return block;
  const { margins, widthPt } = sheet;
  const other = to.kind === 'block' && !asking.has(to.id) ? findBlock(job, to.id) : undefined;
  const otherSheet = other && job.sheets.find(({ blocks }) => blocks.includes(other));
  const beside = other && otherSheet && measured(job, otherSheet.id, pairedBlock(job, otherSheet.id, other), new Set([...asking, other.id]));
  const known = measures.get(block);
  if (known?.margins === margins && known.widthPt === widthPt && known.beside === beside) return known.block;
  const span = { kind: 'between', leftPt: margins.leftPt, rightPt: Math.max(margins.leftPt + 1, widthPt - margins.rightPt) } as const;
  const made: Block & Beside =
    to.kind === 'margins'
      ? { ...block, fit: { ...block.fit, to: span } }
      : beside
        ? { ...block, beside }
        : { ...block, fit: { ...block.fit, to: { kind: 'frame' } } };
  measures.set(block, { margins, widthPt, beside, block: made });
  return made;
}

/** A sheet as it is set, exported and measured: every block resolved. */
export function resolveSheet(job: Job, sheet: Sheet): Sheet {
  if (job.pairs.length === 0 && job.language === null && sheet.blocks.every(({ fit }) => !fit)) return sheet;
  return { ...sheet, blocks: sheet.blocks.map((block) => resolveBlock(job, sheet.id, block)) };
}
