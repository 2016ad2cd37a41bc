import { mkdirSync, mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { main } from '@jentrix/command';
import { type SheetFormat, SHEET_FORMATS, readJobFile } from '@jentrix/core/formats';
import { sized } from '@jentrix/core/testing';
import { unzipSync } from 'fflate';
import request from 'supertest';
import { type TestApp, binary, fromRoot, testApp } from '../testing';

/** Options that are not the defaults, for formats that have any. */
const OTHERWISE: Readonly<Record<string, readonly (readonly [name: string, value: string])[]>> = {
  png: [
    ['ppi', '40'],
    ['transparent', 'true'],
  ],
  jpeg: [
    ['width', '300'],
    ['quality', '60'],
  ],
  webp: [
    ['width', '301'],
    ['quality', '70'],
  ],
  svg: [
    ['letters', 'text'],
    ['embed', 'true'],
  ],
  pdf: [
    ['letters', 'text'],
    ['bleed', '3'],
    ['marks', 'true'],
  ],
  html: [['fluid', 'true']],
  css: [['fluid', 'true']],
};

describe('what is handed over', () => {
  let test: TestApp;
  let folder: string;
  beforeAll(async () => {
    test = await testApp();
    folder = mkdtempSync(join(tmpdir(), 'jentrix-exports-'));
  });
  afterAll(async () => {
    await test.end();
    rmSync(folder, { recursive: true });
  });
  const fetched = async (path: string): Promise<Buffer> => (await request(test.app).get(path).buffer(true).parse(binary).expect(200)).body as Buffer;
  const run = async (...argv: string[]): Promise<string> => {
    let error = '';
    expect(await main(argv, { output: { out: () => undefined, error: (text) => (error += text) } }))
      .withContext(argv.join(' '))
      .toBe(0);
    return error;
  };

  it('is the same to the byte from server and command: every format, every demo job, plain and otherwise', async () => {
    mkdirSync(join(folder, 'pictures'));
    const names = readdirSync(fromRoot('demo')).filter((one) => one.endsWith('.json'));
    for (const [at, name] of names.entries()) {
      const job = readJobFile(readFileSync(fromRoot(`demo/${name}`), 'utf8'));
      // The server names a picture by what is in it.
      let text = JSON.stringify(job);
      for (const { background } of job.sheets) {
        if (background.kind !== 'picture') continue;
        const file = background.pictureId.replace(/^demo:/, '');
        const sent = await request(test.app)
          .post('/api/pictures')
          .set('content-type', 'image/svg+xml')
          .send(readFileSync(fromRoot(`demo/pictures/${file}`)))
          .expect(201);
        const { id } = sent.body as { id: string };
        text = text.replaceAll(`"${background.pictureId}"`, `"${id}"`);
        writeFileSync(join(folder, 'pictures', `${id}.svg`), await fetched(`/api/pictures/${id}`));
      }
      const path = join(folder, name);
      writeFileSync(path, text);
      const { id } = (await request(test.app).post('/api/jobs').set('content-type', 'application/json').send(`{"job":${text}}`).expect(201)).body as {
        id: string;
      };
      const out = join(folder, 'out');
      const [sheet] = job.sheets;
      const same = async ({ id: format }: SheetFormat, options: readonly (readonly [string, string])[]): Promise<void> => {
        const flags = options.flatMap(([key, value]) => (value === 'true' ? [`--${key}`] : [`--${key}`, value]));
        await run('export', path, '-o', out, '--format', format, ...flags);
        const query = new URLSearchParams(options.map(([key, value]) => [key, value]));
        const served = await fetched(`/api/jobs/${id}/sheets/${sheet!.id}/${format}?${query.toString()}`);
        expect(served.equals(readFileSync(out)))
          .withContext(`${name} ${format} ${query.toString()}`)
          .toBeTrue();
      };
      // Usually each format is compared with one of the jobs.
      const every = sized(names.length, 1);
      const taken = SHEET_FORMATS.filter((_, i) => (i + at) % every === 0);
      for (const format of taken) for (const options of [[], OTHERWISE[format.id] ?? []]) await same(format, options);
      await run('export', path, '-o', out, '--format', 'package');
      expect((await fetched(`/api/jobs/${id}/package`)).equals(readFileSync(out)))
        .withContext(`${name} package`)
        .toBeTrue();
      await run('pairs', path, '--out', out + name);
      for (const [file, bytes] of Object.entries(unzipSync(await fetched(`/api/jobs/${id}/pairs`))))
        expect(Buffer.from(bytes).equals(readFileSync(join(out + name, file))))
          .withContext(`${name} ${file}`)
          .toBeTrue();
    }
  }, 300_000);
});
