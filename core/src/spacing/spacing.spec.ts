import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { Face, type FaceInstance, type Outline } from '../face';
import { fontBytes, openShipped } from '../testing';
import {
  BAND,
  type Deviation,
  FEATURE_COUNT,
  NO_WORD,
  boundKindOf,
  deviationOf,
  fontWordOf,
  kerningFrom,
  weighed,
  type GlyphProfile,
  BASE_LEVEL,
  MIRRORED,
  characterAt,
  evenness,
  bandHeight,
  inkDistance,
  measurePair,
  nearestInk,
  offsetForWhite,
  placedSide,
  profileOf,
  profileOutline,
  proposeKerning,
  rhythmOf,
  sideShape,
  whiteBetween,
  UPRIGHT_LEAN,
  leanOf,
  facedSide,
  signKindAt,
} from '.';

const polygon = (...points: [number, number][]): Outline => [
  ...points.map(([x, y], i) => ({ type: i === 0 ? ('M' as const) : ('L' as const), values: [x, y] })),
  { type: 'Z' as const, values: [] },
];
const box = (left: number, right: number, bottom = 0, top = 700): Outline => polygon([left, bottom], [right, bottom], [right, top], [left, top]);
/** A circle of four cubic arcs. */
const bowl = (cx: number, cy: number, r: number): Outline => {
  const k = 0.5523 * r;
  return [
    { type: 'M', values: [cx + r, cy] },
    { type: 'C', values: [cx + r, cy + k, cx + k, cy + r, cx, cy + r] },
    { type: 'C', values: [cx - k, cy + r, cx - r, cy + k, cx - r, cy] },
    { type: 'C', values: [cx - r, cy - k, cx - k, cy - r, cx, cy - r] },
    { type: 'C', values: [cx + k, cy - r, cx + r, cy - k, cx + r, cy] },
    { type: 'Z', values: [] },
  ];
};
const profile = (outline: Outline, advance = 600): GlyphProfile => {
  const made = profileOutline(outline, advance, 1000);
  if (!made) throw new Error('no ink');
  return made;
};

/** A font whose characters are all mapped to other code points: each moved into the private use area (cmap format 12). */
function remapped(bytes: Uint8Array, instance: FaceInstance, letters: string): { bytes: Uint8Array; codeOf: (letter: string) => number } {
  const codes = [...letters].map((letter, i) => ({ code: 0xe000 + i, glyph: instance.nominalGlyph(letter.codePointAt(0) ?? 0) ?? 0 }));
  const cmap = new DataView(new ArrayBuffer(12 + 16 + codes.length * 12));
  cmap.setUint16(2, 1);
  cmap.setUint16(4, 3);
  cmap.setUint16(6, 10);
  cmap.setUint32(8, 12);
  cmap.setUint16(12, 12);
  cmap.setUint32(16, 16 + codes.length * 12);
  cmap.setUint32(24, codes.length);
  codes.forEach(({ code, glyph }, i) => {
    cmap.setUint32(28 + i * 12, code);
    cmap.setUint32(32 + i * 12, code);
    cmap.setUint32(36 + i * 12, glyph);
  });
  const padded = Math.ceil(bytes.length / 4) * 4;
  const out = new Uint8Array(padded + cmap.byteLength);
  out.set(bytes);
  out.set(new Uint8Array(cmap.buffer), padded);
  const view = new DataView(out.buffer);
  for (let i = 0; i < view.getUint16(4); i++) {
    const at = 12 + i * 16;
    if (view.getUint32(at) !== 0x636d6170) continue;
    view.setUint32(at + 8, padded);
    view.setUint32(at + 12, cmap.byteLength);
  }
  return { bytes: out, codeOf: (letter) => 0xe000 + [...letters].indexOf(letter) };
}

function propose(instance: FaceInstance, a: number, b: number): number {
  const rhythm = rhythmOf(instance);
  const [left, right] = [a, b].map((code) => profileOf(instance, instance.nominalGlyph(code) ?? 0));
  if (!left || !right) throw new Error('no ink');
  return proposeKerning({ profile: left, rhythm }, { profile: right, rhythm }).milliem;
}
const apart = (left: GlyphProfile, right: GlyphProfile, offset = 0): number =>
  inkDistance({ left, right, facing: { left: left.right, right: right.left }, standing: BASE_LEVEL }, offset);
