import { readFileSync } from 'node:fs';
import { Face } from '../../face';
import { type Block, type Job, type Path, type Run, createJob } from '../../job';
import { headline, shippedFaces } from '../../testing';
import { FaceSet } from '../../setting';
import { checkJob } from '../whole-job';
import { acceptFindings } from '../proposals';
import { JOB_RULES } from '../job-rules';
import { SHIFTED } from './shifted';

describe('findings of shifted letters', () => {
  let faces: FaceSet;
  beforeAll(async () => {
    faces = await shippedFaces('playfair-display-bold', 'source-sans-3-regular');
  });
  const jobOf = (...blocks: Block[]): Job => {
    const job = createJob('A job', () => 'id', 'pt');
    return { ...job, sheets: [{ ...job.sheets[0]!, id: 's', blocks: blocks.map((block, i) => ({ ...block, id: `b${i}` })) }] };
  };
  const runs = (...all: [start: number, end: number, style: Run['style']][]): Pick<Block, 'runs'> => ({
    runs: all.map(([start, end, style]) => ({ start, end, style })),
  });
  const found = (job: Job) => checkJob(job, faces, { rules: [...SHIFTED, ...JOB_RULES] }).findings;
  const told = (job: Job): string[] => found(job).map(({ rule, subject }) => `${rule} ${subject}`);

  it('a turn that is nearly a neighbour’s, but not one of a row that turns on', () => {
    expect(told(jobOf(headline('STARS', runs([1, 2, { turnDeg: 14 }], [2, 3, { turnDeg: 15 }]))))).toEqual(['near-turn A']);
    expect(told(jobOf(headline('STARS', runs([1, 2, { turnDeg: 2 }], [2, 3, { turnDeg: 4 }], [3, 4, { turnDeg: 6 }]))))).toEqual([]);
    expect(told(jobOf(headline('STARS', runs([1, 3, { turnDeg: 14 }]))))).toEqual([]);
    expect(told(jobOf(headline('STARS', runs([1, 2, { turnDeg: 30 }], [2, 3, { turnDeg: 15 }]))))).toEqual([]);
    const job = jobOf(headline('STARS', runs([1, 2, { turnDeg: 14 }], [2, 3, { turnDeg: 15 }])));
    expect(told(acceptFindings(job, found(job)))).toEqual([]);
  });

  const small = { scaleX: 0.6, scaleY: 0.6, baselineShiftMilliem: 350 };

  it('made small letters that are pale where the face has a weight that is less so, or too small from where the sheet is read', async () => {
    // There is no heavier one: what is lighter is as good as it gets.
    expect(told(jobOf(headline('m2', runs([1, 2, small]))))).toEqual([]);
    const variable = await Face.open(new Uint8Array(readFileSync(new URL('../../../../faces/catalogue/roboto-flex-variable.ttf', import.meta.url))));
    const shelf = new FaceSet('flex');
    shelf.add('flex', variable);
    const plain = headline('m2', runs([1, 2, small]));
    const light = jobOf({ ...plain, style: { ...plain.style, faceId: 'flex' } });
    const pale = checkJob(light, shelf, { rules: SHIFTED }).findings;
    expect(pale.map(({ rule, subject }) => `${rule} ${subject}`)).toEqual(['pale-script 2']);
    expect(checkJob(acceptFindings(light, pale), shelf, { rules: SHIFTED }).findings).toEqual([]);
    expect(told(jobOf(headline('m2', runs([1, 2, { ...small, scaleX: 0.9, scaleY: 0.8 }]))))).toEqual([]);
    const copy = headline('m2', runs([1, 2, small]));
    const tiny = (sizePt: number, kind: Job['kind']) => told({ ...jobOf({ ...copy, style: { ...copy.style, sizePt } }), kind }).includes('tiny-script 2');
    expect([tiny(6, 'flyer'), tiny(9, 'flyer'), tiny(9, 'poster')]).toEqual([true, false, true]);
  });

  it('a rise that differs from the others of its kind anywhere in the job, unless it is meant', () => {
    const one = (rise: number, more: Partial<Block> = {}) =>
      headline('m2', { ...runs([1, 2, { ...small, scaleX: 0.9, scaleY: 0.85, baselineShiftMilliem: rise }]), ...more });
    const job = jobOf(one(350), one(350), one(300));
    expect(found(job).map(({ rule, blockId, at, sheet }) => [rule, blockId, at, sheet])).toEqual([['odd-rise', 'b2', 1, 'Sheet 1']]);
    expect(told(acceptFindings(job, found(job)))).toEqual([]);
    expect(told(jobOf(one(350), one(350), one(300, { intended: [{ rule: 'odd-rise', at: 1 }] })))).toEqual([]);
    expect(told(jobOf(one(350), one(350), one(-200)))).toEqual([]);
  });

  it('letters that meet another line, and only those that are shifted', () => {
    const tight = { leading: { kind: 'pt', pt: 60 } } as const;
    const raised = headline('HHH\nHHH', { ...tight, ...runs([5, 6, { baselineShiftMilliem: 100 }]) });
    expect(told(jobOf(raised)).filter((one) => one.startsWith('shift-meets'))).toEqual(['shift-meets-line H']);
    expect(told(jobOf(headline('HHH\nHHH', tight)))).toEqual([]);
    expect(told(jobOf(headline('HHH\nHHH', runs([5, 6, { baselineShiftMilliem: 100 }]))))).toEqual([]);
  });

  it('words longer than their path', () => {
    const path = (widthPt: number): Path => ({
      kind: 'arc',
      start: { xPt: 0, yPt: 0 },
      through: { xPt: widthPt / 2, yPt: -20 },
      end: { xPt: widthPt, yPt: 0 },
      hold: 'centre',
      atShare: 0.5,
      side: 'above',
      distancePt: 0,
      letters: 'turned',
      kerned: true,
    });
    expect(told(jobOf(headline('FALLING', { path: path(200) })))).toEqual(['beyond-path FALLING']);
    expect(told(jobOf(headline('FALLING', { path: path(800) })))).toEqual([]);
  });
});
