import { type ChildProcess, spawn, spawnSync } from 'node:child_process';
import { copyFileSync, mkdirSync, mkdtempSync, readdirSync, renameSync, rmSync, statSync, truncateSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type Backup, type JobPage, type JobRecord, backupListSchema } from '@jentrix/core/api';
import { createJob, retitle } from '@jentrix/core/job';
import request from 'supertest';
import { own } from '../database/owner';
import { openDatabase } from '../data-source';
import { type TestApp, fromRoot, testApp } from '../testing';
import { KEPT_COPIES, copiesIn, copyName, letOldCopiesGo, newestGood } from './copies';

/** A server of its own on a data folder. */
class Started {
  url = '';
  private constructor(private readonly child: ChildProcess) {}

  static on(data: string): Promise<Started> {
    const env = { ...process.env, JENTRIX_DATA: data, JENTRIX_PORT: '0' };
    const child = spawn(process.execPath, ['server/bin/server.mjs'], { cwd: fromRoot('.'), env, stdio: ['ignore', 'pipe', 'inherit'] });
    const started = new Started(child);
    return new Promise((ready, fail) => {
      let output = '';
      child.stdout.on('data', (chunk: Buffer) => {
        output += chunk.toString();
        const [, url] = /ready at (\S+)/.exec(output) ?? [];
        if (url) ready(Object.assign(started, { url }));
      });
      child.once('exit', (code) => fail(new Error(`It ended with ${code}`)));
    });
  }
  end(signal: NodeJS.Signals = 'SIGTERM'): Promise<void> {
    if (this.child.exitCode !== null || this.child.signalCode !== null) return Promise.resolve();
    return new Promise((done) => {
      this.child.once('exit', () => done());
      this.child.kill(signal);
    });
  }
  async get<T>(path: string): Promise<T> {
    const answer = await fetch(this.url + path);
    if (!answer.ok) throw new Error(`${answer.status} at ${path}`);
    return (await answer.json()) as T;
  }
  send(method: string, path: string, body: unknown, headers: Record<string, string> = {}): Promise<Response> {
    return fetch(this.url + path, { method, headers: { 'content-type': 'application/json', ...headers }, body: JSON.stringify(body) });
  }
  async create(title: string): Promise<string> {
    const job = retitle(
      createJob('x', () => crypto.randomUUID()),
      title,
    );
    return ((await (await this.send('POST', '/api/jobs', { job })).json()) as JobRecord).id;
  }
  async titles(): Promise<string[]> {
    return (await this.get<JobPage>('/api/jobs')).items.map(({ title }) => title).sort();
  }
}

/** Runs a program to its end. Connections that were closed meanwhile, while this process stood still, are noticed before it returns. */
async function run(script: string, data: string, ...args: string[]): Promise<{ status: number | null; stdout: string; stderr: string }> {
  const env = { ...process.env, JENTRIX_DATA: data, JENTRIX_PORT: '0' };
  const ended = spawnSync(process.execPath, [script, ...args], { cwd: fromRoot('.'), env, encoding: 'utf8', timeout: 50_000 });
  await new Promise((noticed) => setTimeout(noticed, 50));
  return ended;
}

