/** The rag of a block's lines in numbers, by which ways to break are compared. */
import type { Block } from '../job';
import { isWordSpace } from './blank';
import { type BlockSetting, straightLines } from './block-setting';
import { setLettersOf } from './letters';

export interface Rag {
  lines: number;
  /** The standard deviation of the lines' widths, as a share of the frame's. */
  spread: number;
  /** The widest and the narrowest word space over the face's own; 1 where there is none. */
  widest: number;
  narrowest: number;
}

export function ragOf({ words, style }: Pick<Block, 'words' | 'style'>, setting: BlockSetting): Rag {
  const lines = straightLines(setting);
  const widths = lines.map(({ widthPt }) => widthPt);
  const mean = widths.reduce((sum, width) => sum + width, 0) / Math.max(1, widths.length);
  const variance = widths.reduce((sum, width) => sum + (width - mean) ** 2, 0) / Math.max(1, widths.length);
  const own = ((setting.wordSpaceMilliem ?? 0) * style.sizePt) / 1000;
  const spaces = lines.flatMap((line) =>
    setLettersOf(line).flatMap(({ start, leftPt, rightPt }) => (isWordSpace(words.charAt(start)) ? [rightPt - leftPt] : [])),
  );
  const over = own > 0 && spaces.length > 0 ? spaces.map((space) => space / own) : [1];
  return { lines: lines.length, spread: Math.sqrt(variance) / setting.frame.widthPt, widest: Math.max(...over), narrowest: Math.min(...over) };
}
