import { findBlock } from '@jentrix/core/job';
import { click, clickGap, eventually, openJob, press, savedJob, textOf, waitForText } from './harness';
import { journey } from './suite';

const HEADLINE = 'perseids-headline';

describe('the texture of a headline', () => {
  const current = journey();
  const block = async () => findBlock(await savedJob(current.page, current.server.url), HEADLINE)!;
  async function drag(selector: string, x: number, y: number, key?: 'Shift'): Promise<void> {
    const { page } = current;
    const box = (await (await page.waitForSelector(selector))!.boundingBox())!;
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    if (key) await page.keyboard.down(key);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width / 2 + x / 2, box.y + box.height / 2 + y / 2);
    await page.mouse.move(box.x + box.width / 2 + x, box.y + box.height / 2 + y);
    await page.mouse.up();
    if (key) await page.keyboard.up(key);
  }

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
    await page.waitForFunction(() => document.querySelector('.readout [data-level="it shows"]'));
    await page.waitForFunction(() => !document.querySelector('ngb-modal-window'));

    await click(page, '.link input');
    await press(page, '+20');
    const linked = await eventually(block, ({ style }) => style.trackingMilliem === 20);
    expect(linked.style.wordSpaceMilliem).not.toBe(0);
    await page.waitForSelector('jx-tracking-curve canvas');
    const said = Number(/[-+−]?\d+/.exec(await textOf(page, '[data-testid="recommended"]'))![0].replace('−', '-'));
    await press(page, 'take');
    expect((await eventually(block, ({ style }) => style.trackingMilliem === said)).style.trackingMilliem).toBe(said);

    await click(page, '.link input');
    await drag('[data-testid="tracking-handle"]', 60, 0);
    const wide = await eventually(block, ({ style }) => style.trackingMilliem > said + 10);
    expect(wide.style.trackingMilliem).toBeGreaterThan(said + 10);
    const words = wide.style.wordSpaceMilliem;
    await drag('[data-testid="tracking-handle"]', 40, 0, 'Shift');
    const spaced = await eventually(block, ({ style }) => style.wordSpaceMilliem > words);
    expect(spaced.style.trackingMilliem).toBe(wide.style.trackingMilliem);
    await press(page, 'Undo');
    expect((await eventually(block, ({ style }) => style.wordSpaceMilliem === words)).style.wordSpaceMilliem).toBe(words);
  });

  it('is led by hand on the sheet, line by line, evened out by ink, and marks inks that meet', async () => {
    const { page } = current;
    await openJob(page, 'Perseids');
    await clickGap(page, HEADLINE, 23);
    await page.keyboard.press('l');
    await drag('[data-line="2"]', 0, -30);
    const led = await eventually(block, ({ leading }) => leading.kind === 'pt');
    expect(led.leading.kind === 'pt' ? led.leading.pt : 999).toBeLessThan(140);
    await drag('[data-line="3"]', 0, 12, 'Shift');
    const own = await eventually(block, ({ lineLeading }) => lineLeading.length === 1);
    expect(own.lineLeading[0]!.byPt).toBeGreaterThan(5);
    expect(own.leading).toEqual(led.leading);
    await press(page, 'Even out');
    await page.waitForFunction(() => {
      const [low, high] = (document.querySelector('[data-testid="spread"]')?.textContent ?? '').match(/[\d.]+/g) ?? [];
      return low !== undefined && low === high;
    });
    await press(page, 'as stated');
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
    await press(page, 'sizes on this sheet');
    await page.waitForSelector('.sizes .close');
    expect(await textOf(page, '.sizes .close')).toContain('too near');
  });
});