const NO_REFERENCES = { all: [], straight: [], round: [] };
const FLAT = { tall: { tall: 0.26, short: 0.26 }, short: { tall: 0.26, short: 0.26 } };
const FLAT_TARGETS = { 2: FLAT, 4: FLAT };
const code = (letter: string): number => letter.codePointAt(0) ?? 0;

describe('profile', () => {
  it('measures side bearings, ink and advance', () => {
    const made = profile(box(50, 450));
    expect(made.advance).toBeCloseTo(0.6, 9);
    expect([made.inkLeft, made.inkRight, made.bottom, made.top].map((value) => value.toFixed(6))).toEqual(['0.050000', '0.450000', '0.000000', '0.700000']);
    expect(nearestInk(made.right, made.left).distance).toBeCloseTo(0.2, 9);
    expect(apart(made, made)).toBeCloseTo(0.2, 9);
    expect(apart(made, made, -0.2)).toBeCloseTo(0, 9);
    expect(apart(made, made, -0.25)).toBeCloseTo(-0.05, 9);
  });

  it('measures distance diagonally where inks pass each other', () => {
    const low = profile(box(0, 600, 0, 200), 600);
    const high = profile(box(0, 600, 500, 700), 600);
    expect(apart(low, high)).toBeCloseTo(0.3, 9);
    expect(apart(low, high, -0.1)).toBeCloseTo(0.3, 9);
  });

  it('looks at outlines finer than it sums their white: a thin serif counts by its own height', () => {
    const bottom = 1000 * (bandHeight(20) - BAND / 2);
    const stem = (serif: number): GlyphProfile => profile([...box(100, 450), ...box(50, 100, bottom, bottom + 1000 * serif * BAND)]);
    const [thin, thick] = [stem(0.49), stem(0.99)].map(({ left }) => ({ raw: left.raw[20] ?? 0, seen: left.seen[20] ?? 0 }));
    expect([thin?.raw, thick?.raw]).toEqual([0.05, 0.05]);
    expect(thick?.seen).toBeCloseTo(0.05, 9);
    expect(thin?.seen).toBeCloseTo(0.05 + BAND / 4, 9);
  });

  it('sees ink that hangs over the advance only so far, but knows how near it comes', () => {
    const hook = profile([...box(100, 450, 0, 500), ...box(100, 750, 500, 560)]);
    expect(Math.min(...hook.right.raw)).toBeCloseTo(-0.15, 9);
    expect(Math.min(...hook.right.seen)).toBeCloseTo(-0.02, 9);
    expect(apart(hook, profile(box(50, 450)))).toBeCloseTo(-0.1, 9);
  });

  it('changes little where a letter is scaled a little', () => {
    const round = profile(bowl(350, 350, 330), 700).left;
    const placed = placedSide(round, { scale: 1.0001, across: 1.0001, shift: 0 });
    for (const [band, seen] of round.seen.entries()) expect(Math.abs(seen - (placed.seen[band] ?? 0))).toBeLessThan(0.02);
  });

  it('has none where there is no ink', () => {
    expect(profileOutline([], 500, 1000)).toBeUndefined();
    expect(profileOutline(polygon([10, 0], [10, 0]), 500, 1000)).toBeUndefined();
  });

  it('places a smaller and a raised letter', () => {
    const half = placedSide(profile(box(100, 500, 0, 700)).left, { scale: 0.5, across: 0.5, shift: 0 });
    expect(nearestInk(half, half).distance).toBeCloseTo(0.1, 6);
    expect(sideShape(half, profile(box(50, 250, 0, 350), 300)).kind).toBe('straight');
    const raised = placedSide(profile(box(100, 500, 0, 200)).left, { scale: 1, across: 1, shift: 0.5 });
    expect(nearestInk(raised, raised).height).toBeGreaterThan(0.49);
  });
});

