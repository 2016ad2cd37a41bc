/**
 * Optical alignment: how far the ink of a letter reaches past an edge for the white along the margin to be that of a stem
 * (docs/spacing.md, "Along an edge"). Lengths in em.
 */
import type { FaceInstance } from '../face';
import { keptBy, knownOf, valueAt } from '../base';
import { BAND, BANDS, DEEPEST, type GlyphProfile, LOWEST, UPRIGHT_LEAN, leanOf, profileOutline, rhythmOf, sideShape } from '../spacing';

export type EdgeSide = 'left' | 'right';

/** One side of a letter beside an edge. */
export interface EdgeShape {
  /** From the side of its advance inwards to its outermost ink; negative where ink hangs over. */
  ink: number;
  /** The same to where an edge meets it: of a leaning face, tails below the baseline are left out. */
  bearing: number;
  /** How far its ink goes past the edge: 0 for stems, never less. */
  past: number;
}

/** How far from the outermost ink the edge is looked at from: what lies deeper counts ever less, by the square, as white between letters does. */
const REACH = 0.1;
/** Nothing goes farther past the edge than this. */
const MOST_PAST = 0.025;
/** Capitals that meet it at one end alone, as T, V, W, Y and A do, go as far as this. */
const MOST_PAST_AT_END = 0.06;
/**
 * A side meets the edge at its head or foot alone where two things hold. In the `NEAR_END` of its height at that end, some ink is within
 * `AT_EDGE` em of its outermost ink. In the `FAR_END` at the other end, all ink stands back by `LEAST_BACK` em and by `STANDS_BACK` em on average.
 */
const NEAR_END = 0.15;
const AT_EDGE = 0.012;
const FAR_END = 0.4;
const LEAST_BACK = 0.06;
const STANDS_BACK = 0.1;

/** A side as the edge meets it: from the side of its advance to its outermost ink, and how far back from there it stands, slice by slice. */
interface Met {
  bearing: number;
  /** From foot to head, as the eye bridges it at 45 degrees. */
  depths: Float64Array;
  /** True where all of it is met. */
  whole: boolean;
}

/** A letter of a leaning face that reaches this far above the baseline is met there alone: its tail below hangs under its neighbours as well. */
const UPPER = 0.2;
/** Ink that ends lower is a tail. */
const TAIL = -0.05;

function metBy({ left, right, inkLeft, inkRight, advance, bottom, top }: GlyphProfile, side: EdgeSide, leans: boolean): Met {
  const { fine } = side === 'left' ? left : right;
  const slice = (BAND * BANDS) / fine.length;
  const lowest = leans && top > UPPER && bottom < TAIL ? 0 : bottom;
  const first = Math.max(0, Math.floor((lowest - LOWEST) / slice));
  const last = Math.min(fine.length - 1, Math.ceil((top - LOWEST) / slice) - 1);
  const seen = Array.from({ length: Math.max(1, last - first + 1) }, (_, i) => fine[first + i] ?? DEEPEST);
  const bearing = lowest === bottom ? (side === 'left' ? inkLeft : advance - inkRight) : Math.min(...seen);
  const depths = Float64Array.from(seen, (edge) => Math.max(0, Math.min(DEEPEST, edge - bearing)));
  let reach = DEEPEST;
  for (let i = 0; i < depths.length; i++) depths[i] = reach = Math.min(valueAt(depths, i), reach + slice);
  reach = DEEPEST;
  for (let i = depths.length - 1; i >= 0; i--) depths[i] = reach = Math.min(valueAt(depths, i), reach + slice);
  return { bearing, depths, whole: lowest === bottom };
}

/** How near a side is to an edge that its ink is past by so much: the mean of the inverse squares of its distances. */
function nearness(depths: Float64Array, past: number): number {
  let sum = 0;
  for (const depth of depths) sum += 1 / Math.max(0.005, REACH + depth - past) ** 2;
  return sum / depths.length;
}

/** The white along the margin beside a side whose ink is past the edge by so much, in em: what alignment makes alike. */
export const whiteAlong = (profile: GlyphProfile, side: EdgeSide, past: number, leans = false): number =>
  1 / Math.sqrt(nearness(metBy(profile, side, leans).depths, past)) - REACH;

