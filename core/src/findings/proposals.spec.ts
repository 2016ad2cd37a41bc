import { type Block, type Job, createBlock, createJob, createSheet, findBlock } from '../job';
import { setBlock } from '../setting';
import { headline, shippedFaces } from '../testing';
import { type Finding, acceptFinding, acceptFindings, inspectBlock } from '.';
import { byVisibility, isSilenced, pairOf } from './finding';

const frame = { xPt: 10, yPt: 20, widthPt: 300, heightPt: 100 };

describe('a proposal', () => {
  const job: Job = {
    ...createJob('t', () => 's'),
    sheets: [{ ...createSheet('one', 'Sheet', 600, 800, 'pt'), blocks: [createBlock('a', 'one two three', frame), createBlock('b', 'AVATAR', frame)] }],
  };
  const after = (proposal: NonNullable<Finding['proposal']>): Block => findBlock(acceptFinding(job, { blockId: 'a', proposal }), 'a')!;

  it('is carried out by what it names', () => {
    expect(
      after({
        hand: [
          { at: 1, milliem: -20 },
          { at: 2, milliem: 5 },
        ],
      }).hand,
    ).toEqual([
      { at: 1, milliem: -20 },
      { at: 2, milliem: 5 },
    ]);
    expect(after({ style: { trackingMilliem: 7 } }).style.trackingMilliem).toBe(7);
    expect(
      after({
        ranges: [
          { start: 0, end: 3, style: { colour: '#ff0000' } },
          { start: 4, end: 7, style: { colour: '#00ff00' } },
        ],
      }).runs,
    ).toEqual([
      { start: 0, end: 3, style: { colour: '#ff0000' } },
      { start: 4, end: 7, style: { colour: '#00ff00' } },
    ]);
    expect(after({ words: [{ start: 4, end: 7, insert: 'ten' }] }).words).toBe('one ten three');
    expect(after({ tighten: [{ start: 0, end: 7, milliem: -8 }] }).tightened).toEqual([{ start: 0, end: 7, milliem: -8 }]);
    expect(after({ frame: { widthPt: 320 } }).frame).toEqual({ ...frame, widthPt: 320 });
    expect(after({ settings: { align: 'centre' } }).align).toBe('centre');
    const both = after({ style: { sizePt: 20 }, frame: { widthPt: 320 } });
    expect([both.style.sizePt, both.frame.widthPt]).toEqual([20, 320]);
  });

  it('that names no block, or is none, changes nothing', () => {
    for (const proposal of [
      { hand: [{ at: 1, milliem: -20 }] },
      { style: { trackingMilliem: 7 } },
      { ranges: [{ start: 0, end: 3, style: { colour: '#ff0000' } }] },
      { words: [{ start: 4, end: 7, insert: 'ten' }] },
      { tighten: [{ start: 0, end: 7, milliem: -8 }] },
      { frame: { widthPt: 320 } },
      { settings: { align: 'centre' as const } },
    ])
      expect(acceptFinding(job, { proposal })).toBe(job);
    expect(acceptFinding(job, { blockId: 'a' })).toBe(job);
  });

  it('among several is carried out from the end, and of two on the same letters the first one holds', () => {
    const edits = (...all: [start: number, end: number, insert: string][]) =>
      findBlock(
        acceptFindings(
          job,
          all.map(([start, end, insert]) => ({ blockId: 'a', at: start, proposal: { words: [{ start, end, insert }] } })),
        ),
        'a',
      )!.words;
    expect(edits([0, 3, 'eleven'], [8, 13, 'ten'], [4, 7, 'x'])).toBe('eleven x ten');
    expect(edits([4, 7, 'x'], [5, 6, 'LONG'])).toBe('one tLONGo three');
    expect(edits([3, 4, '-'], [4, 7, 'x'])).toBe('one-x three');
    // In another block, they are apart.
    const two = acceptFindings(job, [
      { blockId: 'a', at: 4, proposal: { words: [{ start: 4, end: 7, insert: 'x' }] } },
      { blockId: 'b', at: 5, proposal: { words: [{ start: 5, end: 6, insert: 'S' }] } },
    ]);
    expect(['a', 'b'].map((id) => findBlock(two, id)?.words)).toEqual(['one x three', 'AVATAS']);
    // What changes no words is in nobody’s way.
    const mixed = acceptFindings(job, [
      { blockId: 'a', at: 5, proposal: { words: [{ start: 4, end: 7, insert: 'x' }] } },
      { blockId: 'a', at: 4, proposal: { style: { trackingMilliem: 3 } } },
    ]);
    expect([findBlock(mixed, 'a')?.words, findBlock(mixed, 'a')?.style.trackingMilliem]).toEqual(['one x three', 3]);
  });
});

