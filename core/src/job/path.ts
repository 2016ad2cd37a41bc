/** How the lines of a block run: straight, along a path, or upright. Stored as what was asked for: taking it off leaves the block as it was. */
import { printValue } from '../units';
import type { Arc, PathPiece, Path, PathKind, PathPoint, Ride } from './path-schema';

export const STRAIGHT: Path = { kind: 'straight' };

export const isRide = (path: Path): path is Ride => 'atShare' in path;

type Riding = Pick<Ride, 'hold' | 'atShare' | 'side' | 'distancePt' | 'letters' | 'kerned'>;

/** How words stand on a new path: above it, in its middle. */
const NEW_RIDE = { hold: 'centre', atShare: 0.5, side: 'above', distancePt: 0, letters: 'turned', kerned: true } as const satisfies Riding;

/** Rise of a new arc and height of a new wave, as shares of their width. */
const NEW_RISE = 0.16;
const NEW_WAVE = 0.12;

/**
 * A path of a kind where the block's first line stands.
 * @param baselinePt of that line, below the frame's top. @param before the path it takes the place of, whose settings it keeps.
 */
export function newPath(kind: PathKind, { widthPt }: { widthPt: number }, baselinePt: number, before: Path = STRAIGHT): Path {
  const ride = ridingOf(before);
  const start = { xPt: 0, yPt: baselinePt };
  const end = { xPt: widthPt, yPt: baselinePt };
  const at = (share: number, upPt: number): PathPoint => ({ xPt: share * widthPt, yPt: baselinePt - upPt });
  switch (kind) {
    case 'straight':
      return STRAIGHT;
    case 'arc': {
      // Half of it rises over the straight line, half hangs under it: the words stay about where they were.
      const half = (NEW_RISE * widthPt) / 2;
      return { kind, start: at(0, -half), through: at(0.5, half), end: at(1, -half), ...ride };
    }
    case 'circle':
      // Its top is where the line stood.
      return { kind, centre: at(0.5, -widthPt / 2), radiusPt: Math.max(1, widthPt / 2), inside: false, ...ride };
    case 'wave':
      return { kind, start, end, heightPt: NEW_WAVE * widthPt, waves: 1, ...ride };
    case 'drawn': {
      const up = NEW_WAVE * widthPt;
      return drawnThrough([start, at(1 / 3, up), at(2 / 3, -up), end], before);
    }
    case 'stacked':
      return { kind, columns: 'rightwards' };
    case 'quarter':
      return { kind, turn: 'clockwise' };
  }
}

/** Places farther out than this, in points, are brought back to it: a job holds no others. */
const FARTHEST = 50_000;
const inReach = ({ xPt, yPt }: PathPoint): PathPoint => ({ xPt: within(xPt, FARTHEST), yPt: within(yPt, FARTHEST) });
const within = (value: number, most: number): number => Math.max(-most, Math.min(most, value));

const distance = (a: PathPoint, b: PathPoint): number => Math.hypot(b.xPt - a.xPt, b.yPt - a.yPt);

/** A drawn path through places, of which there is one at least. @param before the path it takes the place of, whose settings it keeps. */
export function drawnThrough(places: readonly PathPoint[], before: Path = STRAIGHT): Extract<Path, { kind: 'drawn' }> {
  return { kind: 'drawn', start: places[0] ?? { xPt: 0, yPt: 0 }, curves: curvesThrough(places), ...ridingOf(before) };
}

/** How words stand on a path that takes the place of another: as on that, but above it. */
const ridingOf = (before: Path): Riding =>
  isRide(before) ? { ...NEW_RIDE, hold: before.hold, atShare: before.atShare, letters: before.letters, kerned: before.kerned } : NEW_RIDE;

/** The circle that an arc is part of; undefined where its three places lie on a line. */
export function circleOf({ start, through, end }: Pick<Arc, 'start' | 'through' | 'end'>): { centre: PathPoint; radiusPt: number } | undefined {
  // From the first place, so that far from the origin no digits are lost.
  const [bx, by] = [through.xPt - start.xPt, through.yPt - start.yPt];
  const [cx, cy] = [end.xPt - start.xPt, end.yPt - start.yPt];
  const twice = 2 * (bx * cy - by * cx);
  const [b, c] = [bx * bx + by * by, cx * cx + cy * cy];
  if (Math.abs(twice) < FLAT * Math.max(b, c)) return undefined;
  const [x, y] = [(cy * b - by * c) / twice, (bx * c - cx * b) / twice];
  return { centre: { xPt: start.xPt + x, yPt: start.yPt + y }, radiusPt: Math.hypot(x, y) };
}

/** Three places that turn by less than this, as a sine, lie on a line. */
const FLAT = 1e-9;

/** How far an arc rises over the middle of the line between its ends, in points; negative where it hangs below, seen along that line. */
export function riseOf(arc: Pick<Arc, 'start' | 'through' | 'end'>): number {
  const { start, through, end } = arc;
  const circle = circleOf(arc);
  if (!circle) return 0;
  const chord = distance(start, end) || 1;
  const [ux, uy] = [(end.xPt - start.xPt) / chord, (end.yPt - start.yPt) / chord];
  // Heights over the line, up (y down).
  const over = ({ xPt, yPt }: PathPoint): number => (xPt - start.xPt) * uy - (yPt - start.yPt) * ux;
  const centre = over(circle.centre);
  return over(through) >= 0 ? centre + circle.radiusPt : centre - circle.radiusPt;
}

