import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { findBlock } from '@jentrix/core/job';
import type { ElementHandle } from 'puppeteer-core';
import { choose, click, clickGap, dialogGone, eventually, openJob, prefer, press, savedJob, textOf, typeInto, waitForWords } from './harness';
import { journey } from './suite';

const HEADLINE = 'perseids-headline';

describe('settings that are named, written and painted', () => {
  const current = journey();
  const block = async (id = HEADLINE) => findBlock(await savedJob(current.page, current.server.url), id)!;

  it('reads a brief, tells the differences, makes it so and writes it', async () => {
    const { page } = current;
    await openJob(page, 'Perseids');
    await press(page, 'Brief');
    await page.waitForSelector('jx-brief-dialog textarea');
    await typeInto(page, 'jx-brief-dialog textarea', 'Playfair Black 110/100 -10 centre caps wide 95%\n\nEB Garamnod 20');
    await page.waitForFunction(() => document.querySelectorAll('jx-brief-dialog .difference').length === 7);
    await waitForWords(page, 'jx-brief-dialog .wrong', 'Garamnod');
    await press(page, 'Apply brief');
    await page.waitForSelector('jx-brief-dialog .conforms');
    const now = await eventually(
      () => block(),
      ({ style }) => style.sizePt === 110,
    );
    expect([now.style.faceId, now.style.case, now.style.scaleX, now.align, now.style.trackingMilliem]).toEqual([
      'playfair-display-black',
      'capitals',
      0.95,
      'centre',
      -10,
    ]);
    await press(page, 'Write brief');
    await page.waitForFunction(() => document.querySelectorAll('jx-brief-dialog .conforms').length === 4);
    await press(page, 'Close');
    await dialogGone(page);
    await press(page, 'Undo');
    expect(
      (
        await eventually(
          () => block(),
          ({ style }) => style.sizePt === 122,
        )
      ).align,
    ).toBe('left');
  });

  it('makes a recipe of a block, follows it elsewhere, shows and clears overrides, and changes it everywhere', async () => {
    const { page } = current;
    await openJob(page, 'Perseids');
    await clickGap(page, HEADLINE, 23);
    await page.keyboard.press('w');
    await press(page, 'Make recipe');
    await page.waitForSelector('jx-ask-dialog input');
    await page.$eval('jx-ask-dialog input', (input) => (input.value = 'Poster head'));
    await press(page, 'Make recipe');
    const { recipeId } = await eventually(
      () => block(),
      (now) => now.recipeId !== null,
    );
    expect(recipeId).not.toBeNull();
    await click(page, 'textarea[data-words="perseids-date"]');
    await page.waitForFunction(
      (id) =>
        document.querySelector<HTMLSelectElement>('jx-recipe-line select')?.value === '' &&
        [...document.querySelectorAll('jx-recipe-line option')].some((o) => (o as HTMLOptionElement).value === id),
      {},
      recipeId,
    );
    await choose(page, 'jx-recipe-line select', recipeId!);
    expect(
      (
        await eventually(
          () => block('perseids-date'),
          (now) => now.recipeId === recipeId,
        )
      ).style.sizePt,
    ).toBe(122);
    await page.keyboard.press('Escape');
    await page.waitForSelector('jx-words-deck .deck-numbers input');
    await click(page, 'jx-words-deck .deck-numbers input');
    await page.keyboard.type('77');
    await page.keyboard.press('Enter');
    await waitForWords(page, '[data-testid="overrides"]', 'Overrides: size');
    await press(page, 'Update recipe');
    await page.waitForFunction(() => document.querySelector('jx-ask-dialog')?.textContent.includes('2 blocks'));
    await press(page, 'Update recipe');
    expect(
      (
        await eventually(
          () => block(),
          ({ style }) => style.sizePt === 77,
        )
      ).style.sizePt,
    ).toBe(77);
    await page.goto(`${current.server.url}/recipes`);
    await page.waitForSelector('[data-recipe="Poster head"]');
    const spec = '[data-recipe="Poster head"] .stated input';
    await page.waitForFunction((css) => document.querySelector<HTMLInputElement>(css)?.value.startsWith('Playfair Display Bold 77'), {}, spec);
    const file = join(current.data, 'tokens.json');
    writeFileSync(file, await (await fetch(`${current.server.url}/api/recipes/tokens.json`)).text());
    writeFileSync(file, (await (await fetch(`${current.server.url}/api/recipes/tokens.json`)).text()).replaceAll('Poster head', 'Poster head two'));
    await ((await page.$('[data-testid="tokens"]')) as ElementHandle<HTMLInputElement>).uploadFile(file);
    await page.waitForSelector('[data-recipe="Poster head two"]');
  });

  it('paints letters the same on the sheet and in the SVG, and tells the contrast with the picture behind', async () => {
    const { page } = current;
    await openJob(page, 'Social');
    await page.waitForSelector('jx-table image');
    await page.keyboard.press('w');
    await press(page, 'Colour');
    await page.waitForFunction(() => document.querySelectorAll('.swatch').length > 2);
    await waitForWords(page, '[data-testid="contrast"]', /Contrast: lowest [\d.]+ : 1/);
    await click(page, '[data-testid="gradient"]');
    await page.waitForSelector('jx-table [data-block="vega-head"] linearGradient');
    await click(page, '[data-testid="shadow"]');
    await click(page, '[data-testid="outline"]');
    await page.waitForSelector('jx-table [data-block="vega-head"] filter');
    await click(page, '.swatch');
    const head = await eventually(
      () => block('vega-head'),
      ({ style }) => style.outline !== null && style.shadow !== null && style.gradient !== null,
    );
    expect(head.style.opacity).toBe(1);
    await page.waitForSelector('.too-low');
    const job = await savedJob(page, current.server.url);
    const svg = await (await fetch(`${current.server.url}/api/jobs/${page.url().split('/').pop()!}/sheets/${job.sheets[0]!.id}/svg`)).text();
    expect(svg).toContain('<linearGradient');
    expect(svg).toContain('feGaussianBlur');
    expect(svg).toContain('data:image/svg+xml;base64,');
  });

  it('takes a colour from the sheet itself, for the fill and for an effect, and Esc leaves it as it was', async () => {
    const { page } = current;
    await openJob(page, 'Social');
    await page.waitForSelector('jx-table image');
    await page.keyboard.press('w');
    await press(page, 'Colour');
    const fill = (await block('vega-head')).style.colour;
    await press(page, 'Fill colour: pick from');
    await page.waitForFunction(() => document.querySelector('jx-colour-pick .hint')?.textContent.startsWith('Click'));
    await page.keyboard.press('Escape');
    await page.waitForFunction(() => !document.querySelector('jx-colour-pick'));
    expect((await block('vega-head')).style.colour).toBe(fill);
    /** Takes the colour of the sheet's corner, which is ground alone, and says which that was. */
    const take = async (): Promise<string> => {
      await page.waitForFunction(() => document.querySelector('jx-colour-pick .hint')?.textContent.startsWith('Click'));
      const corner = await page.$eval('jx-table .sheet', (sheet) => {
        const { left, top } = sheet.getBoundingClientRect();
        const table = document.querySelector('jx-table')!.getBoundingClientRect();
        return { x: Math.max(left, table.left) + 12, y: Math.max(top, table.top) + 12 };
      });
      await page.mouse.move(corner.x, corner.y);
      const told = (await textOf(page, 'jx-colour-pick .told')).trim();
      await page.mouse.click(corner.x, corner.y);
      return told;
    };
    await press(page, 'Fill colour: pick from');
    const told = await take();
    expect(told).toMatch(/^#[0-9a-f]{6}$/);
    expect(
      (
        await eventually(
          () => block('vega-head'),
          ({ style }) => style.colour !== fill,
        )
      ).style.colour,
    ).toBe(told);
    await click(page, '[data-testid="shadow"]');
    await press(page, 'Shadow colour: pick from');
    await take();
    expect(
      (
        await eventually(
          () => block('vega-head'),
          ({ style }) => style.shadow?.colour === told,
        )
      ).style.shadow?.colour,
    ).toBe(told);
  });

  it('counts the blocks behind the words as their ground', async () => {
    const { page } = current;
    await openJob(page, 'Perseids');
    await page.keyboard.press('w');
    await press(page, 'Colour');
    const worst = async () => Number((/lowest ([\d.]+)/.exec(await textOf(page, '[data-testid="contrast"]')) ?? [])[1]);
    const alone = await worst();
    // The same words, behind themselves: a copy of a block lies before it.
    await page.keyboard.down('Control');
    await page.keyboard.press('d');
    await page.keyboard.up('Control');
    await page.keyboard.down('Alt');
    for (const [key, times] of [
      ['ArrowLeft', 12],
      ['ArrowUp', 12],
    ] as const)
      for (let i = 0; i < times; i++) await page.keyboard.press(key);
    await page.keyboard.up('Alt');
    expect(await eventually(worst, (value) => value < alone / 2)).toBeLessThan(alone / 2);
  });

  it('keeps preferences on the server, and takes them from a file', async () => {
    const { page } = current;
    await openJob(page, 'Perseids');
    await press(page, 'Preferences');
    await press(page, 'Dark');
    await page.waitForFunction(() => document.documentElement.dataset['theme'] === 'dark');
    const kept = async () => (await (await fetch(`${current.server.url}/api/preferences`)).json()) as { theme: string; fineMilliem: number };
    expect((await eventually(kept, ({ theme }) => theme === 'dark')).theme).toBe('dark');
    const file = join(current.data, 'preferences.json');
    const input = async () => (await page.$('[data-testid="preferences-file"]')) as ElementHandle<HTMLInputElement>;
    writeFileSync(file, '{"format":"something"}');
    await (await input()).uploadFile(file);
    await page.waitForFunction(() => [...document.querySelectorAll('ngb-toast')].some((toast) => toast.textContent.includes('no Jentrix preferences')));
    writeFileSync(file, '{"format":"jentrix.preferences","fineMilliem":7,"theme":"light"}');
    await (await input()).uploadFile(file);
    expect((await eventually(kept, ({ fineMilliem }) => fineMilliem === 7)).theme).toBe('light');
    await page.reload();
    await page.waitForFunction(() => document.documentElement.dataset['theme'] === 'light');
    // The pages of the help have the same look.
    const ground = () => page.evaluate(() => getComputedStyle(document.body).backgroundColor);
    const light = await ground();
    await prefer(current.server.url, { theme: 'dark' });
    await page.reload();
    await page.waitForFunction(() => document.documentElement.dataset['theme'] === 'dark');
    const dark = await ground();
    await page.goto(`${current.server.url}/help/README.html`);
    expect([await ground(), dark === light]).toEqual([dark, false]);
  });

  it('is helped on pages that lead back to where help was opened, and to the page before and after', async () => {
    const { page, server } = current;
    await page.goto(`${server.url}/drill`);
    const link = await page.waitForSelector('nav a[href="/help/train-the-eye.html"]');
    await link?.evaluate((one) => one.removeAttribute('target'));
    await Promise.all([page.waitForNavigation(), link?.click()]);
    const links = () => page.$$eval('header a, .beside a', (all) => all.map((one) => [one.textContent, one.getAttribute('href')]));
    expect(await links()).toEqual(
      jasmine.arrayContaining([
        ['Shelf', '/'],
        ['Back to Drill', '/drill'],
        ['← Refine a folder of SVGs', 'refine-a-folder.html'],
        ['→ Work offline', 'without-the-server.html'],
      ]),
    );
    await Promise.all([page.waitForNavigation(), page.click('#back')]);
    expect(new URL(page.url()).pathname).toBe('/drill');
  });

  it('leads automatically by the factor of the preferences from the next auto on, and writes numbers in the language chosen', async () => {
    const { page } = current;
    await openJob(page, 'Perseids');
    await clickGap(page, HEADLINE, 2);
    const readout = () => page.$$eval('jx-leading-deck dd', (cells) => cells.map((cell) => cell.textContent.trim()));
    const leading = async () => (await block()).leading;
    await page.keyboard.press('l');
    await press(page, 'Auto');
    expect(await eventually(leading, ({ kind }) => kind === 'auto')).toEqual({ kind: 'auto' });
    const { sizePt } = (await block()).style;
    await press(page, 'Preferences');
    await typeInto(page, 'jx-preferences-dialog jx-value:last-of-type input', '125%');
    await page.keyboard.press('Enter');
    await choose(page, '#numbers', 'de');
    await press(page, 'Done');
    await dialogGone(page);
    // What is automatic already stays as it was made, but shows its numbers anew.
    expect(await eventually(readout, ([, ratio]) => ratio?.includes('120') ?? false)).toContain('120 %');
    await press(page, 'Auto');
    expect(await eventually(leading, (value) => value.kind === 'auto' && value.factor !== undefined)).toEqual({ kind: 'auto', factor: 1.25 });
    const shown = [sizePt, sizePt * 1.25].map((pt) => String(Math.round(pt * 100) / 100).replace('.', ',')).join(' / ');
    expect(await eventually(readout, ([first]) => first === shown)).toContain(shown);
    // A size with decimals is told, and read, with the sign of the language.
    await page.keyboard.press('w');
    const field = 'jx-words-deck jx-value:first-of-type input';
    await typeInto(page, field, '80,5');
    await page.keyboard.press('Enter');
    expect(
      (
        await eventually(
          () => block(),
          ({ style }) => style.sizePt !== sizePt,
        )
      ).style.sizePt,
    ).toBe(80.5);
    expect(await page.$eval(field, (input) => input.value)).toBe('80,5');
  });
});
