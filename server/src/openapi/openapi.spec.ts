import { createJob } from '@jentrix/core/job';
import { createConfig, lintFromString } from '@redocly/openapi-core';
import type { Express } from 'express';
import request from 'supertest';
import type * as z from 'zod';
import { apiRoutes } from '../app';
import { type TestApp, binary, testApp } from '../testing';
import { EVENTS, OPERATIONS, SCHEMAS } from './operations';

/** A layer of a router, as Express keeps it. */
interface Layer {
  route?: { path: string; methods: Readonly<Record<string, boolean>> };
}

describe('the description of the API', () => {
  let test: TestApp;
  let app: Express;
  beforeAll(async () => ({ app } = test = await testApp()));
  afterAll(() => test.end());

  it('is served, and a linter has nothing to say against it', async () => {
    const { text, body } = await request(app).get('/api/openapi.json').expect(200);
    expect((body as { openapi: string }).openapi).toBe('3.1.0');
    const found = await lintFromString({ source: text, config: await createConfig({ extends: ['recommended-strict'] }) });
    expect(found.map(({ ruleId, message, location }) => `${ruleId}: ${message} ${location[0]?.pointer ?? ''}`)).toEqual([]);
  });

  it('tells of every address there is, and of no other', () => {
    const routes = apiRoutes({ ...test, webRoot: '', hosts: new Set() }).flatMap(([prefix, handler]) =>
      ((handler as { stack?: Layer[] }).stack ?? []).flatMap(({ route }) =>
        route ? Object.keys(route.methods).map((method) => `${method} ${`${prefix}${route.path}`.replace(/\/+/g, '/').replace(/(.)\/$/, '$1')}`) : [],
      ),
    );
    expect(routes.length).toBeGreaterThan(40);
    expect(OPERATIONS.map(({ method, path }) => `${method} ${path}`).sort()).toEqual([...routes].sort());
    const ids = OPERATIONS.map(({ id }) => id);
    expect(new Set(ids).size).toBe(ids.length);
  });

  it('is what is answered: each schema and each media type', async () => {
    const job = createJob('Described', () => crypto.randomUUID());
    const { id } = (await request(app).post('/api/jobs').send({ job }).expect(201)).body as { id: string };
    const { id: pull } = (await request(app).post(`/api/jobs/${id}/pulls`).send({ job }).expect(201)).body as { id: string };
    const backup = ((await request(app).post('/api/backups').expect(201)).body as { name: string }).name;
    const face = ((await request(app).get('/api/catalogue?pageSize=1')).body as { items: { id: string }[] }).items[0]!.id;
    const named: Readonly<Record<string, string>> = { '/jobs': id, '/faces': 'source-sans-3-regular', '/catalogue': face };
    let [asked, checked] = [0, 0];
    for (const { method, path, answer } of OPERATIONS) {
      const group = `/${path.split('/')[1] ?? ''}`;
      // What is asked for by name is there in these.
      if (method !== 'get' || (path.includes(':id') && named[group] === undefined)) continue;
      // That answer has no end.
      if (answer.status === 200 && 'media' in answer.content && answer.content.media.includes(EVENTS)) continue;
      const address = path
        .replace(':id', named[group] ?? '')
        .replace(':sheet', job.sheets[0]!.id)
        .replace(':pull', pull)
        .replace(':name', backup);
      const got = await request(app)
        .get(`/api${address}${/preview|zip$/.test(path) ? '?format=svg' : ''}`)
        .buffer(true)
        .parse(binary);
      expect(got.status).withContext(path).toBe(200);
      asked++;
      if (answer.status === 204) continue;
      if ('media' in answer.content) expect(answer.content.media).withContext(path).toContain(got.type);
      else {
        const schema: z.ZodType = SCHEMAS[answer.content.json];
        expect(schema.safeParse(JSON.parse((got.body as Buffer).toString())).error)
          .withContext(path)
          .toBeUndefined();
        checked++;
      }
    }
    expect([asked > 25, checked > 12]).toEqual([true, true]);
  });
});
