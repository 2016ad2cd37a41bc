import fc from 'fast-check';
import {
  JOB_VERSION,
  type Block,
  type Job,
  JobFormatError,
  SoundBlocks,
  readJob,
  addBlock,
  blockSchema,
  createBlock,
  createJob,
  findBlock,
  handAt,
  jobJsonSchema,
  jobSchema,
  nudgeHand,
  nudgeTracking,
  retrack,
  removeBlock,
  resizeFrame,
  withHand,
  relead,
  restyle,
  retitle,
  languageSchema,
  resolveSheet,
  spliceWords,
  isGraphemeBoundary,
  styleAt,
  styledRanges,
  upgradeJob,
  usesOf,
} from './index';
import { carriedSplices, editWords, splicesBetween } from '../wording';

let ids = 0;
const newId = (): string => `id${++ids}`;
const block = (words: string, change: Partial<Block> = {}): Block => ({
  ...createBlock('b', words, { xPt: 0, yPt: 0, widthPt: 100, heightPt: 100 }),
  ...change,
});

function jobWith(words: string): { job: Job; id: string } {
  const empty = createJob('Test', newId);
  const sheet = empty.sheets[0];
  if (!sheet) throw new Error('no sheet');
  const job = addBlock(empty, sheet.id, block(words));
  return { job, id: 'b' };
}

