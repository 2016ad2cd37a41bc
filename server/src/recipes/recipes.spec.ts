import { followersSchema, jobRecordSchema, recipeListSchema } from '@jentrix/core/api';
import { type Recipe, type RecipeSettings, createJob, settingsOf } from '@jentrix/core/job';
import type { Express } from 'express';
import request from 'supertest';
import { testApp } from '../testing';

describe('recipes', () => {
  let app: Express;
  let end: () => Promise<void>;
  beforeEach(async () => ({ app, end } = await testApp()));
  afterEach(() => end());

  function settings(sizePt: number): RecipeSettings {
    const block = createJob('x', () => 'i').sheets[0]?.blocks[0];
    if (!block) throw new Error('no block');
    const own = settingsOf(block);
    return { ...own, style: { ...own.style, sizePt } };
  }
  const create = async (name: string, sizePt: number) =>
    (
      await request(app)
        .post('/api/recipes')
        .send({ name, settings: settings(sizePt) })
        .expect(201)
    ).body as Recipe;

  it('are listed, renamed, refused under a taken name, and deleted', async () => {
    const one = await create('Headline', 40);
    await request(app)
      .post('/api/recipes')
      .send({ name: 'HEADLINE', settings: settings(1) })
      .expect(409);
    await request(app).post('/api/recipes').send({ name: '', settings: {} }).expect(422);
    await request(app).put(`/api/recipes/${one.id}`).send({ name: 'Big', settings: one.settings }).expect(200);
    expect(recipeListSchema.parse((await request(app).get('/api/recipes')).body).items.map(({ name }) => name)).toEqual(['Big']);
    await request(app).delete(`/api/recipes/${one.id}`).expect(204);
    await request(app).delete(`/api/recipes/${one.id}`).expect(404);
  });

  it('update the blocks that follow them in every job but the one the page has', async () => {
    const recipe = await create('Headline', 40);
    const make = async (title: string): Promise<string> => {
      let n = 0;
      const job = createJob(title, () => `${title}${n++}`);
      const block = job.sheets[0]?.blocks[0];
      if (block) Object.assign(block, recipe.settings, { recipeId: recipe.id });
      return ((await request(app).post('/api/jobs').send({ job }).expect(201)).body as { id: string }).id;
    };
    const [one, two] = [await make('One'), await make('Two')];
    const { jobs } = followersSchema.parse((await request(app).get(`/api/recipes/${recipe.id}/followers`).expect(200)).body);
    expect(jobs.map(({ title, blocks }) => [title, blocks]).sort()).toEqual([
      ['One', 1],
      ['Two', 1],
    ]);
    const changed = await request(app)
      .put(`/api/recipes/${recipe.id}?exceptJob=${two}`)
      .send({ name: 'Headline', settings: settings(64) })
      .expect(200);
    expect((changed.body as { changedJobs: number }).changedJobs).toBe(1);
    const sizeOf = async (id: string) => jobRecordSchema.parse((await request(app).get(`/api/jobs/${id}`)).body).job.sheets[0]?.blocks[0]?.style.sizePt;
    expect([await sizeOf(one), await sizeOf(two)]).toEqual([64, 40]);
  });

  it('leave the blocks that followed them free and as they look, when they are deleted', async () => {
    const recipe = await create('Headline', 40);
    const job = createJob('Follower', () => crypto.randomUUID());
    const block = job.sheets[0]?.blocks[0];
    if (block) Object.assign(block, recipe.settings, { recipeId: recipe.id });
    const { id } = (await request(app).post('/api/jobs').send({ job }).expect(201)).body as { id: string };
    await request(app).delete(`/api/recipes/${recipe.id}`).expect(204);
    const after = jobRecordSchema.parse((await request(app).get(`/api/jobs/${id}`)).body);
    expect(after.revision).toBe(2);
    expect(after.job.sheets[0]?.blocks[0]).toEqual({ ...block, recipeId: null } as typeof block);
  });

  it('have names of their own, however many ask at once', async () => {
    const body = { name: 'Same', settings: settings(12) };
    const answers = await Promise.all(Array.from({ length: 6 }, () => request(app).post('/api/recipes').send(body)));
    expect(answers.map(({ status }) => status).sort()).toEqual([201, 409, 409, 409, 409, 409]);
    const other = await create('Other', 10);
    await request(app)
      .put(`/api/recipes/${other.id}`)
      .send({ name: 'same', settings: settings(10) })
      .expect(409);
  });

  it('are handed over as design tokens and CSS', async () => {
    await create('Headline', 40);
    const tokens = await request(app)
      .get('/api/recipes/tokens.json')
      .expect(200)
      .expect('content-disposition', /tokens\.json/);
    expect(tokens.body).toEqual({ Headline: jasmine.objectContaining({ $type: 'typography' }) });
    const css = await request(app).get('/api/recipes/recipes.css').expect(200);
    expect(css.text).toContain('--headline-font-weight: 700;');
  });
});
