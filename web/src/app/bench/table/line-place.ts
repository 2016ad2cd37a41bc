import { type SetLine, gapsOf } from '@jentrix/core/setting';

/** Where the caret before a code unit stands on a line, in points. */
export function placeOf(line: SetLine, at: number): number {
  if (at <= line.start) return line.leftPt;
  if (at >= line.visibleEnd) return line.leftPt + line.widthPt;
  const gaps = gapsOf(line);
  return (gaps.find((gap) => gap.at >= at) ?? { xPt: line.leftPt + line.widthPt }).xPt;
}
