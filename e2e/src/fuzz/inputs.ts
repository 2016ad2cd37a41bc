/** Hostile inputs for the server: valid things bent, and made-up things that are nearly valid. Everything follows from a seed. */
import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { type Block, type Job, jobJsonSchema } from '@jentrix/core/job';
import { writePackage } from '@jentrix/core/package';
import fc from 'fast-check';
import { root } from '../harness';
import { type JsonSchema, fromSchema } from './from-schema';

/** An input of the fuzz: plain data, so that a failure can be kept and sent again. */
export type Input =
  | {
      kind: 'job';
      job: unknown;
      then: ('thumbnail' | 'svg' | 'text' | 'png' | 'zip' | 'pdf' | 'words' | 'page' | 'webp' | 'file' | 'package' | 'fonts' | 'duplicate')[];
    }
  | { kind: 'picture'; bytes: Uint8Array }
  | { kind: 'font'; bytes: Uint8Array }
  | { kind: 'file'; name: string; bytes: Uint8Array }
  | { kind: 'request'; method: string; path: string; headers: Record<string, string>; body: Uint8Array | undefined };

/** A copy with the value at a path replaced. */
function withValue(value: unknown, path: readonly (string | number)[], replacement: unknown): unknown {
  const [head, ...rest] = path;
  if (head === undefined) return replacement;
  if (Array.isArray(value)) return value.map((item: unknown, i) => (i === head ? withValue(item, rest, replacement) : item));
  const record = value as Record<string, unknown>;
  return { ...record, [head]: withValue(record[head], rest, replacement) };
}

/** Every place in a JSON value. */
function pathsOf(value: unknown, here: (string | number)[] = []): (string | number)[][] {
  if (typeof value !== 'object' || value === null) return [here];
  const entries = Array.isArray(value) ? value.map((item: unknown, i) => [i, item] as const) : Object.entries(value);
  return [here, ...entries.flatMap(([key, item]) => pathsOf(item, [...here, key]))];
}

const demoJobs = (): unknown[] =>
  readdirSync(join(root, 'demo'))
    .filter((name) => name.endsWith('.json'))
    .map((name) => JSON.parse(readFileSync(join(root, 'demo', name), 'utf8')) as unknown);

const number = fc.oneof(
  fc.constantFrom(0, -0, 1, -1, 0.1, 0.5, 1e-9, 1e9, 1e21, 1e308, -1e308, 5e-324, 20_000, 50_000, -50_000, 5000, 255, 360, 2 ** 31, 2 ** 53),
  fc.double({ min: -60_000, max: 60_000, noNaN: true }),
  fc.integer({ min: -1000, max: 6000 }),
);
const words = fc.oneof(
  fc.constantFrom(
    'AVATAR',
    'VALLEY OF\nSTARS',
    'fi fl ffi office',
    'שלום עולם',
    'مرحبا بالعالم',
    'e\u0301\u0302\u0303',
    '👩‍👩‍👧 🏳️‍🌈',
    '\u0000\u0001',
    '\u200b\u00ad\u2028\u0085\t',
    'straße ﬁ ǆ',
    '𝕏\ud800',
    '',
  ),
  fc.string({ unit: 'binary', maxLength: 60 }),
  fc.string({ unit: 'grapheme', maxLength: 300 }),
);
const anything = fc.oneof(
  number,
  words,
  fc.constantFrom(null, true, false, [], {}, '#ff0000', 'font', 'weighed', 'shape', 'small', 'fixed', 'both', 'justify'),
  fc.anything({ maxDepth: 2 }),
);

const faceIds = ['playfair-display-bold', 'eb-garamond-regular', 'source-sans-3-regular', 'league-gothic-regular', 'alegreya-medium', 'no-such-face'];

/** A job that is accepted: made from the schema of today's format, and put right where its parts must fit each other. */
export const soundJob = (
  fromSchema(jobJsonSchema() as JsonSchema, {
    words,
    faceId: fc.constantFrom(...faceIds),
    title: fc.constant('Fuzz'),
    language: fc.constantFrom(null, 'de', 'tr', 'ar', 'zh-Hant'),
    // Other jobs and pictures are asked for, and mostly not there.
    jobId: fc.constantFrom(null, 'no-such-job'),
    pictureId: fc.constant('none'),
  }) as fc.Arbitrary<Job>
).map((job) => ({
  ...job,
  sheets: job.sheets
    .slice(0, 2)
    .map((sheet, s) => ({ ...sheet, id: `s${s}`, blocks: sheet.blocks.map((block, b) => fitting({ ...block, id: `b${s}-${b}` })) })),
}));