describe('side shape', () => {
  it('tells stems, bowls, slopes and hollows from outlines', () => {
    const stem = profile(box(50, 450));
    expect(sideShape(stem.left, stem).kind).toBe('straight');
    const round = profile(bowl(350, 350, 350), 700);
    expect(sideShape(round.left, round).kind).toBe('round');
    const slope = profile(polygon([0, 0], [500, 0], [250, 700]), 500);
    expect(sideShape(slope.left, slope).kind).toBe('diagonal');
    expect(sideShape(slope.right, slope).recess[2]).toBeGreaterThan(sideShape(slope.right, slope).recess[0]);
    const ell = profile(polygon([50, 0], [500, 0], [500, 80], [150, 80], [150, 700], [50, 700]), 520);
    expect(sideShape(ell.right, ell).kind).toBe('open');
    expect(sideShape(ell.left, ell).kind).toBe('straight');
  });

  it('reads the sides of real letters', async () => {
    const instance = (await openShipped('source-sans-3-bold')).instance();
    const kind = (letter: string, side: 'left' | 'right') => {
      const made = profileOf(instance, instance.nominalGlyph(code(letter)) ?? 0);
      return made && sideShape(made[side], made).kind;
    };
    expect(['H', 'N', 'n', 'B'].map((letter) => kind(letter, 'left'))).toEqual(['straight', 'straight', 'straight', 'straight']);
    expect(['O', 'o', 'C', 'e'].map((letter) => kind(letter, 'left'))).toEqual(['round', 'round', 'round', 'round']);
    expect(['A', 'V', 'W'].map((letter) => kind(letter, 'left'))).toEqual(['diagonal', 'diagonal', 'diagonal']);
    expect(['L', 'T', 'F', 'r'].map((letter) => kind(letter, 'right'))).toEqual(['open', 'open', 'open', 'open']);
    expect(kind(' ', 'left')).toBeUndefined();
  });
});

describe('white', () => {
  const sides = fc.array(fc.double({ min: -0.02, max: 0.5, noNaN: true }), { minLength: 8, maxLength: 8 });
  const made = (values: number[]): GlyphProfile =>
    profile(polygon(...values.map((value, i): [number, number] => [100 + value * 500, i * 100]), [700, 700], [700, 0]), 800);

  it('grows as a gap opens', () => {
    fc.assert(
      fc.property(sides, sides, fc.double({ min: -0.05, max: 0.2, noNaN: true }), (a, b, offset) => {
        const left = made(a);
        const right = made(b);
        expect(whiteBetween(left.right, right.left, offset + 0.02, 4)).toBeGreaterThanOrEqual(whiteBetween(left.right, right.left, offset, 4));
      }),
    );
  });

  it('is met by the offset that is solved for it', () => {
    fc.assert(
      fc.property(sides, fc.double({ min: 0.2, max: 0.4, noNaN: true }), fc.constantFrom(2 as const, 4 as const), (a, target, power) => {
        const side = made(a);
        const offset = offsetForWhite(side.right, side.left, target, power);
        // Damped and bounded: exact unless the answer lies beyond half an em.
        if (Math.abs(offset) < 0.45) expect(Math.abs(whiteBetween(side.right, side.left, offset, power) - target)).toBeLessThan(0.004);
      }),
    );
  });
});

