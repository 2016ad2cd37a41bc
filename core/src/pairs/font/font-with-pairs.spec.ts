import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { create } from 'fontkit';
import { Face, checksumOf, ownKerning, writeFont } from '../../face';
import { fontBytes } from '../../testing';
import type { FacePair, PairsOfFace } from '../pairs';
import { type MadeFont, fontWithPairs } from './font-with-pairs';

const OFL = 'SIL Open Font License, Version 1.1';
const LETTERS = ['A', 'V', 'T', 'o', 'é', 'y', 'L', 'n'];

function pairsFor(face: Face, value: (left: string, right: string) => number): PairsOfFace {
  const pair = (left: string, right: string): FacePair => ({
    ...{ left, right, leftGlyph: '', rightGlyph: '', fontMilliem: 0, count: 1, others: 0 },
    milliem: value(left, right),
  });
  const pairs = LETTERS.flatMap((left) => LETTERS.map((right) => pair(left, right)));
  return { faceId: 'f', family: face.family, style: face.style, unitsPerEm: face.unitsPerEm, pairs };
}

async function madeOf(
  face: Face,
  name = 'Harbour Lamp',
  value = (left: string, right: string) => ((left.codePointAt(0)! * 7 + right.codePointAt(0)! * 3) % 160) - 80,
): Promise<MadeFont> {
  const made = await fontWithPairs(face, pairsFor(face, value), { name, licence: OFL });
  if (typeof made === 'string') throw new Error(made);
  return made;
}

