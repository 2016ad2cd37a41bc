import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { zlibSync } from 'fflate';
import { fontBytes, openShipped, toCollection } from '../testing';
import { Face, FaceError, type FaceErrorCode, controlBounds, fontsIn, loadHarfBuzz, pathData, printNumber, startPosition } from './index';
import { HbBuffer, HbFace, freePlace } from './harfbuzz';
import type { PathCommand } from './outline';

async function refusal(bytes: Uint8Array, font?: number): Promise<FaceErrorCode> {
  try {
    (await Face.open(bytes, { font })).dispose();
  } catch (error) {
    if (error instanceof FaceError) {
      expect(error.message.length).toBeGreaterThan(15);
      return error.code;
    }
    throw error;
  }
  throw new Error('was opened');
}

/** Where HarfBuzz would put a block of this size: climbs when memory leaks. */
async function heapAddress(bytes: number): Promise<number> {
  await loadHarfBuzz();
  return freePlace(bytes);
}

function toWoff(sfnt: Uint8Array): Uint8Array {
  const view = new DataView(sfnt.buffer, sfnt.byteOffset);
  const count = view.getUint16(4);
  const parts: Uint8Array[] = [];
  const head = new Uint8Array(44 + count * 20);
  const out = new DataView(head.buffer);
  out.setUint32(0, 0x774f4646);
  out.setUint32(4, view.getUint32(0));
  out.setUint16(12, count);
  let offset = head.byteLength;
  for (let i = 0; i < count; i++) {
    const at = 12 + i * 16;
    const data = sfnt.subarray(view.getUint32(at + 8), view.getUint32(at + 8) + view.getUint32(at + 12));
    const packed = zlibSync(data);
    const stored = packed.byteLength < data.byteLength ? packed : data;
    out.setUint32(44 + i * 20, view.getUint32(at));
    out.setUint32(48 + i * 20, offset);
    out.setUint32(52 + i * 20, stored.byteLength);
    out.setUint32(56 + i * 20, data.byteLength);
    out.setUint32(60 + i * 20, view.getUint32(at + 4));
    parts.push(stored);
    offset += stored.byteLength;
  }
  const woff = new Uint8Array(offset);
  woff.set(head);
  let at = head.byteLength;
  for (const part of parts) {
    woff.set(part, at);
    at += part.byteLength;
  }
  return woff;
}