describe('job schema', () => {
  it('accepts a new job and what every edit makes of it', () => {
    const { job, id } = jobWith('TWO NIGHTS');
    const edits: ((job: Job) => Job)[] = [
      (j) => withHand(j, id, 3, -40),
      (j) => nudgeHand(j, id, 3, 5),
      (j) => nudgeTracking(j, id, -12),
      (j) => relead(j, id, { kind: 'pt', pt: 60 }),
      (j) => resizeFrame(j, id, { xPt: 0, yPt: 0, widthPt: 300, heightPt: 100 }),
      (j) => restyle(j, id, { sizePt: 90 }, { start: 0, end: 3 }),
      (j) => editWords(j, id, [{ start: 0, end: 3, insert: 'THREE' }]),
      (j) => retitle(j, '  Perseids  '),
    ];
    let current = job;
    for (const edit of edits) {
      const next = edit(current);
      expect(next).not.toBe(current);
      expect(jobSchema.safeParse(next).error).toBeUndefined();
      expect(next.sheets[0]?.blocks[0]).toBe(current.sheets[0]?.blocks[0]); // what an edit leaves alone keeps its identity
      current = next;
    }
    expect(current.title).toBe('Perseids');
    expect(handAt(findBlock(current, id) as Block, 3)).toBe(0);
    expect(findBlock(removeBlock(current, id), id)).toBeUndefined();
  });

  it('refuses what would break a setting', () => {
    const bad: Partial<Block>[] = [
      { hand: [{ at: 9, milliem: 1 }] },
      {
        hand: [
          { at: 2, milliem: 1 },
          { at: 2, milliem: 3 },
        ],
      },
      { hand: [{ at: 1, milliem: Number.NaN }] },
      { runs: [{ start: 0, end: 4, style: {} }] },
      {
        runs: [
          { start: 1, end: 2, style: {} },
          { start: 0, end: 1, style: {} },
        ],
      },
      { frame: { xPt: 0, yPt: 0, widthPt: Number.POSITIVE_INFINITY, heightPt: 1 } },
    ];
    for (const change of bad)
      expect(blockSchema.safeParse(block('abc', change)).success)
        .withContext(JSON.stringify(change))
        .toBeFalse();
    const { job } = jobWith('abc');
    const sheet = job.sheets[0];
    expect(jobSchema.safeParse({ ...job, sheets: [sheet, sheet] }).success).toBeFalse();
    expect(jobSchema.safeParse({ ...job, surprise: 1 }).success).toBeFalse();
  });

  it('counts before it looks: lists, tags and letters have limits', () => {
    const { job } = jobWith('VALLEY');
    const sheet = job.sheets[0];
    const first = sheet?.blocks[1];
    if (!sheet || !first) throw new Error('no block');
    const why = (change: unknown): string => (jobSchema.safeParse(change).error?.issues ?? []).map(({ message }) => message).join(' ');
    const withBlocks = (blocks: unknown[]): unknown => ({ ...job, sheets: [{ ...sheet, blocks }] });
    const styledAs = (style: unknown): unknown => withBlocks([{ ...first, style: { ...first.style, ...(style as object) } }]);
    const tags = (count: number): Record<string, number> => Object.fromEntries(Array.from({ length: count }, (_, i) => [String(i).padStart(4, '0'), 1]));
    expect(why(styledAs({ features: tags(200) }))).toBe('');
    expect(why(styledAs({ features: tags(201) }))).toBe('There are more than 200 tags.');
    expect(why(styledAs({ axes: tags(65) }))).toBe('There are more than 64 tags.');
    expect(why(styledAs({ features: { 'abc\u0000': 1 } }))).not.toBe('');
    expect(why({ ...job, sheets: Array.from({ length: 201 }, () => ({})) })).toBe('There are more than 200.');
    expect(why(withBlocks(Array.from({ length: 401 }, () => ({}))))).toBe('There are more than 400.');
    const many = (letters: number): unknown[] => Array.from({ length: 5 }, (_, i) => ({ ...first, id: `many${i}`, words: 'x'.repeat(letters) }));
    expect(why(withBlocks(many(20_000)))).toBe('');
    expect(why(withBlocks([...many(20_000), { ...first, id: 'one more', words: 'x' }]))).toContain('at most 100000');
    expect(why({ ...job, sheets: Array.from({ length: 11 }, () => ({ blocks: Array.from({ length: 400 }, () => ({})) })) })).toContain('more than 4000 blocks');
    expect(why({ ...job, ...Object.fromEntries(Array.from({ length: 200 }, (_, i) => [`k${i}`, i])) })).toContain('properties that no job has');
    expect(JSON.stringify(jobJsonSchema())).toContain('At most 100000 letters');
  });

  it('names all faces, pictures and recipes a job rests on, once', () => {
    const { job, id } = jobWith('VALLEY');
    const styledRun = restyle(job, id, { faceId: 'alegreya-medium' }, { start: 0, end: 3 });
    const sheet = styledRun.sheets[0];
    if (!sheet) throw new Error('no sheet');
    const blocks = sheet.blocks.map((one) => (one.id === id ? { ...one, recipeId: 'r', parked: [{ faceId: 'old-face', hand: [] }] } : one));
    const background = { kind: 'picture' as const, pictureId: 'p', fit: 'cover' as const, colour: '#000000' };
    const uses = usesOf({ ...styledRun, sheets: [{ ...sheet, background, blocks }] });
    expect(uses.map(({ kind, id: thing }) => `${kind} ${thing}`).sort()).toEqual(
      ['face alegreya-medium', 'face old-face', 'face playfair-display-bold', 'face source-sans-3-regular', 'picture p', 'recipe r'].sort(),
    );
  });

  it('publishes a JSON Schema', () => {
    const text = JSON.stringify(jobJsonSchema());
    expect(text).toContain('trackingMilliem');
    expect(text).toContain('2020-12');
  });
});

