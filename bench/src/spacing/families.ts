/** The open families whose designers' kerning is the truth: fonts, pairs and kerning. Development only; none of it ships. */
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Face, type FaceInstance, ownKerning } from '@jentrix/core/face';
import { type GapSide, characterAt, profileOf, rhythmOf } from '@jentrix/core/spacing';
import { root } from '@jentrix/e2e/harness';

export const FAMILIES = (
  'abril-fatface alegreya barlow-condensed bebas-neue bitter cabin cinzel cormorant-garamond crimson-pro dm-serif-display eb-garamond ' +
  'fira-sans ibm-plex-serif inter josefin-sans lato libre-baskerville libre-franklin lora merriweather montserrat noto-serif nunito ' +
  'old-standard-tt oswald playfair-display raleway roboto roboto-slab rokkitt source-sans-3 source-serif-4 spectral vollkorn work-sans ' +
  'yeseva-one zilla-slab'
).split(' ');

/** Styles opened of a family where they exist. */
const STYLES = ['400-normal', '500-normal', '700-normal', '900-normal', '400-italic', '700-italic'];

/** Capitals, capital and lower case, lower case, letter and mark, letters with accents, figures, and signs. */
export type SetName = 'UU' | 'UL' | 'LL' | 'P' | 'A' | 'F' | 'S';
export const SETS: readonly SetName[] = ['UU', 'UL', 'LL', 'P', 'A', 'F', 'S'];

const UPPER = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ'];
const LOWER = [...'abcdefghijklmnopqrstuvwxyz'];
const FIGURES = [...'0123456789'];
/** Letters of every shape, that signs stand beside. */
const BESIDE = [...'AHLOTVWYafghjlnorsvy'];
const OPENING = [...'([{“‘„‚«‹¡¿'];
const CLOSING = [...')]}”’»›!?:;*%®™'];
const BETWEEN = [...'"\'–—/&@·'];
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
  F: [
    ...cross(FIGURES, FIGURES),
    ...cross(FIGURES, [...'.,-–/:;%°)”’“‘']),
    ...cross([...'.,-–/:$€£¥#(“‘'], FIGURES),
    ...cross([...'AFHLOPTVYanory'], FIGURES),
    ...cross(FIGURES, [...'AHOTVYanostxy']),
  ],
  S: [
    ...cross(OPENING, BESIDE),
    ...cross(BESIDE, CLOSING),
    ...cross(BETWEEN, BESIDE),
    ...cross(BESIDE, BETWEEN),
    ...cross([...'.,!?'], [...'”’»)']),
    ...cross([...'.,-'], [...'ATVWYOnovy']),
  ],
};

export interface Font {
  family: string;
  weight: number;
  italic: boolean;
  instance: FaceInstance;
}

/** @param styles which to open of each family, as files are named. */
export async function openFonts(styles: readonly string[] = STYLES): Promise<Font[]> {
  const fonts: Font[] = [];
  for (const family of FAMILIES) {
    for (const style of styles) {
      const file = join(root, `node_modules/@fontsource/${family}/files/${family}-latin-${style}.woff`);
      if (!existsSync(file)) continue;
      const face = await Face.open(new Uint8Array(readFileSync(file)));
      fonts.push({ family, weight: parseInt(style, 10), italic: style.endsWith('italic'), instance: face.instance() });
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
    return profile && { profile, rhythm, ...characterAt(letter, 0) };
  };
}
