/** Files handed over look the same wherever they are opened: live text beside outlines, the SVG beside the PNG, in Chromium's own eyes. */
import { readFileSync, readdirSync } from 'node:fs';
import { type DrawingNode, drawSheet } from '@jentrix/core/drawing';
import { Face } from '@jentrix/core/face';
import { htmlFormat, readJobFile, writeSvg } from '@jentrix/core/formats';
import { type Arc, type Job, type Path, type Style, createBlock, createSheet, newPath, resolveSheet, withRise } from '@jentrix/core/job';
import { writeSheets } from '@jentrix/core/rendering';
import { FaceSet, setSheet } from '@jentrix/core/setting';
import { shippedFaces, sized } from '@jentrix/core/testing';
import { readSvg, refineSvg, takeSvg, textsOf } from '@jentrix/core/svg-text';
import type { Page } from 'puppeteer-core';
import { openPage } from './harness';
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

  it('shows what the outlines show in the shipped faces', async () => {
    const found: string[] = [];
    const taken = fonts('', /\.ttf$/).filter(({ pathname }, i) => MORE.test(pathname) || i % sized(5, 1) === 0);
    for (const url of taken) found.push(...(await unlike(url, MORE.test(url.pathname) ? everyWay : everyWay.slice(0, 3))));
    expect(found).toEqual([]);
  }, 400_000);

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
  }, 400_000);

  it('shows it in faces whose letters change with their neighbours', async () => {
    const found: string[] = [];
    for (const url of fonts('catalogue/', /^(caveat-400|dancing-script-400|great-vibes-400|courgette-400|arvo-400)\.woff$/))
      found.push(...(await unlike(url, everyWay.slice(0, 3))));
    expect(found).toEqual([]);
  }, 400_000);
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

  it('text of other hands stands in Chromium where it is read to stand, and where refining puts it', async () => {
    const id = 'playfair-display-bold';
    const bytes = readFileSync(new URL(`${id}.ttf`, FACES));
    const faces = new FaceSet(id);
    faces.add(id, await Face.open(new Uint8Array(bytes)));
    const embedded = `<style>@font-face{font-family:"Playfair Display";font-weight:700;src:url(data:font/ttf;base64,${bytes.toString('base64')})} .t{font:700 60px "Playfair Display"}</style>`;
    const texts = [
      '<text class="t" x="20" y="80">AVATAR LT &amp; fi</text>',
      '<text class="t" x="450" y="80" text-anchor="middle" letter-spacing="3" dx="0 2 -4 1">AVATAR<tspan fill="red">To</tspan>WN</text>',
      '<text class="t" x="880" y="80" text-anchor="end" word-spacing="9">To watch, wait</text>',
      '<text class="t" x="20 90 160 240" y="80" dy="0 4">WATCH</text>',
      '<text class="t" x="20" y="80" textLength="700">AVATAR</text>',
      `<text class="t" x="20" y="80">
         One   line
         <tspan x="20" dy="70">AV<tspan style="font-size: 40px">AT</tspan></tspan></text>`,
    ];
    const page = await current.browser.newPage();
    try {
      for (const text of texts) {
        const source = `<svg xmlns="http://www.w3.org/2000/svg" width="900" height="300">${embedded}${text}</svg>`;
        for (const svg of [source, refineSvg(source, faces, { steps: ['kerning'] }).source]) {
          const read = textsOf(readSvg(svg), faces).texts.flatMap(({ characters, placement: { alongPt, acrossPt } }) =>
            characters.map(({ text: letter, penX, penY }) => ({ letter, x: penX / alongPt, y: penY / acrossPt })),
          );
          await page.setContent(svg);
          await page.evaluate(() => document.fonts.ready);
          const shown = await page.evaluate(() => {
            const element = document.querySelector('text')!;
            return Array.from({ length: element.getNumberOfChars() }, (_, i) => {
              const { x, y } = element.getStartPositionOfChar(i);
              return { x, y };
            });
          });
          expect(read.length).withContext(text).toBe(shown.length);
          read.forEach(({ letter, x, y }, i) => {
            if (letter === ' ') return;
            expect(Math.abs(x - (shown[i]?.x ?? NaN)))
              .withContext(`${text}: ${letter} ${i}`)
              .toBeLessThan(0.15);
            expect(Math.abs(y - (shown[i]?.y ?? NaN)))
              .withContext(`${text}: ${letter} ${i}`)
              .toBeLessThan(0.15);
          });
        }
      }
    } finally {
      await page.close();
    }
  });

  it('text of other hands on a path stands in Chromium where it is taken in to stand', async () => {
    const id = 'playfair-display-bold';
    const bytes = readFileSync(new URL(`${id}.ttf`, FACES));
    const faces = new FaceSet(id);
    faces.add(id, await Face.open(new Uint8Array(bytes)));
    const embedded = `<style>@font-face{font-family:"Playfair Display";font-weight:700;src:url(data:font/ttf;base64,${bytes.toString('base64')})} .t{font:700 40px "Playfair Display"}</style>`;
    const paths =
      '<defs><path id="hill" d="M40 250 Q 300 20 560 250 T 860 200"/><path id="ring" d="M 300 150 a 120 120 0 1 1 -1 0 z" transform="translate(60 20)"/></defs>';
    const texts = [
      '<text class="t"><textPath href="#hill">WATCH THE VALLEY</textPath></text>',
      '<text class="t" text-anchor="middle"><textPath href="#hill" startOffset="50%">To <tspan fill="red">AV</tspan>AT</textPath></text>',
      '<text class="t" text-anchor="end" x="0"><textPath xlink:href="#ring" startOffset="500">Round</textPath></text>',
      '<g transform="translate(30 10) rotate(12) scale(.8)"><text class="t">\n<textPath href="#hill" startOffset="90">High water</textPath>\n</text></g>',
    ];
    const page = await current.browser.newPage();
    try {
      for (const text of texts) {
        const svg = `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="900" height="400">${embedded}${paths}${text}</svg>`;
        const { job, notes } = takeSvg(svg, faces, { title: 'Path', newId: () => crypto.randomUUID(), pictureId: 'p' });
        expect(notes.left).withContext(text).toEqual([]);
        const [sheet] = job.sheets;
        const pensIn = (node: DrawingNode): { x: number; y: number }[] =>
          node.kind === 'group'
            ? node.nodes.flatMap(pensIn)
            : node.kind === 'letters'
              ? node.glyphs.flatMap(({ at, shows, pen }) => (at === undefined || shows.trim() === '' ? [] : [{ x: pen.xPt / 0.75, y: pen.yPt / 0.75 }]))
              : [];
        const read = drawSheet(sheet!, setSheet(sheet!, faces)).blocks.flatMap(pensIn);
        await page.setContent(svg);
        await page.evaluate(() => document.fonts.ready);
        const shown = await page.evaluate(() => {
          const element = document.querySelector('text')!;
          const words = element.textContent.trim();
          const matrix = element.getCTM()!;
          return Array.from(words, (letter, i) => {
            const { x, y } = element.getStartPositionOfChar(i).matrixTransform(matrix);
            return { letter, x, y };
          }).filter(({ letter }) => letter !== ' ');
        });
        expect(read.length).withContext(text).toBe(shown.length);
        // Browsers measure paths by chords: what is along one is off by some tenths of a pixel there.
        read.forEach(({ x, y }, i) => {
          expect(Math.hypot(x - (shown[i]?.x ?? NaN), y - (shown[i]?.y ?? NaN)))
            .withContext(`${text}: ${shown[i]?.letter} ${i}`)
            .toBeLessThan(0.5);
        });
      }
    } finally {
      await page.close();
    }
  });

  it('a web page sets every letter within 0.3 px of the drawing, as wide as it is or fluid, and its words are whole', async () => {
    const demo = new URL('../../demo/', import.meta.url);
    const names = readdirSync(FACES)
      .filter((name) => name.endsWith('.ttf'))
      .map((name) => name.slice(0, -4));
    const faces = await shippedFaces(...names);
    const { page, errors } = await openPage(current.browser, 'about:blank');
    try {
      for (const file of readdirSync(demo).filter((name) => name.endsWith('.json'))) {
        const job = readJobFile(readFileSync(new URL(file, demo), 'utf8'));
        for (const raw of job.sheets) {
          const sheet = { ...resolveSheet(job, raw), background: { kind: 'colour', colour: '#ffffff' } as const };
          const drawing = drawSheet(sheet, setSheet(sheet, faces));
          // Letters that stand upright and as drawn, in the order of their words.
          const upright = (node: DrawingNode): { text: string; x: number; y: number }[] =>
            node.kind === 'group'
              ? node.shadow
                ? []
                : node.nodes.flatMap(upright)
              : node.kind === 'letters'
                ? node.glyphs.flatMap(({ at, shows, pen }) =>
                    at === undefined || shows.trim() === '' ? [] : [{ text: shows, x: pen.xPt / 0.75, y: pen.yPt / 0.75 }],
                  )
                : [];
          for (const fluid of [false, true]) {
            const html = await writeSheets(htmlFormat, [{ drawing, faces, pictures: new Map() }], { title: 'Page', language: undefined }, { fluid });
            await page.setViewport({ width: Math.ceil(drawing.widthPt / 0.75), height: 900, deviceScaleFactor: 2 });
            await page.setContent(String(html));
            await page.evaluate(() => document.fonts.ready);
            const shown = await page.evaluate(() =>
              [...document.querySelectorAll('.jx-block')].map((block) => {
                const letters: { text: string; x: number; y: number }[] = [];
                const turned = (block as HTMLElement).style.transform !== '' || block.querySelector('.jx-letter:not(.jx-mark)') !== null;
                const walker = document.createTreeWalker(block, NodeFilter.SHOW_TEXT);
                for (let node = walker.nextNode(); node && !turned; node = walker.nextNode()) {
                  const line = node.parentElement?.closest<HTMLElement>('.jx-line');
                  if (!line) continue;
                  const baseline = line.getBoundingClientRect().top + Number.parseFloat(getComputedStyle(line, '::before').height);
                  for (let i = 0; i < (node.textContent ?? '').length; i++) {
                    const range = document.createRange();
                    range.setStart(node, i);
                    range.setEnd(node, i + 1);
                    letters.push({ text: (node.textContent ?? '').charAt(i), x: range.getBoundingClientRect().left, y: baseline });
                  }
                }
                return { turned, letters: letters.filter(({ text }) => text.trim() !== ''), words: (block as HTMLElement).innerText };
              }),
            );
            const scale = fluid ? Math.ceil(drawing.widthPt / 0.75) / (drawing.widthPt / 0.75) : 1;
            const drawn = drawing.blocks.filter((block) => upright(block).length > 0);
            expect(shown.length).toBe(drawn.length);
            drawn.forEach((block, b) => {
              const { turned, letters, words } = shown[b]!;
              expect(words.replace(/\s+/g, ''))
                .withContext(block.label)
                .toBe(
                  upright(block)
                    .map(({ text }) => text)
                    .join('')
                    .replace(/\s+/g, ''),
                );
              if (turned) return;
              let at = 0;
              for (const { text, x, y } of upright(block)) {
                const seen = letters[at];
                const where = `${file} ${sheet.name}, ${block.label.slice(0, 30)}, ${text} ${at}${fluid ? ', fluid' : ''}`;
                expect(seen?.text).withContext(where).toBe(text.charAt(0));
                expect(Math.abs((seen?.x ?? NaN) - x * scale))
                  .withContext(where)
                  .toBeLessThan(0.3);
                expect(Math.abs((seen?.y ?? NaN) - y * scale))
                  .withContext(where)
                  .toBeLessThan(0.3);
                at += text.length;
              }
            });
          }
        }
      }
      expect(errors).toEqual([]);
    } finally {
      await page.close();
    }
  });

  it('a web page colours letters with a gradient as the drawing does: on lines, turned, scaled, in a turned block, as wide as it is or fluid', async () => {
    const faces = await shippedFaces('playfair-display-bold', 'source-sans-3-bold');
    let n = 0;
    const style = { faceId: 'playfair-display-bold', sizePt: 90, gradient: { to: '#ffcc00', angleDeg: 35 }, colour: '#0033aa' };
    const frame = { xPt: 30, yPt: 20, widthPt: 420, heightPt: 120 };
    const plain = createBlock(`b${n++}`, 'Wavy gold\nlines', frame, style);
    const odd = createBlock(`b${n++}`, 'Odds', { ...frame, yPt: 260 }, { ...style, gradient: { to: '#ff0055', angleDeg: 250 } });
    const turned = { ...createBlock(`b${n++}`, 'Turn', { xPt: 300, yPt: 260, widthPt: 200, heightPt: 120 }, style), rotationDeg: 20 };
    const shifted = {
      ...odd,
      runs: [
        { start: 1, end: 3, style: { turnDeg: 15, scaleX: 1.3 } },
        { start: 3, end: 4, style: { gradient: null, faceId: 'source-sans-3-bold' } },
      ],
    };
    const sheet = { ...createSheet('s', 'Gold', 560, 420, 'pt'), blocks: [plain, shifted, turned] };
    const drawing = drawSheet(sheet, setSheet(sheet, faces));
    const svg = writeSvg(drawing, faces, { letters: 'outlines', pictures: new Map() });
    const { page } = await openPage(current.browser, 'about:blank');
    try {
      const [width, height] = [Math.ceil(560 / 0.75), 560];
      await page.setViewport({ width, height });
      const shot = async (html: string): Promise<string> => {
        await page.setContent(html);
        await page.evaluate(() => document.fonts.ready);
        return page.screenshot({ encoding: 'base64', clip: { x: 0, y: 0, width, height } });
      };
      const drawn = await shot(`<body style="margin:0">${svg.slice(svg.indexOf('<svg'))}`);
      for (const fluid of [false, true]) {
        const html = await writeSheets(htmlFormat, [{ drawing, faces, pictures: new Map() }], { title: 'Gold', language: undefined }, { fluid });
        const shown = await shot(String(html));
        // Inside the letters, where no edge is near, colours are the same; and there are many of them.
        const { inside, far, colours } = await page.evaluate(
          async (both) => {
            const [one, other] = await Promise.all(
              both.map(async (data) => {
                const image = new Image();
                image.src = `data:image/png;base64,${data}`;
                await image.decode();
                const context = new OffscreenCanvas(image.width, image.height).getContext('2d')!;
                context.drawImage(image, 0, 0);
                return context.getImageData(0, 0, image.width, image.height);
              }),
            );
            const { width: wide, data } = one!;
            const isInk = (i: number): boolean => (data[i] ?? 255) + (data[i + 1] ?? 255) + (data[i + 2] ?? 255) < 735;
            let [count, off] = [0, 0];
            const found = new Set<number>();
            for (let i = 0; i < data.length; i += 4) {
              const around = [-2, -1, 0, 1, 2].every((dy) => [-2, -1, 0, 1, 2].every((dx) => isInk(i + 4 * (dx + dy * wide))));
              if (!around) continue;
              count++;
              found.add(((data[i] ?? 0) >> 4) * 256 + ((data[i + 1] ?? 0) >> 4) * 16 + ((data[i + 2] ?? 0) >> 4));
              if ([0, 1, 2].some((c) => Math.abs((data[i + c] ?? 0) - (other!.data[i + c] ?? 0)) > 8)) off++;
            }
            return { inside: count, far: off, colours: found.size };
          },
          [drawn, shown],
        );
        expect(inside).toBeGreaterThan(8000);
        expect(colours).toBeGreaterThan(30);
        expect(far / inside)
          .withContext(fluid ? 'fluid' : 'as wide as it is')
          .toBeLessThan(0.01);
      }
    } finally {
      await page.close();
    }
  });
});
