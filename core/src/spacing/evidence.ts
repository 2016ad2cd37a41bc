/**
 * The target of a gap when more than one has an opinion of it: the designer of the font, by its own kerning, and the shapes. Each
 * counts by how far it can be trusted; all constants come from the designers' kerning of open families (docs/spacing.md,
 * `npm run bench:findings`). Values in 1/1000 em.
 */

/** How far a font's own kerning is to be believed, from 0, not at all, to 1. */
export interface FontWord {
  /** Where it kerns a pair. */
  kerned: number;
  /** Where it leaves a pair alone. */
  alone: number;
  /** True for a face whose spacing is fixed by its design: only the font counts. */
  only?: boolean;
  /** True of letters in a script that the models have not learned: the font counts for more. */
  unlearned?: boolean;
}

/** A font that has nothing to say. */
export const NO_WORD: FontWord = { kerned: 0, alone: 0 };

/**
 * How a font that is believed wholly stands beside the shapes. `weight`: of its word, where it kerns a pair. `forgotten`: a pair that it leaves
 * alone though its shapes ask for so much, in 1/1000 em, was forgotten as likely as not. In scripts that the models have not learned they err by
 * a third more (`npm run bench:spacing -- scripts`), so that the font counts for more.
 */
const BESIDE_SHAPES = { learned: { weight: 0.8, forgotten: 45 }, unlearned: { weight: 0.9, forgotten: 70 } };

/**
 * The weighted mean of both opinions.
 * @param font what the font's own kerning holds. @param shape what the shapes propose.
 */
export function weighed(font: number, shape: number, word: FontWord): number {
  if (word.only) return font;
  const { weight: whole, forgotten } = BESIDE_SHAPES[word.unlearned ? 'unlearned' : 'learned'];
  const weight = font === 0 ? (whole * word.alone) / (1 + (shape / forgotten) ** 2) : whole * word.kerned;
  return shape + weight * (font - shape);
}

/** Smaller departures from what a gap should hold are left to the designer's taste, in 1/1000 em (`npm run bench:findings`). */
export const NOTICED = 15;
/** Share of the training families that kern letters beside the word space: 14 of 37. A font without such pairs gets this share of the proposal. */
const BESIDE_SPACE = 0.38;

/** The opinions of one gap that kerning can be taken from. */
export interface Given {
  /** The font's own kerning, and how far it is to be believed. */
  font: number;
  word: FontWord;
  /** The shapes' proposal. */
  shape: number;
  /** True beside a word space. */
  atSpace: boolean;
}

/**
 * The kerning a source gives a gap, in 1/1000 em. By shape, and weighed, the font's pairs with the word space stay. Weighed, a gap departs from the
 * font only as far as a finding would speak of it.
 */
export const kerningFrom: Readonly<Record<'font' | 'shape' | 'weighed' | 'off', (given: Given) => number>> = {
  font: ({ font }) => font,
  shape: ({ font, shape, atSpace }) => (atSpace && font !== 0 ? font : shape),
  weighed: ({ font, shape, word, atSpace }) => {
    if (word.only) return font;
    if (atSpace) return font === 0 ? shape * BESIDE_SPACE : font;
    if (word.kerned === 0) return shape;
    const should = weighed(font, shape, word);
    return Math.abs(should - font) < NOTICED ? font : should;
  },
  off: () => 0,
};

/** Opinions this far apart make a judgement half as sure. */
const DISAGREEING = 60;

/** How sure the weighted mean is, from 1 where both opinions agree towards 0: what ranks first is far off and sure. */
export const certainty = (font: number, shape: number, word: FontWord): number => (word.kerned === 0 ? 1 : 1 / (1 + Math.abs(font - shape) / DISAGREEING));

/** The opinions on a font's kerning: pairs of letters with what it holds of them, and what their shapes propose. */
export type Opinions = readonly { font: number; shape: number }[];

/** A font that kerns a smaller share of its pairs has no word. */
const LEAST_KERNED = 0.03;
/** Kerning that agrees with the shapes no better than `DOUBTED` (Pearson r) is not believed, as well as `BELIEVED` wholly. */
const DOUBTED = 0.1;
const BELIEVED = 0.5;
/** The proposals counted as clear, and the font's answers to them. */
const ASKED = 20;
const ANSWERED = 4;

/** How far a font's kerning is to be believed, by how often and how well it answers the shapes of its own letters. */
export function wordOf(opinions: Opinions): FontWord {
  const kerned = opinions.filter(({ font }) => font !== 0).length;
  if (kerned < LEAST_KERNED * opinions.length || kerned === 0) return NO_WORD;
  const agreement = Math.max(0, Math.min(1, (correlation(opinions) - DOUBTED) / (BELIEVED - DOUBTED)));
  const asked = opinions.filter(({ shape }) => Math.abs(shape) >= ASKED);
  const answered = asked.filter(({ font, shape }) => font * Math.sign(shape) >= ANSWERED);
  return { kerned: agreement, alone: agreement * (asked.length > 0 ? answered.length / asked.length : 1) };
}

/** Pearson's r. */
function correlation(opinions: Opinions): number {
  const n = opinions.length;
  const mean = (of: (one: Opinions[number]) => number): number => opinions.reduce((sum, one) => sum + of(one), 0) / n;
  const [f, s] = [mean(({ font }) => font), mean(({ shape }) => shape)];
  const cross = mean(({ font, shape }) => (font - f) * (shape - s));
  const spread = mean(({ font }) => (font - f) ** 2) * mean(({ shape }) => (shape - s) ** 2);
  return spread > 0 ? cross / Math.sqrt(spread) : 0;
}