/** Cached measures of an instance: the nearness of its stems, the height from which letters are tall (em), and the sides that were asked for. */
interface Known {
  leans: boolean;
  upright: boolean;
  stem: Readonly<Record<EdgeSide, number>>;
  tall: number;
  sides: Map<number, EdgeShape | null>;
}
const known = new WeakMap<FaceInstance, Known>();

/** A face whose slope (across over up) is smaller counts as upright. */
const SLANT = 0.06;
/** The nearness of a stem without serifs. */
const WALL = 1 / REACH ** 2;

/** True for a side that meets the edge at its head or at its foot alone. */
function meetsAtEnd(depths: Float64Array): boolean {
  const far = Math.max(1, Math.round(FAR_END * depths.length));
  const near = Math.max(1, Math.round(NEAR_END * depths.length));
  const meets = (end: Float64Array, other: Float64Array): boolean =>
    Math.min(...end) < AT_EDGE && Math.min(...other) >= LEAST_BACK && other.reduce((sum, depth) => sum + depth, 0) / other.length >= STANDS_BACK;
  const { length } = depths;
  return meets(depths.subarray(0, near), depths.subarray(length - far)) || meets(depths.subarray(length - near), depths.subarray(0, far));
}

/** Letters are seen upright here, whatever their lean: the edge is. */
export const uprightProfile = (instance: FaceInstance, glyphId: number): GlyphProfile | undefined =>
  profileOutline(instance.outline(glyphId), instance.advance(glyphId), instance.unitsPerEm, UPRIGHT_LEAN);

function measureEdges(instance: FaceInstance): Known {
  const glyph = (letter: string): GlyphProfile | undefined => {
    const id = instance.nominalGlyph(letter.codePointAt(0) ?? 0);
    return id === undefined ? undefined : uprightProfile(instance, id);
  };
  const stem = glyph('H') ?? glyph('l');
  const { slope } = leanOf(instance);
  const leans = slope !== 0;
  const { capHeight, xHeight } = rhythmOf(instance);
  return {
    leans,
    upright: Math.abs(slope) < SLANT,
    stem: { left: stem ? nearness(metBy(stem, 'left', leans).depths, 0) : WALL, right: stem ? nearness(metBy(stem, 'right', leans).depths, 0) : WALL },
    tall: (capHeight + xHeight) / 2,
    sides: new Map(),
  };
}

/** The side of a glyph beside an edge; undefined where it has no ink. */
export function edgeShape(instance: FaceInstance, glyphId: number, side: EdgeSide): EdgeShape | undefined {
  const own = knownOf(known, instance, () => measureEdges(instance));
  return keptBy(own.sides, glyphId * 2 + (side === 'left' ? 0 : 1), MOST_SIDES, () => measureSide(instance, own, glyphId, side) ?? null) ?? undefined;
}

function measureSide(instance: FaceInstance, { stem, tall, leans, upright }: Known, glyphId: number, side: EdgeSide): EdgeShape | undefined {
  const profile = uprightProfile(instance, glyphId);
  if (!profile) return undefined;
  const { bearing, depths, whole } = metBy(profile, side, leans);
  // Serifs make hollow white of their own: beside them rounds and points are measured against a plain stem. In leaning faces all lean.
  const atEnd = meetsAtEnd(depths);
  const standard = upright && (atEnd || sideShape(profile[side], profile).kind === 'round') ? WALL : stem[side];
  let [low, high] = [0, atEnd && profile.top > tall && profile.bottom > TAIL ? MOST_PAST_AT_END : MOST_PAST];
  if (nearness(depths, low) >= standard) high = low;
  else if (nearness(depths, high) <= standard) low = high;
  else {
    for (let i = 0; i < 30; i++) {
      const middle = (low + high) / 2;
      if (nearness(depths, middle) < standard) low = middle;
      else high = middle;
    }
  }
  // Profiles take curves as straight pieces: outermost places are taken from the outline itself.
  const bounds = instance.inkBounds(glyphId);
  const em = 1 / instance.unitsPerEm;
  const ink = bounds ? (side === 'left' ? bounds.xMin * em : profile.advance - bounds.xMax * em) : bearing;
  return { ink, bearing: whole ? ink : bearing, past: (low + high) / 2 };
}

const MOST_SIDES = 4096;
