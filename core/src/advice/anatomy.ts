/** The anatomy of a face, measured from its outlines: what kind it is, how heavy, wide, contrasted and large on its body. Lengths in em. */
import { type FaceInstance, type Outline, flatten } from '../face';

/** Kinds a face is found by. */
export const FACE_KINDS = ['serif', 'sans', 'slab', 'script', 'mono'] as const;
export type FaceKind = (typeof FACE_KINDS)[number];
/** Kinds as people look for them: a face for large sizes is of another kind as well. */
export const FOUND_KINDS = [...FACE_KINDS, 'display'] as const;
export type FoundKind = (typeof FOUND_KINDS)[number];

export interface Anatomy {
  kind: FaceKind;
  /** Thickness of an upright stem. */
  stem: number;
  /** Thinnest over thickest part of a round letter: 1 is even, below 0.4 strongly contrasted. */
  contrast: number;
  /** Mean advance of lower-case letters over the x-height: about 1.2; condensed faces stay below 0.95. */
  width: number;
  xHeight: number;
  capHeight: number;
  condensed: boolean;
  /** Made for large sizes, whatever else it is: hairlines that small sizes lose, more black than white, or swashes. */
  display: boolean;
}

/** Capitals that plain faces keep within their lines. */
const CAPITALS = 'A B D E F H I K L M N P R T V W Z'.split(' ');

/** Where ink begins and ends on a level line. */
type Spans = [from: number, to: number][];

const CURVE_PIECES = 12;

/** Straight pieces of an outline: x0, y0, x1, y1 in em. */
function pieces(outline: Outline, em: number): number[][] {
  const out: number[][] = [];
  flatten(outline, CURVE_PIECES, (x0, y0, x1, y1) => out.push([x0 / em, y0 / em, x1 / em, y1 / em]));
  return out;
}

/** Ink along the line `y = at` (or, turned, `x = at`), by the non-zero rule. */
function spansAt(lines: readonly number[][], at: number, turned = false): Spans {
  const crossings: { where: number; turn: number }[] = [];
  for (const [x0 = 0, y0 = 0, x1 = 0, y1 = 0] of lines) {
    const [a0, b0, a1, b1] = turned ? [y0, x0, y1, x1] : [x0, y0, x1, y1];
    if (b0 <= at === b1 <= at) continue;
    crossings.push({ where: a0 + ((at - b0) / (b1 - b0)) * (a1 - a0), turn: b1 > b0 ? 1 : -1 });
  }
  crossings.sort((p, q) => p.where - q.where);
  const spans: Spans = [];
  let winding = 0;
  let from = 0;
  for (const { where, turn } of crossings) {
    if (winding === 0) from = where;
    winding += turn;
    if (winding === 0) spans.push([from, where]);
  }
  return spans;
}

/** A base wider than its stem by this much carries serifs; serifs this thick against the stem are slabs. */
const SERIF_WIDENS = 1.35;
const SLAB_SHARE = 0.5;
const SLAB_EVENNESS = 0.62;
const CONDENSED_BELOW = 0.9;
/**
 * A face for large sizes: hairlines of at most this share of the thick strokes, stems that take this share of an average letter's advance,
 * or capitals whose ink reaches on average this far, in cap heights, beyond where plain capitals end. Set between the text and the display
 * families of the catalogue.
 */
const HAIRLINES = 0.23;
const BLACK_SHARE = 0.36;
const ORNAMENT = 0.25;
/** A script leans by at least this: its stems' way to the right over their height. */
const LEANS = 0.08;

const known = new WeakMap<FaceInstance, Anatomy>();

/** Measures a face at its axis position, once. A face without the letters that are looked at gets cautious answers. */
export function measureAnatomy(instance: FaceInstance): Anatomy {
  let anatomy = known.get(instance);
  if (!anatomy) known.set(instance, (anatomy = measured(instance)));
  return anatomy;
}

