/**
 * Edge profiles: how far the ink of a glyph stands back from the sides of its advance, height by height. Everything about
 * the white between letters is measured on these. Lengths in em, y up.
 */
import { keptBy, knownOf, valueAt } from '../base';
import { type FaceInstance, type Outline, flatten } from '../face';
import { type Lean, UPRIGHT_LEAN, leanOf } from './lean';

/** Lowest and highest measured height, and how many equal bands lie between them (docs/spacing.md). */
export const LOWEST = -0.28;
export const HIGHEST = 0.98;
export const BANDS = 48;
export const BAND = (HIGHEST - LOWEST) / BANDS;
/** Outlines are looked at in finer slices than their white is summed in: more than two a band add nothing (docs/spacing.md). */
const SLICES = 2;
const SLICED = BANDS * SLICES;
const SLICE = BAND / SLICES;

/** A side that shows no ink at a height stands back this far: white beyond it is not seen as belonging to the gap. */
export const DEEPEST = 0.5;
/**
 * Ink that hangs over the edge of the advance is seen no farther out than this: the hook of an f narrows a gap at one place only.
 * In em; chosen among 0.02 to 0.1 by the closed form over regular weights (docs/spacing.md).
 */
const OVERHANG = 0.02;

/** Height of the middle of a band. */
export const bandHeight = (band: number): number => LOWEST + (band + 0.5) * BAND;

/** One side of a glyph, as its neighbour sees it. */
export interface GlyphSide {
  /** Distance from the edge of the advance to the nearest ink, for each of `SLICES` slices of every band, from below. */
  fine: Float64Array;
  /** Distance to the nearest ink of a band; `DEEPEST` or more where there is none. May be negative. */
  raw: Float64Array;
  /** The mean over a band's slices, each seeing its neighbours at 45 degrees: how the eye bridges notches and open counters. */
  seen: Float64Array;
}

/** A glyph as spacing sees it. Lengths in em. */
export interface GlyphProfile {
  /** Both sides, seen along the lean. */
  left: GlyphSide;
  right: GlyphSide;
  lean: Lean;
  advance: number;
  /** Ink from bottom to top, and from left to right. */
  bottom: number;
  top: number;
  inkLeft: number;
  inkRight: number;
  /** Where the ink begins and ends along the lean: what bearings are taken from. */
  leantLeft: number;
  leantRight: number;
  /** The outline as straight pieces: x0, y0, x1, y1 of each. Made when it is first asked for. */
  pieces: () => Float64Array;
}

/** How the right letter stands against the left: its height and width over the left's, and how far it is raised in em of the left. */
export interface Standing {
  scale: number;
  across: number;
  shift: number;
}

export const BASE_LEVEL: Standing = { scale: 1, across: 1, shift: 0 };

/** A curve is measured in as many straight pieces as keep within this distance of it, in em, but no more than `MOST_PIECES`. */
const FLATNESS = 0.001;
const MOST_PIECES = 8;

/**
 * Measures a glyph.
 * @param advance in font units. @param lean how its face leans: sides are looked at along it.
 * @returns undefined for a glyph without ink: a space, an empty or bitmap-only glyph.
 */
