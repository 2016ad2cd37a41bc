import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { faceListSchema, jobPageSchema, jobRecordSchema } from '@jentrix/core/api';
import { readJobFile } from '@jentrix/core/formats';
import { createBlock, createJob } from '@jentrix/core/job';
import type { Express } from 'express';
import { unzipSync } from 'fflate';
import request from 'supertest';
import { openDatabase } from './data-source';
import { LargeBytes, PART_BYTES } from './database/large-bytes';
import { seedDemo } from './demo/seed';
import { binary, fromRoot, testApp } from './testing';

let n = 0;

describe('server', () => {
  let app: Express;
  let end: () => Promise<void>;
  beforeAll(async () => ({ app, end } = await testApp()));
  afterAll(() => end());

  it('answers to its own host names only', async () => {
    await request(app).get('/api/jobs').set('host', 'evil.example').expect(421);
    await request(app).get('/').set('host', 'evil.example:4600').expect(421);
    await request(app).get('/api/jobs').set('host', '127.0.0.1:4600').expect(200);
  });

  it('refuses writes from other sites’ pages', async () => {
    await request(app).post('/api/jobs').set('origin', 'http://evil.example').send({}).expect(403);
    const own = (test: request.Test) => test.set('host', '127.0.0.1:4600').set('origin', 'http://127.0.0.1:4600');
    await own(request(app).post('/api/jobs')).send({}).expect(422);
    await own(request(app).post('/api/jobs')).set('sec-fetch-site', 'same-origin').send({}).expect(422);
    await own(request(app).post('/api/jobs')).set('origin', 'https://127.0.0.1:4600').send({}).expect(403);
    await own(request(app).post('/api/jobs')).set('origin', 'null').send({}).expect(403);
  });

  it('takes another port for another origin, and draws nothing for it', async () => {
    const foreign = (test: request.Test) => test.set('host', '127.0.0.1:4600').set('sec-fetch-site', 'same-site');
    await request(app).post('/api/jobs').set('host', '127.0.0.1:4600').set('origin', 'http://127.0.0.1:4700').send({}).expect(403);
    await foreign(request(app).post('/api/catalogue/any/add')).set('origin', 'http://127.0.0.1:4700').expect(403);
    const shown = await foreign(request(app).get('/api/jobs/any/thumbnail.png')).set('sec-fetch-mode', 'no-cors').expect(403);
    expect(shown.headers['ratelimit']).toBeUndefined();
    await foreign(request(app).get('/jobs/any')).set('sec-fetch-mode', 'navigate').expect(200);
  });

  it('sends files and the page, and nothing for what is neither', async () => {
    for (const path of ['/index.html', '/nothing-here.js', '/.env', '/.git/config', '/assets/none.png', '/%2e%2e/package.json']) {
      const answer = await request(app).get(path).expect(404);
      expect(answer.text).not.toContain('CSP_NONCE');
    }
    await request(app).get('/recipes').expect(200).expect('content-type', /html/);
  });

  it('has a page for when it is away: the same bytes for everybody, with a policy that lets no script of its own in', async () => {
    const [one, two] = [await request(app).get('/shell.html').expect(200), await request(app).get('/shell.html').expect(200)];
    const policy = String(one.headers['content-security-policy']);
    expect([two.text, two.headers['content-security-policy']]).toEqual([one.text, policy]);
    const nonce = /ngCspNonce="([\w-]+)"/i.exec(one.text)?.[1] ?? '';
    expect(nonce).not.toBe('');
    expect(policy).toContain(`style-src 'self' 'nonce-${nonce}'`);
    expect(policy).toContain("script-src 'self' 'wasm-unsafe-eval';");
    for (const rest of ["default-src 'none'", "frame-ancestors 'none'", "connect-src 'self'"]) expect(policy).toContain(rest);
  });

  it('sends a strict policy with a fresh nonce that the page carries', async () => {
    const one = await request(app).get('/jobs/anything').expect(200);
    const policy = String(one.headers['content-security-policy']);
    const nonce = /'nonce-([^']+)'/.exec(policy)?.[1];
    expect(policy).toContain("default-src 'none'");
    expect(policy).toMatch(/script-src 'self' 'wasm-unsafe-eval' 'nonce-[\w+/=]{24}';/);
    expect(policy).not.toContain('unsafe-inline');
    expect(one.text).toContain(`ngCspNonce="${nonce ?? 'none'}"`);
    const two = await request(app).get('/').expect(200);
    expect(String(two.headers['content-security-policy'])).not.toBe(policy);
    expect(one.headers['x-powered-by']).toBeUndefined();
  });

  it('answers unknown addresses of the API with a problem', async () => {
    await request(app)
      .get('/api/nothing')
      .expect(404)
      .expect('content-type', /problem\+json/);
    await request(app).get('/api/jobs/none').expect(404);
    await request(app).get('/api/faces/none/file').expect(404);
    await request(app).get('/api/faces/..%2F..%2Fpackage.json/file').expect(404);
  });

  it('lists and serves the shipped faces', async () => {
    const { items, standInId } = faceListSchema.parse((await request(app).get('/api/faces').expect(200)).body);
    expect(items.length).toBeGreaterThan(10);
    expect(items.some(({ id }) => id === standInId)).toBeTrue();
    expect(items.find(({ id }) => id === 'playfair-display-bold')).toEqual(jasmine.objectContaining({ family: 'Playfair Display', style: 'Bold' }));
    const file = await request(app).get('/api/faces/league-gothic-regular/file').expect(200);
    expect((file.body as Buffer).byteLength).toBe(40632);
  });

  it('keeps preferences, and refuses what is out of range', async () => {
    const initial = (await request(app).get('/api/preferences').expect(200)).body as Record<string, number>;
    await request(app)
      .put('/api/preferences')
      .send({ ...initial, fineMilliem: 5 })
      .expect(200);
    expect(((await request(app).get('/api/preferences')).body as Record<string, number>)['fineMilliem']).toBe(5);
    await request(app).put('/api/preferences').send({ fineMilliem: 0 }).expect(422);
    await request(app).put('/api/preferences').send({ colour: 'red' }).expect(422);
  });

  it('publishes the schema of the job file', async () => {
    expect(JSON.stringify((await request(app).get('/api/schema/job.json').expect(200)).body)).toContain('"jentrix.job"');
  });

  describe('exports', () => {
    let id: string;
    beforeAll(async () => {
      const job = createJob('Perseïds & co', () => `id${++n}`);
      const sheet = job.sheets[0];
      if (!sheet) throw new Error('no sheet');
      sheet.id = 'first';
      sheet.blocks = [createBlock('head', 'VALLEY', { xPt: 40, yPt: 40, widthPt: 500, heightPt: 90 }, { faceId: 'playfair-display-bold', sizePt: 90 })];
      id = jobRecordSchema.parse((await request(app).post('/api/jobs').send({ job }).expect(201)).body).id;
    });

    it('hands over SVG with outlines or live text', async () => {
      const outlines = await request(app).get(`/api/jobs/${id}/sheets/first/svg`).expect(200).expect('content-type', /svg/);
      expect(outlines.headers['content-disposition']).toContain('perseids-co.svg');
      expect((outlines.body as Buffer).toString().match(/<path/g)?.length).toBe(6);
      const text = await request(app).get(`/api/jobs/${id}/sheets/first/svg?letters=text`).expect(200);
      expect((text.body as Buffer).toString()).toContain('>VALLEY</tspan>');
      await request(app).get(`/api/jobs/${id}/sheets/first/svg?letters=runes`).expect(422);
      await request(app).get(`/api/jobs/${id}/sheets/second/svg`).expect(404);
    });

    it('hands over PNG at 1x, 2x and 3x', async () => {
      for (const scale of [1, 2, 3]) {
        const png = (await request(app).get(`/api/jobs/${id}/sheets/first/png?scale=${scale}`).expect(200).expect('content-type', 'image/png')).body as Buffer;
        expect(png.readUInt32BE(16)).toBe(Math.ceil(793.7 * scale));
        expect(Math.abs(png.readUInt32BE(20) - 1122.5 * scale)).toBeLessThan(2);
      }
      await request(app).get(`/api/jobs/${id}/sheets/first/png?scale=9`).expect(422);
    });

    it('hands over JPEG and WebP, by width or pixels an inch, one at a time or all as ZIP', async () => {
      const made = (path: string) => request(app).get(`/api/jobs/${id}/${path}`).buffer(true).parse(binary);
      const jpeg = await made('sheets/first/jpeg?width=400')
        .expect(200)
        .expect('content-type', 'image/jpeg')
        .expect('content-disposition', /-400px\.jpg/);
      expect([...(jpeg.body as Buffer).subarray(0, 3)]).toEqual([0xff, 0xd8, 0xff]);
      const webp = await made('sheets/first/webp?ppi=50&transparent=true').expect(200).expect('content-type', 'image/webp');
      expect((webp.body as Buffer).toString('latin1', 8, 12)).toBe('WEBP');
      const zip = unzipSync(new Uint8Array((await made('sheets.zip?format=jpeg&width=100').expect(200)).body as Buffer));
      expect(Object.keys(zip)).toEqual([jasmine.stringMatching(/\.jpg$/)]);
      for (const bad of ['jpeg?width=100&ppi=72', 'webp?quality=0', 'jpeg?width=90000', 'png?transparent=maybe'])
        await request(app).get(`/api/jobs/${id}/sheets/first/${bad}`).expect(422);
    });

    it('hands over some sheets or all: pages of one PDF, or files of one ZIP; and shows beforehand how they will lie', async () => {
      const job = createJob('Three', () => `id${++n}`);
      const [sheet] = job.sheets;
      if (!sheet) throw new Error('no sheet');
      job.sheets = ['a', 'b', 'c'].map((own) => ({ ...sheet, id: own, name: `Sheet ${own}`, blocks: [] }));
      const three = jobRecordSchema.parse((await request(app).post('/api/jobs').send({ job }).expect(201)).body).id;
      const made = (path: string) => request(app).get(`/api/jobs/${three}/${path}`).buffer(true).parse(binary);
      const pages = async (path: string): Promise<number> =>
        (((await made(path).expect(200).expect('content-type', 'application/pdf')).body as Buffer).toString('latin1').match(/\/Type \/Page\b/g) ?? []).length;
      expect(await pages('sheets.pdf')).toBe(3);
      expect(await pages('sheets.pdf?sheets=c,a&bleed=3&marks=true')).toBe(2);
      expect(await pages('sheets/b/pdf?letters=text')).toBe(1);
      const zip = await made('sheets.zip?format=svg&sheets=c,a')
        .expect(200)
        .expect('content-disposition', /three\.zip/);
      expect(Object.keys(unzipSync(zip.body as Buffer))).toEqual(['01-sheet-a.svg', '03-sheet-c.svg']);
      expect(((await made('sheets.zip?format=svg&sheets=c,a')).body as Buffer).equals(zip.body as Buffer)).toBeTrue();
      const preview = async (query: string): Promise<[number, number]> => {
        const png = (await made(`sheets/a/preview?${query}`).expect(200).expect('content-type', 'image/png')).body as Buffer;
        return [png.readUInt32BE(16), png.readUInt32BE(20)];
      };
      expect(Math.max(...(await preview('format=pdf&side=200')))).toBe(200);
      // With a bleed all round a page is less long for its width.
      const [[w, h], [wide, high]] = [await preview('format=pdf'), await preview('format=pdf&bleed=20&marks=true')];
      expect(wide / high).toBeGreaterThan(w / h);
      for (const bad of ['sheets.zip?sheets=a,x', 'sheets.pdf?sheets=', 'sheets/x/preview']) await made(bad).expect(404);
      for (const bad of ['sheets.pdf?bleed=-1', 'sheets.zip?format=tiff', 'sheets/a/preview?side=5']) await made(bad).expect(422);
    });

    it('breaks a ZIP off whose later sheets can’t be made, and says so of the first', async () => {
      const job = createJob('Huge second', () => `id${++n}`);
      const [sheet] = job.sheets;
      if (!sheet) throw new Error('no sheet');
      const huge = { ...sheet, id: 'huge', widthPt: 20_000, heightPt: 20_000, blocks: [] };
      job.sheets = [sheet, huge];
      const own = jobRecordSchema.parse((await request(app).post('/api/jobs').send({ job }).expect(201)).body).id;
      await expectAsync(request(app).get(`/api/jobs/${own}/sheets.zip?format=png&scale=3`).buffer(true).parse(binary)).toBeRejected();
      await request(app).get(`/api/jobs/${own}/sheets.zip?format=png&scale=3&sheets=huge`).expect(413);
    });

    it('refuses a picture that would be too large', async () => {
      const job = createJob('Huge', () => `id${++n}`);
      const sheet = job.sheets[0];
      if (!sheet) throw new Error('no sheet');
      Object.assign(sheet, { id: 'huge', widthPt: 20_000, heightPt: 20_000 });
      const huge = jobRecordSchema.parse((await request(app).post('/api/jobs').send({ job }).expect(201)).body);
      await request(app).get(`/api/jobs/${huge.id}/sheets/huge/png?scale=3`).expect(413);
      await request(app).get(`/api/jobs/${huge.id}/thumbnail.png`).expect(200);
    });

    it('makes thumbnails that are asked for again only when the job has changed', async () => {
      const first = await request(app).get(`/api/jobs/${id}/thumbnail.png`).expect(200);
      await request(app).get(`/api/jobs/${id}/thumbnail.png`).set('if-none-match', String(first.headers['etag'])).expect(304);
      const again = await request(app).get(`/api/jobs/${id}/thumbnail.png`).expect(200);
      expect((again.body as Buffer).equals(first.body as Buffer)).toBeTrue();
      const record = await request(app).get(`/api/jobs/${id}`).expect(200);
      const { job } = record.body as { job: { sheets: { background: unknown }[] } };
      const painted = { ...job, sheets: job.sheets.map((sheet) => ({ ...sheet, background: { kind: 'colour', colour: '#00ff00' } })) };
      await request(app).put(`/api/jobs/${id}`).set('if-match', String(record.headers['etag'])).send({ job: painted }).expect(200);
      const other = await request(app).get(`/api/jobs/${id}/thumbnail.png`).set('if-none-match', String(first.headers['etag'])).expect(200);
      expect((other.body as Buffer).equals(first.body as Buffer)).toBeFalse();
    });

    it('hands over a block alone, as large as its ink, in every format', async () => {
      const svg = (await request(app).get(`/api/jobs/${id}/sheets/first/svg?block=head`).expect(200)).body as Buffer;
      const [, width, height] = /viewBox="0 0 ([\d.]+) ([\d.]+)"/.exec(svg.toString()) ?? [];
      expect([Number(width) > 200, Number(width) < 500, Number(height) < 90, svg.includes('<rect')]).toEqual([true, true, true, false]);
      for (const format of ['png', 'jpeg', 'webp', 'pdf', 'html', 'css'])
        await request(app).get(`/api/jobs/${id}/sheets/first/${format}?block=head`).expect(200);
      await request(app).get(`/api/jobs/${id}/sheets/first/preview?format=pdf&bleed=3&block=head`).expect(200);
      await request(app).get(`/api/jobs/${id}/sheets/first/svg?block=none`).expect(404);
    });

    it('hands over the pairs it is spaced by', async () => {
      const answer = await request(app)
        .get(`/api/jobs/${id}/pairs`)
        .buffer(true)
        .parse(binary)
        .expect(200)
        .expect('content-disposition', /-pairs\.zip/);
      const files = unzipSync(answer.body as Buffer);
      expect(Object.keys(files)).toEqual(['pairs.csv', 'pairs.json', 'playfair-display-bold.fea']);
      expect(Buffer.from(files['pairs.csv']!).toString()).toContain('playfair-display-bold,V,A,');
      const { body } = await request(app).get(`/api/jobs/${id}/pairs?fonts=true`).buffer(true).parse(binary).expect(200);
      const [font, licence] = Object.keys(unzipSync(body as Buffer))
        .filter((name) => name.startsWith('fonts/'))
        .sort()
        .reverse();
      expect([font, licence]).toEqual([jasmine.stringMatching(/spaced-Bold\.ttf$/), jasmine.stringMatching(/-licence\.txt$/)]);
    });

    it('hands over the job file', async () => {
      const file = await request(app)
        .get(`/api/jobs/${id}/file`)
        .buffer(true)
        .parse((response, done) => {
          let text = '';
          response.setEncoding('utf8');
          response.on('data', (chunk: string) => (text += chunk));
          response.on('end', () => done(null, text));
        })
        .expect(200);
      expect(file.headers['content-disposition']).toContain('perseids-co.jentrix.json');
      expect(readJobFile(file.body as string).title).toBe('Perseïds & co');
    });
  });
});