function measured(instance: FaceInstance): Anatomy {
  const em = instance.unitsPerEm;
  const glyph = (letter: string): number | undefined => instance.nominalGlyph(letter.codePointAt(0) ?? 0);
  const linesOf = (letter: string): number[][] => {
    const id = glyph(letter);
    return id === undefined ? [] : pieces(instance.outline(id), em);
  };
  const advanceOf = (letter: string): number => {
    const id = glyph(letter);
    return id === undefined ? 0 : instance.advance(id) / em;
  };
  const capHeight = instance.metrics.capHeight / em;
  const xHeight = instance.metrics.xHeight / em;
  const height = linesOf('n').length > 0 ? xHeight : capHeight;

  const H = linesOf('H');
  const upright = spansAt(H, capHeight * 0.3)[0] ?? spansAt(linesOf('n'), xHeight * 0.4)[0] ?? [0, 0];
  const stem = upright[1] - upright[0];
  const o = linesOf('o').length > 0 ? linesOf('o') : linesOf('O');
  const ink = o.reduce<[number, number]>(([low, high], [x0 = 0]) => [Math.min(low, x0), Math.max(high, x0)], [Infinity, -Infinity]);
  const side = spansAt(o, height / 2)[0];
  const thick = side ? side[1] - side[0] : stem;
  // The thin part of a round letter may lie off the middle: the thinnest of several cuts.
  const cuts = [0.35, 0.42, 0.5, 0.58, 0.65].flatMap((share) => spansAt(o, ink[0] + share * (ink[1] - ink[0]), true).map(([from, to]) => to - from));
  const thin = Math.min(thick, ...cuts.filter((cut) => cut > 0.005));
  const letters = 'a b c d e f g h n o p q r s t u v x y z'
    .split(' ')
    .map(advanceOf)
    .filter((advance) => advance > 0);
  const mean = letters.reduce((sum, advance) => sum + advance, 0) / Math.max(1, letters.length);
  const width = mean / (height || 1);

  return {
    kind: kindOf(),
    stem: round(stem),
    contrast: round(thick > 0 ? Math.min(1, thin / thick) : 1),
    width: round(width),
    xHeight: round(xHeight),
    capHeight: round(capHeight),
    condensed: width < CONDENSED_BELOW,
    display: (thick > 0 && thin / thick <= HAIRLINES) || (mean > 0 && stem / mean >= BLACK_SHARE) || ornament() >= ORNAMENT,
  };

  /** How far the ink of capitals reaches beyond their advance, their height and the baseline, on average, in cap heights. */
  function ornament(): number {
    const reaches = CAPITALS.flatMap((letter) => {
      const lines = linesOf(letter);
      if (lines.length === 0 || capHeight <= 0) return [];
      const xs = lines.flatMap(([x0 = 0, , x1 = 0]) => [x0, x1]);
      const ys = lines.flatMap(([, y0 = 0, , y1 = 0]) => [y0, y1]);
      const beyond = [-Math.min(...xs), Math.max(...xs) - advanceOf(letter), -Math.min(...ys), Math.max(...ys) - capHeight];
      return [beyond.reduce((sum, one) => sum + Math.max(0, one), 0) / capHeight];
    });
    return reaches.reduce((sum, one) => sum + one, 0) / Math.max(1, reaches.length);
  }

  function kindOf(): FaceKind {
    const [narrow, wide] = [advanceOf('i'), advanceOf('m')];
    if (narrow > 0 && Math.abs(narrow - wide) < 0.01) return 'mono';
    if (joins()) return 'script';
    const base = spansAt(H, capHeight * 0.012)[0] ?? spansAt(H, capHeight * 0.03)[0];
    if (!base || stem <= 0 || (base[1] - base[0]) / stem < SERIF_WIDENS) return 'sans';
    const beside = spansAt(H, base[0] + (upright[0] - base[0]) * 0.45, true)[0];
    return beside && (beside[1] - beside[0]) / stem >= SLAB_SHARE && thin / (thick || 1) > SLAB_EVENNESS ? 'slab' : 'serif';
  }

  /** Leaning letters that run into each other. */
  function joins(): boolean {
    const gaps = ['n', 'm', 'u', 'a', 'e'].flatMap((letter) => {
      const lines = linesOf(letter);
      const xs = lines.flatMap(([x0 = 0]) => [x0]);
      if (xs.length === 0) return [];
      return [advanceOf(letter) - Math.max(...xs) + Math.min(...xs)];
    });
    gaps.sort((a, b) => a - b);
    if (gaps.length < 3 || (gaps[Math.floor(gaps.length / 2)] ?? 1) >= 0.02) return false;
    const stemOf = linesOf('l');
    const [low, high] = [spansAt(stemOf, xHeight * 0.3)[0], spansAt(stemOf, xHeight * 0.9)[0]];
    return low !== undefined && high !== undefined && (high[0] - low[0]) / (xHeight * 0.6) > LEANS;
  }
}

const round = (value: number): number => Math.round(value * 1000) / 1000;

/** Why one face partners another. */
export interface Partnering {
  score: number;
  reasons: string[];
}

/**
 * How well a face goes beside another: another kind, x-heights that match, and enough difference in weight or contrast.
 * @returns undefined where it does not.
 */
export function partnering(one: Anatomy, other: Anatomy): Partnering | undefined {
  if (one.kind === other.kind) return undefined;
  const x = Math.abs(one.xHeight - other.xHeight) / Math.max(one.xHeight, other.xHeight, 0.01);
  const weight = Math.abs(one.stem - other.stem) / Math.max(one.stem, other.stem, 0.01);
  const contrast = Math.abs(one.contrast - other.contrast);
  if (x > 0.08 || (weight < 0.25 && contrast < 0.25)) return undefined;
  const percent = (share: number): string => `${Math.round(share * 100)} %`;
  const reasons = [`${other.kind} beside ${one.kind}`, x < 0.005 ? 'same x-height' : `x-heights within ${percent(x)}`];
  if (weight >= 0.25) reasons.push(`stems ${percent(weight)} ${other.stem < one.stem ? 'lighter' : 'heavier'}`);
  if (contrast >= 0.25) reasons.push(other.contrast > one.contrast ? 'lower stroke contrast' : 'higher stroke contrast');
  return { score: 1 - x / 0.08 + Math.min(1, weight) + Math.min(1, contrast), reasons };
}
