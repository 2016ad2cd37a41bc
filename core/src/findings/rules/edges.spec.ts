import { type Block, type Job, USUAL_EDGES, createBlock, createJob, createSheet } from '../../job';
import { type FaceSet, inkOf, seenLines, setBlock } from '../../setting';
import { shippedFaces } from '../../testing';
import { type JobFinding, acceptFinding, checkJob, judgingOf } from '..';

const FACE = 'playfair-display-bold';

describe('edges that look out of line', () => {
  let faces: FaceSet;
  beforeAll(async () => (faces = await shippedFaces(FACE, 'source-sans-3-regular')));

  const block = (id: string, words: string, change: Partial<Block> = {}, sizePt = 120): Block => ({
    ...createBlock(id, words, { xPt: 60, yPt: 60, widthPt: 900, heightPt: 100 }, { faceId: FACE, sizePt }),
    ...change,
  });
  const jobOf = (...blocks: Block[]): Job => ({
    ...createJob('t', () => 's'),
    kind: 'flyer',
    sheets: [{ ...createSheet('s', 'Sheet', 1020, 900, 'pt'), margins: { topPt: 0, rightPt: 0, bottomPt: 0, leftPt: 0 }, blocks }],
  });
  const found = (job: Job, rule: string): JobFinding[] => checkJob(job, faces).findings.filter((finding) => finding.rule === rule);
  /** Where lines are seen to begin and end. */
  const seen = (one: Block) => seenLines(one, setBlock(one, faces), faces).map((line) => line!);
  /** The smallest visible deviation in points: a twentieth of the size, or a point at arm's length. */
  const least = (job: Job, sizePt: number): number => Math.max(0.05 * sizePt, judgingOf(job, job.sheets[0]!).distanceMm / 450);
  const median = (values: number[]): number => values.sort((a, b) => a - b)[Math.floor(values.length / 2)]!;

  const HEADS = [
    'Hills\nHeath\nTents',
    'Hills\n“Heath”\nHouse',
    'Oval\nHills\nNorth',
    'Tents\nVales\nHills',
    'HHH\nHHH',
    'yew\nHeath\njoy',
    '“Look”\nHere\nHere',
  ];

  it('are those of the line that stands farthest from the middle one, at either side', () => {
    let told = 0;
    for (const words of HEADS)
      for (const align of ['left', 'right', 'justified'] as const)
        for (const sizePt of [24, 60, 120]) {
          const one = block('a', words, { align }, sizePt);
          const job = jobOf(one);
          const at = seen(one).map(({ leftPt, rightPt, start }) => ({ start, xPt: align === 'right' ? rightPt : leftPt }));
          const middle = median(at.map(({ xPt }) => xPt));
          const worst = [...at].sort((a, b) => Math.abs(b.xPt - middle) - Math.abs(a.xPt - middle))[0]!;
          const off = worst.xPt - middle;
          const all = found(job, 'uneven-edge');
          if (Math.abs(off) < least(job, sizePt)) expect(all).withContext(`${words} ${align} ${sizePt}`).toEqual([]);
          else {
            told++;
            const inside = align === 'right' ? off < 0 : off > 0;
            expect(all.map(({ at: place, subject, message }) => [place, subject, message])).toEqual([
              [
                worst.start,
                words.slice(worst.start, worst.start + 3),
                `${Math.abs(off).toFixed(1).replace(/\.0$/, '')} pt ${inside ? 'inside' : 'outside'} the optical edge`,
              ],
            ]);
            expect(all[0]?.severity).toBe('notice');
            expect(all[0]?.visiblePt).toBeCloseTo(Math.abs(off) / 2, 6);
            expect(found(acceptFinding(job, all[0]!), 'uneven-edge')).toEqual([]);
          }
        }
    expect(told).toBeGreaterThan(6);
  });

  it('are not looked for at small sizes, where edges are set by eye, in single or centred lines, in fits, nor in lines that are indented', () => {
    const [words = ''] = HEADS.filter((one) => found(jobOf(block('a', one)), 'uneven-edge').length > 0);
    const none = (change: Partial<Block>, sizePt?: number): void => expect(found(jobOf(block('a', words, change, sizePt)), 'uneven-edge')).toEqual([]);
    none({}, 23.9);
    none({ edges: USUAL_EDGES });
    none({ align: 'centre' });
    none({ words: words.split('\n')[0] ?? '' });
    const [worst] = found(jobOf(block('a', words)), 'uneven-edge');
    none({ lineIndents: [{ at: worst!.at, byPt: 30 }] });
    const indented = block('a', words, { paragraph: { indentPt: 40, beforePt: 0, afterPt: 0, list: 'none' } });
    expect(found(jobOf(indented), 'uneven-edge')).toEqual([]);
  });

  it('centred lines are those whose letters are off the middle for their marks', () => {
    let told = 0;
    for (const words of ['“Look up”', '“Look up', 'Look up …”', '— Look', 'Look up', 'Stars.”\nLook', '“Oval\n“Oval”'])
      for (const sizePt of [20, 24, 100]) {
        const one = block('a', words, { align: 'centre' }, sizePt);
        const job = jobOf(one);
        const middle = 60 + 900 / 2;
        const expected = seen(one).flatMap(({ start, end, marked, letters }) => {
          const off = (letters.leftPt + letters.rightPt) / 2 - middle;
          if (sizePt < 24 || !marked || Math.abs(off) < least(job, sizePt)) return [];
          return [
            [
              start,
              one.words.slice(start, end).slice(0, 12),
              `letters ${Math.abs(off).toFixed(1).replace(/\.0$/, '')} pt ${off < 0 ? 'left' : 'right'} of centre`,
            ],
          ];
        });
        const all = found(job, 'centred-on-marks').sort((a, b) => a.at - b.at);
        expect(all.map(({ at, subject, message }) => [at, subject, message]))
          .withContext(words)
          .toEqual(expected as never);
        told += all.length;
        for (const finding of all) expect(found(acceptFinding(job, finding), 'centred-on-marks').filter(({ at }) => at === finding.at)).toEqual([]);
        expect(found(jobOf({ ...one, align: 'left' }), 'centred-on-marks')).toEqual([]);
        expect(found(jobOf({ ...one, edges: USUAL_EDGES }), 'centred-on-marks')).toEqual([]);
      }
    expect(told).toBeGreaterThan(2);
  });

  it('blocks on one margin are told of the one that departs from the middle of them', () => {
    let told = 0;
    const down = (one: Block, yPt: number): Block => ({ ...one, frame: { ...one.frame, yPt } });
    for (const [first, second, third] of [
      ['Heath', 'Oval', 'Tents'],
      ['Tents', 'Heath', 'House'],
      ['Heath', 'House', 'Inn'],
      ['Vale', 'Heath', 'Look'],
    ] as const)
      for (const side of ['left', 'right'] as const)
        for (const small of [24, 60]) {
          const align = side;
          const blocks = [block('a', first, { align }, 160), down(block('b', second, { align }, small), 320), down(block('c', third, { align }, 90), 500)];
          const job = jobOf(...blocks);
          const at = blocks.map((one) => {
            const [line] = seen(one);
            return { id: one.id, words: one.words, sizePt: one.style.sizePt, xPt: side === 'right' ? line!.rightPt : line!.leftPt };
          });
          const sorted = [...at].sort((a, b) => a.xPt - b.xPt);
          const middle = sorted[1]!;
          const expected = at.flatMap((one) => {
            const off = Math.abs(one.xPt - middle.xPt);
            const [low, high] = [Math.min(one.sizePt, middle.sizePt), Math.max(one.sizePt, middle.sizePt)];
            return one === middle || high < 24 || off < Math.max(least(job, low), 0.05 * high)
              ? []
              : [`${one.id} ${middle.words.slice(0, 3)} ${one.words.slice(0, 3)}: optical edges ${off.toFixed(1).replace(/\.0$/, '')} pt apart on one margin`];
          });
          const all = found(job, 'blocks-out-of-line');
          expect(all.map(({ blockId = '', subject, message }) => `${blockId} ${subject}: ${message}`).sort())
            .withContext(`${first} ${second} ${third} ${side}`)
            .toEqual(expected.sort());
          told += all.length;
          // Apart from each other, or turned, they stand on no margin together.
          expect(found(jobOf(...blocks.map((one, i) => ({ ...one, frame: { ...one.frame, xPt: 60 + i, widthPt: 900 } }))), 'blocks-out-of-line')).toEqual([]);
          expect(found(jobOf(...blocks.map((one) => ({ ...one, rotationDeg: 5 }))), 'blocks-out-of-line')).toEqual([]);
          expect(found(jobOf(...blocks.map((one) => ({ ...one, edges: USUAL_EDGES }))), 'blocks-out-of-line')).toEqual([]);
        }
    expect(told).toBeGreaterThan(3);
  });

  it('a centred block that is nearly in the middle of its sheet is moved there; one farther off was meant to stand where it does', () => {
    const at = (byPt: number, change: Partial<Block> = {}): Job =>
      jobOf(block('a', 'Heath', { align: 'centre', frame: { xPt: 60 + byPt, yPt: 60, widthPt: 900, heightPt: 100 }, ...change }));
    for (const byPt of [-15, -9, 7, 15]) {
      const all = found(at(byPt), 'nearly-centred');
      expect(all.map(({ message, subject, visiblePt }) => [message, subject, visiblePt])).toEqual([
        [`${Math.abs(byPt)} pt ${byPt < 0 ? 'left' : 'right'} of the sheet’s centre`, 'Heath', Math.abs(byPt) / 2],
      ]);
      expect(all[0]?.proposal).toEqual({ frame: { xPt: 60 } });
      expect(found(acceptFinding(at(byPt), all[0]!), 'nearly-centred')).toEqual([]);
    }
    for (const job of [at(0), at(5.9), at(16), at(-16), at(9, { align: 'left' }), at(9, { rotationDeg: 3 }), at(9, { locked: true })])
      expect(found(job, 'nearly-centred')).toEqual([]);
    // What stands on a path is where its ink is.
    const ridden = at(0, { path: { kind: 'circle', radiusPt: 200 } as never });
    const ink = inkOf(setBlock(ridden.sheets[0]!.blocks[0]!, faces), faces)!;
    const off = (ink.leftPt + ink.rightPt) / 2 - 510;
    expect(found(ridden, 'nearly-centred').length).toBe(Math.abs(off) >= least(ridden, 120) && Math.abs(off) <= 15.3 ? 1 : 0);
  });
});
