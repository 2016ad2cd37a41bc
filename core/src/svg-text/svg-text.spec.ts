import { readFileSync, readdirSync } from 'node:fs';
import fc from 'fast-check';
import { drawSheet } from '../drawing';
import { readJobFile, writeSvg } from '../formats';
import { type Block, createSheet, resolveSheet } from '../job';
import { type FaceSet, glyphMatrix, setBlock, setSheet } from '../setting';
import { headline, shippedFaces } from '../testing';
import { SvgError, type TakenSvg, takeSvg } from '.';

const svg = (content: string, attributes = 'width="400" height="300"'): string => `<svg xmlns="http://www.w3.org/2000/svg" ${attributes}>${content}</svg>`;
const P = 'font-family="Playfair Display" font-weight="700" font-size="40"';

describe('an SVG taken in', () => {
  let faces: FaceSet;
  let n = 0;
  beforeAll(async () => (faces = await shippedFaces('playfair-display-bold', 'source-sans-3-regular', 'playfair-display-italic')));
  const take = (source: string): TakenSvg => takeSvg(source, faces, { title: 'Taken', newId: () => `id${++n}`, pictureId: 'under' });
  const blocksOf = (source: string): Block[] => take(source).job.sheets[0]!.blocks;
  const only = (source: string): Block => {
    const blocks = blocksOf(source);
    expect(blocks.length).toBe(1);
    return blocks[0]!;
  };
  /** Where the pens of a block stand on the sheet, in pixels, by the letters they are for. */
  function pens(block: Block): { letter: string; x: number; y: number }[] {
    const { lines, frame } = setBlock(block, faces);
    const [cx, cy] = [frame.xPt + frame.widthPt / 2, frame.yPt + frame.heightPt / 2];
    const [cos, sin] = [Math.cos((block.rotationDeg * Math.PI) / 180), Math.sin((block.rotationDeg * Math.PI) / 180)];
    return lines.flatMap(({ runs }) =>
      runs.flatMap((run) =>
        run.glyphs.map((glyph) => {
          const { e, f } = glyphMatrix(glyph, run);
          const [x, y] = [cx + cos * (e - cx) - sin * (f - cy), cy + sin * (e - cx) + cos * (f - cy)];
          return { letter: block.words.charAt(glyph.cluster), x: x / 0.75, y: y / 0.75 };
        }),
      ),
    );
  }
  const near = (actual: number | undefined, expected: number): void => expect(Math.abs((actual ?? NaN) - expected)).toBeLessThan(0.01);

  it('puts words where lists of places, shifts and turns have them', () => {
    const listed = pens(only(svg(`<text ${P} x="10 50 95 140" y="100">ABCD</text>`)));
    expect(listed.map(({ letter }) => letter).join('')).toBe('ABCD');
    [10, 50, 95, 140].forEach((x, i) => near(listed[i]?.x, x));
    listed.forEach(({ y }) => near(y, 100));
    const plain = pens(only(svg(`<text ${P} x="10" y="100">AVATAR</text>`)));
    const moved = pens(only(svg(`<text ${P} x="10" y="100" dx="0 3 -2" dy="0 0 5">AVATAR</text>`)));
    [0, 3, 1, 1, 1, 1].forEach((by, i) => near(moved[i]?.x, (plain[i]?.x ?? 0) + by));
    [0, 0, 5, 5, 5, 5].forEach((by, i) => near(moved[i]?.y, 100 + by));
    const turned = pens(only(svg(`<text ${P} x="10 45 90" y="100 95 92" rotate="0 10 20">ABC</text>`)));
    expect(turned.map(({ x, y }) => [Math.round(x * 100) / 100, Math.round(y * 100) / 100])).toEqual([
      [10, 100],
      [45, 95],
      [90, 92],
    ]);
  });

  it('anchors, spaces, and stretches as readers do', () => {
    const start = pens(only(svg(`<text ${P} x="0" y="50">WATCH</text>`)));
    const block = only(svg(`<text ${P} x="200" y="50" text-anchor="middle">WATCH</text>`));
    expect(block.align).toBe('centre');
    const middle = pens(block);
    const end = pens(only(svg(`<text ${P} x="400" y="50" text-anchor="end">WATCH</text>`)));
    const width = 400 - (end[0]?.x ?? 0);
    near(middle[0]?.x, 200 - width / 2);
    start.forEach(({ x }, i) => near((middle[i]?.x ?? 0) - (middle[0]?.x ?? 0), x));
    const inner = blocksOf(svg(`<text ${P} y="50"><tspan x="200" text-anchor="middle">WATCH</tspan></text>`));
    near(pens(inner[0]!)[0]?.x, 200 - width / 2);
    const spaced = pens(only(svg(`<text ${P} x="0" y="50" letter-spacing="4">WATCH</text>`)));
    start.forEach(({ x }, i) => near(spaced[i]?.x, x + 4 * i));
    const stretched = pens(only(svg(`<text ${P} x="0" y="50" textLength="${width + 40}">WATCH</text>`)));
    start.forEach(({ x }, i) => near(stretched[i]?.x, x + 10 * i));
    const words = pens(only(svg(`<text ${P} x="0" y="50" style="word-spacing: 10px">A B</text>`)));
    const bare = pens(only(svg(`<text ${P} x="0" y="50">A B</text>`)));
    near(words[2]?.x, (bare[2]?.x ?? 0) + 10);
  });

  it('raises letters as baselines and shifts say', () => {
    const at = (attributes: string): number => pens(only(svg(`<text ${P} x="0" y="50" ${attributes}>H</text>`)))[0]!.y;
    near(at(''), 50);
    expect(at('dominant-baseline="middle"')).toBeGreaterThan(55);
    expect(at('dominant-baseline="hanging"')).toBeGreaterThan(at('dominant-baseline="central"'));
    const shifted = pens(only(svg(`<text ${P} x="0" y="50">H<tspan baseline-shift="10">2</tspan><tspan baseline-shift="-25%">3</tspan></text>`)));
    [50, 40, 60].forEach((y, i) => near(shifted[i]?.y, y));
  });

  it('takes style from attributes, sheets and shorthands, and lines that stand below each other as one block', () => {
    const block = only(
      svg(`<style>.head tspan { fill: rgb(200, 0, 0) } #h { font: italic 700 2em "Playfair Display", serif; } text { font-size: 10px }</style>
        <g class="head" style="letter-spacing: .05em"><text id="h" x="20" y="60">One
          <tspan>line</tspan><tspan x="20" dy="36">and another</tspan></text></g>`),
    );
    expect(block.id).toBe('h');
    expect(block.words).toBe('One line\nand another');
    expect(block.style.faceId).toBe('playfair-display-italic');
    expect(block.style.trackingMilliem).toBeCloseTo(50, 6);
    expect(block.leading).toEqual({ kind: 'pt', pt: 27 });
    expect(block.runs.map(({ start, style }) => [start, style.colour])).toEqual([
      [4, '#c80000'],
      [9, '#c80000'],
    ]);
    expect(block.style.colour).toBe('#000000');
  });

  it('turns, scales and sizes as the drawing does, and keeps the rest as the picture underneath', () => {
    const source = svg(
      `<title>Night</title><rect width="100" height="50" fill="#123456"/><g transform="translate(20 10) rotate(30) scale(2)"><text ${P} x="10" y="20">AV</text></g>`,
      'width="200mm" viewBox="0 0 100 50"',
    );
    const { job, picture } = take(source);
    const [sheet] = job.sheets;
    expect(job.title).toBe('Night');
    expect(sheet?.widthPt).toBeCloseTo((200 * 72) / 25.4, 6);
    expect(sheet?.background).toEqual({ kind: 'picture', pictureId: 'under', fit: 'contain', colour: '#ffffff' });
    expect(picture).toContain('#123456');
    expect(picture).not.toContain('<text');
    const [block] = sheet?.blocks ?? [];
    expect(block?.rotationDeg).toBeCloseTo(30, 6);
    const scale = (200 / 25.4) * 0.96;
    expect(block?.style.sizePt).toBeCloseTo(40 * 2 * scale * 0.75, 6);
    const [first] = pens(block!);
    const [cos, sin] = [Math.cos(Math.PI / 6), Math.sin(Math.PI / 6)];
    near((first?.x ?? 0) / scale, 20 + 2 * (cos * 10 - sin * 20));
    near((first?.y ?? 0) / scale, 10 + 2 * (sin * 10 + cos * 20));
  });

  it('leaves what it can’t set in the picture, and says so; and says which face stands in', () => {
    const { job, notes, picture } = take(
      svg(
        `<text ${P} x="0" y="50">stays <textPath href="#p">there</textPath></text><text ${P} transform="skewX(20)" y="50">leans</text><text ${P} y="70" textLength="300" lengthAdjust="spacingAndGlyphs">stretched</text>` +
          `<text font-family="Nowhere Sans" font-size="20" y="90">comes</text>`,
      ),
    );
    expect(job.sheets[0]?.blocks.map(({ words }) => words)).toEqual(['comes']);
    expect(notes.left.map(({ words }) => words)).toEqual(['stays', 'leans', 'stretched']);
    expect(picture).toContain('leans');
    expect([...notes.faces.keys()]).toEqual(['Nowhere Sans']);
  });

  it('takes words on a path as words on a path, and leaves those it can’t set there, with the reason', () => {
    const path = '<path id="p" d="M10 100 C 100 0 250 0 350 100" fill="none" stroke="red"/>';
    const on = (inside: string, attributes = '', outer = ''): TakenSvg =>
      take(svg(`${path}<text ${P} ${outer}><textPath href="#p" ${attributes}>${inside}</textPath></text>`));
    const { job, picture, notes } = on('Tide', 'startOffset="50%"', 'text-anchor="middle" letter-spacing="2"');
    const [block] = job.sheets[0]!.blocks;
    expect([block!.words, notes.left, block!.style.trackingMilliem]).toEqual(['Tide', [], 50]);
    if (block!.path.kind !== 'drawn') throw new Error('no path');
    expect([block!.path.hold, block!.path.atShare, block!.path.curves.length, block!.path.start]).toEqual(['centre', 0.5, 1, { xPt: 7.5, yPt: 75 }]);
    // The path itself is drawn, and stays.
    expect([picture?.includes('stroke="red"'), picture?.includes('Tide')]).toEqual([true, false]);
    for (const [taken, why] of [
      [on('A tide that is much longer than its path'), 'past its path'],
      [on('Tide', 'startOffset="340"'), 'past its path'],
      [on('Tide', '', 'dy="4"'), 'places of their own'],
      [on('T<tspan dx="3">ide</tspan>'), 'places of their own'],
      [on('Tide', 'side="right"'), 'way of its own'],
      [on('Tide', '', 'transform="scale(1 2)"'), 'stretched'],
      [take(svg(`<text ${P}><textPath href="#none">Tide</textPath></text>`)), 'not in the drawing'],
      [take(svg(`<path id="p" d="nonsense"/><text ${P}><textPath href="#p">Tide</textPath></text>`)), 'can’t be read'],
    ] as const) {
      expect(taken.job.sheets[0]?.blocks.length).withContext(why).toBe(0);
      expect(taken.notes.left[0]?.why).withContext(why).toContain(why);
      expect(taken.picture).withContext(why).toContain('textPath');
    }
  });

  it('takes our own live text back within 0.01 pt: the demonstration, and any hand', async () => {
    const demo = new URL('../../../demo/', import.meta.url);
    const all = await shippedFaces(
      ...readdirSync(new URL('../../../faces/', import.meta.url))
        .filter((name) => name.endsWith('.ttf'))
        .map((name) => name.slice(0, -4)),
    );
    const ground = { kind: 'colour', colour: '#ffffff' } as const;
    for (const file of readdirSync(demo).filter((name) => name.endsWith('.json'))) {
      const job = readJobFile(readFileSync(new URL(file, demo), 'utf8'));
      for (const raw of job.sheets) {
        const sheet = { ...resolveSheet(job, raw), background: ground };
        const source = writeSvg(drawSheet(sheet, setSheet(sheet, all)), all, { letters: 'text' });
        const back = takeSvg(source, all, { title: 'Back', newId: () => `id${++n}`, pictureId: 'p' });
        expect(back.offPt).withContext(`${file} ${sheet.name}`).toBeLessThan(0.01);
        expect(back.notes.left).withContext(file).toEqual([]);
      }
    }
    const milliem = fc.integer({ min: -150, max: 300 });
    fc.assert(
      fc.property(
        fc.array(milliem, { minLength: 7, maxLength: 7 }),
        fc.integer({ min: -40, max: 200 }),
        fc.constantFrom('left', 'centre', 'right'),
        (hands, tracking, align) => {
          const base = headline('WATCH THE\nSKY', { align, grow: 'both', hand: hands.map((value, i) => ({ at: i + 1, milliem: value })) });
          const block = { ...base, style: { ...base.style, sizePt: 50, trackingMilliem: tracking } };
          const sheet = { ...createSheet('s', 'S', 600, 400, 'pt'), blocks: [block] };
          const was = setBlock(block, faces);
          const source = writeSvg(drawSheet(sheet, setSheet(sheet, faces)), faces, { letters: 'text' });
          const taken = blocksOf(source).flatMap(pens);
          const stood = was.lines.flatMap(({ runs }) => runs.flatMap((run) => run.glyphs.map((glyph) => glyphMatrix(glyph, run))));
          const visible = taken.filter(({ letter }) => letter !== ' ');
          const places = stood.map(({ e, f }) => [e, f] as const);
          for (const { x, y } of visible) expect(places.some(([e, f]) => Math.abs(e - x * 0.75) < 0.01 && Math.abs(f - y * 0.75) < 0.01)).toBeTrue();
        },
      ),
      { numRuns: 40 },
    );
  });

  it('refuses what is no SVG, in words, and is not led astray', () => {
    for (const [source, says] of [
      ['', 'empty'],
      ['<svg', 'can be read'],
      ['<html></html>', 'no SVG'],
      ['<svg><text></svg>', 'can be read'],
      [svg('', 'width="900000" height="1"'), 'pixels'],
    ] as const)
      expect(() => take(source))
        .withContext(source.slice(0, 20))
        .toThrowMatching((error) => error instanceof SvgError && error.message.includes(says));
    expect(() => take(`<svg xmlns="http://www.w3.org/2000/svg">${'<g>'.repeat(300)}${'</g>'.repeat(300)}</svg>`)).toThrowMatching(
      (error) => error instanceof SvgError,
    );
    // Nonsense costs nothing but itself.
    const odd = blocksOf(
      svg(`<style>text { font-size: ; } @media {{{</style><text x="NaN" y="1e999" dx="a b" ${P} transform="what(1)">left</text><text ${P} y="60">kept</text>`),
    );
    expect(odd.map(({ words }) => words)).toContain('kept');
  });
});
