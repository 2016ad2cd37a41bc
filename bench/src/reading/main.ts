/**
 * npm run bench:reading: pictures of type with known numbers, rendered from twelve faces and spoilt (blur, grain, 72 to 300 pixels an inch,
 * turned, reversed, JPEG, uneven light), read again. `-- worst` lists what was off farthest, `-- time` measures time alone.
 */
import { readFileSync } from 'node:fs';
import { Face } from '@jentrix/core/face';
import type { Block } from '@jentrix/core/job';
import { type Grey, readPicture } from '@jentrix/core/reading';
import { type Spoiling, blockFor, pictureOf } from '@jentrix/core/testing/pictures';
import { randomFrom } from '@jentrix/core/testing';
import { FaceSet } from '@jentrix/core/setting';
import { ms, percentile, printTable } from '../table';

/** Romans, italics, light and heavy ones, with and without serifs; as they ship and from the catalogue. */
const FACES = [
  'playfair-display-bold.ttf',
  'playfair-display-italic.ttf',
  'eb-garamond-regular.ttf',
  'alegreya-extrabold.ttf',
  'source-sans-3-regular.ttf',
  'josefin-sans-semibold.ttf',
  'league-gothic-regular.ttf',
  'catalogue/abril-fatface-400.woff',
  'catalogue/arvo-700.woff',
  'catalogue/cinzel-400.woff',
  'catalogue/crimson-pro-400-italic.woff',
  'catalogue/inter-400.woff',
];

const TEXTS = [
  'Perseids over\nthe salt marsh',
  'OPEN NIGHT\nAT THE DOME',
  'Bring a blanket,\na flask and somebody\nwho has never seen\nthe Milky Way',
  'Look up',
  'Friday 12 August, 22:30',
  'Hall of\nMoons',
  'Twelve lectures on light, dust\nand the distances between\nthem, held by candle in the\nold tide mill at Varn',
];

/** Ways to spoil a picture, used each alone and then together. */
const SPOILINGS: Readonly<Record<string, (random: () => number) => Partial<Spoiling>>> = {
  'as rendered': () => ({}),
  turned: (random) => ({ turnDeg: random() * 6 - 3 }),
  reversed: () => ({ reversed: true }),
  blurred: (random) => ({ blurPt: 0.2 + random() * 0.8 }),
  grainy: (random) => ({ noise: 8 + random() * 22 }),
  'in uneven light': (random) => ({ shade: 0.2 + random() * 0.4 }),
  JPEG: (random) => ({ jpeg: Math.round(30 + random() * 40) }),
  'all of it': (random) => ({
    turnDeg: random() * 6 - 3,
    reversed: random() < 0.3,
    blurPt: random() * 0.7,
    noise: random() * 18,
    shade: random() * 0.4,
    jpeg: Math.round(45 + random() * 40),
  }),
};

interface Case {
  what: string;
  face: string;
  block: Block;
  spoiling: Spoiling;
}

interface Outcome {
  one: Case;
  /** As shares; undefined where nothing was read. */
  size: number | undefined;
  leading: number | undefined;
  /** In 1/1000 em. */
  tracking: number | undefined;
  likeness: number;
}

function casesOf(): Case[] {
  const random = randomFrom(20_26);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
  const cases: Case[] = [];
  for (const [what, spoil] of Object.entries(SPOILINGS)) {
    for (const face of FACES) {
      for (let i = 0; i < 4; i++) {
        const sizePt = Math.round(18 + random() ** 2 * 78);
        const block = blockFor(pick(TEXTS), face, {
          sizePt,
          trackingMilliem: Math.round(random() < 0.3 ? 0 : -25 + random() * 150),
          leading: Math.round((0.95 + random() * 0.6) * 100) / 100,
          align: pick(['left', 'centre', 'right'] as const),
        });
        cases.push({ what, face, block, spoiling: { pixelsPerInch: pick([72, 96, 110, 150, 200, 300]), seed: cases.length, ...spoil(random) } });
      }
    }
  }
  return cases;
}

