import { type Block, type Job, createBlock, createJob, createSheet, findBlock, updateBlock, withHand } from '../job';
import { shippedFaces } from '../testing';
import { type FaceSet, type GapLedger, ledgersOf, setBlock } from '../setting';
import { type GivenWhite, type WhiteTarget, giveWhite } from '.';

describe('giving the white of a gap', () => {
  let faces: FaceSet;
  beforeAll(async () => (faces = await shippedFaces('source-sans-3-regular', 'playfair-display-bold', 'eb-garamond-italic')));

  const block = (id: string, words: string, change: Partial<Block['style']> = {}): Block =>
    createBlock(id, words, { xPt: 20, yPt: 20, widthPt: 2000, heightPt: 100 }, { faceId: 'playfair-display-bold', sizePt: 60, ...change });
  const jobOf = (...sheets: Block[][]): Job => ({
    ...createJob('t', () => 's'),
    sheets: sheets.map((blocks, i) => ({ ...createSheet(`s${i}`, 'Sheet', 2000, 800, 'pt'), blocks })),
  });
  const ledgers = (job: Job, id: string): GapLedger[] => {
    const one = findBlock(job, id);
    return one ? setBlock(one, faces).lines.flatMap((line) => ledgersOf(one, line, faces)) : [];
  };
  const whiteAt = (job: Job, id: string, at: number): number | undefined => ledgers(job, id).find((gap) => gap.at === at)?.whiteMilliem;
  const given = (job: Job, at: number, to: WhiteTarget, whiteMilliem?: number): GivenWhite & { after: Job } => {
    const made = giveWhite(job, { blockId: 'a', at, whiteMilliem }, to, faces);
    if (!made) throw new Error('No white');
    return { ...made, after: made.hand.reduce((next, { blockId, at: place, milliem }) => withHand(next, blockId, place, milliem), job) };
  };

  it('gives picked gaps exactly it, whatever their letters, source, tracking and size', () => {
    for (const kerning of ['font', 'weighed', 'shape', 'off'] as const) {
      const job = jobOf([block('a', 'HAVEN Toy', { kerning, trackingMilliem: 12 })], [block('b', 'wary', { faceId: 'eb-garamond-italic', sizePt: 21 })]);
      const to: WhiteTarget = {
        kind: 'gaps',
        gaps: [
          { blockId: 'a', at: 2 },
          { blockId: 'a', at: 8 },
          { blockId: 'b', at: 1 },
        ],
      };
      const { whiteMilliem, hand, after } = given(job, 1, to);
      expect(whiteMilliem).toBe(whiteAt(job, 'a', 1) ?? Number.NaN);
      expect(hand.length).toBe(3);
      for (const { blockId, at } of to.gaps)
        expect(Math.abs((whiteAt(after, blockId, at) ?? 0) - whiteMilliem))
          .withContext(`${kerning} ${blockId} ${at}`)
          .toBeLessThanOrEqual(1);
      // Nothing else moves.
      expect(ledgers(after, 'a').filter(({ handMilliem }) => handMilliem !== 0).length).toBeLessThanOrEqual(2);
    }
  });

  it('gives all gaps of its kind in its line, and no others', () => {
    const job = jobOf([block('a', 'HNIMOUH\nHIN')]);
    const all = ledgers(job, 'a');
    const kind = all[0]?.pair;
    const alike = all.filter(({ at, pair }) => at > 1 && at < 7 && pair === kind).map(({ at }) => at);
    expect(alike.length).toBeGreaterThan(0);
    const { hand } = given(withHand(job, 'a', 1, 40), 1, { kind: 'alike' });
    expect(hand.map(({ at }) => at)).toEqual(alike);
  });

  it('gives the same letters elsewhere: in the block, on the sheet, in the job', () => {
    const job = withHand(
      jobOf([block('a', 'VAVA'), block('b', 'LAVA', { sizePt: 20 })], [block('c', 'VALE VAT', { faceId: 'source-sans-3-regular' })]),
      'a',
      1,
      -60,
    );
    const places = (scope: Extract<WhiteTarget, { kind: 'pair' }>['in']): string[] =>
      given(job, 1, { kind: 'pair', in: scope }).hand.map(({ blockId, at }) => `${blockId}${at}`);
    expect(places({ kind: 'block', id: 'a' })).toEqual(['a3']);
    expect(places({ kind: 'sheet', id: 's0' })).toEqual(['a3', 'b3']);
    expect(places({ kind: 'job' })).toEqual(['a3', 'b3', 'c1', 'c6']);
    const { whiteMilliem, after } = given(job, 1, { kind: 'pair', in: { kind: 'job' } });
    expect(Math.abs((whiteAt(after, 'c', 6) ?? 0) - whiteMilliem)).toBeLessThanOrEqual(1);
  });

  it('takes a white as a number', () => {
    const { after } = given(
      jobOf([block('a', 'VAT')]),
      1,
      {
        kind: 'gaps',
        gaps: [
          { blockId: 'a', at: 1 },
          { blockId: 'a', at: 2 },
        ],
      },
      150,
    );
    expect(ledgers(after, 'a').map(({ whiteMilliem }) => whiteMilliem)).toEqual([150, 150]);
  });

  it('has none beside a space, for joined letters and in a locked block, nor from them', () => {
    const job = jobOf([block('a', 'A to')]);
    const all: WhiteTarget = { kind: 'gaps', gaps: [1, 2, 3].map((at) => ({ blockId: 'a', at })) };
    expect(giveWhite(job, { blockId: 'a', at: 1 }, all, faces)).toBeUndefined();
    expect(giveWhite(job, { blockId: 'x', at: 1 }, all, faces)).toBeUndefined();
    expect(given(job, 3, all).hand.map(({ at }) => at)).toEqual([3]);
    expect(
      given(
        updateBlock(job, 'a', (one) => ({ ...one, locked: true })),
        3,
        all,
      ).hand,
    ).toEqual([]);
  });
});