/** A block whose runs and places are inside its words, in order, and apart. */
function fitting(block: Block): Block {
  const { length } = block.words;
  const apart = <T extends { start: number; end: number }>(all: readonly T[]): T[] => {
    let from = 0;
    return all.flatMap((one) => {
      const [start, end] = [from + (one.start % 4), from + (one.start % 4) + 1 + (one.end % 6)];
      if (end > length) return [];
      from = end;
      return [{ ...one, start, end }];
    });
  };
  const places = <T extends { at: number }>(all: readonly T[], least = 1): T[] => {
    const found = new Map(all.map((one) => [least + (one.at % Math.max(1, length - least)), one]));
    return [...found].sort(([a], [b]) => a - b).flatMap(([at, one]) => (at < length ? [{ ...one, at }] : []));
  };
  return {
    ...block,
    ...{ runs: apart(block.runs), tightened: apart(block.tightened), hand: places(block.hand), lineLeading: places(block.lineLeading) },
    ...{ lineIndents: places(block.lineIndents, 0), parked: block.parked.map((one) => ({ ...one, hand: places(one.hand) })) },
  };
}

/** A demo job with some of its values replaced. */
const bentJob = fc.record({ pick: fc.nat(), changes: fc.array(fc.tuple(fc.nat(), anything), { minLength: 1, maxLength: 4 }) }).map(({ pick, changes }) => {
  const jobs = demoJobs();
  let job = jobs[pick % jobs.length];
  for (const [place, value] of changes) {
    const paths = pathsOf(job);
    job = withValue(job, paths[place % paths.length] ?? [], value);
  }
  return job;
});

const steps = fc.shuffledSubarray(
  ['thumbnail', 'svg', 'text', 'png', 'zip', 'pdf', 'words', 'page', 'webp', 'file', 'package', 'fonts', 'duplicate'] as const,
  { minLength: 1, maxLength: 2 },
);
const job = fc.record({ kind: fc.constant('job' as const), job: fc.oneof(soundJob, bentJob), then: steps });

/** Bytes with some of them changed, cut or doubled. */
const bent = (originals: readonly Uint8Array[]): fc.Arbitrary<Uint8Array> =>
  fc
    .record({
      pick: fc.nat(),
      changes: fc.array(fc.tuple(fc.nat(), fc.integer({ min: 0, max: 255 })), { maxLength: 12 }),
      head: fc.boolean(),
      cut: fc.option(fc.nat(), { freq: 4 }),
    })
    .map(({ pick, changes, head, cut }) => {
      const bytes = Uint8Array.from(originals[pick % originals.length] ?? []);
      for (const [at, value] of changes) bytes[at % Math.min(bytes.length, head ? 400 : bytes.length)] = value;
      return cut === null ? bytes : bytes.subarray(0, cut % bytes.length);
    });