describe('face', () => {
  it('reads names, metrics and features', async () => {
    const face = await openShipped('playfair-display-bold');
    expect(face.family).toBe('Playfair Display');
    expect(face.style).toBe('Bold');
    expect(face.unitsPerEm).toBe(1000);
    const { ascender, descender, capHeight, xHeight } = face.metrics;
    expect(ascender).toBeGreaterThan(capHeight);
    expect(capHeight).toBeGreaterThan(xHeight);
    expect(xHeight).toBeGreaterThan(0);
    expect(descender).toBeLessThan(0);
    expect(face.features).toContain('kern');
    expect(face.axes).toEqual([]);
    face.dispose();
  });

  it('shapes and draws', async () => {
    const face = await openShipped('playfair-display-bold');
    const instance = face.instance();
    const [v, a] = instance.shape('VA', 0, 2);
    expect(v?.cluster).toBe(0);
    expect(a?.cluster).toBe(1);
    const unkerned = instance.shape('VA', 0, 2, [{ tag: 'kern', value: 0 }]);
    expect(v?.xAdvance).toBeLessThan(unkerned[0]?.xAdvance ?? 0);
    expect(unkerned[0]?.xAdvance).toBe(instance.advance(v?.glyphId ?? 0));
    const outline = instance.outline(v?.glyphId ?? 0);
    expect(outline[0]?.type).toBe('M');
    expect(outline[outline.length - 1]?.type).toBe('Z');
    const bounds = controlBounds(outline);
    expect(bounds?.yMax).toBeGreaterThanOrEqual(face.metrics.capHeight - 2);
    expect(pathData(outline, { a: 0.1, b: 0, c: 0, d: -0.1, e: 0, f: 0 })).toMatch(/^M[\d.-]+,[\d.-]+/);
    expect(controlBounds(instance.outline(instance.nominalGlyph(32) ?? 0))).toBeUndefined();
    face.dispose();
  });

  it('shapes, draws and reads as the package’s own methods do', async () => {
    const other = await import('harfbuzzjs');
    await loadHarfBuzz();
    for (const id of ['eb-garamond-regular', 'playfair-display-italic', 'source-sans-3-bold']) {
      const bytes = fontBytes(id);
      const [theirs, own] = [new other.Face(new other.Blob(bytes)), new HbFace(bytes)];
      const [theirFont, ownFont] = [new other.Font(theirs), own.fontAt([])];
      for (const words of ['office', 'A\u0308VATAR é', '\u202eTo\u202c', '', 'To, “Wave”', 'Эхо Ωμέγα']) {
        const buffer = new other.Buffer();
        buffer.addText(words, 0, words.length);
        buffer.guessSegmentProperties();
        other.shape(theirFont, buffer, [new other.Feature('kern', 0), new other.Feature('smcp', 1, 1, 3)]);
        const positions = buffer.getGlyphPositions();
        const ownBuffer = new HbBuffer();
        ownBuffer.fill(words, 0, words.length, {});
        ownFont.shape(ownBuffer, [
          { tag: 'kern', value: 0 },
          { tag: 'smcp', value: 1, start: 1, end: 3 },
        ]);
        expect(ownBuffer.glyphs()).toEqual(
          buffer.getGlyphInfos().map(({ codepoint, cluster, flags }, i) => {
            const { xAdvance = 0, xOffset = 0, yOffset = 0 } = positions[i] ?? {};
            return { glyphId: codepoint, cluster, xAdvance, xOffset, yOffset, unsafeToBreak: (flags & 1) !== 0 };
          }),
        );
        ownBuffer.free();
      }
      for (let glyph = 0; glyph < 300; glyph++) {
        expect(ownFont.outline(glyph)).toEqual(theirFont.glyphToJson(glyph) as PathCommand[]);
        expect([ownFont.advance(glyph), ownFont.glyphName(glyph)]).toEqual([theirFont.glyphHAdvance(glyph), theirFont.glyphName(glyph)]);
        expect(ownFont.topOf(glyph)).toBe(theirFont.glyphExtents(glyph)?.yBearing);
      }
      expect(own.codePoints()).toEqual([...theirs.collectUnicodes()]);
      expect([own.features('GSUB'), own.features('GPOS')]).toEqual([theirs.getTableFeatureTags('GSUB'), theirs.getTableFeatureTags('GPOS')]);
      expect(own.features('GSUB').map((_, i) => own.featureNameId(i))).toEqual(
        own.features('GSUB').map((_, i) => theirs.getFeatureNameIds('GSUB', i)?.uiLabelNameId),
      );
      expect([...own.axes().values()]).toEqual(
        Object.values(theirs.getAxisInfos()).map(({ tag, nameId, min, default: initial, max }) => ({ tag, nameId, min, default: initial, max })),
      );
      for (const name of [0, 1, 2, 4, 16, 9999]) expect(own.nameText(name)).toBe(theirs.getName(name, 'en'));
      expect(own.table('OS/2')).toEqual(theirs.referenceTable('OS/2')?.slice());
      expect(own.table('nope')).toBeUndefined();
      expect(ownFont.verticals()).toEqual(theirFont.hExtents());
      ownFont.free();
      ownFont.free();
      own.free();
    }
  });

  it('opens the same face from WOFF', async () => {
    const plain = await openShipped('league-gothic-regular');
    const packed = await Face.open(toWoff(fontBytes('league-gothic-regular')));
    expect(packed.family).toBe(plain.family);
    expect(packed.metrics).toEqual(plain.metrics);
    expect(packed.instance().shape('Vega', 0, 4)).toEqual(plain.instance().shape('Vega', 0, 4));
    plain.dispose();
    packed.dispose();
  });

  it('opens each font of a collection as it opens it alone, and says what is wrong with one', async () => {
    const alone = ['league-gothic-regular', 'playfair-display-bold'].map(fontBytes);
    const file = toCollection(...alone);
    expect(await fontsIn(file)).toEqual([
      { font: 0, family: 'League Gothic', style: 'Regular' },
      { font: 1, family: 'Playfair Display', style: 'Bold' },
    ]);
    for (const [font, bytes] of alone.entries()) {
      const [plain, taken] = [await Face.open(bytes), await Face.open(file, { font })];
      expect(taken.instance().shape('Vega', 0, 4)).toEqual(plain.instance().shape('Vega', 0, 4));
      expect(taken.features).toEqual(plain.features);
      plain.dispose();
      taken.dispose();
    }
    expect(await refusal(file)).toBe('collection');
    expect(await refusal(file, 2)).toBe('no-such-font');
    expect(await refusal(file.slice(0, 14), 0)).toBe('truncated');
    expect(await refusal(file.slice(0, 4000), 1)).toBe('truncated');
    (await Face.open(toCollection(alone[0] as Uint8Array))).dispose();
    const damaged = file.slice();
    new DataView(damaged.buffer).setUint32(8, 4_000_000_000);
    expect(await refusal(damaged, 0)).toBe('damaged');
    // One damaged font of several is left out; where none is left, what is wrong with the first is told.
    const half = file.slice();
    new DataView(half.buffer).setUint32(12, 0xfffffff0);
    expect((await fontsIn(half)).map(({ font }) => font)).toEqual([1]);
    await expectAsync(fontsIn(toCollection(new Uint8Array(12)))).toBeRejectedWithError(FaceError);
  });

  it('says what is wrong with a file that is no font', async () => {
    const bytes = fontBytes('league-gothic-regular');
    const withTag = (tag: string): Uint8Array => {
      const copy = bytes.slice();
      copy.set(new TextEncoder().encode(tag));
      return copy;
    };
    expect(await refusal(new Uint8Array())).toBe('empty');
    expect(await refusal(new TextEncoder().encode('hi'))).toBe('not-a-font');
    expect(await refusal(new TextEncoder().encode('<html><body>Not found</body></html>'))).toBe('not-a-font');
    expect(await refusal(withTag('ttcf'))).toBe('damaged');
    expect(await refusal(withTag('wOF2'))).toBe('unsupported');
    for (const share of [0.02, 0.3, 0.5, 0.9, 0.999]) {
      expect(await refusal(bytes.slice(0, Math.floor(bytes.byteLength * share)))).toBe('truncated');
    }
  });

  it('says what is wrong inside a font', async () => {
    const bytes = fontBytes('league-gothic-regular');
    const view = new DataView(bytes.buffer);
    const record = (tag: string): number => {
      for (let i = 0; i < view.getUint16(4); i++) {
        const at = 12 + i * 16;
        if (String.fromCharCode(...bytes.subarray(at, at + 4)) === tag) return at;
      }
      throw new Error(tag);
    };
    const changed = (change: (view: DataView) => void): Uint8Array => {
      const copy = bytes.slice();
      change(new DataView(copy.buffer));
      return copy;
    };
    const table = (tag: string): number => view.getUint32(record(tag) + 8);
    const rename = (tag: string) => changed((v) => v.setUint32(record(tag), 0x7a7a7a7a));
    expect(await refusal(rename('cmap'))).toBe('missing-table');
    expect(await refusal(rename('glyf'))).toBe('no-outlines');
    expect(await refusal(changed((v) => v.setUint16(table('head') + 18, 0)))).toBe('damaged');
    expect(await refusal(changed((v) => v.setUint32(table('head') + 12, 1)))).toBe('damaged');
    expect(await refusal(changed((v) => v.setUint16(table('maxp') + 4, 0)))).toBe('no-glyphs');
    expect(await refusal(changed((v) => v.setUint16(table('hhea') + 34, 0)))).toBe('damaged');
    expect(await refusal(changed((v) => v.setUint16(table('loca') + 4, 0xffff)))).toBe('damaged');
  });

  it('refuses a WOFF that unpacks to more than it says, without unpacking it', async () => {
    const bomb = zlibSync(new Uint8Array(50_000_000));
    const file = new Uint8Array(64 + bomb.byteLength);
    const view = new DataView(file.buffer);
    view.setUint32(0, 0x774f4646);
    view.setUint32(4, 0x00010000);
    view.setUint16(12, 1);
    view.setUint32(44, 0x676c7966);
    view.setUint32(48, 64);
    view.setUint32(52, bomb.byteLength);
    view.setUint32(56, bomb.byteLength + 10);
    file.set(bomb, 64);
    expect(await refusal(file)).toBe('damaged');
  });

  it('survives 600 mutated files: each is refused with a reason or answers sanely, and nothing leaks', async () => {
    const sources = ['league-gothic-regular', 'josefin-sans-regular'].map(fontBytes);
    sources.push(toWoff(sources[0] as Uint8Array));
    const before = await heapAddress(16_000_000);
    let refused = 0;
    let opened = 0;
    const mutation = fc.record({
      source: fc.nat({ max: sources.length - 1 }),
      keep: fc.oneof(
        { weight: 3, arbitrary: fc.constant(1) },
        fc.nat({ max: 1000 }).map((n) => n / 1000),
      ),
      edits: fc.array(
        fc.record({ place: fc.nat({ max: 999_999 }).map((n) => n / 1_000_000), inHead: fc.nat({ max: 40 }).map((n) => n === 7), byte: fc.nat({ max: 255 }) }),
        { minLength: 1, maxLength: 24 },
      ),
    });
    await fc.assert(
      fc.asyncProperty(mutation, async ({ source, keep, edits }) => {
        const original = sources[source] as Uint8Array;
        const bytes = original.slice(0, Math.ceil(original.byteLength * keep));
        for (const { place, inHead, byte } of edits) bytes[Math.floor(place * (inHead ? 400 : bytes.byteLength))] = byte;
        try {
          const face = await Face.open(bytes);
          opened++;
          const instance = face.instance();
          for (const glyph of instance.shape('AVATAR fi', 0, 9)) {
            expect(Number.isFinite(glyph.xAdvance)).toBeTrue();
            expect(instance.outline(glyph.glyphId).length).toBeLessThan(200_000);
          }
          face.dispose();
        } catch (error) {
          if (!(error instanceof FaceError)) throw error;
          refused++;
        }
      }),
      { numRuns: 600, seed: 20260812 },
    );
    expect(refused).toBeGreaterThan(100);
    expect(opened).toBeGreaterThan(20);
    expect((await heapAddress(16_000_000)) - before).toBeLessThan(48_000_000);
  });

  it('frees a face when told to: 1000 openings take no more memory than a few', async () => {
    const bytes = fontBytes('eb-garamond-regular');
    for (let i = 0; i < 5; i++) (await Face.open(bytes)).dispose();
    const before = await heapAddress(8_000_000);
    for (let i = 0; i < 1000; i++) {
      const face = await Face.open(bytes);
      face.instance().shape('Wrayfold', 0, 8);
      face.dispose();
    }
    // Where the heap is in pieces the probe lands a few times its size off; the bytes of a face lost at each opening would be 490 MB.
    expect((await heapAddress(8_000_000)) - before).toBeLessThan(48_000_000);
    const face = await Face.open(bytes);
    face.dispose();
    expect(() => face.instance()).toThrowError(/closed/);
  });

  it('shapes 400,000 strings in one synchronous loop', async () => {
    const face = await openShipped('league-gothic-regular');
    const instance = face.instance();
    const reference = JSON.stringify(instance.shape('Vega & Altair', 0, 13));
    const shapeMany = (count: number): number => {
      let glyphs = 0;
      for (let i = 0; i < count; i++) glyphs += instance.shape('VA', 0, 2, [{ tag: 'kern', value: i % 2 }]).length;
      return glyphs;
    };
    // What is kept for the next time is there then, and takes no more of the room that the probe had.
    shapeMany(10);
    const before = await heapAddress(1_000_000);
    expect(shapeMany(400_000)).toBe(800_000);
    expect(JSON.stringify(instance.shape('Vega & Altair', 0, 13))).toBe(reference);
    // Where the heap is in pieces the probe lands a few megabytes off; 100 bytes lost a string would be 40.
    expect((await heapAddress(1_000_000)) - before).toBeLessThan(30_000_000);
    face.dispose();
  });

  it('takes a variable face up at regular weight and the optical size of the type, and names its positions', async () => {
    const bytes = new Uint8Array(readFileSync(new URL('../../../faces/catalogue/fraunces-variable.ttf', import.meta.url)));
    const face = await Face.open(bytes);
    const start = startPosition(face.axes, 48);
    expect(start['wght'] ?? face.axes.find(({ tag }) => tag === 'wght')?.default).toBe(400);
    expect(start['opsz']).toBe(48);
    expect(startPosition(face.axes, 5000)['opsz']).toBe(face.axes.find(({ tag }) => tag === 'opsz')?.max);
    expect(startPosition([], 48)).toEqual({});
    expect(face.namedInstances.some(({ name }) => name.includes('Bold'))).toBeTrue();
    const heavy = face.instance({ wght: 900 }).shape('H', 0, 1)[0]?.xAdvance ?? 0;
    expect(heavy).toBeGreaterThan(face.instance({ wght: 400 }).shape('H', 0, 1)[0]?.xAdvance ?? heavy);
    face.dispose();
  });

  it('refuses a WOFF2 whose tables claim more than is opened, before a decoder makes room for them', async () => {
    const decoder = jasmine.createSpy('decoder').and.resolveTo(new Uint8Array(0));
    const open = (directory: readonly number[], tables = 1): Promise<unknown> => {
      const bytes = new Uint8Array(200);
      const view = new DataView(bytes.buffer);
      view.setUint32(0, 0x774f4632);
      view.setUint32(8, 200);
      view.setUint16(12, tables);
      bytes.set(directory, 48);
      return Face.open(bytes, { decodeWoff2: decoder });
    };
    const gigabytes = [0x87, 0x89, 0xf5, 0x80, 0x00]; // 1.9 GB as UIntBase128
    await expectAsync(open([10, ...gigabytes, 0x01])).toBeRejectedWithError(FaceError, /unpacks to more/);
    await expectAsync(open([10, 0x01, ...gigabytes])).toBeRejectedWithError(FaceError, /unpacks to more/);
    await expectAsync(open([63, 1, 2, 3, 4, ...gigabytes])).toBeRejectedWithError(FaceError, /unpacks to more/);
    await expectAsync(open([1, 0x80, 0x80, 0x80, 0x80, 0x80, 0x80])).toBeRejectedWithError(FaceError, /can’t be read/);
    await expectAsync(open([1, 5], 9000)).toBeRejectedWithError(FaceError, /table directory/);
    expect(decoder).not.toHaveBeenCalled();
    await expectAsync(open([1, 5])).toBeRejected();
    expect(decoder).toHaveBeenCalledTimes(1);
  });

  it('prints numbers as rounding does, without exponents', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -1e12, max: 1e12, noNaN: true }),
        fc.integer({ min: 0, max: 6 }),
        fc.integer({ min: 0, max: 9 }),
        (value, digits, smaller) => {
          const number = value / 10 ** smaller;
          const text = printNumber(number, digits);
          if (!/^(0|-?(0\.\d*[1-9]|[1-9]\d*(\.\d*[1-9])?))$/.test(text)) throw new Error(`${number} was printed as ${text}`);
          // Half a last digit, and what a double can't tell apart.
          if (Math.abs(Number(text) - number) > 0.5000001 * 10 ** -digits + Math.abs(number) * 1e-15) throw new Error(`${number} was printed as ${text}`);
        },
      ),
      { numRuns: 2000 },
    );
    expect([0, -0, 0.00004, -0.00004, 12.5, -0.25, 1e9, 3e20].map((value) => printNumber(value, 4))).toEqual([
      '0',
      '0',
      '0',
      '0',
      '12.5',
      '-0.25',
      '1000000000',
      '300000000000000000000',
    ]);
  });
});