describe('a data folder', () => {
  let data: string;
  const servers: Started[] = [];
  const start = async (): Promise<Started> => {
    const server = await Started.on(data);
    servers.push(server);
    return server;
  };
  beforeEach(() => (data = mkdtempSync(join(tmpdir(), 'jentrix-data-'))));
  afterEach(async () => {
    for (const server of servers.splice(0)) await server.end('SIGKILL');
    rmSync(data, { recursive: true, force: true });
  });

  it('belongs to one server: a second is refused with the address of the first, which notices nothing', async () => {
    const server = await start();
    const id = await server.create('Mine');
    expect((await fetch(`${server.url}/api/jobs/${id}/thumbnail.png`)).status).toBe(200);
    const spool = readdirSync(join(data, 'spool'));
    const second = await run('server/bin/server.mjs', data);
    expect([second.status, second.stderr.includes(server.url), second.stderr.includes('    at ')]).toEqual([1, true, false]);
    expect(readdirSync(join(data, 'spool'))).toEqual(spool);
    expect((await fetch(`${server.url}/api/jobs/${id}/thumbnail.png`)).status).toBe(200);
  });

  it('keeps thumbnails for the next server, which draws none of them again', async () => {
    const first = await start();
    const id = await first.create('Drawn');
    const address = `/api/jobs/${id}/thumbnail.png`;
    const drawn = await fetch(first.url + address);
    const bytes = Buffer.from(await drawn.arrayBuffer());
    const thumbnails = join(data, 'thumbnails');
    const kept = (): [string, number][] => readdirSync(thumbnails).map((name) => [name, statSync(join(thumbnails, name)).mtimeMs]);
    const before = kept();
    expect(before.length).toBe(1);
    await first.end('SIGKILL');
    const again = await fetch((await start()).url + address);
    expect([again.headers.get('etag'), Buffer.from(await again.arrayBuffer())]).toEqual([drawn.headers.get('etag'), bytes]);
    expect(kept()).toEqual(before);
  });

  it('is free again as soon as its server was killed, with all that was saved', async () => {
    const first = await start();
    await first.create('Kept');
    await first.end('SIGKILL');
    expect(await (await start()).titles()).toEqual(['Kept']);
  });

  it('has what goes between the server and its processes put there again where somebody takes it away', async () => {
    const server = await start();
    const id = await server.create('Drawn');
    const { job } = await server.get<JobRecord>(`/api/jobs/${id}`);
    const png = `${server.url}/api/jobs/${id}/sheets/${job.sheets[0]?.id}/png`;
    for (const address of [`${server.url}/api/jobs/${id}/thumbnail.png`, png]) {
      expect((await fetch(address)).status).toBe(200);
      rmSync(join(data, 'spool'), { recursive: true });
      expect((await fetch(address)).status).toBe(200);
    }
  });

  it('that is gone keeps no promise: writes are refused in words, and it is written again when somebody says so', async () => {
    const server = await start();
    const id = await server.create('Before');
    const { revision, job } = await server.get<JobRecord>(`/api/jobs/${id}`);
    const moved = `${data}-moved`;
    renameSync(data, moved);
    try {
      const write = () => server.send('PUT', `/api/jobs/${id}`, { job: retitle(job, 'After') }, { 'if-match': `"${revision}"` });
      const refused = await write();
      expect([refused.status, ((await refused.json()) as { type: string }).type]).toEqual([503, '/problems/data-gone']);
      // What is open can still be read.
      expect(await server.titles()).toEqual(['Before']);
      expect((await server.send('POST', '/api/backups/write-again', {})).status).toBe(204);
      expect((await write()).status).toBe(200);
      // The folder that is there now is this server's as well.
      expect((await run('server/bin/server.mjs', data)).stderr).toContain(server.url);
      await server.end();
      expect(await (await start()).titles()).toEqual(['After']);
    } finally {
      rmSync(moved, { recursive: true, force: true });
    }
  });

  it('that is put back goes on as if nothing had been', async () => {
    const server = await start();
    const moved = `${data}-moved`;
    renameSync(data, moved);
    expect((await server.send('POST', '/api/jobs', { job: createJob('x', () => crypto.randomUUID()) })).status).toBe(503);
    renameSync(moved, data);
    await server.create('Again');
    expect(await server.titles()).toEqual(['Again']);
  });

  it('is copied by itself, before an upgrade too, and a damaged database offers the newest good copy', async () => {
    const server = await start();
    await server.create('Good');
    const made = (await (await server.send('POST', '/api/backups', {})).json()) as Backup;
    expect([made.reason, made.bytes > 10_000]).toEqual(['by-hand', true]);
    const { items } = backupListSchema.parse(await server.get('/api/backups'));
    expect(items.map(({ reason }) => reason)).toEqual(['by-hand', 'daily']);
    await server.end();
    // A copy that is damaged itself is not offered.
    const broken = join(data, 'backups', copyName(new Date(Date.now() + 60_000), 'by-hand'));
    copyFileSync(join(data, 'backups', made.name), broken);
    writeFileSync(broken, Buffer.alloc(8192, 7), { flag: 'r+' });
    expect(newestGood(join(data, 'backups'))?.name).toBe(made.name);
    truncateSync(join(data, 'jentrix.sqlite'), Math.floor(statSync(join(data, 'jentrix.sqlite')).size / 2));
    const refused = await run('server/bin/server.mjs', data);
    expect([refused.status, refused.stderr.includes(`npm run restore -- ${join(data, 'backups', made.name)}`)]).toEqual([1, true]);
    const restored = await run('server/bin/restore.mjs', data, join(data, 'backups', made.name));
    expect(restored.status).withContext(restored.stderr).toBe(0);
    expect(await (await start()).titles()).toEqual(['Good']);
    // One that an older Jentrix left is copied before its tables change.
    const older = await openDatabase(join(data, 'older.sqlite'));
    await older.undoLastMigration();
    await older.destroy();
    for (const one of servers.splice(0)) await one.end();
    renameSync(join(data, 'older.sqlite'), join(data, 'jentrix.sqlite'));
    await start();
    expect(copiesIn(join(data, 'backups')).some(({ reason }) => reason === 'before-upgrade')).toBeTrue();
  });

  it('is backed up to a file and restored from it by command, in words where that can’t be', async () => {
    const server = await start();
    await server.create('One');
    const file = join(data, 'elsewhere', 'copy.sqlite');
    expect((await run('server/bin/backup.mjs', data, file)).stdout).toContain('MB');
    expect((await run('server/bin/backup.mjs', data, file)).stderr).toContain('is there already');
    await server.create('Two');
    expect((await run('server/bin/restore.mjs', data, file)).stderr).toContain(server.url);
    await server.end();
    const other = join(data, 'other.sqlite');
    writeFileSync(other, 'no database');
    for (const [path, words] of [
      [other, 'no backup of Jentrix'],
      [join(data, 'nowhere'), 'There is no'],
    ] as const) {
      const refused = await run('server/bin/restore.mjs', data, path);
      expect([refused.status, refused.stderr.includes(words), refused.stderr.includes('    at ')])
        .withContext(refused.stderr)
        .toEqual([1, true, false]);
    }
    expect((await run('server/bin/restore.mjs', data, file)).status).toBe(0);
    const again = await start();
    expect(await again.titles()).toEqual(['One']);
    // A page that was open before knows of no such revision.
    expect((await again.get<JobPage>('/api/jobs')).items.every(({ revision }) => revision > 1000)).toBeTrue();
  });

  it('has one owner, also within a process', () => {
    const owner = own(data);
    owner.answersAt('http://here');
    expect(() => own(data)).toThrowError(/http:\/\/here/);
    owner.release();
    own(data).release();
  });
});