export function profileOutline(outline: Outline, advance: number, unitsPerEm: number, lean = UPRIGHT_LEAN): GlyphProfile | undefined {
  const em = 1 / unitsPerEm;
  const leftmost = new Float64Array(SLICED).fill(Number.POSITIVE_INFINITY);
  const rightmost = new Float64Array(SLICED).fill(Number.NEGATIVE_INFINITY);
  let bottom = Number.POSITIVE_INFINITY;
  let top = Number.NEGATIVE_INFINITY;
  let inkLeft = Number.POSITIVE_INFINITY;
  let inkRight = Number.NEGATIVE_INFINITY;
  let leantLeft = Number.POSITIVE_INFINITY;
  let leantRight = Number.NEGATIVE_INFINITY;
  const { slope: leaning, about } = lean;
  const { ends, count } = straightPieces(outline, em);
  for (let i = 0; i < count; i += 4) {
    const rising = valueAt(ends, i + 1) < valueAt(ends, i + 3);
    const from = rising ? i : i + 2;
    const to = rising ? i + 2 : i;
    const low = valueAt(ends, from + 1);
    const high = valueAt(ends, to + 1);
    let lowX = valueAt(ends, from);
    let highX = valueAt(ends, to);
    if (low < bottom) bottom = low;
    if (high > top) top = high;
    if (lowX < inkLeft) inkLeft = lowX;
    if (highX < inkLeft) inkLeft = highX;
    if (lowX > inkRight) inkRight = lowX;
    if (highX > inkRight) inkRight = highX;
    // As it is seen along the lean.
    lowX -= (low - about) * leaning;
    highX -= (high - about) * leaning;
    const least = lowX < highX ? lowX : highX;
    const most = lowX < highX ? highX : lowX;
    if (least < leantLeft) leantLeft = least;
    if (most > leantRight) leantRight = most;
    if (high < LOWEST || low >= HIGHEST) continue;
    const first = low > LOWEST ? ((low - LOWEST) / SLICE) | 0 : 0;
    const last = high < HIGHEST ? ((high - LOWEST) / SLICE) | 0 : SLICED - 1;
    const slope = high > low ? (highX - lowX) / (high - low) : 0;
    // From below upwards: where the edge enters a slice, and where it leaves it for the next one.
    let enters = low < LOWEST ? lowX + (LOWEST - low) * slope : lowX;
    for (let slice = first; slice <= last; slice++) {
      const edge = LOWEST + (slice + 1) * SLICE;
      const leaves = edge < high ? lowX + (edge - low) * slope : highX;
      const nearer = enters < leaves ? enters : leaves;
      const farther = enters < leaves ? leaves : enters;
      if (nearer < valueAt(leftmost, slice)) leftmost[slice] = nearer;
      if (farther > valueAt(rightmost, slice)) rightmost[slice] = farther;
      enters = leaves;
    }
  }
  if (!Number.isFinite(bottom + top + inkLeft + inkRight) || inkRight - inkLeft <= 0) return undefined;
  const width = advance * em;
  // Where there is no ink, white reaches beyond what is seen.
  for (let slice = 0; slice < SLICED; slice++) {
    const edge = valueAt(rightmost, slice);
    rightmost[slice] = edge > Number.NEGATIVE_INFINITY ? width - edge : DEEPEST * 2;
    if (leftmost[slice] === Number.POSITIVE_INFINITY) leftmost[slice] = DEEPEST * 2;
  }
  let known: Float64Array | undefined;
  const pieces = (): Float64Array => {
    if (known) return known;
    const { ends, count } = straightPieces(outline, em);
    return (known = ends.slice(0, count));
  };
  const [left, right] = [makeSide(leftmost), makeSide(rightmost)];
  return { left, right, lean, advance: width, bottom, top, inkLeft, inkRight, leantLeft, leantRight, pieces };
}

/** The pieces of one outline, written over by the next: growing a list for each glyph would take longer than measuring it. */
const scratch = { ends: new Float64Array(4096), count: 0 };

/** An outline as straight pieces, in em: x0, y0, x1, y1 of each, in the first `count` of `ends`. To be read before it is called again. */
function straightPieces(outline: Outline, em: number): Readonly<typeof scratch> {
  let { ends } = scratch;
  let count = 0;
  flatten(
    outline,
    (x, y, values) => piecesOf(x, y, values, em),
    (x0, y0, x1, y1) => {
      if (count + 4 > ends.length) {
        const longer = new Float64Array(ends.length * 2);
        longer.set(ends);
        ends = scratch.ends = longer;
      }
      ends[count] = x0 * em;
      ends[count + 1] = y0 * em;
      ends[count + 2] = x1 * em;
      ends[count + 3] = y1 * em;
      count += 4;
    },
  );
  scratch.count = count;
  return scratch;
}

/** Wang's formula: how many pieces keep a curve within `FLATNESS`, from its second differences. */
function piecesOf(x: number, y: number, values: readonly number[], em: number): number {
  const x1 = values[0] ?? 0;
  const y1 = values[1] ?? 0;
  const x2 = values[2] ?? 0;
  const y2 = values[3] ?? 0;
  const x3 = values[4];
  const y3 = values[5];
  const bend =
    x3 === undefined || y3 === undefined
      ? 0.25 * (second(x, x1, x2) + second(y, y1, y2))
      : 0.75 * Math.max(second(x, x1, x2) + second(y, y1, y2), second(x1, x2, x3) + second(y1, y2, y3));
  return Math.max(1, Math.min(MOST_PIECES, Math.ceil(Math.sqrt((bend * em) / FLATNESS)))) || 1;
}

/** How far three values along one axis depart from being evenly spaced. */
const second = (a: number, b: number, c: number): number => Math.abs(a - 2 * b + c);

