/** Curves by their length: where a path stands and which way it runs, so many points from its start. Points, y down; angles in radians, clockwise. */
import { type PathPoint, type Ride, circleOf } from '../../job';

/** A place on a curve. */
export interface OnCurve {
  x: number;
  y: number;
  /** The way the curve runs there; goes on counting past half a turn, so that differences are how far it has bent. */
  angle: number;
}

export interface Curve {
  readonly lengthPt: number;
  /** The place at a length from the start. A curve goes on past both ends: a circle around, all others the way they ended. */
  at(length: number): OnCurve;
}

const known = new WeakMap<Ride, Curve>();

/** The curve of a path, from the top left corner of its frame; measured once for each path. */
export function curveOf(path: Ride): Curve {
  let curve = known.get(path);
  if (!curve) known.set(path, (curve = measured(path)));
  return curve;
}

function measured(path: Ride): Curve {
  switch (path.kind) {
    case 'arc': {
      const circle = circleOf(path);
      if (!circle) return line(path.start, path.end);
      const { centre, radiusPt } = circle;
      const angleTo = ({ xPt, yPt }: PathPoint): number => Math.atan2(yPt - centre.yPt, xPt - centre.xPt);
      const [first, through, last] = [angleTo(path.start), angleTo(path.through), angleTo(path.end)];
      const clockwise = turnTo(first, through) <= turnTo(first, last);
      return round(centre, radiusPt, first, clockwise ? turnTo(first, last) : turnTo(first, last) - 2 * Math.PI);
    }
    case 'circle':
      return round(path.centre, path.radiusPt, (path.inside ? -Math.PI : Math.PI) / 2, (path.inside ? -2 : 2) * Math.PI);
    case 'wave':
      return wave(path);
    case 'drawn': {
      let { start } = path;
      return pieced(
        path.curves.map(({ from, to, end }) => {
          const piece = cubic(start, from, to, end);
          start = end;
          return piece;
        }),
      );
    }
  }
}

/** How far it is clockwise from one direction to another, 0 to a whole turn. */
const turnTo = (from: number, to: number): number => (((to - from) % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI);

function line({ xPt, yPt }: PathPoint, end: PathPoint): Curve {
  const [dx, dy] = [end.xPt - xPt, end.yPt - yPt];
  const angle = Math.atan2(dy, dx);
  return { lengthPt: Math.hypot(dx, dy), at: (length) => ({ x: xPt + length * Math.cos(angle), y: yPt + length * Math.sin(angle), angle }) };
}

/** Part of a circle. @param first the direction of its start from the centre. @param sweep clockwise; negative the other way. */
function round({ xPt, yPt }: PathPoint, radius: number, first: number, sweep: number): Curve {
  const way = sweep < 0 ? -1 : 1;
  return {
    lengthPt: radius * Math.abs(sweep),
    at: (length) => {
      const turned = first + (way * length) / radius;
      return { x: xPt + radius * Math.cos(turned), y: yPt + radius * Math.sin(turned), angle: turned + (way * Math.PI) / 2 };
    },
  };
}

/** Part of a curve by a parameter from 0 to 1: its places, and how fast they change. */
interface Piece {
  place(t: number): { x: number; y: number };
  speed(t: number): { x: number; y: number };
}

function cubic(a: PathPoint, b: PathPoint, c: PathPoint, d: PathPoint): Piece {
  const mix = (t: number, key: 'xPt' | 'yPt'): number => (1 - t) ** 3 * a[key] + 3 * (1 - t) ** 2 * t * b[key] + 3 * (1 - t) * t * t * c[key] + t ** 3 * d[key];
  const rate = (t: number, key: 'xPt' | 'yPt'): number =>
    3 * ((1 - t) ** 2 * (b[key] - a[key]) + 2 * (1 - t) * t * (c[key] - b[key]) + t * t * (d[key] - c[key]));
  return { place: (t) => ({ x: mix(t, 'xPt'), y: mix(t, 'yPt') }), speed: (t) => ({ x: rate(t, 'xPt'), y: rate(t, 'yPt') }) };
}

function wave({ start, end, heightPt, waves }: Extract<Ride, { kind: 'wave' }>): Curve {
  const straight = line(start, end);
  const { lengthPt } = straight;
  if (lengthPt === 0) return straight;
  const { angle } = straight.at(0);
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  // Quarter waves: no piece bends both ways.
  const count = Math.ceil(waves * 4);
  const pieces = Array.from({ length: count }, (_, i): Piece => {
    const [from, span] = [i / count, 1 / count];
    const phase = (t: number): number => 2 * Math.PI * waves * (from + t * span);
    const turned = (x: number, y: number): { x: number; y: number } => ({ x: x * cos - y * sin, y: x * sin + y * cos });
    return {
      place: (t) => {
        const { x, y } = turned((from + t * span) * lengthPt, (-heightPt / 2) * Math.sin(phase(t)));
        return { x: start.xPt + x, y: start.yPt + y };
      },
      speed: (t) => turned(span * lengthPt, (-heightPt / 2) * 2 * Math.PI * waves * span * Math.cos(phase(t))),
    };
  });
  return pieced(pieces);
}

/** Nodes and weights of Gauss and Legendre's rule with five places on -1 to 1 (Abramowitz and Stegun, table 25.4). */
const GAUSS: readonly (readonly [node: number, weight: number])[] = [
  [0, 0.568888888888889],
  [-0.538469310105683, 0.478628670499366],
  [0.538469310105683, 0.478628670499366],
  [-0.906179845938664, 0.236926885056189],
  [0.906179845938664, 0.236926885056189],
];
/** Every piece is measured in so many parts: then lengths are exact to far less than a thousandth of a point (path.spec.ts). */
const PARTS = 32;
/** Where a piece stands still, at a handle that lies on its end, its direction is taken this far beside. */
const BESIDE = 1e-4;

/** Curves one after the other, measured once. */
function pieced(pieces: readonly Piece[]): Curve {
  const speedAt = (piece: Piece, t: number): number => {
    const { x, y } = piece.speed(t);
    return Math.hypot(x, y);
  };
  const lengthBetween = (piece: Piece, from: number, to: number): number => {
    const [middle, half] = [(from + to) / 2, (to - from) / 2];
    return half * GAUSS.reduce((sum, [node, weight]) => sum + weight * speedAt(piece, middle + half * node), 0);
  };
  const directionAt = (piece: Piece, t: number): number => {
    let { x, y } = piece.speed(t);
    if (Math.hypot(x, y) < 1e-9) ({ x, y } = piece.speed(t < 0.5 ? t + BESIDE : t - BESIDE));
    return Math.atan2(y, x);
  };
  /** The angle nearest to a known one that points the same way. */
  const unwound = (angle: number, near: number): number => angle + 2 * Math.PI * Math.round((near - angle) / (2 * Math.PI));

  const lengths: number[] = [0];
  const angles: number[] = [];
  for (const piece of pieces) {
    for (let part = 0; part < PARTS; part++) {
      const angle = directionAt(piece, part / PARTS);
      angles.push(unwound(angle, angles[angles.length - 1] ?? angle));
      lengths.push((lengths[lengths.length - 1] ?? 0) + lengthBetween(piece, part / PARTS, (part + 1) / PARTS));
    }
  }
  const lengthPt = lengths[lengths.length - 1] ?? 0;

  const inside = (length: number): OnCurve => {
    let [low, high] = [0, angles.length - 1];
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if ((lengths[middle] ?? 0) <= length) low = middle;
      else high = middle - 1;
    }
    const piece = pieces[Math.floor(low / PARTS)];
    if (!piece) return { x: 0, y: 0, angle: 0 };
    const [from, to] = [(low % PARTS) / PARTS, ((low % PARTS) + 1) / PARTS];
    const wanted = length - (lengths[low] ?? 0);
    const whole = (lengths[low + 1] ?? 0) - (lengths[low] ?? 0);
    let t = whole === 0 ? from : from + ((to - from) * wanted) / whole;
    for (let step = 0; step < 8; step++) {
      const speed = speedAt(piece, t);
      const off = lengthBetween(piece, from, t) - wanted;
      if (Math.abs(off) < 1e-9 || speed === 0) break;
      t = Math.max(from, Math.min(to, t - off / speed));
    }
    return { ...piece.place(t), angle: unwound(directionAt(piece, t), angles[low] ?? 0) };
  };
  const [start, end] = [inside(0), inside(lengthPt)];
  return {
    lengthPt,
    at: (length) => {
      const beyond = Math.max(length - lengthPt, Math.min(length, 0));
      if (beyond === 0) return inside(length);
      const { x, y, angle } = beyond < 0 ? start : end;
      return { x: x + beyond * Math.cos(angle), y: y + beyond * Math.sin(angle), angle };
    },
  };
}

