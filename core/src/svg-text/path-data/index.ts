/** SVG path data (SVG 2, chapter 9) brought in as a path for words. */
import { SVGPathData } from 'svg-pathdata';
import { WordedError } from '../../base';
import { type PathPoint, type Ride, drawnThrough, pathSchema } from '../../job';
import type { Matrix } from '../../setting';

/** Longest text that is looked at, in characters. */
const MAX_TEXT = 1_000_000;

/** Why something is no path for words. */
export class PathDataError extends WordedError {
  override readonly name = 'PathDataError';
}

/**
 * Reads the first subpath of path data, or of the first `path` of an SVG, as a path for words.
 * @param matrix where it is laid. @returns where its places lie is as the data has it, from its own origin.
 * @throws PathDataError
 */
export function readPath(text: string, { a, b, c, d, e, f }: Matrix = { a: 1, b: 0, c: 0, d: 1, e: 0, f: 0 }): Extract<Ride, { kind: 'drawn' }> {
  if (text.length > MAX_TEXT) throw new PathDataError('This path is too long.');
  const data = /<svg\b/.test(text) ? /<path\b[^>]*?\sd\s*=\s*["']([^"']*)["']/.exec(text)?.[1] : text.trim();
  if (!data) throw new PathDataError('It contains no path.');
  let commands;
  try {
    // Whatever it is written in, as cubic curves and lines from where the last ended.
    ({ commands } = new SVGPathData(data).toAbs().aToC().normalizeHVZ().normalizeST().qtToC().matrix(a, b, c, d, e, f));
  } catch {
    throw new PathDataError('This is not SVG path data. It starts with M, then lines and curves.');
  }
  let start: PathPoint | undefined;
  let at: PathPoint | undefined;
  const curves: Extract<Ride, { kind: 'drawn' }>['curves'] = [];
  for (const command of commands) {
    if (command.type === SVGPathData.MOVE_TO) {
      if (curves.length > 0) break;
      start = at = { xPt: command.x, yPt: command.y };
    } else if (command.type === SVGPathData.CURVE_TO) {
      const end = { xPt: command.x, yPt: command.y };
      curves.push({ from: { xPt: command.x1, yPt: command.y1 }, to: { xPt: command.x2, yPt: command.y2 }, end });
      at = end;
    } else if (command.type === SVGPathData.LINE_TO) {
      const [from, end]: [PathPoint, PathPoint] = [at ?? { xPt: 0, yPt: 0 }, { xPt: command.x, yPt: command.y }];
      const share = (t: number): PathPoint => ({ xPt: from.xPt + (end.xPt - from.xPt) * t, yPt: from.yPt + (end.yPt - from.yPt) * t });
      if (from.xPt !== end.xPt || from.yPt !== end.yPt) curves.push({ from: share(1 / 3), to: share(2 / 3), end });
      at = end;
    }
  }
  if (!start || curves.length === 0) throw new PathDataError('The path has no length.');
  const read = pathSchema.safeParse({ ...drawnThrough([start]), curves });
  if (!read.success || read.data.kind !== 'drawn') throw new PathDataError('The path has more than 500 segments, or lies too far from the sheet.');
  return read.data;
}
