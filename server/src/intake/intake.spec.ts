import { jobRecordSchema, readFileSchema, recipeListSchema } from '@jentrix/core/api';
import request from 'supertest';
import { close } from '../parts';
import { type TestApp, testApp } from '../testing';

describe('files of other kinds', () => {
  let test: TestApp;
  beforeAll(async () => (test = await testApp()));
  afterAll(() => close(test));
  const send = (name: string, body: string) =>
    request(test.app)
      .post(`/api/intake?name=${encodeURIComponent(name)}`)
      .set('content-type', 'application/octet-stream')
      .send(Buffer.from(body));
  const jobOf = async (id: string) => jobRecordSchema.parse((await request(test.app).get(`/api/jobs/${id}`).expect(200)).body).job;

  it('an SVG becomes a job whose picture is kept, made safe', async () => {
    const svg =
      '<svg xmlns="http://www.w3.org/2000/svg" width="300" height="200"><script>alert(1)</script><rect width="300" height="200" fill="#123456"/><text font-family="Nowhere" font-size="30" y="90">AV</text></svg>';
    const { body } = await send('My poster.svg', svg).expect(201);
    const { id, notes } = body as { id: string; notes: string[] };
    expect(notes[0]).toContain('Nowhere');
    const job = await jobOf(id);
    const [sheet] = job.sheets;
    expect([job.title, sheet?.blocks.map(({ words }) => words), sheet?.widthPt]).toEqual(['My poster', ['AV'], 225]);
    if (sheet?.background.kind !== 'picture') throw new Error('no picture');
    const picture = await request(test.app).get(`/api/pictures/${sheet.background.pictureId}`).buffer(true).expect(200);
    const drawn = (picture.body as Buffer).toString();
    expect([drawn.includes('#123456'), drawn.includes('script'), drawn.includes('<text')]).toEqual([true, false, false]);
    await request(test.app).get(`/api/jobs/${id}/sheets/${sheet.id}/png?scale=1`).expect(200);
  });

  it('text, Markdown and CSV become jobs', async () => {
    for (const [name, text, words] of [
      ['a.txt', 'One\n\nTwo', ['One', 'Two']],
      ['a.md', '# One\n\nTwo', ['One', 'Two']],
      ['a.csv', 'words\nOne\nTwo', ['One', 'Two']],
    ] as const) {
      const { body } = await send(name, text).expect(201);
      expect((await jobOf((body as { id: string }).id)).sheets[0]?.blocks.map((block) => block.words))
        .withContext(name)
        .toEqual([...words]);
    }
  });

  it('headings of Markdown and HTML follow recipes, made once', async () => {
    const recipes = async () => recipeListSchema.parse((await request(test.app).get('/api/recipes')).body).items;
    const { body } = await send('first.md', '# Tide\n\nLow water\n\n### At noon').expect(201);
    expect((body as { notes: string[] }).notes[0]).toContain('“Heading 3”');
    const made = await recipes();
    const [heading] = made.filter(({ name }) => name === 'Heading 1');
    expect((await jobOf((body as { id: string }).id)).sheets[0]?.blocks[0]?.recipeId).toBe(heading!.id);
    const again = await send('second.html', '<h1>Tide</h1><p>High <b>water</b></p>').expect(201);
    const { id, notes } = again.body as { id: string; notes: string[] };
    expect([notes, (await recipes()).length, (await jobOf(id)).sheets[0]?.blocks[0]?.recipeId]).toEqual([[], made.length, heading!.id]);
  });

  it('are read as a job that is not put on the shelf, for whoever puts their blocks elsewhere', async () => {
    const count = async (): Promise<number> => ((await request(test.app).get('/api/jobs')).body as { total: number }).total;
    const before = await count();
    const { body } = await request(test.app).post('/api/intake/read?name=a.txt').set('content-type', 'text/plain').send(Buffer.from('One\n\nTwo')).expect(200);
    expect(readFileSchema.parse(body).job.sheets[0]?.blocks.map(({ words }) => words)).toEqual(['One', 'Two']);
    expect(await count()).toBe(before);
    const small = await request(test.app)
      .post('/api/intake/read?name=a.txt&widthPt=300&heightPt=200')
      .set('content-type', 'text/plain')
      .send(Buffer.from('One'))
      .expect(200);
    const [sheet] = readFileSchema.parse(small.body).job.sheets;
    expect([sheet!.widthPt, sheet!.blocks[0]!.frame.widthPt + sheet!.margins.leftPt + sheet!.margins.rightPt]).toEqual([300, 300]);
    await request(test.app).post('/api/intake/read?name=a.exe').send('x').expect(415);
  });

  it('refuses what it can’t read and keeps nothing of it', async () => {
    const count = async (): Promise<number> => ((await request(test.app).get('/api/jobs')).body as { total: number }).total;
    const before = await count();
    await send('a.exe', 'x').expect(415);
    await request(test.app).post('/api/intake').expect(422);
    for (const [name, text] of [
      ['a.svg', '<svg'],
      ['a.svg', '<html></html>'],
      ['a.txt', ''],
      ['a.csv', 'a\n1'],
      ['a.txt', '\ud800'.repeat(3) + '\u0000'],
    ] as const)
      expect((await send(name, text)).status)
        .withContext(name + text)
        .toBe(422);
    await request(test.app)
      .post('/api/intake?name=a.txt')
      .set('content-type', 'text/plain')
      .send(Buffer.from([0xff, 0xfe, 0x41]))
      .expect(422);
    expect(await count()).toBe(before);
  });
});
