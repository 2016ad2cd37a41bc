/** OpenType features as people meet them: by name, in their own words, and only where the face has something for these letters. */
import type { FaceInstance } from '../face';

/** A feature people can switch. Names follow the OpenType feature registry in plain words. */
export interface KnownFeature {
  tag: string;
  name: string;
  group: 'Ligatures' | 'Letters' | 'Figures' | 'Fractions' | 'Position' | 'Case';
  /** On unless it is switched off (OpenType registry: recommended default). */
  standard?: true;
}

export const KNOWN_FEATURES: readonly KnownFeature[] = [
  { tag: 'liga', name: 'standard ligatures', group: 'Ligatures', standard: true },
  { tag: 'dlig', name: 'discretionary ligatures', group: 'Ligatures' },
  { tag: 'hlig', name: 'historical ligatures', group: 'Ligatures' },
  { tag: 'calt', name: 'contextual alternates', group: 'Letters', standard: true },
  { tag: 'salt', name: 'stylistic alternates', group: 'Letters' },
  { tag: 'swsh', name: 'swashes', group: 'Letters' },
  { tag: 'cswh', name: 'contextual swashes', group: 'Letters' },
  { tag: 'hist', name: 'historical forms', group: 'Letters' },
  { tag: 'titl', name: 'titling', group: 'Letters' },
  ...Array.from({ length: 20 }, (_, i): KnownFeature => {
    const number = String(i + 1).padStart(2, '0');
    return { tag: `ss${number}`, name: `stylistic set ${i + 1}`, group: 'Letters' };
  }),
  { tag: 'smcp', name: 'small capitals', group: 'Case' },
  { tag: 'c2sc', name: 'small capitals from capitals', group: 'Case' },
  { tag: 'case', name: 'case-sensitive punctuation', group: 'Case' },
  { tag: 'lnum', name: 'lining figures', group: 'Figures' },
  { tag: 'onum', name: 'old-style figures', group: 'Figures' },
  { tag: 'pnum', name: 'proportional figures', group: 'Figures' },
  { tag: 'tnum', name: 'tabular figures', group: 'Figures' },
  { tag: 'zero', name: 'slashed zero', group: 'Figures' },
  { tag: 'frac', name: 'fractions', group: 'Fractions' },
  { tag: 'numr', name: 'numerators', group: 'Fractions' },
  { tag: 'dnom', name: 'denominators', group: 'Fractions' },
  { tag: 'sups', name: 'superiors', group: 'Position' },
  { tag: 'subs', name: 'inferiors', group: 'Position' },
  { tag: 'sinf', name: 'scientific inferiors', group: 'Position' },
  { tag: 'ordn', name: 'ordinals', group: 'Position' },
];

/** A feature that changes these letters. */
export interface LiveFeature extends KnownFeature {
  on: boolean;
}

/** Another glyph for a letter, and the feature value that brings it. */
export interface Alternate {
  glyphId: number;
  tag: string;
  value: number;
}

/** Longest text that is tried, in code units: features show within a headline. */
const MOST_TEXT = 400;
/** A feature offers at most this many alternates for a letter. */
const MOST_VALUES = 24;

const shapeOf = (instance: FaceInstance, text: string, features: Readonly<Record<string, number>>): string =>
  instance
    .shape(
      text,
      0,
      text.length,
      Object.entries(features).map(([tag, value]) => ({ tag, value })),
    )
    .map(({ glyphId, xAdvance, xOffset, yOffset }) => `${glyphId},${xAdvance},${xOffset},${yOffset}`)
    .join(' ');

/**
 * The known features that change a text in this face, with the names the font itself gives its stylistic sets.
 * @param features what is switched now.
 */
export function liveFeatures(instance: FaceInstance, words: string, features: Readonly<Record<string, number>>): LiveFeature[] {
  const text = words.slice(0, MOST_TEXT);
  const has = new Set(instance.face.features);
  return KNOWN_FEATURES.flatMap((known) => {
    if (!has.has(known.tag)) return [];
    const off = shapeOf(instance, text, { ...features, [known.tag]: 0 });
    const on = shapeOf(instance, text, { ...features, [known.tag]: 1 });
    if (on === off) return [];
    const own = instance.face.featureName(known.tag);
    return [{ ...known, name: own ?? known.name, on: (features[known.tag] ?? (known.standard ? 1 : 0)) > 0 }];
  });
}

/** All glyphs a face has for one letter, the letter's own first; each once. */
export function alternatesOf(instance: FaceInstance, letter: string): Alternate[] {
  const glyphOf = (tag: string, value: number): number | undefined => {
    const glyphs = instance.shape(letter, 0, letter.length, [{ tag, value }]);
    return glyphs.length === 1 ? glyphs[0]?.glyphId : undefined;
  };
  const own = glyphOf('kern', 0);
  if (own === undefined) return [];
  const found: Alternate[] = [{ glyphId: own, tag: '', value: 0 }];
  const tags = instance.face.features.filter((tag) => tag === 'aalt' || KNOWN_FEATURES.some((known) => known.tag === tag) || /^cv\d\d$/.test(tag));
  // `aalt` collects the others: it is asked last, so that a glyph is named by the feature it is made for.
  for (const tag of tags.sort((a, b) => Number(a === 'aalt') - Number(b === 'aalt'))) {
    for (let value = 1; value <= MOST_VALUES; value++) {
      const glyphId = glyphOf(tag, value);
      if (glyphId === undefined || glyphId === own) break;
      if (found.some((one) => one.glyphId === glyphId)) {
        if (found.some((one) => one.glyphId === glyphId && one.tag === tag)) break;
        continue;
      }
      found.push({ glyphId, tag, value });
    }
  }
  return found;
}