/** A shipped font with other tables in the place of, or beside, its own; checksums are left alone. */
function withTables(bytes: Uint8Array, tables: Readonly<Record<string, Uint8Array>>): Uint8Array {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const kept = Array.from({ length: view.getUint16(4) }, (_, i) => {
    const at = 12 + i * 16;
    const tag = String.fromCharCode(...bytes.subarray(at, at + 4));
    return [tag, bytes.subarray(view.getUint32(at + 8), view.getUint32(at + 8) + view.getUint32(at + 12))] as const;
  });
  const all = [...new Map([...kept, ...Object.entries(tables)])].filter(([, table]) => table.length > 0).sort(([a], [b]) => (a < b ? -1 : 1));
  const size = all.reduce((sum, [, table]) => sum + Math.ceil(table.length / 4) * 4, 12 + all.length * 16);
  const out = new Uint8Array(size);
  const head = new DataView(out.buffer);
  out.set(bytes.subarray(0, 4));
  head.setUint16(4, all.length);
  let at = 12 + all.length * 16;
  all.forEach(([tag, table], i) => {
    [...tag].forEach((letter, j) => (out[12 + i * 16 + j] = letter.charCodeAt(0)));
    head.setUint32(12 + i * 16 + 8, at);
    head.setUint32(12 + i * 16 + 12, table.length);
    out.set(table, at);
    at += Math.ceil(table.length / 4) * 4;
  });
  return out;
}

