import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { type Block, findBlock } from '@jentrix/core/job';
import { fontBytes, toCollection } from '@jentrix/core/testing';
import type { ElementHandle } from 'puppeteer-core';
import {
  choose,
  click,
  clickGap,
  drag,
  eventually,
  lettersOnScreen,
  openJob,
  press,
  root,
  savedJob,
  typeInto,
  waitForLetter,
  waitForState,
  waitForText,
  waitForWords,
} from './harness';
import { journey } from './suite';

const HEADLINE = 'perseids-headline';
const VA = 23;
const SPEC = `section[data-block="${HEADLINE}"] .spec`;

describe('what a headline stands on', () => {
  const current = journey();
  const inLora = (one: Block): Block => (one.id === 'perseids-date' ? { ...one, style: { ...one.style, faceId: 'lora-400' } } : one);
  const block = async () => {
    await waitForState(current.page, 'saved');
    return findBlock(await savedJob(current.page, current.server.url), HEADLINE)!;
  };
  const changed = (selector: string, before: string) =>
    current.page.waitForFunction((css, old) => (document.querySelector<HTMLInputElement>(css)?.value ?? old) !== old, {}, selector, before);
  const valueOf = (selector: string) => current.page.$eval(selector, (field) => (field as HTMLInputElement).value);

  it('adds, copies, sizes and takes away sheets, and gives one a gradient and a picture', async () => {
    const { page } = current;
    await openJob(page, 'Perseids');
    await press(page, 'Add a sheet');
    await press(page, 'Square 1:1');
    await page.waitForFunction(() => document.querySelectorAll('.sheets .sheet').length === 2);
    await press(page, 'This sheet');
    await press(page, 'Size, margins');
    await page.waitForSelector('jx-sheet-panel');
    await press(page, 'Gradient');
    await page.waitForSelector('jx-table linearGradient stop');
    await choose(page, 'select[aria-label="Common sizes"]', 'Flyer A5');
    await page.waitForFunction(() => Math.abs(Number(document.querySelector('jx-table .sheet')?.getAttribute('width')) - 419.53) < 0.1);
    const file = join(current.data, 'sky.svg');
    writeFileSync(
      file,
      '<svg xmlns="http://www.w3.org/2000/svg" width="60" height="80"><script>alert(1)</script><circle cx="30" cy="30" r="9" fill="#ffcc00"/></svg>',
    );
    await ((await page.$('[data-testid="picture"]')) as ElementHandle<HTMLInputElement>).uploadFile(file);
    await page.waitForSelector('jx-table image[href^="/api/pictures/"]');
    writeFileSync(file, 'no picture');
    await ((await page.$('[data-testid="picture"]')) as ElementHandle<HTMLInputElement>).uploadFile(file);
    await page.waitForFunction(() => [...document.querySelectorAll('ngb-toast')].some((toast) => toast.textContent.includes('not a PNG')));
    await waitForState(page, 'saved');
    let job = await savedJob(page, current.server.url);
    expect(job.sheets[1]!.background.kind).toBe('picture');
    const zip = await fetch(`${current.server.url}/api/jobs/${page.url().split('/').pop()}/sheets.zip?format=svg`);
    expect(zip.headers.get('content-type')).toContain('zip');
    await press(page, 'This sheet');
    await press(page, 'Duplicate');
    await page.waitForFunction(() => document.querySelectorAll('.sheets .sheet').length === 3);
    await press(page, 'This sheet');
    await press(page, 'Delete sheet');
    await page.waitForFunction(() => document.querySelectorAll('.sheets .sheet').length === 2);
    // A sheet is dragged to the front.
    const [first, second] = await page.$$('.sheets .sheet');
    const [to, from] = [await first!.boundingBox(), await second!.boundingBox()];
    await page.mouse.move(from!.x + 8, from!.y + 8);
    await page.mouse.down();
    for (let i = 1; i <= 8; i++) await page.mouse.move(from!.x + 8 + ((to!.x - 10 - from!.x) * i) / 8, from!.y + 8);
    await page.mouse.up();
    await waitForState(page, 'saving');
    await waitForState(page, 'saved');
    job = await savedJob(page, current.server.url);
    expect(job.sheets.map(({ name }) => name)).toEqual(['Square 1:1', 'Poster A2']);
  });

  it('reflows with the frame, scales with it by another drag, moves with snapping and turns', async () => {
    const { page } = current;
    await openJob(page, 'Perseids');
    await clickGap(page, HEADLINE, VA);
    await page.keyboard.press('w');
    const before = await block();
    const spec = await valueOf(SPEC);
    await drag(page, '[data-handle="edge"]:nth-of-type(4)', -260, 0);
    let now = await block();
    expect(now.frame.widthPt).toBeLessThan(before.frame.widthPt - 200);
    expect(now.style.sizePt).toBe(before.style.sizePt);
    expect(await page.$$eval('.rag li', (lines) => lines.length)).toBeGreaterThan(4);
    await press(page, 'Undo');
    await page.waitForFunction(() => document.querySelectorAll('.rag li').length === 4);

    await drag(page, '[data-corner="corner-se"]', -120, -80);
    await changed(SPEC, spec);
    now = await block();
    expect(now.style.sizePt).toBeLessThan(before.style.sizePt * 0.95);
    expect(now.frame.widthPt / before.frame.widthPt).toBeCloseTo(now.style.sizePt / before.style.sizePt, 3);
    expect(now.frame.xPt).toBeCloseTo(before.frame.xPt, 3);
    expect(await page.$$eval('.rag li', (lines) => lines.length)).toBe(4);
    await drag(page, '[data-corner="corner-se"]', -40, -30, 'Alt');
    expect((await block()).frame.xPt).toBeGreaterThan(before.frame.xPt + 5);
    await press(page, 'Undo');
    await press(page, 'Undo');

    // Near the margin it meets the margin.
    await page.keyboard.down('Alt');
    for (let i = 0; i < 7; i++) await page.keyboard.press('ArrowRight');
    await page.keyboard.up('Alt');
    expect((await block()).frame.xPt).toBeCloseTo(before.frame.xPt + 7, 6);
    await drag(page, '[data-handle="move"]', -4, 0);
    const job = await savedJob(page, current.server.url);
    await waitForState(page, 'saved');
    expect((await block()).frame.xPt).toBeCloseTo(job.sheets[0]!.margins.leftPt, 6);

    await drag(page, '[data-handle="turn"]', 150, 60);
    now = await block();
    expect(now.rotationDeg).toBeGreaterThan(5);
    // A turned block is still clicked where it is seen.
    await page.keyboard.press('k');
    await clickGap(page, HEADLINE, VA + 1);
    await page.waitForSelector('svg.pair[aria-label="A L"]');
  });

  it('draws a block in the settings used last, and picks several to move and copy together', async () => {
    const { page } = current;
    await openJob(page, 'Perseids');
    await clickGap(page, HEADLINE, VA);
    await press(page, 'Fit sheet');
    await page.keyboard.press('d');
    await page.waitForSelector('.surface.drawing');
    const sheet = await (await page.waitForSelector('jx-table .sheet'))!.boundingBox();
    await page.mouse.move(sheet!.x + 30, sheet!.y + 330);
    await page.mouse.down();
    await page.mouse.move(sheet!.x + 120, sheet!.y + 350);
    await page.mouse.move(sheet!.x + 180, sheet!.y + 360);
    await page.mouse.up();
    await page.waitForFunction(() => document.activeElement instanceof HTMLTextAreaElement && document.activeElement.value === 'New copy');
    await page.keyboard.type('Hill');
    const blocks = async () => (await savedJob(page, current.server.url)).sheets[0]!.blocks;
    const drawn = (await eventually(blocks, (all) => all[4]?.words === 'Hill'))[4]!;
    expect([drawn.style.faceId, drawn.style.sizePt]).toEqual(['playfair-display-bold', 122]);
    await page.keyboard.press('Escape');
    const place = await page.$eval(`jx-table [data-block="${HEADLINE}"] path[data-at="4"]`, (path) => {
      const { left, top, height } = path.getBoundingClientRect();
      return { x: left + 3, y: top + height * 0.6 };
    });
    await page.keyboard.down('Shift');
    await page.mouse.click(place.x, place.y);
    await page.keyboard.up('Shift');
    await page.waitForSelector('.entry.also');
    const before = await blocks();
    await page.keyboard.down('Alt');
    await page.keyboard.press('ArrowDown');
    await page.keyboard.up('Alt');
    const moved = await eventually(blocks, (all) => all[0]!.frame.yPt !== before[0]!.frame.yPt);
    expect([moved[0]!.frame.yPt - before[0]!.frame.yPt, moved[4]!.frame.yPt - before[4]!.frame.yPt].map((by) => by.toFixed(6))).toEqual([
      '1.000000',
      '1.000000',
    ]);
    await page.keyboard.down('Control');
    await page.keyboard.press('d');
    await page.keyboard.up('Control');
    expect((await eventually(blocks, (all) => all.length === 7)).length).toBe(7);
  });

  it('edits words on the sheet, gives settings to the picked letters only, and finds and replaces', async () => {
    const { page } = current;
    await openJob(page, 'Perseids');
    await clickGap(page, HEADLINE, VA);
    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('w');
    const place = await page.$eval(`jx-table [data-block="${HEADLINE}"] path[data-at="4"]`, (path) => {
      const { left, top, height } = path.getBoundingClientRect();
      return { x: left + 12, y: top + height * 0.6 };
    });
    await page.mouse.click(place.x, place.y, { clickCount: 2 });
    await page.waitForSelector('[data-testid="selection"] rect');
    await waitForText(page, '.goes', 'Applies to “NIGHTS”');
    await click(page, 'jx-words-deck .deck-numbers input');
    await page.keyboard.type('90');
    await page.keyboard.press('Enter');
    let now = await eventually(block, ({ runs }) => runs.length > 0);
    expect(now.runs).toEqual([{ start: 4, end: 10, style: { sizePt: 90 } }]);
    expect(now.style.sizePt).toBe(122);
    // Copied with its settings, pasted into another block.
    await page.mouse.click(place.x, place.y, { clickCount: 2 });
    await page.waitForSelector('[data-testid="selection"] rect');
    await page.waitForFunction(() => document.activeElement?.tagName === 'TEXTAREA');
    const carried = await page.evaluate(() => {
      const data = new DataTransfer();
      document.activeElement?.dispatchEvent(new ClipboardEvent('copy', { clipboardData: data, bubbles: true, cancelable: true }));
      const other = document.querySelector<HTMLTextAreaElement>('textarea[data-words="perseids-date"]')!;
      other.focus();
      other.setSelectionRange(0, 0);
      other.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
      return data.getData('text/plain');
    });
    expect(carried).toBe('NIGHTS');
    await page.waitForFunction(() => document.querySelector<HTMLTextAreaElement>('textarea[data-words="perseids-date"]')?.value.startsWith('NIGHTS12'));
    await waitForState(page, 'saved');
    const date = findBlock(await savedJob(page, current.server.url), 'perseids-date')!;
    expect(date.runs[0]).toEqual(jasmine.objectContaining({ start: 0, end: 6 }));
    expect(date.runs[0]!.style.sizePt).toBe(90);

    await page.keyboard.press('Escape');
    await page.keyboard.down('Control');
    await page.keyboard.press('f');
    await page.keyboard.up('Control');
    await page.waitForSelector('jx-find-panel input');
    await typeInto(page, 'jx-find-panel input', 'watch');
    await page.waitForFunction(() => document.querySelector('jx-find-panel [role="status"]')?.textContent === '1 found');
    await typeInto(page, 'jx-find-panel input[aria-label="Replace with"]', 'SEE');
    await press(page, 'All');
    now = await eventually(block, ({ words }) => words.includes('SEE'));
    expect(now.words).toBe('TWO NIGHTS\nTO SEE\nA VALLEY OF\nFALLING STARS');
    expect(now.hand).toEqual([{ at: VA - 2, milliem: -2 }]);
    await press(page, 'Close');
    await page.keyboard.press('k');
    await clickGap(page, HEADLINE, 1);
    await page.keyboard.press('w');
    await choose(page, 'jx-words-deck select', 'title');
    expect((await eventually(block, ({ style }) => style.case === 'title')).style.case).toBe('title');
    await press(page, 'Bullets');
    await page.waitForFunction(() => document.querySelectorAll('jx-table [data-block="perseids-headline"] path[data-at="-1"]').length === 4);
  });

  it('says that a face is missing, shows a stand-in, and heals when the face is back', async () => {
    const { page, server } = current;
    await openJob(page, 'Perseids');
    const job = await savedJob(page, server.url);
    const at = `${server.url}/api/jobs/${page.url().split('/').pop()}`;
    const dated = { ...job, sheets: job.sheets.map((sheet) => ({ ...sheet, blocks: sheet.blocks.map(inLora) })) };
    const etag = (await fetch(at)).headers.get('etag') ?? '';
    const put = { method: 'PUT', headers: { 'content-type': 'application/json', 'if-match': etag }, body: JSON.stringify({ job: dated }) };
    expect((await fetch(at, put)).status).toBe(200);
    await page.reload();
    await waitForText(page, 'section[data-block="perseids-date"] .missing', 'The face “Lora 400” is missing: showing a substitute.');
    const standIn = await lettersOnScreen(page, 'perseids-date');
    expect(standIn.length).toBeGreaterThan(20);
    expect((await fetch(`${server.url}/api/catalogue/lora-400/add`, { method: 'POST' })).status).toBe(201);
    await page.reload();
    await page.waitForSelector('jx-table [data-block="perseids-date"] path');
    expect(await page.$('section[data-block="perseids-date"] .missing')).toBeNull();
    expect(await valueOf('section[data-block="perseids-date"] .spec')).toMatch(/^Lora/);
    expect(await lettersOnScreen(page, 'perseids-date')).not.toEqual(standIn);
    expect(findBlock(await savedJob(page, server.url), 'perseids-date')!.style.faceId).toBe('lora-400');
  });

  it('finds faces in the type case, adds them, takes a font in, refuses a damaged one, and bears a catalogue that is away', async () => {
    const { page } = current;
    await page.goto(`${current.server.url}/type-case`);
    await page.waitForSelector('li[data-face] [data-face-state="shown"]');
    await press(page, 'Catalogue');
    await press(page, 'Slab');
    await page.waitForFunction(() => document.querySelector('li[data-face="zilla-slab-400"]') && !document.querySelector('li[data-face^="lora"]'));
    await click(page, 'li[data-face="zilla-slab-400"] .about .btn-link');
    await page.waitForSelector('li[data-face="zilla-slab-400"] .about button[aria-pressed]');
    await click(page, 'li[data-face="zilla-slab-400"] .picture');
    await page.waitForFunction(() => document.querySelectorAll('aside section').length > 2);
    await waitForWords(page, 'aside section .quiet', /x-height/);
    await press(page, 'Unreachable');
    await page.waitForFunction(() => document.querySelector('.state')?.textContent.includes('can’t be reached'));
    await press(page, 'Works');
    await page.waitForSelector('li[data-face="zilla-slab-400"]');

    const input = async () => (await page.$('[data-testid="font"]')) as ElementHandle<HTMLInputElement>;
    const bad = join(current.data, 'bad.ttf');
    writeFileSync(bad, 'this is no font at all, whatever its name says');
    await (await input()).uploadFile(bad);
    await page.waitForFunction(() => [...document.querySelectorAll('ngb-toast')].some((toast) => toast.textContent.includes('does not begin like a font')));
    await (await input()).uploadFile(join(root, 'faces/catalogue/spectral-700.woff'));
    await page.waitForSelector('li[data-face^="upload-"]');

    // Used in a job, it goes only with a stand-in; the job names what it misses until then.
    await page.goto(current.server.url);
    await openJob(page, 'Perseids');
    await clickGap(page, HEADLINE, VA);
    await page.keyboard.press('f');
    await click(page, '.candidate[data-face^="upload-"]');
    await page.waitForFunction((css) => document.querySelector<HTMLInputElement>(css)?.value.startsWith('Spectral'), {}, SPEC);
    await waitForState(page, 'saved');
    await page.goto(`${current.server.url}/type-case`);
    await page.waitForSelector('li[data-face^="upload-"]');
    await press(page, 'Remove');
    // The first that can be taken out is the catalogue's, which no job uses.
    await page.waitForFunction(() => !document.querySelector('li[data-face="zilla-slab-400"]') || document.querySelector('jx-stand-in-dialog'));
    if (!(await page.$('jx-stand-in-dialog'))) await press(page, 'Remove');
    await page.waitForSelector('jx-stand-in-dialog select');
    await choose(page, 'jx-stand-in-dialog select', 'alegreya-medium');
    await press(page, 'Remove');
    await page.waitForFunction(() => !document.querySelector('li[data-face^="upload-"]'));
    await page.goto(current.server.url);
    await openJob(page, 'Perseids');
    expect(await valueOf(SPEC)).toContain('Alegreya Medium');
  });

  it('takes the fonts that are chosen out of a collection, each as a face of its own', async () => {
    const { page } = current;
    await page.goto(`${current.server.url}/type-case`);
    const input = async () => (await page.waitForSelector('[data-testid="font"]')) as ElementHandle<HTMLInputElement>;
    const fonts = join(current.data, 'two.ttc');
    writeFileSync(fonts, toCollection(fontBytes('league-gothic-regular'), fontBytes('playfair-display-bold'), fontBytes('josefin-sans-regular')));
    await (await input()).uploadFile(fonts);
    await page.waitForSelector('jx-collection-dialog .form-check');
    expect(await page.$$eval('jx-collection-dialog label', (labels) => labels.map(({ textContent }) => textContent))).toEqual([
      'League Gothic Regular',
      'Playfair Display Bold',
      'Josefin Sans Regular',
    ]);
    await page.keyboard.press('Space');
    await click(page, 'label[for="collection-2"]');
    await click(page, '[data-testid="take-fonts"]');
    await page.waitForFunction(() => document.querySelectorAll('li[data-face^="upload-"]').length === 2);
    for (const name of ['League Gothic', 'Josefin Sans']) {
      const made = await page.$$eval('li[data-face^="upload-"]', (cards) => cards.map(({ textContent }) => textContent));
      expect(made.filter((text) => text.includes(name)).length).toBe(1);
    }
  });

  it('switches features in the words they change, picks an alternate for one letter, and moves a variable axis', async () => {
    const { page } = current;
    await fetch(`${current.server.url}/api/catalogue/fraunces-variable/add`, { method: 'POST' });
    await openJob(page, 'Perseids');
    await click(page, 'section[data-block="perseids-quote"] .spec');
    await page.keyboard.type('EB Garamond Regular');
    await page.keyboard.press('Enter');
    await page.keyboard.press('Escape');
    await page.keyboard.press('f');
    await page.waitForSelector('[data-feature="smcp"]');
    expect(await page.$('[data-feature="frac"]')).toBeNull();
    await click(page, '[data-feature="smcp"]');
    await page.waitForSelector('[data-feature="smcp"][aria-pressed="true"]');
    await waitForState(page, 'saved');
    const quote = async () => findBlock(await savedJob(page, current.server.url), 'perseids-quote')!;
    expect((await quote()).style.features).toEqual({ smcp: 1 });
    // One letter: every form there is of it.
    await page.evaluate(() => {
      const field = document.querySelector<HTMLTextAreaElement>('textarea[data-words="perseids-quote"]')!;
      field.focus();
      field.setSelectionRange(1, 2);
      field.dispatchEvent(new Event('select', { bubbles: true }));
    });
    await page.waitForFunction(() => document.querySelectorAll('.palette button').length > 2);
    await click(page, '.palette button:nth-child(2)');
    await page.waitForSelector('.palette button:nth-child(2).current');
    await waitForState(page, 'saved');
    expect((await quote()).runs.map(({ start, end }) => [start, end])).toEqual([[1, 2]]);

    await page.keyboard.press('k');
    await clickGap(page, HEADLINE, VA);
    await page.keyboard.press('f');
    await click(page, '.candidate[data-face="fraunces-variable"]');
    await page.waitForSelector('.axis input[aria-label="Weight"]');
    const before = (await lettersOnScreen(page, HEADLINE)).find(({ at }) => at === VA)!.x;
    await page.$eval('.axis input[aria-label="Weight"]', (slider) => {
      slider.value = '900';
      slider.dispatchEvent(new Event('input', { bubbles: true }));
    });
    await waitForLetter(page, HEADLINE, VA, { not: before });
    expect((await eventually(block, ({ style }) => style.axes['wght'] === 900)).style.axes['wght']).toBe(900);
  });

  it('parks hand kerning when the face changes, offers to keep or drop it, and gives it back with the face', async () => {
    const { page } = current;
    await openJob(page, 'Perseids');
    await clickGap(page, HEADLINE, VA);
    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('f');
    await page.waitForSelector('.candidate[data-face="eb-garamond-bold"]');
    await click(page, '.candidate[data-face="eb-garamond-bold"]');
    await waitForWords(page, '[data-testid="parked"]', '1 manual value was made for Playfair Display Bold');
    expect((await block()).hand).toEqual([]);
    await click(page, '.candidate[data-face="playfair-display-bold"]');
    await page.waitForFunction(() => !document.querySelector('[data-testid="parked"]'));
    expect((await block()).hand).toEqual([{ at: VA, milliem: -2 }]);
    await click(page, '.candidate[data-face="eb-garamond-bold"]');
    await page.waitForSelector('[data-testid="parked"]');
    await press(page, 'Apply here');
    await page.waitForFunction(() => !document.querySelector('[data-testid="parked"]'));
    const kept = await block();
    expect([kept.style.faceId, kept.hand]).toEqual(['eb-garamond-bold', [{ at: VA, milliem: -2 }]]);
  });
});
