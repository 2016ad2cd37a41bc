import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { createBlock, createJob } from '@jentrix/core/job';
import { fromRoot, testApp, type TestApp } from '../testing';
import { ProcessPool } from './process-pool';
import { drawingTasks } from '../drawing/tasks';
import { faceTasks } from '../faces/tasks';
import { pictureTasks } from '../pictures/tasks';

/** An arc that the renderer never finishes. */
const ENDLESS = '<svg xmlns="http://www.w3.org/2000/svg" width="100" height="100"><path d="M 0 0 A 1e38 1e38 0 1 1 1e38 1"/></svg>';
/** One that takes all memory there is. */
const HUNGRY = '<svg xmlns="http://www.w3.org/2000/svg" width="100" height="100"><path d="M0 0A1e30 1 0 0 1 1e30 1e30"/></svg>';

describe('process pool', () => {
  let parts: TestApp;
  beforeAll(async () => (parts = await testApp()));
  afterAll(() => parts.end());

  const pools: ProcessPool[] = [];
  afterEach(() => pools.splice(0).forEach((pool) => pool.close()));
  const poolOf = (limits: ConstructorParameters<typeof ProcessPool>[1] = {}): ProcessPool => {
    const pool = new ProcessPool('file', limits);
    pools.push(pool);
    return pool;
  };
  const offered = (text: string): { path: string; out: string } => {
    const path = parts.workshop.spool.fresh();
    writeFileSync(path, text);
    return { path, out: `${path}-out` };
  };
  const good = (): { path: string; out: string } =>
    offered('<svg xmlns="http://www.w3.org/2000/svg" width="10" height="10"><rect width="5" height="5"/></svg>');
  const problem = (status: number, words: RegExp): jasmine.AsymmetricMatcher<unknown> => ({
    asymmetricMatch: (error: { status: number; detail: string }) => error.status === status && words.test(error.detail),
    jasmineToString: () => `${status} ${words}`,
  });

  it('carries out tasks side by side and one after the other, in the order they came', async () => {
    const pool = poolOf({ processes: 2 });
    const font = (id: string) => pool.run(faceTasks.describeFont, { path: fromRoot(`faces/${id}.ttf`) });
    const families = await Promise.all(['alegreya-medium', 'eb-garamond-bold', 'alegreya-medium', 'league-gothic-regular'].map(font));
    expect(families.map(({ fields: { family } }) => family)).toEqual(['Alegreya', 'EB Garamond', 'Alegreya', 'League Gothic']);
    expect(pool.pids.length).toBe(2);
  });

  it('ends what takes too long or too much memory, in words, and goes on with what waits', async () => {
    const slow = poolOf({ timeMs: 700 });
    const [endless, after] = await Promise.allSettled([slow.run(pictureTasks.takePicture, offered(ENDLESS)), slow.run(pictureTasks.takePicture, good())]);
    expect(endless.status === 'rejected' && (endless.reason as unknown)).toEqual(problem(422, /more than 0.7 seconds of processor time/));
    expect(after.status).toBe('fulfilled');
    const small = poolOf({ memoryBytes: 400 * 1024 ** 2, timeMs: 60_000 });
    await expectAsync(small.run(pictureTasks.takePicture, offered(HUNGRY))).toBeRejectedWith(problem(422, /more than 400 MB/));
    expect(await small.run(pictureTasks.takePicture, good())).toEqual(jasmine.objectContaining({ type: 'image/svg+xml', width: 10, height: 10 }));
  });

  it('survives the death of a process, and tells only whoever asked', async () => {
    const pool = poolOf();
    await pool.run(pictureTasks.takePicture, good());
    const [pid] = pool.pids;
    const [endless, after] = [pool.run(pictureTasks.takePicture, offered(ENDLESS)), pool.run(pictureTasks.takePicture, good())];
    process.kill(Number(pid), 'SIGABRT');
    await expectAsync(endless).toBeRejectedWith(problem(422, /stopped unexpectedly/));
    expect((await after).width).toBe(10);
    expect(pool.pids).not.toContain(Number(pid));
    // One that dies idle is replaced without a word.
    process.kill(Number(pool.pids[0]), 'SIGKILL');
    await new Promise((later) => setTimeout(later, 100));
    expect((await pool.run(pictureTasks.takePicture, good())).width).toBe(10);
  });

  it('replaces a process that met an error nobody expected, and keeps one that was refused in words', async () => {
    const pool = poolOf();
    await pool.run(pictureTasks.takePicture, good());
    const [pid] = pool.pids;
    await expectAsync(pool.run(pictureTasks.takePicture, offered('hello'))).toBeRejectedWith(problem(422, /not a PNG/));
    expect(pool.pids).toEqual([Number(pid)]);
    await expectAsync(pool.run(faceTasks.describeFont, { path: '/nowhere/at/all' })).toBeRejected();
    await pool.run(pictureTasks.takePicture, good());
    expect(pool.pids).not.toEqual([Number(pid)]);
  });

  it('refuses more than it can keep waiting, and everything once it is closed', async () => {
    const pool = poolOf({ waiting: 1 });
    const first = pool.run(pictureTasks.takePicture, good());
    const second = pool.run(pictureTasks.takePicture, good());
    await expectAsync(pool.run(pictureTasks.takePicture, good())).toBeRejectedWith(problem(503, /waiting/));
    await Promise.all([first, second]);
    const last = pool.run(pictureTasks.takePicture, good());
    pool.close();
    await expectAsync(last).toBeRejectedWith(problem(503, /again/));
    await expectAsync(pool.run(pictureTasks.takePicture, good())).toBeRejectedWith(problem(503, /again/));
  });

  it('draws a job that made the renderer abort: faint letters far off the sheet', async () => {
    const job = createJob('Far', () => 'far');
    const sheet = job.sheets[0];
    if (!sheet) throw new Error('no sheet');
    const far = { xPt: 40, yPt: 1500, widthPt: 400, heightPt: 90 };
    const soft = { xMilliem: 20, yMilliem: 20, blurMilliem: 80, colour: '#000000' };
    const blocks = [createBlock('faint', 'Small print', far, { opacity: 0.9 }), createBlock('soft', 'Small print', far, { shadow: soft })];
    const out = join(parts.workshop.spool.fresh());
    const faces = { 'source-sans-3-regular': fromRoot('faces/source-sans-3-regular.ttf') };
    const document = JSON.stringify({ ...job, sheets: [{ ...sheet, blocks }] });
    await poolOf().run(drawingTasks.drawSheets, {
      document,
      faces,
      standInId: 'source-sans-3-regular',
      pictures: {},
      out,
      sheetIds: [sheet.id],
      format: 'png',
      options: { scale: 1 },
    });
    expect(readFileSync(out).subarray(1, 4).toString()).toBe('PNG');
  });
});