/** Numbers of two bytes each, upper byte first. */
const words = (...values: number[]): Uint8Array => Uint8Array.from(values.flatMap((value) => [(value >> 8) & 0xff, value & 0xff]));

describe('what the shaper leaves out', () => {
  const NONE = new Uint8Array();
  const open = (tables: Readonly<Record<string, Uint8Array>>) =>
    Face.open(withTables(fontBytes('source-sans-3-regular'), { GPOS: NONE, GSUB: NONE, ...tables }));
  let glyph: (letter: string) => number;
  beforeAll(async () => {
    const instance = (await openShipped('source-sans-3-regular')).instance();
    glyph = (letter) => instance.nominalGlyph(letter.codePointAt(0) ?? 0) ?? 0;
  });
  const kernOf = (face: Face, pair: string): number => {
    const width = (kern: number) =>
      face
        .instance()
        .shape(pair, 0, pair.length, [{ tag: 'kern', value: kern }])
        .reduce((sum, { xAdvance }) => sum + xAdvance, 0);
    return width(1) - width(0);
  };
  /** A `kern` table of version 0 with one subtable. */
  const kern = (coverage: number, ...body: number[]): Uint8Array => words(0, 1, 0, 6 + body.length * 2, coverage, ...body);

  it('reads kern tables: pairs, classes, Apple’s, and adds subtables up', async () => {
    const none = await open({});
    expect(kernOf(none, 'AV')).toBe(0);
    expect(none.features).not.toContain('kern');
    const pairs = (value: number) => [1, 6, 0, 0, glyph('A'), glyph('V'), value];
    const byPairs = await open({ kern: kern(1, ...pairs(-50)) });
    expect([kernOf(byPairs, 'AV'), kernOf(byPairs, 'VA'), kernOf(byPairs, 'AVAV')]).toEqual([-50, 0, -100]);
    expect(byPairs.features).toContain('kern');
    // Across marks, and not inside the range where it is off.
    expect(
      byPairs
        .instance()
        .shape('A\u0301V', 0, 3)
        .reduce((sum, { xAdvance }) => sum + xAdvance, 0),
    ).toBe(
      byPairs
        .instance()
        .shape('ÁV', 0, 2)
        .reduce((sum, { xAdvance }) => sum + xAdvance, 0),
    );
    expect(byPairs.instance().shape('AVAV', 0, 4, [{ tag: 'kern', value: 0, start: 0, end: 2 }])[1]?.unsafeToBreak).toBeFalse();
    expect(byPairs.instance().shape('AV', 0, 2)[1]?.unsafeToBreak).toBeTrue();
    // Format 2: header of 14 bytes, left classes of 6, right classes of 6, an array of 2 by 2.
    const byClasses = await open({ kern: kern(0x0201, 4, 14, 20, 26, glyph('A'), 1, 30, glyph('V'), 1, 2, 0, 0, 0, -70) });
    expect([kernOf(byClasses, 'AV'), kernOf(byClasses, 'AT'), kernOf(byClasses, 'TV')]).toEqual([-70, 0, 0]);
    const two = await open({ kern: words(0, 2, 0, 20, 1, ...pairs(-50), 0, 20, 1, ...pairs(-7)) });
    expect(kernOf(two, 'AV')).toBe(-57);
    // Upright and minimum values are none of ours.
    expect(kernOf(await open({ kern: kern(0, ...pairs(-50)) }), 'AV')).toBe(0);
    expect(kernOf(await open({ kern: kern(3, ...pairs(-50)) }), 'AV')).toBe(0);
    const apple = await open({ kern: words(1, 0, 0, 1, 0, 22, 0, 0, ...pairs(-33)) });
    expect(kernOf(apple, 'AV')).toBe(-33);
    const kerx = await open({ kerx: words(2, 0, 0, 1, 0, 34, 0, 0, 0, 0, 0, 1, 0, 6, 0, 0, 0, 0, glyph('A'), glyph('V'), -21) });
    expect(kernOf(kerx, 'AV')).toBe(-21);
  });

  it('sets fonts whose kern tables are cut short or nonsense', async () => {
    const whole = kern(1, 3, 6, 0, 0, glyph('A'), glyph('V'), -50);
    for (let length = 1; length < whole.length; length += 3) {
      const face = await open({ kern: whole.slice(0, length) });
      expect(face.instance().shape('AV', 0, 2).length).toBe(2);
    }
    await fc.assert(
      fc.asyncProperty(fc.uint8Array({ minLength: 4, maxLength: 120 }), fc.constantFrom('kern', 'kerx'), async (bytes, tag) => {
        const face = await open({ [tag]: bytes });
        expect(Number.isFinite(kernOf(face, 'AVAT'))).toBeTrue();
        face.dispose();
      }),
      { numRuns: 60 },
    );
  });

  it('places marks over, under and upon their letter where the font does not say how', async () => {
    const face = await open({});
    const instance = face.instance();
    const ink = (text: string) => {
      let pen = 0;
      return instance.shape(text, 0, text.length).map(({ glyphId, xAdvance, xOffset, yOffset }) => {
        const box = instance.inkBounds(glyphId)!;
        const at = { left: pen + xOffset + box.xMin, right: pen + xOffset + box.xMax, bottom: yOffset + box.yMin, top: yOffset + box.yMax };
        pen += xAdvance;
        return at;
      });
    };
    for (const text of ['x\u0301', 'X\u0302', 'q\u0308']) {
      const [base, mark] = ink(text);
      expect(mark!.bottom).withContext(text).toBeGreaterThan(base!.top);
      expect(Math.abs((mark!.left + mark!.right - base!.left - base!.right) / 2))
        .withContext(text)
        .toBeLessThan(2);
    }
    const [base, below] = ink('x\u0323');
    expect(below!.top).toBeLessThan(base!.bottom);
    const [, first, second] = ink('x\u0301\u0302');
    expect(second!.bottom).toBeGreaterThan(first!.top);
    // Marks take no room.
    expect(instance.shape('x\u0301', 0, 2).reduce((sum, { xAdvance }) => sum + xAdvance, 0)).toBe(instance.advance(glyph('x')));
  });

  it('names fonts of pictures as what they are', async () => {
    const refused = async (tables: Readonly<Record<string, Uint8Array>>): Promise<string> =>
      open({ glyf: NONE, loca: NONE, ...tables }).then(
        () => '',
        (error: unknown) => (error instanceof FaceError ? error.message : String(error)),
      );
    expect(await refused({ CBDT: words(0, 0) })).toContain('colour bitmap font');
    expect(await refused({ EBDT: words(0, 0) })).toContain('a bitmap font');
    expect(await refused({ 'SVG ': words(0, 0) })).toContain('a colour font');
    expect(await refused({})).toContain('no outlines');
  });

  it('finds the letters of fonts that are encoded as symbols', async () => {
    const [H, i] = [glyph('H'), glyph('i')];
    // cmap format 4: two segments in the private use area.
    const subtable = [4, 40, 0, 6, 4, 1, 2, 0xf048, 0xf069, 0xffff, 0, 0xf048, 0xf069, 0xffff, H - 0xf048, i - 0xf069, 1, 0, 0, 0];
    const face = await open({ cmap: words(0, 1, 3, 0, 0, 12, ...subtable) });
    expect(
      face
        .instance()
        .shape('Hi', 0, 2)
        .map(({ glyphId }) => glyphId),
    ).toEqual([H, i]);
    expect(face.instance().nominalGlyph(0x48)).toBe(H);
  });
});
