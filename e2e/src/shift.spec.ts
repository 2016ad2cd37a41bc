/** Letters that are raised, turned and scaled: on the strip, on the sheet, by keys, and in what is handed over. */
import { type Job, riseOf, styleAt } from '@jentrix/core/job';
import { click, drag, eventually, lettersOnScreen, openJob, press, savedJob, stillBox, waitForText, waitForWords } from './harness';
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
    await waitForWords(page, '[data-testid="picked"]', '3 picked');
    // With Shift, what is drawn around on the sheet is picked.
    const [first, beside] = await Promise.all(
      [0, 1].map((at) =>
        page.$eval(`jx-table [data-block="${id}"] path[data-at="${at}"]`, (path) => {
          const { left, top, right, bottom } = path.getBoundingClientRect();
          return { left, top, right, bottom };
        }),
      ),
    );
    await page.keyboard.down('Shift');
    await page.mouse.move(first!.left - 4, first!.top - 4);
    await page.mouse.down();
    await page.mouse.move(first!.right, first!.bottom, { steps: 2 });
    await page.mouse.move(beside!.right + 2, beside!.bottom + 4, { steps: 2 });
    await page.mouse.up();
    await page.keyboard.up('Shift');
    await page.waitForFunction(() => document.querySelector('[data-testid="picked"]')?.textContent.includes('2 picked'));
    await press(page, 'Ends of words');
    await page.waitForFunction(() => /^(?!2 )\d+ picked/.test(document.querySelector('[data-testid="picked"]')?.textContent.trim() ?? ''));
    const sheet = raised.sheets[0]!.id;
    const list = (await (await fetch(`${server.url}/api/jobs`)).json()) as { items: { id: string; title: string }[] };
    const job = list.items.find(({ title }) => title.includes('Perseids'));
    const svg = await (await fetch(`${server.url}/api/jobs/${job?.id}/sheets/${sheet}/svg?letters=text`)).text();
    expect(svg).toMatch(/rotate="(?:0 )*1[ "]/);
  });

  it('are moved by the dot and turned by the arc on the sheet, one step of undo each', async () => {
    const { page, server } = now;
    await openJob(page, 'Open-day flyer');
    await page.keyboard.press('s');
    await page.waitForSelector('jx-shift-deck [data-letter]');
    await click(page, 'jx-shift-deck [data-letter="1"]');
    await page.waitForSelector('[data-testid="move-letters"]');
    const styleOf = (job: Job) => styleAt(job.sheets[0]!.blocks[0]!, 1);
    await drag(page, '[data-testid="move-letters"] circle.reach', 4, -40);
    const moved = styleOf(
      await eventually(
        () => savedJob(page, server.url),
        (job) => styleOf(job).baselineShiftMilliem > 0,
      ),
    );
    expect(moved.baselineShiftMilliem).toBeGreaterThan(100);
    // So near to where it stood along the line, it stays there.
    expect(moved.moveMilliem).toBe(0);
    const box = await stillBox(page, '[data-testid="turn-letters"] path.reach');
    await page.mouse.move(box.x + box.width / 2, box.y + 1);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width / 2 + 6, box.y + 2, { steps: 3 });
    await page.mouse.up();
    const turned = styleOf(
      await eventually(
        () => savedJob(page, server.url),
        (job) => styleOf(job).turnDeg !== 0,
      ),
    );
    expect(turned.turnDeg % 15).toBe(0);
    await page.keyboard.down('Control');
    await page.keyboard.press('z');
    await page.keyboard.press('z');
    await page.keyboard.up('Control');
    await eventually(
      () => savedJob(page, server.url),
      (job) => styleOf(job).turnDeg === 0 && styleOf(job).baselineShiftMilliem === 0,
    );
  });
});

