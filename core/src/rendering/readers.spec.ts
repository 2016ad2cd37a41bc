import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import * as cssTree from 'css-tree';
import fc from 'fast-check';
import { create } from 'fontkit';
import { type DefaultTreeAdapterTypes, parse } from 'parse5';
import { SaxesParser } from 'saxes';
import sharp from 'sharp';
import { type DrawingNode, drawSheet } from '../drawing';
import { SHEET_FORMATS, type SheetFormat, type SheetMaterial, readJobFile } from '../formats';
import { type Block, JOB_VERSION, type Job, type Sheet, type Style, createBlock, createSheet, newPath, resolveSheet } from '../job';
import { fontWithPairs, pairsOfJob } from '../pairs';
import { type FaceSet, setSheet } from '../setting';
import { shippedFaces, sized } from '../testing';
import { writeSheets } from '.';

/** Every format, read by readers that are not ours: the demonstration's jobs and any others. */
describe('what is written, to other readers', () => {
  const FACES = new URL('../../../faces/', import.meta.url);
  const DEMO = new URL('../../../demo/', import.meta.url);
  let folder: string;
  let faces: FaceSet;
  beforeAll(async () => {
    folder = mkdtempSync(join(tmpdir(), 'jentrix-readers-'));
    faces = await shippedFaces(...readdirSync(FACES).flatMap((file) => (file.endsWith('.ttf') ? [file.slice(0, -4)] : [])));
  });
  afterAll(() => rmSync(folder, { recursive: true }));

  const run = (command: string, ...args: string[]): string => execFileSync(command, args, { encoding: 'utf8', stdio: ['ignore', 'pipe', 'pipe'] });
  const kept = (bytes: Uint8Array | string): string => {
    const path = join(folder, 'file');
    writeFileSync(path, bytes);
    return path;
  };

  /** Words as a reader may give them: without what shows nothing, and however letters are written. */
  const letters = (text: string): string =>
    text
      .replace(/[\s\u00ad\u200b-\u200f\u2028-\u202e\ufeff]/g, '')
      .normalize('NFKD')
      .toLowerCase();

  const READERS: Readonly<Record<string, (file: Uint8Array | string, drawn: { widthPt: number; heightPt: number; words: string }) => void | Promise<void>>> = {
    svg: (file) => {
      const parser = new SaxesParser({ xmlns: true });
      parser.on('error', (error) => fail(error));
      let numbers = 0;
      parser.on('opentag', ({ attributes }) => {
        for (const { name, value } of Object.values(attributes)) {
          if (!/^(x|y|d|transform|width|height|dx|dy|viewBox)$/.test(name)) continue;
          expect(value).not.toMatch(/NaN|Infinity|undefined/);
          numbers++;
        }
      });
      parser.write(String(file)).close();
      expect(numbers).toBeGreaterThan(0);
    },
    pdf: (file, { widthPt, words }) => {
      const path = kept(file);
      expect(run('qpdf', '--check', path)).toContain('No syntax or stream encoding errors');
      expect(Number(/Page size:\s+([\d.]+)/.exec(run('pdfinfo', path))?.[1])).toBeCloseTo(widthPt, 0);
      // Where lines lie over each other or run both ways their order is the reader’s.
      const read = Array.from(letters(run('pdftotext', '-raw', path, '-')));
      const without = (from: readonly string[], what: readonly string[]): string[] => {
        const left = [...what];
        return from.filter((letter) => !left.includes(letter) || !left.splice(left.indexOf(letter), 1));
      };
      expect(without(read, Array.from(letters(words))))
        .withContext('made up')
        .toEqual([]);
      // Of letters that lie over their like the reader takes one.
      expect(without(Array.from(letters(words)), read).length)
        .withContext('lost')
        .toBeLessThanOrEqual(words.length / 10);
    },
    html: (file, { words }) => {
      const text = (node: DefaultTreeAdapterTypes.Node): string =>
        'value' in node
          ? node.value
          : 'childNodes' in node && !('tagName' in node && ['style', 'title'].includes(node.tagName))
            ? node.childNodes.map(text).join('')
            : '';
      const errors: string[] = [];
      const page = parse(String(file), { onParseError: ({ code }) => errors.push(code) });
      expect(errors).toEqual([]);
      expect(letters(text(page))).toBe(letters(words));
      const style = /<style>([\s\S]*?)<\/style>/.exec(String(file))?.[1] ?? '';
      cssReads(style);
    },
    css: (file) => cssReads(String(file)),
    png: pictureReads,
    jpeg: pictureReads,
    webp: pictureReads,
  };

  function cssReads(css: string): void {
    expect(css.length).toBeGreaterThan(50);
    const wrong: string[] = [];
    cssTree.parse(css, { onParseError: ({ message }) => wrong.push(message) });
    expect(wrong).toEqual([]);
    expect(css.replace(/url\([^)]*\)/g, '')).not.toMatch(/NaN|Infinity|undefined/);
  }
  async function pictureReads(file: Uint8Array | string, { widthPt, heightPt }: { widthPt: number; heightPt: number }): Promise<void> {
    const { width, height } = await sharp(file as Uint8Array).metadata();
    expect([width, height]).toEqual([Math.ceil(widthPt / 0.75 - 0.001), Math.ceil(heightPt / 0.75 - 0.001)]);
  }

  /** Options of each format that its files differ most by. */
  const WAYS: Readonly<Record<string, readonly object[]>> = {
    svg: [{}, { letters: 'text', embed: true }],
    pdf: [{}, { letters: 'text', marks: false }],
    html: [{}, { fluid: true }],
  };

  async function check(job: Job, raw: Sheet, formats: readonly SheetFormat[] = SHEET_FORMATS): Promise<void> {
    const sheet = resolveSheet(job, { ...raw, background: raw.background.kind === 'picture' ? { kind: 'colour', colour: '#203040' } : raw.background });
    const settings = setSheet(sheet, faces);
    const drawing = drawSheet(sheet, settings);
    const shown = (node: DrawingNode): string =>
      node.kind === 'group'
        ? node.shadow
          ? ''
          : node.nodes.map(shown).join('')
        : node.kind === 'letters'
          ? node.glyphs.map(({ shows }) => shows).join('')
          : '';
    const words = drawing.blocks.map(shown).join('');
    const material: SheetMaterial = { drawing, faces, pictures: new Map() };
    const about = { widthPt: sheet.widthPt, heightPt: sheet.heightPt, words };
    for (const format of formats)
      for (const asked of WAYS[format.id] ?? [{}])
        await READERS[format.id]!(await writeSheets(format, [material], { title: job.title, language: undefined }, format.options.parse(asked)), about);
  }

  it('holds for the demonstration', async () => {
    for (const file of readdirSync(DEMO).filter((name) => name.endsWith('.json'))) {
      const job = readJobFile(readFileSync(new URL(file, DEMO), 'utf8'));
      const [sheet] = job.sheets;
      await check(job, sheet!);
    }
  }, 180_000);

  const style = fc.record({
    faceId: fc.constantFrom('playfair-display-bold', 'eb-garamond-italic', 'source-sans-3-regular', 'league-gothic-regular'),
    sizePt: fc.double({ min: 4, max: 44, noNaN: true }),
    trackingMilliem: fc.integer({ min: -60, max: 400 }),
    kerning: fc.constantFrom('font', 'weighed', 'shape', 'off'),
    scaleX: fc.constantFrom(1, 1, 0.8, 1.3),
    baselineShiftMilliem: fc.constantFrom(0, 0, 250),
    turnDeg: fc.constantFrom(0, 0, 0, 25),
    case: fc.constantFrom('typed', 'capitals', 'small'),
    gradient: fc.constantFrom(null, null, { to: '#ff9900', angleDeg: 200 }),
    outline: fc.constantFrom(null, null, { milliem: 20, colour: '#00aa55', join: 'round' }),
    shadow: fc.constantFrom(
      null,
      null,
      { xMilliem: 40, yMilliem: 60, blurMilliem: 0, colour: '#445566' },
      { xMilliem: 0, yMilliem: 30, blurMilliem: 50, colour: '#000000' },
    ),
    opacity: fc.constantFrom(1, 1, 0.6),
    underline: fc.boolean(),
  }) as fc.Arbitrary<Partial<Style>>;
  const words = fc.constantFrom(
    'AVATAR',
    'Tide table',
    'office fjord',
    '“Low & <high>”',
    'Wäßrig, 12 %',
    'e\u0301clat à la',
    'Two\nlines of it',
    'one  two',
    'שלום',
    '1 a',
    '.',
  );
  const block = fc
    .record({
      words,
      style,
      run: style,
      at: fc.nat({ max: 6 }),
      x: fc.integer({ min: 220, max: 300 }),
      y: fc.integer({ min: 180, max: 330 }),
      turn: fc.constantFrom(0, 0, 30, 180),
      kind: fc.constantFrom('straight', 'straight', 'arc', 'wave', 'stacked'),
      list: fc.constantFrom('none', 'none', 'bullet'),
      hand: fc.integer({ min: -200, max: 300 }),
    })
    .map((one): Block => {
      const made = createBlock('b', one.words, { xPt: one.x, yPt: one.y, widthPt: 260, heightPt: 90 }, one.style);
      const end = Math.min(one.words.length, one.at + 2);
      return {
        ...made,
        rotationDeg: one.turn,
        grow: 'down',
        path: newPath(one.kind, { widthPt: 260 }, 60),
        paragraph: { ...made.paragraph, list: one.kind === 'straight' ? one.list : 'none' },
        runs: one.at < end ? [{ start: one.at, end, style: one.run }] : [],
        hand: one.words.length > 2 ? [{ at: 1, milliem: one.hand }] : [],
      };
    });

  it('holds for any job', async () => {
    const formats = SHEET_FORMATS.filter(({ id }) => ['svg', 'pdf', 'html', 'css', 'png'].includes(id));
    const jobs = fc.sample(fc.array(block, { minLength: 1, maxLength: 4 }), { seed: 20_261_127, numRuns: sized(5, 14) });
    for (const blocks of jobs) {
      const sheet: Sheet = { ...createSheet('s', 'Any', 900, 640, 'pt'), blocks: blocks.map((one, i) => ({ ...one, id: `b${i}` })) };
      const job: Job = { format: 'jentrix.job', version: JOB_VERSION, title: 'Any', kind: 'other', language: null, pairs: [], sheets: [sheet] };
      await check(job, sheet, formats).catch((error: unknown) => {
        throw new Error(`${JSON.stringify(blocks).slice(0, 1500)}: ${error instanceof Error ? error.message : String(error)}`);
      });
      for (const pairs of pairsOfJob(job, faces)) {
        const face = faces.get(pairs.faceId);
        const made = face && (await fontWithPairs(face, pairs, { name: 'Any Lamp', licence: 'OFL' }));
        if (!made || typeof made === 'string') fail(made);
        else expect((create(Buffer.from(made.bytes)) as unknown as { numGlyphs: number }).numGlyphs).toBe(face.glyphCount);
      }
    }
  }, 300_000);
});
