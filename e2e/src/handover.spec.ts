/** What is handed over looks the same wherever it is opened: live text beside outlines, the SVG beside the PNG, in Chromium's own eyes. */
import { readFileSync, readdirSync } from 'node:fs';
import { drawSheet } from '@jentrix/core/drawing';
import { Face } from '@jentrix/core/face';
import { writeSvg } from '@jentrix/core/formats';
import { type Arc, type Job, type Path, type Style, createBlock, createSheet, newPath, withRise } from '@jentrix/core/job';
import { FaceSet, setSheet } from '@jentrix/core/setting';
import type { Page } from 'puppeteer-core';
import { journey } from './suite';

const FACES = new URL('../../faces/', import.meta.url);
const fonts = (folder: string, pattern: RegExp): URL[] =>
  readdirSync(new URL(folder, FACES))
    .filter((file) => pattern.test(file))
    .map((file) => new URL(folder + file, FACES));

/** A picture in CSS pixels, and the room of each of its blocks in it. */
const WIDTH = 3600;
const BAND = 560;
/** So large that letters are drawn as they are, and not out of a store of small pictures on whole pixels. */
const SIZE_PT = 320;

/** The least share of all ink that two drawings must have in common. */
const ALIKE = 0.99;

/** Shows an SVG on a page of its own and gives its picture. */
async function pictureOf(page: Page, svg: string, height: number): Promise<string> {
  await page.evaluate((text) => {
    document.body.innerHTML = text.slice(text.indexOf('<svg'));
  }, svg);
  await page.evaluate(() => document.fonts.ready);
  return page.screenshot({ clip: { x: 0, y: 0, width: WIDTH, height }, encoding: 'base64' });
}

/** Pixels of ink in common over all pixels of ink, for every block. */
function overlaps(page: Page, pictures: readonly [string, string]): Promise<number[]> {
  return page.evaluate(
    async (both, band) => {
      const inks: Uint8ClampedArray[] = [];
      let width = 0;
      for (const data of both) {
        const image = new Image();
        image.src = `data:image/png;base64,${data}`;
        await image.decode();
        width = image.width;
        const context = new OffscreenCanvas(image.width, image.height).getContext('2d')!;
        context.drawImage(image, 0, 0);
        inks.push(context.getImageData(0, 0, image.width, image.height).data);
      }
      const size = 4 * width * band;
      const [one, other] = inks as [Uint8ClampedArray, Uint8ClampedArray];
      return Array.from({ length: Math.floor(one.length / size) }, (_, at) => {
        let [common, all] = [0, 0];
        for (let i = at * size; i < (at + 1) * size; i += 4) {
          const [first, second] = [one[i]! < 128, other[i]! < 128];
          if (first && second) common++;
          if (first || second) all++;
        }
        return all === 0 ? 0 : common / all;
      });
    },
    pictures,
    BAND,
  );
}

/** Words in a style, on a path where one is given. */
type LiveCase = readonly [words: string, style: Partial<Style>, path?: Path];
const HILL: Path = { ...withRise(newPath('arc', { widthPt: 1400 }, 330) as Arc, 110), atShare: 0.4 };

