import fc from 'fast-check';
import {
  type Block,
  type Job,
  addBlock,
  addSheet,
  allBlocks,
  createBlock,
  createJob,
  createSheet,
  jobSchema,
  removeBlock,
  restyle,
  retitle,
  spliceWords,
  updateBlock,
  withHand,
  withSheet,
} from '../job';
import { mergerOf, startedFrom } from '.';

const frame = { xPt: 0, yPt: 0, widthPt: 100, heightPt: 40 };
const copyOf = (job: Job): Job => jobSchema.parse(JSON.parse(JSON.stringify(job)));

function sample(): Job {
  const sheet = (id: string, ...ids: string[]) => ({
    ...createSheet(id, id, 400, 300, 'mm'),
    blocks: ids.map((own) => createBlock(own, `Words ${own}`, frame)),
  });
  return { ...createJob('Base', () => 'x'), sheets: [sheet('one', 'a', 'b', 'c'), sheet('two', 'd')] };
}

/** Any edit, by one of two people: what they add is their own. */
const edits = (who: string): fc.Arbitrary<(job: Job) => Job> => {
  const block = fc.constantFrom('a', 'b', 'c', 'd');
  const sheet = fc.constantFrom('one', 'two');
  return fc.oneof(
    fc.tuple(block, fc.integer({ min: -9, max: 9 })).map(
      ([id, n]) =>
        (job: Job) =>
          restyle(job, id, { trackingMilliem: n * 10 }),
    ),
    fc.tuple(block, fc.integer({ min: 1, max: 5 })).map(
      ([id, n]) =>
        (job: Job) =>
          withHand(job, id, n, n * 7),
    ),
    block.map((id) => (job: Job) => removeBlock(job, id)),
    fc.tuple(sheet, fc.nat({ max: 99 })).map(
      ([id, n]) =>
        (job: Job) =>
          addBlock(job, id, createBlock(`${who}${n}`, 'new', frame)),
    ),
    fc.tuple(sheet, fc.nat({ max: 5 })).map(
      ([id, n]) =>
        (job: Job) =>
          withSheet(job, id, { name: `${who} ${n}` }),
    ),
    sheet.map((id) => (job: Job) => withSheet(job, id, { background: { kind: 'colour', colour: who === 'm' ? '#112233' : '#445566' } })),
    fc.constant((job: Job) => retitle(job, `By ${who}`)),
    fc.nat({ max: 9 }).map((n) => (job: Job) => addSheet(job, createSheet(`${who}-sheet-${n}`, 'More', 100, 100, 'mm'), 'one')),
    sheet.map((id) => (job: Job): Job => ({ ...job, sheets: job.sheets.map((one) => (one.id === id ? { ...one, blocks: [...one.blocks].reverse() } : one)) })),
  );
};
/** Twice the same name would be no job. */
const valid = (job: Job): boolean =>
  new Set(allBlocks(job).map(({ id }) => id)).size === allBlocks(job).length && new Set(job.sheets.map(({ id }) => id)).size === job.sheets.length;
const made = (who: string): fc.Arbitrary<Job> =>
  fc
    .array(edits(who), { maxLength: 5 })
    .map((all) => all.reduce((job, edit) => edit(job), sample()))
    .filter(valid);