describe('database', () => {
  it('has after its migrations exactly the tables the entities describe', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'jentrix-'));
    const dataSource = await openDatabase(join(folder, 'test.sqlite'));
    try {
      const { upQueries } = await dataSource.driver.createSchemaBuilder().log();
      expect(upQueries.map(({ query }) => query)).toEqual([]);
      const [mode] = await dataSource.query<{ journal_mode: string }[]>('PRAGMA journal_mode');
      expect(mode?.journal_mode).toBe('wal');
      const [safety] = await dataSource.query<{ synchronous: number }[]>('PRAGMA synchronous');
      expect(safety?.synchronous).withContext('FULL').toBe(2);
    } finally {
      await dataSource.destroy();
      rmSync(folder, { recursive: true });
    }
  });

  it('finds out what jobs use that were stored before that was noted', async () => {
    const { dataSource, jobs, end } = await testApp();
    const job = createJob('Earlier', () => `id${++n}`);
    const { id } = jobs.create(job);
    const uses = await jobs.usesOf(id);
    expect(uses.length).toBeGreaterThan(0);
    const [migration] = dataSource.migrations.filter(({ name }) => name?.startsWith('Uses'));
    const runner = dataSource.createQueryRunner();
    await migration?.down(runner);
    await runner.query(
      `INSERT INTO "job" SELECT 'bent', "title", "kind", "revision", "sheetCount", "aspect", '{"bent', "createdAt", "updatedAt", "deletedAt" FROM "job"`,
    );
    await migration?.up(runner);
    expect((await jobs.usesOf(id)).map(({ kind, id: thing }) => kind + thing).sort()).toEqual(uses.map(({ kind, id: thing }) => kind + thing).sort());
    expect(await jobs.usesOf('bent')).toEqual([]);
    await end();
  });

  it('keeps files that were stored whole, and tells recipes of one name apart', async () => {
    const { dataSource, pictures, end } = await testApp();
    const files = new LargeBytes(dataSource);
    const long = Buffer.from(Array.from({ length: 2.5 * PART_BYTES }, (_, i) => (i * 7) % 251));
    await files.write('picture-p', long);
    await dataSource.query(`INSERT INTO "picture" ("id", "type", "width", "height") VALUES ('p', 'image/png', 1, 1)`);
    const [bytes, names] = ['Bytes', 'RecipeNames'].map((start) => dataSource.migrations.find(({ name }) => name?.startsWith(start)));
    const runner = dataSource.createQueryRunner();
    await bytes?.down(runner);
    expect(((await runner.query(`SELECT length("bytes") "size" FROM "picture"`)) as { size: number }[])[0]?.size).toBe(long.length);
    await bytes?.up(runner);
    expect((await pictures.read('p')).bytes.equals(long)).toBeTrue();
    await names?.down(runner);
    for (const id of ['a', 'b', 'c']) await runner.query(`INSERT INTO "recipe" VALUES ('${id}', 'Same', '{}')`);
    await names?.up(runner);
    expect(((await runner.query(`SELECT "name" FROM "recipe" ORDER BY "id"`)) as { name: string }[]).map(({ name }) => name)).toEqual([
      'Same',
      'Same (2)',
      'Same (3)',
    ]);
    await end();
  });

  it('that is garbage ends in words, and nothing is changed in it', () => {
    const folder = mkdtempSync(join(tmpdir(), 'jentrix-'));
    try {
      const file = join(folder, 'jentrix.sqlite');
      writeFileSync(file, 'this is no database'.repeat(1000));
      const started = spawnSync(process.execPath, ['server/bin/server.mjs'], {
        cwd: fromRoot('.'),
        env: { ...process.env, JENTRIX_DATA: folder, JENTRIX_PORT: '0' },
        encoding: 'utf8',
        timeout: 50_000,
      });
      expect(started.status).toBe(1);
      expect(started.stderr).toContain('can’t open its database');
      expect(started.stderr).not.toContain('    at ');
      expect(readFileSync(file, 'utf8')).toBe('this is no database'.repeat(1000));
    } finally {
      rmSync(folder, { recursive: true });
    }
  });

  it('is seeded with the demo once, and only while empty', async () => {
    const { app, jobs, pictures, end } = await testApp();
    expect(await seedDemo(jobs, pictures, fromRoot('demo'))).toBe(5);
    expect(await seedDemo(jobs, pictures, fromRoot('demo'))).toBe(0);
    const { items } = jobPageSchema.parse((await request(app).get('/api/jobs').expect(200)).body);
    expect(items.length).toBe(5);
    for (const { id } of items) await request(app).get(`/api/jobs/${id}/thumbnail.png`).expect(200);
    await end();
  });
});
