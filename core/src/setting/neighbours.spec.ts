/** Letters keep their neighbours: what does not choose glyphs moves no letter, but for what it says itself. */
import { readdirSync } from 'node:fs';
import fc from 'fast-check';
import type { Block, Run, Style } from '../job';
import { headline, shippedFaces } from '../testing';
import { drawSheet } from '../drawing';
import { writeSvg } from '../formats';
import { createSheet } from '../job';
import { hasInvisible } from './blank';
import { type FaceSet, ledgersOf, setBlock } from './index';

const FACES = readdirSync(new URL('../../../faces/', import.meta.url)).flatMap((file) => /^(.*)\.ttf$/.exec(file)?.[1] ?? []);

/** Kerned pairs, ligatures, marks, lines that run to the left (Latin letters told to, so that every face has them), and all of these mixed. */
const PAIRS = ['AV', 'Ta', 'To', 'LY', 'P.', 'f’', 'r,', 'WA', 'Ye', 'KO', '“A', 'V.', 'F,', 'y.', 'ov'];
const LIGATURES = ['fi', 'fl', 'ffi', 'ffl', 'ff', 'Th', 'fj', 'tt'];
const MARKS = ['é', 'e\u0301', 'A\u0308V', 'n\u0303o', 'T\u0302e'];
const WORDS = ['AVATAR', 'VALLEY', 'Tonight', 'office', 'waffle', 'Typography', 'Yes, To', 'WAVE', 'affine fluff'];
const STRINGS = [
  ...WORDS,
  ...PAIRS.flatMap((pair) => WORDS.slice(0, 6).map((word) => `${pair}${word}`)),
  ...LIGATURES.flatMap((ligature) => PAIRS.slice(0, 8).map((pair) => `${pair}${ligature}${pair}`)),
  ...MARKS.flatMap((mark) => WORDS.slice(0, 5).map((word) => `${word}${mark}V`)),
  ...WORDS.map((word) => `\u202e${word}\u202c`),
  ...WORDS.flatMap((word) => [`To \u202e${word}\u202c AV`, `VA α${word}β Я AV`]),
];

/** Changes of style that change no glyph and no place. */
const PAINTS: Partial<Style>[] = [
  { colour: '#ff0000' },
  { opacity: 0.4 },
  { gradient: { to: '#00ff00', angleDeg: 30 } },
  { outline: { milliem: 20, colour: '#000000', join: 'round' } },
  { underline: true },
  { strike: true },
  { shadow: { xMilliem: 10, yMilliem: 10, blurMilliem: 20, colour: '#000000' } },
];

