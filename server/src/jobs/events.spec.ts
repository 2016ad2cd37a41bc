import { once } from 'node:events';
import type { AddressInfo } from 'node:net';
import { jobEventSchema } from '@jentrix/core/api';
import { createJob, retitle, settingsOf } from '@jentrix/core/job';
import request from 'supertest';
import { type TestApp, testApp } from '../testing';

describe('who listens to a job', () => {
  let test: TestApp;
  beforeAll(async () => (test = await testApp()));
  afterAll(() => test.end());

  it('is told at once where it is, and of every write by whoever, until they leave', async () => {
    const { app } = test;
    const job = createJob('Heard', () => crypto.randomUUID());
    const recipe = (await request(app).post('/api/recipes').send({ name: 'Loud', settings: settingsOf(job.sheets[0]!.blocks[0]!) })).body as { id: string; settings: ReturnType<typeof settingsOf> }; // prettier-ignore
    Object.assign(job.sheets[0]!.blocks[0]!, { recipeId: recipe.id });
    const { id } = (await request(app).post('/api/jobs').send({ job }).expect(201)).body as { id: string };
    const server = app.listen(0, '127.0.0.1');
    await once(server, 'listening');
    const leave = new AbortController();
    try {
      const { port } = server.address() as AddressInfo;
      const answer = await fetch(`http://127.0.0.1:${port}/api/jobs/${id}/events`, { signal: leave.signal, headers: { 'accept-encoding': 'gzip, br' } });
      expect([answer.status, answer.headers.get('content-type'), answer.headers.get('content-encoding')]).toEqual([
        200,
        'text/event-stream; charset=utf-8',
        null,
      ]);
      const reader = answer.body!.pipeThrough(new TextDecoderStream()).getReader();
      const heard: number[] = [];
      let rest = '';
      const hear = async (): Promise<number> => {
        for (;;) {
          const [, data] = /data: (.*)\n\n/.exec(rest) ?? [];
          if (data !== undefined) {
            rest = rest.slice(rest.indexOf(data) + data.length);
            heard.push(jobEventSchema.parse(JSON.parse(data)).revision);
            return heard.at(-1)!;
          }
          const { value, done } = await reader.read();
          if (done) throw new Error('It ended');
          rest += value;
        }
      };
      expect(await hear()).toBe(1);
      const write = (basedOn: number, title: string) =>
        request(app)
          .put(`/api/jobs/${id}`)
          .set('if-match', `"${basedOn}"`)
          .send({ job: retitle(job, title) });
      await write(1, 'Louder').expect(200);
      expect(await hear()).toBe(2);
      // A write that is refused is none, and one of another job is not told.
      await write(1, 'Late').expect(412);
      await request(app).post(`/api/jobs/${id}/duplicate`).expect(201);
      const { style } = recipe.settings;
      await request(app).put(`/api/recipes/${recipe.id}`).send({ name: 'Loud', settings: { ...recipe.settings, style: { ...style, sizePt: 77 } } }).expect(200); // prettier-ignore
      expect(await hear()).toBe(3);
      await request(app).get('/api/jobs/nobody/events').expect(404);
    } finally {
      leave.abort();
      server.closeAllConnections();
      server.close();
    }
    // Nobody listens any more, and writing goes on.
    await request(app).put(`/api/jobs/${id}`).set('if-match', '"3"').send({ job }).expect(200);
  });
});
