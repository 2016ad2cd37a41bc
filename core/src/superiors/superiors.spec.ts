import { readFileSync } from 'node:fs';
import { Face, readMathScripts } from '../face';
import { acceptFinding, inspectBlock } from '../findings';
import { type Block, createJob, findBlock, restyleRanges, styleAt } from '../job';
import { type FaceSet, ledgersOf, setBlock } from '../setting';
import { measureAnatomy } from '../advice';
import { headline, openShipped, shippedFaces } from '../testing';
import { madeForm, ownForm, smallChanges, smallForms, typedSmalls } from '.';

describe('superiors and inferiors', () => {
  const shown = (words: string): string[] =>
    typedSmalls(words).map(({ kind, range, splice }) => `${kind} ${splice?.insert ?? words.slice(range.start, range.end)}`);

  it('are recognised where they were typed as plain letters, and nowhere else', () => {
    expect(shown('CO2 and H2O, C6H12O6')).toEqual(['inferior 2', 'inferior 2', 'inferior 6', 'inferior 12', 'inferior 6']);
    expect(shown('120 m2, 3 km3')).toEqual(['superior 2', 'superior 3']);
    expect(shown('1st 2nd 3rd 4th 11th 21st 112th')).toEqual([
      'ordinal st',
      'ordinal nd',
      'ordinal rd',
      'ordinal th',
      'ordinal th',
      'ordinal st',
      'ordinal th',
    ]);
    expect(shown('10^-6 and 10^9')).toEqual(['superior −6', 'superior 9']);
    for (const words of ['A4, B2 and Room C', '11st', '1nd', 'first 2 hours', 'M25', 'MP3', '12 August', 'x^2y'])
      expect(shown(words)).withContext(words).toEqual([]);
  });

  it('are the font’s own where it has every letter, and made by its measures otherwise', async () => {
    const garamond = (await openShipped('eb-garamond-regular')).instance();
    const own = ownForm(garamond, '2', 'inferior', { onum: 1 });
    expect(own?.source).toBe('font');
    expect(own?.style.features).toEqual(jasmine.objectContaining({ onum: 1 }));
    // One letter without a small glyph: none of them.
    expect(ownForm(garamond, '2Ж', 'superior')).toBeUndefined();
    const playfair = (await openShipped('playfair-display-bold')).instance();
    for (const [kind, sign] of [
      ['superior', 1],
      ['inferior', -1],
    ] as const) {
      const { style, says } = madeForm(playfair, kind, { axes: {} });
      expect(style.scaleX).toBe(style.scaleY);
      expect(style.scaleY).toBeGreaterThanOrEqual(0.4);
      expect(style.scaleY).toBeLessThanOrEqual(0.85);
      expect(Math.sign(style.baselineShiftMilliem ?? 0)).toBe(sign);
      expect(says).toContain('% of the size');
    }
    expect(smallForms(garamond, '2', 'inferior', { axes: {}, features: {} }).map(({ source }) => source)).toEqual(['font', 'made']);
  });

  it('keep their stems where the face has a weight axis, and say so', async () => {
    const file = new URL('../../../faces/catalogue/inter-variable.ttf', import.meta.url);
    const face = await Face.open(new Uint8Array(readFileSync(file)));
    const regular = face.instance({ wght: 400 });
    const { style, says } = madeForm(regular, 'superior', { axes: { wght: 400 } });
    const weight = style.axes?.['wght'] ?? 0;
    expect(weight).toBeGreaterThan(450);
    expect(says).toContain(`weight ${weight}`);
    const stem = (wght: number): number => measureAnatomy(face.instance({ wght })).stem;
    expect(Math.abs(stem(weight) * (style.scaleY ?? 1) - stem(400))).toBeLessThan(Math.abs(stem(400) * (style.scaleY ?? 1) - stem(400)) / 2);
  });

  it('keep them by a heavier face of the family where there is no axis, the nearest one', async () => {
    const [regular, semibold, bold] = await Promise.all(['regular', 'semibold', 'bold'].map((name) => openShipped(`source-sans-3-${name}`)));
    const stemOf = (face: Face | undefined): number => measureAnatomy(face!.instance()).stem;
    const family = [
      { faceId: 'bold', name: 'Bold', stem: stemOf(bold) },
      { faceId: 'semibold', name: 'SemiBold', stem: stemOf(semibold) },
    ];
    const { style, says } = madeForm(regular!.instance(), 'superior', { axes: {} }, family);
    const away = (stem: number): number => Math.abs(stem * (style.scaleY ?? 1) - stemOf(regular));
    const nearest = [...family].sort((a, b) => away(a.stem) - away(b.stem))[0]!;
    expect(style.faceId).toBe(nearest.faceId);
    expect(says).toContain(`stems kept by ${nearest.name}`);
    expect(madeForm(bold!.instance(), 'superior', { axes: {} }, [{ faceId: 'regular', name: 'Regular', stem: stemOf(regular) }]).style.faceId).toBeUndefined();
  });

  it('made ones are kerned by shape, and so is the letter before them; the font’s own are weighed', async () => {
    const instance = (await openShipped('playfair-display-bold')).instance();
    const made = madeForm(instance, 'superior', { axes: {} });
    const words = 'An 10-6';
    const changes = smallChanges(
      words,
      [
        { start: 5, end: 6 },
        { start: 6, end: 7 },
      ],
      made,
    );
    expect(changes.map(({ start, change }) => [start, change.kerning, change.scaleY !== undefined])).toEqual([
      [4, 'shape', false],
      [5, 'shape', true],
      [6, 'shape', true],
    ]);
    expect(smallChanges(words, [{ start: 3, end: 4 }], made).length).toBe(1);
    // The font's own are weighed: as the font kerns them, where it does.
    const own = smallChanges(words, [{ start: 5, end: 6 }], { source: 'font', style: { features: { sups: 1 } }, says: '' });
    expect(own.map(({ start, change }) => [start, change.kerning])).toEqual([
      [4, 'weighed'],
      [5, 'weighed'],
    ]);
    const faces = await shippedFaces('playfair-display-bold');
    const block = restyleRanges(headline('AT'), smallChanges('AT', [{ start: 1, end: 2 }], made));
    const [gap] = ledgersOf(block, setBlock(block, faces).lines[0]!, faces);
    expect(gap?.source).toBe('shape');
    // A raised T hangs over the slope of an A.
    expect(gap?.totalMilliem).toBeLessThan(-30);
  });

  it('stand as a font for formulas states them', () => {
    const bytes = new Uint8Array(60);
    const view = new DataView(bytes.buffer);
    view.setUint16(0, 1);
    view.setUint16(4, 10);
    view.setInt16(10, 72);
    view.setInt16(10 + 24, 210);
    view.setInt16(10 + 36, 380);
    expect(readMathScripts((tag) => (tag === 'MATH' ? bytes : undefined))).toEqual({ size: 0.72, superiorRise: 380, inferiorDrop: 210 });
    expect(readMathScripts(() => bytes.subarray(0, 30))).toBeUndefined();
    expect(readMathScripts(() => undefined)).toBeUndefined();
  });

  describe('as a finding', () => {
    let faces: FaceSet;
    beforeAll(async () => {
      faces = await shippedFaces('playfair-display-bold');
    });
    const found = (block: Block) => inspectBlock(block, setBlock(block, faces), faces).findings.filter(({ rule }) => rule === 'typed-small');

    it('are proposed, and once taken are not found again', () => {
      let block = headline('CO2, 10^-6 m2');
      expect(
        found(block)
          .map(({ subject }) => subject)
          .sort(),
      ).toEqual(['10^-6', 'CO2', 'm2']);
      while (found(block)[0]) {
        const job = { ...createJob('t', () => 's') };
        const made = acceptFinding({ ...job, sheets: job.sheets.map((sheet) => ({ ...sheet, blocks: [block] })) }, found(block)[0]!);
        block = findBlock(made, block.id)!;
      }
      expect(block.words).toBe('CO2, 10−6 m2');
      const small = [...block.words].map((_, at) => {
        const { baselineShiftMilliem, features } = styleAt(block, at);
        if (baselineShiftMilliem > 0 || features['sups'] === 1) return '+';
        return baselineShiftMilliem < 0 || features['sinf'] === 1 || features['subs'] === 1 ? '-' : '.';
      });
      expect(small.join('')).toBe('..-....++..+');
    });
  });
});
