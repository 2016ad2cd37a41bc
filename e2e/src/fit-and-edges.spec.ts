/** Lines fitted to a measure, words broken another way, edges aligned by eye: at the bench, and in what is handed over. */
import type { Job } from '@jentrix/core/job';
import type { Page } from 'puppeteer-core';
import { click, eventually, openJob, press, savedJob, waitForText } from './harness';
import { journey } from './suite';

/** The ink of each line of a block on the table, in points of the sheet: letters that stand on one baseline. */
function inkOfLines(page: Page, blockId: string): Promise<{ left: number; right: number; bottom: number }[]> {
  return page.$$eval(`jx-table [data-block="${blockId}"] path`, (paths) => {
    const sheet = document.querySelector('jx-table rect.sheet') as SVGRectElement;
    const box = sheet.getBoundingClientRect();
    const scale = sheet.width.baseVal.value / box.width;
    const lines = new Map<string, { left: number; right: number; bottom: number }>();
    for (const path of paths) {
      const [, y = ''] = /^M[-\d.e]+,([-\d.e]+)/.exec(path.getAttribute('d') ?? '') ?? [];
      const ink = path.getBoundingClientRect();
      const [left, right] = [(ink.left - box.left) * scale, (ink.right - box.left) * scale];
      const known = lines.get(y);
      lines.set(y, { left: Math.min(known?.left ?? left, left), right: Math.max(known?.right ?? right, right), bottom: Number(y) });
    }
    return [...lines.values()];
  });
}

const blockOf = (job: Job, id: string) => job.sheets.flatMap(({ blocks }) => blocks).find((block) => block.id === id)!;

describe('a fit', () => {
  const now = journey();

  it('keeps three lines in three faces at one width while their words change, lets go, and is one step of undo', async () => {
    const { page, server } = now;
    await openJob(page, 'Open-day flyer');
    const { margins, widthPt } = (await savedJob(page, server.url)).sheets[0]!;
    const exact = async (): Promise<void> => {
      const lines = await inkOfLines(page, 'openday-lockup');
      expect(lines.length).toBe(3);
      // What the browser says of a box is rounded to pixels' fractions.
      for (const { left, right } of lines) {
        expect(left).withContext('left').toBeCloseTo(margins.leftPt, 0);
        expect(right)
          .withContext('right')
          .toBeCloseTo(widthPt - margins.rightPt, 0);
      }
    };
    await exact();
    await page.keyboard.press('u');
    await page.waitForSelector('jx-fit-deck .bar');
    await click(page, 'jx-table [data-block="openday-lockup"] path[data-at="1"]');
    await page.waitForSelector('[data-testid="fit-line-2"]');
    await press(page, 'Release');
    const free = await eventually(
      () => savedJob(page, server.url),
      (job) => blockOf(job, 'openday-lockup').fit === null,
    );
    expect(blockOf(free, 'openday-lockup').style.sizePt).toBe(112);
    expect(blockOf(free, 'openday-lockup').runs[0]?.style.sizePt).toBeGreaterThan(112);
    await exact();
    await page.keyboard.down('Control');
    await page.keyboard.press('z');
    await page.keyboard.up('Control');
    await eventually(
      () => savedJob(page, server.url),
      (job) => blockOf(job, 'openday-lockup').fit !== null,
    );
  });

  it('shows what is missing where its limits do not suffice', async () => {
    const { page } = now;
    await openJob(page, 'Open-day flyer');
    await page.keyboard.press('u');
    await page.waitForSelector('jx-fit-deck .bar');
    await click(page, 'jx-table [data-block="openday-lockup"] path[data-at="1"]');
    await page.waitForSelector('[data-testid="fit-line-0"]');
    await press(page, 'Letter width');
    await page.waitForFunction(() => document.querySelector('[data-testid="fit-line-0"]')?.textContent.includes('short'));
  });
});

describe('breaks', () => {
  const now = journey();

  it('of the pocket programme: one key takes a short last line up, and the round fixes the torn columns', async () => {
    const { page, server } = now;
    await openJob(page, 'Pocket programme');
    await page.keyboard.press('u');
    await page.waitForSelector('jx-fit-deck');
    await page.waitForSelector('jx-findings-list [data-rule="stranded"]');
    await click(page, 'jx-findings-list [data-rule="stranded"] .row');
    await press(page, 'Breaks');
    await page.waitForFunction(() => document.querySelectorAll('jx-breaks-pictures .way').length > 1);
    await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
    await page.keyboard.press('=');
    await page.waitForFunction(() => document.querySelector('jx-findings-list [data-rule="stranded"]') === null);
    const fixed = await eventually(
      () => savedJob(page, server.url),
      (job) => blockOf(job, 'pocket-quote').words.includes('\u00a0') || blockOf(job, 'pocket-quote').tightened.length > 0,
    );
    expect(fixed.sheets[0]?.margins).toEqual(fixed.sheets[1]?.margins);
  });
});

