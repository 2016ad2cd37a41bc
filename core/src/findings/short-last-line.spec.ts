import { type Block, type Job, createBlock, createJob, findBlock } from '../job';
import { type FaceSet, setBlock } from '../setting';
import { randomFrom, shippedFaces } from '../testing';
import { printSigned, printValue } from '../units';
import { type LineFix, TRACKING_LIMITS, acceptFinding, checkJob, shortLastLineIn } from '.';

const NOUNS = 'stars night valley lawn dusk torch blanket sky rings Saturn telescope August moon dark lamp red glass meadow river hill observatory'.split(' ');
const SMALL = 'a of the on in to and with no'.split(' ');

describe('a last line that short last line', () => {
  let faces: FaceSet;
  beforeAll(async () => (faces = await shippedFaces('source-sans-3-regular', 'source-sans-3-semibold', 'eb-garamond-regular')));

  const block = (words: string, widthPt: number, change: Partial<Block> = {}, sizePt = 30): Block => ({
    ...createBlock('b', words, { xPt: 40, yPt: 40, widthPt, heightPt: 100 }, { faceId: 'source-sans-3-regular', sizePt }),
    ...change,
  });
  const linesOf = (one: Block): string[] => setBlock(one, faces).lines.map(({ start, visibleEnd }) => one.words.slice(start, visibleEnd));
  const shortLastLines = (one: Block, limits = TRACKING_LIMITS) => shortLastLineIn(one, setBlock(one, faces), faces, limits);
  const after = (one: Block, { proposal }: LineFix): Block => {
    const job = createJob('t', () => 's');
    const whole: Job = { ...job, sheets: job.sheets.map((sheet) => ({ ...sheet, blocks: [one] })) };
    return findBlock(acceptFinding(whole, { blockId: 'b', proposal }), 'b') ?? one;
  };
  /** Short last lines, found independently: paragraph by paragraph, from each setting: paragraph by paragraph of the words, by what is set of each. */
  const alone = (one: Block): string[] =>
    one.words.split('\n').flatMap((paragraph) => {
      const lines = setBlock({ ...one, words: paragraph }, faces).lines;
      const [above, last] = lines.slice(-2);
      if (lines.length < 2 || lines.length > 12 || !above || !last) return [];
      const words = paragraph.slice(last.start, last.visibleEnd);
      const share = last.widthPt / one.frame.widthPt;
      return share < 0.2 || (!words.includes(' ') && share < 0.5) ? [words] : [];
    });

  /** Paragraphs that are broken somehow: some strand a word. */
  const some = (count: number, seed: number): Block[] => {
    const random = randomFrom(seed);
    const pick = (list: readonly string[]): string => list[Math.floor(random() * list.length)] ?? '';
    return Array.from({ length: count }, () => {
      const paragraphs = Array.from({ length: 1 + Math.floor(random() * 2) }, () =>
        Array.from({ length: 3 + Math.floor(random() * 9) }, () => pick(random() < 0.4 ? SMALL : NOUNS)).join(' '),
      );
      return block(paragraphs.join('\n'), 140 + random() * 300);
    });
  };

  it('is one short word, or a very short line, at the end of a paragraph of at most twelve lines', () => {
    let found = 0;
    for (const one of some(150, 3)) {
      const expected = alone(one);
      expect(shortLastLines(one).map(({ words }) => words))
        .withContext(`${one.words} | ${one.frame.widthPt}`)
        .toEqual(expected);
      found += expected.length;
    }
    expect(found).toBeGreaterThan(30);
    const long = Array.from({ length: 60 }, (_, i) => NOUNS[i % NOUNS.length]).join(' ');
    for (let width = 90; width < 400; width += 7) {
      const one = block(`${long}\n${long}`, width);
      expect(shortLastLines(one).map(({ words }) => words)).toEqual(alone(one));
    }
  });

  it('is found in headlines and in lists of any size; not in copy, on a path, or in a frame that follows its words', () => {
    const one = some(60, 3).find((each) => alone(each).length > 0)!;
    const small = block(one.words, (one.frame.widthPt * 23.9) / 30, {}, 23.9);
    expect(alone(small).length).toBeGreaterThan(0);
    expect(shortLastLines(small)).toEqual([]);
    const larger = block(one.words, (one.frame.widthPt * 24) / 30, {}, 24);
    expect(shortLastLines(larger).length).toBe(alone(larger).length);
    const listed = { ...small, paragraph: { ...small.paragraph, list: 'bullet' as const } };
    let inLists = 0;
    for (let width = 120; width < 300; width++) inLists += shortLastLines({ ...listed, frame: { ...listed.frame, widthPt: width } }).length;
    expect(inLists).toBeGreaterThan(0);
    expect(shortLastLines({ ...one, grow: 'both' })).toEqual([]);
    expect(shortLastLines({ ...one, path: { kind: 'arc', risePt: 40 } as never })).toEqual([]);
  });

  it('is named with its place, width and size, and its fixes come cheapest first', () => {
    for (const one of some(80, 8)) {
      for (const { start, end, words, widthPt, sizePt, fixes } of shortLastLines(one)) {
        expect(one.words.slice(start, end)).toBe(words);
        const line = setBlock(one, faces).lines.find((each) => each.start === start);
        expect([widthPt, sizePt]).toEqual([line?.widthPt ?? 0, 30]);
        const costs = fixes.map(({ cost }) => cost);
        expect(costs).toEqual([...costs].sort((a, b) => a - b));
        const job = { ...createJob('t', () => 's') };
        const [finding] = checkJob({ ...job, sheets: job.sheets.map((sheet) => ({ ...sheet, blocks: [one] })) }, faces).findings.filter(
          ({ rule, at }) => rule === 'stranded' && at === start,
        );
        const [best] = fixes;
        expect(finding).toEqual(
          jasmine.objectContaining({
            subject: words,
            severity: 'fault',
            visiblePt: 12,
            message: best ? `short last line: ${best.says}` : 'short last line, and nothing within the limits takes it up',
          }),
        );
        expect(finding?.proposal).toEqual(best?.proposal);
      }
    }
  });

  it('is fixed by what each fix says, at its cost, and by no less', () => {
    const seen = new Map<string, number>();
    const widths = (one: Block): number => one.frame.widthPt;
    for (const one of [
      ...some(260, 21),
      ...some(60, 5).map((each) => ({
        ...each,
        runs: [
          { start: 0, end: 3, style: { sizePt: 36 } },
          { start: 3, end: 5, style: { colour: '#aa0000' } },
        ],
      })),
    ]) {
      const before = linesOf(one).length;
      for (const { start, words, fixes } of shortLastLines(one)) {
        for (const fix of fixes) {
          const { kind, says, cost, proposal } = fix;
          seen.set(kind, (seen.get(kind) ?? 0) + 1);
          const made = after(one, fix);
          const paragraph = one.words.slice(0, start).split('\n').length - 1;
          const ownLines = (each: Block): number =>
            linesOf({ ...each, words: each.words.split('\n')[paragraph] ?? '', runs: paragraph === 0 ? each.runs : [] }).length;
          const still = (each: Block): boolean =>
            alone({ ...each, words: each.words.split('\n')[paragraph] ?? '', runs: paragraph === 0 ? each.runs : [] }).length > 0;
          switch (kind) {
            case 'tighten': {
              const ranges = proposal.tighten ?? [];
              expect(Object.keys(proposal)).toEqual(['tighten']);
              for (const range of ranges) expect(one.words.slice(range.start, range.end)).toMatch(/^\S(.*\S)?$/s);
              const shown = (range: { start: number; end: number }): string => {
                const text = one.words.slice(range.start, range.end);
                return text.length > 24 ? `${text.slice(0, 11)} … ${text.slice(-10)}` : text;
              };
              expect(says).toBe(ranges.map((range) => `track “${shown(range)}” by ${printSigned(range.milliem)}/1000 em`).join(', '));
              const most = Math.max(...ranges.map(({ milliem }) => -milliem));
              expect(most).toBeLessThanOrEqual(50);
              expect(cost).toBeCloseTo(most / 15 + 0.2 * (ranges.length - 1), 9);
              expect(linesOf(made).length).toBe(before - 1);
              break;
            }
            case 'tie': {
              expect(proposal).toEqual({ words: [{ start: start - 1, end: start, insert: '\u00a0' }] });
              expect([says, cost]).toEqual([
                `bring “${
                  one.words
                    .slice(0, start - 1)
                    .split(/\s/)
                    .pop() ?? ''
                }” down`,
                0.8,
              ]);
              expect(linesOf(made).length).toBeLessThanOrEqual(before);
              expect(linesOf(made).some((line) => line.endsWith(`\u00a0${words}`))).toBeTrue();
              break;
            }
            case 'even':
              expect([proposal, says, cost]).toEqual([{ settings: { breaking: { way: 'even', shape: 'even' } } }, 'balance the lines', 0.9]);
              expect(linesOf(made).length).toBeLessThanOrEqual(before);
              break;
            case 'wider': {
              const by = widths(made) - widths(one);
              expect(Object.keys(proposal)).toEqual(['frame']);
              expect(says).toBe(`make the frame ${printValue(by)} pt wider`);
              expect(by).toBeGreaterThan(0);
              expect(by).toBeLessThanOrEqual(0.15 * widths(one) + 0.01);
              expect(cost).toBeCloseTo(1.4 + by / widths(one), 3);
              expect(ownLines({ ...made, frame: { ...made.frame, widthPt: widths(made) - 0.05 } })).toBe(ownLines(one));
              expect(ownLines(made)).toBeLessThan(ownLines(one));
              break;
            }
            default: {
              const size = made.style.sizePt;
              expect(says).toBe(`set it at ${printValue(size)} pt`);
              expect(size).toBeGreaterThanOrEqual(27);
              expect(size * 10).toBeCloseTo(Math.round(size * 10), 9);
              expect(cost).toBeCloseTo(1 + (1 - size / 30) * 10, 9);
              made.runs.forEach(({ style }, r) => expect(style.sizePt ?? 0).toBeCloseTo(((one.runs[r]?.style.sizePt ?? 0) * size) / 30, 9));
              expect(made.runs.map(({ style }) => style.colour)).toEqual(one.runs.map(({ style }) => style.colour));
              expect(linesOf(made).length).toBeLessThan(before);
              const larger = {
                ...made,
                style: { ...made.style, sizePt: size + 0.2 },
                runs: made.runs.map((run) => (run.style.sizePt === undefined ? run : { ...run, style: { sizePt: run.style.sizePt * (1 + 0.2 / size) } })),
              };
              expect(ownLines(larger)).toBeGreaterThanOrEqual(ownLines(one));
            }
          }
          if (kind !== 'tighten' && kind !== 'tie')
            expect(still(made))
              .withContext(`${kind}: ${one.words} | ${widths(one)}`)
              .toBeFalse();
        }
      }
    }
    expect([...seen.keys()].sort()).toEqual(['even', 'smaller', 'tie', 'tighten', 'wider']);
    for (const [kind, times] of seen) expect(times).withContext(kind).toBeGreaterThan(3);
  });

  it('is not tightened beyond where that is wrong, nor evened where lines are even or justified', () => {
    const tightenable = some(200, 21).filter((one) => shortLastLines(one).some(({ fixes }) => fixes.some(({ kind }) => kind === 'tighten')));
    const kinds = (one: Block, limits = TRACKING_LIMITS): string[] => shortLastLines(one, limits).flatMap(({ fixes }) => fixes.map(({ kind }) => kind));
    expect(tightenable.length).toBeGreaterThan(5);
    for (const one of tightenable.slice(0, 12)) {
      const amount = Math.max(
        ...shortLastLines(one).flatMap(({ fixes }) => fixes.flatMap(({ proposal }) => proposal.tighten?.map(({ milliem }) => -milliem) ?? [])),
      );
      expect(kinds(one, { caution: -1, strong: -1, out: -(amount - 0.5) / 2 })).not.toContain('tighten');
      const tracked = { ...one, style: { ...one.style, trackingMilliem: -60 } };
      expect(kinds(tracked)).not.toContain('tighten');
      expect(kinds({ ...one, breaking: { way: 'even', shape: 'even' } })).not.toContain('even');
      expect(kinds({ ...one, align: 'justified' })).not.toContain('even');
    }
  });
});
