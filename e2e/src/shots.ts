/** npm run shots: the pictures of docs/screenshots, made anew from the demo data at 1280 x 800. */
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { playRounds } from '@jentrix/core/drill';
import { readJobFile } from '@jentrix/core/formats';
import { findBlock } from '@jentrix/core/job';
import { shippedFaces } from '@jentrix/core/testing';
import { pictureOf, pngOf } from '@jentrix/core/testing/pictures';
import type { ElementHandle, Page } from 'puppeteer-core';
import {
  click,
  clickGap,
  dialogGone,
  launchBrowser,
  openJob,
  openPage,
  pick,
  press,
  removeFolder,
  root,
  startServer,
  stillBox,
  temporaryFolder,
  waitForState,
} from './harness';

const folder = join(root, 'docs/screenshots');
mkdirSync(folder, { recursive: true });

const data = temporaryFolder();
const server = await startServer(data);
const browser = await launchBrowser();

/** Takes the picture once nothing is being set or loaded any more. */
async function shoot(page: Page, name: string): Promise<void> {
  await page.evaluate(() => Promise.all([document.fonts.ready, ...[...document.images].map((image) => image.decode())]));
  await page.waitForNetworkIdle({ idleTime: 300 });
  await page.screenshot({ path: join(folder, `${name}.png`) });
  console.log(`docs/screenshots/${name}.png`);
}

/** The poster's headline as if it had been scanned, in other settings. @returns the file. */
async function scanOf(to: string): Promise<string> {
  const job = readJobFile(readFileSync(join(root, 'demo/1-perseids-poster.jentrix.json'), 'utf8'));
  const block = findBlock(job, 'perseids-headline');
  if (!block) throw new Error('The poster has no headline');
  const made = {
    ...block,
    style: { ...block.style, sizePt: 96, trackingMilliem: 18 },
    leading: { kind: 'multiple' as const, factor: 1.04 },
    grow: 'both' as const,
  };
  const path = join(to, 'scan.png');
  writeFileSync(
    path,
    await pngOf(await pictureOf(made, await shippedFaces(made.style.faceId), { pixelsPerInch: 110, turnDeg: -1.3, noise: 12, blurPt: 0.5, shade: 0.3 })),
  );
  return path;
}

/** A rule under the last line of the headline, which its baseline could be dragged to. */
async function drawRule(page: Page): Promise<void> {
  const grip = await stillBox(page, '[data-line="3"]');
  await page.keyboard.press('r');
  await page.mouse.move(grip.x + 40, grip.y + 18);
  await page.mouse.down();
  await page.mouse.move(grip.x + 240, grip.y + 19);
  await page.mouse.move(grip.x + 430, grip.y + 18);
  await page.mouse.up();
  await page.waitForSelector('[data-axis="rule"]');
  await waitForState(page, 'saved');
}

/** A history of the drill: sixty words over eight weeks, by someone who leaves one kind of pair too open. */
async function practise(url: string): Promise<void> {
  const ids = ['playfair-display-bold', 'source-sans-3-semibold', 'eb-garamond-regular', 'eb-garamond-italic'];
  const faces = await shippedFaces(...ids);
  const offered = ids.map((id) => ({ id, italic: id.endsWith('italic') }));
  const results = playRounds({ bias: { 'round to straight': 18 }, deviation: 9 }, { rounds: 60, seed: 7, faces: offered }, faces);
  for (const [i, result] of results.entries()) {
    const at = new Date(Date.UTC(2026, 9, 5) + i * 21 * 3_600_000).toISOString();
    await fetch(`${url}/api/drill/results`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ ...result, at }) });
  }
}

