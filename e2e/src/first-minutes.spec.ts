/** The first three minutes, and training the eye: as someone does who has never been here, with the mouse and with keys alone. */
import { keptResultSchema, resultPageSchema } from '@jentrix/core/drill';
import { click, dialogGone, eventually, openPage, press, savedJob, startServer, waitForState, waitForFocus } from './harness';
import { journey } from './suite';

describe('the first three minutes', () => {
  const now = journey();

  it('ask for words and sizes, and end with a headline better spaced in all of them', async () => {
    const { page, server } = now;
    await press(page, 'New job');
    await page.waitForSelector('jx-new-job-dialog textarea:focus');
    await page.keyboard.type('AVATAR TOWER');
    await press(page, 'Square 1:1');
    await press(page, 'Tall 9:16');
    await press(page, 'Create');
    await page.waitForSelector('jx-table [data-block] path');
    await page.waitForFunction(() => document.activeElement?.tagName === 'TEXTAREA');
    await page.keyboard.type('!');
    await page.waitForFunction(() => document.querySelector('.shared')?.textContent.includes('The same words on 2 other sheets'));
    await waitForState(page, 'saved');
    const job = await savedJob(page, server.url);
    expect(job.sheets.map(({ name }) => name)).toEqual(['Poster A2', 'Square 1:1', 'Tall 9:16']);
    expect(job.sheets.map(({ blocks }) => blocks[0]?.words)).toEqual(Array(3).fill('AVATAR TOWER!') as string[]);
    const sizes = job.sheets.map(({ blocks }) => blocks[0]?.style.sizePt ?? 0);
    expect(new Set(sizes).size).toBeGreaterThan(1);
    // The whole round by one key, taken as it is.
    await page.keyboard.press('Escape');
    await page.keyboard.press('x');
    await page.waitForSelector('jx-first-cut .row');
    await press(page, 'Done');
    await eventually(
      () => savedJob(page, server.url),
      ({ sheets }) => sheets.every(({ blocks }) => (blocks[0]?.style.trackingMilliem ?? 0) !== 0),
    );
  });

  it('begin on an empty shelf and go on on an empty sheet, with the next thing to do a click away', async () => {
    const { page, server, browser } = now;
    const jobs = (await (await fetch(`${server.url}/api/jobs`)).json()) as { items: { id: string }[] };
    for (const { id } of jobs.items) {
      await fetch(`${server.url}/api/jobs/${id}`, { method: 'DELETE' });
      await fetch(`${server.url}/api/jobs/${id}/forever`, { method: 'DELETE' });
    }
    await page.reload();
    await page.waitForFunction(() => document.body.textContent.includes('The shelf is empty'));
    await click(page, 'main .btn-dark');
    await press(page, 'Create');
    await page.waitForSelector('jx-table [data-block] path');
    await press(page, 'Add a sheet');
    await press(page, 'Like this one');
    await page.waitForFunction(() => document.querySelector('.nothing')?.textContent.includes('Nothing on this sheet yet'));
    await press(page, 'Add copy');
    await page.waitForFunction(() => document.querySelector('.nothing') === null && document.activeElement?.tagName === 'TEXTAREA');
    await page.keyboard.type('Second');
    await eventually(
      () => savedJob(page, server.url),
      ({ sheets }) => sheets[1]?.blocks[0]?.words === 'Second',
    );
    expect((await browser.pages()).length).toBeGreaterThan(0);
  });

  it('have a hint beside each pass, once, and none for whoever wants none', async () => {
    const { browser, data } = now;
    await now.page.goto('about:blank');
    await now.server.kill();
    const server = (now.server = await startServer(`${data}/hints`, { hints: true }));
    const { page } = await openPage(browser, server.url);
    await page.waitForSelector('a.picture');
    await click(page, 'a.picture');
    const shown = (): Promise<string> => page.$eval('jx-hint', ({ textContent }) => textContent.trim());
    await page.waitForSelector('jx-hint .hint');
    const first = await shown();
    await press(page, 'Got it');
    await page.waitForFunction(() => document.querySelector('jx-hint .hint') === null);
    await press(page, 'Tracking');
    await page.waitForSelector('jx-hint .hint');
    expect(await shown()).not.toBe(first);
    await press(page, 'No more hints');
    await press(page, 'Leading');
    await page.waitForSelector('jx-leading-deck');
    await page.reload();
    await page.waitForSelector('jx-kerning-deck, jx-leading-deck');
    expect(await page.$('jx-hint .hint')).toBeNull();
    await page.close();
  });
});

