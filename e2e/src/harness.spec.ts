import { press } from './harness';
import { journey } from './suite';

/** The hand of the journeys, which must not miss what it aims at. */
describe('what is pressed', () => {
  const now = journey();

  it('is pressed once it is at rest', async () => {
    const { page } = now;
    await page.goto('about:blank');
    await page.setContent(`
      <style>@keyframes come { from { translate: 0 400px } to { translate: 0 0 } } div { animation: come 1s linear }</style>
      <div><button onclick="document.title += 'pressed'">Begin</button></div>`);
    await press(page, 'Begin');
    expect(await page.title()).toBe('pressed');
  });

  it('in a dialog is not on its way while it can be pressed', async () => {
    const { page } = now;
    await page.evaluate(() => {
      const changing = new Set<string>();
      document.addEventListener('transitionrun', ({ propertyName, target }) => {
        if ((target as Element).matches('.modal, .modal *')) changing.add(propertyName);
        document.title = [...changing].join(' ');
      });
    });
    await press(page, 'New job');
    await page.waitForSelector('ngb-modal-window.show');
    await page.waitForFunction(() => document.title.includes('opacity'));
    expect(await page.title()).toBe('opacity');
  });
});
