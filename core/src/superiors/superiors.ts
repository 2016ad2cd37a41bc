/**
 * Superiors and inferiors: the font's own small letters where it has all that are asked for, and made ones by the font's measures.
 * Both are styles of letters, so that everything stays text.
 */
import { measureAnatomy } from '../advice';
import type { FaceInstance } from '../face';
import { type Style, type StyleChange, type WordRange, visibleLetters } from '../job';

/** The uses of small letters. */
export const SMALL_KINDS = ['superior', 'inferior', 'ordinal', 'numerator'] as const;
export type SmallKind = (typeof SMALL_KINDS)[number];

/** The features that hold a font's own (OpenType registry), the more special first. */
const FEATURES: Readonly<Record<SmallKind, readonly string[]>> = {
  superior: ['sups'],
  inferior: ['sinf', 'subs'],
  ordinal: ['ordn', 'sups'],
  numerator: ['numr', 'sups'],
};

/** A way to set letters small. */
export interface SmallForm {
  source: 'font' | 'made';
  style: Partial<Style>;
  /** A message for people. */
  says: string;
}

/** Made ones of fonts that state nothing sensible: their size, over the letters'. */
const USUAL_SIZE = 0.62;
/** Sizes and rises outside of these, in em, are no small letters. */
const SIZES = { least: 0.4, most: 0.85 };
const RISES = { least: 0.05, most: 0.7 };
/** An inferior hangs below the baseline by this share of the x-height where nothing is stated. */
const HANGS = 0.28;
/** Weights are tried this often to keep the stem. */
const HALVINGS = 7;

const within = (value: number | undefined, { least, most }: { least: number; most: number }): value is number =>
  value !== undefined && value >= least && value <= most;

/** The font's own small letters for a text: undefined unless it has a glyph of its own for every letter. */
export function ownForm(instance: FaceInstance, text: string, kind: SmallKind, features: Style['features'] = {}): SmallForm | undefined {
  const glyphs = (tag?: string): number[] => instance.shape(text, 0, text.length, tag === undefined ? [] : [{ tag, value: 1 }]).map(({ glyphId }) => glyphId);
  const plain = glyphs();
  const tag = FEATURES[kind].find((candidate) => {
    if (!instance.face.features.includes(candidate)) return false;
    const small = glyphs(candidate);
    return small.length === plain.length && small.every((glyph, i) => glyph !== 0 && glyph !== plain[i]);
  });
  if (tag === undefined) return undefined;
  return { source: 'font', style: { features: { ...features, [tag]: 1 } }, says: `from the font (${tag})` };
}

/** A face of the same family that is at hand. */
export interface Sibling {
  faceId: string;
  /** As people read it, such as Bold. */
  name: string;
  /** Its upright stem, in em. */
  stem: number;
}

/**
 * Small letters made of the face's: by the size and rise that the font states (`MATH`, `OS/2`), else by its own heights. The stem of the
 * letters beside them is kept by the face's weight axis, else by a heavier face of the family.
 */
export function madeForm(instance: FaceInstance, kind: SmallKind, style: Pick<Style, 'axes'>, family: readonly Sibling[] = []): SmallForm {
  const { scripts, metrics, unitsPerEm } = instance;
  const stated = kind === 'inferior' ? scripts.inferior : scripts.superior;
  const size = within(stated.size, SIZES) ? stated.size : USUAL_SIZE;
  const [cap, x] = [metrics.capHeight / unitsPerEm, metrics.xHeight / unitsPerEm];
  // A superior ends where the capitals end.
  const usual = kind === 'inferior' ? HANGS * x : cap - size * cap;
  const rise = within(stated.rise, RISES) ? stated.rise : usual;
  const scale = Math.round(size * 1000) / 1000;
  const milliem = Math.round(1000 * (kind === 'inferior' ? -rise : rise));
  const weight = keptStem(instance, style.axes, scale);
  const parts = [`synthesised: ${Math.round(100 * scale)} % of the size`, `${milliem < 0 ? 'lowered' : 'raised'} by ${Math.abs(milliem)}/1000 em`];
  if (weight !== undefined) parts.push(`stems kept by weight ${weight}`);
  const heavier = weight === undefined ? keptBySibling(instance, scale, family) : undefined;
  if (heavier) parts.push(`stems kept by ${heavier.name}`);
  return {
    source: 'made',
    style: {
      scaleX: scale,
      scaleY: scale,
      scaleFrom: 'baseline',
      baselineShiftMilliem: milliem,
      // The font's kerning is between letters of one size and height.
      kerning: 'shape',
      ...(weight === undefined ? {} : { axes: { ...style.axes, wght: weight } }),
      ...(heavier ? { faceId: heavier.faceId } : {}),
    },
    says: parts.join(', '),
  };
}

/** The weight at which letters of a variable face, made smaller, have the stems of those beside them; undefined where none is nearer. */
function keptStem(instance: FaceInstance, axes: Style['axes'], scale: number): number | undefined {
  const axis = instance.face.axes.find(({ tag }) => tag === 'wght');
  if (!axis) return undefined;
  const stemAt = (weight: number): number => measureAnatomy(instance.face.instance({ ...axes, wght: weight })).stem;
  const now = axes['wght'] ?? axis.default;
  const wanted = stemAt(now) / scale;
  let [light, heavy] = [now, axis.max];
  if (heavy <= light || stemAt(heavy) <= stemAt(light)) return undefined;
  for (let i = 0; i < HALVINGS; i++) {
    const middle = (light + heavy) / 2;
    if (stemAt(middle) < wanted) light = middle;
    else heavy = middle;
  }
  return Math.round(heavy);
}

/** The face of the family whose letters, made smaller, have the stems of those beside them most nearly; undefined where the face itself has. */
function keptBySibling(instance: FaceInstance, scale: number, family: readonly Sibling[]): Sibling | undefined {
  const own = measureAnatomy(instance).stem;
  const away = (stem: number): number => Math.abs(stem * scale - own);
  return [...family].sort((a, b) => away(a.stem) - away(b.stem)).find(({ stem }) => stem > own && away(stem) < away(own));
}

/**
 * The style changes that make letters small: their style, and the kerning of the letters before them, whose gaps are to
 * letters of another size and height.
 * @param letters in the order of the words.
 */
export function smallChanges(words: string, letters: readonly WordRange[], { source, style }: SmallForm): StyleChange[] {
  const all = visibleLetters(words);
  return letters.flatMap((letter, i) => {
    const before = all.find(({ end }) => end === letter.start);
    // The font knows its own forms, if it kerns them at all; made ones it doesn't. One that is small itself has it already.
    const kerning = source === 'made' ? ('shape' as const) : ('weighed' as const);
    const change = { start: letter.start, end: letter.end, change: { kerning, ...style } };
    return before && letters[i - 1]?.start !== before.start ? [{ ...before, change: { kerning } }, change] : [change];
  });
}

/** All ways to set letters small, the font's own first. */
export const smallForms = (
  instance: FaceInstance,
  text: string,
  kind: SmallKind,
  style: Pick<Style, 'axes' | 'features'>,
  family: readonly Sibling[] = [],
): SmallForm[] => {
  const own = ownForm(instance, text, kind, style.features);
  return [...(own ? [own] : []), madeForm(instance, kind, style, family)];
};
