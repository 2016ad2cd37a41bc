import { findBlock } from '@jentrix/core/job';
import { ledgersOf, setBlock } from '@jentrix/core/setting';
import { shippedFaces } from '@jentrix/core/testing';
import { click, clickGap, openJob, press, savedJob, textOf, totalOfGap, waitForState, waitForText, waitForWords } from './harness';
import { journey } from './suite';

const HEADLINE = 'perseids-headline';
const VA = 23;

describe('the white between letters', () => {
  const current = journey();
  const count = () => current.page.$eval('jx-pass-rail .current .count', (badge) => Number(badge.textContent));
  const items = () => current.page.$$eval('jx-findings-list .item', (rows) => rows.length);

  it('starts from the shapes, and page, server and core agree to the digit', async () => {
    const { page } = current;
    await openJob(page, 'Perseids');
    await clickGap(page, HEADLINE, VA);
    const shape = await textOf(page, '[data-testid="shape"]');
    await waitForText(page, '[data-testid="shapes"]', 'diagonal | diagonal');
    await press(page, 'By shape');
    await waitForText(page, '[data-testid="total"]', shape);
    await waitForState(page, 'saved');
    const job = await savedJob(page, current.server.url);
    const block = findBlock(job, HEADLINE)!;
    expect(block.style.kerning).toBe('shape');
    const faces = await shippedFaces('playfair-display-bold');
    const line = setBlock(block, faces).lines[2]!;
    const ledger = ledgersOf(block, line, faces).find(({ at }) => at === VA)!;
    expect(shape.replace('−', '-')).toBe(String(ledger.shapeMilliem));
    // Half strength halves it; undo gives the font's kerning back, step by step.
    await click(page, 'jx-value.strength input');
    await page.keyboard.type('50');
    await page.keyboard.press('Enter');
    await waitForText(
      page,
      '[data-testid="total"]',
      shape.replace(/\d+/, (digits) => String(Number(digits) / 2)),
    );
    await page.keyboard.press('Escape');
    await press(page, 'Undo');
    await waitForText(page, '[data-testid="total"]', shape);
    await press(page, 'Undo');
    await page.waitForSelector('.choice button[aria-pressed="true"]');
    expect(await totalOfGap(page, ledger.shapeMilliem)).toBe(ledger.fontMilliem);
  });

  it('walks the findings, takes proposals, silences one, and counts what is left', async () => {
    const { page } = current;
    await openJob(page, 'Perseids');
    // What the font's designer kerned is quiet; without that kerning the headline has much to fix.
    await page.waitForSelector('jx-findings-list .item');
    expect(await items()).toBeLessThan(4);
    await clickGap(page, HEADLINE, VA);
    await press(page, 'None');
    await page.waitForFunction(() => document.querySelectorAll('jx-findings-list .item').length > 5);
    const before = await count();
    expect(await items()).toBe(before);
    await page.keyboard.press('n');
    await page.waitForSelector('jx-findings-list .item.current');
    await page.waitForSelector('[data-testid="ghost"] path');
    const evenness = await textOf(page, '[data-testid="evenness"]');
    await page.keyboard.press('Enter');
    await page.waitForFunction((n) => document.querySelectorAll('jx-findings-list .item').length === n, {}, before - 1);
    await page.waitForFunction((old) => document.querySelector('[data-testid="evenness"]')?.textContent !== old, {}, evenness);
    await page.waitForFunction(() => !document.querySelector('[data-testid="ghost"]'));
    await page.keyboard.press('n');
    await page.waitForSelector('jx-findings-list .item.current');
    await page.keyboard.press('i');
    await page.waitForSelector('jx-findings-list .silenced');
    await page.waitForFunction((n) => Number(document.querySelector('jx-pass-rail .current .count')?.textContent) === n, {}, before - 2);
    await press(page, 'Undo');
    await page.waitForFunction(() => !document.querySelector('jx-findings-list .silenced'));
    // All of a kind as one step.
    await press(page, 'Apply all');
    await page.waitForFunction((n) => document.querySelectorAll('jx-findings-list .item').length < n - 2, {}, before);
    await press(page, 'Undo');
    await page.waitForFunction((n) => document.querySelectorAll('jx-findings-list .item').length === n, {}, before - 1);
  });

  it('says one distance: under the bar, in the sentence, in the ledger and in the finding', async () => {
    const { page } = current;
    await openJob(page, 'Perseids');
    await clickGap(page, HEADLINE, VA);
    await press(page, 'None');
    await page.waitForSelector(`jx-findings-list .item.current[data-rule="gap-open"]`);
    const off = await textOf(page, '.mark.current text');
    expect(off).toMatch(/^\+\d/);
    const number = (text: string): number => Math.round(Number(/[\d.]+/.exec(text)?.[0]));
    expect(number((await textOf(page, '.item.current .change')).replace('−', ''))).toBe(number(off));
    await waitForWords(page, '.caption', `${number(off)} too open. Apply: −${number(off)}`);
    expect(number(await textOf(page, '[data-testid="should"]'))).toBe(number(off));
    await page.keyboard.press('Enter');
    await waitForText(page, '.mark.current text', '0');
    await waitForWords(page, '.caption', 'VA is on target.');
  });

  it('finds marks as a typewriter has them where nothing helps while words are typed, and fixes them as one step', async () => {
    const { page } = current;
    await page.evaluate(async () => {
      const preferences = (await (await fetch('/api/preferences')).json()) as object;
      const body = JSON.stringify({ ...preferences, typingHelp: false });
      await fetch('/api/preferences', { method: 'PUT', headers: { 'content-type': 'application/json' }, body });
    });
    await page.reload();
    await openJob(page, 'Perseids');
    await click(page, 'textarea[data-words="perseids-quote"]');
    await page.keyboard.down('Control');
    await page.keyboard.press('a');
    await page.keyboard.up('Control');
    await page.keyboard.type('"It isn\'t far" -- 8-10 km');
    await page.keyboard.press('Escape');
    await page.keyboard.press('w');
    await press(page, 'To fix');
    await page.waitForSelector('.item[data-rule="straight-quotes"]');
    await page.waitForFunction(() => document.querySelectorAll('.item[data-rule="hyphens-for-dash"]').length === 2);
    await press(page, 'Apply all 3: straight');
    await page.waitForFunction(() => document.querySelector<HTMLTextAreaElement>('[data-words="perseids-quote"]')?.value.startsWith('“It isn’t far”'));
    await press(page, 'Apply all 2: hyphen');
    await page.waitForFunction(() => document.querySelector<HTMLTextAreaElement>('[data-words="perseids-quote"]')?.value === '“It isn’t far”—8–10 km');
    await press(page, 'Undo');
    await page.waitForFunction(() => document.querySelector<HTMLTextAreaElement>('[data-words="perseids-quote"]')?.value === '“It isn’t far” -- 8-10 km');
  });

  it('gives every such pair one value, shows the rule and takes it away', async () => {
    const { page } = current;
    await openJob(page, 'Perseids');
    await clickGap(page, HEADLINE, 34); // AL of FALLING; VALLEY has the same pair
    const before = await totalOfGap(page);
    await page.keyboard.press('ArrowDown');
    await totalOfGap(page, before);
    await press(page, 'Use the manual value for every AL in this block');
    await page.waitForSelector('.deck-list .rule');
    await clickGap(page, HEADLINE, 24);
    await waitForText(page, '[data-testid="total"]', String(before - 2).replace('-', '−'));
    await waitForState(page, 'saved');
    const job = await savedJob(page, current.server.url);
    expect(job.pairs.map(({ left, right, milliem, scope }) => [left + right, milliem, scope.kind])).toEqual([['AL', -2, 'block']]);
    expect(findBlock(job, HEADLINE)?.hand).toEqual([]);
    await press(page, 'Remove the rule for AL');
    await waitForText(page, '[data-testid="total"]', String(before).replace('-', '−'));
  });

  it('compares the three sources, shows three letters, and lays the white of one gap into another', async () => {
    const { page } = current;
    await openJob(page, 'Perseids');
    await clickGap(page, HEADLINE, VA);
    await page.keyboard.press('c');
    await page.waitForFunction(() => document.querySelectorAll('jx-source-rows .source path').length > 24);
    await click(page, 'jx-source-rows [data-source="off"]');
    await page.waitForSelector('jx-source-rows .now[data-source="off"]');
    await waitForState(page, 'saved');
    expect(findBlock(await savedJob(page, current.server.url), HEADLINE)!.style.kerning).toBe('off');
    // Without kerning the line is the widest of the three: the rows show it so.
    const ends = await page.$$eval('jx-source-rows .source', (rows) =>
      rows.map((row) => [(row as SVGElement).dataset['source'], Number(row.querySelector('line')?.getAttribute('x1'))] as const),
    );
    expect(ends.map(([source]) => source)).toEqual(['font', 'weighed', 'shape', 'off']);
    expect(ends[2]?.[1] ?? 0).toBeGreaterThan(ends[0]?.[1] ?? Infinity);
    await page.keyboard.press('o');
    await page.waitForFunction(() => document.querySelectorAll('jx-gap-ribbon .letters > g:not(.ghost) path').length === 3);
    await page.keyboard.press('o');
    await page.keyboard.press('g');
    const own = await (await page.waitForSelector('[data-testid="guide"]'))?.evaluate((path) => path.getAttribute('d'));
    await page.keyboard.press('ArrowRight');
    await page.waitForFunction((d) => (document.querySelector('[data-testid="guide"]')?.getAttribute('d') ?? d) !== d, {}, own ?? null);
    const laid = await page.$eval('[data-testid="guide"]', (path) => path.getAttribute('d') ?? '');
    // The same white in another place: as many points, and as wide.
    const numbers = (d: string): number[] => [...d.matchAll(/-?[\d.]+/g)].map(Number);
    expect(numbers(laid).length).toBe(numbers(own ?? '').length);
    await page.keyboard.press('g');
    await page.waitForFunction(() => !document.querySelector('[data-testid="guide"]'));
  });
});