const svgNumber = fc.oneof(
  fc.constantFrom('0', '-1', '1e38', '-1e38', '1e-38', 'NaN', '100%', '', '1e9', '3.4e38'),
  fc.integer({ min: -50, max: 200 }).map(String),
);
const attribute = fc.oneof(
  fc.tuple(
    fc.constantFrom(
      'x',
      'y',
      'width',
      'height',
      'r',
      'rx',
      'ry',
      'cx',
      'cy',
      'stroke-width',
      'opacity',
      'stdDeviation',
      'radius',
      'order',
      'numOctaves',
      'baseFrequency',
      'scale',
    ),
    svgNumber,
  ),
  fc.tuple(
    fc.constant('d'),
    fc
      .array(fc.tuple(fc.constantFrom('M', 'L', 'A', 'C', 'Q', 'Z', 'h', 'v', 'a'), fc.array(svgNumber, { maxLength: 7 })), { maxLength: 5 })
      .map((parts) => `M0 0${parts.map(([c, n]) => c + n.join(' ')).join('')}`),
  ),
  fc.tuple(
    fc.constant('transform'),
    fc
      .tuple(fc.constantFrom('scale', 'translate', 'matrix', 'rotate', 'skewX'), fc.array(svgNumber, { maxLength: 6 }))
      .map(([name, n]) => `${name}(${n.join(' ')})`),
  ),
  fc.tuple(
    fc.constantFrom('fill', 'stroke', 'filter', 'mask', 'clip-path', 'marker-end'),
    fc.constantFrom('url(#a)', 'url(#b)', 'red', 'none', 'url(/etc/hosts)'),
  ),
  fc.tuple(fc.constantFrom('href', 'xlink:href'), fc.constantFrom('#a', '#b', '/dev/zero', 'data:image/png;base64,AAAA', 'http://127.0.0.1:1/x')),
  fc.tuple(fc.constantFrom('id'), fc.constantFrom('a', 'b')),
  fc.tuple(fc.constant('style'), fc.constantFrom('opacity:.3', 'fill:url(#a)', 'filter:url(#b)', 'fill:url(/x)', '}{', 'a:b')),
);
const elementName = fc.constantFrom(
  'g',
  'rect',
  'circle',
  'path',
  'line',
  'polygon',
  'text',
  'use',
  'image',
  'mask',
  'clipPath',
  'pattern',
  'filter',
  'feGaussianBlur',
  'feTurbulence',
  'feMorphology',
  'feImage',
  'feTile',
  'feConvolveMatrix',
  'linearGradient',
  'radialGradient',
  'stop',
  'symbol',
  'svg',
  'marker',
  'style',
  'switch',
  'script',
);
const elementWith = (inside: fc.Arbitrary<string[]>): fc.Arbitrary<string> =>
  fc.tuple(elementName, fc.array(attribute, { maxLength: 6 }), inside).map(([name, attributes, parts]) => {
    const own = [...new Map(attributes).entries()].map(([key, value]) => ` ${key}="${value}"`).join('');
    return `<${name}${own}>${parts.join('')}</${name}>`;
  });
const element = fc.letrec<{ node: string }>((tie) => ({
  node: fc.oneof({ maxDepth: 5 }, elementWith(fc.constant([])), elementWith(fc.array(tie('node'), { minLength: 1, maxLength: 3 }))),
})).node;
const svg = fc
  .tuple(fc.constantFrom('40', '300', '1e9', '0.001', '100%'), fc.array(element, { minLength: 1, maxLength: 6 }))
  .map(([size, inside]) =>
    new TextEncoder().encode(
      `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="${size}" height="60">${inside.join('')}</svg>`,
    ),
  );

const read = (path: string): Uint8Array => new Uint8Array(readFileSync(join(root, path)));

function pictures(): fc.Arbitrary<Input> {
  const sky = read('demo/pictures/night-sky.svg');
  const png = read('docs/screenshots/shelf.png');
  return fc.oneof({ weight: 3, arbitrary: svg }, bent([sky]), bent([png])).map((bytes) => ({ kind: 'picture', bytes }));
}

function fonts(): fc.Arbitrary<Input> {
  const files = readdirSync(join(root, 'faces/catalogue')).filter((name) => name.endsWith('.woff'));
  const originals = [
    read('faces/league-gothic-regular.ttf'),
    read('faces/alegreya-medium.ttf'),
    ...files.slice(0, 6).map((name) => read(`faces/catalogue/${name}`)),
  ];
  return bent(originals).map((bytes) => ({ kind: 'font', bytes }));
}

