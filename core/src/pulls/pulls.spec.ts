import { type Job, addBlock, createBlock, createJob, restyle } from '../job';
import { type PullArchive, pullArchiveSchema, archivedPulls, putTogether, takeApart } from '.';

describe('a job in pieces', () => {
  let n = 0;
  const frame = { xPt: 0, yPt: 0, widthPt: 10, heightPt: 10 };
  const start = createJob('Open day', () => `id${n++}`);
  const sheet = start.sheets[0]!;
  const job: Job = addBlock(start, sheet.id, createBlock('second', 'Tea and cocoa', frame));
  const keyOf = (text: string): string => text;

  it('is itself when it is put together', () => {
    expect(JSON.parse(putTogether(takeApart(job, keyOf)))).toEqual(JSON.parse(JSON.stringify(job)));
  });

  it('shares what did not change: an edit of one block is that block, its sheet and the root', () => {
    const [before, after] = [takeApart(job, keyOf), takeApart(restyle(job, 'second', { sizePt: 9 }), keyOf)];
    expect([...after.pieces.keys()].filter((key) => !before.pieces.has(key)).length).toBe(2);
    expect(before.pieces.size).toBe(3);
    // The same twice is there once.
    expect(takeApart({ ...job, sheets: [sheet, sheet] }, keyOf).pieces.size).toBe(2);
  });

  it('goes into a file with others, what they share once, and comes out as it was', () => {
    const states = [job, restyle(job, 'second', { sizePt: 9 })];
    const apart = states.map((one) => takeApart(one, keyOf));
    const archive: PullArchive = {
      pulls: apart.map(({ root, pieces }, i) => ({ name: `${i}`, reason: 'hand', createdAt: '2026-11-27T10:00:00.000Z', root, parts: [...pieces.keys()] })),
      pieces: Object.fromEntries(apart.flatMap(({ pieces }) => [...pieces])),
    };
    expect(archivedPulls(archive).map(({ document }) => JSON.parse(document) as Job)).toEqual(JSON.parse(JSON.stringify(states)) as Job[]);
    expect(() => archivedPulls({ ...archive, pieces: {} })).toThrowError('A part of it is missing.');
    expect(pullArchiveSchema.safeParse({ pulls: [{ name: '' }], pieces: {} }).success).toBeFalse();
  });

  it('says so where a piece is missing', () => {
    const { root } = takeApart(job, keyOf);
    expect(() => putTogether({ root, pieces: new Map() })).toThrowError('A part of it is missing.');
  });
});
