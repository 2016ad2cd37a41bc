/** Letters that are raised, turned and scaled: on the strip, on the sheet, by keys, and in what is handed over. */
import { styleAt } from '@jentrix/core/job';
import { eventually, lettersOnScreen, openJob, press, savedJob, textOf, waitForText } from './harness';
import { journey } from './suite';

describe('shifted letters', () => {
  const now = journey();

  it('are picked on the sheet and on the strip, raised and turned by keys, and stand so in the export', async () => {
    const { page, server } = now;
    await openJob(page, 'Perseids');
    await page.waitForSelector('jx-kerning-deck');
    const [block] = (await savedJob(page, server.url)).sheets[0]?.blocks ?? [];
    const id = block?.id ?? '';
    await page.keyboard.press('s');
    await page.waitForSelector('jx-shift-deck [data-letter]');
    const [, second] = await lettersOnScreen(page, id);
    const place = await page.$eval(`jx-table [data-block="${id}"] path[data-at="${second?.at}"]`, (path) => {
      const { left, top, width, height } = path.getBoundingClientRect();
      return { x: left + width / 2, y: top + height / 2 };
    });
    await page.mouse.click(place.x, place.y);
    await page.waitForSelector('[data-testid="picked-letters"] rect');
    await waitForText(page, '[data-testid="picked"]', `1 picked: ${block?.words.charAt(second?.at ?? 0)}`);
    await page.keyboard.press('ArrowUp');
    await page.keyboard.press('e');
    const raised = await eventually(
      () => savedJob(page, server.url),
      (job) => styleAt(job.sheets[0]!.blocks[0]!, second?.at ?? 0).turnDeg === 1,
    );
    expect(styleAt(raised.sheets[0]!.blocks[0]!, second?.at ?? 0).baselineShiftMilliem).toBe(2);
    // Dragging over the strip picks all that it passes.
    const boxes = await page.$$('jx-shift-deck [data-letter]');
    const [from, to] = [await boxes[0]!.boundingBox(), await boxes[2]!.boundingBox()];
    await page.mouse.move(from!.x + 3, from!.y + 40);
    await page.mouse.down();
    await page.mouse.move(to!.x + 5, to!.y + 40, { steps: 4 });
    await page.mouse.up();
    expect(await textOf(page, '[data-testid="picked"]')).toContain('3 picked');
    await press(page, 'ends of words');
    expect(await textOf(page, '[data-testid="picked"]')).not.toContain('3 picked');
    const sheet = raised.sheets[0]!.id;
    const list = (await (await fetch(`${server.url}/api/jobs`)).json()) as { items: { id: string; title: string }[] };
    const job = list.items.find(({ title }) => title.includes('Perseids'));
    const svg = await (await fetch(`${server.url}/api/jobs/${job?.id}/sheets/${sheet}/svg?letters=text`)).text();
    expect(svg).toContain('matrix(0.99');
  });
});
