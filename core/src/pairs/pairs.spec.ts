import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import Papa from 'papaparse';
import { Face } from '../face';
import { addBlock, createJob, updateBlock, withHand } from '../job';
import { FaceSet, setLettersOf, setBlock } from '../setting';
import { fontBytes, headline, shippedFaces } from '../testing';
import { type PairsOfFace, pairFiles, pairsAsCsv, pairsAsFeatures, fontWithPairs, pairsAsJson, pairsOfJob } from '.';

describe('pairs for use elsewhere', () => {
  let faces: FaceSet;
  let found: PairsOfFace[];
  const block = headline('AVATAR VAT', { id: 'b', grow: 'both' });
  beforeAll(async () => {
    faces = await shippedFaces('playfair-display-bold', 'source-sans-3-regular');
    let n = 0;
    let job = createJob('Pairs', () => `id${++n}`);
    job = addBlock({ ...job, sheets: job.sheets.map((sheet) => ({ ...sheet, blocks: [] })) }, job.sheets[0]!.id, block);
    job = updateBlock(job, 'b', (own) => ({ ...own, style: { ...own.style, kerning: 'shape' } }));
    found = pairsOfJob(withHand(job, 'b', 1, 30), faces);
  });

  it('are those of the words, each once, with the commonest of its values', () => {
    const [face] = found;
    expect([found.length, face?.faceId]).toEqual([1, 'playfair-display-bold']);
    expect(face?.pairs.map(({ left, right, count, others }) => `${left}${right} ${count} ${others}`)).toEqual([
      ' V 1 0',
      'AR 1 0',
      'AT 2 0',
      'AV 1 0',
      'R  1 0',
      'TA 1 0',
      'VA 2 0',
    ]);
    expect(face?.pairs.every(({ milliem }) => milliem < 100)).toBeTrue();
  });

  it('as CSV and JSON that other readers take', () => {
    const { data } = Papa.parse<Record<string, string>>(pairsAsCsv(found).trim(), { header: true });
    expect(data.length).toBe(7);
    const json = JSON.parse(pairsAsJson(found)) as { faces: { pairs: { left: string; right: string; milliem: number }[] }[] };
    data.forEach(({ left, right, milliem }, i) => expect(json.faces[0]?.pairs[i]).toEqual(jasmine.objectContaining({ left, right, milliem: Number(milliem) })));
    expect(Object.keys(pairFiles(found))).toEqual(['pairs.csv', 'pairs.json', 'playfair-display-bold.fea']);
  });

  it('as feature code that compiles; the font then kerns as the job does', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'jentrix-pairs-'));
    try {
      const [font, code, made] = ['font.ttf', 'kern.fea', 'made.ttf'].map((name) => join(folder, name)) as [string, string, string];
      writeFileSync(font, fontBytes('playfair-display-bold'));
      writeFileSync(code, pairsAsFeatures(found[0]!));
      execFileSync('fonttools', ['feaLib', '-o', made, code, font], { stdio: ['ignore', 'ignore', 'pipe'] });
      const kerned = await Face.open(new Uint8Array(readFileSync(made)));
      const byFont = kerned.instance().shape('VAT', 0, 3);
      const byPairs = (left: string, right: string): number => found[0]!.pairs.find((pair) => pair.left === left && pair.right === right)!.milliem;
      const plain = ['V', 'A'].map((letter) => kerned.instance().advance(kerned.instance().nominalGlyph(letter.codePointAt(0)!)!));
      const values = byFont.slice(0, 2).map(({ xAdvance }, i) => ((xAdvance - plain[i]!) * 1000) / kerned.unitsPerEm);
      expect(Math.abs(values[0]! - byPairs('V', 'A'))).toBeLessThan(0.6);
      expect(Math.abs(values[1]! - byPairs('A', 'T'))).toBeLessThan(0.6);
      expect(setLettersOf(setBlock(block, faces).lines[0]!).length).toBe(10);
    } finally {
      rmSync(folder, { recursive: true });
    }
  });

  it('make a font that sets the words as the job does, between words too', async () => {
    for (const [faceId, words] of [
      ['playfair-display-bold', 'OR To A Vat'],
      ['source-sans-3-regular', 'R T, A V. To YES'],
    ] as const) {
      for (const kerning of ['shape', 'weighed'] as const) {
        const plain = headline(words, { id: 'b', grow: 'both' });
        const set = { ...plain, style: { ...plain.style, faceId, kerning, sizePt: 60, features: { liga: 0 } } };
        let n = 0;
        const job = createJob('Pairs', () => `id${++n}`);
        const [pairs] = pairsOfJob({ ...job, sheets: job.sheets.map((sheet) => ({ ...sheet, blocks: [set] })) }, faces);
        const made = await fontWithPairs(faces.get(faceId)!, pairs!, { name: 'Harbour Lamp', licence: 'SIL Open Font License, Version 1.1' });
        if (typeof made === 'string') throw new Error(made);
        const own = new FaceSet(faceId);
        own.add(faceId, await Face.open(made.bytes));
        const asFont = setBlock({ ...set, style: { ...set.style, kerning: 'font' } }, own).lines[0]!;
        const wanted = setLettersOf(setBlock(set, faces).lines[0]!);
        setLettersOf(asFont).forEach(({ leftPt }, i) =>
          expect(Math.abs(leftPt - wanted[i]!.leftPt))
            .withContext(`${kerning} ${words} ${i}`)
            .toBeLessThan(0.3),
        );
        expect(Math.abs(asFont.widthPt - setBlock(set, faces).lines[0]!.widthPt)).toBeLessThan(0.3);
      }
    }
  });
});