try {
  const { page } = await openPage(browser, server.url);
  await page.waitForSelector('.card-job img');
  await shoot(page, 'shelf');
  await press(page, 'New job');
  await page.waitForSelector('jx-new-job-dialog');
  await page.keyboard.type('Tonight: Vega & Altair');
  for (const size of ['Square 1:1', 'Tall 9:16']) await press(page, size);
  // The dialog fades in.
  await page.waitForFunction(() => getComputedStyle(document.querySelector('ngb-modal-window') ?? document.body).opacity === '1');
  await shoot(page, 'new-job');
  await press(page, 'Cancel');
  await dialogGone(page);
  await openJob(page, 'Perseids');
  await clickGap(page, 'perseids-headline', 23);
  await page.waitForSelector('jx-findings-list .item');
  // The worst gap of the quote, unkerned: the whole instrument at work.
  await press(page, 'None');
  await page.waitForSelector('[data-testid="ghost"] path');
  await waitForState(page, 'saved');
  await shoot(page, 'bench-kerning');
  await press(page, 'Font');
  for (const [key, pass, ready] of [
    ['t', 'tracking', 'jx-tracking-curve canvas'],
    ['l', 'leading', '.ladder path'],
    ['w', 'words', '.rag li'],
    ['f', 'face', '.candidate [data-face-state="shown"]'],
  ] as const) {
    await page.keyboard.press(key);
    await page.waitForSelector(ready);
    if (pass === 'leading') await drawRule(page);
    await shoot(page, `bench-${pass}`);
  }
  await page.goto(server.url);
  await openJob(page, 'Lecture');
  await page.waitForSelector('jx-kerning-deck');
  await press(page, 'First cut');
  await page.waitForSelector('[data-testid="cut-evenness"]');
  await waitForState(page, 'saved');
  await shoot(page, 'first-cut');
  await page.keyboard.press('s');
  await page.waitForSelector('jx-shift-deck [data-letter]');
  // Ends of words, larger and hung from the cap line; one letter turned.
  await press(page, 'Ends of words');
  for (const label of ['width', 'height']) {
    await page.evaluate((name) => {
      const field = [...document.querySelectorAll('jx-shift-deck jx-value')].find((one) => one.querySelector('label')?.textContent.trim() === name);
      field?.querySelector('input')?.focus();
    }, label);
    await page.keyboard.type('125');
    await page.keyboard.press('Enter');
  }
  await page.select('#scale-from', 'cap line');
  await page.keyboard.press('Escape');
  await page.keyboard.press('ArrowRight');
  for (let i = 0; i < 9; i++) await page.keyboard.press('e');
  await waitForState(page, 'saved');
  await shoot(page, 'bench-shift');
  await page.goto(server.url);
  await openJob(page, 'Open-day');
  await page.keyboard.press('s');
  await page.waitForSelector('jx-shift-deck [data-letter]');
  await click(page, 'jx-table [data-block="openday-dome"] path[data-at="6"]');
  await page.waitForSelector('[data-testid="picked-letters"]');
  await page.keyboard.press('b');
  await press(page, 'Path');
  await page.waitForSelector('g[jxPath] .course');
  await shoot(page, 'bench-path');
  await page.keyboard.press('Escape');
  await page.keyboard.press('v');
  await page.keyboard.press('u');
  await page.waitForSelector('jx-fit-deck');
  await click(page, 'jx-table [data-block="openday-lockup"] path[data-at="1"]');
  await page.waitForSelector('[data-testid="fit-line-2"]');
  await shoot(page, 'bench-fit');
  await page.goto(server.url);
  await openJob(page, 'Pocket');
  await page.keyboard.press('u');
  await page.waitForSelector('jx-findings-list [data-rule="stranded"]');
  await click(page, 'jx-findings-list [data-rule="stranded"] .row');
  await press(page, 'Breaks');
  await page.waitForFunction(() => document.querySelectorAll('jx-breaks-pictures .way').length > 2);
  await shoot(page, 'bench-breaks');
  await page.goto(server.url);
  await openJob(page, 'Perseids');
  await page.keyboard.press('p');
  await page.waitForSelector('jx-edges-deck');
  await click(page, 'jx-table [data-block="perseids-quote"] path[data-at="4"]');
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await page.keyboard.press('|');
  await page.waitForFunction(() => document.querySelectorAll('jx-edges-deck .pictures svg').length === 2);
  await waitForState(page, 'saved');
  await shoot(page, 'bench-edges');
  await page.goto(server.url);
  await openJob(page, 'Open-day');
  await page.keyboard.press('!');
  await page.waitForSelector('jx-proof-deck');
  await page.keyboard.press('*');
  await page.waitForSelector('[data-testid="pull"]');
  await page.keyboard.press('x');
  await page.waitForSelector('[data-testid="cut-evenness"]');
  await page.keyboard.press('x');
  await page.waitForSelector('[data-testid="change"]');
  await press(page, 'Side by side');
  await page.waitForSelector('[data-second="beside"]');
  await page.waitForFunction(() => (document.querySelector('[data-testid="measures"]')?.textContent ?? '').includes('Evenness'));
  await page.waitForFunction(() => !document.querySelector('ngb-toast'), { timeout: 15_000 });
  await waitForState(page, 'saved');
  await shoot(page, 'bench-proof');
  await page.goto(server.url);
  await openJob(page, 'Perseids');
  await page.keyboard.press('!');
  await press(page, 'Reference');
  const file = await page.waitForSelector('jx-reference-panel input[type="file"]');
  await (file as ElementHandle<HTMLInputElement>).uploadFile(await scanOf(data));
  await page.waitForSelector('[data-testid="reference"] image');
  await page.keyboard.press('b');
  await press(page, 'Read');
  await page.waitForSelector('[data-testid="read-value"]');
  await press(page, 'Move onto block');
  await waitForState(page, 'saved');
  await shoot(page, 'bench-reference');
  await page.goto(server.url);
  await openJob(page, 'Open-day');
  await press(page, 'Hand over');
  await pick(page, 'PDF');
  await pick(page, 'Crop marks');
  await page.waitForFunction(() => /KB|MB/.test(document.querySelector('jx-hand-over-dialog .figures')?.textContent ?? ''));
  await shoot(page, 'bench-hand-over');
  await page.goto(`${server.url}/type-case`);
  await press(page, 'Catalogue');
  await page.waitForFunction(() => document.querySelectorAll('li [data-face-state="shown"]').length > 8);
  await click(page, 'li .picture');
  await page.waitForSelector('aside section');
  await shoot(page, 'type-case');
  await page.goto(`${server.url}/recipes`);
  await press(page, 'Add common recipes');
  await page.waitForFunction(() => document.querySelectorAll('section[data-recipe] [data-face-state="shown"]').length === 4);
  await shoot(page, 'recipes');
  await practise(server.url);
  await page.goto(`${server.url}/drill`);
  await page.waitForSelector('.mover');
  await press(page, 'Capitals');
  await page.waitForFunction(() => document.querySelectorAll('.mover').length >= 3 && document.activeElement?.classList.contains('mover'));
  await page.keyboard.press('Enter');
  await page.waitForSelector('[data-testid="score"]');
  await page.waitForFunction(() => document.querySelector('.figures dd')?.textContent === '61');
  await shoot(page, 'drill');
} finally {
  await browser.close();
  await server.kill();
  removeFolder(data);
}
