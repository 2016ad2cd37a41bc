import { type SetLine, gapsOf } from '@jentrix/core/setting';

/** Where the caret before a code unit stands on a line, in points. */
export function linePlaceOf(line: SetLine, at: number): number {
  if (at <= line.start) return line.leftPt;
  if (at >= line.visibleEnd) return line.leftPt + line.widthPt;
  const gaps = gapsOf(line);
  return (gaps.find((gap) => gap.at >= at) ?? { xPt: line.leftPt + line.widthPt }).xPt;
}

/** The height of a line's letters on the sheet, as a box has it. */
export const letterBoxOf = ({ baselinePt, sizePt }: SetLine): { y: number; height: number } => ({ y: baselinePt - sizePt * 0.82, height: sizePt * 1.06 });