describe('job upgrade', () => {
  it('brings a version 1 file up to date', () => {
    const { job } = jobWith('VALLEY');
    const old = {
      ...job,
      version: 1,
      sheets: job.sheets.map((sheet) => ({
        ...sheet,
        blocks: sheet.blocks.map(({ style: { axes: _axes, features: _features, ...style }, ...rest }) => ({ ...rest, style, leading: 60 })),
      })),
    };
    const upgraded = jobSchema.parse(upgradeJob(old));
    expect(upgraded.version).toBe(JOB_VERSION);
    expect(findBlock(upgraded, 'b')?.leading).toEqual({ kind: 'pt', pt: 60 });
    expect(findBlock(upgraded, 'b')?.style.axes).toEqual({});
  });

  it('brings a version 2 file up to date, losing nothing it held', () => {
    const { job } = jobWith('VALLEY');
    const STYLE = ['faceId', 'sizePt', 'trackingMilliem', 'wordSpaceMilliem', 'kerning', 'colour', 'axes', 'features'];
    const BLOCK = ['id', 'frame', 'words', 'runs', 'align', 'leading', 'hand'];
    const only = (value: object, keys: string[]) => Object.fromEntries(Object.entries(value).filter(([key]) => keys.includes(key)));
    const old = {
      format: job.format,
      version: 2,
      title: job.title,
      kind: job.kind,
      sheets: job.sheets.map(({ id, name, widthPt, heightPt, unit, margins, background, blocks }) => ({
        id,
        name,
        widthPt,
        heightPt,
        unit,
        margins,
        background,
        blocks: blocks.map((block) => ({ ...only(block, BLOCK), style: only(block.style, STYLE), hand: [{ at: 2, milliem: -7 }] })),
      })),
    };
    const upgraded = jobSchema.parse(upgradeJob(old));
    const block = findBlock(upgraded, 'b');
    expect(block?.hand).toEqual([{ at: 2, milliem: -7 }]);
    expect([block?.grow, block?.style.scaleX, block?.recipeId, upgraded.pairs, upgraded.sheets[0]?.guides]).toEqual(['down', 1, null, [], []]);
    expect(block?.frame).toEqual(findBlock(job, 'b')?.frame);
  });

  it('refuses strangers and the future', () => {
    for (const value of [null, 3, [], {}, { format: 'other', version: 1 }, { format: 'jentrix.job', version: 99 }]) {
      expect(() => upgradeJob(value)).toThrowError(JobFormatError);
    }
  });
});

