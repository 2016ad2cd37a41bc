import { launchBrowser, openJob, openPage, removeFolder, startServer, temporaryFolder } from './harness';
const data = temporaryFolder();
const server = await startServer(data);
const browser = await launchBrowser();
try {
  const { page, errors } = await openPage(browser, server.url);
  await page.waitForSelector('.card-job img'); await page.evaluate(() => Promise.all([...document.images].map((i) => i.decode())));
  await page.screenshot({ path: '/tmp/shelf.png' });
  await openJob(page, 'Perseids');
  await new Promise((r) => setTimeout(r, 500));
  const box = await page.evaluate(() => { const p = document.querySelectorAll('[data-block="perseids-headline"] path[data-at="23"]')[0]!.getBoundingClientRect(); return { x: p.left, y: p.top + p.height / 2 }; });
  await page.mouse.click(box.x + 2, box.y);
  await new Promise((r) => setTimeout(r, 500));
  await page.screenshot({ path: '/tmp/kern.png' });
  for (const k of ['t', 'l', 'w']) { await page.keyboard.press(k as 't'); await new Promise((r) => setTimeout(r, 400)); await page.screenshot({ path: `/tmp/${k}.png` }); }
  console.log(errors);
} finally { await browser.close(); await server.kill(); removeFolder(data); }