export async function benchReading(options: readonly string[]): Promise<void> {
  const faces = new FaceSet(FACES[0] ?? '');
  for (const file of FACES) faces.add(file, await Face.open(new Uint8Array(readFileSync(new URL(`../../../faces/${file}`, import.meta.url)))));
  if (options.includes('time')) {
    await reportTime(faces);
    return;
  }
  const outcomes: Outcome[] = [];
  for (const one of casesOf()) {
    const picture = await pictureOf(one.block, faces, one.spoiling);
    // The reader knows words and face, and nothing of what is asked.
    const known: Block = {
      ...one.block,
      style: { ...one.block.style, sizePt: 40, trackingMilliem: 0 },
      leading: { kind: 'multiple', factor: 1.2 },
      align: 'left',
    };
    const { words } = readPicture(picture, { block: known, faces });
    const { style, leading } = one.block;
    const size = words && (words.size * 72) / one.spoiling.pixelsPerInch / style.sizePt - 1;
    outcomes.push({
      one,
      size,
      leading: words?.leading === undefined || leading.kind !== 'multiple' ? undefined : (words.leading * (1 + (size ?? 0))) / leading.factor - 1,
      tracking: words?.trackingMilliem === undefined ? undefined : words.trackingMilliem - style.trackingMilliem,
      likeness: words?.likeness ?? 0,
    });
  }
  const row = (name: string, own: readonly Outcome[]): string[] => {
    const lines = own.filter(({ one }) => one.block.words.includes('\n'));
    const within = (list: readonly Outcome[], value: (outcome: Outcome) => number | undefined, most: number): string =>
      `${((list.filter((outcome) => Math.abs(value(outcome) ?? Infinity) <= most).length / list.length) * 100).toFixed(1)} %`;
    const mean = (value: (outcome: Outcome) => number | undefined): number =>
      percentile(
        own.map((outcome) => Math.abs(value(outcome) ?? Infinity)),
        0.9,
      );
    return [
      name,
      own.length.toString(),
      within(own, ({ size }) => size, 0.01),
      within(lines, ({ leading }) => leading, 0.007),
      within(own, ({ tracking }) => tracking, 4),
      `${(mean(({ size }) => size) * 100).toFixed(2)} %`,
      mean(({ tracking }) => tracking).toFixed(1),
      own.filter(({ size }) => size === undefined).length.toString(),
    ];
  };
  printTable('Pictures read with their words known', [
    ['', 'pictures', 'size ±1 %', 'leading ±0.7 %', 'tracking ±4', 'size p90', 'tracking p90', 'not read'],
    ...Object.keys(SPOILINGS).map((what) =>
      row(
        what,
        outcomes.filter(({ one }) => one.what === what),
      ),
    ),
    row('all', outcomes),
    ['aim', '', '90 %', '90 %', '90 %', '', '', ''],
  ]);
  reportNone(faces);
  await reportTime(faces);
  if (options.includes('worst')) {
    const off = ({ size, tracking, leading }: Outcome): number =>
      size === undefined ? 1e3 : Math.max(Math.abs(size) / 0.01, Math.abs(tracking ?? 0) / 4, Math.abs(leading ?? 0) / 0.007);
    for (const outcome of [...outcomes].sort((a, b) => off(b) - off(a)).slice(0, 40)) {
      const { one, size, tracking, leading, likeness } = outcome;
      const { style } = one.block;
      console.log(
        [one.what, one.face, JSON.stringify(one.block.words.slice(0, 14)), `${style.sizePt}pt tr ${style.trackingMilliem}`, JSON.stringify(one.spoiling)].join(
          ' | ',
        ),
        `=> size ${((size ?? NaN) * 100).toFixed(2)} % tr ${tracking?.toFixed(1)} ld ${((leading ?? NaN) * 100).toFixed(2)} % like ${likeness.toFixed(3)}`,
      );
    }
  }
}

const [WIDTH, HEIGHT] = [1200, 800];

function drawn(fill: (x: number, y: number) => number): Grey {
  const values = new Uint8Array(WIDTH * HEIGHT);
  for (let y = 0, i = 0; y < HEIGHT; y++) for (let x = 0; x < WIDTH; x++, i++) values[i] = Math.max(0, Math.min(255, fill(x, y)));
  return { width: WIDTH, height: HEIGHT, values };
}

