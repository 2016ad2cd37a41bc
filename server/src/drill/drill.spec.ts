import { type DrillResult, keptResultSchema, progressSchema, resultPageSchema } from '@jentrix/core/drill';
import type { Express } from 'express';
import request from 'supertest';
import { testApp } from '../testing';

describe('the history of the drill', () => {
  let app: Express;
  let end: () => Promise<void>;
  beforeEach(async () => ({ app, end } = await testApp()));
  afterEach(() => end());

  const placing = (off: number, at: string): DrillResult => ({
    level: 'capitals',
    faceId: 'playfair-display-bold',
    words: 'AVOW',
    at,
    seconds: null,
    answer: {
      kind: 'place',
      letters: [
        { text: 'V', off },
        { text: 'O', off: 0 },
      ],
      gaps: [
        { text: 'AV', pair: 'diagonal to diagonal', off },
        { text: 'VO', pair: 'diagonal to round', off: -off },
        { text: 'OW', pair: 'diagonal to round', off: 0 },
      ],
    },
  });
  const progress = async () => progressSchema.parse((await request(app).get('/api/drill/progress').expect(200)).body);

  it('begins with advice to begin, keeps what was done with what it is worth, and tells of it', async () => {
    expect((await progress()).advice.about).toBe('begin');
    const kept = keptResultSchema.parse((await request(app).post('/api/drill/results').send(placing(22, '2026-11-23T10:00:00+02:00')).expect(201)).body);
    expect(kept.score).toBe(75);
    expect(kept.result.at).toBe('2026-11-23T08:00:00.000Z');
    await request(app).post('/api/drill/results').send(placing(0, '2026-11-27T08:00:00Z')).expect(201);
    const { items, total } = resultPageSchema.parse((await request(app).get('/api/drill/results?pageSize=1').expect(200)).body);
    expect([total, items.map(({ score }) => score)]).toEqual([2, [100]]);
    const now = await progress();
    expect(now.weeks).toEqual([{ monday: '2026-11-23', count: 2, score: 87.5 }]);
    expect(now.streak).toEqual({ best: 1, now: 1 });
    await request(app).delete('/api/drill/results').expect(204);
    expect((await progress()).count).toBe(0);
  });

  it('refuses what is no result, and keeps nothing of it', async () => {
    const good = placing(0, '2026-11-27T08:00:00Z');
    for (const bad of [
      {},
      { ...good, at: 'yesterday' },
      { ...good, level: 'nightmare' },
      { ...good, words: '' },
      { ...good, score: 100 },
      { ...good, answer: { kind: 'even', right: 1, by: 3 } },
      { ...good, answer: { kind: 'leading', off: 1e9 } },
    ]) {
      await request(app).post('/api/drill/results').send(bad).expect(422);
    }
    await request(app).get('/api/drill/results?pageSize=0').expect(422);
    expect((await progress()).count).toBe(0);
  });
});
