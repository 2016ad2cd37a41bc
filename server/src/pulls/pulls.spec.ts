import { type Pull, jobPageSchema, jobRecordSchema, pullListSchema, pullRecordSchema, pullSchema } from '@jentrix/core/api';
import { withoutReferences } from '@jentrix/core/formats';
import { type Job, type Reference, createJob, restyle, withSheet } from '@jentrix/core/job';
import { DEFAULT_PREFERENCES } from '@jentrix/core/preferences';
import { unzipSync } from 'fflate';
import request from 'supertest';
import { type TestApp, binary, testApp } from '../testing';

/** Something to match a sheet with. */
const REFERENCE = {
  of: { kind: 'picture', pictureId: 'a-scan', widthPx: 90, heightPx: 60 },
  xPt: 0,
  yPt: 0,
  scale: 1,
  turnDeg: 0,
  opacity: 0.5,
  side: 'under',
  locked: false,
} satisfies Reference;

describe('pulls', () => {
  let test: TestApp;
  let job: Job;
  let id: string;
  let blockId: string;
  beforeEach(async () => {
    test = await testApp();
    job = createJob('Open day', () => crypto.randomUUID());
    blockId = job.sheets[0]?.blocks[0]?.id ?? '';
    id = jobRecordSchema.parse((await request(test.app).post('/api/jobs').send({ job })).body).id;
  });
  afterEach(() => test.end());

  const state = (sizePt: number): Job => restyle(job, blockId, { sizePt });
  const keep = async (body: object) => pullSchema.parse((await request(test.app).post(`/api/jobs/${id}/pulls`).send(body).expect(201)).body);
  const list = async (of = id): Promise<Pull[]> => pullListSchema.parse((await request(test.app).get(`/api/jobs/${of}/pulls`).expect(200)).body).items;
  const rows = async (table: string): Promise<number> => (await test.dataSource.query<{ n: number }[]>(`SELECT count(*) AS "n" FROM "${table}"`))[0]?.n ?? -1;

  it('are kept, listed the latest first, read as they were, renamed and deleted', async () => {
    const first = await keep({ job: state(40), name: 'Before lunch' });
    const second = await keep({ job: state(50), reason: 'first-cut' });
    expect((await list()).map(({ name, reason }) => [name, reason])).toEqual([
      ['', 'first-cut'],
      ['Before lunch', 'hand'],
    ]);
    const read = pullRecordSchema.parse((await request(test.app).get(`/api/jobs/${id}/pulls/${first.id}`).expect(200)).body);
    expect(read.job).toEqual(state(40));
    // The job itself is as it was.
    expect(jobRecordSchema.parse((await request(test.app).get(`/api/jobs/${id}`)).body).revision).toBe(1);
    await request(test.app).patch(`/api/jobs/${id}/pulls/${second.id}`).send({ name: 'Larger' }).expect(200);
    await request(test.app)
      .patch(`/api/jobs/${id}/pulls/${second.id}`)
      .send({ name: 'x'.repeat(81) })
      .expect(422);
    await request(test.app).delete(`/api/jobs/${id}/pulls/${first.id}`).expect(204);
    await request(test.app).delete(`/api/jobs/${id}/pulls/${first.id}`).expect(404);
    await request(test.app).get(`/api/jobs/${id}/pulls/${first.id}`).expect(404);
    expect((await list()).map(({ name }) => name)).toEqual(['Larger']);
    const other = pullRecordSchema.parse((await request(test.app).get(`/api/jobs/${id}/pulls/${second.id}`)).body);
    expect(other.job).toEqual(state(50));
  });

  it('share what did not change, and leave no piece behind', async () => {
    const many = { ...job, sheets: [...job.sheets, { ...job.sheets[0]!, id: 'more', blocks: [] }] };
    const first = await keep({ job: many });
    expect(await rows('pull_piece')).toBe(3);
    const second = await keep({ job: restyle(many, blockId, { sizePt: 41 }) });
    expect(await rows('pull_piece')).toBe(5);
    await request(test.app).delete(`/api/jobs/${id}/pulls/${second.id}`).expect(204);
    expect(await rows('pull_piece')).toBe(3);
    await request(test.app).delete(`/api/jobs/${id}/pulls/${first.id}`).expect(204);
    expect([await rows('pull_piece'), await rows('pull_part'), await rows('pull')]).toEqual([0, 0, 0]);
  });

  it('stay with their job through the trash, and go with it for good', async () => {
    await keep({ job, name: 'Kept' });
    await request(test.app).get(`/api/jobs/${id}/measure`).expect(200);
    await request(test.app).delete(`/api/jobs/${id}`).expect(204);
    await request(test.app).get(`/api/jobs/${id}/pulls`).expect(404);
    await request(test.app).post(`/api/jobs/${id}/restore`).expect(200);
    expect((await list()).map(({ name }) => name)).toEqual(['Kept']);
    // A copy of the job begins without.
    const copy = jobRecordSchema.parse((await request(test.app).post(`/api/jobs/${id}/duplicate`)).body);
    expect(await list(copy.id)).toEqual([]);
    await request(test.app).delete(`/api/jobs/${id}`).expect(204);
    await request(test.app).delete(`/api/jobs/${id}/forever`).expect(204);
    expect(await rows('job_measure')).toBe(0);
    expect([await rows('pull_piece'), await rows('pull_part'), await rows('pull')]).toEqual([0, 0, 0]);
  });

  it('are in the job file when that is asked for, without what their sheets were matched with, and come along with it', async () => {
    await keep({ job: state(10), name: 'Before lunch' });
    const matched = withSheet(state(20), job.sheets[0]?.id ?? '', { reference: REFERENCE });
    await keep({ job: matched, reason: 'mend' });
    const file = async (query: string) =>
      JSON.parse(((await request(test.app).get(`/api/jobs/${id}/file${query}`).buffer(true).parse(binary).expect(200)).body as Buffer).toString()) as Record<
        string,
        unknown
      >;
    expect(Object.keys(await file(''))).not.toContain('kept');
    const { kept, ...own } = await file('?pulls=true');
    expect(own).toEqual(await file(''));
    expect(JSON.stringify(kept)).not.toContain(REFERENCE.of.pictureId);
    await request(test.app).get(`/api/jobs/${id}/file?pulls=many`).expect(422);

    const opened = jobRecordSchema.parse((await request(test.app).post('/api/jobs').send({ job: own, kept }).expect(201)).body);
    const [before, after] = [await list(id), await list(opened.id)];
    expect(after.map(({ name, reason, createdAt }) => [name, reason, createdAt])).toEqual(
      before.map(({ name, reason, createdAt }) => [name, reason, createdAt]),
    );
    const stateOf = async (of: string, pull = '') => (await request(test.app).get(`/api/jobs/${of}/pulls/${pull}`).expect(200)).body as { job: Job };
    const [theirs, ours] = [await stateOf(opened.id, after[0]?.id), await stateOf(id, before[0]?.id)];
    expect(theirs.job).toEqual(withoutReferences(ours.job));
    expect(ours.job.sheets[0]?.reference).toEqual(REFERENCE);

    // What is damaged is refused as a whole.
    const total = async () => jobPageSchema.parse((await request(test.app).get('/api/jobs')).body).total;
    const jobs = await total();
    for (const bad of [
      {},
      { pulls: [], pieces: 3 },
      { pulls: [{ name: '', reason: 'hand', createdAt: '2026-11-27T10:00:00.000Z', root: '{}', parts: [] }], pieces: {} },
      { ...(kept as object), pieces: {} },
    ])
      expect((await request(test.app).post('/api/jobs').send({ job: own, kept: bad })).status)
        .withContext(JSON.stringify(bad).slice(0, 80))
        .toBe(422);
    expect(await total()).toBe(jobs);
  });

  it('are measured when that is asked for, shown small, and opened as jobs of their own', async () => {
    const { id: pull, findings } = await keep({ job: restyle(job, blockId, { trackingMilliem: 4000 }) });
    expect(findings).toBeNull();
    const measured = pullSchema.parse((await request(test.app).get(`/api/jobs/${id}/pulls/${pull}/measure`).expect(200)).body);
    expect(measured.findings).toBeGreaterThan(0);
    expect(measured.evenness).not.toBeNull();
    expect(await list()).toEqual([measured]);
    const picture = await request(test.app).get(`/api/jobs/${id}/pulls/${pull}/thumbnail.png`).expect(200);
    expect(picture.type).toBe('image/png');
    const tag = picture.get('etag') ?? '';
    await request(test.app).get(`/api/jobs/${id}/pulls/${pull}/thumbnail.png`).set('if-none-match', tag).expect(304);
    const own = jobRecordSchema.parse((await request(test.app).post(`/api/jobs/${id}/pulls/${pull}/job`).expect(201)).body);
    expect(own.job.sheets[0]?.blocks[0]?.style.trackingMilliem).toBe(4000);
    expect(jobPageSchema.parse((await request(test.app).get('/api/jobs')).body).total).toBe(2);
  });

  it('stand beside the sheet on a proof to send', async () => {
    const { id: pull } = await keep({ job: state(90) });
    const sheetId = job.sheets[0]?.id ?? '';
    const proof = (query: string) => request(test.app).get(`/api/jobs/${id}/sheets/${sheetId}/proof.png${query}`).buffer(true).parse(binary);
    const [alone, beside] = [await proof('').expect(200), await proof(`?pull=${pull}`).expect(200)];
    expect([alone.type, beside.type]).toEqual(['image/png', 'image/png']);
    expect(beside.get('content-disposition')).toContain('proof.png');
    const widthOf = ({ body }: { body: unknown }): number => (body as Buffer).readUInt32BE(16);
    expect([widthOf(alone), widthOf(beside)]).toEqual([2400, 2400]);
    const heightOf = ({ body }: { body: unknown }): number => (body as Buffer).readUInt32BE(20);
    // Two sheets share the width: each is smaller.
    expect(heightOf(beside)).toBeLessThan(heightOf(alone));
    const all = await request(test.app).get(`/api/jobs/${id}/proofs.zip?pull=${pull}`).buffer(true).parse(binary).expect(200);
    expect([all.type, Object.keys(unzipSync(all.body as Buffer))]).toEqual(['application/zip', [jasmine.stringMatching(/^01.* proof\.png$/)]]);
    await proof('?pull=none').expect(404);
    await request(test.app).get(`/api/jobs/${id}/sheets/none/proof.png`).expect(404);
  });

  it('and jobs themselves are measured, again only when they or what judges them changed', async () => {
    const measure = async () => (await request(test.app).get(`/api/jobs/${id}/measure`).expect(200)).body as unknown;
    const run = spyOn(test.workshop, 'run').and.callThrough();
    const first = await measure();
    expect(await measure()).toEqual(first);
    expect(run).toHaveBeenCalledTimes(1);
    await request(test.app)
      .put(`/api/jobs/${id}`)
      .set('if-match', '"1"')
      .send({ job: restyle(job, blockId, { trackingMilliem: 4000 }) })
      .expect(200);
    expect(await measure()).not.toEqual(first);
    expect(run).toHaveBeenCalledTimes(2);
    await request(test.app)
      .put('/api/preferences')
      .send({ ...DEFAULT_PREFERENCES, outMilliem: -400 })
      .expect(200);
    await measure();
    expect(run).toHaveBeenCalledTimes(3);
    await request(test.app).get('/api/jobs/none/measure').expect(404);
  });

  it('that are automatic are kept once while nothing changes, and give way when there are too many', async () => {
    await keep({ job, reason: 'mend' });
    await keep({ job, reason: 'face' });
    expect((await list()).length).toBe(1);
    await keep({ job });
    expect((await list()).length).toBe(2);
    // As many as can be: the automatic one goes, then nothing does.
    const [{ root, uses } = { root: Buffer.of(), uses: '' }] =
      await test.dataSource.query<{ root: Buffer; uses: string }[]>('SELECT "root", "uses" FROM "pull"');
    for (let i = 0; i < 498; i++)
      await test.dataSource.query(
        `INSERT INTO "pull" ("id", "jobId", "name", "reason", "createdAt", "title", "uses", "root") VALUES (?, ?, '', 'hand', '2020', '', ?, ?)`,
        [`many-${i}`, id, uses, root],
      );
    await keep({ job: state(77) });
    expect((await list()).filter(({ reason }) => reason !== 'hand')).toEqual([]);
    const { body } = await request(test.app)
      .post(`/api/jobs/${id}/pulls`)
      .send({ job: state(78) })
      .expect(409);
    expect((body as { detail: string }).detail).toContain('500 pulls');
  });

  it('refuse what is no job, and what is damaged costs nothing else', async () => {
    for (const body of [{}, { job: 'x' }, { job, reason: 'whim' }, { job, more: 1 }])
      await request(test.app).post(`/api/jobs/${id}/pulls`).send(body).expect(422);
    await request(test.app).post('/api/jobs/none/pulls').send({ job }).expect(404);
    const { id: pull } = await keep({ job });
    await test.dataSource.query('DELETE FROM "pull_piece"');
    const { body } = await request(test.app).get(`/api/jobs/${id}/pulls/${pull}`).expect(422);
    expect((body as { detail: string }).detail).toContain('A part of it is missing');
    expect((await list()).length).toBe(1);
    await request(test.app).get(`/api/jobs/${id}`).expect(200);
  });
});
