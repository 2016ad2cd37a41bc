/** Small letters that were typed as plain ones: a formula, a square or cubic unit, an ordinal, a power of ten. */
import type { Splice, WordRange } from '../job';
import type { SmallKind } from './superiors';

/** A place that means small letters. */
export interface TypedSmall {
  kind: SmallKind;
  /** The letters that are small, as they stand once the words are edited. */
  range: WordRange;
  /** The change of words needed first. */
  splice?: Splice;
  /** As typed, with what it belongs to. */
  shown: string;
}

/** Symbols of the elements that formulas in short copy are made of: a figure behind another capital is no inferior. */
const ELEMENTS = 'H|He|Li|B|C|N|O|F|Ne|Na|Mg|Al|Si|P|S|Cl|Ar|K|Ca|Fe|Ni|Cu|Zn|Ag|Sn|I|Au|Pb';
const FORMULA = new RegExp(`(?<![\\p{L}\\d])(?:(?:${ELEMENTS})\\d*){1,6}(?![\\p{L}\\d])`, 'gu');
const GASES = new Set(['H2', 'O2', 'O3', 'N2', 'F2', 'Cl2', 'I2']);
const UNIT = /(?<=[\d\s]|^)(?:[cdkm]?m|ft|in|yd|s)([23])(?![\p{L}\d])/gu;
const ORDINAL = /(?<![\p{L}\d])\d*(?:(?<!1)1(st)|(?<!1)2(nd)|(?<!1)3(rd)|(?:1[123]|[04-9])(th))(?![\p{L}\d])/gu;
const POWER = /(?<=\d)\^([-−]?\d{1,3})(?!\d)/gu;

/** Every such place of the words, in order. */
export function typedSmalls(words: string): TypedSmall[] {
  const found: TypedSmall[] = [];
  for (const match of words.matchAll(FORMULA)) {
    const [formula] = match;
    // One letter and a figure is a room or a road, but for gases.
    if (/^\p{Lu}\p{Ll}?\d+$/u.test(formula) && !GASES.has(formula)) continue;

    for (const figures of formula.matchAll(/\d+/g)) {
      const start = match.index + figures.index;
      found.push({ kind: 'inferior', range: { start, end: start + figures[0].length }, shown: formula });
    }
  }
  for (const match of words.matchAll(UNIT)) {
    const end = match.index + match[0].length;
    if (!found.some(({ range }) => range.start < end && range.end > match.index))
      found.push({ kind: 'superior', range: { start: end - 1, end }, shown: match[0] });
  }
  for (const match of words.matchAll(ORDINAL)) {
    const end = match.index + match[0].length;
    found.push({ kind: 'ordinal', range: { start: end - 2, end }, shown: match[0] });
  }
  for (const match of words.matchAll(POWER)) {
    const [whole, exponent = ''] = match;
    const insert = exponent.replace('-', '−');
    const { index } = match;
    found.push({
      kind: 'superior',
      range: { start: index, end: index + insert.length },
      splice: { start: index, end: index + whole.length, insert },
      shown: words.slice(Math.max(0, index - 2), index + whole.length),
    });
  }
  return found.sort((a, b) => a.range.start - b.range.start);
}
