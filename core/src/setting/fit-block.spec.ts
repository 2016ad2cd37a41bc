import * as fc from 'fast-check';
import {
  type Block,
  type Fit,
  type Job,
  USUAL_EDGES,
  createJob,
  findBlock,
  leversWith,
  newFit,
  resolveBlock,
  restyleRange,
  scaleBlock,
  withoutFit,
} from '../job';
import { editWords } from '../wording';
import { headline, shippedFaces } from '../testing';
import { type BlockSetting, type FaceSet, inkOf, releaseFit, setLettersOf, lineGapsOf, setBlock } from '.';

const FACES = ['playfair-display-bold', 'source-sans-3-regular', 'eb-garamond-italic', 'league-gothic-regular', 'josefin-sans-semibold'];
const LINES = ['TWO NIGHTS', 'to watch a valley', 'of falling stars', 'AVATAR', 'Wrayfold, 1921', '“Look up”', 'first light'];

describe('fitting lines', () => {
  let faces: FaceSet;
  beforeAll(async () => (faces = await shippedFaces(...FACES)));

  const widths = (setting: BlockSetting): number[] =>
    setting.lines.map((line) => {
      const ink = inkOf({ lines: [line] }, faces);
      return ink ? ink.rightPt - ink.leftPt : 0;
    });
  const styled = (words: string, style: Partial<Block['style']>): Block => {
    const block = headline(words);
    return { ...block, style: { ...block.style, ...style } };
  };
  const fitted = (block: Block, fit: Partial<Fit>): Block => ({ ...block, fit: newFit(fit) });
  const jobOf = (...blocks: Block[]): Job => {
    const job = createJob('t', () => 's');
    return { ...job, sheets: job.sheets.map((sheet) => ({ ...sheet, blocks })) };
  };
  const shares = fc.record({
    size: fc.double({ min: 0.1, max: 1, noNaN: true }),
    letters: fc.double({ min: 0, max: 1, noNaN: true }),
    words: fc.double({ min: 0, max: 1, noNaN: true }),
  });

  it('brings every line to a width within 0.01 pt, by ink or by advance, whatever levers, faces and words', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.constantFrom(...LINES), { minLength: 1, maxLength: 4 }),
        fc.constantFrom(...FACES),
        fc.integer({ min: 180, max: 900 }),
        shares,
        fc.boolean(),
        fc.boolean(),
        (lines, faceId, pt, by, ink, steps) => {
          const block = fitted(styled(lines.join('\n'), { faceId }), { to: { kind: 'pt', pt }, by: leversWith(by), ink, steps });
          const setting = setBlock(block, faces);
          expect(setting.lines.length).toBe(lines.length);
          const reached = ink ? widths(setting) : setting.lines.map(({ widthPt }) => widthPt);
          reached.forEach((width, i) => {
            const { missingPt = 0 } = setting.lines[i]?.fit ?? {};
            expect(width + missingPt)
              .withContext(`${lines.join('/')} ${faceId} ${pt} ${JSON.stringify(by)}`)
              .toBeCloseTo(pt, 2);
          });
          if (steps) for (const { sizePt } of setting.lines) expect(sizePt * 10).toBeCloseTo(Math.round(sizePt * 10), 6);
        },
      ),
      { numRuns: 150 },
    );
  });

  it('keeps each lever within its limits, and says what is missing and what each alone would take', () => {
    const block = styled('TO WATCH', { sizePt: 60 });
    const natural = widths(setBlock(block, faces))[0] ?? 0;
    const by = { ...leversWith({ letters: 1, width: 1 }), letters: { share: 1, least: -10, most: 20 }, width: { share: 1, least: 0.98, most: 1.02 } };
    const setting = setBlock(fitted(block, { to: { kind: 'pt', pt: natural + 60 }, by }), faces);
    const fit = setting.lines[0]?.fit;
    expect(fit?.values).toEqual({ size: 1, letters: 20, words: 0, width: 1.02 });
    expect(fit?.missingPt).toBeGreaterThan(10);
    expect((widths(setting)[0] ?? 0) + (fit?.missingPt ?? 0)).toBeCloseTo(natural + 60, 3);
    expect(fit?.alone.letters?.beyond).toBe('most');
    expect(fit?.alone.size?.beyond).toBeUndefined();
    expect(fit?.alone.size?.value).toBeCloseTo((natural + 60) / natural, 6);
  });

  it('is a constraint: it holds when words, face or kerning change, and only its own lines are touched', () => {
    const block = fitted(headline('TWO NIGHTS\nTO WATCH\nA VALLEY'), { to: { kind: 'pt', pt: 600 }, lines: [0, 2] });
    const hold = (changed: Block): void => {
      const [first, second, third] = widths(setBlock(changed, faces));
      expect(first).toBeCloseTo(600, 2);
      expect(third).toBeCloseTo(600, 2);
      expect(second).not.toBeCloseTo(600, 0);
    };
    hold(block);
    const edited = findBlock(editWords(jobOf(block), block.id, [{ start: 0, end: 3, insert: 'SIXTEEN' }]), block.id);
    expect(edited?.words).toBe('SIXTEEN NIGHTS\nTO WATCH\nA VALLEY');
    if (edited) hold(edited);
    hold({ ...block, style: { ...block.style, faceId: 'league-gothic-regular' } });
    hold({ ...block, hand: [{ at: 1, milliem: 120 }] });
  });

  it('locks up lines of several faces to one width, at the ink, the white between them even, and all of it to a height', () => {
    const plain = headline('OPEN\nDAY ON THE HILL\nSaturday 14 November');
    const mixed = restyleRange(
      restyleRange(plain, { faceId: 'league-gothic-regular', sizePt: 40 }, { start: 5, end: 20 }),
      { faceId: 'eb-garamond-italic', sizePt: 30 },
      { start: 21, end: plain.words.length },
    );
    const setting = setBlock(fitted(mixed, { to: { kind: 'pt', pt: 420 }, even: true, height: { kind: 'pt', pt: 400 } }), faces);
    for (const width of widths(setting)) expect(width).toBeCloseTo(420, 2);
    const lefts = setting.lines.map((line) => inkOf({ lines: [line] }, faces)?.leftPt ?? 0);
    expect(Math.max(...lefts) - Math.min(...lefts)).toBeLessThan(0.01);
    const ink = inkOf(setting, faces);
    expect((ink?.bottomPt ?? 0) - (ink?.topPt ?? 0)).toBeCloseTo(400, 2);
    const whites = lineGapsOf(setting, faces).map(({ whitePt }) => whitePt);
    expect(Math.max(...whites) - Math.min(...whites)).toBeLessThan(0.05);
  });

  it('lets round and pointed ends out by a share of what they reach past an edge', () => {
    const block = styled('OVO', { faceId: 'source-sans-3-regular' });
    const wide = (overshoot: number): number => widths(setBlock(fitted(block, { to: { kind: 'pt', pt: 300 }, overshoot }), faces))[0] ?? 0;
    expect(wide(0)).toBeCloseTo(300, 2);
    expect(wide(1)).toBeGreaterThan(301);
    expect(wide(0.5)).toBeCloseTo((wide(0) + wide(1)) / 2, 0);
    const straight = styled('HIH', { faceId: 'source-sans-3-regular' });
    expect(widths(setBlock(fitted(straight, { to: { kind: 'pt', pt: 300 }, overshoot: 1 }), faces))[0]).toBeCloseTo(300, 2);
  });

  it('takes its measure from margins, from places of the sheet, and from the ink of another block, whichever asks for whom', () => {
    const other = { ...headline('A VALLEY'), id: 'other' };
    const block = fitted(headline('STARS'), { to: { kind: 'block', id: 'other', line: null } });
    const job = jobOf(block, other);
    const [sheet] = job.sheets;
    const set = (one: Block): BlockSetting => setBlock(resolveBlock(job, sheet?.id ?? '', one), faces);
    expect(widths(set(block))[0]).toBeCloseTo(widths(set(other))[0] ?? 0, 2);
    const margins = fitted(headline('STARS'), { to: { kind: 'margins' } });
    const onMargins = inkOf(set(margins), faces);
    expect(onMargins?.leftPt).toBeCloseTo(sheet?.margins.leftPt ?? 0, 2);
    expect(onMargins?.rightPt).toBeCloseTo((sheet?.widthPt ?? 0) - (sheet?.margins.rightPt ?? 0), 2);
    const between = inkOf(setBlock(fitted(headline('STARS'), { to: { kind: 'between', leftPt: 400, rightPt: 150 } }), faces), faces);
    expect([between?.leftPt, between?.rightPt].map((value) => value?.toFixed(2))).toEqual(['150.00', '400.00']);
    // A ring of blocks ends at a frame.
    const ring = jobOf(
      fitted({ ...headline('ONE'), id: 'one' }, { to: { kind: 'block', id: 'two', line: null } }),
      fitted({ ...headline('TWO'), id: 'two' }, { to: { kind: 'block', id: 'one', line: 0 } }),
    );
    for (const id of ['one', 'two']) {
      const own = findBlock(ring, id);
      expect(own && setBlock(resolveBlock(ring, ring.sheets[0]?.id ?? '', own), faces).lines.length).toBe(1);
    }
  });

  it('lets go into plain values: every letter stays where it stood', () => {
    for (const align of ['left', 'centre', 'right'] as const) {
      for (const fit of [
        { even: true },
        { to: { kind: 'pt', pt: 250 } as const, by: leversWith({ letters: 1, words: 1 }), height: { kind: 'pt', pt: 500 } as const },
      ]) {
        const block = fitted({ ...headline('TWO NIGHTS\nto watch'), align }, fit);
        const plain = findBlock(withoutFit(jobOf(block), block.id, releaseFit(block, faces)), block.id);
        expect(plain?.fit).toBeNull();
        const [was, is] = [block, plain ?? block].map((one) =>
          setBlock(one, faces).lines.flatMap((line) => setLettersOf(line).map(({ leftPt }) => [leftPt, line.baselinePt])),
        );
        expect(is?.length).toBe(was?.length);
        is?.forEach(([x, y], i) => {
          expect(x).toBeCloseTo(was?.[i]?.[0] ?? 0, 4);
          expect(y).toBeCloseTo(was?.[i]?.[1] ?? 0, 4);
        });
      }
    }
    const free = headline('As it is');
    expect(releaseFit(free, faces)).toBe(free);
  });

  it('grows with its block: indents by hand, and measures in numbers', () => {
    const one = { ...fitted(headline('TWO\nNIGHTS'), { to: { kind: 'pt', pt: 300 }, height: { kind: 'pt', pt: 200 } }), lineIndents: [{ at: 4, byPt: 6 }] };
    const grown = findBlock(scaleBlock(jobOf(one), one.id, 2, { xPt: 0, yPt: 0 }), one.id);
    expect(grown?.lineIndents).toEqual([{ at: 4, byPt: 12 }]);
    expect([grown?.fit?.to, grown?.fit?.height]).toEqual([
      { kind: 'pt', pt: 600 },
      { kind: 'pt', pt: 400 },
    ]);
  });

  it('answers impossible wishes: nothing to fit, no words between, a height that lines can’t have', () => {
    for (const words of ['', '\n\n', '   ', 'I', 'word']) {
      for (const by of [leversWith({}), leversWith({ words: 1 }), leversWith({ size: 1 })]) {
        const setting = setBlock(fitted(headline(words), { to: { kind: 'pt', pt: 50_000 }, by, even: true, height: { kind: 'pt', pt: 1 } }), faces);
        for (const { fit, widthPt } of setting.lines) {
          expect(Number.isFinite(widthPt)).toBeTrue();
          if (fit) expect(Number.isFinite(fit.missingPt)).toBeTrue();
        }
      }
    }
    const many = setBlock(fitted(headline('to\n'.repeat(300)), { to: { kind: 'pt', pt: 300 } }), faces);
    expect(many.lines.filter(({ fit }) => fit?.missingPt === 0).length).toBe(200);
    expect(many.lines[250]?.fit?.missingPt).toBeGreaterThan(100);
    const copy = setBlock(fitted(headline('to '.repeat(2000)), { to: { kind: 'pt', pt: 300 } }), faces);
    expect(copy.lines[0]?.fit?.missingPt).toBeLessThan(-1000);
    expect(copy.lines[0]?.sizePt).toBe(100);
    const high = setBlock(fitted(headline('TWO\nNIGHTS'), { to: null, height: { kind: 'pt', pt: 10 } }), faces);
    expect(high.missingHeightPt).toBeLessThan(-10);
  });

  it('fits what is aligned by eye at its seen edges: marks hang outside the measure', () => {
    const block = { ...headline('“STARS,”'), edges: USUAL_EDGES };
    const setting = setBlock(fitted(block, { to: { kind: 'pt', pt: 400 } }), faces);
    const [line] = setting.lines;
    expect((line?.edges?.rightPt ?? 0) - (line?.edges?.leftPt ?? 0)).toBeCloseTo(400, 2);
    expect(widths(setting)[0]).toBeGreaterThan(420);
  });
});
