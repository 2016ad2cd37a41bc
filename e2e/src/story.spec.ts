import { existsSync, readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { controlBounds } from '@jentrix/core/face';
import { readJobFile } from '@jentrix/core/formats';
import { type Job, findBlock } from '@jentrix/core/job';
import { type BlockSetting, setBlock } from '@jentrix/core/setting';
import { shippedFaces } from '@jentrix/core/testing';
import { fromPoints } from '@jentrix/core/units';
import {
  click,
  clickGap,
  dialogGone,
  handOver,
  lettersOnScreen,
  openJob,
  press,
  removeFolder,
  savedJob,
  temporaryFolder,
  totalOfGap,
  waitForLetter,
  waitForState,
} from './harness';
import { journey } from './suite';

const HEADLINE = 'perseids-headline';
const SIZE_PT = 122;
/** `TWO NIGHTS\nTO WATCH\nA VALLEY OF\nFALLING STARS`: the A of VALLEY. */
const VA = 23;

describe('the story of a headline', () => {
  const current = journey();

  async function setByCore(job: Job): Promise<BlockSetting> {
    const faces = await shippedFaces('playfair-display-bold');
    return setBlock(findBlock(job, HEADLINE)!, faces);
  }

  const placed = (setting: BlockSetting) => setting.lines.flatMap((line) => line.runs.flatMap((run) => run.glyphs.map((glyph) => ({ ...glyph, run, line }))));

  it('is set, spaced, undone, kept and handed over exactly as it stood on the screen', async () => {
    const { page } = current;
    await openJob(page, 'Perseids');
    const before = await lettersOnScreen(page, HEADLINE);
    expect(before.length).toBe(37);

    // A click between V and A, then closed with the arrow keys.
    await clickGap(page, HEADLINE, VA);
    const font = await totalOfGap(page);
    expect(font).toBeLessThan(-20);
    const a = before.find(({ at }) => at === VA)!.x;
    await page.keyboard.press('ArrowDown');
    expect(await waitForLetter(page, HEADLINE, VA, { not: a })).toBeCloseTo(a - (2 * SIZE_PT) / 1000, 4);
    await page.keyboard.down('Shift');
    await page.keyboard.press('ArrowDown');
    await page.keyboard.up('Shift');
    await waitForLetter(page, HEADLINE, VA, { near: a - (12 * SIZE_PT) / 1000 });
    expect(await totalOfGap(page, font - 2)).toBe(font - 12);
    expect((await lettersOnScreen(page, HEADLINE)).find(({ at }) => at === VA - 1)!.x).toBeCloseTo(before.find(({ at }) => at === VA - 1)!.x, 6);

    // On to the next gap, which is opened by a typed number.
    await page.keyboard.press('ArrowRight');
    const next = (await lettersOnScreen(page, HEADLINE)).find(({ at }) => at === VA + 1)!.x;
    await page.keyboard.type('15');
    await page.keyboard.press('Enter');
    await waitForLetter(page, HEADLINE, VA + 1, { near: next + (15 * SIZE_PT) / 1000 });
    await page.keyboard.press('Escape');

    // The whole headline tighter, and less leading.
    const lastAt = 44;
    const last = (await lettersOnScreen(page, HEADLINE)).find(({ at }) => at === lastAt)!;
    await page.keyboard.press('BracketLeft');
    await waitForLetter(page, HEADLINE, lastAt, { near: last.x - (12 * 2 * SIZE_PT) / 1000 });
    await page.keyboard.press('Comma');
    await page.waitForFunction(
      (selector, y) => Math.abs(Number(/^M[-\d.e]+,([-\d.e]+)/.exec(document.querySelector(selector)?.getAttribute('d') ?? '')?.[1]) - y) < 1e-4,
      {},
      `jx-table [data-block="${HEADLINE}"] path[data-at="${lastAt}"]`,
      last.y - 3 * 0.5,
    );
    const done = await lettersOnScreen(page, HEADLINE);

    // Everything undone, one step a gesture, and done again.
    for (let i = 0; i < 5; i++) await press(page, 'Undo');
    await waitForLetter(page, HEADLINE, VA, { near: a });
    expect(await lettersOnScreen(page, HEADLINE)).toEqual(before);
    for (let i = 0; i < 5; i++) await press(page, 'Redo');
    await waitForLetter(page, HEADLINE, lastAt, { near: done.find(({ at }) => at === lastAt)!.x });
    expect(await lettersOnScreen(page, HEADLINE)).toEqual(done);

    // Kept over a reload.
    await waitForState(page, 'saved');
    await page.reload();
    await page.waitForSelector('jx-table [data-block] path');
    expect(await lettersOnScreen(page, HEADLINE)).toEqual(done);

    // The screen shows the core's own numbers.
    const job = await savedJob(page, current.server.url);
    const setting = await setByCore(job);
    const faces = await shippedFaces('playfair-display-bold');
    const inked = placed(setting).filter(({ glyphId, run }) => faces.instance(run.style).outline(glyphId).length > 0);
    expect(done.map(({ at, x, y }) => [at, x.toFixed(6), y.toFixed(6)])).toEqual(
      inked.map(({ cluster, xPt, yPt }) => [cluster, xPt.toFixed(6), yPt.toFixed(6)]),
    );

    // The SVG handed over: every letter's first point is where the core puts it.
    const downloads = temporaryFolder();
    const session = await page.createCDPSession();
    await session.send('Browser.setDownloadBehavior', { behavior: 'allow', downloadPath: downloads, browserContextId: page.browserContext().id });
    const download = async (name: RegExp, format: string, ...options: string[]): Promise<Buffer> => {
      await handOver(page, format, ...options);
      for (let i = 0; i < 200; i++) {
        const file = readdirSync(downloads).find((candidate) => name.test(candidate));
        if (file && existsSync(join(downloads, file))) return readFileSync(join(downloads, file));
        await new Promise((resolve) => setTimeout(resolve, 50));
      }
      throw new Error(`${format}: nothing arrived, only ${readdirSync(downloads).join(', ')}`);
    };
    const svg = (await download(/poster\.svg$/, 'SVG', 'As outlines')).toString();
    const group = svg.slice(svg.indexOf(`id="${HEADLINE}"`), svg.indexOf('id="perseids-date"'));
    const starts = [...group.matchAll(/<path d="M([-\d.]+),([-\d.]+)/g)].map((match) => [Number(match[1]), Number(match[2])]);
    expect(starts.length).toBe(inked.length);
    inked.forEach(({ glyphId, xPt, yPt, run }, i) => {
      const [x = 0, y = 0] = faces.instance(run.style).outline(glyphId)[0]!.values;
      expect(starts[i]![0]).toBeCloseTo(xPt + x * run.scale, 3);
      expect(starts[i]![1]).toBeCloseTo(yPt - y * run.scale, 3);
    });

    // The PNG: the ink of the last line begins and ends at the pixel the core's numbers name.
    const png = await download(/@2x\.png$/, 'PNG', '2×');
    expect(png.readUInt32BE(16)).toBe(Math.round((420 / 25.4) * 96 * 2));
    const pixelsPerPoint = png.readUInt32BE(16) / job.sheets[0]!.widthPt;
    const line = setting.lines[3]!;
    const ends = [inked.find((glyph) => glyph.line === line)!, inked[inked.length - 1]!].map(({ glyphId, xPt, run }) => {
      const bounds = controlBounds(faces.instance(run.style).outline(glyphId))!;
      return [xPt + bounds.xMin * run.scale, xPt + bounds.xMax * run.scale];
    });
    const ink = await page.evaluate(
      async (base64, top, bottom) => {
        const blob = new Blob([Uint8Array.from(atob(base64), (character) => character.charCodeAt(0))], { type: 'image/png' });
        const bitmap = await createImageBitmap(blob, 0, top, 6000, bottom - top);
        const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
        const context = canvas.getContext('2d')!;
        context.drawImage(bitmap, 0, 0);
        const { data, width, height } = context.getImageData(0, 0, bitmap.width, bitmap.height);
        const columns: number[] = [];
        for (let x = 0; x < width; x++)
          for (let y = 0; y < height; y++)
            if (data[(y * width + x) * 4]! > 140) {
              columns.push(x);
              break;
            }
        return [columns[0]!, columns[columns.length - 1]! + 1];
      },
      png.toString('base64'),
      Math.round((line.baselinePt - 70) * pixelsPerPoint),
      Math.round(line.baselinePt * pixelsPerPoint),
    );
    expect(Math.abs(ink[0]! - ends[0]![0]! * pixelsPerPoint)).toBeLessThan(1.5);
    expect(Math.abs(ink[1]! - ends[1]![1]! * pixelsPerPoint)).toBeLessThan(1.5);

    // The job file holds the same job.
    const file = readJobFile((await download(/poster\.jentrix\.json$/, 'Job file')).toString());
    expect(findBlock(file, HEADLINE)).toEqual(findBlock(job, HEADLINE));
    removeFolder(downloads);
  });

  it('walks across lines and blocks, and one held key is one step of undo', async () => {
    const { page } = current;
    await openJob(page, 'Perseids');
    await clickGap(page, HEADLINE, 44);
    const pair = () => page.$eval('svg.pair', (svg) => svg.getAttribute('aria-label'));
    expect(await pair()).toBe('R S');
    await page.keyboard.press('ArrowRight');
    await page.waitForFunction(() => document.querySelector('svg.pair')?.getAttribute('aria-label') === '1 2');
    await page.keyboard.press('ArrowLeft');
    await page.waitForFunction(() => document.querySelector('svg.pair')?.getAttribute('aria-label') === 'R S');

    const before = await totalOfGap(page);
    for (let i = 0; i < 6; i++) await page.keyboard.down('ArrowUp'); // a held key repeats
    await page.keyboard.up('ArrowUp');
    await page.waitForFunction(
      (total) => document.querySelector('[data-testid="total"]')?.textContent.replace('−', '-').replace('+', '').trim() === String(total),
      {},
      before + 12,
    );
    await page.keyboard.down('Control');
    await page.keyboard.press('z');
    await page.keyboard.up('Control');
    await page.waitForFunction((total) => Number(document.querySelector('[data-testid="total"]')?.textContent.replace('−', '-')) === total, {}, before);
    await page.keyboard.press('ArrowUp');
    await page.keyboard.press('Delete');
    await page.waitForFunction((total) => Number(document.querySelector('[data-testid="total"]')?.textContent.replace('−', '-')) === total, {}, before);
    expect(await page.waitForSelector('jx-masthead button[aria-label="Redo"][disabled]')).not.toBeNull();
  });

  it('keeps hand kerning while words are edited in the copy column, and points at a mistake in a spec line', async () => {
    const { page } = current;
    await openJob(page, 'Perseids');
    await clickGap(page, HEADLINE, VA);
    await page.keyboard.press('ArrowDown');
    const words = `section[data-block="${HEADLINE}"] textarea`;
    await click(page, words);
    await page.keyboard.down('Control');
    await page.keyboard.press('Home');
    await page.keyboard.up('Control');
    await page.keyboard.type('THE ');
    await page.waitForFunction(
      (selector) => document.querySelector(selector)?.getAttribute('data-at') !== null,
      {},
      `jx-table [data-block="${HEADLINE}"] path[data-at="${VA + 4}"]`,
    );
    await waitForState(page, 'saved');
    expect(findBlock(await savedJob(page, current.server.url), HEADLINE)?.hand).toEqual([{ at: VA + 4, milliem: -2 }]);

    const spec = `section[data-block="${HEADLINE}"] .spec`;
    await click(page, spec);
    await page.keyboard.type('Playfair Blakc 100/98');
    await page.keyboard.press('Enter');
    const message = await page.waitForSelector(`section[data-block="${HEADLINE}"] [role="alert"]`);
    expect(await message?.evaluate((element) => element.textContent)).toContain('“Blakc”');
    expect(
      await page.$eval(spec, (field) => {
        const input = field as HTMLInputElement;
        return input.value.slice(input.selectionStart!, input.selectionEnd!);
      }),
    ).toBe('Blakc');
    await page.keyboard.type('Black');
    await page.keyboard.press('Enter');
    await page.waitForFunction((selector) => document.querySelector<HTMLInputElement>(selector)?.value === 'Playfair Display Black 100/98 0', {}, spec);
    await waitForState(page, 'saved');
    const block = findBlock(await savedJob(page, current.server.url), HEADLINE);
    expect(block?.style.faceId).toBe('playfair-display-black');
    expect(block?.style.sizePt).toBe(100);
    expect(block?.leading).toEqual({ kind: 'pt', pt: 98 });
  });

  it('steps as the preferences say, from the next key on', async () => {
    const { page } = current;
    await openJob(page, 'Perseids');
    await clickGap(page, HEADLINE, VA);
    const before = await totalOfGap(page);
    await press(page, 'Preferences');
    const field = await page.waitForSelector('jx-preferences-dialog input', { visible: true });
    await field?.focus();
    await page.keyboard.type('5');
    await page.keyboard.press('Enter');
    await press(page, 'Done');
    await dialogGone(page);
    await page.keyboard.press('ArrowUp');
    expect(await totalOfGap(page, before)).toBe(before + 5);
  });

  it('shows what each pass works on', async () => {
    const { page } = current;
    await openJob(page, 'Perseids');
    await page.keyboard.press('t');
    await page.waitForFunction(() => document.querySelectorAll('.trial path').length > 20);
    await page.keyboard.press('l');
    await page.waitForFunction(() => document.querySelectorAll('.ladder text').length === 3);
    await page.keyboard.press('w');
    await page.waitForFunction(() => document.querySelectorAll('.rag li').length === 4);
    // What is shown is what is set: the widths of the lines, in millimetres.
    const shown = await page.$$eval('.rag .width', (widths) => widths.map(({ textContent }) => parseFloat(textContent)));
    const { lines } = await setByCore(await savedJob(page, current.server.url));
    shown.forEach((width, i) => expect(Math.abs(width - fromPoints(lines[i]?.widthPt ?? 0, 'mm'))).toBeLessThan(0.06));
    expect(shown.length).toBe(lines.length);
    await page.keyboard.press('?');
    await page.waitForSelector('jx-keys-dialog kbd');
    const keys = await page.$eval('jx-keys-dialog', ({ textContent }) => textContent);
    for (const pass of ['Words', 'Face', 'Tracking', 'Leading', 'Kerning']) expect(keys).toContain(`The ${pass} pass`);
    await page.keyboard.press('Escape');
    await dialogGone(page);
  });
});
