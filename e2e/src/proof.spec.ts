/** The last pass: a raw poster refined and compared with what it was, one thing given back; a scan matched; what is still open walked across sheets. */
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { type Block, type Job, findBlock } from '@jentrix/core/job';
import { shippedFaces } from '@jentrix/core/testing';
import { pictureOf, pngOf } from '@jentrix/core/testing/pictures';
import type { ElementHandle, Page } from 'puppeteer-core';
import { click, eventually, jobIdOf, openJob, press, savedJob, stillBox, waitForState, waitForWords } from './harness';
import { journey } from './suite';

const HEADLINE = 'perseids-headline';
/** Where the last letter of the headline's second line stands, on the sheet that is seen first and, where there is one, on the second. */
const bottomOf = (page: Page, where: string): Promise<number> =>
  page.$$eval(`${where} path[data-at]`, (paths) => Math.max(...paths.slice(0, 40).map((path) => path.getBoundingClientRect().bottom)));
const changes = (page: Page): Promise<string[]> =>
  page.$$eval('[data-testid="change"] .row > span:first-child', (all) => all.map(({ textContent }) => textContent.trim()));

describe('a proof', () => {
  const now = journey();

  it('of the raw poster is kept, compared with in four ways after the round, and gives one thing back', async () => {
    const { page, server } = now;
    await openJob(page, 'Perseids');
    await page.waitForSelector('jx-kerning-deck');
    await page.keyboard.press('!');
    await page.waitForSelector('jx-proof-deck');
    const raw = await savedJob(page, server.url);
    await page.keyboard.press('*');
    await page.waitForSelector('[data-testid="pull"]');
    // The round keeps a pull of its own only where there is none of that state.
    await page.keyboard.press('x');
    await page.waitForSelector('[data-testid="cut-evenness"]');
    await page.keyboard.press('x');
    await page.waitForFunction(() => document.querySelectorAll('[data-testid="change"]').length > 4);
    expect((await page.$$('[data-testid="pull"]')).length).toBe(1);
    const listed = await changes(page);
    expect(listed).toContain('Tracking: 0 → +14');
    await page.waitForFunction(() => /Evenness\s+9\d → 9\d/.test(document.querySelector('[data-testid="measures"]')?.textContent ?? ''));

    // In place while the key is held: the lines stand lower, as they did.
    const cut = await bottomOf(page, `jx-table [data-block="${HEADLINE}"]`);
    await click(page, 'jx-table .surface');
    await page.keyboard.down('Space');
    await page.waitForSelector('jx-table [data-instead]');
    expect(await bottomOf(page, `jx-table [data-block="${HEADLINE}"]`)).toBeGreaterThan(cut + 20);
    await page.keyboard.up('Space');
    await page.waitForFunction(() => !document.querySelector('jx-table [data-instead]'));
    expect(await bottomOf(page, `jx-table [data-block="${HEADLINE}"]`)).toBeCloseTo(cut, 1);

    // Beside: both sheets as large as each other, and zooming moves them together.
    const widths = (): Promise<number[]> => page.$$eval('jx-table rect.sheet', (all) => all.map((sheet) => Math.round(sheet.getBoundingClientRect().width)));
    await press(page, 'Side by side');
    await page.waitForSelector('[data-second="beside"]');
    const [left, right] = await widths();
    expect(left).toBe(right);
    await press(page, 'Zoom in');
    await page.waitForFunction((before) => Math.round(document.querySelector('jx-table rect.sheet')?.getBoundingClientRect().width ?? 0) > before, {}, left!);
    const [wider, both] = await widths();
    expect(wider).toBeGreaterThan(left!);
    expect(both).toBe(wider);
    await press(page, 'Wipe');
    await page.waitForSelector('[data-second="wipe"]');
    const edge = await page.waitForSelector('jx-table [role="slider"]');
    const box = await edge?.boundingBox();
    await page.mouse.move((box?.x ?? 0) + 8, (box?.y ?? 0) + 60);
    await page.mouse.down();
    await page.mouse.move((box?.x ?? 0) + 158, (box?.y ?? 0) + 60, { steps: 4 });
    await page.mouse.up();
    expect(Number(await page.$eval('jx-table [role="slider"]', (one) => one.getAttribute('aria-valuenow')))).toBeGreaterThan(60);
    await press(page, 'Overlay');
    await page.waitForSelector('[data-second="over"]');
    await press(page, 'Swap');

    // One item is given back, and nothing else; undo takes it again.
    await press(page, 'Revert: Tracking: 0 → +14');
    await page.waitForFunction((count) => document.querySelectorAll('[data-testid="change"]').length === count, {}, listed.length - 1);
    await waitForState(page, 'saved');
    const styleOf = async () => (await savedJob(page, server.url)).sheets[0]?.blocks.find(({ id }) => id === HEADLINE)?.style;
    expect([(await styleOf())?.trackingMilliem, (await styleOf())?.kerning]).toEqual([0, 'weighed']);
    await press(page, 'Undo');
    await page.waitForFunction((count) => document.querySelectorAll('[data-testid="change"]').length === count, {}, listed.length);

    // The pull is there after a new visit, and restores the poster as one step.
    await waitForState(page, 'saved');
    await page.reload({ waitUntil: 'load' });
    await page.waitForSelector('jx-table [data-block] path');
    await page.keyboard.press('!');
    await page.waitForSelector('[data-testid="pull"]');
    await press(page, 'More about Pull');
    await press(page, 'Restore');
    await eventually(
      () => savedJob(page, server.url),
      (job) => JSON.stringify(job.sheets) === JSON.stringify(raw.sheets),
    );
    await press(page, 'Undo');
    await eventually(
      () => savedJob(page, server.url),
      (job) => JSON.stringify(job.sheets) !== JSON.stringify(raw.sheets),
    );
  });

  it('looks at the sheet in other ways without changing it', async () => {
    const { page, server } = now;
    await openJob(page, 'Perseids');
    const before = JSON.stringify(await savedJob(page, server.url));
    await page.keyboard.press('!');
    await page.waitForSelector('jx-proof-deck');
    await press(page, 'View');
    await page.waitForSelector('jx-looks-panel .small svg');
    await waitForWords(page, '[data-testid="geometry"]', '420 mm');
    const surface = (): Promise<[string, string]> => page.$eval('jx-table svg.surface', ({ style }): [string, string] => [style.filter, style.transform]);
    await click(page, 'jx-table .surface');
    await page.keyboard.press('1');
    await page.keyboard.press('2');
    expect(await surface()).toEqual([jasmine.stringMatching(/^blur\(/), 'rotate(180deg)']);
    await page.keyboard.press('8');
    expect(await surface()).toEqual(['', '']);
    await page.keyboard.press('7');
    await page.waitForSelector('[data-testid="three-letters"]');
    const mask = (): Promise<string | null> => page.$eval('[data-testid="three-letters"]', (one) => one.getAttribute('d'));
    const first = await mask();
    await page.keyboard.press('ArrowRight');
    await page.waitForFunction((was) => document.querySelector('[data-testid="three-letters"]')?.getAttribute('d') !== was, {}, first);
    await page.keyboard.press('8');
    await press(page, 'True size');
    // In CSS millimetres, since nobody has measured this screen.
    await page.waitForFunction(() => Math.abs(((document.querySelector('jx-table rect.sheet')?.getBoundingClientRect().width ?? 0) * 25.4) / 96 - 420) < 0.5);
    expect(JSON.stringify(await savedJob(page, server.url))).toBe(before);
  });

  it('matches a scan whose numbers are known: laid under, read, taken, and no different from it then; it is never handed over', async () => {
    const { page, server } = now;
    await openJob(page, 'Perseids');
    const before = findBlock(await savedJob(page, server.url), HEADLINE)!;
    const made: Block = { ...before, style: { ...before.style, sizePt: 96, trackingMilliem: 18 }, leading: { kind: 'multiple', factor: 1.08 }, grow: 'both' };
    const faces = await shippedFaces(made.style.faceId);
    const scan = join(now.data, 'scan.png');
    writeFileSync(scan, await pngOf(await pictureOf(made, faces, { pixelsPerInch: 110, turnDeg: -1.3, noise: 12, blurPt: 0.5, shade: 0.3 })));

    await page.keyboard.press('!');
    await page.waitForSelector('jx-proof-deck');
    await press(page, 'Reference');
    const file = await page.waitForSelector('jx-reference-panel input[type="file"]');
    await (file as ElementHandle<HTMLInputElement>).uploadFile(scan);
    await page.waitForSelector('[data-testid="reference"] image');
    await press(page, 'Read');
    await page.waitForSelector('[data-testid="read-value"]');
    await press(page, 'Apply all');
    await page.waitForFunction(() => !document.querySelector('[data-testid="gap-difference"]'));
    await press(page, 'Move block onto it');
    const offBy = (): Promise<number> =>
      page.$$eval('[data-testid="line-difference"] td:not(:first-child)', (cells) =>
        Math.max(...cells.map(({ textContent }) => Math.abs(Number(textContent.replace('−', '-'))))),
      );
    expect(await eventually(offBy, (off) => off < 0.6)).toBeLessThan(0.6);

    const job = await eventually(
      () => savedJob(page, server.url),
      (saved) => findBlock(saved, HEADLINE)!.rotationDeg !== 0,
    );
    const taken = findBlock(job, HEADLINE)!;
    const reference = job.sheets[0]!.reference!;
    const scale = (reference.scale * 110) / 72;
    expect(Math.abs(taken.style.sizePt / (96 * scale) - 1)).toBeLessThan(0.01);
    expect(Math.abs(taken.style.trackingMilliem - 18)).toBeLessThan(4);
    expect(taken.leading.kind === 'multiple' && Math.abs(taken.leading.factor / 1.08 - 1)).toBeLessThan(0.007);
    expect(taken.rotationDeg).toBeCloseTo(-1.3, 1);
    // Placed by two pairs: half as large, where it was before.
    await press(page, 'Align by two points');
    const area = await stillBox(page, 'jx-table .surface');
    for (const [x, y] of [
      [500, 150],
      [500, 150],
      [700, 150],
      [600, 150],
    ] as const)
      await page.mouse.click(area.x + x, area.y + y);
    expect(
      (
        await eventually(
          async () => (await savedJob(page, server.url)).sheets[0]!.reference!,
          ({ scale: to }) => to < reference.scale,
        )
      ).scale,
    ).toBeCloseTo(reference.scale / 2, 3);

    const id = jobIdOf(page);
    const handed = async (path: string): Promise<string> => (await fetch(`${server.url}/api/jobs/${id}/${path}`)).text();
    expect((JSON.parse(await handed('file')) as Job).sheets[0]?.reference).toBeNull();
    expect(await handed(`sheets/${job.sheets[0]!.id}/svg`)).not.toContain((reference.of as { pictureId: string }).pictureId);
    // It is there again when the job is.
    await page.reload();
    await page.waitForSelector('[data-testid="reference"] image');
  });

  it('of the slides walks everything that is still open across sheets, fixes it, and the shelf says so', async () => {
    const { page, server } = now;
    await openJob(page, 'Lecture');
    await page.keyboard.press('!');
    await page.waitForSelector('jx-proof-deck');
    await page.waitForSelector('jx-proof-deck .count');
    await click(page, 'jx-table .surface');
    const seen = new Set<string>();
    const open = (): Promise<number> => page.$$eval('[data-testid="open-finding"]', (all) => all.length);
    const current = (): Promise<string> => page.$eval('[data-testid="open-finding"].current', (one) => one.textContent);
    const sheetNow = (): Promise<string> => page.$eval('jx-copy-column textarea', ({ value }) => value);
    await page.keyboard.press('n');
    await page.waitForSelector('[data-testid="open-finding"].current');
    const count = await open();
    expect(count).toBeGreaterThan(1);
    const sheets = new Set<string>();
    for (let i = 0; i < count; i++) {
      seen.add(await current());
      sheets.add(await sheetNow());
      const was = await current();
      await page.keyboard.press('n');
      if (count > 1) await page.waitForFunction((text) => document.querySelector('[data-testid="open-finding"].current')?.textContent !== text, {}, was);
    }
    expect(seen.size).toBe(count);
    expect(sheets.size).toBeGreaterThan(1);
    // All of them as intended, one after the other: then the job is clean.
    for (let left = count; left > 0; left--) {
      await page.waitForSelector('[data-testid="open-finding"].current');
      await press(page, 'Ignore');
      await page.waitForFunction((n) => document.querySelectorAll('[data-testid="open-finding"]').length === n, {}, left - 1);
      if (left > 1) await page.keyboard.press('n');
    }
    await page.waitForFunction(() => document.querySelector('[data-testid="verdict"]')?.textContent.includes('No findings'));
    await waitForState(page, 'saved');
    await page.goto(server.url);
    await page.waitForFunction(() =>
      [...document.querySelectorAll('.card-job')].some((card) => card.textContent.includes('Lecture') && card.querySelector('.open.clean') !== null),
    );
    await page.waitForFunction(() =>
      [...document.querySelectorAll('.card-job')].some((card) => card.textContent.includes('Pocket') && / \d+ findings/.test(card.textContent)),
    );
  });
});