/** How near to a length along a parallel the search comes, in points. */
const NEAR = 1e-7;

/** A place on the parallel of a curve, and the place of the curve that it stands beside. */
export interface OnParallel extends OnCurve {
  length: number;
}

/**
 * The parallel of a curve that begins beside one of its places: what a further line stands on. A curve that bends by an angle makes its
 * parallel longer by that angle times their distance.
 * @param from the place, as a length of the curve. @param downPt how far below the curve it runs, seen along it.
 * @returns places by their length on the parallel from there. Nearer to the middle of a bend than its radius there is no parallel: places
 * crowd there, but there is always one.
 */
export function parallelOf(curve: Curve, from: number, downPt: number): (length: number) => OnParallel {
  const start = curve.at(from);
  return (wanted) => {
    let length = from + wanted;
    let place = curve.at(length);
    if (downPt !== 0) {
      const lengthTo = (at: number, { angle }: OnCurve): number => at - from - downPt * (angle - start.angle);
      // Secants: on a circle the first is exact.
      let [before, offBefore] = [from, -wanted];
      for (let step = 0; step < 30; step++) {
        const off = lengthTo(length, place) - wanted;
        if (Math.abs(off) < NEAR || length === before) break;
        const rise = (off - offBefore) / (length - before);
        // Where the parallel runs backwards there is no going on.
        if (!(rise > 0.05)) break;
        [before, offBefore] = [length, off];
        length -= off / rise;
        place = curve.at(length);
      }
    }
    return { length, angle: place.angle, x: place.x - downPt * Math.sin(place.angle), y: place.y + downPt * Math.cos(place.angle) };
  };
}

/** Places that are looked at before the nearest is found more closely. */
const LOOKED_AT = 256;

/** The length at which a curve passes a point most nearly. */
export function nearestLength(curve: Curve, { x, y }: { x: number; y: number }): number {
  const away = (length: number): number => {
    const place = curve.at(length);
    return (place.x - x) ** 2 + (place.y - y) ** 2;
  };
  const step = curve.lengthPt / LOOKED_AT;
  let best = 0;
  for (let i = 1; i <= LOOKED_AT; i++) if (away(i * step) < away(best)) best = i * step;
  let [low, high] = [Math.max(0, best - step), Math.min(curve.lengthPt, best + step)];
  for (let round = 0; round < 40; round++) {
    const [a, b] = [low + (high - low) / 3, high - (high - low) / 3];
    if (away(a) < away(b)) high = b;
    else low = a;
  }
  return (low + high) / 2;
}
