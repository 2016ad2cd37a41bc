import { readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { cataloguePageSchema, collectionProblemSchema, faceEntrySchema, faceListSchema } from '@jentrix/core/api';
import { FaceError } from '@jentrix/core/face';
import { createJob } from '@jentrix/core/job';
import { toCollection } from '@jentrix/core/testing';
import type { Express } from 'express';
import request from 'supertest';
import { compress } from 'woff2-encoder';
import { binary, fromRoot, testApp } from '../testing';
import { describeFont, openFontBytes } from './describe-font';
import { readListed } from './listed';

const bytesOf = (id: string): Buffer => readFileSync(fromRoot(`faces/${id}.ttf`));

describe('font files on the server', () => {
  it('opens WOFF2, and refuses a damaged one with a reason', async () => {
    const ttf = bytesOf('league-gothic-regular');
    const woff2 = await compress(ttf);
    const face = await openFontBytes(woff2);
    const plain = await openFontBytes(ttf);
    expect(face.family).toBe('League Gothic');
    expect(face.instance().shape('Vega', 0, 4)).toEqual(plain.instance().shape('Vega', 0, 4));
    for (const change of [woff2.slice(0, 30), woff2.slice(0, woff2.length / 2), woff2.map((byte, i) => (i > 300 && i % 7 === 0 ? byte ^ 0x55 : byte))]) {
      await expectAsync(openFontBytes(change)).toBeRejectedWithError(FaceError);
    }
  });
});

describe('what is listed of the faces that come with Jentrix', () => {
  for (const index of ['faces/faces.json', 'faces/catalogue/catalogue.json'])
    it(`is what their files measure: ${index}`, async () => {
      for (const { id, file, licence: _licence, ...listed } of readListed(fromRoot(index))) {
        const { fields } = await describeFont({ path: join(dirname(fromRoot(index)), file) });
        expect({ id, ...listed }).toEqual({ id, ...fields });
      }
    });
});

describe('type case', () => {
  let app: Express;
  let end: () => Promise<void>;
  beforeEach(async () => ({ app, end } = await testApp()));
  afterEach(() => end());

  const list = async () => faceListSchema.parse((await request(app).get('/api/faces').expect(200)).body).items;
  const upload = (bytes: Buffer) => request(app).post('/api/faces').set('content-type', 'application/octet-stream').send(bytes);

  it('measures every face at hand', async () => {
    const faces = new Map((await list()).map((face) => [face.id, face]));
    expect(faces.get('playfair-display-bold')?.anatomy.kind).toBe('serif');
    expect(faces.get('source-sans-3-regular')?.anatomy.kind).toBe('sans');
    expect(faces.get('league-gothic-regular')?.anatomy.condensed).toBeTrue();
    expect(faces.get('playfair-display-black')?.anatomy.stem ?? 0).toBeGreaterThan(faces.get('playfair-display-regular')?.anatomy.stem ?? 1);
    expect(faces.get('playfair-display-regular')?.anatomy.contrast ?? 1).toBeLessThan(faces.get('josefin-sans-regular')?.anatomy.contrast ?? 0);
  });

  it('keeps an uploaded font once, serves it, and takes it out again', async () => {
    const bytes = bytesOf('league-gothic-regular');
    const first = faceEntrySchema.parse((await upload(bytes).expect(201)).body);
    expect(first).toEqual(jasmine.objectContaining({ family: 'League Gothic', source: 'upload' }));
    expect(faceEntrySchema.parse((await upload(bytes).expect(200)).body).id).toBe(first.id);
    expect((await list()).filter(({ source }) => source === 'upload').length).toBe(1);
    const file = await request(app).get(`/api/faces/${first.id}/file`).buffer(true).parse(binary);
    expect(Buffer.compare(file.body as Buffer, bytes)).toBe(0);
    await request(app).delete(`/api/faces/${first.id}`).expect(204);
    await request(app).get(`/api/faces/${first.id}/file`).expect(404);
  });

  it('asks which font of a collection, and keeps that as a font of its own', async () => {
    const file = Buffer.from(toCollection(bytesOf('league-gothic-regular'), bytesOf('playfair-display-bold')));
    const problem = collectionProblemSchema.parse((await upload(file).expect(422)).body);
    expect(problem.fonts.map(({ family, style }) => `${family} ${style}`)).toEqual(['League Gothic Regular', 'Playfair Display Bold']);
    const choose = (font: string) => request(app).post(`/api/faces?font=${font}`).set('content-type', 'application/octet-stream').send(file);
    const kept = faceEntrySchema.parse((await choose('1').expect(201)).body);
    expect([kept.family, kept.style]).toEqual(['Playfair Display', 'Bold']);
    expect(faceEntrySchema.parse((await choose('1').expect(200)).body).id).toBe(kept.id);
    const served = (await request(app).get(`/api/faces/${kept.id}/file`).buffer(true).parse(binary)).body as Buffer;
    expect((await openFontBytes(served)).style).toBe('Bold');
    for (const wrong of ['2', '-1', 'x', '1e9']) expect((await choose(wrong)).status).toBeGreaterThanOrEqual(400);
    expect((await list()).filter(({ source }) => source === 'upload').length).toBe(1);
  });

  it('refuses damaged and hostile files with a reason and keeps nothing', async () => {
    const good = bytesOf('league-gothic-regular');
    const before = (await list()).length;
    for (const [bytes, part] of [
      [Buffer.alloc(0), 'empty'],
      [Buffer.from('<svg onload="alert(1)"/>'), 'does not begin like a font'],
      [good.subarray(0, 5000), 'ends inside'],
      [Buffer.concat([good.subarray(0, 12), Buffer.alloc(200, 255)]), ''],
    ] as [Buffer, string][]) {
      const { body } = await upload(bytes).expect(422);
      expect((body as { detail: string }).detail).toContain(part);
    }
    expect((await list()).length).toBe(before);
  });

  it('removes a face in use only with a stand-in, which the jobs then have', async () => {
    const face = faceEntrySchema.parse((await upload(bytesOf('josefin-sans-regular'))).body);
    let n = 0;
    const job = createJob('Uses it', () => `id${n++}`);
    const block = job.sheets[0]?.blocks[0];
    if (block) Object.assign(block, { style: { ...block.style, faceId: face.id }, parked: [{ faceId: face.id, hand: [] }] });
    const recipe = block && { name: 'Airy', settings: { style: block.style, leading: block.leading, align: block.align, paragraph: block.paragraph } };
    await request(app).post('/api/recipes').send(recipe).expect(201);
    const made = (await request(app).post('/api/jobs').send({ job }).expect(201)).body as { id: string };
    const refused = await request(app).delete(`/api/faces/${face.id}`).expect(409);
    expect((refused.body as { titles: string[] }).titles).toEqual(['Uses it', 'the recipe Airy']);
    await request(app).delete(`/api/faces/${face.id}?standIn=nothing`).expect(404);
    await request(app).delete(`/api/faces/${face.id}?standIn=alegreya-medium`).expect(204);
    const after = (await request(app).get(`/api/jobs/${made.id}`)).body as { revision: number; job: { sheets: { blocks: { style: { faceId: string } }[] }[] } };
    expect(after.job.sheets[0]?.blocks[0]?.style.faceId).toBe('alegreya-medium');
    expect(after.revision).toBe(2);
    for (const path of [`/api/jobs/${made.id}`, '/api/recipes']) expect(JSON.stringify((await request(app).get(path)).body)).not.toContain(face.id);
    await request(app).delete('/api/faces/alegreya-medium').expect(403);
  });

  it('finds faces in the catalogue and adds them', async () => {
    const search = async (query: string) => cataloguePageSchema.parse((await request(app).get(`/api/catalogue?${query}`).expect(200)).body);
    const all = await search('pageSize=100');
    expect(new Set(all.items.map(({ family }) => family)).size).toBeGreaterThanOrEqual(40);
    expect((await search('kind=mono')).items.every(({ anatomy }) => anatomy.kind === 'mono')).toBeTrue();
    expect((await search('q=slab+zilla')).items.map(({ id }) => id)).toContain('zilla-slab-400');
    const heavy = (await search('sort=stem&order=desc')).items.map(({ anatomy }) => anatomy.stem);
    expect(heavy).toEqual([...heavy].sort((a, b) => b - a));
    expect((await search('variable=true')).total).toBeGreaterThanOrEqual(5);
    const second = await search('page=2&pageSize=10');
    expect(second.items[0]?.id).toBe(all.items[10]?.id);
    await request(app).get('/api/catalogue?kind=blackletter').expect(422);

    expect((await search('q=lora')).items.find(({ id }) => id === 'lora-400')?.atHand).toBeFalse();
    await request(app).post('/api/catalogue/lora-400/add').expect(201);
    await request(app).post('/api/catalogue/lora-400/add').expect(201);
    expect((await list()).filter(({ id }) => id === 'lora-400').length).toBe(1);
    expect((await search('q=lora')).items.find(({ id }) => id === 'lora-400')?.atHand).toBeTrue();
    await request(app)
      .get('/api/faces/lora-400/file')
      .expect(200)
      .expect('content-type', /font\/woff/);
    await request(app).post('/api/catalogue/none/add').expect(404);
  });

  it('stays whole while the catalogue is slow or away', async () => {
    await request(app).put('/api/catalogue/trouble').send({ failing: true }).expect(200);
    await request(app)
      .get('/api/catalogue')
      .expect(503)
      .expect('content-type', /problem/);
    await request(app).post('/api/catalogue/lora-400/add').expect(503);
    expect((await list()).length).toBeGreaterThan(10);
    await request(app).put('/api/catalogue/trouble').send({ delayMs: 20 }).expect(200);
    await request(app).get('/api/catalogue').expect(200);
    await request(app).put('/api/catalogue/trouble').send({ delayMs: -1 }).expect(422);
  });

  it('remembers favourites', async () => {
    await request(app).put('/api/faces/alegreya-medium/favourite').send({ favourite: true }).expect(200);
    expect((await list()).filter(({ favourite }) => favourite).map(({ id }) => id)).toEqual(['alegreya-medium']);
    await request(app).put('/api/faces/alegreya-medium/favourite').send({ favourite: false }).expect(200);
    expect((await list()).some(({ favourite }) => favourite)).toBeFalse();
    await request(app).put('/api/faces/none/favourite').send({ favourite: true }).expect(404);
  });
});
