import type { BlockSetting, SetLine } from '@jentrix/core/setting';

/** A line as it is sent: by its place where it is what stood there when the block was sent last. */
export type SentLine = SetLine | number;

/** A setting as it is sent from the worker: after most edits all lines but one are what they were. */
export type SentSetting = Omit<BlockSetting, 'lines' | 'straight'> & { lines: SentLine[]; straight?: SentLine[] };

const heard = (lines: readonly SentLine[], before: readonly SetLine[] | undefined): SetLine[] =>
  lines.map((line) => {
    if (typeof line !== 'number') return line;
    const known = before?.[line];
    if (!known) throw new Error('A line that was never sent');
    return known;
  });

/** The setting again, lines that did not change being the very ones that they were. */
export function putBack({ lines, straight, ...rest }: SentSetting, before: BlockSetting | undefined): BlockSetting {
  return { ...rest, lines: heard(lines, before?.lines), ...(straight ? { straight: heard(straight, before?.straight) } : {}) };
}
