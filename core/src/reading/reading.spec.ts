import type { FaceSet } from '../setting';
import { randomFrom, shippedFaces } from '../testing';
import { readPicture } from '.';
import { coverageOf } from './coverage';
import { inkShareOf } from './ink-share';
import { type Grey, greyOf } from './raster';
import { solve } from './solve';
import { type Spoiling, blockFor, pictureOf } from './testing';

const FACE = 'playfair-display-bold';
const SANS = 'source-sans-3-regular';

describe('reading a picture', () => {
  let faces: FaceSet;
  beforeAll(async () => {
    faces = await shippedFaces(FACE, SANS);
  });

  /** The words and face given to the reader: words and face. */
  const known = (words: string, face = FACE) => ({ block: blockFor(words, face, { sizePt: 20 }), faces });
  const drawn = (fill: (x: number, y: number) => number, width = 600, height = 400): Grey => {
    const values = new Uint8Array(width * height);
    for (let y = 0, i = 0; y < height; y++) for (let x = 0; x < width; x++, i++) values[i] = fill(x, y);
    return { width, height, values };
  };

  const SPOILT: readonly [string, Spoiling][] = [
    ['as rendered', { pixelsPerInch: 150 }],
    ['turned', { pixelsPerInch: 110, turnDeg: -2.7 }],
    ['reversed', { pixelsPerInch: 72, reversed: true }],
    ['blurred', { pixelsPerInch: 96, blurPt: 0.9 }],
    ['grainy', { pixelsPerInch: 96, noise: 26 }],
    ['in uneven light', { pixelsPerInch: 150, shade: 0.55 }],
    ['as poor JPEG', { pixelsPerInch: 110, jpeg: 32 }],
    ['all of it', { pixelsPerInch: 120, turnDeg: 1.9, reversed: true, blurPt: 0.5, noise: 14, shade: 0.3, jpeg: 55 }],
  ];
  for (const [what, spoiling] of SPOILT) {
    it(`finds size, leading and tracking of known words in a picture ${what}`, async () => {
      const words = 'Perseids over\nthe salt marsh';
      const made = blockFor(words, FACE, { sizePt: 37, trackingMilliem: 42, leading: 1.17, align: 'centre' });
      const { picture, words: found, why } = readPicture(await pictureOf(made, faces, spoiling), known(words));
      expect(why).toBeUndefined();
      expect(((found?.size ?? 0) * 72) / spoiling.pixelsPerInch / 37 - 1).toBeCloseTo(0, 2);
      expect(Math.abs((found?.trackingMilliem ?? 0) - 42)).toBeLessThan(4);
      expect(Math.abs((found?.leading ?? 0) / 1.17 - 1)).toBeLessThan(0.007);
      expect(Math.abs((found?.angleDeg ?? 9) - (spoiling.turnDeg ?? 0))).toBeLessThan(0.1);
      expect(found?.lines.map(({ start, end }) => words.slice(start, end))).toEqual(['Perseids over', 'the salt marsh']);
      expect(picture?.reversed).toBe(spoiling.reversed ?? false);
    });
  }

  it('measures lines without their words: baselines, angle, heights and distance', async () => {
    const made = blockFor('Hamburg exit\nnovel hexes\nunder the arches', SANS, { sizePt: 48, leading: 1.5 });
    const { picture, words } = readPicture(await pictureOf(made, faces, { pixelsPerInch: 144, turnDeg: 2 }));
    expect(words).toBeUndefined();
    expect(picture?.lines.length).toBe(3);
    expect(picture?.angleDeg).toBeCloseTo(2, 0);
    expect(Math.abs((picture?.pitch ?? 0) / 144 - 1)).toBeLessThan(0.01);
    const { metrics, unitsPerEm } = faces.instance({ faceId: SANS, axes: {} });
    for (const line of picture?.lines ?? []) {
      expect(Math.abs((line.xHeight ?? 0) / ((96 * metrics.xHeight) / unitsPerEm) - 1)).toBeLessThan(0.045);
      expect(line.capHeight).toBeGreaterThan(line.xHeight ?? Infinity);
      expect(line.sure).toBeGreaterThan(0.7);
      // Baselines run at the angle.
      expect((Math.atan2(line.to.y - line.from.y, line.to.x - line.from.x) * 180) / Math.PI).toBeCloseTo(picture?.angleDeg ?? 0, 1);
    }
  });

  it('finds words where the picture breaks their lines otherwise, and among others of another size', async () => {
    const words = 'Bring a blanket, a flask and somebody';
    const broken = blockFor('OPEN NIGHT\nBring a blanket,\na flask and\nsomebody', FACE, { sizePt: 30, leading: 1.3 });
    const made = { ...broken, runs: [{ start: 0, end: 10, style: { sizePt: 64 } }] };
    const { words: found } = readPicture(await pictureOf(made, faces, { pixelsPerInch: 120 }), known(words));
    expect(found?.lines.map(({ start, end }) => words.slice(start, end))).toEqual(['Bring a blanket,', 'a flask and', 'somebody']);
    expect(Math.abs((found?.size ?? 0) / 50 - 1)).toBeLessThan(0.01);
    expect(found?.leading).toBeCloseTo(1.3, 1);
  });

  it('tells where a single letter stands off its place', async () => {
    const words = 'HARVEST';
    const made = { ...blockFor(words, FACE, { sizePt: 60 }), hand: [{ at: 3, milliem: 60 }] };
    const { words: found } = readPicture(await pictureOf(made, faces, { pixelsPerInch: 144 }), known(words));
    const letters = found?.lines[0]?.letters ?? [];
    const plain = readPicture(await pictureOf({ ...made, hand: [] }, faces, { pixelsPerInch: 144 }), known(words)).words?.lines[0]?.letters ?? [];
    const gap = (of: typeof letters, i: number): number => (of[i]?.x ?? 0) - (of[i - 1]?.x ?? 0);
    for (let i = 1; i < words.length; i++)
      expect(Math.abs(gap(letters, i) - gap(plain, i) - (i === 3 ? 7.2 : 0)))
        .withContext(words.slice(i - 1, i + 1))
        .toBeLessThan(0.8);
    for (const { error } of letters) expect(error).toBeLessThan(0.5);
  });

  it('says so where there is no type', () => {
    const random = randomFrom(5);
    const none: Readonly<Record<string, Grey>> = {
      blank: drawn(() => 240),
      'a gradient': drawn((x) => (x / 600) * 255),
      noise: drawn(() => random() * 255),
      'a chequered board': drawn((x, y) => (((x >> 5) + (y >> 5)) % 2) * 220),
      stripes: drawn((_, y) => ((y >> 4) % 2) * 220),
      'rows of dots': drawn((x, y) => (Math.hypot((x % 50) - 25, (y % 60) - 30) < 18 ? 10 : 240)),
      'a speck': drawn((x, y) => (x === 5 && y === 5 ? 0 : 255)),
      'one pixel': drawn(() => 0, 1, 1),
    };
    for (const [what, picture] of Object.entries(none)) {
      expect(readPicture(picture).why).withContext(what).toBe('no type');
      expect(readPicture(picture, known('Perseids over')).words)
        .withContext(what)
        .toBeUndefined();
    }
  });

  it('says so where the words are others', async () => {
    const made = blockFor('Perseids over\nthe salt marsh', FACE, { sizePt: 40 });
    const picture = await pictureOf(made, faces, { pixelsPerInch: 110 });
    expect(readPicture(picture, known('Open night at the dome')).why).toBe('other words');
    expect(readPicture(picture, known('')).why).toBe('other words');
    expect(readPicture(picture, known('Perseids over the salt marsh')).why).toBeUndefined();
  });

  it('tells how far it has come', async () => {
    const shares: number[] = [];
    readPicture(await pictureOf(blockFor('Look up', FACE, { sizePt: 40 }), faces, { pixelsPerInch: 96 }), known('Look up'), (share) => shares.push(share));
    expect(shares).toEqual([...shares].sort((a, b) => a - b));
    expect(shares.at(-1)).toBe(1);
  });
});