describe('proposal', () => {
  let instance: FaceInstance;
  beforeAll(async () => {
    instance = (await openShipped('playfair-display-bold')).instance();
  });
  const of = (pair: string): number => propose(instance, code(pair), code(pair.slice(1)));

  it('closes open shapes, leaves stems and bowls alone, and is a whole number every time the same', () => {
    expect(of('AV')).toBeLessThan(-50);
    expect(of('To')).toBeLessThan(-20);
    expect(of('P.')).toBeLessThan(-60);
    // Or by less than anybody sees.
    for (const pair of ['HH', 'HO', 'OH', 'nn', 'no', 'HI'])
      expect(Math.abs(of(pair)))
        .withContext(pair)
        .toBeLessThanOrEqual(3);
    expect(of('AV')).toBe(of('AV'));
    expect(Number.isInteger(of('WA'))).toBeTrue();
  });

  it('does not read the font’s kerning', async () => {
    const bare = (await Face.open(fontBytes('playfair-display-bold'), { withoutTables: ['GPOS', 'kern', 'kerx'] })).instance();
    expect(bare.shape('AV', 0, 2)[0]?.xAdvance).not.toBe(instance.shape('AV', 0, 2)[0]?.xAdvance);
    for (const pair of ['AV', 'To', 'WA', 'ry', 'L’', 'P.']) expect(propose(bare, code(pair), code(pair.slice(1)))).toBe(of(pair));
  });

  it('looks up no letter: a font whose characters are mapped elsewhere gets the same answers', async () => {
    const letters = 'AVToWaryLP.,xHnO';
    const moved = remapped(fontBytes('playfair-display-bold'), instance, letters);
    const other = (await Face.open(moved.bytes)).instance();
    expect(other.nominalGlyph(code('A'))).toBeUndefined();
    for (const pair of ['AV', 'To', 'Wa', 'ry', 'P.', 'L,', 'HO', 'nO']) {
      expect(propose(other, moved.codeOf(pair.charAt(0)), moved.codeOf(pair.charAt(1))))
        .withContext(pair)
        .toBe(of(pair));
    }
  });

  it('answers for accented letters and small capitals in line with their shapes', async () => {
    expect(Math.abs(of('ÄV') - of('AV'))).toBeLessThan(25);
    expect(of('ÄV')).toBeLessThan(-40);
    expect(Math.abs(of('To') - of('Tø'))).toBeLessThan(15);
    const garamond = (await openShipped('eb-garamond-regular')).instance();
    const small = (letter: string): number => garamond.shape(letter, 0, 1, [{ tag: 'smcp', value: 1 }])[0]?.glyphId ?? 0;
    const rhythm = rhythmOf(garamond);
    const pair = ([a = '', b = '']: string): number => {
      const [left, right] = [small(a), small(b)].map((id) => profileOf(garamond, id));
      return left && right ? proposeKerning({ profile: left, rhythm }, { profile: right, rhythm }).milliem : 0;
    };
    expect(small('a')).not.toBe(garamond.nominalGlyph(code('a')) ?? 0);
    expect(pair('av')).toBeLessThan(-20);
    expect(pair('hi')).toBe(0);
  });

  it('measures the mirror image of a pair as the same pair with its sides exchanged', async () => {
    const instance = (await openShipped('playfair-display-bold')).instance();
    const rhythm = rhythmOf(instance);
    const measures = ([left = '', right = '']: string, mirrored: boolean): Float64Array => {
      const [a, b] = [left, right].map((letter) => profileOf(instance, instance.nominalGlyph(letter.codePointAt(0) ?? 0) ?? 0)!) as [
        GlyphProfile,
        GlyphProfile,
      ];
      const [first, second] = mirrored ? [inMirror(b), inMirror(a)] : [a, b];
      const out = new Float64Array(FEATURE_COUNT);
      measurePair({ left: { profile: first, rhythm }, right: { profile: second, rhythm }, facing: { left: first.right, right: second.left } }, out);
      return out;
    };
    const inMirror = (one: GlyphProfile): GlyphProfile => ({
      ...one,
      left: one.right,
      right: one.left,
      inkLeft: one.advance - one.inkRight,
      inkRight: one.advance - one.inkLeft,
      leantLeft: one.advance - one.leantRight,
      leantRight: one.advance - one.leantLeft,
    });
    expect(MIRRORED.map((at) => MIRRORED[at])).toEqual(Array.from({ length: FEATURE_COUNT }, (_, i) => i));
    for (const pair of ['AV', 'TO', 'LY', 'HE']) {
      const [seen, mirror] = [measures(pair, false), measures(pair, true)];
      // All but the bearings, which compare with the face's letters as they are.
      for (const at of [0, 1, ...Array.from({ length: 26 }, (_, i) => i + 10)]) {
        expect(mirror[MIRRORED[at]!]).withContext(`${pair}, measure ${at}`).toBeCloseTo(seen[at]!, 9);
      }
    }
  });

  it('parts signs, and accents that cross, by no more than it must, and leaves alone what a written hand joins', async () => {
    for (const [id, pairs] of [
      ['eb-garamond-bold', ['f’', 'f"', 'f!', 'f?', 'f)']],
      ['playfair-display-regular', ['(j', 'ďk', 'ľk']],
    ] as const) {
      const face = (await openShipped(id)).instance();
      const rhythm = rhythmOf(face);
      for (const pair of pairs) {
        const [left, right] = [...pair].map((letter) => profileOf(face, face.nominalGlyph(code(letter)) ?? 0));
        const [of, beside] = [characterAt(pair, 0), characterAt(pair, 1)];
        const { milliem, limit } = proposeKerning({ profile: left!, rhythm, ...of }, { profile: right!, rhythm, ...beside });
        expect(apart(left!, right!, milliem / 1000))
          .withContext(`${id} ${pair}`)
          .toBeGreaterThanOrEqual(0.012);
        if (limit === 'touching')
          expect(apart(left!, right!, (milliem - 1) / 1000))
            .withContext(`${id} ${pair}`)
            .toBeLessThan(0.012);
      }
    }
    // Letters that overlap at their sides by design: a hand that joins them.
    const joining = profile(polygon([-20, 0], [620, 0], [620, 40], [400, 500], [200, 500], [-20, 40]), 600);
    const rhythm = {
      capHeight: 0.7,
      xHeight: 0.5,
      references: { tall: NO_REFERENCES, short: { all: [joining], straight: [], round: [] } },
      targets: FLAT_TARGETS,
      joined: true,
    };
    expect(proposeKerning({ profile: joining, rhythm }, { profile: joining, rhythm })).toEqual(
      jasmine.objectContaining({ milliem: 0, wantedMilliem: 0, limit: 'joined', apartMilliem: undefined }),
    );
    const printed = { ...rhythm, joined: false };
    const letter = { profile: joining, rhythm: printed };
    expect(proposeKerning({ ...letter, accented: true }, letter).milliem).toBeGreaterThan(30);
    expect(proposeKerning({ ...letter, sign: 'sign' }, letter).milliem).toBeGreaterThan(30);
    expect(proposeKerning(letter, letter)).toEqual(jasmine.objectContaining({ milliem: 0, apartMilliem: 0 }));
  });

  it('opens no letters for how near they are drawn, and closes none of these', async () => {
    for (const id of ['eb-garamond-bold', 'eb-garamond-italic', 'playfair-display-italic']) {
      const face = (await openShipped(id)).instance();
      const rhythm = rhythmOf(face);
      const letters = [...'AKLQRTVWYafgjkrtvwy'].map((letter) => profileOf(face, face.nominalGlyph(code(letter)) ?? 0)!);
      let near = 0;
      for (const left of letters) {
        for (const right of letters) {
          if (apart(left, right, 0) >= 0.012) continue;
          near++;
          const { milliem, apartMilliem } = proposeKerning({ profile: left, rhythm }, { profile: right, rhythm });
          expect(milliem).withContext(id).toBeGreaterThanOrEqual(0);
          expect(apartMilliem ?? 0)
            .withContext(id)
            .toBe(0);
        }
      }
      expect(near).withContext(id).toBeGreaterThan(5);
    }
  });

  it('tells faces that join their letters from their outlines, and leaves those letters alone', async () => {
    for (const [name, joined] of [
      ['dancing-script-400', true],
      ['great-vibes-400', true],
      ['lobster-400', true],
      ['caveat-400', false],
      ['gloock-400', false],
      ['arvo-400-italic', false],
    ] as const) {
      const instance = (await Face.open(new Uint8Array(readFileSync(new URL(`../../../faces/catalogue/${name}.woff`, import.meta.url))))).instance();
      expect(rhythmOf(instance).joined).withContext(name).toBe(joined);
      const small = [...'anevurmos'].flatMap((a) => [...'nevo'].map((b) => propose(instance, code(a), code(b))));
      expect(small.every((milliem) => milliem === 0))
        .withContext(name)
        .toBe(joined);
    }
  });

  it('looks along the strokes: measures them, whatever the tables state, and finds an italic’s stems straight', async () => {
    const open = async (name: string): Promise<FaceInstance> =>
      (await Face.open(new Uint8Array(readFileSync(new URL(`../../../faces/catalogue/${name}.woff`, import.meta.url))))).instance();
    for (const id of ['playfair-display-bold', 'josefin-sans-regular', 'source-sans-3-bold'])
      expect(leanOf((await openShipped(id)).instance())).toBe(UPRIGHT_LEAN);
    // Tables that state nothing of a lean that is there.
    const arvo = await open('arvo-400-italic');
    expect(arvo.face.posture.slopeDeg).toBe(0);
    expect(leanOf(arvo).slope).toBeCloseTo(0.231, 2);
    for (const [name, letters] of [
      ['arvo-400-italic', 'HIN'],
      ['lora-400-italic', 'HI'],
      ['roboto-400-italic', 'HIlN'],
    ] as const) {
      const instance = await open(name);
      for (const letter of letters) {
        const made = profileOf(instance, instance.nominalGlyph(code(letter)) ?? 0)!;
        expect(sideShape(made.left, made).kind).withContext(`${name} ${letter}`).toBe('straight');
        expect(sideShape(made.right, made).kind).withContext(`${name} ${letter}`).toBe('straight');
      }
    }
  });

  it('measures the same white between two letters along the strokes as upright, and puts letters of two leans side by side as they stand', () => {
    const lean = { slope: 0.2, about: 0.25 };
    /** A stem that leans. */
    const leant = polygon([50, 0], [150, 0], [290, 700], [190, 700]);
    const upright = profileOutline(leant, 300, 1000)!;
    const along = profileOutline(leant, 300, 1000, lean)!;
    expect([along.inkLeft, along.inkRight]).toEqual([upright.inkLeft, upright.inkRight]);
    expect([along.leantLeft, along.leantRight].map((x) => x.toFixed(3))).toEqual(['0.100', '0.200']);
    // The distance at one height does not depend on how it is looked at.
    expect(nearestInk(along.right, along.left).distance).toBeCloseTo(nearestInk(upright.right, upright.left).distance, 2);
    // Moved and made smaller against its neighbour, it stands where its ink stands.
    const how = { scale: 0.5, across: 0.5, shift: 0.3 };
    const [seen, plain] = [facedSide(upright, along, how), facedSide(upright, upright, how)];
    for (let band = 0; band < seen.raw.length; band++) expect(Math.abs((seen.raw[band] ?? 0) - (plain.raw[band] ?? 0))).toBeLessThan(0.012);
  });

  it('knows figures and signs by their Unicode properties', () => {
    const kinds = (words: string) => [...words].map((_, at) => signKindAt(words, at));
    expect(kinds('a7.É٣“ªж€ ')).toEqual([undefined, 'figure', 'sign', undefined, 'figure', 'sign', undefined, undefined, 'sign', undefined]);
  });

  it('never brings letters together that stand apart', async () => {
    for (const id of ['playfair-display-italic', 'league-gothic-regular', 'alegreya-extrabold']) {
      const face = (await openShipped(id)).instance();
      const rhythm = rhythmOf(face);
      const glyphs = [...'AVTWLYPFraofgjy.,“'].map((letter) => profileOf(face, face.nominalGlyph(code(letter)) ?? 0)).filter((one) => one !== undefined);
      for (const left of glyphs) {
        for (const right of glyphs) {
          const before = apart(left, right);
          const { milliem } = proposeKerning({ profile: left, rhythm }, { profile: right, rhythm });
          if (milliem < 0 && before > 0) expect(apart(left, right, milliem / 1000)).toBeGreaterThan(0);
        }
      }
    }
  });

  it('gives hostile outlines a value within bounds, and quickly', () => {
    const rhythm = rhythmOf(instance);
    const good = profileOf(instance, instance.nominalGlyph(code('A')) ?? 0);
    const number = fc.oneof(fc.double(), fc.integer({ min: -1e9, max: 1e9 }), fc.constantFrom(Number.NaN, Number.POSITIVE_INFINITY, -0, 1e308));
    const command = fc.oneof(
      fc.record({ type: fc.constantFrom('M' as const, 'L' as const), values: fc.array(number, { minLength: 2, maxLength: 2 }) }),
      fc.record({ type: fc.constant('Q' as const), values: fc.array(number, { minLength: 4, maxLength: 4 }) }),
      fc.record({ type: fc.constant('C' as const), values: fc.array(number, { minLength: 6, maxLength: 6 }) }),
      fc.record({ type: fc.constantFrom('M' as const, 'Z' as const), values: fc.constant<number[]>([]) }),
    );
    fc.assert(
      fc.property(fc.array(command, { maxLength: 40 }), fc.oneof(fc.constant(0), number), fc.constantFrom(16, 1000, 16384), (outline, advance, em) => {
        const hostile = profileOutline(outline, advance, em);
        if (!hostile || !good) return;
        for (const { milliem, wantedMilliem } of [
          proposeKerning({ profile: good, rhythm }, { profile: hostile, rhythm }),
          proposeKerning({ profile: hostile, rhythm }, { profile: good, rhythm }),
        ]) {
          // Overlapping inks are taken apart by more than letters are ever kerned.
          for (const value of [milliem, wantedMilliem]) expect(value >= -200 && value <= 400).toBeTrue();
        }
        expect(['straight', 'round', 'diagonal', 'open', 'mixed']).toContain(sideShape(hostile.left, hostile).kind);
      }),
      { numRuns: 400 },
    );
    const zigzag: Outline = Array.from({ length: 100_000 }, (_, i) => ({
      type: i === 0 ? ('M' as const) : ('L' as const),
      values: [i % 2 ? 800 : 0, (i * 7) % 900],
    }));
    expect(profileOutline(zigzag, 800, 1000)?.inkRight).toBeCloseTo(0.8, 6);
  });

  it('finds a rhythm in faces of any kind, at any axis position', async () => {
    for (const id of ['josefin-sans-regular', 'league-gothic-regular', 'eb-garamond-italic']) {
      const { targets, capHeight, xHeight } = rhythmOf((await openShipped(id)).instance());
      expect(targets[4].tall.tall).toBeGreaterThan(0.1);
      expect(targets[4].short.short).toBeLessThan(0.5);
      expect(capHeight).toBeGreaterThan(xHeight);
    }
    // Heavier letters leave less white between their stems; a larger optical size is spaced tighter.
    const flex = await Face.open(new Uint8Array(readFileSync(new URL('../../../faces/catalogue/roboto-flex-variable.ttf', import.meta.url))));
    const white = (axes: Record<string, number>): number => rhythmOf(flex.instance(axes)).targets[4].short.short;
    expect(white({ wght: 900 })).toBeLessThan(white({ wght: 300 }) - 0.01);
    expect(white({ opsz: 144 })).toBeLessThan(white({ opsz: 8 }) - 0.01);
  });
});