describe('words on a path', () => {
  const now = journey();

  it('stand on an arc that is bent by its handles, held along it, and come back as they were', async () => {
    const { page, server } = now;
    await openJob(page, 'Perseids');
    await page.waitForSelector('jx-kerning-deck');
    const before = await savedJob(page, server.url);
    const [block] = before.sheets[0]!.blocks;
    const id = block!.id;
    await page.keyboard.press('s');
    await page.waitForSelector('jx-shift-deck [data-letter]');
    const places = (): Promise<string[]> => page.$$eval(`jx-table [data-block="${id}"] path`, (paths) => paths.map((path) => path.getAttribute('d') ?? ''));
    const straight = await places();
    await press(page, 'Path');
    await press(page, 'Arc');
    await page.waitForFunction(
      (selector, d) => document.querySelector(selector)?.getAttribute('d') !== d,
      {},
      `jx-table [data-block="${id}"] path`,
      straight[0]!,
    );
    const pathOf = (job: Job) => job.sheets[0]!.blocks[0]!.path;
    await drag(page, '[data-place="1"] circle.reach', 0, 110);
    const bent = pathOf(
      await eventually(
        () => savedJob(page, server.url),
        // What the drag has made of it, not what it began with.
        (job) => {
          const path = pathOf(job);
          return path.kind === 'arc' && riseOf(path) < 0;
        },
      ),
    );
    expect(bent.kind).toBe('arc');
    await drag(page, '[data-place="hold"] circle.reach', -40, 0);
    await eventually(
      () => savedJob(page, server.url),
      (job) => {
        const path = pathOf(job);
        return path.kind === 'arc' && path.atShare < 0.45;
      },
    );
    // A letter on the bend is picked by a click where it stands.
    const place = await page.$eval(`jx-table [data-block="${id}"] path[data-at="1"]`, (path) => {
      const { left, top, width, height } = path.getBoundingClientRect();
      return { x: left + width / 2, y: top + height / 2 };
    });
    await page.mouse.click(place.x, place.y);
    await waitForText(page, '[data-testid="picked"]', `1 picked: ${block!.words.charAt(1)}`);
    await press(page, 'Path');
    await press(page, 'Straight');
    await page.waitForFunction(
      (selector, d) => document.querySelector(selector)?.getAttribute('d') === d,
      {},
      `jx-table [data-block="${id}"] path`,
      straight[0]!,
    );
    expect(await places()).toEqual(straight);
  });

  it('are drawn on by clicks, and a block is turned along what is drawn', async () => {
    const { page, server } = now;
    await openJob(page, 'Perseids');
    await page.waitForSelector('jx-kerning-deck');
    await page.keyboard.press('s');
    await page.waitForSelector('jx-shift-deck [data-letter]');
    await press(page, 'Path');
    await press(page, 'Drawn');
    await press(page, 'Draw on sheet');
    const table = await stillBox(page, 'jx-table svg.surface');
    const [x, y] = [table.x + table.width / 2, table.y + table.height / 2];
    for (const [dx, dy] of [
      [-120, 30],
      [-20, -40],
      [60, 20],
      [130, -20],
    ] as const)
      await page.mouse.click(x + dx, y + dy);
    await page.keyboard.press('Enter');
    const pathOf = (job: Job) => job.sheets[0]!.blocks[0]!.path;
    const drawn = pathOf(
      await eventually(
        () => savedJob(page, server.url),
        (job) => {
          const path = pathOf(job);
          return path.kind === 'drawn' && path.curves.length === 3 && path.start.xPt !== 0;
        },
      ),
    );
    expect(drawn.kind).toBe('drawn');
    await page.keyboard.press('z');
    await page.mouse.move(x - 100, y);
    await page.mouse.down();
    await page.mouse.move(x + 100, y - 40, { steps: 3 });
    await page.mouse.up();
    const turned = await eventually(
      () => savedJob(page, server.url),
      (job) => job.sheets[0]!.blocks[0]!.rotationDeg !== 0,
    );
    expect(turned.sheets[0]!.blocks[0]!.rotationDeg).toBeCloseTo((Math.atan2(-40, 200) * 180) / Math.PI, 0);
  });
});
