/** The whole round by measure, and what is turned right while words are typed. */
import { click, dialogGone, eventually, openJob, press, savedJob, textOf, waitForState, waitForWords } from './harness';
import { journey } from './suite';

describe('the first cut', () => {
  const now = journey();

  it('does the whole round with one key as one step, and gives back what is not wanted', async () => {
    const { page, server } = now;
    await openJob(page, 'Perseids');
    await page.waitForSelector('jx-kerning-deck');
    const before = await savedJob(page, server.url);
    await page.keyboard.press('x');
    await page.waitForSelector('[data-testid="cut-evenness"]');
    await waitForState(page, 'saved');
    const cut = await savedJob(page, server.url);
    expect(JSON.stringify(cut)).not.toBe(JSON.stringify(before));
    const findings = async (): Promise<number> => Number(await textOf(page, '[data-testid="cut-findings"]'));
    const left = await findings();
    // The way out is there as a whole.
    for (const width of [1280, 1024]) {
      await page.setViewport({ width, height: 800 });
      const shown = await page.$eval('jx-first-cut .deck-head .btn-dark', (button) => {
        const { left, right, top, bottom } = button.getBoundingClientRect();
        return [top + 2, bottom - 2].map((y) => button.contains(document.elementFromPoint((left + right) / 2, y)));
      });
      expect(shown).withContext(String(width)).toEqual([true, true]);
    }
    await page.setViewport({ width: 1280, height: 800 });
    // One item is given back: the first kerning one.
    const item = 'jx-first-cut section[aria-label="Kerning"] input';
    await page.waitForSelector(item);
    await click(page, item);
    await page.waitForFunction((selector) => document.querySelector<HTMLInputElement>(selector)?.checked === false, {}, item);
    const less = await eventually(
      () => savedJob(page, server.url),
      (job) => JSON.stringify(job) !== JSON.stringify(cut),
    );
    const sources = (job: typeof cut) => job.sheets.flatMap(({ blocks }) => blocks.filter(({ style }) => style.kerning === 'weighed').length);
    expect(sources(less)[0]).toBe((sources(cut)[0] ?? 0) - 1);
    expect(await findings()).toBeGreaterThanOrEqual(left);
    // Done, and one step back: as it was.
    await press(page, 'Done');
    await page.waitForSelector('jx-kerning-deck');
    await page.keyboard.down('Control');
    await page.keyboard.press('z');
    await page.keyboard.up('Control');
    await eventually(
      () => savedJob(page, server.url),
      (job) => JSON.stringify(job.sheets) === JSON.stringify(before.sheets),
    );
  });

  it('turns typed marks right as they are typed, gives back what was typed with undo, and lets it be switched off', async () => {
    const { page } = now;
    await openJob(page, 'Perseids');
    const field = 'jx-copy-column textarea';
    await page.waitForSelector(field);
    const words = (): Promise<string> => page.$eval(field, (one) => one.value);
    const retype = async (text: string): Promise<void> => {
      await page.focus(field);
      await page.keyboard.down('Control');
      await page.keyboard.press('a');
      await page.keyboard.up('Control');
      // What turns marks right is loaded once the letters are there.
      await page.waitForNetworkIdle({ idleTime: 500 });
      await page.keyboard.type(text);
    };
    await retype('"It\'s  dark...');
    expect(await words()).toBe('“It’s dark…');
    await page.keyboard.type('"');
    expect(await words()).toBe('“It’s dark…”');
    await page.keyboard.down('Control');
    await page.keyboard.press('z');
    await page.keyboard.up('Control');
    await page.waitForFunction((selector) => document.querySelector<HTMLTextAreaElement>(selector)?.value === '“It’s dark…"', {}, field);
    // What is left is found, and one key fixes it.
    await page.keyboard.press('Escape');
    await page.keyboard.press('w');
    await page.waitForSelector('jx-pass-rail button.current .count');
    await page.keyboard.press('m');
    await page.waitForFunction((selector) => document.querySelector<HTMLTextAreaElement>(selector)?.value === '“It’s dark…”', {}, field);
    await press(page, 'Preferences');
    await page.waitForSelector('jx-preferences-dialog');
    await waitForWords(page, '[data-testid="hand"]', 'Nothing learned yet');
    await page.evaluate(() => document.querySelector<HTMLButtonElement>('[aria-label="Smart punctuation"] button:last-child')?.click());
    await press(page, 'Done');
    await dialogGone(page);
    await retype('"Dark"');
    expect(await words()).toBe('"Dark"');
  });
});
