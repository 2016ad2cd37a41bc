/** The white of one gap given to others: the same optical distance, whatever letters stand there. */
import { type Job, type PairScope, findBlock, resolveSheet } from '../job';
import { type FaceSet, type GapLedger, facesOf, handForWhite, ledgersOf, setBlock } from '../setting';

/** A gap of a job: the one before code unit `at` of a block's words. */
export interface GapOfJob {
  blockId: string;
  at: number;
}

/** Which gaps get it: picked ones; all of the gap's kind in its line, by the sides that face each other; the same two letters wherever they stand. */
export type WhiteTarget = { kind: 'gaps'; gaps: readonly GapOfJob[] } | { kind: 'alike' } | { kind: 'pair'; in: PairScope };

/** A white, in 1/1000 em of the left letter, and the hand values by which other gaps hold it. */
export interface GivenWhite {
  whiteMilliem: number;
  hand: (GapOfJob & { milliem: number })[];
}

interface Measured {
  sheetId: string;
  blockId: string;
  words: string;
  lines: readonly GapLedger[][];
  /** Hand values that give some of the gaps of a line a white. */
  solve: (line: number, ledgers: readonly GapLedger[], whiteMilliem: number) => { at: number; milliem: number }[];
}

/** The blocks of a job whose faces are here, measured when they are asked for. */
function* measured(job: Job, faces: FaceSet, wanted: (sheetId: string, blockId: string) => boolean): Generator<Measured> {
  for (const raw of job.sheets) {
    for (const block of resolveSheet(job, raw).blocks) {
      if (!wanted(raw.id, block.id) || !facesOf(block).every((id) => faces.has(id))) continue;
      const { lines } = setBlock(block, faces);
      yield {
        ...{ sheetId: raw.id, blockId: block.id, words: block.words },
        lines: lines.map((line) => ledgersOf(block, line, faces)),
        solve: (i, ledgers, whiteMilliem) => {
          const line = lines[i];
          return line ? handForWhite(block, line, ledgers, whiteMilliem, faces) : [];
        },
      };
    }
  }
}

const pairKeyOf = (words: string, { left, right }: GapLedger): string => `${words.slice(left.start, left.end)}\0${words.slice(right.start, right.end)}`;
const hasWhite = ({ atSpace, joined, shapes }: GapLedger): boolean => !atSpace && !joined && shapes.left !== undefined && shapes.right !== undefined;

/**
 * Gives the white of a gap to others; locked blocks stay as they are.
 * @param from the gap, or a white in 1/1000 em with the gap that kind, line and letters are those of.
 * @returns undefined where the gap has no white: beside a space, or where strokes join the letters.
 */
export function giveWhite(job: Job, from: GapOfJob & { whiteMilliem?: number | undefined }, to: WhiteTarget, faces: FaceSet): GivenWhite | undefined {
  const [source] = measured(job, faces, (_, id) => id === from.blockId);
  const line = source?.lines.findIndex((ledgers) => ledgers.some(({ at }) => at === from.at)) ?? -1;
  const ledger = source?.lines[line]?.find(({ at }) => at === from.at);
  if (!source || !ledger || (from.whiteMilliem === undefined && !hasWhite(ledger))) return undefined;
  const whiteMilliem = from.whiteMilliem ?? ledger.whiteMilliem;
  const pair = pairKeyOf(source.words, ledger);
  const isSource = ({ blockId }: Measured, { at }: GapLedger): boolean => blockId === from.blockId && at === from.at;
  const scope = to.kind === 'pair' ? to.in : undefined;
  const blocks =
    to.kind === 'alike'
      ? [source]
      : measured(job, faces, (sheetId, blockId) =>
          to.kind === 'gaps'
            ? to.gaps.some((gap) => gap.blockId === blockId)
            : !scope || scope.kind === 'job' || scope.id === (scope.kind === 'sheet' ? sheetId : blockId),
        );
  const hand: GivenWhite['hand'] = [];
  for (const block of blocks) {
    if (findBlock(job, block.blockId)?.locked) continue;
    block.lines.forEach((ledgers, i) => {
      const chosen = ledgers.filter((one) => {
        if (!hasWhite(one)) return false;
        if (to.kind === 'gaps') return to.gaps.some((gap) => gap.blockId === block.blockId && gap.at === one.at);
        if (isSource(block, one)) return false;
        return to.kind === 'alike' ? i === line && one.pair === ledger.pair : pairKeyOf(block.words, one) === pair;
      });
      for (const one of block.solve(i, chosen, whiteMilliem)) hand.push({ blockId: block.blockId, ...one });
    });
  }
  return { whiteMilliem, hand };
}