describe('the round', () => {
  const now = journey();

  it('fixes the torn columns of the pocket programme with one key, and gives all of it back', async () => {
    const { page, server } = now;
    await openJob(page, 'Pocket programme');
    await page.waitForSelector('jx-kerning-deck');
    await page.keyboard.press('x');
    await page.waitForSelector('[data-testid="cut-evenness"]');
    const cut = await eventually(
      () => savedJob(page, server.url),
      (job) => blockOf(job, 'pocket-left').breaking.way === 'total',
    );
    expect(blockOf(cut, 'pocket-right').breaking.way).toBe('total');
    expect(blockOf(cut, 'pocket-title').edges).not.toBeNull();
    await page.keyboard.down('Control');
    await page.keyboard.press('z');
    await page.keyboard.up('Control');
    await eventually(
      () => savedJob(page, server.url),
      (job) => blockOf(job, 'pocket-left').breaking.way === 'greedy' && blockOf(job, 'pocket-title').edges === null,
    );
  });
});

describe('edges', () => {
  const now = journey();

  it('of one line are indented by hand, and words are centred by ink in a box that is drawn', async () => {
    const { page, server } = now;
    await openJob(page, 'Open-day flyer');
    await page.keyboard.press('p');
    await page.waitForSelector('jx-edges-deck');
    await click(page, 'jx-table [data-block="openday-list"] path[data-at="1"]');
    await page.waitForSelector('[data-testid="offset-3"]');
    await page.evaluate(() => {
      const field = [...document.querySelectorAll('jx-edges-deck jx-value')].find((one) => one.textContent.includes('Manual offset of “Sun spots'));
      field?.querySelector('input')?.focus();
    });
    await page.keyboard.type('3');
    await page.keyboard.press('Enter');
    const indented = await eventually(
      () => savedJob(page, server.url),
      (job) => blockOf(job, 'openday-list').lineIndents.length > 0,
    );
    expect(blockOf(indented, 'openday-list').lineIndents[0]?.byPt).toBeCloseTo((3 * 72) / 25.4, 3);
    await press(page, 'No manual offset');
    await press(page, 'Draw a box');
    const sheet = await page.$eval('jx-table rect.sheet', (rect) => {
      const { left, top, width, height } = rect.getBoundingClientRect();
      return { left, top, width, height };
    });
    await page.mouse.move(sheet.left + sheet.width * 0.2, sheet.top + sheet.height * 0.5);
    await page.mouse.down();
    await page.mouse.move(sheet.left + sheet.width * 0.8, sheet.top + sheet.height * 0.9, { steps: 4 });
    await page.mouse.up();
    const before = blockOf(indented, 'openday-list').frame;
    await eventually(
      () => savedJob(page, server.url),
      (job) => blockOf(job, 'openday-list').frame.yPt !== before.yPt && blockOf(job, 'openday-list').lineIndents.length === 0,
    );
    const lines = await inkOfLines(page, 'openday-list');
    const [left, right] = [Math.min(...lines.map((line) => line.left)), Math.max(...lines.map((line) => line.right))];
    expect(Math.abs((left + right) / 2 - indented.sheets[0]!.widthPt / 2)).toBeLessThan(2);
  });

  it('are aligned by eye with one key, in the table and in the exported SVG, and marks fade while a key is held', async () => {
    const { page, server } = now;
    await openJob(page, 'Perseids');
    await page.keyboard.press('p');
    await page.waitForSelector('jx-edges-deck');
    await click(page, 'jx-table [data-block="perseids-headline"] path[data-at="1"]');
    await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
    await page.keyboard.press('|');
    const aligned = await eventually(
      () => savedJob(page, server.url),
      (job) => blockOf(job, 'perseids-headline').edges !== null,
    );
    await page.waitForFunction(() => !/^[+0]*$/.test(document.querySelector('[data-testid="offset-0"]')?.textContent.trim() ?? ''));
    await waitForText(page, '[data-testid="offset-3"]', await page.$eval('[data-testid="offset-3"]', (one) => one.textContent.trim()));
    const { frame } = blockOf(aligned, 'perseids-headline');
    const lines = await inkOfLines(page, 'perseids-headline');
    expect(lines.length).toBe(4);
    // Each begins at the edge, or past it by no more than a tenth of its size.
    for (const { left } of lines) {
      expect(left).toBeLessThan(frame.xPt + 0.5);
      expect(left).toBeGreaterThan(frame.xPt - 12.2);
    }
    const marks = () => page.$$eval('jx-table [data-block="perseids-quote"] g[opacity]', (groups) => groups.length);
    await page.keyboard.down('Backquote');
    await page.waitForFunction(() => document.querySelectorAll('jx-table g[opacity="0.12"]').length > 0);
    await page.keyboard.up('Backquote');
    await page.waitForFunction(() => document.querySelectorAll('jx-table g[opacity="0.12"]').length === 0);
    expect(await marks()).toBe(0);
  });
});