describe('parts of reading', () => {
  it('covers pixels by exactly the area that lies in them', () => {
    const box = (left: number, top: number, right: number, bottom: number) =>
      Float64Array.from([left, top, right, top, right, top, right, bottom, right, bottom, left, bottom, left, bottom, left, top]);
    const tile = coverageOf(box(0, 0, 2.5, 1.25), { cos: 1, sin: 0, x: 0.25, y: 0.5 }, 1);
    const at = (x: number, y: number): number => tile?.values[(y - tile.y) * tile.width + x - tile.x] ?? NaN;
    expect([at(0, 0), at(1, 0), at(2, 0), at(1, 1)].map((value) => Math.round(value * 1000))).toEqual([375, 500, 375, 750]);
    const turned = coverageOf(box(-3, -1, 3, 1), { cos: Math.cos(0.4), sin: Math.sin(0.4), x: 8.3, y: 9.1 }, 2);
    expect(turned?.values.reduce((sum, value) => sum + value, 0)).toBeCloseTo(12, 4);
  });

  it('tells paper from ink under light that falls off', () => {
    const width = 120;
    const values = Uint8Array.from({ length: width * 80 }, (_, i) => {
      const x = i % width;
      return (x % 12 < 4 ? 30 : 220) * (1 - (0.5 * x) / width);
    });
    const share = inkShareOf({ width, height: 80, values });
    expect(share?.reversed).toBeFalse();
    for (let x = 0; x < width; x++) expect(share?.values[40 * width + x]).toBeCloseTo(x % 12 < 4 ? 1 : 0, 0);
    expect(inkShareOf({ width, height: 80, values: values.fill(128) })).toBeUndefined();
  });

  it('makes grey of colours on white', () => {
    expect([...greyOf(Uint8Array.of(255, 0, 0, 255, 0, 0, 0, 0, 255, 255, 255, 255, 0, 0, 0, 128), 2, 2).values]).toEqual([54, 255, 255, 127]);
    expect(() => greyOf(new Uint8Array(3), 1, 1)).toThrowError(RangeError);
  });

  it('solves systems, and says where nothing determines them', () => {
    expect([...(solve([4, 1, 1, 3], [1, 2]) ?? [])].map((x) => Math.round(x * 1e6) / 1e6)).toEqual([0.090909, 0.636364]);
    expect(solve([1, 1, 1, 1], [1, 2])).toBeUndefined();
  });
});
