import { type Job, addBlock, createBlock, createJob, restyle } from '../job';
import { putTogether, takeApart } from '.';

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

  it('says so where a piece is missing', () => {
    const { root } = takeApart(job, keyOf);
    expect(() => putTogether({ root, pieces: new Map() })).toThrowError('A part of it is missing.');
  });
});