describe('backups', () => {
  let test: TestApp;
  let folder: string;
  beforeEach(async () => {
    folder = mkdtempSync(join(tmpdir(), 'jentrix-backups-'));
    test = await testApp(join(folder, 'jentrix.sqlite'));
  });
  afterEach(async () => {
    await test.end();
    rmSync(folder, { recursive: true, force: true });
  });

  it('bring everything back, are made before that too, and pages hear of it', async () => {
    const { app, jobs } = test;
    const job = createJob('First', () => crypto.randomUUID());
    const { id } = jobs.create(job);
    const { name } = (await request(app).post('/api/backups').expect(201)).body as Backup;
    await request(app)
      .put(`/api/jobs/${id}`)
      .set('if-match', '"1"')
      .send({ job: retitle(job, 'Second') })
      .expect(200);
    const heard: number[] = [];
    const deaf = jobs.listen(id, (revision) => heard.push(revision));
    await request(app).post(`/api/backups/${name}/restore`).expect(204);
    deaf();
    const { body } = await request(app).get(`/api/jobs/${id}`).expect(200);
    const record = body as JobRecord;
    expect(record.job.title).toBe('First');
    // No page has seen this revision: a write of an older state is refused.
    expect([heard, record.revision > 2]).toEqual([[record.revision], true]);
    await request(app)
      .put(`/api/jobs/${id}`)
      .set('if-match', '"2"')
      .send({ job: retitle(job, 'Stale') })
      .expect(412);
    const { items } = backupListSchema.parse((await request(app).get('/api/backups')).body);
    expect(items.map(({ reason }) => reason)).toEqual(['before-restore', 'by-hand']);
    // And back again, from the file.
    const file = await request(app)
      .get(`/api/backups/${items[0]?.name}/file`)
      .buffer(true)
      .parse((answer, done) => {
        const parts: Buffer[] = [];
        answer.on('data', (part: Buffer) => parts.push(part));
        answer.on('end', () => done(null, Buffer.concat(parts)));
      });
    await request(app)
      .post('/api/backups/restore')
      .set('content-type', 'application/octet-stream')
      .send(file.body as Buffer)
      .expect(204);
    expect(((await request(app).get(`/api/jobs/${id}`)).body as JobRecord).job.title).toBe('Second');
  });

  it('that are none, or of a newer Jentrix, change nothing', async () => {
    const { app, jobs, dataSource } = test;
    const { id } = jobs.create(createJob('Stays', () => crypto.randomUUID()));
    const send = (bytes: Buffer) => request(app).post('/api/backups/restore').set('content-type', 'application/octet-stream').send(bytes);
    expect((await send(Buffer.from('hello')).expect(422)).text).toContain('no backup of Jentrix');
    await request(app).post('/api/backups/none.sqlite/restore').expect(404);
    await request(app).get('/api/backups/..%2F..%2Fetc%2Fpasswd/file').expect(404);
    await dataSource.query(`INSERT INTO "migrations" ("timestamp", "name") VALUES (9999999999999, 'Later9999999999999')`);
    const { name } = (await request(app).post('/api/backups').expect(201)).body as Backup;
    expect((await request(app).post(`/api/backups/${name}/restore`).expect(422)).text).toContain('newer Jentrix');
    expect(((await request(app).get(`/api/jobs/${id}`)).body as JobRecord).job.title).toBe('Stays');
  });

  it('are let go once there are more than seven of a kind', () => {
    const copies = join(folder, 'copies');
    mkdirSync(copies);
    for (let i = 0; i < 10; i++) writeFileSync(join(copies, copyName(new Date(Date.UTC(2026, 10, i + 1)), 'daily')), 'x');
    writeFileSync(join(copies, copyName(new Date(Date.UTC(2025, 1, 1)), 'by-hand')), 'x');
    writeFileSync(join(copies, 'mine.sqlite'), 'x');
    letOldCopiesGo(copies);
    const left = copiesIn(copies);
    expect(left.map(({ reason }) => reason)).toEqual([...Array.from({ length: KEPT_COPIES }, () => 'daily' as const), 'by-hand']);
    expect(left[0]).toEqual({ name: 'jentrix-2026-11-10T00-00-00-000Z-daily.sqlite', createdAt: '2026-11-10T00:00:00.000Z', bytes: 1, reason: 'daily' });
    expect(readdirSync(copies)).toContain('mine.sqlite');
  });
});
