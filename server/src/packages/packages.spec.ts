import { readFileSync } from 'node:fs';
import { faceListSchema, jobRecordSchema, pullListSchema, recipeListSchema } from '@jentrix/core/api';
import { type Job, type Recipe, allBlocks, createJob, settingsOf } from '@jentrix/core/job';
import { openPackage } from '@jentrix/core/package';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import request from 'supertest';
import { type TestApp, binary, fromRoot, testApp } from '../testing';

describe('packages on the server', () => {
  let from: TestApp;
  let to: TestApp;
  beforeAll(async () => ([from, to] = await Promise.all([testApp(), testApp()])));
  afterAll(async () => Promise.all([from.end(), to.end()]));

  const packageOf = async ({ app }: TestApp, id: string): Promise<Buffer> =>
    (
      await request(app)
        .get(`/api/jobs/${id}/package`)
        .buffer(true)
        .parse(binary)
        .expect(200)
        .expect('content-disposition', /\.jentrix\.zip/)
    ).body as Buffer;
  const open = ({ app }: TestApp, bytes: Uint8Array, name = 'any.jentrix.zip') =>
    request(app).post(`/api/intake?name=${name}`).set('content-type', 'application/zip').send(Buffer.from(bytes));
  const jobOf = async ({ app }: TestApp, id: string): Promise<Job> => jobRecordSchema.parse((await request(app).get(`/api/jobs/${id}`).expect(200)).body).job;
  const total = async ({ app }: TestApp): Promise<number> => ((await request(app).get('/api/jobs')).body as { total: number }).total;

  /** A job with a picture, an uploaded face, a recipe that is followed, and a pull. */
  let job: Promise<string> | undefined;
  const made = (): Promise<string> => (job ??= make());
  async function make(): Promise<string> {
    const { app } = from;
    const font = await request(app)
      .post('/api/faces')
      .set('content-type', 'font/ttf')
      .send(readFileSync(fromRoot('faces/catalogue/anton-400.woff')));
    const faceId = (font.body as { id: string }).id;
    const svg = '<svg xmlns="http://www.w3.org/2000/svg" width="30" height="20"><rect width="30" height="20" fill="#246"/></svg>';
    const picture = await request(app).post('/api/pictures').set('content-type', 'image/svg+xml').send(Buffer.from(svg)).expect(201);
    let n = 0;
    const whole = createJob('Tide table', () => `t${n++}`);
    const [block] = allBlocks(whole);
    const settings = settingsOf(block!);
    const recipe = (
      await request(app)
        .post('/api/recipes')
        .send({ name: 'Board', settings: { ...settings, style: { ...settings.style, faceId } } })
    ).body as Recipe;
    Object.assign(block!, recipe.settings, { words: 'High water', recipeId: recipe.id });
    Object.assign(whole.sheets[0]!, { background: { kind: 'picture', pictureId: (picture.body as { id: string }).id, fit: 'cover', colour: '#ffffff' } });
    const { id } = (await request(app).post('/api/jobs').send({ job: whole }).expect(201)).body as { id: string };
    await request(app).post(`/api/jobs/${id}/pulls`).send({ job: whole, name: 'as it came' }).expect(201);
    return id;
  }

  it('a job goes to another server with its picture, face, recipe and pull, and looks the same there', async () => {
    const id = await made();
    const zip = await packageOf(from, id);
    expect(await packageOf(from, id)).toEqual(zip);
    const before = await jobOf(from, id);
    const { body } = await open(to, zip).expect(201);
    const taken = body as { id: string; notes: string[] };
    expect(taken.notes).toEqual([]);
    const after = await jobOf(to, taken.id);
    const [recipe] = recipeListSchema.parse((await request(to.app).get('/api/recipes')).body).items;
    const named = { ...before.sheets[0]!.blocks[0]!, recipeId: recipe!.id };
    expect(after).toEqual({ ...before, sheets: [{ ...before.sheets[0]!, blocks: [named] }] });
    expect(recipe?.name).toBe('Board');
    const faces = faceListSchema.parse((await request(to.app).get('/api/faces')).body).items;
    expect(faces.some(({ id: face, source }) => face === named.style.faceId && source === 'upload')).toBeTrue();
    const { items: pulls } = pullListSchema.parse((await request(to.app).get(`/api/jobs/${taken.id}/pulls`)).body);
    expect(pulls.map(({ name }) => name)).toEqual(['as it came']);
    const [png, again] = await Promise.all(
      [[from, id, before] as const, [to, taken.id, after] as const].map(
        async ([{ app }, job, { sheets }]) =>
          (await request(app).get(`/api/jobs/${job}/sheets/${sheets[0]!.id}/png`).buffer(true).parse(binary).expect(200)).body as Buffer,
      ),
    );
    expect(png!.equals(again!)).toBeTrue();

    // Once more: the recipe that says the same is followed, the face is not kept twice; one that says something else gets a name of its own.
    await open(to, zip).expect(201);
    expect(recipeListSchema.parse((await request(to.app).get('/api/recipes')).body).items.length).toBe(1);
    const other = { ...recipe!.settings, align: 'right' as const };
    await request(to.app).put(`/api/recipes/${recipe!.id}`).send({ name: 'Board', settings: other }).expect(200);
    const { notes, id: third } = (await open(to, zip).expect(201)).body as { id: string; notes: string[] };
    expect(notes).toEqual(['The recipe “Board” is another here; that of the package is “Board, Tide table”.']);
    expect((await jobOf(to, third)).sheets[0]?.blocks[0]?.align).toBe('left');
  });

  it('holds shipped faces with their licences', async () => {
    const { id } = (
      await request(from.app)
        .post('/api/jobs')
        .send({ job: createJob('Plain', () => crypto.randomUUID()) })
        .expect(201)
    ).body as { id: string };
    const { faces, left } = openPackage(await packageOf(from, id));
    expect(faces.length).toBeGreaterThan(0);
    for (const { licence } of faces) expect(licence).toContain('Open Font License'.toUpperCase().slice(0, 4));
    expect(left).toEqual([]);
  });

  it('what is damaged is refused in words, and nothing of it is kept', async () => {
    const zip = await packageOf(from, await made());
    const before = [await total(to), faceListSchema.parse((await request(to.app).get('/api/faces')).body).items.length];
    const files = unzipSync(zip);
    const picture = Object.keys(files).find((path) => path.startsWith('pictures/'))!;
    const manifest = strFromU8(files['manifest.json']!);
    for (const bytes of [
      Buffer.alloc(0),
      zip.subarray(0, 500),
      zipSync({ ...files, [picture]: strToU8('<svg/>') }),
      zipSync({ ...files, 'manifest.json': strToU8(manifest.replaceAll('pictures/', '../')) }),
      zipSync({ 'a.txt': strToU8('a') }),
    ]) {
      const answer = await open(to, bytes);
      expect([answer.status, answer.type]).toEqual([422, 'application/problem+json']);
    }
    // What it is called does not matter: that it is whole does.
    await open(to, zipSync({ 'a.txt': strToU8('a') }), 'any (1).txt').expect(422);
    expect([await total(to), faceListSchema.parse((await request(to.app).get('/api/faces')).body).items.length]).toEqual(before);
  });
});