describe('the drill', () => {
  const now = journey();
  const results = async (url: string) => resultPageSchema.parse(await (await fetch(`${url}/api/drill/results`)).json()).items;

  it('trains the eye by keys alone: letters are placed, compared and kept, and it tells what to practise next', async () => {
    const { page, server } = now;
    await press(page, 'New job');
    await page.keyboard.press('Escape');
    await dialogGone(page);
    await page.goto(`${server.url}/drill`);
    await page.waitForSelector('.mover');
    await page.waitForFunction(() => document.activeElement?.classList.contains('mover') ?? false);
    await waitForFocus(page, /letter 2 of \d/);
    await page.keyboard.press('ArrowRight');
    await page.keyboard.down('Shift');
    await page.keyboard.press('ArrowLeft');
    await page.keyboard.up('Shift');
    await page.keyboard.press('ArrowDown');
    await waitForFocus(page, /letter 3 of \d/);
    await page.keyboard.press('Enter');
    await page.waitForSelector('[data-testid="score"]');
    const [first] = await eventually(
      () => results(server.url),
      ({ length }) => length === 1,
    );
    expect(keptResultSchema.parse(first).result.level).toBe('straight');
    const score = await page.$eval('[data-testid="score"]', ({ textContent }) => Number(textContent));
    expect(score).toBe(Math.round(first?.score ?? -1));
    // Enter deals the next, whose letters are where they belong once they are put there by the ghosts’ own numbers.
    await page.keyboard.press('Enter');
    await page.waitForFunction(() => document.activeElement?.classList.contains('mover') ?? false);
    await page.keyboard.press('Enter');
    await eventually(
      () => results(server.url),
      ({ length }) => length === 2,
    );
    await page.waitForFunction(() => document.querySelector('.figures dd')?.textContent === '2');
  });

  it('moves letters by dragging, and has the other eyes', async () => {
    const { page, server } = now;
    await page.goto(`${server.url}/drill`);
    const mover = await page.waitForSelector('.mover');
    const before = Number(await mover?.evaluate((one) => one.getAttribute('aria-valuenow')));
    const box = await mover?.boundingBox();
    if (!box) throw new Error('no letter');
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width / 2 + 30, box.y + box.height / 2, { steps: 3 });
    await page.mouse.up();
    expect(Number(await mover?.evaluate((one) => one.getAttribute('aria-valuenow')))).toBeGreaterThan(before + 20);
    await press(page, 'Which is more even?');
    await page.waitForSelector('jx-even-board');
    await page.keyboard.press('1');
    await press(page, 'Which gap is wrong?');
    await page.waitForFunction(() => document.activeElement?.classList.contains('gap') ?? false);
    await page.keyboard.press('Enter');
    await press(page, 'Find what touches');
    await page.waitForFunction(() => document.querySelector('jx-gap-board') !== null && document.querySelector('[data-testid=score]') === null);
    await click(page, '.gap .handle');
    await press(page, 'Match the leading');
    await page.waitForSelector('jx-leading-board');
    await page.waitForFunction(() => document.activeElement?.classList.contains('mover') ?? false);
    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('Enter');
    const kept = await eventually(
      () => results(server.url),
      ({ length }) => length === 4,
    );
    expect(kept.map(({ result }) => result.answer.kind).sort()).toEqual(['even', 'leading', 'touch', 'wrong']);
  });
});
