import { type Block, createBlock } from '../../job';
import { type BlockSetting, type FaceSet, type SetLine, setLettersOf, setBlock } from '../../setting';
import { shippedFaces } from '../../testing';
import type { Found } from '../finding';
import { viewOf } from '../inspect';
import type { BlockView } from '../rule';
import { TEXTURE } from './texture';

const COPY =
  'Two nights to watch a valley of falling stars from the east lawn of the observatory, where the dark is kind and a blanket is all that you need to bring; ' +
  'three telescopes stand beside the path, and whoever waits for twenty minutes sees more than anybody counted, even of those that the moon leaves pale.';

/** Rules of texture, checked against an independent computation: from where letters stand, line by line. */
describe('a paragraph as a texture', () => {
  let faces: FaceSet;
  beforeAll(async () => (faces = await shippedFaces('playfair-display-bold', 'source-sans-3-regular')));

  const copy = (widthPt: number, change: Partial<Block> = {}, words = COPY, sizePt = 20): Block => ({
    ...createBlock('b', words, { xPt: 0, yPt: 0, widthPt, heightPt: 2000 }, { faceId: 'source-sans-3-regular', sizePt }),
    language: 'en',
    ...change,
  });
  const seen = (block: Block): { view: BlockView; setting: BlockSetting } => {
    const setting = setBlock(block, faces);
    return { setting, view: viewOf(block, setting, faces) };
  };
  const say = (id: string, block: Block): readonly Found[] => {
    const rule = TEXTURE.find((one) => one.id === id)!;
    return rule.looksAt === 'block' ? rule.look(seen(block).view) : [];
  };
  const spaces = (words: string, line: SetLine): [number, number][] =>
    setLettersOf(line)
      .filter(({ start }) => words[start] === ' ')
      .map(({ leftPt, rightPt }) => [leftPt, rightPt]);
  const isLast = ({ words }: Block, { end }: SetLine): boolean => end >= words.length || words[end] === '\n';
  const WIDTHS = Array.from({ length: 22 }, (_, i) => 110 + 17 * i);

  it('says which justified lines have spaces beyond 2.2 and 0.6 of the face’s own, by the widest of the line', () => {
    let count = 0;
    for (const width of WIDTHS) {
      const block = copy(width, { align: 'justified' });
      const { setting } = seen(block);
      const own = (setting.wordSpaceMilliem! * 20) / 1000;
      const wanted = setting.lines.flatMap((line) => {
        const widths = spaces(block.words, line).map(([left, right]) => right - left);
        const share = Math.max(...widths) / own;
        return widths.length > 0 && !isLast(block, line) && (share > 2.2 || share < 0.6)
          ? [[line.start, `${Math.round(100 * share)} %`, share > 1 ? 'word spaces too wide' : 'word spaces too narrow', Math.abs(share - 1) * own * 0.3]]
          : [];
      });
      const got = say('wide-spaces', block);
      expect(got.map(({ at, subject, message, visiblePt }) => [at, subject, message, visiblePt]))
        .withContext(String(width))
        .toEqual(wanted);
      expect(got.every(({ severity }) => severity === 'fault')).toBeTrue();
      count += got.length;
      expect(say('wide-spaces', copy(width, { align: 'left' }))).toEqual([]);
    }
    expect(count).toBeGreaterThan(20);
    // A last line that is filled counts as any.
    const full = { align: 'justified' as const, justify: { lettersMilliem: 0, width: 0, last: 'full' as const } };
    const short = copy(400, full, 'Two stars');
    expect(say('wide-spaces', short).map(({ message }) => message)).toEqual(['word spaces too wide']);
    expect(say('wide-spaces', copy(400, { align: 'justified' }, 'Two stars'))).toEqual([]);
    expect(say('wide-spaces', copy(400, { align: 'justified' }, 'Two stars\nfell'))).toEqual([]);
  });

  it('finds rivers: four spaces or more below each other, told once by their first and how many lines they run', () => {
    let [count, longest] = [0, 0];
    for (const width of WIDTHS) {
      const block = copy(width, { align: 'justified' });
      const { setting } = seen(block);
      const rows = setting.lines.map((line) => setLettersOf(line).filter(({ start }) => block.words[start] === ' '));
      // Which space stands over which: the middle of one over the other.
      const over = (a: { leftPt: number; rightPt: number }, b: { leftPt: number; rightPt: number }): boolean => {
        const [x, y] = [(a.leftPt + a.rightPt) / 2, (b.leftPt + b.rightPt) / 2];
        return (x > b.leftPt && x < b.rightPt) || (y > a.leftPt && y < a.rightPt);
      };
      const river = new Map<object, { first: number; lines: number }>();
      const told = new Map<number, number>();
      rows.forEach((row, r) => {
        for (const space of row) {
          const above = (rows[r - 1] ?? []).find((upper) => over(upper, space));
          const of = above ? { first: river.get(above)!.first, lines: river.get(above)!.lines + 1 } : { first: space.start, lines: 1 };
          river.set(space, of);
          if (of.lines >= 4) told.set(of.first, Math.max(told.get(of.first) ?? 0, of.lines));
        }
      });
      const got = say('river', block);
      expect(new Map(got.map(({ at, subject }) => [at, Number(/\d+/.exec(subject)![0])])))
        .withContext(String(width))
        .toEqual(told);
      for (const { subject, visiblePt, severity } of got) expect([visiblePt, severity]).toEqual([20 * 0.1 * parseInt(subject, 10), 'notice']);
      count += got.length;
      longest = Math.max(longest, ...told.values());
      expect(say('river', copy(width))).toEqual([]);
    }
    expect([count > 5, longest > 4]).toEqual([true, true]);
  });

  it('offers what sets a paragraph better where it does: less beyond the limits by a third, or fewer rivers', () => {
    const better: Partial<Block> = { breaking: { way: 'total', shape: 'even' }, justify: { lettersMilliem: 20, width: 0.02, last: 'natural' } };
    const torn = (block: Block): number => {
      const { setting } = seen(block);
      const own = (setting.wordSpaceMilliem! * 20) / 1000;
      return setting.lines
        .filter((line) => !isLast(block, line))
        .flatMap((line) => spaces(block.words, line).map(([left, right]) => Math.max(0, right - left - 2.2 * own, 0.6 * own - (right - left))))
        .reduce((sum, one) => sum + one, 0);
    };
    const offered = { yes: 0, no: 0 };
    for (const width of WIDTHS) {
      const block = copy(width, { align: 'justified' });
      const after = { ...block, ...better };
      const helps = torn(after) < 0.7 * torn(block) || say('river', after).length < say('river', block).length;
      for (const { proposal } of [...say('wide-spaces', block), ...say('river', block)]) {
        expect(proposal !== undefined)
          .withContext(String(width))
          .toBe(helps);
        if (proposal)
          expect(proposal).toEqual({ settings: jasmine.objectContaining({ breaking: jasmine.objectContaining({ way: 'total' }), justify: better.justify }) });
        offered[proposal ? 'yes' : 'no']++;
      }
    }
    expect(offered.yes).toBeGreaterThan(5);
  });

  it('counts lines in a row that end in hyphens, from three on', () => {
    const lines = [
      'a well-',
      'known star-',
      'lit east-',
      'ern lawn',
      'by two-',
      'ton scopes',
      'near half-',
      'lit, three-',
      'fold, four-',
      'fold, five-',
      'fold',
    ];
    const block = copy(1500, {}, lines.join('\n'));
    expect(say('hyphens-in-row', block).map(({ at, subject, visiblePt, severity }) => [at, subject, visiblePt, severity])).toEqual([
      [0, '3 lines', 20 * 0.1 * 3, 'notice'],
      [block.words.indexOf('near'), '4 lines', 20 * 0.1 * 4, 'notice'],
    ]);
    // The last line goes on nowhere, whatever it ends in.
    expect(say('hyphens-in-row', copy(1500, {}, 'one-\ntwo-\nthree-'))).toEqual([]);
    expect(say('hyphens-in-row', copy(1500, {}, 'one-\ntwo-\nthree-\nend')).length).toBe(1);
  });

  it('finds holes and wedges in a rag, and offers even lines where they have fewer', () => {
    const counts = { hole: 0, wedge: 0, offered: 0, not: 0 };
    for (const width of WIDTHS) {
      for (const sizePt of [20, 27]) {
        const block = copy(width, {}, COPY, sizePt);
        const wanted = (of: Block): [number, string, string][] => {
          const { lines, frame } = seen(of).setting;
          const inner = lines.filter((line) => !isLast(of, line));
          const holes = inner.flatMap((line, i): [number, string, string][] => {
            const [above, below] = [inner[i - 1], inner[i + 1]];
            if (!above || !below) return [];
            const short = Math.min(above.widthPt, below.widthPt) - line.widthPt;
            return short > 0.28 * frame.widthPt ? [[line.start, 'hole', `${Number(short.toFixed(1))} pt shorter than its neighbours`]] : [];
          });
          // Runs of lines that all grow, or all shrink, by more than 0.04 of the measure, as long as they go.
          const steps = inner.slice(1).map((line, i) => line.widthPt - inner[i]!.widthPt);
          const way = steps.map((step) => (Math.abs(step) > 0.04 * frame.widthPt ? Math.sign(step) : 0));
          const wedges: [number, string, string][] = [];
          for (let from = 0; from < way.length; from++) {
            if (way[from] === 0 || (from > 0 && way[from - 1] === way[from])) continue;
            let to = from;
            while (way[to] === way[from]) to++;
            if (to - from + 1 >= 4) wedges.push([inner[from]!.start, 'wedge', `${to - from + 1} line ends form a slope`]);
          }
          return [...holes, ...wedges];
        };
        const got = say('rag', block);
        expect(got.map(({ at, subject, message }) => [at, subject, message]))
          .withContext(`${width} ${sizePt}`)
          .toEqual(wanted(block));
        const helps = say('rag', { ...block, breaking: { way: 'even', shape: 'even' } }).length < got.length;
        for (const { subject, proposal } of got) {
          expect(proposal).toEqual(helps ? { settings: { breaking: { way: 'even', shape: 'even' } } } : undefined);
          counts[subject as 'hole']++;
          counts[helps ? 'offered' : 'not']++;
        }
        for (const change of [{ align: 'justified' as const }, { grow: 'both' as const }, { breaking: { way: 'even' as const, shape: 'widening' as const } }])
          expect(say('rag', { ...block, ...change })).toEqual([]);
        for (const { proposal } of say('rag', { ...block, breaking: { way: 'even', shape: 'even' } })) expect(proposal).toBeUndefined();
      }
    }
    expect(Object.values(counts).every((count) => count > 0))
      .withContext(JSON.stringify(counts))
      .toBeTrue();
  });
});
