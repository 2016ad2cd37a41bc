/** Documents stored before versions, as job format 3 wrote them, are read and brought up to date. */
import { readFileSync } from 'node:fs';
import { JOB_VERSION, type Job, STORED_RECIPE } from '@jentrix/core/job';
import { STORED_PASSAGE } from '@jentrix/core/wording';
import { StoredError, fromStored, toStored } from '@jentrix/core/stored';
import request from 'supertest';
import { type TestApp, fromRoot, testApp } from '../testing';

type Row = Record<string, string | number | null>;
const written = JSON.parse(readFileSync(fromRoot('server/src/database/written-by-format-3.json'), 'utf8')) as Record<
  'job' | 'recipe' | 'preferences' | 'face',
  Row[]
> & {
  clipboard: unknown;
};

describe('what was stored by an older Jentrix', () => {
  let parts: TestApp;
  let insert: (table: string, row: Row) => Promise<unknown>;
  beforeEach(async () => {
    parts = await testApp();
    insert = (table, row) => {
      const columns = Object.keys(row);
      return parts.dataSource.query(
        `INSERT INTO "${table}" (${columns.map((column) => `"${column}"`).join(', ')}) VALUES (${columns.map(() => '?').join(', ')})`,
        Object.values(row),
      );
    };
    for (const table of ['job', 'recipe', 'preferences', 'face'] as const) for (const row of written[table]) await insert(table, row);
  });
  afterEach(() => parts.end());
  const get = async (path: string) => (await request(parts.app).get(path).expect(200)).body as unknown;

  it('knows nothing that only later versions have', () => {
    expect(JSON.stringify(written)).not.toContain('baselineShift');
    expect(JSON.stringify(written.face)).not.toContain('slopeDeg');
    expect(JSON.parse(String(written.recipe[0]?.['settings']))).not.toEqual(jasmine.objectContaining({ version: jasmine.anything() }));
  });

  it('recipes have what has come since, and keep what they had', async () => {
    const { items } = (await get('/api/recipes')) as { items: { name: string; settings: { style: Record<string, unknown> } }[] };
    expect(items.map(({ name }) => name)).toEqual(['Headline']);
    expect(items[0]?.settings.style).toEqual(
      jasmine.objectContaining({ trackingMilliem: -12, baselineShiftMilliem: 0, outline: { milliem: 20, colour: '#102030', join: 'round' } }),
    );
  });

  it('a recipe that is damaged, or from the future, costs no other', async () => {
    spyOn(console, 'error');
    await insert('recipe', { id: 'broken', name: 'Broken', settings: '{"style":{}}' });
    await insert('recipe', { id: 'later', name: 'Later', settings: '{"version":99}' });
    const { items } = (await get('/api/recipes')) as { items: { name: string }[] };
    expect(items.map(({ name }) => name)).toEqual(['Headline']);
    expect(console.error).toHaveBeenCalledTimes(2);
  });

  it('jobs open', async () => {
    const { job } = (await get(`/api/jobs/${written.job[0]?.['id']}`)) as { job: Job };
    expect(job.version).toBe(JOB_VERSION);
    expect(job.sheets[0]?.blocks[0]?.hand).toEqual([{ at: 3, milliem: -40 }]);
    expect(job.sheets[0]?.blocks[0]?.style.baselineShiftMilliem).toBe(0);
  });

  it('preferences hold, and one that can’t be read costs no other', async () => {
    expect(await get('/api/preferences')).toEqual(jasmine.objectContaining({ fineMilliem: 3, theme: 'dark' }));
    const document = JSON.stringify({ version: 99, fineMilliem: 4, theme: 'sepia', unheard: true });
    await parts.dataSource.query('UPDATE "preferences" SET "document" = ?', [document]);
    expect(await get('/api/preferences')).toEqual(jasmine.objectContaining({ fineMilliem: 4, theme: 'light' }));
  });

  it('faces are measured anew, once', async () => {
    const face = async () => ((await get('/api/faces')) as { items: { id: string }[] }).items.find(({ id }) => id === written.face[0]?.['id']);
    expect(await face()).toEqual(jasmine.objectContaining({ italic: true, weight: 400, slopeDeg: 3, family: 'Lora' }));
    const [row] = await parts.dataSource.query<{ entry: string }[]>('SELECT "entry" FROM "face"');
    expect(JSON.parse(row?.entry ?? '')).toEqual(jasmine.objectContaining({ version: 2, slopeDeg: 3 }));
  });

  it('what lies on the clipboard can be put in', () => {
    const passage = fromStored(STORED_PASSAGE, written.clipboard);
    expect(passage.words.length).toBe(8);
    expect(passage.styles[0]?.style.baselineShiftMilliem).toBe(0);
    expect(fromStored(STORED_PASSAGE, JSON.parse(JSON.stringify(toStored(STORED_PASSAGE, passage))))).toEqual(passage);
  });

  it('what states no sense is refused in words', () => {
    for (const [stored, code] of [
      [null, 'damaged'],
      [[], 'damaged'],
      [{ version: 'x' }, 'damaged'],
      [{ version: 1.5 }, 'damaged'],
      [{ version: 99 }, 'newer'],
      [{}, 'damaged'],
    ] as const) {
      try {
        fromStored(STORED_RECIPE, stored);
        fail(`${JSON.stringify(stored)} was read`);
      } catch (error) {
        if (!(error instanceof StoredError)) throw error;
        expect([error.code, error.message.length > 15]).toEqual([code, true]);
      }
    }
  });
});