describe('words', () => {
  const letters = fc.string({ unit: fc.constantFrom(...'AVTW o\nfié'), maxLength: 30 });
  const spliced = letters.chain((words) =>
    fc.record({
      words: fc.constant(words),
      a: fc.nat({ max: words.length }),
      b: fc.nat({ max: words.length }),
      insert: fc.string({ unit: fc.constantFrom(...'AVT x'), maxLength: 6 }),
      hand: fc.uniqueArray(fc.integer({ min: 1, max: Math.max(1, words.length - 1) }), { maxLength: 10 }),
    }),
  );

  it('keeps the hand kerning of every pair whose two letters survive side by side, and of no other', () => {
    fc.assert(
      fc.property(spliced, ({ words, a, b, insert, hand }) => {
        const [start, end] = [Math.min(a, b), Math.max(a, b)];
        const places = hand.filter((at) => at < words.length).sort((x, y) => x - y);
        const before = block(words, { hand: places.map((at) => ({ at, milliem: at * 10 })) });
        const after = spliceWords(before, { start, end, insert });
        // Oracle: follow each letter by itself.
        const origin = [...words].map((_, i) => i);
        const survivors: (number | undefined)[] = [...origin.slice(0, start), ...[...insert].map(() => undefined), ...origin.slice(end)];
        const expected: { at: number; milliem: number }[] = [];
        for (let at = 1; at < survivors.length; at++) {
          const left = survivors[at - 1];
          const right = survivors[at];
          if (left === undefined || right !== left + 1) continue;
          const kern = before.hand.find((kernBefore) => kernBefore.at === right);
          if (kern) expected.push({ at, milliem: kern.milliem });
        }
        expect(after.hand).toEqual(expected);
        expect(after.words).toBe(words.slice(0, start) + insert + words.slice(end));
        expect(blockSchema.safeParse(after).success).toBeTrue();
      }),
      { numRuns: 2000 },
    );
  });

  it('keeps the style of every letter that survives', () => {
    fc.assert(
      fc.property(spliced, fc.nat(), fc.nat(), ({ words, a, b, insert }, c, d) => {
        if (words.length < 2) return;
        const [start, end] = [Math.min(a, b), Math.max(a, b)];
        const from = c % (words.length - 1);
        const to = from + 1 + (d % (words.length - from));
        const before = block(words, { runs: [{ start: from, end: Math.min(to, words.length), style: { sizePt: 99 } }] });
        const after = spliceWords(before, { start, end, insert });
        for (let i = 0; i < words.length; i++) {
          if (i >= start && i < end) continue;
          const now = i < start ? i : i + insert.length - (end - start);
          expect(styleAt(after, now).sizePt).toBe(styleAt(before, i).sizePt);
        }
        const donor = end > start ? start : start - 1;
        if (insert && donor >= 0) expect(styleAt(after, start).sizePt).toBe(styleAt(before, donor).sizePt);
        expect(blockSchema.safeParse(after).success).toBeTrue();
      }),
      { numRuns: 2000 },
    );
  });

  it('are compared word by word where they are long, and not at all where nothing of them is left', () => {
    const letters = (seed: number, count: number): string =>
      Array.from({ length: count }, (_, i) => String.fromCharCode(97 + (((i + seed) * (i + 7) * seed) % 26))).join('');
    const words = Array.from({ length: 1200 }, (_, i) => letters(3 + i, 2 + (i % 9)));
    const [first, last] = [['one', ...words].join(' '), ['two', ...words.slice(0, 600), 'new', ...words.slice(600), '😀'].join(' ')];
    const splices = splicesBetween(first, last);
    expect(splices.map(({ insert }) => insert.trim())).toEqual(['😀', 'new', 'two'].map((word) => jasmine.stringContaining(word)));
    expect(splices.reduce(spliceWords, block(first)).words).toBe(last);
    const [a, b] = [`same 😀${letters(5, 9000)}😁 end`, `same 😁${letters(11, 9000)}😀 end`];
    const whole = splicesBetween(a, b);
    expect(whole.length).toBe(1);
    expect(whole.reduce(spliceWords, block(a)).words).toBe(b);
    expect(whole[0]?.start).toBe(5);
  });

  it('turns any text into any other', () => {
    fc.assert(
      fc.property(letters, letters, (before, after) => {
        expect(splicesBetween(before, after).reduce(spliceWords, block(before)).words).toBe(after);
      }),
      { numRuns: 1000 },
    );
  });

  it('keeps every value outside an edit where it was, among equal letters too', () => {
    const few = fc.string({ unit: fc.constantFrom('A', 'V', '😀', '😁', ' '), maxLength: 12 });
    fc.assert(
      fc.property(few, few, few, few, (head, gone, come, tail) => {
        const [before, after] = [head + gone + tail, head + come + tail];
        const places = Array.from({ length: before.length }, (_, at) => at).filter((at) => at > 0 && isGraphemeBoundary(before, at));
        const kerned = block(before, { hand: places.map((at) => ({ at, milliem: at + 1 })) });
        const splices = splicesBetween(before, after, head.length + come.length);
        const edited = splices.reduce(spliceWords, kerned);
        expect(edited.words).toBe(after);
        const kept = new Map(edited.hand.map(({ at, milliem }) => [at, milliem]));
        const shift = after.length - before.length;
        for (const at of places) {
          if (at < head.length) expect(kept.get(at)).toBe(at + 1);
          if (at > head.length + gone.length) expect(kept.get(at + shift)).toBe(at + 1);
        }
      }),
      { numRuns: 3000 },
    );
  });

  it('carries an edit over to what others made of the words, and takes out nothing that they put in', () => {
    const upper = fc.nat({ max: 8 }).map((count) => 'ABCDEFGH'.slice(0, count));
    const lower = fc.string({ unit: fc.constantFrom('x', 'y'), maxLength: 4 });
    const places = fc.tuple(fc.nat({ max: 8 }), fc.nat({ max: 4 }));
    fc.assert(
      fc.property(upper, places, lower, places, (words, [at, length], typed, [where, gone]) => {
        const change = (from: number, count: number, insert: string): string => words.slice(0, from) + insert + words.slice(from + count);
        const theirs = change(where, gone, 'zz');
        const mine = splicesBetween(words, change(at, length, typed), Math.min(at, words.length) + typed.length);
        const merged = carriedSplices(mine, words, theirs).reduce(spliceWords, block(theirs)).words;
        expect(merged.replace(/[^z]/g, '')).toBe('zz');
        expect(merged.replace(/[^xy]/g, '')).toBe(typed);
        // Apart from each other, both edits are in it.
        const [mineFrom, mineTo] = [Math.min(at, words.length), Math.min(at + length, words.length)];
        if (Math.min(where, words.length) > mineTo)
          expect(merged).toBe(words.slice(0, mineFrom) + typed + words.slice(mineTo, where) + theirs.slice(Math.min(where, words.length)));
      }),
      { numRuns: 3000 },
    );
  });

  it('reads an insertion among equal letters by the caret', () => {
    const kerned = block('AAA', { hand: [{ at: 2, milliem: -5 }] });
    const typedFirst = splicesBetween('AAA', 'AAAA', 1).reduce(spliceWords, kerned);
    expect(typedFirst.hand).toEqual([{ at: 3, milliem: -5 }]);
    const typedLast = splicesBetween('AAA', 'AAAA', 4).reduce(spliceWords, kerned);
    expect(typedLast.hand).toEqual([{ at: 2, milliem: -5 }]);
  });

  it('lets go of a gap that an accent closed', () => {
    const kerned = block('AV', { hand: [{ at: 1, milliem: -5 }] });
    expect(spliceWords(kerned, { start: 1, end: 1, insert: '\u0301' }).hand).toEqual([]);
  });

  it('refuses places outside the words', () => {
    expect(() => spliceWords(block('abc'), { start: 2, end: 9, insert: '' })).toThrowError(RangeError);
    const { job, id } = jobWith('a👩‍🚀b');
    for (const at of [0, 2, 3, 7, 99]) expect(withHand(job, id, at, 5)).toBe(job);
    expect(withHand(job, id, 1, 5)).not.toBe(job);
  });
});