/** Files of other kinds, bent, under the names of any kind. */
function files(): fc.Arbitrary<Input> {
  const text = (words: string): Uint8Array => new TextEncoder().encode(words);
  const demo = readFileSync(join(root, 'demo/4-open-day-flyer.jentrix.json'), 'utf8');
  const face = { id: 'league-gothic-regular', family: 'League Gothic', style: 'Regular', bytes: read('faces/league-gothic-regular.ttf') };
  const originals: readonly (readonly [ending: string, bytes: Uint8Array])[] = [
    [
      '.svg',
      text(
        '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 400 300"><style>.a{font:bold 40px/1 "League Gothic",serif;letter-spacing:.1em}</style><g transform="rotate(4)"><text class="a" x="10 40 60" dy="1,2" y="50" text-anchor="middle" textLength="300">AV<tspan rotate="3 4" baseline-shift="super">A &amp;</tspan>To</text></g><rect width="9" height="9"/></svg>',
      ),
    ],
    ['.md', text('# Tide **table**\n\nLow *water*\n\n- one\n- two\n\n| a |\n|---|\n| b |\n')],
    [
      '.html',
      text('<h1 style="font-size:3em">Tide</h1><p>Low <b>water</b> <span style="color:rgb(1 2 3/.5);font-size:1e9px">at</span></p><ul><li>one<li>two</ul>'),
    ],
    ['.csv', text('words,size,x,y,tracking,colour\n"A, B",12mm,1,2,30,#ff0000\nC,,,,,\n')],
    ['.txt', text('Tide table\n\nLow water\r\nat noon\u2028\u0301')],
    ['.jentrix.zip', writePackage({ title: 'Flyer', job: demo, recipes: [], faces: [face], pictures: [], left: [] })],
  ];
  const kinds = originals.map(([ending, bytes]) => bent([bytes]).map((own) => ({ ending, bytes: own })));
  const misnamed = fc.record({ ending: fc.constantFrom(...originals.map(([ending]) => ending), '.exe', ''), bytes: bent(originals.map(([, bytes]) => bytes)) });
  return fc.oneof(...kinds, misnamed).map(({ ending, bytes }) => ({ kind: 'file', name: `brought${ending}`, bytes }));
}

const id = fc.oneof(
  fc.constantFrom('..%2f..%2fpackage.json', '%00', '%ff', '', '.', '..', "'", '%27%20OR%201=1', 'a'.repeat(3000), '🦉', '__proto__'),
  fc.string({ maxLength: 12 }).map(encodeURIComponent),
);
const path = fc
  .tuple(
    fc.constantFrom(
      '/api/jobs',
      '/api/faces',
      '/api/pictures',
      '/api/recipes',
      '/api/catalogue',
      '/api/preferences',
      '/api/schema/job.json',
      '/api/nothing',
      '/api/intake',
      '/api/intake/read',
      '/api/openapi.json',
      '',
      '/assets',
    ),
    fc.option(id),
    fc.constantFrom(
      '',
      '/file',
      '/sheets',
      '/sheets/x/png',
      '/sheets.zip',
      '/thumbnail.png',
      '/favourite',
      '/followers',
      '/forever',
      '/add',
      '/restore',
      '/pairs?fonts=true',
      '/package',
      '/pulls',
    ),
    fc.constantFrom('', '?page=1e9', '?q=%25', '?scale=3', '?sort=document', '?page[]=1&page[]=2', '?q=' + 'x'.repeat(500), '?%'),
  )
  .map(([base, own, rest, query]) => `${base}${own === null ? '' : `/${own}`}${rest}${query}`);
const request = fc.record({
  kind: fc.constant('request' as const),
  method: fc.constantFrom('GET', 'POST', 'PUT', 'DELETE', 'PATCH', 'OPTIONS', 'HEAD'),
  path,
  headers: fc.dictionary(
    fc.constantFrom(
      'if-match',
      'if-none-match',
      'content-type',
      'origin',
      'sec-fetch-site',
      'accept-encoding',
      'content-encoding',
      'range',
      'x-forwarded-host',
    ),
    fc.constantFrom(
      '"1"',
      '*',
      'W/"9"',
      'application/json',
      'text/html',
      'gzip',
      'http://evil.example',
      'cross-site',
      'same-origin',
      'bytes=0-1',
      'null',
      '"' + '9'.repeat(400) + '"',
    ),
    { maxKeys: 3 },
  ),
  body: fc.option(
    fc.oneof(
      fc.anything({ maxDepth: 3 }).map((value) => new TextEncoder().encode(JSON.stringify(value) as string | undefined)),
      fc
        .constantFrom('{"job":', '[', '{"job":null}', '{"name":"x","settings":{}}', '{"favourite":"yes"}', '\ufeff{}')
        .map((text) => new TextEncoder().encode(text)),
      fc.uint8Array({ maxLength: 200 }),
    ),
    { nil: undefined },
  ),
});

/** `count` inputs of all kinds, from a seed. */
export function inputsOf(seed: number, count: number): Input[] {
  const all = fc.oneof(
    { weight: 8, arbitrary: job },
    { weight: 4, arbitrary: pictures() },
    { weight: 3, arbitrary: fonts() },
    { weight: 3, arbitrary: files() },
    { weight: 5, arbitrary: request },
  );
  return fc.sample<Input>(all, { seed, numRuns: count });
}
