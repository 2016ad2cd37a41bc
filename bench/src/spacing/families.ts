/** The open families whose designers' kerning is the truth: fonts, pairs and kerning. Development only; none of it ships. */
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Face, type FaceInstance, ownKerning } from '@jentrix/core/face';
import { type GapSide, profileOf, rhythmOf } from '@jentrix/core/spacing';
import { root } from '@jentrix/e2e/harness';

export const FAMILIES = (
  'abril-fatface alegreya barlow-condensed bebas-neue bitter cabin cinzel cormorant-garamond crimson-pro dm-serif-display eb-garamond ' +
  'fira-sans ibm-plex-serif inter josefin-sans lato libre-baskerville libre-franklin lora merriweather montserrat noto-serif nunito ' +
  'old-standard-tt oswald playfair-display raleway roboto roboto-slab rokkitt source-sans-3 source-serif-4 spectral vollkorn work-sans ' +
  'yeseva-one zilla-slab'
).split(' ');

const WEIGHTS = [400, 500, 700, 900];

/** Capitals, capital and lower case, lower case, letter and mark, and letters with accents. */
export type SetName = 'UU' | 'UL' | 'LL' | 'P' | 'A';
export const SETS: readonly SetName[] = ['UU', 'UL', 'LL', 'P', 'A'];

const UPPER = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ'];
const LOWER = [...'abcdefghijklmnopqrstuvwxyz'];
const cross = (a: readonly string[], b: readonly string[]): [string, string][] => a.flatMap((one) => b.map((other): [string, string] => [one, other]));

export const PAIRS: Readonly<Record<SetName, readonly [string, string][]>> = {
  UU: cross(UPPER, UPPER),
  UL: cross(UPPER, LOWER),
  LL: cross(LOWER, LOWER),
  P: cross([...UPPER, ...LOWER], ['.', ',', '-']),
  A: [
    ...cross([...'ATVWYFPLKOD'], [...'àâäéèêëïîöôüñçøåæðþß']),
    ...cross([...'ÀÁÄÅÇÉÑÖØÜÝÆÞŒ'], [...'ATVWYOCGvwyoeasun']),
    ...cross([...'rvwykft'], [...'àâäéêëöôçø']),
    ...cross([...'ATVWYOLK'], [...'ÀÁÄÅÇÖØÜÝÆ']),
  ],
};

export interface Font {
  family: string;
  weight: number;
  instance: FaceInstance;
}

/** @param weights which of the weights to open; the family's nearest to regular is always there. */
export async function openFonts(weights: readonly number[] = WEIGHTS): Promise<Font[]> {
  const fonts: Font[] = [];
  for (const family of FAMILIES) {
    for (const weight of weights) {
      const file = join(root, `node_modules/@fontsource/${family}/files/${family}-latin-${weight}-normal.woff`);
      if (!existsSync(file)) continue;
      const face = await Face.open(new Uint8Array(readFileSync(file)));
      fonts.push({ family, weight, instance: face.instance() });
    }
  }
  return fonts;
}

/** The designer's kerning of a pair in 1/1000 em. */
export const designerKerning = (instance: FaceInstance, left: string, right: string): number => ownKerning(instance, left + right);

/** A face whose lower case are capitals: left out where lower case is asked for. */
export function hasLowerCase(instance: FaceInstance): boolean {
  const glyph = instance.nominalGlyph(0x78) ?? 0;
  const tops = instance.outline(glyph).flatMap(({ values }) => values.filter((_, i) => i % 2 === 1));
  return Math.max(...tops) < instance.metrics.capHeight * 0.88;
}

/** A letter as proposals take it, by its character; undefined where the font has no ink for it. */
export function sidesOf(instance: FaceInstance): (letter: string) => GapSide | undefined {
  const rhythm = rhythmOf(instance);
  return (letter) => {
    const profile = profileOf(instance, instance.nominalGlyph(letter.codePointAt(0) ?? 0) ?? 0);
    return profile && { profile, rhythm };
  };
}
