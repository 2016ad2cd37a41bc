/** By hand: whose the keys are, what a newcomer meets, and what an audit of accessibility finds on every screen. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from 'puppeteer-core';
import { clickGap, dialogGone, eventually, openJob, prefer, press, root, savedJob, totalOfGap, waitForState, waitForText, waitForFocus } from './harness';
import { journey } from './suite';

const focused = (page: Page): Promise<string> =>
  page.evaluate(
    () => document.activeElement?.getAttribute('aria-label') ?? document.activeElement?.getAttribute('data-words') ?? document.activeElement?.tagName ?? '',
  );

describe('the keys', () => {
  const now = journey();

  it('belong to the field, the menu or the button that has them, and to the bench where it has the focus', async () => {
    const { page, server } = now;
    await openJob(page, 'Perseids');
    await page.waitForSelector('jx-kerning-deck');
    const [block] = (await savedJob(page, server.url)).sheets[0]?.blocks ?? [];
    const id = block?.id ?? '';
    await clickGap(page, id, 5);
    const before = await totalOfGap(page);
    await page.keyboard.press('ArrowUp');
    const nudged = await totalOfGap(page, before);
    await waitForState(page, 'saved');
    const saved = JSON.stringify(await savedJob(page, server.url));

    // A half-typed number: undo is the field's.
    await page.focus('jx-value.hand input');
    await page.keyboard.type('77');
    await page.keyboard.down('Control');
    await page.keyboard.press('z');
    await page.keyboard.press('d');
    await page.keyboard.up('Control');
    await page.keyboard.press('Escape');
    expect(await focused(page)).not.toBe('Sheet');
    await page.keyboard.press('Escape');
    await waitForFocus(page, /^Sheet$/);
    expect(await totalOfGap(page)).toBe(nudged);

    // The title: Enter stays and means nothing twice; Escape takes nothing.
    await page.focus('jx-masthead .title');
    await page.keyboard.press('Enter');
    await page.keyboard.press('Enter');
    await page.keyboard.type('x');
    await page.keyboard.press('Escape');
    expect(await focused(page)).toBe('Title of the job');

    // A dialog: what is behind it hears nothing, and closing it drops neither gap nor block.
    await press(page, 'Hand over');
    await page.waitForSelector('jx-hand-over-dialog');
    for (const key of ['Delete', 'PageUp', ']', 'k', 't', 'Escape'] as const) await page.keyboard.press(key);
    await dialogGone(page);
    // The bench has the keys again.
    await page.waitForFunction(() => document.activeElement?.hasAttribute('data-bench'));
    expect(await page.$('[data-testid="caret"]')).not.toBeNull();

    // A button: keys that would change the job are not heard; a pass is, and gives the keys to the bench.
    await page.focus('button[aria-label="Preferences"]');
    for (const key of ['PageUp', 'Delete', 'ArrowUp', ']'] as const) await page.keyboard.press(key);
    await page.keyboard.press('t');
    await page.waitForSelector('jx-tracking-deck');
    await waitForFocus(page, /^Sheet$/);
    await waitForState(page, 'saved');
    expect(JSON.stringify(await savedJob(page, server.url))).toBe(saved);

    // A typed value, Enter, and the arrows are back in the gap.
    await page.keyboard.press('k');
    await page.waitForSelector('jx-value.hand');
    await page.keyboard.type('-31');
    await page.keyboard.press('Enter');
    await page.keyboard.press('ArrowUp');
    const hand = await eventually(
      async () => (await savedJob(page, server.url)).sheets[0]?.blocks[0]?.hand.find(({ at }) => at === 5)?.milliem,
      (value) => value === -29,
    );
    expect(hand).toBe(-29);
  });

  it('of single letters can be switched off and be others', async () => {
    const { page } = now;
    await openJob(page, 'Perseids');
    await page.keyboard.press('?');
    await page.waitForSelector('jx-keys-dialog');
    const [letters, changing] = await page.$$('jx-keys-dialog .settings input');
    await changing?.click();
    const field = await page.waitForSelector('jx-keys-dialog input[aria-label^="The Tracking pass"]');
    await field?.focus();
    await page.keyboard.type('k');
    await page.waitForFunction(() => document.querySelector('jx-keys-dialog [role=alert]')?.textContent.includes('is in use'));
    await page.keyboard.type('z');
    await page.keyboard.press('Escape');
    await dialogGone(page);
    await page.keyboard.press('t');
    await page.keyboard.press('z');
    await page.waitForSelector('jx-tracking-deck');
    await page.keyboard.press('?');
    await page.waitForSelector('jx-keys-dialog');
    await (await page.$('jx-keys-dialog .settings input'))?.click();
    expect(letters).toBeDefined();
    await page.keyboard.press('Escape');
    await dialogGone(page);
    await page.keyboard.press('k');
    await page.keyboard.press('ArrowRight');
    await page.waitForSelector('[data-testid="caret"]');
    expect(await page.$('jx-tracking-deck')).not.toBeNull();
  });

  it('shorten the words under the Tracking deck, and its lines follow', async () => {
    const { page } = now;
    await openJob(page, 'Perseids');
    await page.keyboard.press('t');
    await page.waitForSelector('jx-tracking-deck');
    await page.focus('jx-copy-column textarea');
    await page.keyboard.down('Control');
    await page.keyboard.press('a');
    await page.keyboard.up('Control');
    await page.keyboard.type('33 AVATAR');
    const letters = (count: number): Promise<unknown> =>
      page.waitForFunction((wanted) => [...document.querySelectorAll('jx-tracking-deck svg path')].length === wanted, {}, count * 3);
    await letters(8);
    for (let i = 0; i < 7; i++) await page.keyboard.press('Backspace');
    await letters(2);
    expect(await page.$('jx-tracking-deck')).not.toBeNull();
  });
});

describe('a new job', () => {
  const now = journey();

  it('opens in Words with the caret in them, the whole sheet shown, title, kind and size in one place', async () => {
    const { page, server } = now;
    await press(page, 'New job');
    await press(page, 'Poster A2');
    await press(page, 'Page A4');
    await press(page, 'Create');
    await page.waitForSelector('jx-sheet-panel');
    await page.waitForFunction(() => document.activeElement?.tagName === 'TEXTAREA');
    await page.keyboard.type('OPEN DAY');
    await waitForText(page, 'jx-pass-rail .current', 'Words');
    const whole = (): Promise<boolean> =>
      page.evaluate(() => {
        const [table, sheet] = [
          document.querySelector('jx-table')?.getBoundingClientRect(),
          document.querySelector('jx-table rect.sheet')?.getBoundingClientRect(),
        ];
        if (!table || !sheet) return false;
        const inside = sheet.left >= table.left && sheet.top >= table.top && sheet.right <= table.right && sheet.bottom <= table.bottom;
        return inside && (sheet.height > table.height * 0.6 || sheet.width > table.width * 0.6);
      });
    expect(await whole()).toBeTrue();
    const size = 'select[aria-label="Common sizes"]';
    expect(await page.$eval(size, (select) => select.value)).toBe('Page A4');
    await page.select('select[aria-label="Kind of work"]', 'slides');
    await page.select(size, 'Slide 16:9');
    await page.focus('jx-sheet-panel input[aria-label="Title"]');
    await page.keyboard.down('Control');
    await page.keyboard.press('a');
    await page.keyboard.up('Control');
    await page.keyboard.type('Open day');
    await page.keyboard.press('Enter');
    const job = await eventually(
      () => savedJob(page, server.url),
      ({ title, kind }) => title === 'Open day' && kind === 'slides',
    );
    const [sheet] = job.sheets;
    const frame = sheet?.blocks[0]?.frame;
    expect(sheet?.blocks[0]?.words).toBe('OPEN DAY');
    expect(sheet?.widthPt).toBe(1440);
    expect((frame?.xPt ?? 0) + (frame?.widthPt ?? 0)).toBeCloseTo(1440 - (sheet?.margins.rightPt ?? 0), 6);
    expect(frame?.xPt).toBe(sheet?.margins.leftPt);
    expect(await whole()).toBeTrue();
  });
});

describe('what is done', () => {
  const now = journey();

  it('is told to screen readers: passes, values, and what a shortcut has changed', async () => {
    const { page } = now;
    await openJob(page, 'Perseids');
    const told = (wanted: string) =>
      page.waitForFunction((text) => document.querySelector('.cdk-live-announcer-element')?.textContent.includes(text), {}, wanted);
    await page.keyboard.press('t');
    await told('Tracking pass.');
    await page.keyboard.press(']');
    await told('Tracking +2');
    await page.keyboard.press('PageUp');
    await told('Size 122.1');
    await page.keyboard.down('Control');
    await page.keyboard.press('d');
    await page.keyboard.up('Control');
    await told('Added: TWO NIGHTS');
    // Nothing of it is seen, and it takes no room.
    const room = await page.evaluate(() => [document.documentElement.scrollHeight, window.innerHeight]);
    expect(room[0]).toBe(room[1]);
    expect(await page.$eval('jx-pass-rail .current', (current) => current.textContent)).toContain('Tracking');
  });
});

describe('a small window', () => {
  const now = journey();

  it('shows words, sheet and deck of the bench one at a time, and the other pages without scrolling sideways', async () => {
    const { page, server } = now;
    await openJob(page, 'Perseids');
    await page.setViewport({ width: 640, height: 400 });
    const shown = (): Promise<string[]> =>
      page.evaluate(() =>
        ['jx-copy-column', 'jx-table', '.deck'].filter((selector) => (document.querySelector(selector)?.getBoundingClientRect().width ?? 0) > 0),
      );
    for (const [part, selector] of [
      ['Words', 'jx-copy-column'],
      ['Sheet', 'jx-table'],
      ['Deck', '.deck'],
    ] as const) {
      // The rail has a pass of the same name.
      await page.$$eval('[aria-label="What is shown"] button', (all, name) => all.find((one) => one.textContent.trim() === name)?.click(), part);
      await eventually(shown, (seen) => seen.join() === selector);
      expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(640);
    }
    await page.setViewport({ width: 320, height: 640 });
    for (const [path, ready] of [
      ['', 'a.picture img'],
      ['type-case', '.faces li'],
      ['recipes', 'main section, .empty'],
    ] as const) {
      await page.goto(`${server.url}/${path}`, { waitUntil: 'load' });
      await page.waitForSelector(ready);
      expect(await page.evaluate(() => document.documentElement.scrollWidth))
        .withContext(path)
        .toBeLessThanOrEqual(320);
    }
  });
});

describe('a tablet’s touch', () => {
  const now = journey();

  it('pans with a finger, zooms with two, and drags handles that a fingertip can hit', async () => {
    const { page, server } = now;
    await page.emulate({ viewport: { width: 1280, height: 800, hasTouch: true }, userAgent: await page.browser().userAgent() });
    await openJob(page, 'Perseids');
    await page.waitForSelector('jx-kerning-deck');
    // Zooming by hand comes once the letters are there.
    await page.waitForFunction(() => '__zoom' in (document.querySelector('jx-table svg.surface') ?? {}));
    const cdp = await page.createCDPSession();
    const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', ...touchPoints: { x: number; y: number }[]) =>
      cdp.send('Input.dispatchTouchEvent', { type, touchPoints: touchPoints.map((point, id) => ({ ...point, id })) });
    const sheet = (): Promise<{ x: number; y: number; width: number }> =>
      page.$eval('jx-table rect.sheet', (one) => {
        const { x, y, width } = one.getBoundingClientRect();
        return { x, y, width };
      });
    const drag = async (from: { x: number; y: number }, by: { x: number; y: number }): Promise<void> => {
      await touch('touchStart', from);
      for (const share of [0.3, 0.6, 1]) await touch('touchMove', { x: from.x + by.x * share, y: from.y + by.y * share });
      await touch('touchEnd');
    };
    const before = await sheet();
    await drag({ x: 300, y: 400 }, { x: 60, y: -40 });
    const moved = await eventually(sheet, ({ x }) => Math.abs(x - before.x - 60) < 2);
    expect(moved.y).toBeCloseTo(before.y - 40, -0.5);
    await touch('touchStart', { x: 600, y: 300 }, { x: 700, y: 300 });
    for (const spread of [20, 50, 100]) await touch('touchMove', { x: 600 - spread, y: 300 }, { x: 700 + spread, y: 300 });
    await touch('touchEnd');
    await eventually(sheet, ({ width }) => Math.abs(width / moved.width - 3) < 0.2);
    await press(page, 'Fit sheet');
    await press(page, 'Words');
    await page.waitForSelector('[data-corner="corner-se"]');
    // Everything that is dragged is 24 px across, at the least.
    const small = await page.$$eval('jx-table [data-handle]:not([data-axis]), jx-table .grip', (handles) =>
      handles.flatMap((one) => {
        const { width, height } = one.getBoundingClientRect();
        return Math.min(width, height) < 23.5 ? [`${one.getAttribute('class') ?? ''} ${width} ${height}`] : [];
      }),
    );
    expect(small).toEqual([]);
    const size = async (): Promise<number> => (await savedJob(page, server.url)).sheets[0]?.blocks[0]?.style.sizePt ?? 0;
    const was = await size();
    const corner = await page.$eval('[data-corner="corner-se"]', (one) => {
      const { x, y, width, height } = one.getBoundingClientRect();
      return { x: x + width / 2, y: y + height / 2 };
    });
    await drag({ x: corner.x + 8, y: corner.y + 8 }, { x: -40, y: -40 });
    await eventually(size, (sizePt) => sizePt < was * 0.95);
  });
});

describe('an audit of accessibility', () => {
  const now = journey();
  const axe = readFileSync(join(root, 'node_modules/axe-core/axe.min.js'), 'utf8');

  /** axe's violations on the page as it is now, in the light; and in the dark those of contrast. */
  async function audit(page: Page, where: string): Promise<string[]> {
    const cdp = await page.createCDPSession();
    // Past the page's content policy, as an extension would.
    await cdp.send('Runtime.evaluate', { expression: axe });
    await cdp.detach();
    return page.evaluate(async (name) => {
      const { axe: checker } = globalThis as unknown as {
        axe: { run: (options: object) => Promise<{ violations: { id: string; nodes: { html: string; failureSummary?: string }[] }[] }> };
      };
      const found: string[] = [];
      const shown = document.documentElement.dataset;
      const chosen = shown['theme'] ?? '';
      for (const [theme, runOnly] of [
        ['light', ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice']],
        ['dark', ['color-contrast']],
      ] as const) {
        shown['theme'] = theme;
        for (const { id, nodes } of (await checker.run({ runOnly })).violations)
          for (const { html, failureSummary = '' } of nodes)
            found.push(`${name}, ${theme}: ${id} ${html.slice(0, 160)} ${failureSummary.replaceAll('\n', ' ').slice(0, 200)}`);
      }
      shown['theme'] = chosen;
      return found;
    }, where);
  }

  it('finds nothing on any screen, pass and dialog, light and dark', async () => {
    const { page, server } = now;
    const found: string[] = [];
    // What fades in is judged once it is there.
    await page.emulateMediaFeatures([{ name: 'prefers-reduced-motion', value: 'reduce' }]);
    await prefer(server.url, { hints: true });
    await page.reload({ waitUntil: 'load' });
    await page.waitForSelector('a.picture');
    found.push(...(await audit(page, 'shelf')));
    for (const [path, ready] of [
      ['type-case', '.faces li'],
      ['recipes', 'main section, .empty'],
      ['drill', '.mover'],
    ] as const) {
      await page.goto(`${server.url}/${path}`, { waitUntil: 'load' });
      await page.waitForSelector(ready);
      found.push(...(await audit(page, path)));
    }
    await page.keyboard.press('Enter');
    await page.waitForSelector('[data-testid="score"]');
    found.push(...(await audit(page, 'drill, compared')));
    for (const [exercise, board] of [
      ['Which is more even?', 'jx-even-board'],
      ['Which gap is wrong?', 'jx-gap-board'],
      ['Match the leading', 'jx-leading-board'],
    ] as const) {
      await press(page, exercise);
      await page.waitForSelector(board);
      found.push(...(await audit(page, exercise)));
    }
    await page.goto(server.url, { waitUntil: 'load' });
    await press(page, 'New job');
    await page.waitForSelector('jx-new-job-dialog');
    found.push(...(await audit(page, 'New job')));
    await page.keyboard.press('Escape');
    await dialogGone(page);
    await openJob(page, 'Perseids');
    const passes = await page.$$eval('jx-pass-rail button', (buttons) => buttons.map(({ title }) => title.slice(-1).toLowerCase()));
    expect(passes.length).toBeGreaterThan(4);
    for (const key of passes) {
      await page.keyboard.press(key as 'k');
      await page.waitForFunction(() => document.querySelector('.deck > :not(router-outlet) .deck-body, .deck .deck-body'));
      if (key === 'k') await page.keyboard.press('ArrowRight');
      await page.waitForFunction(() => document.querySelector('.deck .deck-body'));
      found.push(...(await audit(page, `pass ${key}`)));
    }
    await page.keyboard.press('!');
    await page.keyboard.press('*');
    await page.waitForSelector('[data-testid="pull"]');
    for (const tab of ['Wipe', 'View', 'Findings']) {
      await press(page, tab);
      found.push(...(await audit(page, `proof, ${tab}`)));
    }
    await page.keyboard.press('w');
    for (const panel of ['Colour', 'Sheet']) {
      await press(page, panel);
      found.push(...(await audit(page, `words, ${panel}`)));
    }
    for (const [button, dialog] of [
      ['Preferences', 'jx-preferences-dialog'],
      ['Keys', 'jx-keys-dialog'],
      ['Brief', 'jx-brief-dialog'],
      ['Hand over', 'jx-hand-over-dialog'],
    ] as const) {
      await press(page, button);
      await page.waitForSelector(dialog);
      found.push(...(await audit(page, button)));
      await page.keyboard.press('Escape');
      await dialogGone(page);
    }
    await press(page, 'Add a sheet');
    await press(page, 'Add sizes');
    await page.waitForSelector('jx-sizes-dialog');
    found.push(...(await audit(page, 'sizes')));
    await page.keyboard.press('Escape');
    await dialogGone(page);
    await press(page, 'Find and replace');
    await page.waitForSelector('jx-find-panel');
    found.push(...(await audit(page, 'find')));
    // Each once, with the first place it was found at.
    const once = new Map(found.map((line) => [line.slice(line.indexOf(': ') + 2).replace(/_ng[^ ]*=""/g, ''), line] as const).reverse());
    expect([...once.values()]).toEqual([]);
  });
});
