/**
 * Evenness: one number for how uniform the white of a text is, 0 to 100.
 *
 * For every neighbouring pair inside words, d is the kerning it has minus the kerning its shapes want, in 1/1000 em. With s the
 * standard deviation of d, evenness is 100 / (1 + (s / 35)^2). It does not see tracking, which moves all d alike. The outlier is
 * the signal: robust spreads do worse with the five to ten pairs of a headline (docs/spacing.md).
 */
const SCALE = 35;

/**
 * @param deviations kerning minus wanted kerning of each pair, in 1/1000 em.
 * @returns 0 to 100, or undefined where there are fewer than two pairs to compare.
 */
export function evenness(deviations: readonly number[]): number | undefined {
  if (deviations.length < 2) return undefined;
  const mean = deviations.reduce((sum, value) => sum + value, 0) / deviations.length;
  const variance = deviations.reduce((sum, value) => sum + (value - mean) ** 2, 0) / deviations.length;
  return 100 / (1 + variance / SCALE ** 2);
}
