/** Files dropped on the bench and on the shelf, and words pasted. */
import { readFileSync } from 'node:fs';
import type { Page } from 'puppeteer-core';
import { click, eventually, openJob, press, root, savedJob, waitForState } from './harness';
import { journey } from './suite';

describe('files that are brought', () => {
  const current = journey();

  /** Lets a file go over an element, at its middle. */
  const drop = (page: Page, selector: string, name: string, bytes: Uint8Array): Promise<void> =>
    page.$eval(
      selector,
      (element, called, base64) => {
        const files = new DataTransfer();
        files.items.add(new File([Uint8Array.from(atob(base64), (letter) => letter.charCodeAt(0))], called));
        const { left, top, width, height } = element.getBoundingClientRect();
        const at = { clientX: left + width / 2, clientY: top + height / 2 };
        element.dispatchEvent(new DragEvent('drop', { dataTransfer: files, bubbles: true, cancelable: true, ...at }));
      },
      name,
      Buffer.from(bytes).toString('base64'),
    );
  const told = (page: Page, text: string) => page.waitForFunction((wanted) => document.querySelector('jx-toasts')?.textContent.includes(wanted), {}, text);
  const words = (job: Awaited<ReturnType<typeof savedJob>>): string[] => job.sheets.flatMap(({ blocks }) => blocks.map((block) => block.words));

  it('Markdown is blocks, a font a face, an SVG a sheet, a picture the ground of the sheet they were dropped on; undo takes them away', async () => {
    const { page, server } = current;
    await openJob(page, 'Open-day');
    await page.waitForSelector('jx-table [data-block] path');
    const before = await savedJob(page, server.url);
    await drop(page, 'jx-table .surface', 'notice.md', Buffer.from('# Late opening\n\nUntil **two**.\n'));
    await told(page, '“notice.md” is 2 blocks on this sheet.');
    await waitForState(page, 'saved');
    const job = await savedJob(page, server.url);
    expect(words(job).slice(-2)).toEqual(['Late opening', 'Until two.']);
    const [heading, copy] = job.sheets[0]!.blocks.slice(-2);
    expect([heading!.recipeId === null, copy!.runs.length]).toEqual([false, 1]);
    await press(page, 'Undo');
    await eventually(
      () => savedJob(page, server.url),
      (now) => words(now).length === words(before).length,
    );

    await drop(page, 'jx-table .surface', 'Anton.woff', readFileSync(`${root}/faces/catalogue/anton-400.woff`));
    await told(page, 'Anton Regular is in your type case.');
    const svg =
      '<svg xmlns="http://www.w3.org/2000/svg" width="300" height="200"><rect width="300" height="200" fill="#135"/><text x="20" y="90" font-size="40">Tide</text></svg>';
    await drop(page, 'jx-table .surface', 'Old card.svg', Buffer.from(svg));
    await told(page, '“Old card.svg” is a sheet of this job.');
    await eventually(
      () => savedJob(page, server.url),
      ({ sheets }) => sheets.length === before.sheets.length + 1 && sheets.some(({ name, background }) => name === 'Old card' && background.kind === 'picture'),
    );
    await drop(page, 'jx-table .surface', 'mark.svg', Buffer.from(svg.replace(/<text.*text>/, '')));
    await eventually(
      () => savedJob(page, server.url),
      ({ sheets }) => {
        const { background } = sheets.find(({ name }) => name === 'Old card')!;
        return background.kind === 'picture' && background.fit === 'cover';
      },
    );
  });

  it('words pasted from elsewhere look as they did there, in the words and as a new block', async () => {
    const { page, server } = current;
    await openJob(page, 'Open-day');
    await page.waitForSelector('jx-table [data-block] path');
    const paste = (selector: string, html: string): Promise<boolean> =>
      page.$eval(
        selector,
        (element, markup) => {
          const clipboardData = new DataTransfer();
          clipboardData.setData('text/html', markup);
          const event = new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true });
          element.dispatchEvent(event);
          return event.defaultPrevented;
        },
        html,
      );
    await page.focus('jx-copy-column textarea');
    await page.$eval('jx-copy-column textarea', (field) => field.setSelectionRange(0, 0));
    expect(await paste('jx-copy-column textarea', '<p><b>Now</b> <span style="color:#ff0000">and</span> </p>')).toBeTrue();
    const pasted = await eventually(
      () => savedJob(page, server.url),
      (job) => words(job)[0]!.startsWith('Now and'),
    );
    expect(pasted.sheets[0]!.blocks[0]!.runs.some(({ style }) => style.colour === '#ff0000')).toBeTrue();
    await click(page, 'jx-table .surface', { offset: { x: 8, y: 8 } });
    expect(await paste('jx-table .surface', '<h1>Low water</h1><p>at <i>noon</i></p>')).toBeTrue();
    const last = await eventually(
      () => savedJob(page, server.url),
      (job) => words(job).includes('Low water\nat noon'),
    );
    expect(words(last).length).toBe(words(pasted).length + 1);
  });

  it('a package dropped on the shelf is the job it was made of', async () => {
    const { page, server } = current;
    await openJob(page, 'Perseids');
    await page.waitForSelector('jx-table [data-block] path');
    const before = await savedJob(page, server.url);
    const id = new URL(page.url()).pathname.split('/').pop();
    const bytes = new Uint8Array(await (await fetch(`${server.url}/api/jobs/${id}/package`)).arrayBuffer());
    await page.goto(server.url, { waitUntil: 'load' });
    await page.waitForSelector('main.jobs li');
    await drop(page, 'main.jobs', 'poster.jentrix.zip', bytes);
    await page.waitForFunction((old) => location.pathname.startsWith('/jobs/') && !location.pathname.endsWith(old), {}, id!);
    await page.waitForSelector('jx-table [data-block] path');
    expect(await savedJob(page, server.url)).toEqual(before);
    // A damaged one is refused in words.
    await page.goto(server.url, { waitUntil: 'load' });
    await page.waitForSelector('main.jobs li');
    bytes[bytes.length >> 1]! ^= 1;
    await drop(page, 'main.jobs', 'poster.jentrix.zip', bytes);
    await page.waitForFunction(() => /poster\.jentrix\.zip|damaged|cut off/.test(document.querySelector('jx-toasts .error')?.textContent ?? ''));
    expect(new URL(page.url()).pathname).toBe('/');
  });
});