describe('what two people made of one job', () => {
  const base = sample();

  it('is what one made, where the other made nothing', () => {
    fc.assert(
      fc.property(made('m'), (mine) => {
        expect(mergerOf(base, copyOf(base))(mine)).toEqual({ job: mine, clashes: [] });
        expect(mergerOf(base, copyOf(base))(mine).job).toBe(mine);
        expect(mergerOf(base, copyOf(mine))(base)).toEqual({ job: copyOf(mine), clashes: [] });
        expect(mergerOf(base, copyOf(mine))(mine).clashes).toEqual([]);
      }),
    );
  });

  it('has what both made, is a job, and is the same whoever puts it together, unless they clash', () => {
    let clear = 0;
    fc.assert(
      fc.property(made('m'), made('t'), (mine, theirs) => {
        const [one, other] = [mergerOf(base, copyOf(theirs))(mine), mergerOf(base, copyOf(mine))(theirs)];
        expect(jobSchema.safeParse(one.job).success).toBeTrue();
        expect(one.clashes.length).toBe(other.clashes.length);
        const blocks = (job: Job): Map<string, Block> => new Map(allBlocks(job).map((block) => [block.id, block]));
        const clashing = new Set(one.clashes.map((clash) => ('id' in clash ? clash.id : clash.field)));
        const gone = new Set([mine, theirs].flatMap((job) => [...blocks(base).keys()].filter((id) => !blocks(job).has(id))));
        const sheets = new Map(one.job.sheets.map((sheet) => [sheet.id, sheet]));
        // Every change of either is in it.
        for (const made of [mine, theirs])
          for (const [id, block] of blocks(made)) {
            const before = blocks(base).get(id);
            if (JSON.stringify(before) === JSON.stringify(block) || clashing.has(id) || gone.has(id)) continue;
            expect(JSON.stringify(blocks(one.job).get(id))).toBe(JSON.stringify(block));
          }
        for (const { id } of theirs.sheets) expect(sheets.has(id)).toBeTrue();
        if (one.clashes.length > 0) return;
        clear++;
        for (const id of gone) expect(blocks(one.job).has(id)).toBeFalse();
        expect(one.job.title).toBe(other.job.title);
        expect([...blocks(one.job).keys()].sort()).toEqual([...blocks(other.job).keys()].sort());
      }),
      { numRuns: 400 },
    );
    expect(clear).toBeGreaterThan(80);
  });

  it('clashes just where both changed the same, and keeps what is mine and what was worked on', () => {
    const mine = restyle(base, 'a', { trackingMilliem: 20 });
    expect(mergerOf(base, restyle(base, 'b', { trackingMilliem: 30 }))(mine).clashes).toEqual([]);
    const clash = mergerOf(base, copyOf(restyle(base, 'a', { sizePt: 30 })))(mine);
    expect(clash).toEqual({ job: mine, clashes: [{ kind: 'block', id: 'a' }] });
    // One takes away what the other works on: it stays, and both are asked.
    const taken = mergerOf(base, copyOf(mine))(removeBlock(base, 'a'));
    expect([taken.clashes, allBlocks(taken.job).find(({ id }) => id === 'a')?.style.trackingMilliem]).toEqual([[{ kind: 'block', id: 'a' }], 20]);
    expect(mergerOf(base, retitle(base, 'Theirs'))(retitle(base, 'Mine')).clashes).toEqual([{ kind: 'job', field: 'title' }]);
    expect(mergerOf(base, withSheet(base, 'one', { name: 'T' }))(withSheet(base, 'one', { name: 'M' })).clashes).toEqual([
      { kind: 'sheet', id: 'one', field: 'name' },
    ]);
  });

  it('puts a block that both changed together setting by setting where that is asked for, and says which settings both changed', () => {
    const options = { withinBlocks: true, prefer: 'theirs' } as const;
    const blockOf = (job: Job): Block | undefined => allBlocks(job).find(({ id }) => id === 'a');
    const mine = withHand(restyle(base, 'a', { trackingMilliem: 20 }), 'a', 2, -10);
    const theirs = withHand(restyle(base, 'a', { sizePt: 30, trackingMilliem: 40 }), 'a', 4, 15);
    const { job, clashes } = mergerOf(base, copyOf(theirs), options)(mine);
    expect(blockOf(job)?.style).toEqual(jasmine.objectContaining({ sizePt: 30, trackingMilliem: 40 }));
    expect(blockOf(job)?.hand).toEqual([
      { at: 2, milliem: -10 },
      { at: 4, milliem: 15 },
    ]);
    expect(clashes).toEqual([{ kind: 'block', id: 'a' }]);
    // What stands at places in the words goes with its letters.
    const edited = updateBlock(theirs, 'a', (block) => spliceWords(block, { start: 0, end: 0, insert: 'New ' }));
    const merged = blockOf(mergerOf(base, copyOf(edited), options)(mine).job);
    expect([merged?.words, merged?.hand]).toEqual([
      'New Words a',
      [
        { at: 6, milliem: -10 },
        { at: 8, milliem: 15 },
      ],
    ]);
    // A state before letters were typed is without them, whatever others typed since.
    const typed = updateBlock(base, 'a', (block) => spliceWords(block, { start: 7, end: 7, insert: ' more' }));
    const both = updateBlock(typed, 'a', (block) => spliceWords(block, { start: 0, end: 0, insert: 'New ' }));
    expect(blockOf(mergerOf(typed, copyOf(both), options)(base).job)?.words).toBe('New Words a');
  });

  it('makes a job of any two states, put together setting by setting, with every change of the other', () => {
    fc.assert(
      fc.property(made('m'), made('t'), (mine, theirs) => {
        const { job } = mergerOf(base, copyOf(theirs), { withinBlocks: true, prefer: 'theirs' })(mine);
        expect(jobSchema.safeParse(job).success).toBeTrue();
        const before = new Map(allBlocks(base).map((block) => [block.id, block]));
        const after = new Map(allBlocks(job).map((block) => [block.id, block]));
        for (const block of allBlocks(theirs)) {
          const { trackingMilliem } = block.style;
          if (trackingMilliem !== before.get(block.id)?.style.trackingMilliem) expect(after.get(block.id)?.style.trackingMilliem).toBe(trackingMilliem);
          for (const kern of block.hand) if (!before.get(block.id)?.hand.includes(kern)) expect(after.get(block.id)?.hand).toContain(kern);
        }
      }),
      { numRuns: 400 },
    );
  });

  it('finds what others started from: a write whose answer was lost, where theirs rests on it', () => {
    const first = restyle(base, 'a', { trackingMilliem: 10 });
    const mine = restyle(first, 'a', { trackingMilliem: 20 });
    const theirs = copyOf(restyle(first, 'b', { sizePt: 30 }));
    expect(startedFrom(base, [first], theirs)).toBe(first);
    expect(mergerOf(first, theirs)(mine).clashes).toEqual([]);
    // Where it may as well be the base, it is: then somebody chooses.
    expect(startedFrom(base, [first], copyOf(restyle(base, 'a', { sizePt: 30 })))).toBe(base);
    expect(startedFrom(base, [first], copyOf(base))).toBe(base);
  });

  it('leaves what nobody else changed as it is, so that it is not set anew', () => {
    const mine = restyle(base, 'a', { trackingMilliem: 20 });
    const { job } = mergerOf(base, copyOf(restyle(base, 'c', { sizePt: 30 })))(mine);
    expect(job.sheets[0]?.blocks[0]).toBe(mine.sheets[0]!.blocks[0]);
    expect(job.sheets[0]?.blocks[1]).toBe(base.sheets[0]!.blocks[1]);
    expect(job.sheets[1]).toBe(base.sheets[1]);
    expect(job.sheets[0]?.blocks[2]?.style.sizePt).toBe(30);
  });

  it('clashes over a sheet that one took away and the other worked on, and lets go of one that nobody did', () => {
    const without = (job: Job): Job => ({ ...job, sheets: job.sheets.filter(({ id }) => id !== 'two') });
    const worked = restyle(base, 'd', { sizePt: 30 });
    const ids = (job: Job): string[] => job.sheets.map(({ id }) => id);
    for (const [mine, theirs] of [
      [without(base), worked],
      [worked, without(base)],
    ] as const) {
      const { job, clashes } = mergerOf(base, copyOf(theirs))(mine);
      expect(clashes).toEqual([{ kind: 'sheet', id: 'two', field: 'sheet' }]);
      expect(ids(job)).toEqual(['one', 'two']);
      expect(allBlocks(job).find(({ id }) => id === 'd')?.style.sizePt).toBe(30);
    }
    expect(mergerOf(base, copyOf(without(base)))(base)).toEqual({ job: without(base), clashes: [] });
    expect(mergerOf(base, copyOf(base))(without(base))).toEqual({ job: without(base), clashes: [] });
  });

  it('takes what is theirs where that is preferred, for fields of job and sheet too', () => {
    const prefer = { prefer: 'theirs' } as const;
    expect(mergerOf(base, retitle(base, 'Theirs'), prefer)(retitle(base, 'Mine')).job.title).toBe('Theirs');
    expect(mergerOf(base, retitle(base, 'Theirs'))(retitle(base, 'Mine')).job.title).toBe('Mine');
    const named = (name: string): Job => withSheet(base, 'one', { name });
    expect(mergerOf(base, named('T'), prefer)(named('M')).job.sheets[0]?.name).toBe('T');
    expect(mergerOf(base, named('T'))(named('M')).job.sheets[0]?.name).toBe('M');
    // What only one of them did is no clash, and both did the same neither.
    expect(mergerOf(base, named('T'))(retitle(base, 'Mine'))).toEqual({ job: retitle(named('T'), 'Mine'), clashes: [] });
    expect(mergerOf(base, named('T'))(named('T')).clashes).toEqual([]);
  });

  it('puts frames and styles together member by member, and leadings of lines place by place', () => {
    const options = { withinBlocks: true } as const;
    const edit = (change: (block: Block) => Block): Job => updateBlock(base, 'a', change);
    const blockOf = (job: Job): Block => allBlocks(job).find(({ id }) => id === 'a')!;
    const wide = edit((block) => ({ ...block, frame: { ...block.frame, xPt: 11 }, lineLeading: [{ at: 1, byPt: 5 }] }));
    const low = edit((block) => ({ ...block, frame: { ...block.frame, yPt: 22 }, lineLeading: [{ at: 3, byPt: 7 }], lineIndents: [{ at: 2, byPt: 1 }] }));
    const { job, clashes } = mergerOf(base, copyOf(low), options)(wide);
    expect(clashes).toEqual([]);
    expect(blockOf(job)).toEqual(
      jasmine.objectContaining({
        frame: { ...frame, xPt: 11, yPt: 22 },
        lineLeading: [
          { at: 1, byPt: 5 },
          { at: 3, byPt: 7 },
        ],
        lineIndents: [{ at: 2, byPt: 1 }],
      }),
    );
    // The same place twice is a clash, and mine stays.
    const other = mergerOf(base, copyOf(edit((block) => ({ ...block, lineLeading: [{ at: 1, byPt: 9 }] }))), options)(wide);
    expect([other.clashes, blockOf(other.job).lineLeading]).toEqual([[{ kind: 'block', id: 'a' }], [{ at: 1, byPt: 5 }]]);
    // What nobody else touched is the very same object: it isn't set anew.
    const sized = mergerOf(base, copyOf(restyle(base, 'a', { sizePt: 30 })), options)(wide).job;
    expect([blockOf(sized).style.sizePt, blockOf(sized).lineLeading === blockOf(wide).lineLeading, blockOf(sized).frame === blockOf(wide).frame]).toEqual([
      30,
      true,
      true,
    ]);
    // A value taken away is away.
    const led = edit((block) => ({
      ...block,
      lineLeading: [
        { at: 1, byPt: 5 },
        { at: 3, byPt: 7 },
      ],
    }));
    const fewer = updateBlock(led, 'a', (block) => ({ ...block, lineLeading: block.lineLeading.slice(1) }));
    expect(blockOf(mergerOf(led, copyOf(fewer), options)(restyle(led, 'a', { sizePt: 44 })).job).lineLeading).toEqual([{ at: 3, byPt: 7 }]);
  });

  it('keeps the order of whoever moved things, and puts what only the other has behind what it stands behind there', () => {
    const order = (job: Job): string => (job.sheets[0]?.blocks ?? []).map(({ id }) => id).join(' ');
    const inOrder = (job: Job, ...ids: string[]): Job => ({
      ...job,
      sheets: job.sheets.map((sheet) => (sheet.id === 'one' ? { ...sheet, blocks: ids.map((id) => sheet.blocks.find((block) => block.id === id)!) } : sheet)),
    });
    const added = addBlock(base, 'one', createBlock('n', 'new', frame));
    const moved = inOrder(base, 'c', 'a', 'b');
    const between = inOrder(added, 'a', 'n', 'b', 'c');
    expect([order(mergerOf(base, copyOf(between))(moved).job), order(mergerOf(base, copyOf(moved))(between).job)]).toEqual(['c a n b', 'c a n b']);
    const front = inOrder(added, 'n', 'a', 'b', 'c');
    expect([order(mergerOf(base, copyOf(front))(moved).job), order(mergerOf(base, copyOf(moved))(front).job)]).toEqual(['n c a b', 'n c a b']);
    // Both moved: mine.
    expect(order(mergerOf(base, copyOf(inOrder(base, 'b', 'a', 'c')))(moved).job)).toBe('c a b');
    // Taking away is no moving.
    expect(order(mergerOf(base, copyOf(moved))(removeBlock(base, 'a')).job)).toBe('c b');
    expect(order(mergerOf(base, copyOf(removeBlock(base, 'a')))(moved).job)).toBe('c b');
  });

  it('counts everything in which jobs differ when it looks for what others started from', () => {
    const reversed = (job: Job): Job => ({ ...job, sheets: job.sheets.map((sheet) => ({ ...sheet, blocks: [...sheet.blocks].reverse() })) });
    const starts: Record<string, Job> = {
      'a title': retitle(base, 'Sent'),
      'a sheet’s name': withSheet(base, 'two', { name: 'Sent' }),
      'an order': reversed(base),
      'a block': restyle(base, 'd', { sizePt: 99 }),
      'a block more': addBlock(base, 'two', createBlock('n', 'new', frame)),
    };
    for (const [what, sent] of Object.entries(starts)) {
      // They changed something else since.
      expect(startedFrom(base, [sent], copyOf(restyle(sent, 'b', { sizePt: 31 }))))
        .withContext(what)
        .toBe(sent);
      expect(startedFrom(base, [sent], copyOf(restyle(base, 'b', { sizePt: 31 }))))
        .withContext(what)
        .toBe(base);
    }
    const [first, second] = [starts['a title']!, restyle(starts['a title']!, 'a', { sizePt: 12 })];
    expect(startedFrom(base, [first, second], copyOf(second))).toBe(second);
    expect(startedFrom(base, [second, first], copyOf(first))).toBe(first);
  });
});
