import { createJob } from '@jentrix/core/job';
import request from 'supertest';
import { createApp } from '../app';
import { OPERATIONS } from '../openapi/operations';
import { type TestApp, fromRoot, testApp } from '../testing';
import { allowedHosts } from './hosts';

describe('host names', () => {
  it('are understood as people write them: with blanks, capitals, a port, a scheme', () => {
    const hosts = allowedHosts('0.0.0.0', ' Studio.Example , press.example:4600,https://proof.example/x,,[fd00::1]:4600, fd00::2');
    for (const host of ['127.0.0.1', 'localhost', '[::1]', '0.0.0.0', 'studio.example', 'press.example', 'proof.example', '[fd00::1]', '[fd00::2]']) {
      expect([...hosts]).toContain(host);
    }
    expect([...hosts]).not.toContain('');
    expect(allowedHosts('127.0.0.1').size).toBe(3);
  });
});

describe('guards', () => {
  let test: TestApp;
  beforeAll(async () => (test = await testApp()));
  afterAll(() => test.end());

  it('see what is below /api as the router does, however it is written', async () => {
    for (const path of ['/api/jobs', '/API/jobs', '/Api/jobs']) {
      const opened = request(test.app).get(path).set('sec-fetch-site', 'cross-site').set('sec-fetch-mode', 'navigate');
      await opened.expect(403);
      await request(test.app).get(path).expect(200);
    }
    // The page itself may be opened from a link elsewhere.
    await request(test.app).get('/').set('sec-fetch-site', 'cross-site').set('sec-fetch-mode', 'navigate').expect(200);
  });

  it('count whatever renders, as its operation says, under any spelling of its address', async () => {
    const before = process.env['JENTRIX_RENDERS_A_MINUTE'];
    process.env['JENTRIX_RENDERS_A_MINUTE'] = '3';
    try {
      const app = createApp({ ...test, webRoot: fromRoot('server/src/testing-page'), hosts: new Set(['127.0.0.1']) });
      const { id } = test.jobs.create(createJob('Counted', () => crypto.randomUUID()));
      await request(app).get(`/api/jobs/${id}/thumbnail.png`).expect(200);
      await request(app).get(`/API/jobs/${id}/THUMBNAIL.png`).expect(200);
      await request(app).get(`/api/jobs/${id}/measure`).expect(200);
      await request(app).get(`/api/jobs/${id}/pairs`).expect(429);
      // What draws nothing is not counted.
      for (let i = 0; i < 5; i++) await request(app).get(`/api/jobs/${id}`).expect(200);
    } finally {
      if (before === undefined) delete process.env['JENTRIX_RENDERS_A_MINUTE'];
      else process.env['JENTRIX_RENDERS_A_MINUTE'] = before;
    }
    const rendering = OPERATIONS.filter(({ renders }) => renders).map(({ path }) => path);
    for (const path of [
      '/jobs/:id/package',
      '/jobs/:id/sheets/:sheet/png',
      '/jobs/:id/sheets/:sheet/proof.png',
      '/jobs/:id/proofs.zip',
      '/jobs/:id/pulls/:pull/measure',
    ]) {
      expect(rendering).toContain(path);
    }
  });
});