function makeSide(fine: Float64Array): GlyphSide {
  const raw = new Float64Array(BANDS);
  const seen = new Float64Array(BANDS);
  /** Each slice seeing those below it. */
  const below = new Float64Array(SLICED);
  // Written out: every glyph is measured here, on both sides.
  let reach = DEEPEST;
  for (let slice = 0; slice < SLICED; slice++) {
    const edge = valueAt(fine, slice);
    reach += SLICE;
    if (reach > DEEPEST) reach = DEEPEST;
    if (edge < reach) reach = edge > -OVERHANG ? edge : -OVERHANG;
    below[slice] = reach;
  }
  reach = DEEPEST;
  for (let band = BANDS - 1; band >= 0; band--) {
    let nearest = DEEPEST * 2;
    let sum = 0;
    for (let slice = (band + 1) * SLICES - 1; slice >= band * SLICES; slice--) {
      const edge = valueAt(fine, slice);
      const seenFromBelow = valueAt(below, slice);
      if (edge < nearest) nearest = edge;
      reach += SLICE;
      if (seenFromBelow < reach) reach = seenFromBelow;
      sum += reach;
    }
    raw[band] = nearest;
    seen[band] = sum / SLICES;
  }
  return { fine, raw, seen };
}

/**
 * A side as it stands when its letter is scaled and shifted against the letter it faces.
 * @param own how its letter leans. @param other how the letter it faces leans, along which it is seen then.
 */
export function placedSide(side: GlyphSide, { scale, across, shift }: Standing, own = UPRIGHT_LEAN, other = own): GlyphSide {
  if (scale === 1 && across === 1 && shift === 0 && own.slope === other.slope && own.about === other.about) return side;
  const fine = new Float64Array(SLICED);
  for (let slice = 0; slice < SLICED; slice++) {
    const bottom = (LOWEST + slice * SLICE - shift) / scale;
    const top = (LOWEST + (slice + 1) * SLICE - shift) / scale;
    const from = Math.floor((bottom - LOWEST) / SLICE);
    const to = Math.ceil((top - LOWEST) / SLICE);
    let nearest = DEEPEST * 2;
    for (let source = Math.max(0, from); source < Math.min(SLICED, Math.max(to, from + 1)); source++) {
      const edge = valueAt(side.fine, source);
      if (edge < DEEPEST * 2) nearest = Math.min(nearest, edge * across);
    }
    // Where there is no ink there is none along any lean.
    if (nearest < DEEPEST * 2) nearest += ((bottom + top) / 2 - own.about) * own.slope * across - (LOWEST + (slice + 0.5) * SLICE - other.about) * other.slope;
    fine[slice] = nearest;
  }
  return makeSide(fine);
}

/** The left side of a letter as the letter left of it sees it. */
export const facedSide = (left: GlyphProfile, right: GlyphProfile, standing: Standing): GlyphSide => placedSide(right.left, standing, right.lean, left.lean);

/** Profiles of one instance's glyphs, measured once each. */
const caches = new WeakMap<FaceInstance, Map<number, GlyphProfile | null>>();
const MAX_PROFILES = 4096;

/** Turns are told apart in tenths of a degree. */
const TURNS = 10;

/** Letters turned by more than this, in degrees, lie on their side. */
const ON_SIDE = 45;

/**
 * The profile of a glyph, or undefined where it has no ink.
 * @param turnDeg how far it is turned around the middle of its advance and of the x-height, clockwise.
 */
export function profileOf(instance: FaceInstance, glyphId: number, turnDeg = 0): GlyphProfile | undefined {
  const turn = Math.round(turnDeg * TURNS);
  const cache = knownOf(caches, instance, () => new Map<number, GlyphProfile | null>());
  return (
    keptBy(cache, turn * 65_536 + glyphId, MAX_PROFILES, () => {
      const outline = turn === 0 ? instance.outline(glyphId) : turnedOutline(instance, glyphId, turn / TURNS);
      // A letter that lies on its side shows its head and foot: they don't lean.
      const lean = Math.abs(turn) > ON_SIDE * TURNS ? UPRIGHT_LEAN : leanOf(instance);
      return profileOutline(outline, instance.advance(glyphId), instance.unitsPerEm, lean) ?? null;
    }) ?? undefined
  );
}

/** A glyph's outline, turned. */
function turnedOutline(instance: FaceInstance, glyphId: number, turnDeg: number): Outline {
  const [cx, cy] = [instance.advance(glyphId) / 2, instance.metrics.xHeight / 2];
  // Clockwise, with y up.
  const [cos, sin] = [Math.cos((turnDeg * Math.PI) / 180), -Math.sin((turnDeg * Math.PI) / 180)];
  return instance.outline(glyphId).map(({ type, values }) => ({
    type,
    values: values.map((value, i) => {
      const [x, y] = i % 2 === 0 ? [value - cx, (values[i + 1] ?? 0) - cy] : [(values[i - 1] ?? 0) - cx, value - cy];
      return i % 2 === 0 ? cx + x * cos - y * sin : cy + x * sin + y * cos;
    }),
  }));
}
