import type { Block, Style } from '../job';
import { NO_WORD, atStrength, characterAt, fontWordOf, kerningFrom, profileOf, proposeBesideSpace, proposeKerning, rhythmOf } from '../spacing';
import { headline, randomFrom, shippedFaces } from '../testing';
import type { FaceSet } from './faces';
import { paragraphAt } from './paragraphs';
import { baseGlyph } from './shape-kerning';
import { shapeItems } from './shape';
import { type SpacedRun, space } from './space';
import { runsOf } from './spans';

describe('kerning by shape on a line', () => {
  let faces: FaceSet;
  beforeAll(async () => (faces = await shippedFaces('playfair-display-bold', 'eb-garamond-italic', 'source-sans-3-regular')));

  const spacedOf = (block: Block): SpacedRun[] => {
    const surroundings = { block, paragraph: paragraphAt(block.words, 0), faces };
    return space(block.words, runsOf(shapeItems(surroundings, { start: 0, end: block.words.length })), new Map());
  };

  /** The gap behind each letter in tenths of 1/1000 em, worked out pair by pair from the shapes alone. */
  function expected({ words, style }: Block, runs: readonly SpacedRun[]): number[] {
    const letters = runs.flatMap((run) => run.glyphs.map((glyph) => ({ ...glyph, run })));
    return letters.map((left, i) => {
      const right = letters[i + 1];
      if (!right || left.cluster === right.cluster) return 0;
      const [a, b] = [words.charAt(left.cluster), words.charAt(right.cluster)];
      const seen = ({ run, glyphId, cluster }: typeof left) => {
        const profile = profileOf(run.instance, glyphId, run.style.turnDeg);
        return profile && { profile, rhythm: rhythmOf(run.instance), ...characterAt(words, cluster) };
      };
      const [one, other] = [seen(left), seen(right)];
      const [s, t] = [left.run.style, right.run.style];
      const columns = [s, t].every((of) => (of.features['tnum'] ?? 0) > 0) && /\d/.test(a) && /\d/.test(b);
      const strokes = left.run.item.cursive && right.run.item.cursive;
      const how = {
        scale: (t.sizePt * t.scaleY) / (s.sizePt * s.scaleY),
        across: (t.sizePt * t.scaleX) / (s.sizePt * s.scaleX),
        shift: (t.baselineShiftMilliem * t.sizePt - s.baselineShiftMilliem * s.sizePt) / 1000 / (s.sizePt * s.scaleY),
      };
      let shape = one && other && !columns && !strokes ? atStrength(proposeKerning(one, other, how), style.kerningStrength) : 0;
      if (a === ' ' || b === ' ') {
        const [letter, place] = a === ' ' ? ([right, 'right'] as const) : ([left, 'left'] as const);
        const profile = profileOf(letter.run.instance, letter.glyphId);
        const plain = letter.run.style.turnDeg === 0 && !letter.run.item.cursive && characterAt(words, letter.cluster).sign === undefined;
        const beside = profile && plain ? proposeBesideSpace({ profile, rhythm: rhythmOf(letter.run.instance) }, place) : 0;
        shape = a === b ? 0 : style.kerningStrength * beside;
      }
      const known = left.fontKern !== undefined && left.run.item === right.run.item;
      return Math.round(
        10 *
          kerningFrom[style.kerning]({
            font: known ? ((left.fontKern ?? 0) * 1000) / left.run.instance.unitsPerEm : 0,
            word: known && style.kerning === 'weighed' ? fontWordOf(left.run.instance.face, left.run.item.script) : NO_WORD,
            shape,
            atSpace: a === ' ' || b === ' ',
          }),
      );
    });
  }

  it('is what two shapes ask for as they stand: of any size, height, turn and face, beside blanks, figures and signs', () => {
    const random = randomFrom(3);
    const of = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
    const seen = new Set<string>();
    for (let i = 0; i < 400; i++) {
      const words = Array.from({ length: 9 }, () => of([...'AVToWyLpre  17.,—&ÁÓ'])).join('');
      const run = (): Partial<Style> =>
        of<Partial<Style>>([
          { sizePt: 40 },
          { baselineShiftMilliem: 200 },
          { turnDeg: 12 },
          { scaleY: 1.4 },
          { scaleX: 0.7 },
          { faceId: 'eb-garamond-italic' },
          { features: { tnum: 1 } },
          { colour: '#aa0000' },
        ]);
      const plain = headline(words, { runs: random() < 0.6 ? [{ start: 3, end: 6, style: run() }] : [] });
      const style: Partial<Style> = {
        kerning: of(['shape', 'weighed'] as const),
        kerningStrength: of([1, 0.5, 1.4]),
        faceId: of(['playfair-display-bold', 'source-sans-3-regular']),
        ...(random() < 0.3 ? { features: { tnum: 1 } } : {}),
        ...(random() < 0.1 ? { turnDeg: -8 } : {}),
      };
      const block = { ...plain, style: { ...plain.style, ...style } };
      const runs = spacedOf(block);
      const gaps = runs.flatMap(({ between, instance }) => between.map((units) => units / instance.unitsPerEm));
      expect(gaps.map((gap) => gap + 0))
        .withContext(`${words} ${JSON.stringify([style, block.runs])}`)
        .toEqual(expected(block, runs).map((gap) => gap + 0));
      for (const gap of gaps) seen.add(String(gap));
    }
    expect(seen.size).toBeGreaterThan(100);
  });

  it('takes the widest glyph of a letter for its base, on whichever side its marks stand', () => {
    const glyph = (cluster: number, glyphId: number, xAdvance: number) => ({ cluster, glyphId, xAdvance, xOffset: 0, yOffset: 0, unsafeToBreak: false });
    const glyphs = [glyph(0, 1, 0), glyph(0, 2, 500), glyph(0, 3, 0), glyph(1, 4, 0), glyph(1, 5, 300), glyph(2, 6, 0)];
    expect(glyphs.map((_, i) => baseGlyph(glyphs, i))).toEqual([2, 2, 2, 5, 5, 6]);
    expect(baseGlyph([], 0)).toBe(0);
  });
});
