/** Neighbouring lines that come near each other: what is between them is looked at closely only there. */
import { type BlockSetting, type FaceSet, type LineGap, type SetLine, inkOf, lineGapsOf, straightLines } from '../../setting';

export interface NearLines {
  upper: SetLine;
  lower: SetLine;
  gap: LineGap;
}

/** The lines of which one's ink reaches down as far as the next one's reaches up, wherever along them, with the white between. */
export function nearLines(setting: BlockSetting, faces: FaceSet): NearLines[] {
  const lines = straightLines(setting);
  const inks = lines.map((line) => inkOf({ lines: [line] }, faces));
  return lines.flatMap((lower, i): NearLines[] => {
    const [above, below] = [inks[i - 1], inks[i]];
    const upper = lines[i - 1];
    if (!upper || !above || !below || above.bottomPt < below.topPt) return [];
    const [gap] = lineGapsOf({ lines: [upper, lower] }, faces);
    return gap ? [{ upper, lower, gap }] : [];
  });
}
