import { once } from 'node:events';
import type { AddressInfo } from 'node:net';
import { type Other, hereEventSchema, jobEventSchema } from '@jentrix/core/api';
import { createJob, retitle, settingsOf } from '@jentrix/core/job';
import request from 'supertest';
import { type TestApp, testApp } from '../testing';
import { MOST_STREAMS, Streams } from './streams';

describe('who listens to a job', () => {
  let test: TestApp;
  beforeAll(async () => (test = await testApp()));
  afterAll(() => test.end());

  it('is told at once where it is, and of every write by whoever, until they leave', async () => {
    const { app } = test;
    const job = createJob('Heard', () => crypto.randomUUID());
    const recipe = (
      await request(app)
        .post('/api/recipes')
        .send({ name: 'Loud', settings: settingsOf(job.sheets[0]!.blocks[0]!) })
    ).body as { id: string; settings: ReturnType<typeof settingsOf> };
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
      await request(app)
        .put(`/api/recipes/${recipe.id}`)
        .send({ name: 'Loud', settings: { ...recipe.settings, style: { ...style, sizePt: 77 } } })
        .expect(200);
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

  it('is told who else has it open, and at which block, until they leave', async () => {
    const { app, jobs } = test;
    const { id } = jobs.create(createJob('Shared', () => crypto.randomUUID()));
    const server = app.listen(0, '127.0.0.1');
    await once(server, 'listening');
    const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}/api/jobs/${id}`;
    const open = async (window: string, browser: string) => {
      const leave = new AbortController();
      const answer = await fetch(`${base}/events?window=${window}&browser=${browser}`, { signal: leave.signal });
      const reader = answer.body!.pipeThrough(new TextDecoderStream()).getReader();
      let others: Other[] = [];
      void (async () => {
        for (let text = ''; ;) {
          const { value, done } = await reader.read();
          if (done) return;
          text += value;
          for (const [, data = ''] of text.matchAll(/event: here\ndata: (.*)\n\n/g)) others = hereEventSchema.parse(JSON.parse(data)).others;
          text = text.slice(text.lastIndexOf('\n\n') + 2);
        }
      })().catch(() => undefined);
      return { others: () => others, leave };
    };
    const say = (window: string, browser: string, blockId: string | null, state: string) =>
      fetch(`${base}/here`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ window, browser, blockId, state }) });
    const until = async (test: () => boolean): Promise<void> => {
      for (let i = 0; i < 500 && !test(); i++) await new Promise((done) => setTimeout(done, 20));
      expect(test()).withContext(String(test)).toBeTrue();
    };
    const mine = await open('w1', 'b1');
    try {
      expect((await say('w2', 'b1', 'headline', 'shown')).status).toBe(204);
      await until(() => JSON.stringify(mine.others()) === JSON.stringify([{ who: 'window', blockId: 'headline' }]));
      const theirs = await open('w3', 'b2');
      await until(() => mine.others().some(({ who }) => who === 'person') && theirs.others().length === 2);
      await say('w2', 'b1', null, 'left');
      await until(() => mine.others().length === 1 && theirs.others().length === 1);
      // Whose browser is gone without a word is forgotten soon.
      theirs.leave.abort();
      await until(() => mine.others().length === 0);
      // A page out of sight says so, and stays.
      await say('w4', 'b2', 'x', 'hidden');
      await until(() => mine.others().length === 1);
      expect((await fetch(`${base}/here`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: '{}' })).status).toBe(422);
    } finally {
      mine.leave.abort();
      server.closeAllConnections();
      server.close();
    }
  });

  it('is refused where there are too many', () => {
    const streams = new Streams();
    const ends = Array.from({ length: MOST_STREAMS.client }, () => streams.take('a'));
    expect(() => streams.take('a')).toThrowError(/Too many windows/);
    const other = streams.take('b');
    ends.forEach((end) => end());
    ends[0]?.();
    for (let i = 0; i < MOST_STREAMS.client; i++) streams.take('a');
    expect(() => streams.take('a')).toThrowError(/Too many windows/);
    other();
  });
});