describe('findings', () => {
  const finding = (visiblePt: number, at: number, certainty?: number): Finding => ({
    ...{ rule: 'r', pass: 'kerning', name: 'R', at, severity: 'notice', visiblePt, subject: '', message: '' },
    ...(certainty === undefined ? {} : { certainty }),
  });

  it('come in the order in which they are seen, as far as they are sure, and from left to right', () => {
    const all = [finding(2, 5), finding(3, 1, 0.5), finding(2, 3), finding(9, 9, 0.1)];
    expect([...all].sort(byVisibility).map(({ at }) => at)).toEqual([3, 5, 1, 9]);
  });

  it('are silenced by rule and place', () => {
    const intended = [{ rule: 'r', at: 3 }] as unknown as Block['intended'];
    expect([finding(1, 3), finding(1, 4), { ...finding(1, 3), rule: 'q' }].map((one) => isSilenced({ intended }, one))).toEqual([true, false, false]);
  });

  it('name a gap by its letters', () => {
    const block = createBlock('a', 'AVAT', frame);
    expect(pairOf(block, { left: { start: 1, end: 2 }, right: { start: 2, end: 3 } })).toBe('VA');
  });
});

describe('a proposal that is taken', () => {
  it('brings no new complaint about the same letters', async () => {
    const faces = await shippedFaces('playfair-display-bold', 'source-sans-3-regular', 'eb-garamond-italic', 'league-gothic-regular');
    const lines = [
      '"Two"  nights -- and "one"',
      '1st 2nd 3rd May 2026',
      'AVATAR To Wave',
      '10.5 x 20 cm, 5 - 7 pm',
      'H2O, CO2, 3/4 cup',
      'Read on...',
      '(c) 2026 Harbour Lamp(TM)',
      "it's 5'10\" tall",
    ];
    const of = (block: Block): readonly Finding[] => inspectBlock(block, setBlock(block, faces), faces).findings;
    let taken = 0;
    for (const words of lines) {
      for (const faceId of ['playfair-display-bold', 'source-sans-3-regular', 'eb-garamond-italic', 'league-gothic-regular']) {
        for (const style of [{ sizePt: 12 }, { sizePt: 72 }, { sizePt: 160, trackingMilliem: 60 }, { sizePt: 72, trackingMilliem: -60 }]) {
          const plain = headline(words);
          const block = { ...plain, style: { ...plain.style, faceId, ...style } };
          const before = of(block);
          for (const finding of before.filter(({ proposal }) => proposal)) {
            const job = createJob('t', () => 's');
            const alone = { ...job, sheets: job.sheets.map((sheet) => ({ ...sheet, blocks: [block] })) };
            const after = findBlock(acceptFinding(alone, { ...finding, blockId: block.id }), block.id)!;
            const longer = after.words.length - block.words.length;
            const fresh = of(after).filter(
              ({ rule, at }) =>
                Math.min(Math.abs(at - finding.at), Math.abs(at - finding.at - longer)) <= 1 &&
                !before.some((one) => one.rule === rule && (one.at === at || one.at === at - longer)),
            );
            // Copy that is tracked so tightly that most of it touches is complained of whatever stands there.
            const told = fresh.filter(({ rule }) => style.trackingMilliem !== -60 || rule !== 'touching').filter(({ rule }) => rule !== 'same-pair');
            expect(told.map(({ rule, subject }) => `${rule} ${subject}`))
              .withContext(`${finding.rule} ${finding.subject} in ${faceId} ${JSON.stringify(style)}`)
              .toEqual([]);
            taken++;
          }
        }
      }
    }
    expect(taken).toBeGreaterThan(200);
  });
});
