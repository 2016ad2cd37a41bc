import { drawSheet } from '../drawing';
import { writeSvg } from '../formats';
import { createSheet, findBlock } from '../job';
import { firstCut } from '../refine';
import { type FaceSet, setLettersOf, setBlock, setSheet } from '../setting';
import { headline, shippedFaces } from '../testing';
import { readSvg } from './document';
import { refineSvg } from './refine-svg';
import { takeSvg, textsOf } from './take-svg';

const P = 'font-family="Playfair Display" font-weight="700" font-size="60"';
const OPTIONS = { steps: ['kerning'], kerning: 'shape' as const, kerningStrength: 1 };

describe('an SVG spaced anew', () => {
  let faces: FaceSet;
  beforeAll(async () => (faces = await shippedFaces('playfair-display-bold', 'source-sans-3-regular')));
  const svg = (content: string): string =>
    `<?xml version="1.0"?>\n<!-- a comment -->\n<svg xmlns="http://www.w3.org/2000/svg"  width='900' height="300"\n>${content}<rect   width="10" height='5'/></svg>\n`;
  /** The source with everything that says where letters stand taken out. */
  const without = (source: string): string => source.replace(/\s+(x|dx|textLength)\s*=\s*("[^"]*"|'[^']*')/g, '');
  /** Where pens stand, in user units: as our reader sees them, which other specs hold against Chromium. */
  const pens = (source: string): number[] =>
    textsOf(readSvg(source), faces).texts.flatMap(({ characters, placement }) => characters.map(({ penX }) => penX / placement.alongPt));

  it('writes spacing of text elements alone, and every other byte stays', () => {
    for (const text of [
      `<text ${P} x="20" y="80">AVATAR LT</text>`,
      `<text\n  ${P} x='20' y="80" class="a  b">AVA<tspan fill="red">TAR</tspan> LT</text>`,
      `<text ${P} x="300" y="80" text-anchor="middle">AVATAR &amp; LT</text>`,
      `<text ${P} y="80">AVATAR<tspan x="0" dy="70">TOWN &#65;V</tspan></text>`,
      `<text ${P} x="20 60 100" dx="1 2 3" y="80" textLength="400">AVATAR</text>`,
    ]) {
      const source = svg(text);
      const { source: made, changed } = refineSvg(source, faces, OPTIONS);
      expect(changed).withContext(text).toBe(1);
      expect(without(made)).withContext(text).toBe(without(source));
      expect(made).not.toBe(source);
    }
  });

  it('letters then stand where kerning by shape puts them, wherever they are anchored', () => {
    const [block] = takeSvg(svg(`<text ${P} x="0" y="80">AVATAR LT</text>`), faces, { title: 't', newId: () => 'b', pictureId: 'p' }).job.sheets[0]!.blocks;
    const sheet = { ...createSheet('s', 'S', 900, 300, 'px'), blocks: [{ ...block!, id: 'x' }] };
    const job = { format: 'jentrix.job', version: 9, title: 't', kind: 'other', language: null, pairs: [], sheets: [sheet] } as const;
    const cut = firstCut(job as never, faces, OPTIONS);
    const [line] = setBlock(findBlock(cut.job, 'x')!, faces).lines;
    const wanted = setLettersOf(line!).map(({ leftPt }) => (leftPt - line!.leftPt) / 0.75);
    const width = line!.widthPt / 0.75;
    for (const [anchor, from] of [
      ['start', 0],
      ['middle', -width / 2],
      ['end', -width],
    ] as const) {
      const { source } = refineSvg(svg(`<text ${P} x="450" y="80" text-anchor="${anchor}">AVATAR LT</text>`), faces, OPTIONS);
      pens(source).forEach((x, i) =>
        expect(Math.abs(x - (450 + from + wanted[i]!)))
          .withContext(`${anchor} ${i}`)
          .toBeLessThan(0.01),
      );
    }
  });

  it('changes nothing the second time, nothing without need, and leaves faces that are not here', () => {
    const once = refineSvg(svg(`<text ${P} x="20" y="80">AVATAR LT</text>`), faces, OPTIONS).source;
    expect(refineSvg(once, faces, OPTIONS).source).toBe(once);
    const empty = svg('<g><path d="M0 0"/></g>');
    expect(refineSvg(empty, faces, OPTIONS)).toEqual(jasmine.objectContaining({ source: empty, changed: 0 }));
    const foreign = svg('<text font-family="Nowhere" font-size="60" y="80">AVATAR LT</text>');
    const { source, notes } = refineSvg(foreign, faces, OPTIONS);
    expect(source).toBe(foreign);
    expect(notes.left[0]?.why).toContain('Nowhere');
  });

  it('changes nothing the second time, whatever the step, the size and the anchor, and what was spaced by hand before', () => {
    const steps = { kerning: ['start', 'middle', 'end'], tracking: ['start', 'middle', 'end'], edges: ['start'] };
    for (const [step, anchors] of Object.entries(steps)) {
      let changed = 0;
      for (const anchor of anchors) {
        for (const words of ['AVATAR LT', 'Yonder Valley', '“To watch,<tspan x="60" dy="70">wait.”</tspan>']) {
          for (const look of [P, 'font-family="Source Sans 3" font-size="12"', `${P} dx="0 3 0 -2.5"`]) {
            const source = svg(`<text ${look} text-anchor="${anchor}" x="60" y="80">${words}</text>`);
            const once = refineSvg(source, faces, { steps: [step], kerning: 'shape', kerningStrength: 1 });
            changed += once.changed;
            expect(refineSvg(once.source, faces, { steps: [step], kerning: 'shape', kerningStrength: 1 }).source)
              .withContext(`${step} ${anchor} ${look} ${words}`)
              .toBe(once.source);
          }
        }
      }
      expect(changed).withContext(step).toBeGreaterThan(2);
    }
  });

  it('leaves gaps that were spaced by hand as they are, and the anchor where it was', () => {
    for (const anchor of ['start', 'middle', 'end']) {
      const source = svg(`<text ${P} text-anchor="${anchor}" x="400" y="80" dx="0 3 0 -2.5">AVATAR LT</text>`);
      const [was, is] = [pens(source), pens(refineSvg(source, faces, OPTIONS).source)];
      const white = (places: readonly number[], i: number): number => (places[i] ?? 0) - (places[i - 1] ?? 0);
      expect(white(is, 1)).withContext(anchor).toBeCloseTo(white(was, 1), 3);
      expect(white(is, 3)).withContext(anchor).toBeCloseTo(white(was, 3), 3);
      expect(Math.abs(white(is, 5) - white(was, 5)))
        .withContext(anchor)
        .toBeGreaterThan(0.1);
      const moved = [(is[0] ?? 0) - (was[0] ?? 0), (is.at(-1) ?? 0) - (was.at(-1) ?? 0)] as const;
      const held = { start: moved[0], middle: moved[0] + moved[1], end: moved[1] }[anchor] ?? Number.NaN;
      expect(held).withContext(anchor).toBeCloseTo(0, 2);
    }
  });

  it('takes places that a program wrote for every letter, rounded, as no spacing by hand', () => {
    const plain = svg(`<text ${P} x="20" y="80">AVATAR LT</text>`);
    const places = pens(plain).map((x, i) => (i === 4 ? x + 3 : x).toFixed(2));
    const listed = svg(`<text ${P} x="${places.join(' ')}" y="80">AVATAR LT</text>`);
    const [was, kerned, alone] = [pens(listed), pens(refineSvg(listed, faces, OPTIONS).source), pens(refineSvg(plain, faces, OPTIONS).source)];
    const white = (of: readonly number[], i: number): number => (of[i] ?? 0) - (of[i - 1] ?? 0);
    for (let i = 1; i < was.length; i++) {
      // The fifth was put 3 farther along by hand, which is two gaps.
      const expected = i === 4 || i === 5 ? white(was, i) : white(alone, i);
      expect(Math.abs(white(kerned, i) - expected))
        .withContext(String(i))
        .toBeLessThan(0.02);
    }
    const once = refineSvg(listed, faces, OPTIONS).source;
    expect(refineSvg(once, faces, OPTIONS).source).toBe(once);
  });

  it('tracks by size, and hangs what should hang at the edge', () => {
    const small = svg('<text font-family="Source Sans 3" font-size="9" x="20" y="80">Small words are set wider apart</text>');
    const tracked = refineSvg(small, faces, { steps: ['tracking'] }).source;
    const [was, is] = [pens(small), pens(tracked)];
    expect((is.at(-1) ?? 0) - (is[0] ?? 0)).toBeGreaterThan((was.at(-1) ?? 0) - (was[0] ?? 0));
    const quoted = svg(`<text ${P} x="60" y="80">“To watch,<tspan x="60" dy="70">wait.”</tspan></text>`);
    const [first] = pens(refineSvg(quoted, faces, { steps: ['edges'] }).source);
    expect(first).toBeLessThan(59);
  });

  it('takes up our own live text', () => {
    const sheet = { ...createSheet('s', 'S', 600, 300, 'pt'), blocks: [headline('AVATAR\nTOWN', { grow: 'both' })] };
    const source = writeSvg(drawSheet(sheet, setSheet(sheet, faces)), faces, { letters: 'text' });
    const { source: made, changed } = refineSvg(source, faces, OPTIONS);
    expect(without(made)).toBe(without(source));
    expect(changed).toBeGreaterThan(0);
    expect(made).not.toBe(source);
  });
});
