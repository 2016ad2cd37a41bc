import { findBlock } from '@jentrix/core/job';
import { click, clickGap, dialogGone, drag, eventually, openJob, press, savedJob, stillBox, textOf, waitForState, waitForText, waitForWords } from './harness';
import { journey } from './suite';

const HEADLINE = 'perseids-headline';

describe('the texture of a headline', () => {
  const current = journey();
  const block = async () => {
    await waitForState(current.page, 'saved');
    return findBlock(await savedJob(current.page, current.server.url), HEADLINE)!;
  };

  it('is tracked by preset, recommendation and hand on the sheet, word space apart or linked, within limits that are the user’s', async () => {
    const { page } = current;
    await openJob(page, 'Perseids');
    await clickGap(page, HEADLINE, 23);
    await page.keyboard.press('t');
    await press(page, '−30');
    expect((await eventually(block, ({ style }) => style.trackingMilliem === -30)).style.wordSpaceMilliem).toBe(0);
    await page.waitForFunction(() => document.querySelector('[data-level="careful"]'));
    // Another limit: the same tracking is wrong now, and so says the finding.
    await press(page, 'Preferences');
    await page.waitForSelector('jx-preferences-dialog');
    const fields = await page.$$('jx-preferences-dialog jx-value input');
    await fields[3]!.click();
    await page.keyboard.type('-20');
    await page.keyboard.press('Enter');
    await press(page, 'Done');
    await page.waitForFunction(() => document.querySelector('.readout [data-level="visible"]'));
    await dialogGone(page);

    await click(page, '.link input');
    await press(page, '+20');
    const linked = await eventually(block, ({ style }) => style.trackingMilliem === 20);
    expect(linked.style.wordSpaceMilliem).not.toBe(0);
    expect(Math.abs(linked.style.wordSpaceMilliem)).toBeLessThan(120);
    await page.waitForSelector('jx-tracking-curve canvas');
    const said = Number(/[-+−]?\d+/.exec(await textOf(page, '[data-testid="recommended"]'))![0].replace('−', '-'));
    await press(page, 'Apply');
    expect((await eventually(block, ({ style }) => style.trackingMilliem === said)).style.trackingMilliem).toBe(said);

    // Word space follows the handle and the keys as well, until it is let go.
    const spaceBefore = (await block()).style.wordSpaceMilliem;
    await page.keyboard.press(']');
    const stepped = await eventually(block, ({ style }) => style.trackingMilliem === said + 2);
    expect(stepped.style.wordSpaceMilliem).not.toBe(spaceBefore);
    await drag(page, '[data-testid="tracking-handle"]', 60, 0);
    const wide = await eventually(block, ({ style }) => style.trackingMilliem > said + 10);
    expect(wide.style.trackingMilliem).toBeGreaterThan(said + 10);
    expect(wide.style.wordSpaceMilliem).not.toBe(stepped.style.wordSpaceMilliem);
    await click(page, '.link input');
    await page.keyboard.press('[');
    const alone = await eventually(block, ({ style }) => style.trackingMilliem === wide.style.trackingMilliem - 2);
    expect(alone.style).toEqual({ ...wide.style, trackingMilliem: wide.style.trackingMilliem - 2 });
    await page.keyboard.press(']');
    expect((await eventually(block, ({ style }) => style.trackingMilliem === wide.style.trackingMilliem)).style).toEqual(wide.style);
    const words = wide.style.wordSpaceMilliem;
    await drag(page, '[data-testid="tracking-handle"]', 40, 0, 'Shift');
    const spaced = await eventually(block, ({ style }) => style.wordSpaceMilliem > words);
    expect(spaced.style.trackingMilliem).toBe(wide.style.trackingMilliem);
    await press(page, 'Undo');
    expect((await eventually(block, ({ style }) => style.wordSpaceMilliem === words)).style.wordSpaceMilliem).toBe(words);
  });

  it('is tracked in the picked letters alone, or one line, by the handle and by key', async () => {
    const { page } = current;
    await openJob(page, 'Perseids');
    const place = await page.$eval(`jx-table [data-block="${HEADLINE}"] path[data-at="4"]`, (path) => {
      const { left, top, height } = path.getBoundingClientRect();
      return { x: left + 12, y: top + height * 0.6 };
    });
    await page.mouse.click(place.x, place.y, { clickCount: 2 });
    await page.waitForSelector('[data-testid="selection"] rect');
    // Leaves the words, keeps the letters.
    await page.keyboard.press('Escape');
    await page.keyboard.press('t');
    await drag(page, '[data-testid="tracking-handle"]', 40, 0);
    const picked = await eventually(block, ({ runs }) => runs.length > 0);
    expect(picked.style.trackingMilliem).toBe(0);
    expect(picked.runs.map(({ start, end }) => [start, end])).toEqual([[4, 10]]);
    const by = picked.runs[0]?.style.trackingMilliem ?? 0;
    // What is read out takes the picked letters' own tracking off.
    const widths = () => page.$$eval('jx-tracking-deck dd', (cells) => cells.slice(0, 2).map((cell) => parseFloat(cell.textContent)));
    const [untracked = 0, tracked = 0] = await eventually(widths, ([before = 0, now = 0]) => now > before);
    expect(tracked - untracked).toBeCloseTo((5 * by * 122 * 25.4) / (1000 * 72), 1);
    expect(by).toBeGreaterThan(20);
    await page.keyboard.press(']');
    const keyed = await eventually(block, ({ runs }) => runs[0]?.style.trackingMilliem === by + 2);
    expect(keyed.style.trackingMilliem).toBe(0);
    await press(page, 'Undo');
    await press(page, 'Undo');
    await eventually(block, ({ runs }) => runs.length === 0);
    // One line of the block.
    await page.keyboard.press('k');
    await clickGap(page, HEADLINE, 23);
    await page.keyboard.press('t');
    await drag(page, '[data-testid="tracking-handle"]', -30, 0, 'Alt');
    const line = await eventually(block, ({ runs }) => runs.length > 0);
    expect(line.runs.map(({ start, end }) => line.words.slice(start, end))).toEqual(['A VALLEY OF']);
    expect(line.runs[0]?.style.trackingMilliem).toBeLessThan(-10);
    expect(line.style.trackingMilliem).toBe(0);
    // The limit is marked under that line alone.
    await drag(page, '[data-testid="tracking-handle"]', -60, 0, 'Alt');
    await eventually(
      () => page.$$eval('.extent', (paths) => paths.map((path) => path.getAttribute('data-level'))),
      (levels) => levels.join() === 'free,free,out,free',
    );
  });

  it('stands on a rule that was drawn along the picture, also where that slopes', async () => {
    const { page } = current;
    await openJob(page, 'Perseids');
    await clickGap(page, HEADLINE, 23);
    await page.keyboard.press('l');
    const guides = async () => (await savedJob(page, current.server.url)).sheets[0]!.guides;
    /** Draws a rule below a baseline, by some pixels at its left and right end. */
    const rule = async (index: number, left: number, right: number): Promise<void> => {
      const line = await stillBox(page, `[data-line="${index}"]`);
      const y = line.y + line.height / 2;
      await page.keyboard.press('r');
      await page.waitForSelector('.surface.drawing');
      await page.mouse.move(line.x + 60, y + left);
      await page.mouse.down();
      await page.mouse.move(line.x + 200, y + (left + right) / 2);
      await page.mouse.move(line.x + 360, y + right);
      await page.mouse.up();
      await page.waitForFunction(() => !document.querySelector('.surface.drawing'));
    };
    await rule(3, 17, 17);
    const [drawn] = await eventually(guides, (list) => list.length === 1);
    if (drawn?.axis !== 'rule') throw new Error('no rule');
    await drag(page, '[data-line="3"]', 0, 14);
    await eventually(block, ({ leading }) => leading.kind === 'pt');
    const last = async () => (await page.$$eval('g[jxlines] line.baseline', (lines) => lines.map((line) => Number(line.getAttribute('y1'))))).at(-1) ?? 0;
    expect(Math.abs((await eventually(last, (at) => Math.abs(at - drawn.from.yPt) < 0.1)) - drawn.from.yPt)).toBeLessThan(0.1);

    // A slope: the block is turned along it, and its baseline meets it there.
    await rule(2, 40, 76);
    const slope = (await eventually(guides, (list) => list.length === 2))[1];
    if (slope?.axis !== 'rule') throw new Error('no rule');
    const degrees = Math.round(((Math.atan2(slope.to.yPt - slope.from.yPt, slope.to.xPt - slope.from.xPt) * 180) / Math.PI) * 10) / 10;
    await page.keyboard.press('w');
    await press(page, 'Along the rule');
    expect((await eventually(block, ({ rotationDeg }) => rotationDeg !== 0)).rotationDeg).toBe(degrees);
    await page.keyboard.press('l');
    await page.waitForSelector('g[jxlines][transform] [data-line="2"]');
    /** How far the feet of the third line stand from the slope, in points. */
    const away = async (): Promise<number> =>
      page.$eval(
        '[data-line="2"]',
        (grip, { from, to }) => {
          const overlay = grip.closest('g[jxlines]') as SVGGElement;
          const line = overlay.querySelectorAll<SVGLineElement>('line.baseline')[2]!;
          const turn = overlay.transform.baseVal.consolidate()!.matrix;
          const x = (line.x1.baseVal.value + line.x2.baseVal.value) / 2;
          const foot = new DOMPoint(x, line.y1.baseVal.value).matrixTransform(DOMMatrix.fromMatrix(turn));
          const [dx, dy] = [to.xPt - from.xPt, to.yPt - from.yPt];
          return Math.abs((foot.x - from.xPt) * dy - (foot.y - from.yPt) * dx) / Math.hypot(dx, dy);
        },
        slope,
      );
    const scale = await page.$eval('jx-table .sheet', (sheet) => sheet.getBoundingClientRect().width / Number(sheet.getAttribute('width')));
    const before = (await away()) * scale;
    const down = await page.$eval(
      '[data-line="2"]',
      (grip, { from, to }) => {
        const overlay = grip.closest('g[jxlines]') as SVGGElement;
        const line = overlay.querySelectorAll<SVGLineElement>('line.baseline')[2]!;
        const turn = overlay.transform.baseVal.consolidate()!.matrix;
        const foot = new DOMPoint((line.x1.baseVal.value + line.x2.baseVal.value) / 2, line.y1.baseVal.value).matrixTransform(DOMMatrix.fromMatrix(turn));
        return (to.xPt - from.xPt) * (foot.y - from.yPt) - (to.yPt - from.yPt) * (foot.x - from.xPt) < 0 ? 1 : -1;
      },
      slope,
    );
    await drag(page, '[data-line="2"]', 0, down * before * 1.02);
    expect(await eventually(away, (value) => value < 0.2)).toBeLessThan(0.2);
    // Undone, it goes back; dragged off the sheet, the rule is gone.
    await press(page, 'Undo');
    await eventually(away, (value) => value > 1);
  });

  it('is led by hand on the sheet, line by line, evened out by ink, and marks inks that meet', async () => {
    const { page } = current;
    await openJob(page, 'Perseids');
    await clickGap(page, HEADLINE, 23);
    await page.keyboard.press('l');
    await drag(page, '[data-line="2"]', 0, -30);
    const led = await eventually(block, ({ leading }) => leading.kind === 'pt');
    expect(led.leading.kind === 'pt' ? led.leading.pt : 999).toBeLessThan(140);
    await drag(page, '[data-line="3"]', 0, 12, 'Shift');
    const own = await eventually(block, ({ lineLeading }) => lineLeading.length === 1);
    expect(own.lineLeading[0]!.byPt).toBeGreaterThan(5);
    expect(own.leading).toEqual(led.leading);
    await press(page, 'Even spacing');
    await page.waitForFunction(() => {
      const [low, high] = (document.querySelector('[data-testid="spread"]')?.textContent ?? '').match(/[\d.]+/g) ?? [];
      return low !== undefined && low === high;
    });
    await press(page, 'Metric');
    expect((await eventually(block, ({ lineLeading }) => lineLeading.length === 0)).lineLeading).toEqual([]);
    await click(page, 'jx-leading-deck jx-value input');
    await page.keyboard.type('70');
    await page.keyboard.press('Enter');
    await page.waitForSelector('.collision circle');
    await page.waitForSelector('.clear.touching');
  });

  it('says what scaling does to the strokes, and which sizes are too near', async () => {
    const { page } = current;
    await openJob(page, 'Perseids');
    await clickGap(page, HEADLINE, 23);
    await page.keyboard.press('PageUp');
    expect((await eventually(block, ({ style }) => style.sizePt !== 122)).style.sizePt).toBe(122.1);
    await page.keyboard.press('w');
    await page.waitForSelector('jx-words-deck .deck-numbers jx-value');
    const fields = await page.$$('jx-words-deck .deck-numbers jx-value input');
    await fields[1]!.click();
    await page.keyboard.type('80');
    await page.keyboard.press('Enter');
    await waitForText(page, '[data-testid="distortion"]', 'stems 20 % lighter than drawn');
    await fields[0]!.click();
    await page.keyboard.type('60');
    await page.keyboard.press('Enter');
    await press(page, 'Sizes');
    await page.waitForSelector('.sizes .close');
    await waitForWords(page, '.sizes .close', 'too close');
  });

  it('is raised from the baseline in the picked letters, and justified, on the sheet and in what is handed over', async () => {
    const { page, server } = current;
    await openJob(page, 'Perseids');
    await page.keyboard.press('w');
    await page.waitForSelector('jx-words-deck');
    const top = (at: number): Promise<number> =>
      page.$eval(`jx-table [data-block="${HEADLINE}"] path[data-at="${at}"]`, (path) => path.getBoundingClientRect().top);
    const before = await block();
    const [plain, level] = [await top(4), await top(5)];
    // The letter at 4 is picked on its own.
    await page.evaluate((id) => {
      const field = document.querySelector<HTMLTextAreaElement>(`textarea[data-words="${id}"]`);
      field?.focus();
      field?.setSelectionRange(4, 5);
      field?.dispatchEvent(new Event('select', { bubbles: true }));
    }, HEADLINE);
    await page.waitForFunction(() => document.querySelector('.goes')?.textContent.includes('Applies to'));
    await click(page, 'jx-words-deck .baseline input');
    await page.keyboard.type('200');
    await page.keyboard.press('Enter');
    const raised = await eventually(block, ({ runs }) => runs.length > before.runs.length);
    expect(raised.runs).toContain({ start: 4, end: 5, style: { baselineShiftMilliem: 200 } });
    await eventually(
      () => top(4),
      (now) => now < plain - 3,
    );
    expect(Math.abs((await top(5)) - level)).toBeLessThan(0.5);
    await waitForState(page, 'saved');
    const id = page.url().split('/').pop();
    const sheet = (await savedJob(page, server.url)).sheets[0]!;
    const svg = await (await fetch(`${server.url}/api/jobs/${id}/sheets/${sheet.id}/svg?letters=text`)).text();
    const ys = new Set([...svg.matchAll(/<text y="([-\d.]+)"/g)].map(([, y]) => y));
    const line = svg.slice(svg.indexOf(`id="${HEADLINE}"`));
    const [first, second] = [...line.matchAll(/<text y="([-\d.]+)"/g)].map(([, y]) => Number(y));
    expect(ys.size).toBeGreaterThan(2);
    expect((first ?? 0) - (second ?? 0)).toBeCloseTo((raised.style.sizePt * 200) / 1000, 3);
    await press(page, 'Justified');
    expect((await eventually(block, ({ align }) => align === 'justified')).align).toBe('justified');
  });
});