describe('runs', () => {
  it('cuts, overlays and joins', () => {
    const { job, id } = jobWith('Vega & Altair');
    const bigger = restyle(job, id, { sizePt: 80 }, { start: 0, end: 4 });
    const both = restyle(bigger, id, { colour: '#ff0000' }, { start: 2, end: 6 });
    const ranges = styledRanges(findBlock(both, id) as Block, 0, 13).map(({ start, end, style }) => [start, end, style.sizePt, style.colour]);
    expect(ranges).toEqual([
      [0, 2, 80, '#1f2528'],
      [2, 4, 80, '#ff0000'],
      [4, 6, 48, '#ff0000'],
      [6, 13, 48, '#1f2528'],
    ]);
    const back = restyle(restyle(both, id, { colour: '#1f2528' }, { start: 0, end: 13 }), id, { sizePt: 48 }, { start: 0, end: 13 });
    expect(findBlock(back, id)?.runs).toEqual([]);
  });

  it('moves tracking of a block and of its runs together', () => {
    const { job, id } = jobWith('Vega');
    const mixed = restyle(job, id, { trackingMilliem: 20 }, { start: 0, end: 2 });
    const nudged = findBlock(nudgeTracking(mixed, id, -12), id) as Block;
    // Word space is taken along where that is wanted, the same by value and by step.
    const link = { ownMilliem: 230, letterMilliem: 120 };
    const [stepped, set] = [nudgeTracking(job, id, 20, undefined, link), retrack(job, id, 20, undefined, link)].map((one) => findBlock(one, id) as Block);
    expect(stepped?.style).toEqual(set?.style as never);
    expect(set?.style.wordSpaceMilliem).toBeCloseTo((230 * 140) / 120 - 230 - 40, 1);
    const word = findBlock(retrack(job, id, 20, { start: 0, end: 3 }, link), id) as Block;
    expect([word.style.wordSpaceMilliem, word.runs[0]?.style]).toEqual([0, { trackingMilliem: 20, wordSpaceMilliem: set?.style.wordSpaceMilliem }] as never);
    // In a range, every stretch keeps its difference; outside it nothing moves.
    const part = findBlock(nudgeTracking(mixed, id, 7, { start: 1, end: nudged.words.length - 1 }), id) as Block;
    for (let at = 0; at < nudged.words.length; at++) {
      const inside = at >= 1 && at < nudged.words.length - 1;
      expect(styleAt(part, at).trackingMilliem - styleAt(findBlock(mixed, id) as Block, at).trackingMilliem).toBe(inside ? 7 : 0);
    }
    expect(styledRanges(nudged, 0, 4).map(({ style }) => style.trackingMilliem)).toEqual([8, -12]);
  });

  it('gives blocks the language of the job where they have none, and takes no tag that is none', () => {
    let n = 0;
    const job = { ...createJob('t', () => `l${++n}`), language: 'tr' };
    const [sheet] = job.sheets;
    const own = { ...sheet!, blocks: [...sheet!.blocks, { ...sheet!.blocks[0]!, id: 'dutch', language: 'nl' }] };
    const resolved = resolveSheet(job, own).blocks;
    expect(resolved.map(({ language }) => language)).toEqual(['tr', 'nl']);
    expect(resolveSheet(job, own).blocks[0]).toBe(resolved[0]);
    expect(resolveSheet({ ...job, language: null }, own)).toBe(own);
    for (const tag of ['sr-Latn', 'tr', 'de-CH']) expect(languageSchema.safeParse(tag).success).withContext(tag).toBeTrue();
    for (const tag of ['', 'TR', 'x', 'tr_TR', 'en-ab-cd', 'tr"', 'a-very-long-tag-that-is-none-of-bcp-47'])
      expect(languageSchema.safeParse(tag).success).withContext(tag).toBeFalse();
  });

  it('keeps words with line feeds and spaces, whatever they come in with', () => {
    expect(createBlock('b', 'a\r\nb\rc\u2028d\u2029e\u0085f\u000bg\u000ch\ti', { xPt: 0, yPt: 0, widthPt: 1, heightPt: 1 }).words).toBe(
      'a\nb\nc\nd\ne\nf\ng\nh i',
    );
    const block = createBlock('b', 'one', { xPt: 0, yPt: 0, widthPt: 1, heightPt: 1 });
    expect(spliceWords(block, { start: 3, end: 3, insert: '\ttwo\r\n' }).words).toBe('one two\n');
  });
});