/** The arc with the same ends and another rise above the line between them, in points; negative hangs down. */
export function withRise(arc: Arc, risePt: number): Arc {
  const { start, end } = arc;
  const chord = distance(start, end) || 1;
  const [ux, uy] = [(end.xPt - start.xPt) / chord, (end.yPt - start.yPt) / chord];
  // Up, seen along the chord (y down).
  return { ...arc, through: inReach({ xPt: (start.xPt + end.xPt) / 2 + uy * risePt, yPt: (start.yPt + end.yPt) / 2 - ux * risePt }) };
}

/** The arc with the same ends and another radius, in points; at least half the distance of its ends. It bends the way it did. */
export function withRadius(arc: Arc, radiusPt: number): Arc {
  const half = distance(arc.start, arc.end) / 2;
  const radius = Math.max(half, Math.abs(radiusPt));
  const rise = radius - Math.sqrt(radius * radius - half * half);
  return withRise(arc, riseOf(arc) < 0 ? -rise : rise);
}

/** A smooth course through places, in their order: Catmull–Rom, each handle a third of the way at the slope between its neighbours. */
export function curvesThrough(places: readonly PathPoint[]): PathPiece[] {
  const at = (i: number): PathPoint => places[Math.max(0, Math.min(places.length - 1, i))] ?? { xPt: 0, yPt: 0 };
  return places.slice(1).map((end, i) => {
    const [before, start, after] = [at(i - 1), at(i), at(i + 2)];
    return {
      from: { xPt: start.xPt + (end.xPt - before.xPt) / 6, yPt: start.yPt + (end.yPt - before.yPt) / 6 },
      to: { xPt: end.xPt - (after.xPt - start.xPt) / 6, yPt: end.yPt - (after.yPt - start.yPt) / 6 },
      end,
    };
  });
}

/** The name of a path, with its most telling value. */
export function sayPath(path: Path): string {
  switch (path.kind) {
    case 'straight':
      return 'straight';
    case 'arc':
      return `arc, rise ${printValue(riseOf(path), 1)} pt`;
    case 'circle':
      return `circle, radius ${printValue(path.radiusPt, 1)} pt`;
    case 'wave':
      return `wave, height ${printValue(path.heightPt, 1)} pt`;
    case 'drawn':
      return 'drawn';
    case 'stacked':
      return `stacked, next column ${path.columns}`;
    case 'quarter':
      return `rotated 90° ${path.turn}`;
  }
}

/** The places that state a path, in their order: what handles stand on. */
export function pathPlaces(path: Path): readonly PathPoint[] {
  switch (path.kind) {
    case 'arc':
      return [path.start, path.through, path.end];
    case 'circle':
      return [path.centre, { xPt: path.centre.xPt, yPt: path.centre.yPt - path.radiusPt }];
    case 'wave':
      return [path.start, path.end];
    case 'drawn':
      return [path.start, ...path.curves.map(({ end }) => end)];
    default:
      return [];
  }
}

/** A path with one of its places elsewhere; handles of a drawn one go with their places. */
export function withPlace(path: Path, index: number, wanted: PathPoint): Path {
  const from = pathPlaces(path)[index];
  const to = inReach(wanted);
  if (!from) return path;
  switch (path.kind) {
    case 'arc':
      return { ...path, [(['start', 'through', 'end'] as const)[index] ?? 'end']: to };
    case 'circle':
      return index === 0 ? { ...path, centre: to } : { ...path, radiusPt: Math.max(1, Math.min(FARTHEST, distance(path.centre, to))) };
    case 'wave':
      return index === 0 ? { ...path, start: to } : { ...path, end: to };
    case 'drawn': {
      const moved = ({ xPt, yPt }: PathPoint): PathPoint => inReach({ xPt: xPt + to.xPt - from.xPt, yPt: yPt + to.yPt - from.yPt });
      return {
        ...path,
        start: index === 0 ? to : path.start,
        curves: path.curves.map((curve, i) => ({
          from: i === index ? moved(curve.from) : curve.from,
          to: i === index - 1 ? moved(curve.to) : curve.to,
          end: i === index - 1 ? to : curve.end,
        })),
      };
    }
    default:
      return path;
  }
}

/** Distances from a path and heights of waves are no larger, in points. */
const MOST = 5000;

/** A path larger or smaller, seen from its frame's top left. */
export function scalePath(path: Path, by: number): Path {
  const place = ({ xPt, yPt }: PathPoint): PathPoint => inReach({ xPt: xPt * by, yPt: yPt * by });
  if (!isRide(path)) return path;
  const distancePt = within(path.distancePt * by, MOST);
  switch (path.kind) {
    case 'arc':
      return { ...path, distancePt, start: place(path.start), through: place(path.through), end: place(path.end) };
    case 'circle':
      return { ...path, distancePt, centre: place(path.centre), radiusPt: Math.max(1, Math.min(FARTHEST, path.radiusPt * by)) };
    case 'wave':
      return { ...path, distancePt, start: place(path.start), end: place(path.end), heightPt: within(path.heightPt * by, MOST) };
    case 'drawn':
      return {
        ...path,
        distancePt,
        start: place(path.start),
        curves: path.curves.map(({ from, to, end }) => ({ from: place(from), to: place(to), end: place(end) })),
      };
  }
}