describe('letters keep their neighbours', () => {
  let faces: FaceSet;
  beforeAll(async () => {
    faces = await shippedFaces(...FACES);
  });

  const inFace = (faceId: string, words: string, style: Partial<Style> = {}, change: Partial<Block> = {}): Block => {
    const base = headline(words, change);
    return { ...base, style: { ...base.style, faceId, ...style } };
  };
  interface Letter {
    at: number;
    glyphId: number;
    x: number;
    y: number;
  }
  const lettersOf = (block: Block): Letter[] =>
    setBlock(block, faces).lines.flatMap(({ runs }) =>
      runs.flatMap(({ glyphs }) => glyphs.map(({ cluster, glyphId, xPt, yPt }) => ({ at: cluster, glyphId, x: xPt, y: yPt }))),
    );
  const widthOf = (block: Block): number => setBlock(block, faces).lines[0]?.widthPt ?? 0;
  const printed = (letters: readonly Letter[]): string => letters.map(({ at, glyphId, x, y }) => `${at}:${glyphId}@${x.toFixed(5)},${y.toFixed(5)}`).join(' ');
  /** Hand values of nothing: they take apart what a change inside a ligature takes apart. */
  const apart = (words: string, ...places: number[]): Block['hand'] =>
    [...new Set(places)]
      .filter((at) => at > 0 && at < words.length)
      .sort((a, b) => a - b)
      .map((at) => ({ at, milliem: 0 }));

  const fail = (what: string): never => {
    throw new Error(what);
  };
  /** Asserts a property; a failure names the counterexample and the seed. */
  const holds = <T>(property: fc.IPropertyWithHooks<T>, parameters: fc.Parameters<T>): void => {
    expect(() => fc.assert(property, parameters)).not.toThrow();
  };
  const any = fc.record({
    faceId: fc.constantFrom(...FACES),
    words: fc.constantFrom(...STRINGS),
    from: fc.nat(),
    length: fc.nat(),
    kerning: fc.constantFrom('font', 'weighed', 'shape', 'off'),
  } as const);
  const rangeIn = (words: string, from: number, length: number): { start: number; end: number } => {
    const start = from % words.length;
    return { start, end: start + 1 + (length % (words.length - start)) };
  };

  it('knows enough strings', () => {
    expect(new Set(STRINGS).size).toBeGreaterThanOrEqual(200);
  });

  it('gives AVATAR one width, whatever colour its V has', () => {
    const plain = inFace('playfair-display-bold', 'AVATAR');
    const red: Run = { start: 1, end: 2, style: { colour: '#ff0000' } };
    expect(widthOf({ ...plain, runs: [red] })).toBeCloseTo(widthOf(plain), 9);
    const [line] = setBlock({ ...plain, runs: [red] }, faces).lines;
    const ledgers = line ? ledgersOf({ ...plain, runs: [red] }, line, faces) : [];
    expect(ledgers.map(({ fontMilliem }) => fontMilliem)).toEqual(
      [...ledgersOf(plain, setBlock(plain, faces).lines[0] ?? fail('no line'), faces)].map(({ fontMilliem }) => fontMilliem),
    );
    expect(ledgers[0]?.fontMilliem).toBeLessThan(-40);
  });

  it('whatever they are painted with', () => {
    holds(
      fc.property(any, fc.constantFrom(...PAINTS), ({ faceId, words, from, length, kerning }, paint) => {
        const range = rangeIn(words, from, length);
        const plain = inFace(faceId, words, { kerning }, { hand: apart(words, range.start, range.end) });
        const painted = { ...plain, hand: [], runs: [{ ...range, style: paint }] };
        if (printed(lettersOf(painted)) !== printed(lettersOf(plain))) fail(`${printed(lettersOf(painted))}\n${printed(lettersOf(plain))}`);
        if (Math.abs(widthOf(painted) - widthOf(plain)) > 1e-9) fail('the width changed');
        const gaps = (block: Block): string => {
          const [line] = setBlock(block, faces).lines;
          return line
            ? ledgersOf(block, line, faces)
                .map(({ at, fontMilliem, shapeMilliem, totalMilliem, whiteMilliem }) => [at, fontMilliem, shapeMilliem, totalMilliem, whiteMilliem].join())
                .join(' ')
            : '';
        };
        if (gaps(painted) !== gaps(plain)) fail(`${gaps(painted)}\n${gaps(plain)}`);
      }),
      { numRuns: 1500 },
    );
  });

  it('a whole ligature in another colour stays whole', () => {
    const whole = inFace('eb-garamond-regular', 'office');
    const glyphs = lettersOf(whole).length;
    expect(glyphs).toBeLessThan(6);
    const coloured = (start: number, end: number): Letter[] => lettersOf({ ...whole, runs: [{ start, end, style: { colour: '#ff0000' } }] });
    expect(printed(coloured(1, 4))).toBe(printed(lettersOf(whole)));
    expect(coloured(2, 3).length).toBeGreaterThan(glyphs);
  });

  it('another size scales the advances of its own letters, kerning included, and no others', () => {
    holds(
      fc.property(any, fc.double({ min: 20, max: 300, noNaN: true }), ({ faceId, words, from, length }, sizePt) => {
        const range = rangeIn(words, from, length);
        const plain = inFace(faceId, words, {}, { hand: apart(words, range.start, range.end) });
        const sized = { ...plain, hand: [], runs: [{ ...range, style: { sizePt } }] };
        const [before, after] = [lettersOf(plain), lettersOf(sized)];
        if (after.length !== before.length) fail('other glyphs');
        const scaleAt = (at: number): number => (at >= range.start && at < range.end ? sizePt / 100 : 1);
        for (let i = 0; i + 1 < before.length; i++) {
          const [a, b, c, d] = [before[i], before[i + 1], after[i], after[i + 1]];
          // Marks stand by offsets of their own beside what they belong to.
          if (!a || !b || !c || !d || a.at === b.at || before[i + 2]?.at === b.at || before[i - 1]?.at === a.at) continue;
          const offset = (letter: Letter): number => letter.x;
          const [was, is] = [offset(b) - offset(a), offset(d) - offset(c)];
          if (Math.abs(is - was * scaleAt(a.at)) > 1e-6) fail(`${words.slice(a.at, b.at + 1)}: ${was} became ${is} at ${scaleAt(a.at)}`);
        }
      }),
      { numRuns: 600 },
    );
  });

  it('another width of letters widens the room of its own, kerning included, and no other', () => {
    holds(
      fc.property(any, fc.double({ min: 0.3, max: 3, noNaN: true }), ({ faceId, words, from, length }, scaleX) => {
        const range = rangeIn(words, from, length);
        const plain = inFace(faceId, words, {}, { hand: apart(words, range.start, range.end) });
        const wide = { ...plain, hand: [], runs: [{ ...range, style: { scaleX } }] };
        const [before, after] = [lettersOf(plain), lettersOf(wide)];
        if (after.map(({ glyphId }) => glyphId).join() !== before.map(({ glyphId }) => glyphId).join()) fail('other glyphs');
        for (let i = 0; i + 1 < before.length; i++) {
          const [a, b, c, d] = [before[i], before[i + 1], after[i], after[i + 1]];
          if (!a || !b || !c || !d || a.at === b.at || before[i + 2]?.at === b.at || before[i - 1]?.at === a.at) continue;
          const scale = a.at >= range.start && a.at < range.end ? scaleX : 1;
          if (Math.abs(d.x - c.x - (b.x - a.x) * scale) > 1e-6) fail(`${words}: after ${a.at}`);
        }
      }),
      { numRuns: 600 },
    );
  });

  it('height and baseline shift move no letter along its line', () => {
    holds(
      fc.property(
        any,
        fc.constantFrom<Partial<Style>>({ scaleY: 0.4 }, { scaleY: 3 }, { baselineShiftMilliem: 700 }, { baselineShiftMilliem: -90 }),
        ({ faceId, words, from, length }, style) => {
          const range = rangeIn(words, from, length);
          const plain = inFace(faceId, words, {}, { hand: apart(words, range.start, range.end) });
          const along = (block: Block): string =>
            lettersOf(block)
              .map(({ at, glyphId, x }) => `${at}:${glyphId}@${x.toFixed(5)}`)
              .join(' ');
          const moved = along({ ...plain, hand: [], runs: [{ ...range, style }] });
          if (moved !== along(plain)) fail(`${moved}\n${along(plain)}`);
        },
      ),
      { numRuns: 600 },
    );
  });

  const shows = (words: string, { at }: Letter): boolean => !hasInvisible(words.charAt(at));

  it('tracking adds its step after its own letters, and moves no others', () => {
    holds(
      fc.property(any, fc.integer({ min: -80, max: 300 }), ({ faceId, words, from, length, kerning }, trackingMilliem) => {
        const range = rangeIn(words, from, length);
        const features = { liga: 0, clig: 0, dlig: 0, hlig: 0 };
        const plain = inFace(faceId, words, { features, kerning });
        const tracked = { ...plain, runs: [{ ...range, style: { trackingMilliem } }] };
        const [before, after] = [lettersOf(plain), lettersOf(tracked)];
        if (after.length !== before.length) fail('other glyphs');
        for (let i = 0; i + 1 < before.length; i++) {
          const [a, b, c, d] = [before[i], before[i + 1], after[i], after[i + 1]];
          if (!a || !b || !c || !d) continue;
          const between = a.at !== b.at && shows(words, a) && before.slice(i + 1).some((one) => shows(words, one));
          const own = between && a.at >= range.start && a.at < range.end ? trackingMilliem / 10 : 0;
          if (Math.abs(d.x - c.x - (b.x - a.x) - own) > 1e-6) fail(`${words}: after ${a.at} by ${d.x - c.x - (b.x - a.x)} and not ${own}`);
        }
      }),
      { numRuns: 600 },
    );
  });

  it('any number of changes in a line costs the shaper nothing it can’t bear', () => {
    const words = 'AVfi'.repeat(1500);
    const block = inFace('eb-garamond-regular', words);
    const runs = Array.from({ length: 1900 }, (_, i): Run => ({ start: i * 3, end: i * 3 + 1, style: i % 2 ? { kerning: 'off' } : { trackingMilliem: 20 } }));
    const many = { ...block, runs };
    const letters = lettersOf(many);
    expect(letters.length).toBeGreaterThan(5000);
    const few = lettersOf({ ...block, words: words.slice(0, 600), runs: runs.slice(0, 190) });
    const before = (all: readonly Letter[]): string => printed(all.filter(({ at }) => at < 540));
    expect(before(letters)).toBe(before(few));
  });

  it('outlines, which thumbnails are made of, stand where they stood, whatever the letters are painted with', () => {
    const plainPaints = PAINTS.filter((paint) => !('shadow' in paint) && !('opacity' in paint));
    const shownBy = (block: Block): string => {
      const sheet = { ...createSheet('s', 'Sheet', 2000, 400, 'pt'), blocks: [{ ...block, frame: { xPt: 50, yPt: 100, widthPt: 1800, heightPt: 200 } }] };
      const drawing = drawSheet(
        sheet,
        sheet.blocks.map((one) => setBlock(one, faces)),
      );
      // Each where it is, whatever groups they are in.
      return [...writeSvg(drawing, faces, { letters: 'outlines' }).matchAll(/<path d="([^"]*)"/g)]
        .map(([, d]) => d)
        .sort()
        .join('\n');
    };
    holds(
      fc.property(any, fc.constantFrom(...plainPaints), ({ faceId, words, from, length, kerning }, paint) => {
        const range = rangeIn(words, from, length);
        const plain = inFace(faceId, words, { kerning }, { hand: apart(words, range.start, range.end) });
        if (shownBy({ ...plain, hand: [], runs: [{ ...range, style: paint }] }) !== shownBy(plain)) fail('drawn elsewhere');
      }),
      { numRuns: 200 },
    );
  });

  it('files and live text have the letters where the setting has them', () => {
    const block = inFace('playfair-display-bold', 'AVATAR', {}, { runs: [{ start: 1, end: 2, style: { colour: '#ff0000' } }] });
    const sheet = { ...createSheet('s', 'Sheet', 900, 200, 'pt'), blocks: [block] };
    const text = writeSvg(drawSheet(sheet, [setBlock(block, faces)]), faces, { letters: 'text' });
    const xs = [...text.matchAll(/<tspan x="([^"]*)"/g)].flatMap(([, list = '']) => list.split(' ').map(Number));
    expect(xs.map((x) => x.toFixed(3))).toEqual(lettersOf({ ...block, runs: [] }).map(({ x }) => x.toFixed(3)));
    expect(text.match(/<text/g)?.length).toBe(3);
  });
});
