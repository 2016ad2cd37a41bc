import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { inflateSync } from 'node:zlib';
import { drawSheet } from '../../drawing';
import { Face } from '../../face';
import { type SheetMaterial, pdfFormat } from '../../formats';
import { type Block, type Sheet, createSheet } from '../../job';
import { setSheet } from '../../setting';
import { headline, shippedFaces } from '../../testing';
import { previewSheet, writeSheets } from '..';

/** Checked by readers that are not ours: poppler and qpdf. */
describe('PDF', () => {
  let folder: string;
  beforeAll(() => (folder = mkdtempSync(join(tmpdir(), 'jentrix-pdf-'))));
  afterAll(() => rmSync(folder, { recursive: true }));

  const sheetOf = (blocks: Block[], changes: Partial<Sheet> = {}): Sheet => ({ ...createSheet('s', 'Front', 400, 300, 'pt'), blocks, ...changes });
  const base = headline('TO WATCH', { frame: { xPt: 20, yPt: 40, widthPt: 360, heightPt: 200 } });
  const withStyle = (style: Partial<Block['style']>, block: Block = base): Block => ({ ...block, style: { ...block.style, ...style } });

  async function materialOf(sheet: Sheet): Promise<SheetMaterial> {
    const faces = await shippedFaces('playfair-display-bold');
    return { drawing: drawSheet(sheet, setSheet(sheet, faces)), faces, pictures: new Map() };
  }
  async function made(sheets: readonly [SheetMaterial, ...SheetMaterial[]], asked: object = {}): Promise<string> {
    const bytes = await writeSheets(pdfFormat, sheets, { title: 'A title', language: 'en-GB' }, pdfFormat.options.parse(asked));
    const path = join(folder, 'out.pdf');
    writeFileSync(path, bytes);
    return path;
  }
  const run = (command: string, ...args: string[]): string => execFileSync(command, args, { encoding: 'utf8', stdio: ['ignore', 'pipe', 'pipe'] });
  const textOf = (path: string): string => run('pdftotext', path, '-').replace(/\s+/g, ' ').trim();
  /** The content of the first page, unpacked. */
  const contentOf = (path: string): string => {
    const file = readFileSync(path);
    const streams: string[] = [];
    for (let at = file.indexOf('stream\n'); at >= 0; at = file.indexOf('stream\n', at + 1)) {
      if (file.subarray(at - 3, at).toString() === 'end') continue;
      try {
        streams.push(inflateSync(file.subarray(at + 7)).toString('latin1'));
      } catch {
        // Not packed.
      }
    }
    return streams.find((text) => text.includes(' W n') || text.includes(' re')) ?? '';
  };

  it('opens without a complaint, in both kinds of letters; words are whole, in their order, and can be searched', async () => {
    const words = 'Letters & WORDS, spaced “far apart”: AVATAR 1234';
    for (const letters of ['outlines', 'text'])
      for (const trackingMilliem of [0, 120, 300]) {
        const block = withStyle({ sizePt: 24, trackingMilliem }, { ...base, words });
        const path = await made([await materialOf(sheetOf([block]))], { letters });
        expect(run('qpdf', '--check', path))
          .withContext(letters)
          .toContain('No syntax or stream encoding errors');
        expect(textOf(path)).withContext(`${letters} ${trackingMilliem}`).toBe(words);
      }
  });

  it('letters stand within 0.02 pt of the drawing', async () => {
    const sheet = sheetOf([withStyle({ sizePt: 40, trackingMilliem: 35 })]);
    const material = await materialOf(sheet);
    const drawn = material.drawing.blocks
      .flatMap(({ nodes }) => nodes.flatMap((node) => (node.kind === 'letters' ? node.glyphs : [])))
      .map(({ matrix }) => [matrix.e, matrix.f]);
    for (const letters of ['outlines', 'text']) {
      const text = contentOf(await made([material], { letters }));
      const placed = [...text.matchAll(/(-?[\d.]+) (-?[\d.]+) Tm/g)].map(([, x, y]) => [Number(x), Number(y)]);
      expect(placed.length).withContext(letters).toBe(drawn.length);
      for (const [i, [x = 0, y = 0]] of drawn.entries()) {
        expect(Math.abs((placed[i]?.[0] ?? 0) - x)).toBeLessThan(0.02);
        expect(Math.abs((placed[i]?.[1] ?? 0) - y)).toBeLessThan(0.02);
      }
    }
  });

  it('looks like the sheet, whichever kind of letters: gradients, outlines, opacity, shadows, turns', async () => {
    const { default: sharp } = await import('sharp');
    const blocks = [
      withStyle({ sizePt: 60, gradient: { to: '#1040c0', angleDeg: 20 }, outline: { colour: '#c01010', milliem: 20, join: 'round' } }),
      {
        ...withStyle({ sizePt: 50, opacity: 0.5, shadow: { xMilliem: 60, yMilliem: 60, blurMilliem: 60, colour: '#208020' } }),
        id: 'c',
        rotationDeg: 12,
        frame: { xPt: 20, yPt: 150, widthPt: 360, heightPt: 100 },
      },
    ];
    const sheet = sheetOf(blocks, { background: { kind: 'gradient', from: '#ffeecc', to: '#ffccee', angleDeg: 90 } });
    const material = await materialOf(sheet);
    const ours = await sharp(await previewSheet(pdfFormat, material, pdfFormat.options.parse({}), 800))
      .removeAlpha()
      .raw()
      .toBuffer();
    for (const letters of ['outlines', 'text']) {
      const path = await made([material], { letters });
      run('pdftoppm', '-png', '-r', '144', '-singlefile', path, join(folder, 'page'));
      const theirs = await sharp(join(folder, 'page.png')).resize(800, 600, { fit: 'fill' }).removeAlpha().raw().toBuffer();
      let off = 0;
      for (let i = 0; i < ours.length; i++) off += Math.abs((ours[i] ?? 0) - (theirs[i] ?? 0));
      expect(off / ours.length)
        .withContext(letters)
        .toBeLessThan(2);
    }
  });

  it('states trim, bleed, title, language and sheets; a mark stands at each end of each edge', async () => {
    const material = await materialOf(sheetOf([base], { background: { kind: 'colour', colour: '#204060' } }));
    const other = { ...material, drawing: { ...material.drawing, name: 'Back' } };
    const path = await made([material, other], { bleed: 3, marks: true });
    const info = run('pdfinfo', '-box', path);
    expect(info).toContain('A title');
    expect(info).toMatch(/Pages:\s+2/);
    const box = (name: string): number[] => (new RegExp(`${name}:\\s+([\\d. ]+)`).exec(info)?.[1] ?? '').trim().split(/\s+/).map(Number);
    const [trim, bleed, media] = [box('TrimBox'), box('BleedBox'), box('MediaBox')];
    expect([(trim[2] ?? 0) - (trim[0] ?? 0), (trim[3] ?? 0) - (trim[1] ?? 0)]).toEqual([400, 300]);
    expect((trim[0] ?? 0) - (bleed[0] ?? 0)).toBeCloseTo((3 * 72) / 25.4, 1);
    expect(media[2]).toBeGreaterThan(bleed[2] ?? 0);
    expect(run('qpdf', '--json=2', path)).toContain('en-GB');
    expect(run('qpdf', '--json', '--json-key=outlines', path)).toMatch(/Front[\s\S]*Back/);
    run('pdftoppm', '-png', '-r', '72', '-f', '1', '-l', '1', '-singlefile', path, join(folder, 'marks'));
    const { default: sharp } = await import('sharp');
    const { data, info: size } = await sharp(join(folder, 'marks.png')).removeAlpha().raw().toBuffer({ resolveWithObject: true });
    const at = (x: number, y: number): number[] => [
      ...data.subarray((Math.round(y) * size.width + Math.round(x)) * 3, (Math.round(y) * size.width + Math.round(x)) * 3 + 3),
    ];
    // Ground reaches into the bleed and no farther.
    expect(at((bleed[0] ?? 0) + 2, size.height / 2)).toEqual([0x20, 0x40, 0x60]);
    expect(at((bleed[0] ?? 0) - 3, size.height / 2)).toEqual([255, 255, 255]);
    const row = Math.round((media[3] ?? 0) - (trim[3] ?? 0));
    const darkest = Math.min(...[-1, 0, 1].map((by) => at(6, row + by)[0] ?? 255));
    expect(darkest).toBeLessThan(255);
  });

  it('is the same file each time, and draws a face as outlines that must not be embedded', async () => {
    const sheet = sheetOf([base]);
    const material = await materialOf(sheet);
    const first = readFileSync(await made([material], { letters: 'text' }));
    expect(readFileSync(await made([material], { letters: 'text' })).equals(first)).toBeTrue();
    expect(run('pdffonts', join(folder, 'out.pdf'))).toMatch(/PlayfairDisplay/i);
    for (const [, face] of material.faces.entries()) spyOnProperty(face, 'embedding').and.returnValue('no');
    const path = await made([material], { letters: 'text' });
    expect(run('pdffonts', path)).not.toMatch(/PlayfairDisplay/i);
    expect(textOf(path)).toBe('TO WATCH');
  });

  it('keeps positions of a variable face apart', async () => {
    const faces = await shippedFaces('playfair-display-bold');
    faces.add('variable', await Face.open(new Uint8Array(readFileSync(new URL('../../../../faces/catalogue/fraunces-variable.ttf', import.meta.url)))));
    const axes = (wght: number): Partial<Block['style']> => ({ faceId: 'variable', axes: { wght }, sizePt: 40 });
    const blocks = [withStyle(axes(300)), { ...withStyle(axes(800)), id: 'c', frame: { xPt: 20, yPt: 150, widthPt: 360, heightPt: 100 } }];
    const sheet = sheetOf(blocks);
    const path = await made([{ drawing: drawSheet(sheet, setSheet(sheet, faces)), faces, pictures: new Map() }], { letters: 'text' });
    expect(run('qpdf', '--check', path)).toContain('No syntax');
    expect(
      run('pdffonts', path)
        .split('\n')
        .filter((line) => /Fraunces/i.test(line)).length,
    ).toBe(2);
    expect(textOf(path)).toBe('TO WATCH TO WATCH');
  });
});
