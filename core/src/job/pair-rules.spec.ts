import { headline } from '../testing';
import { clearHand, findBlock, handOf, nudgeHand, withHand } from './edits';
import { countPair, pairAt, removePairRule, ruleAt, withPairRule } from './pair-rules';
import { resolveBlock, resolveSheet } from './resolve';
import type { Job } from './schema';
import { createJob, jobSchema } from '.';

/** Two sheets: `AVAVA VA` and `VA` on the first, `VAVA` on the second. */
function sample(): Job {
  let id = 0;
  const job = createJob('Pairs', () => `id${id++}`);
  const [sheet] = job.sheets;
  if (!sheet) throw new Error('no sheet');
  return {
    ...job,
    sheets: [
      {
        ...sheet,
        blocks: [
          { ...headline('AVAVA VA'), id: 'a' },
          { ...headline('VA'), id: 'b' },
        ],
      },
      { ...sheet, id: 'second', blocks: [{ ...headline('VAVA'), id: 'c' }] },
    ],
  };
}
const FACE = 'playfair-display-bold';
const VA = { left: 'V', right: 'A', faceId: FACE };
const handIn = (job: Job, id: string): [number, number][] => {
  for (const sheet of job.sheets) {
    const block = sheet.blocks.find((candidate) => candidate.id === id);
    if (block) return resolveBlock(job, sheet.id, block).hand.map(({ at, milliem }) => [at, milliem]);
  }
  return [];
};

describe('pair rule', () => {
  it('names the pair at a gap by its graphemes and face', () => {
    expect(pairAt(headline('VA'), 1)).toEqual(VA);
    expect(pairAt(headline('V A'), 1)).toBeUndefined();
    expect(pairAt(headline('xe\u0301x'), 3)?.left).toBe('e\u0301');
    expect(pairAt(headline('xe\u0301x'), 2)).toBeUndefined();
  });

  it('gives every such pair of its scope one value, in block, sheet or job', () => {
    const job = sample();
    const sheetId = job.sheets[0]?.id ?? '';
    expect(countPair(job, VA, { kind: 'job' })).toBe(6);
    expect(countPair(job, VA, { kind: 'sheet', id: sheetId })).toBe(4);
    const inBlock = withPairRule(job, VA, -20, { kind: 'block', id: 'a' });
    expect([handIn(inBlock, 'a'), handIn(inBlock, 'b')]).toEqual([
      [
        [2, -20],
        [4, -20],
        [7, -20],
      ],
      [],
    ]);
    const inSheet = withPairRule(job, VA, -20, { kind: 'sheet', id: sheetId });
    expect([handIn(inSheet, 'b'), handIn(inSheet, 'c')]).toEqual([[[1, -20]], []]);
    const inJob = withPairRule(job, VA, -20, { kind: 'job' });
    expect(handIn(inJob, 'c')).toEqual([
      [1, -20],
      [3, -20],
    ]);
    expect(jobSchema.parse(inJob)).toEqual(inJob);
  });

  it('lets the narrower rule and the gap’s own value win, and own values give way to a new rule', () => {
    let job = withPairRule(sample(), VA, -20, { kind: 'job' });
    job = withPairRule(job, VA, -5, { kind: 'block', id: 'a' });
    expect(handIn(job, 'a')).toEqual([
      [2, -5],
      [4, -5],
      [7, -5],
    ]);
    expect(handIn(job, 'b')).toEqual([[1, -20]]);
    job = withHand(job, 'a', 4, 33);
    expect(handIn(job, 'a')).toEqual([
      [2, -5],
      [4, 33],
      [7, -5],
    ]);
    job = withPairRule(job, VA, -7, { kind: 'block', id: 'a' });
    expect(handIn(job, 'a')).toEqual([
      [2, -7],
      [4, -7],
      [7, -7],
    ]);
    expect(job.pairs.length).toBe(2);
  });

  it('is what a gap steps from, can be overridden by 0, and comes back when the own value is cleared', () => {
    let job = withPairRule(sample(), VA, -20, { kind: 'job' });
    job = nudgeHand(job, 'b', 1, -2);
    expect(findBlock(job, 'b')?.hand).toEqual([{ at: 1, milliem: -22 }]);
    job = withHand(job, 'b', 1, 0);
    expect(findBlock(job, 'b')?.hand).toEqual([{ at: 1, milliem: 0 }]);
    expect(handIn(job, 'b')).toEqual([[1, 0]]);
    job = clearHand(job, 'b', 1);
    expect(handOf(job, 'b', 1)).toBe(-20);
    expect(withHand(job, 'b', 1, -20)).toBe(job);
  });

  it('holds for its own face only, and can be removed', () => {
    let job = withPairRule(sample(), { ...VA, faceId: 'other' }, -20, { kind: 'job' });
    expect(handIn(job, 'b')).toEqual([]);
    job = withPairRule(sample(), VA, -20, { kind: 'job' });
    const rule = ruleAt(job, 'b', 1);
    expect(rule?.milliem).toBe(-20);
    expect(rule && handIn(removePairRule(job, rule), 'b')).toEqual([]);
  });

  it('resolves a sheet to the same objects while nothing changes, and leaves jobs without rules alone', () => {
    const plain = sample();
    const [sheet] = plain.sheets;
    expect(sheet && resolveSheet(plain, sheet)).toBe(sheet);
    const job = withPairRule(plain, VA, -20, { kind: 'job' });
    const [first] = job.sheets;
    if (!first) throw new Error('no sheet');
    expect(resolveSheet(job, first).blocks[0]).toBe(resolveSheet(job, first).blocks[0]);
  });
});