describe('evenness', () => {
  const sure = (...offs: number[]): Deviation[] => offs.map((off) => ({ off, doubt: 0, agreed: true }));

  it('is 100 for even white that is sure, sees no tracking, and falls steadily as jitter grows', () => {
    expect(evenness(sure(0, 0, 0))).toBe(100);
    expect(evenness(sure(-20, -20, -20))).toBe(100);
    expect(evenness(sure(5))).toBeUndefined();
    const jitter = [1, -1, 0.4, -0.2, 0.7, -0.9, 0.1];
    const scores = [0, 5, 10, 20, 40, 80, 160].map((amount) => evenness(sure(...jitter.map((value) => value * amount))) ?? Number.NaN);
    for (let i = 1; i < scores.length; i++) expect(scores[i]).toBeLessThan(scores[i - 1] ?? 0);
    expect(evenness(sure(35, -35))).toBeCloseTo(50, 6);
    // What is in doubt counts like what is off.
    expect(evenness([0, 0].map((off) => ({ off, doubt: 35, agreed: true })))).toBeCloseTo(50, 6);
  });

  it('can’t tell where houses agree on too few pairs', () => {
    const [told, untold] = [
      { off: 0, doubt: 5, agreed: true },
      { off: 0, doubt: 5, agreed: false },
    ];
    expect(evenness([told, told, untold, untold])).toBeDefined();
    expect(evenness([told, told, untold, untold, untold])).toBeUndefined();
    expect(evenness([told, untold])).toBeUndefined();
    // A font that is believed settles what shapes leave open, by silence too.
    const word = { kerned: 1, alone: 1 };
    expect([0, 10, -40].map((asked) => deviationOf(0, 0, asked, NO_WORD).agreed)).toEqual([true, false, true]);
    expect([0, 10, -40].every((asked) => deviationOf(0, 0, asked, word).agreed)).toBeTrue();
    expect(deviationOf(-30, -30, -60, NO_WORD).off).toBe(30);
    expect(deviationOf(-30, -30, -60, word).off).toBeCloseTo(6, 6);
    expect(deviationOf(-30, -30, -60, word).doubt).toBeLessThan(deviationOf(-30, -30, -60, NO_WORD).doubt);
  });

  it('gives nobody full marks for kerning by shape alone', async () => {
    const face = (await openShipped('source-sans-3-regular')).instance();
    const rhythm = rhythmOf(face);
    const side = (letter: string) => ({ profile: profileOf(face, face.nominalGlyph(code(letter)) ?? 0)!, rhythm });
    const line = [...'AVATAR'].slice(1).map((right, i) => {
      const { milliem, wantedMilliem } = proposeKerning(side('AVATAR'.charAt(i)), side(right));
      return deviationOf(milliem, 0, wantedMilliem, NO_WORD);
    });
    expect(evenness(line)).toBeLessThan(97);
    expect(evenness(line)).toBeGreaterThan(70);
  });
});

