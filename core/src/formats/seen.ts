/** What of a sheet can be seen, so that nothing else is drawn: letters far off the sheet cost time and break renderers. */
import type { Frame, Sheet } from '../job';
import type { Box } from '../setting';

/**
 * The sheet as a turned block sees it: the box around the sheet's corners, turned back around the middle of the block's frame.
 * @param rotationDeg clockwise.
 */
export function seenBox({ widthPt, heightPt }: Pick<Sheet, 'widthPt' | 'heightPt'>, rotationDeg: number, frame: Frame): Box {
  if (rotationDeg === 0) return { leftPt: 0, topPt: 0, rightPt: widthPt, bottomPt: heightPt };
  const [x, y] = [frame.xPt + frame.widthPt / 2, frame.yPt + frame.heightPt / 2];
  const angle = (-rotationDeg * Math.PI) / 180;
  const [sin, cos] = [Math.sin(angle), Math.cos(angle)];
  const corners = [
    [0, 0],
    [widthPt, 0],
    [0, heightPt],
    [widthPt, heightPt],
  ].map(([cx = 0, cy = 0]) => ({ x: x + (cx - x) * cos - (cy - y) * sin, y: y + (cx - x) * sin + (cy - y) * cos }));
  const [xs, ys] = [corners.map((corner) => corner.x), corners.map((corner) => corner.y)];
  return { leftPt: Math.min(...xs), topPt: Math.min(...ys), rightPt: Math.max(...xs), bottomPt: Math.max(...ys) };
}
