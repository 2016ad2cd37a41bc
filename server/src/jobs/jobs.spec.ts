import { jobPageSchema, jobRecordSchema, staleProblemSchema } from '@jentrix/core/api';
import { type Job, createJob, setTitle } from '@jentrix/core/job';
import type { Express } from 'express';
import request from 'supertest';
import { testApp } from '../testing';

let n = 0;
const sample = (title: string): Job => createJob(title, () => `id${++n}`);

describe('jobs', () => {
  let app: Express;
  let end: () => Promise<void>;
  beforeEach(async () => ({ app, end } = await testApp()));
  afterEach(() => end());

  const create = async (title: string) =>
    jobRecordSchema.parse(
      (
        await request(app)
          .post('/api/jobs')
          .send({ job: sample(title) })
          .expect(201)
      ).body,
    );
  const list = async (query = '') => jobPageSchema.parse((await request(app).get(`/api/jobs?${query}`).expect(200)).body);
  const titles = async (query = ''): Promise<string[]> => (await list(query)).items.map(({ title }) => title);

  it('creates, reads and replaces, counting revisions', async () => {
    const { id, revision, job } = await create('Perseids');
    expect(revision).toBe(1);
    const read = await request(app).get(`/api/jobs/${id}`).expect(200).expect('etag', '"1"');
    expect(jobRecordSchema.parse(read.body).job).toEqual(job);
    const renamed = setTitle(job, 'Leonids');
    await request(app).put(`/api/jobs/${id}`).set('if-match', '"1"').send({ job: renamed }).expect(200).expect('etag', '"2"');
    expect(await titles()).toEqual(['Leonids']);
  });

  it('refuses a stale write with what is current, and loses nothing', async () => {
    const { id, job } = await create('Perseids');
    await request(app)
      .put(`/api/jobs/${id}`)
      .set('if-match', '"1"')
      .send({ job: setTitle(job, 'Theirs') })
      .expect(200);
    const refused = await request(app)
      .put(`/api/jobs/${id}`)
      .set('if-match', '"1"')
      .send({ job: setTitle(job, 'Mine') })
      .expect(412)
      .expect('content-type', /problem\+json/);
    const problem = staleProblemSchema.parse(refused.body);
    expect(problem.current.revision).toBe(2);
    expect(problem.current.job.title).toBe('Theirs');
    expect(await titles()).toEqual(['Theirs']);
  });

  it('lets exactly one of many writers at one revision through', async () => {
    const { id, job } = await create('Perseids');
    const writes = await Promise.all(
      Array.from({ length: 8 }, (_, i) =>
        request(app)
          .put(`/api/jobs/${id}`)
          .set('if-match', '"1"')
          .send({ job: setTitle(job, `Writer ${i}`) }),
      ),
    );
    expect(writes.map(({ status }) => status).sort()).toEqual([200, ...Array.from({ length: 7 }, () => 412)]);
  });

  it('asks for a revision it can read', async () => {
    const { id, job } = await create('Perseids');
    await request(app).put(`/api/jobs/${id}`).send({ job }).expect(428);
    await request(app).put(`/api/jobs/${id}`).set('if-match', '*').send({ job }).expect(400);
  });

  it('lists in pages, sorted, searched by title', async () => {
    for (const title of ['beta', 'Alpha', 'gamma 100%', 'delta_x']) await create(title);
    expect(await titles('sort=title&order=asc')).toEqual(['Alpha', 'beta', 'delta_x', 'gamma 100%']);
    expect(await titles('sort=title&order=asc&page=2&pageSize=3')).toEqual(['gamma 100%']);
    expect((await list('pageSize=1')).total).toBe(4);
    expect(await titles('q=ALPH')).toEqual(['Alpha']);
    expect(await titles('q=0%25')).toEqual(['gamma 100%']);
    expect(await titles('q=a_x')).toEqual(['delta_x']);
    expect(await titles("q=' OR 1=1 --")).toEqual([]);
    await request(app).get('/api/jobs?sort=document').expect(422);
    await request(app).get('/api/jobs?page=0').expect(422);
  });

  it('duplicates, trashes, restores and deletes for good', async () => {
    const { id } = await create('Perseids');
    const copy = jobRecordSchema.parse((await request(app).post(`/api/jobs/${id}/duplicate`).expect(201)).body);
    expect(copy.job.title).toBe('Perseids copy');
    await request(app).delete(`/api/jobs/${id}`).expect(204);
    await request(app).delete(`/api/jobs/${id}`).expect(404);
    await request(app).get(`/api/jobs/${id}`).expect(404);
    expect(await titles()).toEqual(['Perseids copy']);
    expect(await titles('trash=true')).toEqual(['Perseids']);
    await request(app).get(`/api/jobs/${id}/thumbnail.png`).expect(200);
    await request(app).post(`/api/jobs/${id}/restore`).expect(200);
    expect((await titles()).length).toBe(2);
    await request(app).delete(`/api/jobs/${id}/forever`).expect(404);
    await request(app).delete(`/api/jobs/${id}`).expect(204);
    await request(app).delete(`/api/jobs/${id}/forever`).expect(204);
    expect(await titles('trash=true')).toEqual([]);
  });

  it('refuses damaged jobs with a reason and keeps none', async () => {
    const bodies: unknown[] = [
      {},
      { job: null },
      { job: { format: 'jentrix.job', version: 3 } },
      { job: { ...sample('x'), title: '' } },
      { job: { ...sample('x'), version: 77 } },
      [],
    ];
    for (const body of bodies) {
      const answer = await request(app)
        .post('/api/jobs')
        .send(body as object)
        .expect(422)
        .expect('content-type', /problem\+json/);
      expect((answer.body as { detail: string }).detail.length).toBeGreaterThan(5);
    }
    await request(app).post('/api/jobs').set('content-type', 'application/json').send('{"job":').expect(400);
    await request(app)
      .post('/api/jobs')
      .set('content-type', 'application/json')
      .send(`{"job":"${'x'.repeat(9_000_000)}"}`)
      .expect(413);
    expect((await list()).total).toBe(0);
  });

  it('brings an old job up to date at the door', async () => {
    const current = sample('Old');
    const old = {
      ...current,
      version: 1,
      sheets: current.sheets.map((sheet) => ({ ...sheet, blocks: sheet.blocks.map((block) => ({ ...block, leading: 60 })) })),
    };
    const { job } = jobRecordSchema.parse((await request(app).post('/api/jobs').send({ job: old }).expect(201)).body);
    expect(job.sheets[0]?.blocks[0]?.leading).toEqual({ kind: 'pt', pt: 60 });
  });
});