describe('live text', () => {
  const current = journey();

  /** The words that look otherwise than their outlines. */
  async function unlike(url: URL, cases: readonly LiveCase[]): Promise<string[]> {
    const found: string[] = [];
    const bytes = readFileSync(url);
    const face = await Face.open(new Uint8Array(bytes));
    const faces = new FaceSet('face');
    faces.add('face', face);
    const page = await current.browser.newPage();
    try {
      const height = BAND * cases.length;
      await page.setViewport({ width: WIDTH, height, deviceScaleFactor: 1 });
      await page.setContent('<!doctype html><style>body{margin:0}svg{display:block}</style><body></body>');
      await page.evaluate(
        async (family, data, weight, style) => {
          const font = new FontFace(family, Uint8Array.from(atob(data), (letter) => letter.charCodeAt(0)).buffer, { weight, style });
          document.fonts.add(await font.load());
        },
        face.family.replaceAll("'", ''),
        bytes.toString('base64'),
        face.axes.some(({ tag }) => tag === 'wght') ? '1 1000' : String(face.posture.weight),
        face.posture.italic ? 'italic' : 'normal',
      );
      const blocks = cases.map(([words, style, path], i) => ({
        ...createBlock(
          `b${i}`,
          words,
          { xPt: 8, yPt: 0.75 * BAND * i, widthPt: 5000, heightPt: 320 },
          { faceId: 'face', sizePt: SIZE_PT, colour: '#000000', ...style },
        ),
        ...(path ? { path } : {}),
      }));
      const sheet = { ...createSheet('s', 'Sheet', WIDTH * 0.75, height * 0.75, 'pt' as const), blocks };
      const drawing = drawSheet(sheet, setSheet(sheet, faces));
      const outlines = await pictureOf(page, writeSvg(drawing, faces, { letters: 'outlines' }), height);
      const text = await pictureOf(page, writeSvg(drawing, faces, { letters: 'text' }), height);
      (await overlaps(page, [outlines, text])).forEach((share, i) => {
        if (share < ALIKE) found.push(`${face.family} ${face.style}, ${JSON.stringify(cases[i])}: ${share.toFixed(4)}`);
      });
    } finally {
      await page.close();
      face.dispose();
    }
    return found;
  }

  const everyWay: LiveCase[] = [
    ['AVATAR, office', {}],
    ['Wave “Yes” fjord', { kerning: 'shape' }],
    ['1/2 13/24', { features: { frac: 1 } }],
    ['Track office', { trackingMilliem: 40 }],
    ['Vega at night', { case: 'small' }],
    ['Fluß', { case: 'capitals', trackingMilliem: 20 }],
    ['Wide fi', { scaleX: 1.2, scaleY: 0.9 }],
    ['Turned office', { turnDeg: 12 }],
    ['AVATAR', { sizePt: 180 }, HILL],
  ];

  /** Faces with features of all kinds, and without any: in the others a few words do. */
  const MORE = /(eb-garamond-regular|league-gothic-regular|source-sans-3-regular)\.ttf$/;

  it('shows what the outlines show in every shipped face', async () => {
    const found: string[] = [];
    for (const url of fonts('', /\.ttf$/)) found.push(...(await unlike(url, MORE.test(url.pathname) ? everyWay : everyWay.slice(0, 3))));
    expect(found).toEqual([]);
  }, 180_000);

  it('shows it in variable faces at any position', async () => {
    const found: string[] = [];
    for (const url of fonts('catalogue/', /variable\.ttf$/)) {
      const face = await Face.open(new Uint8Array(readFileSync(url)));
      const heavy = Object.fromEntries(face.axes.map(({ tag, max, default: usual }) => [tag, tag === 'wght' || tag === 'opsz' ? max : usual]));
      // Registered axes, whose tags are in small letters.
      const light = Object.fromEntries(face.axes.filter(({ tag }) => tag === tag.toLowerCase()).map(({ tag, min, max }) => [tag, min + (max - min) / 4]));
      face.dispose();
      const cases: [string, Partial<Style>][] = [{}, { axes: heavy }, { axes: light }].map((style) => ['AVATAR office', style]);
      found.push(...(await unlike(url, cases)));
    }
    expect(found).toEqual([]);
  }, 180_000);

  it('shows it in faces whose letters change with their neighbours', async () => {
    const found: string[] = [];
    for (const url of fonts('catalogue/', /^(caveat-400|dancing-script-400|great-vibes-400|courgette-400|arvo-400)\.woff$/))
      found.push(...(await unlike(url, everyWay.slice(0, 3))));
    expect(found).toEqual([]);
  }, 180_000);
});

describe('a sheet on a picture', () => {
  const current = journey();

  it('is the same in the SVG as Chromium draws it and in the PNG, whatever the picture is', async () => {
    const { server, page } = current;
    const { items } = (await (await fetch(`${server.url}/api/jobs`)).json()) as { items: { id: string }[] };
    const jobs = await Promise.all(items.map(async ({ id }) => (await (await fetch(`${server.url}/api/jobs/${id}`)).json()) as { id: string; job: Job }));
    const sheets = jobs.flatMap(({ id, job }) => job.sheets.filter(({ background }) => background.kind === 'picture').map((sheet) => ({ id, sheet })));
    expect(sheets.length).toBeGreaterThan(1);
    for (const { id, sheet } of sheets) {
      const address = `/api/jobs/${id}/sheets/${sheet.id}`;
      const difference = await page.evaluate(
        async (svg, png) => {
          const pixels = async (source: string): Promise<Uint8ClampedArray> => {
            const image = new Image();
            image.src = source;
            await image.decode();
            const context = new OffscreenCanvas(300, 400).getContext('2d')!;
            context.drawImage(image, 0, 0, 300, 400);
            return context.getImageData(0, 0, 300, 400).data;
          };
          const [one, other] = [await pixels(svg), await pixels(png)];
          return one.reduce((sum, value, i) => sum + Math.abs(value - (other[i] ?? 0)), 0) / one.length;
        },
        `${address}/svg`,
        `${address}/png?scale=1`,
      );
      expect(difference).withContext(sheet.name).toBeLessThan(1.5);
    }
  });
});