/** Soft patches, as of a photograph out of focus. @param across how many of them. @param contrast 1 and more */
function patches(random: () => number, across: number, contrast: number): Grey {
  const down = Math.ceil((across * HEIGHT) / WIDTH);
  const heights = Float64Array.from({ length: (across + 2) * (down + 2) }, () => random() * 255);
  return drawn((x, y) => {
    const [fx, fy] = [(x / WIDTH) * across, (y / HEIGHT) * down];
    const [x0, y0] = [Math.floor(fx), Math.floor(fy)];
    const at = (dx: number, dy: number): number => heights[(y0 + dy) * (across + 2) + x0 + dx] ?? 0;
    const [u, v] = [fx - x0, fy - y0].map((t) => t * t * (3 - 2 * t)) as [number, number];
    return ((at(0, 0) * (1 - u) + at(1, 0) * u) * (1 - v) + (at(0, 1) * (1 - u) + at(1, 1) * u) * v - 128) * contrast + 128;
  });
}

/** Pictures without type: how many of each kind are said to have some. */
function reportNone(faces: FaceSet): void {
  const random = randomFrom(12);
  const rectangles = (): Grey => {
    const picture = drawn(() => 240);
    for (let i = 0; i < 60; i++) {
      const [x, y, w, h] = [random() * WIDTH, random() * HEIGHT, 5 + random() * 80, 5 + random() * 80].map(Math.floor) as [number, number, number, number];
      for (let row = y; row < Math.min(HEIGHT, y + h); row++) picture.values.fill(20, row * WIDTH + x, row * WIDTH + Math.min(WIDTH, x + w));
    }
    return picture;
  };
  const kinds: Readonly<Record<string, () => Grey>> = {
    'paper, grain': () => drawn(() => 210 + random() * 30),
    'noise, gradients': () => (random() < 0.5 ? drawn(() => random() * 255) : drawn((x, y) => (x / WIDTH) * 200 + y / 20)),
    patterns: () => {
      const [wide, high, side] = [20 + random() * 60, 20 + random() * 60, 8 + random() * 20];
      return drawn((x, y) => (Math.hypot((x % wide) - wide / 2, (y % high) - high / 2) < side ? 10 : 240));
    },
    'rectangles anywhere': rectangles,
    'soft patches': () => patches(random, Math.round(6 + random() * 60), 1 + random() * 2),
    'hard patches': () => patches(random, Math.round(6 + random() * 60), 4 + random() * 8),
  };
  const block = blockFor('Perseids over\nthe salt marsh', FACES[0] ?? '', { sizePt: 40 });
  const rows = Object.entries(kinds).map(([name, make]) => {
    const pictures = Array.from({ length: 12 }, make);
    const type = pictures.filter((picture) => readPicture(picture).picture).length;
    const words = pictures.filter((picture) => readPicture(picture, { block, faces }).words).length;
    return [name, pictures.length.toString(), type.toString(), words.toString()];
  });
  printTable('Pictures without type', [['', 'pictures', 'said to have type', 'said to have the words'], ...rows]);
}

/** A page of 2,000 by 1,500 pixels. */
async function reportTime(faces: FaceSet): Promise<void> {
  const words = TEXTS.join(' ').replaceAll('\n', ' ').split(' ');
  const lines = Array.from({ length: 7 }, (_, i) => words.slice(i * 5, i * 5 + 5).join(' ')).join('\n');
  const block = blockFor(lines, FACES[0] ?? '', { sizePt: 36, leading: 1.25 });
  const page = cropped(await pictureOf(block, faces, { pixelsPerInch: 160, turnDeg: 1, noise: 8 }), 2000, 1500);
  const times: number[] = [];
  for (let i = 0; i < 6; i++) {
    const start = performance.now();
    const { words: found } = readPicture(page, { block, faces });
    times.push(performance.now() - start);
    if (!found) throw new Error('The page was not read');
  }
  const [first = 0, ...later] = times;
  printTable(`A page of 2,000 × 1,500 pixels, ${lines.replace(/\s/g, '').length} letters, read with its words`, [
    ['first', 'later', 'aim'],
    [ms(first), ms(percentile(later, 0.5)), '<= 1500 ms'],
  ]);
}

/** The middle of a picture, paper around it where it is smaller. */
function cropped({ width, height, values }: Grey, toWidth: number, toHeight: number): Grey {
  const out = new Uint8Array(toWidth * toHeight).fill(values[0] ?? 255);
  const [dx, dy] = [(width - toWidth) >> 1, (height - toHeight) >> 1];
  for (let y = 0; y < toHeight; y++) {
    for (let x = 0; x < toWidth; x++) {
      const [from, down] = [x + dx, y + dy];
      if (from >= 0 && down >= 0 && from < width && down < height) out[y * toWidth + x] = values[down * width + from] ?? 0;
    }
  }
  return { width: toWidth, height: toHeight, values: out };
}
