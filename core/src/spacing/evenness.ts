/**
 * Evenness: one number for how uniform the white of a text is, 0 to 100.
 *
 * For every neighbouring pair inside words, d is the kerning it has minus what it should hold by all opinions, in 1/1000 em. With s the
 * standard deviation of d, and q the root of the mean square of what is in doubt of that, evenness is 100 / (1 + (s² + q²) / 35²): a line
 * that merely agrees with the shapes doesn't reach 100. It does not see tracking, which moves all d alike. The outlier is
 * the signal: robust spreads do worse with the five to ten pairs of a headline (docs/spacing.md).
 */
import { type FontWord, weighed } from './evidence';

const SCALE = 35;
/** Of the pairs so many must be agreed on, and no fewer than two. */
const LEAST_AGREED = 0.5;
/**
 * Houses leave alone what shapes ask less of than this, and kern what they ask more of than this: between the two some do and some
 * don't. In 1/1000 em.
 */
const LEFT_ALONE = 3.4;
const KERNED = 17;
/** Designers depart from what shapes ask for, x, by about 3 √(|x| + 2): measured over their fonts, in classes of 10/1000 em. */
const doubtOf = (x: number): number => 3 * Math.sqrt(Math.abs(x) + 2);
/** From this trust on the font's kerning settles what the shapes leave open. */
const HEARD = 0.5;

/** How a gap stands to what it should hold. */
export interface Deviation {
  /** Its excess over that, in 1/1000 em. */
  off: number;
  /** How far that itself is in doubt, in 1/1000 em. */
  doubt: number;
  /** True where houses agree on it. */
  agreed: boolean;
}

/**
 * Judges a gap.
 * @param total the kerning it has. @param font what the font's own kerning holds. @param asked what its shapes ask for. All in 1/1000 em.
 * @param word how far the font is to be believed.
 */
export function deviationOf(total: number, font: number, asked: number, word: FontWord): Deviation {
  const heard = word.kerned >= HEARD;
  const amount = Math.abs(asked);
  return {
    off: total - (word.kerned > 0 ? weighed(font, asked, word) : asked),
    doubt: doubtOf(asked) * (1 - 0.8 * Math.min(1, word.kerned)),
    agreed: heard || amount <= LEFT_ALONE || amount >= KERNED,
  };
}

/** @returns 0 to 100, or undefined where there are too few pairs that houses agree on. */
export function evenness(gaps: readonly Deviation[]): number | undefined {
  const agreed = gaps.filter((gap) => gap.agreed).length;
  if (agreed < 2 || agreed < LEAST_AGREED * gaps.length) return undefined;
  const mean = gaps.reduce((sum, { off }) => sum + off, 0) / gaps.length;
  const square = gaps.reduce((sum, { off, doubt }) => sum + (off - mean) ** 2 + doubt ** 2, 0) / gaps.length;
  return 100 / (1 + square / SCALE ** 2);
}
