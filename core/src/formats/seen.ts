/** What of a sheet can be seen, so that nothing else is drawn: letters far off the sheet cost time and break renderers. */
import type { Frame, Sheet } from '../job';
import { type Box, touches } from '../setting';

/** The box around a box that is turned around the middle of a frame. @param rotationDeg clockwise. */
export function turnedBox(box: Box, rotationDeg: number, frame: Frame): Box {
  if (rotationDeg === 0) return box;
  const [x, y] = [frame.xPt + frame.widthPt / 2, frame.yPt + frame.heightPt / 2];
  const angle = (rotationDeg * Math.PI) / 180;
  const [sin, cos] = [Math.sin(angle), Math.cos(angle)];
  const xs: number[] = [];
  const ys: number[] = [];
  for (const cx of [box.leftPt, box.rightPt]) {
    for (const cy of [box.topPt, box.bottomPt]) {
      xs.push(x + (cx - x) * cos - (cy - y) * sin);
      ys.push(y + (cx - x) * sin + (cy - y) * cos);
    }
  }
  return { leftPt: Math.min(...xs), topPt: Math.min(...ys), rightPt: Math.max(...xs), bottomPt: Math.max(...ys) };
}

/** What of a sheet a block can show, in the block's own unturned coordinates, and what of the block really reaches the sheet. */
export interface View {
  /** Everything that could be seen lies in here. */
  seen: Box;
  /** Whether the box around a turned box lies on the sheet, by more than a hair: renderers break on layers that don't. */
  shows(box: Box): boolean;
}

/** Less of a box on the sheet than this, in points, is nothing. */
const HAIR = 0.05;

/** @param rotationDeg clockwise, around the middle of the block's frame. */
export function viewOf({ widthPt, heightPt }: Pick<Sheet, 'widthPt' | 'heightPt'>, rotationDeg: number, frame: Frame): View {
  const sheet = { leftPt: 0, topPt: 0, rightPt: widthPt, bottomPt: heightPt };
  const inside = { leftPt: HAIR, topPt: HAIR, rightPt: widthPt - HAIR, bottomPt: heightPt - HAIR };
  return { seen: turnedBox(sheet, -rotationDeg, frame), shows: (box) => touches(turnedBox(box, rotationDeg, frame), inside) };
}