describe('fonts with the pairs of a job', () => {
  const faces = new URL('../../../../faces/', import.meta.url).pathname;
  const shipped = [...readdirSync(faces), ...readdirSync(join(faces, 'catalogue')).map((file) => `catalogue/${file}`)].filter((file) => file.endsWith('.ttf'));

  it('kern these pairs as the job does and all others as before, in every shipped face', async () => {
    for (const file of shipped) {
      const face = await Face.open(new Uint8Array(readFileSync(join(faces, file))));
      const { bytes, left } = await madeOf(face);
      const made = await Face.open(bytes);
      const [before, after] = [face.instance(), made.instance()];
      const { pairs } = pairsFor(face, () => 0);
      // A variable font holds nothing of these pairs as far as the list says, so that all of it is added.
      const own = (pair: string): number => (face.axes.length > 0 ? ownKerning(before, pair) : 0);
      const wrong = pairs.filter(
        ({ left: a, right: b }) => Math.abs(ownKerning(after, a + b) - own(a + b) - (((a.codePointAt(0)! * 7 + b.codePointAt(0)! * 3) % 160) - 80)) > 1.1,
      );
      expect(wrong.map((one) => one.left + one.right))
        .withContext(file)
        .toEqual([]);
      const joined = pairs.filter(({ left: a, right: b }) => before.shape(a + b, 0, 2).length < 2);
      expect(left.map((one) => one.left + one.right))
        .withContext(file)
        .toEqual(joined.map((one) => one.left + one.right));
      for (const text of ['Wä', 'P.', 'fjord', '“W”', '11', 'r,', 'Ko', 'ﬁx', 'à̂']) {
        const shape = (instance: typeof before) =>
          instance.shape(text, 0, text.length).map(({ glyphId, xAdvance, xOffset, yOffset }) => [glyphId, xAdvance, xOffset, yOffset]);
        expect(shape(after)).withContext(`${file} ${text}`).toEqual(shape(before));
      }
      expect([made.family, made.style, made.glyphCount]).toEqual(['Harbour Lamp', face.style, face.glyphCount]);
      expect(checksumOf(bytes)).withContext(file).toBe(0xb1b0afba);
      face.dispose();
      made.dispose();
    }
  });

  it('are read by other readers, under their new name alone', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'jentrix-fonts-'));
    try {
      for (const id of ['playfair-display-black', 'josefin-sans-regular']) {
        const face = await Face.open(fontBytes(id));
        const { bytes } = await madeOf(face);
        const font = create(Buffer.from(bytes)) as unknown as {
          familyName: string;
          postscriptName: string;
          layout(text: string): { positions: { xAdvance: number }[] };
          unitsPerEm: number;
        };
        expect([font.familyName.startsWith('Harbour Lamp'), font.postscriptName.startsWith('HarbourLamp-')]).toEqual([true, true]);
        const [path, dump] = [join(folder, `${id}.ttf`), join(folder, `${id}.ttx`)];
        writeFileSync(path, bytes);
        execFileSync('fonttools', ['ttx', '-q', '-t', 'name', '-t', 'GPOS', '-o', dump, path], { stdio: ['ignore', 'ignore', 'pipe'] });
        const text = readFileSync(dump, 'utf8');
        const names = text.slice(text.indexOf('<name>'), text.indexOf('</name>'));
        for (const [, nameId, value] of names.matchAll(/<namerecord nameID="(\d+)"[^>]*>([^<]*)</g))
          if (['1', '3', '4', '6', '16'].includes(nameId!)) expect(value).withContext(nameId!).not.toContain(face.family.split(' ')[0]!);
        expect(text).toMatch(/<PairPos [^>]*Format="1"/);
        const kern = /<FeatureTag value="kern"\/>/g;
        expect(text.match(kern)!.length).toBeGreaterThan(0);
        face.dispose();
      }
    } finally {
      rmSync(folder, { recursive: true });
    }
  });

  it('that have no GPOS, or kern by an older table, get one', async () => {
    for (const tables of [['GPOS'], ['GPOS', 'GSUB', 'GDEF']]) {
      const bare = await Face.open(fontBytes('playfair-display-bold'), { withoutTables: tables });
      const made = await Face.open((await madeOf(bare)).bytes);
      expect(ownKerning(made.instance(), 'AV')).toBeCloseTo(((65 * 7 + 86 * 3) % 160) - 80, 0);
      expect(made.features).toContain('kern');
      bare.dispose();
      made.dispose();
    }
  });

  it('have in GPOS what an older table held, and no such table any more', async () => {
    const face = await Face.open(fontBytes('playfair-display-bold'));
    const glyph = (letter: string): number => face.instance().nominalGlyph(letter.codePointAt(0)!)!;
    const old = [
      ['A', 'V', -111],
      ['W', 'q', 55],
    ] as const;
    const sorted = old.map(([a, b, value]) => [glyph(a), glyph(b), value & 0xffff]).sort(([a = 0], [b = 0]) => a - b);
    const words = [0, 1, 0, 14 + sorted.length * 6, 1, sorted.length, 12, 1, 0, ...sorted.flat()];
    const kern = new Uint8Array(words.flatMap((word) => [word >> 8, word & 0xff]));
    const tables = face.tableData.filter(({ tag }) => tag !== 'GPOS');
    const older = await Face.open(writeFont([...tables, { tag: 'kern', data: kern, checksum: checksumOf(kern) }]));
    expect(ownKerning(older.instance(), 'Wq')).toBe(55);
    const pairs = { ...pairsFor(older, () => 20), pairs: pairsFor(older, () => 20).pairs.filter(({ left, right }) => left === 'A' && right === 'V') };
    const made = await fontWithPairs(older, pairs, { name: 'Harbour Lamp', licence: OFL });
    if (typeof made === 'string') throw new Error(made);
    const opened = await Face.open(made.bytes);
    expect([ownKerning(opened.instance(), 'AV'), ownKerning(opened.instance(), 'Wq'), opened.kerning]).toEqual([20, 55, undefined]);
    expect(opened.tableData.map(({ tag }) => tag)).not.toContain('kern');
    for (const one of [face, older, opened]) one.dispose();
  });

  it('are not made where the licence is not known to allow it, or keeps the name', async () => {
    const face = await Face.open(fontBytes('playfair-display-bold'));
    const pairs = pairsFor(face, () => 10);
    const reserved = await fontWithPairs(face, pairs, { name: 'My Lantern', licence: 'OFL. Copyright 2026, with Reserved Font Names "Lantern" and "Wick".' });
    expect(reserved).toContain('“Lantern” is reserved');
    spyOnProperty(face, 'installable').and.returnValue(false);
    expect(await fontWithPairs(face, pairs, { name: 'Any', licence: OFL })).toContain('may not allow changes');
    face.dispose();
  });

  it('hold more pairs than one subtable has room for', async () => {
    const face = await Face.open(fontBytes('source-sans-3-regular'));
    const letters = face.codePoints.filter((point) => point > 64 && point < 0x250 && point !== 0xad).map((point) => String.fromCodePoint(point));
    const pairs = letters.flatMap((left, i) =>
      letters.map((right, j): FacePair => ({
        left,
        right,
        leftGlyph: '',
        rightGlyph: '',
        fontMilliem: 0,
        count: 1,
        others: 0,
        milliem: ((i * 31 + j * 17) % 90) - 45,
      })),
    );
    expect(pairs.length).toBeGreaterThan(40_000);
    const made = await fontWithPairs(
      face,
      { faceId: 'f', family: face.family, style: face.style, unitsPerEm: face.unitsPerEm, pairs },
      { name: 'Many', licence: OFL },
    );
    if (typeof made === 'string') throw new Error(made);
    const opened = await Face.open(made.bytes);
    for (let k = 0; k < pairs.length; k += 997) {
      const { left, right, milliem } = pairs[k]!;
      expect(Math.abs(ownKerning(opened.instance(), left + right) - milliem))
        .withContext(left + right)
        .toBeLessThan(1.1);
    }
    face.dispose();
    opened.dispose();
  });
});