describe('a job that is read again and again', () => {
  let n = 0;
  const start = createJob('Again', () => `id${n++}`);
  const sheet = start.sheets[0]!;
  const many = {
    ...start,
    sheets: [{ ...sheet, blocks: Array.from({ length: 40 }, (_, i) => createBlock(`b${i}`, `Words ${i}`, { xPt: 0, yPt: 0, widthPt: 100, heightPt: 20 })) }],
  };
  const plain = (value: unknown): unknown => JSON.parse(JSON.stringify(value)) as unknown;

  it('is what it is without a memory, and looks only into blocks that are new', () => {
    const sound = new SoundBlocks();
    expect(readJob(plain(many), sound)).toEqual(readJob(plain(many)));
    const parse = spyOn(blockSchema, 'safeParse').and.callThrough();
    const edited = restyle(many, 'b7', { trackingMilliem: 5 });
    expect(readJob(plain(edited), sound)).toEqual(edited);
    expect(parse).toHaveBeenCalledTimes(1);
    expect(JSON.stringify(readJob(plain(many), sound))).toBe(JSON.stringify(readJob(plain(many))));
  });

  it('is refused in the same words where anything in it is wrong', () => {
    const sound = new SoundBlocks();
    readJob(plain(many), sound);
    const said = (value: unknown, memory?: SoundBlocks): string => {
      try {
        readJob(value, memory);
        return '';
      } catch (error) {
        return error instanceof JobFormatError ? error.message : `not in words: ${String(error)}`;
      }
    };
    const bent = (change: (job: { sheets: { blocks: unknown[] }[] }) => void): unknown => {
      const job = plain(many) as { sheets: { blocks: unknown[] }[] };
      change(job);
      return job;
    };
    for (const wrong of [
      bent(({ sheets }) => (sheets[0]!.blocks[3] = { ...many.sheets[0]!.blocks[3]!, hand: [{ at: 99, milliem: 1 }] })),
      bent(({ sheets }) => (sheets[0]!.blocks[3] = null)),
      bent(({ sheets }) => sheets[0]!.blocks.push(many.sheets[0]!.blocks[0])),
      bent(({ sheets }) => (sheets[0]!.blocks[3] = { ...many.sheets[0]!.blocks[3]!, words: 7 })),
      { ...many, title: '' },
      7,
    ]) {
      expect(said(wrong, sound)).toBe(said(wrong));
      expect(said(wrong)).not.toBe('');
    }
  });
});
