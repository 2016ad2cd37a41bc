import { Injector } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { type Job, allBlocks, restyle } from '@jentrix/core/job';
import { MOST_KEPT_STEPS, bounded, keepSteps, stepsOf } from '../kept/kept-steps';
import { restoreSteps } from './kept-history';
import { JobHistory } from './state/job-history';
import { sample } from './testing';

describe('steps of an earlier visit', () => {
  const base = sample();
  const tracked = (job: Job, milliem: number): Job => restyle(job, 'a', { trackingMilliem: milliem });
  const trackings = (job: Job | undefined): number[] => allBlocks(job ?? base).map(({ style }) => style.trackingMilliem);
  let history: JobHistory;
  beforeEach(() => {
    TestBed.configureTestingModule({ providers: [JobHistory] });
    history = TestBed.inject(JobHistory);
  });
  const restore = async (id: string, job: Job): Promise<void> => {
    history.open(job);
    await restoreSteps(id, job, TestBed.inject(Injector));
  };
  const copy = (job: Job): Job => JSON.parse(JSON.stringify(job)) as Job;

  it('can be taken back and made again after a reload', async () => {
    const id = crypto.randomUUID();
    await keepSteps(id, { past: [base, tracked(base, 10)], present: tracked(base, 20), future: [tracked(base, 30)] });
    await restore(id, copy(tracked(base, 20)));
    history.undo();
    history.undo();
    expect(trackings(history.job)).toEqual([0, 0, 0]);
    for (let i = 0; i < 3; i++) history.redo();
    expect(trackings(history.job)).toEqual([30, 0, 0]);
  });

  it('take back nothing of what others changed since', async () => {
    const id = crypto.randomUUID();
    await keepSteps(id, { past: [base], present: tracked(base, 20), future: [] });
    await restore(id, copy(restyle(tracked(base, 20), 'b', { trackingMilliem: 5 })));
    history.undo();
    expect(trackings(history.job)).toEqual([0, 5, 0]);
  });

  it('are kept as they are made, and each job has its own', async () => {
    const id = crypto.randomUUID();
    await restore(id, base);
    history.apply((job) => tracked(job, 7));
    // Once nothing was done for a moment.
    let kept = await stepsOf(id);
    for (let i = 0; i < 200 && !kept; i++) {
      await new Promise((done) => setTimeout(done, 20));
      kept = await stepsOf(id);
    }
    expect([kept?.past.length, trackings(kept?.present)]).toEqual([1, [7, 0, 0]]);
    expect(await stepsOf(crypto.randomUUID())).toBeUndefined();
  });

  it('are bounded in number and size; what states share is counted once', () => {
    const many = Array.from({ length: 2 * MOST_KEPT_STEPS }, (_, i) => tracked(base, i));
    const kept = bounded({ past: many, present: base, future: [] }).past;
    expect([kept.length, trackings(kept.at(-1))[0]]).toEqual([MOST_KEPT_STEPS, 2 * MOST_KEPT_STEPS - 1]);
    const long = (i: number): Job => ({
      ...base,
      sheets: base.sheets.map((sheet) => ({ ...sheet, blocks: sheet.blocks.map((block) => ({ ...block, words: `${i}`.repeat(20_000) })) })),
    });
    expect(bounded({ past: Array.from({ length: 100 }, (_, i) => long(i)), present: base, future: [] }).past.length).toBeLessThan(50);
  });
});
