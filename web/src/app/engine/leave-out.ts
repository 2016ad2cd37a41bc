import type { BlockSetting, SetLine } from '@jentrix/core/setting';
import equal from 'fast-deep-equal';
import type { SentLine, SentSetting } from './same-lines';

const told = (lines: readonly SetLine[], before: readonly SetLine[] | undefined): SentLine[] =>
  lines.map((line, i) => (before && equal(line, before[i]) ? i : line));
/** A setting with the lines left out that the page has. @param before what it was sent last of the block. */
export function leaveOut({ lines, straight, ...rest }: BlockSetting, before: BlockSetting | undefined): SentSetting {
  return { ...rest, lines: told(lines, before?.lines), ...(straight ? { straight: told(straight, before?.straight) } : {}) };
}
