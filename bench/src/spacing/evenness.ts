/** Evenness against the designers: how often the kerned setting scores higher than the unkerned one, and what jitter does. */
import { evenness, proposeKerning } from '@jentrix/core/spacing';
import { printTable } from '../table';
import { type Font, designerKerning, hasLowerCase, sidesOf } from './families';
import { randomFrom } from '@jentrix/core/testing';

/** Headline words with pairs that most houses kern. */
const WORDS = [
  'AVATAR',
  'TWO NIGHTS',
  'FALLING STARS',
  'A VALLEY OF',
  'LATVIA',
  'YESTERDAY',
  'Wave Tower',
  'Warm Toast',
  'Yonder Valley',
  'To Watch',
  'Very Fresh',
  'Tonight, Vega.',
];

/** A word counts where its designer kerned a pair by at least this: elsewhere both settings are the same to the eye. In 1/1000 em. */
const KERNED = 20;

interface Gap {
  kern: number;
  wanted: number;
}

function gapsOf({ instance }: Font, text: string): Gap[] {
  const side = sidesOf(instance);
  return [...text].slice(1).flatMap((right, i) => {
    const left = text.charAt(i);
    const [a, b] = [side(left), side(right)];
    if (!a || !b) return [];
    return [{ kern: designerKerning(instance, left, right), wanted: proposeKerning(a, b).wantedMilliem }];
  });
}

/** Prints the share of words x fonts in which the designer's kerning is the more even, and the mean score by jitter. */
export function reportEvenness(fonts: readonly Font[]): void {
  const random = randomFrom(7);
  const jitters = [0, 5, 10, 20, 40, 80];
  const sums = jitters.map(() => 0);
  const amounts = [0, 0.5, 0.8, 0.9, 1, 1.1, 1.2, 1.5];
  const scaled = amounts.map(() => 0);
  let better = 0;
  let count = 0;
  for (const font of fonts) {
    for (const text of WORDS) {
      if (/[a-z]/.test(text) && !hasLowerCase(font.instance)) continue;
      const gaps = gapsOf(font, text);
      if (!gaps.some(({ kern }) => Math.abs(kern) >= KERNED)) continue;
      const kerned = evenness(gaps.map(({ kern, wanted }) => kern - wanted)) ?? 0;
      const bare = evenness(gaps.map(({ wanted }) => -wanted)) ?? 0;
      count++;
      if (kerned > bare) better++;
      amounts.forEach((amount, i) => (scaled[i] = (scaled[i] ?? 0) + (evenness(gaps.map(({ kern, wanted }) => amount * kern - wanted)) ?? 0)));
      jitters.forEach((jitter, i) => {
        const noise = gaps.map(() => (random() * 2 - 1) * 2 * jitter);
        sums[i] = (sums[i] ?? 0) + (evenness(gaps.map(({ kern, wanted }, g) => kern - wanted + (noise[g] ?? 0))) ?? 0);
      });
    }
  }
  console.log(`\nEvenness: higher for the designer's kerning than for none in ${((100 * better) / count).toFixed(1)} % of ${count} words x fonts`);
  printTable('Mean evenness as random jitter grows (mean size of the jitter in 1/1000 em)', [
    ['jitter', ...jitters.map(String)],
    ['evenness', ...sums.map((sum) => (sum / count).toFixed(1))],
  ]);
  printTable('Mean evenness with multiples of the designer’s kerning', [
    ['times', ...amounts.map(String)],
    ['evenness', ...scaled.map((sum) => (sum / count).toFixed(1))],
  ]);
}