describe('a face whose spacing is part of how it is made', () => {
  const inCatalogue = async (name: string): Promise<FaceInstance> =>
    (await Face.open(new Uint8Array(readFileSync(new URL(`../../../faces/catalogue/${name}`, import.meta.url))))).instance();

  it('is told from its advances, its corners and its joins', async () => {
    for (const name of ['ibm-plex-mono-400.woff', 'jetbrains-mono-700.woff', 'space-mono-400-italic.woff']) {
      expect(boundKindOf(await inCatalogue(name)))
        .withContext(name)
        .toBe('fixed');
    }
    expect(boundKindOf(await inCatalogue('great-vibes-400.woff'))).toBe('joined');
    for (const id of ['source-sans-3-regular', 'eb-garamond-italic', 'league-gothic-regular', 'playfair-display-black']) {
      expect(boundKindOf((await openShipped(id)).instance()))
        .withContext(id)
        .toBeUndefined();
    }
  });

  it('is told where it is drawn of squares', () => {
    const grid = (cells: readonly string[], square: number): Outline =>
      cells.flatMap((row, y) => [...row].flatMap((cell, x) => (cell === '#' ? box(x * square, (x + 1) * square, y * square, (y + 1) * square) : [])));
    const drawn = (square: number, slant = 0): FaceInstance => {
      const letters = [...'abcdefghij'];
      const outline = letters.map((_, i) =>
        grid(
          ['#.#', '##.', '#.#'].map((row) => row.slice(0, 1 + (i % 3))),
          square,
        ),
      );
      if (slant > 0) for (const one of outline) for (const command of one) if (command.type === 'L') command.values[0]! += slant * command.values[1]!;
      return {
        unitsPerEm: 1000,
        face: { codePoints: letters.map(code) },
        nominalGlyph: (point: number) => point - code('a') + 1,
        advance: (glyph: number) => 300 + 40 * glyph,
        outline: (glyph: number) => outline[glyph - 1] ?? [],
        glyphCount: 1,
        statedHeights: { capHeight: 700, xHeight: 500 },
      } as unknown as FaceInstance;
    };
    expect(boundKindOf(drawn(100))).toBe('pixel');
    expect(boundKindOf(drawn(100, 0.2))).toBeUndefined();
    // So fine a grid is nobody's squares.
    expect(boundKindOf(drawn(4))).toBeUndefined();
  });

  it('counts for more in scripts that the models have not learned, and forgets less', async () => {
    const { face } = await inCatalogue('ibm-plex-mono-400.woff');
    expect(fontWordOf(face).unlearned).toBeUndefined();
    expect(fontWordOf(face, 'Latn').unlearned).toBeUndefined();
    expect(fontWordOf(face, 'Cyrl')).toEqual({ ...fontWordOf(face), unlearned: true });
    const word = { kerned: 1, alone: 1 };
    expect(weighed(-100, 0, word)).toBe(-80);
    expect(weighed(-100, 0, { ...word, unlearned: true })).toBe(-90);
    expect(weighed(0, -45, word)).toBeCloseTo(-45 + 0.4 * 45, 9);
    expect(weighed(0, -70, { ...word, unlearned: true })).toBeCloseTo(-70 + 0.45 * 70, 9);
  });

  it('has its own word alone heard', async () => {
    const mono = await inCatalogue('ibm-plex-mono-400.woff');
    const word = fontWordOf(mono.face);
    expect(word.only).toBeTrue();
    expect(weighed(0, -60, word)).toBe(0);
    expect(kerningFrom.weighed({ font: 0, shape: -60, word, atSpace: false })).toBe(0);
    expect(kerningFrom.weighed({ font: 0, shape: -60, word, atSpace: true })).toBe(0);
    // Somebody who asks gets what the shapes propose.
    expect(kerningFrom.shape({ font: 0, shape: -60, word, atSpace: false })).toBe(-60);
  });
});
