// npm run ui-fonts: makes the interface's own fonts of the shipped faces, as small WOFF2 files that are kept with the code.
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import subsetFont from 'subset-font';
import { root } from './steps.mjs';

const range = (from, to) => Array.from({ length: to - from + 1 }, (_, i) => String.fromCodePoint(from + i)).join('');
// What the interface itself writes: Latin, punctuation, signs of numbers and money, arrows.
const BASE = range(0x20, 0x7e) + range(0xa0, 0xff) + range(0x2010, 0x2027) + range(0x2030, 0x203a) + '€™−≤≥≠↑↓←→↵␣';
// What titles and names may bring besides, fetched where there is any of it (styles.scss, unicode-range).
const MORE = range(0x100, 0x17f) + '⅓⅔⁰⁴⁵⁶⁷⁸⁹₀₁₂₃₄₅₆₇₈₉';
const FONTS = [
  ...['source-sans-3-regular', 'source-sans-3-semibold'].flatMap((face) => [
    { face, name: face, letters: BASE },
    { face, name: `${face}-more`, letters: MORE },
  ]),
  // Of the display face only the wordmark is set.
  { face: 'playfair-display-bold', name: 'playfair-display-bold', letters: 'Jentrix' },
];

for (const { face, name, letters } of FONTS) {
  const bytes = await subsetFont(readFileSync(join(root, 'faces', `${face}.ttf`)), letters, { targetFormat: 'woff2' });
  writeFileSync(join(root, 'web/src/fonts', `${name}.woff2`), bytes);
  console.log(`${name}.woff2: ${(bytes.length / 1024).toFixed(1)} kB`);
}
