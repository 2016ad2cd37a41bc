import { jobPageSchema, jobRecordSchema, staleProblemSchema } from '@jentrix/core/api';
import { type Job, createJob, retitle } from '@jentrix/core/job';
import type { Express } from 'express';
import request from 'supertest';
import { atomically } from '../database/atomically';
import { type TestApp, testApp } from '../testing';

let n = 0;
const sample = (title: string): Job => createJob(title, () => `id${++n}`);

describe('jobs', () => {
  let app: Express;
  let parts: TestApp;
  let end: () => Promise<void>;
  beforeEach(async () => ({ app, end } = parts = await testApp()));
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
    const renamed = retitle(job, 'Leonids');
    await request(app).put(`/api/jobs/${id}`).set('if-match', '"1"').send({ job: renamed }).expect(200).expect('etag', '"2"');
    expect(await titles()).toEqual(['Leonids']);
  });

  it('refuses a stale write with what is current, and loses nothing', async () => {
    const { id, job } = await create('Perseids');
    await request(app)
      .put(`/api/jobs/${id}`)
      .set('if-match', '"1"')
      .send({ job: retitle(job, 'Theirs') })
      .expect(200);
    const refused = await request(app)
      .put(`/api/jobs/${id}`)
      .set('if-match', '"1"')
      .send({ job: retitle(job, 'Mine') })
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
          .send({ job: retitle(job, `Writer ${i}`) }),
      ),
    );
    expect(writes.map(({ status }) => status).sort()).toEqual([200, ...Array.from({ length: 7 }, () => 412)]);
  });

  it('takes a write that says what is there already for done: its answer was lost', async () => {
    const { id, job } = await create('Perseids');
    const write = (title: string, revision: number) =>
      request(app)
        .put(`/api/jobs/${id}`)
        .set('if-match', `"${revision}"`)
        .send({ job: retitle(job, title) });
    await write('Mine', 1).expect(200).expect('etag', '"2"');
    await write('Mine', 1).expect(200).expect('etag', '"2"');
    await write('Other', 1).expect(412);
    await write('Mine', 9).expect(412);
  });

  it('knows which jobs use a face, a picture or a recipe, through every kind of write', async () => {
    const { id, job } = await create('Perseids');
    const uses = async (kind: 'face' | 'recipe', thing: string) => (await parts.jobs.using(kind, thing)).map(({ title }) => title);
    expect(await uses('face', 'playfair-display-bold')).toEqual(['Perseids']);
    const copy = jobRecordSchema.parse((await request(app).post(`/api/jobs/${id}/duplicate`)).body);
    expect(await uses('face', 'playfair-display-bold')).toEqual(['Perseids', 'Perseids copy']);
    const sheet = job.sheets[0];
    const block = sheet?.blocks[0];
    if (!sheet || !block) throw new Error('no block');
    const other = { ...job, sheets: [{ ...sheet, blocks: [{ ...block, recipeId: 'r', style: { ...block.style, faceId: 'league-gothic-regular' } }] }] };
    await request(app).put(`/api/jobs/${id}`).set('if-match', '"1"').send({ job: other }).expect(200);
    expect(await uses('face', 'playfair-display-bold')).toEqual(['Perseids copy']);
    expect(await uses('recipe', 'r')).toEqual(['Perseids']);
    await request(app).delete(`/api/jobs/${copy.id}`).expect(204);
    await request(app).delete(`/api/jobs/${copy.id}/forever`).expect(204);
    expect(await uses('face', 'playfair-display-bold')).toEqual([]);
  });

  it('changes all users of a thing or none, and works it out again where a job is overtaken', async () => {
    const { id, job } = await create('Perseids');
    const change = { kind: 'face' as const, from: 'playfair-display-bold', to: 'alegreya-medium' };
    await expectAsync(
      parts.jobs.changeUsers('face', 'playfair-display-bold', change, () => {
        throw new Error('no');
      }),
    ).toBeRejected();
    expect(jobRecordSchema.parse((await request(app).get(`/api/jobs/${id}`)).body)).toEqual(jasmine.objectContaining({ revision: 1, job }));
    // Somebody else writes between reading and writing.
    const stored = parts.jobs.storedUsing.bind(parts.jobs);
    spyOn(parts.jobs, 'storedUsing').and.callFake(async (kind, thing) => {
      const found = await stored(kind, thing);
      if (found[0]?.revision === 1) {
        await request(app)
          .put(`/api/jobs/${id}`)
          .set('if-match', '"1"')
          .send({ job: retitle(job, 'Quicker') })
          .expect(200);
      }
      return found;
    });
    expect(await parts.jobs.changeUsers('face', 'playfair-display-bold', change, () => undefined)).toBe(1);
    const now = jobRecordSchema.parse((await request(app).get(`/api/jobs/${id}`)).body);
    expect([now.revision, now.job.title, now.job.sheets[0]?.blocks[0]?.style.faceId]).toEqual([3, 'Quicker', 'alegreya-medium']);
  });

  it('says of a stored job that can’t be read that it is damaged, and keeps the others', async () => {
    const { id } = await create('Damaged');
    const sound = await create('Sound');
    for (const document of ['{"format":', 'null', '{"format":"jentrix.job","version":3}', '']) {
      atomically(parts.dataSource, (run) => run('UPDATE "job" SET "document" = ? WHERE "id" = ?', document, id));
      for (const path of ['', '/file', '/thumbnail.png', '/sheets/any/png', '/sheets.zip']) {
        const { body } = (await request(app).get(`/api/jobs/${id}${path}`).expect(422)) as { body: { title: string; detail: string } };
        expect(body.title).toBe('The stored job can’t be read');
        expect(body.detail).toContain('damaged');
      }
    }
    await request(app).get(`/api/jobs/${sound.id}`).expect(200);
    expect((await titles('sort=title&order=asc')).length).toBe(2);
  });

  it('reads jobs too large to be read at once just as others', async () => {
    const job = sample('Large');
    const sheet = job.sheets[0];
    const block = sheet?.blocks[0];
    if (!sheet || !block) throw new Error('no block');
    const blocks = Array.from({ length: 120 }, (_, i) => ({ ...block, id: `many${i}`, words: 'A valley of falling stars '.repeat(20) }));
    const large = { ...job, sheets: [{ ...sheet, blocks }] };
    const record = jobRecordSchema.parse((await request(app).post('/api/jobs').send({ job: large }).expect(201)).body);
    expect(record.job).toEqual(large);
    const run = spyOn(parts.workshop, 'run').and.callThrough();
    expect(jobRecordSchema.parse((await request(app).get(`/api/jobs/${record.id}`).expect(200)).body).job).toEqual(large);
    expect(run).toHaveBeenCalledTimes(1);
    const bad = await request(app)
      .post('/api/jobs')
      .send({ job: { ...large, sheets: [...large.sheets, 7] } })
      .expect(422);
    expect((bad.body as { detail: string }).detail).toContain('sheets.1');
  });

  it('gives even the thinnest sheets a thumbnail', async () => {
    for (const [widthPt, heightPt] of [
      [20_000, 1],
      [1, 20_000],
      [1, 1],
    ] as const) {
      const job = sample('Thin');
      const thin = { ...job, sheets: job.sheets.map((sheet) => ({ ...sheet, widthPt, heightPt })) };
      const { id } = jobRecordSchema.parse((await request(app).post('/api/jobs').send({ job: thin }).expect(201)).body);
      const png = (await request(app).get(`/api/jobs/${id}/thumbnail.png`).expect(200)).body as Buffer;
      expect([png.readUInt32BE(16), png.readUInt32BE(20)]).toEqual([widthPt === 1 && heightPt > 1 ? 1 : 480, heightPt === 1 && widthPt > 1 ? 1 : 480]);
    }
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
