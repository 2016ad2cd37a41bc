// npm run ui-fonts: makes the interface's own fonts of the shipped faces, as small WOFF2 files that are kept with the code.
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import subsetFont from 'subset-font';
import { root } from './setup.mjs';

const range = (from, to) => Array.from({ length: to - from + 1 }, (_, i) => String.fromCodePoint(from + i)).join('');
// Latin with its accents, and what the interface writes besides: punctuation, signs of numbers and money, arrows, small figures.
const LATIN = range(0x20, 0x7e) + range(0xa0, 0x17f) + range(0x2010, 0x2027) + range(0x2030, 0x203a) + '€™−×÷≤≥≠↑↓←→↵␣½¼¾⅓⅔⁰¹²³⁴⁵⁶⁷⁸⁹₀₁₂₃₄₅₆₇₈₉';
// Of the display face only the wordmark is set.
const FONTS = { 'source-sans-3-regular': LATIN, 'source-sans-3-semibold': LATIN, 'playfair-display-bold': 'Jentrix' };

for (const [name, letters] of Object.entries(FONTS)) {
  const bytes = await subsetFont(readFileSync(join(root, 'faces', `${name}.ttf`)), letters, { targetFormat: 'woff2' });
  writeFileSync(join(root, 'web/src/fonts', `${name}.woff2`), bytes);
  console.log(`${name}.woff2: ${(bytes.length / 1024).toFixed(1)} kB`);
}
