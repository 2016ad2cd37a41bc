import fc from 'fast-check';
import {
  type Arc,
  type Block,
  type Path,
  type Ride,
  circleOf,
  curvesThrough,
  newPath,
  pathSchema,
  riseOf,
  scalePath,
  withPlace,
  withRadius,
  withRise,
} from '../../job';
import { headline, shippedFaces } from '../../testing';
import { type BlockSetting, type FaceSet, applyToPoint, inkOf, setBlock, straightLines } from '../index';
import { curveOf, parallelOf, rideLines, whiteOnBend } from './index';

const RIDE = { hold: 'centre', atShare: 0.5, side: 'above', distancePt: 0, letters: 'turned', kerned: true } as const;
const at = (xPt: number, yPt: number) => ({ xPt, yPt });

/** A dome over (0, 0) with its top at (0, 0): a circle around (0, radius). */
const dome = (radius: number, more: Partial<Arc> = {}): Arc => ({
  kind: 'arc',
  start: at(-radius, radius),
  through: at(0, 0),
  end: at(radius, radius),
  ...RIDE,
  ...more,
});
const bowl = (radius: number): Arc => ({ kind: 'arc', start: at(-radius, -radius), through: at(0, 0), end: at(radius, -radius), ...RIDE });

/** Lengths and places by very many straight pieces: what the curves are held against. */
function piecewise(place: (t: number) => { x: number; y: number }, pieces = 400_000): (length: number) => { x: number; y: number } {
  const points = Array.from({ length: pieces + 1 }, (_, i) => place(i / pieces));
  const lengths = [0];
  for (let i = 1; i <= pieces; i++) {
    const [a, b] = [points[i - 1]!, points[i]!];
    lengths.push(lengths[i - 1]! + Math.hypot(b.x - a.x, b.y - a.y));
  }
  return (length) => {
    let [low, high] = [0, pieces];
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      if (lengths[middle]! <= length) low = middle;
      else high = middle;
    }
    const share = (length - lengths[low]!) / (lengths[high]! - lengths[low]!);
    return { x: points[low]!.x + share * (points[high]!.x - points[low]!.x), y: points[low]!.y + share * (points[high]!.y - points[low]!.y) };
  };
}

describe('paths', () => {
  it('measure lengths as very many straight pieces do, to less than a thousandth of a point', () => {
    const [a, b, c, d] = [at(0, 0), at(300, -400), at(-200, -300), at(500, 100)];
    const cubic = piecewise((t) => {
      const mix = (key: 'xPt' | 'yPt') => (1 - t) ** 3 * a[key] + 3 * (1 - t) ** 2 * t * b[key] + 3 * (1 - t) * t * t * c[key] + t ** 3 * d[key];
      return { x: mix('xPt'), y: mix('yPt') };
    });
    const wave = piecewise((t) => ({ x: 600 * t, y: -45 * Math.sin(2 * Math.PI * 2.5 * t) }));
    const cases: [Ride, typeof cubic][] = [
      [{ kind: 'drawn', start: a, curves: [{ from: b, to: c, end: d }], ...RIDE }, cubic],
      [{ kind: 'wave', start: a, end: at(600, 0), heightPt: 90, waves: 2.5, ...RIDE }, wave],
    ];
    for (const [path, independent] of cases) {
      const curve = curveOf(path);
      for (let i = 0; i < 40; i++) {
        const length = (curve.lengthPt * i) / 40;
        const [here, there] = [curve.at(length), independent(length)];
        expect(Math.hypot(here.x - there.x, here.y - there.y))
          .withContext(`${path.kind} ${length}`)
          .toBeLessThan(0.001);
      }
    }
  });

  it('go on past their ends: arcs and drawn ones the way they ended, and never jump', () => {
    const drawn: Ride = { kind: 'drawn', start: at(0, 0), curves: curvesThrough([at(0, 0), at(100, -80), at(200, 60), at(300, 0)]), ...RIDE };
    for (const path of [drawn, dome(80), newPath('wave', { widthPt: 300 }, 50) as Ride, newPath('circle', { widthPt: 300 }, 50) as Ride]) {
      const curve = curveOf(path);
      let before = curve.at(-100);
      for (let length = -99; length < curve.lengthPt + 100; length++) {
        const here = curve.at(length);
        expect(Math.hypot(here.x - before.x, here.y - before.y))
          .withContext(`${path.kind} ${length}`)
          .toBeLessThan(1 + 1e-6);
        expect(Math.abs(here.angle - before.angle)).toBeLessThan(0.3);
        before = here;
      }
    }
  });

  it('have parallels at their distance, measured by their own length', () => {
    const curve = curveOf(dome(300));
    const parallel = parallelOf(curve, curve.lengthPt / 2, 60);
    for (const length of [-200, -50, 0, 120]) {
      const { x, y, angle } = parallel(length);
      // A circle of 240 around (0, 300).
      expect(Math.hypot(x, y - 300)).toBeCloseTo(240, 6);
      expect(Math.sin(angle)).toBeCloseTo(Math.sin(length / 240), 6);
    }
    const drawn = curveOf({ kind: 'drawn', start: at(0, 0), curves: curvesThrough([at(0, 0), at(200, -60), at(400, 40), at(600, 0)]), ...RIDE });
    const beside = parallelOf(drawn, 300, 25);
    let walked = 0;
    let before = beside(0);
    for (let length = 0.25; length <= 200; length += 0.25) {
      const here = beside(length);
      walked += Math.hypot(here.x - before.x, here.y - before.y);
      before = here;
    }
    expect(walked).toBeCloseTo(200, 2);
  });

  it('arcs are stated by rise, by radius or by three places alike', () => {
    const arc = withRise(newPath('arc', { widthPt: 400 }, 100) as Arc, 50);
    expect(circleOf(arc)?.radiusPt).toBeCloseTo((200 ** 2 + 50 ** 2) / 100, 6);
    expect(riseOf(arc)).toBeCloseTo(50, 9);
    expect(riseOf(withRise(arc, -30))).toBeCloseTo(-30, 9);
    expect(circleOf(withRadius(arc, 900))?.radiusPt).toBeCloseTo(900, 6);
    expect(riseOf(withRadius(withRise(arc, -30), 900))).toBeLessThan(0);
    expect(circleOf(withRadius(arc, 10))?.radiusPt).toBeCloseTo(200, 6);
    // However far they are dragged, typed or scaled, a job can hold them.
    for (const far of [
      withRise(arc, 1e7),
      withPlace(arc, 0, at(1e9, -1e9)),
      scalePath(arc, 1e6),
      scalePath(newPath('wave', { widthPt: 9e4 }, 9), 40),
      withPlace(newPath('circle', { widthPt: 9 }, 9), 1, at(0, 4e6)),
    ])
      expect(pathSchema.safeParse(far).success).withContext(far.kind).toBeTrue();
    // More than half a circle.
    expect(riseOf(withRise(arc, 350))).toBeCloseTo(350, 6);
    expect(curveOf(withRise(arc, 0)).lengthPt).toBe(400);
  });
});

describe('words on a path', () => {
  let faces: FaceSet;
  beforeAll(async () => {
    faces = await shippedFaces('playfair-display-bold', 'source-sans-3-regular');
  });
  const onto = (words: string, path: Path, more: Partial<Block> = {}): Block => headline(words, { path, ...more });
  const mattersOf = ({ lines, frame, heightPt }: BlockSetting) => ({ lines, frame, heightPt });

  it('stand with the middles of their advances on it, turned as it runs', () => {
    const radius = 400;
    const block = onto('FALLING', dome(radius, { kerned: false }));
    const set = setBlock(block, faces);
    const [straight, ridden] = [straightLines(set)[0], set.lines[0]];
    const middle = (straight?.leftPt ?? 0) + (straight?.widthPt ?? 0) / 2;
    const instance = faces.instance(block.style);
    const glyphs = straight?.runs.flatMap((run) => run.glyphs) ?? [];
    const moved = ridden?.runs.flatMap((run) => run.glyphs) ?? [];
    expect(moved.length).toBe(7);
    glyphs.forEach((glyph, i) => {
      const advance = (instance.advance(glyph.glyphId) * 100) / instance.unitsPerEm;
      const angle = (glyph.xPt + advance / 2 - middle) / radius;
      // Any point of the letter: here 30 pt to the right of its middle and 50 pt over its foot.
      const point = { x: glyph.xPt + advance / 2 + 30, y: (straight?.baselinePt ?? 0) - 50 };
      const there = applyToPoint(moved[i]?.shift ?? { a: 1, b: 0, c: 0, d: 1, e: 0, f: 0 }, point);
      expect(there.x).toBeCloseTo(Math.sin(angle) * (radius + 50) + Math.cos(angle) * 30, 6);
      expect(there.y).toBeCloseTo(radius - Math.cos(angle) * (radius + 50) + Math.sin(angle) * 30, 6);
    });
  });

  it('hold at their start, middle or end, above or below, turned or upright', () => {
    const inkAt = (path: Partial<Arc>) => inkOf(setBlock(onto('HOHOH', dome(2000, path)), faces), faces)!;
    expect(inkAt({ hold: 'start' }).leftPt).toBeGreaterThan(-5);
    expect(inkAt({ hold: 'end' }).rightPt).toBeLessThan(5);
    const centred = inkAt({});
    expect(centred.leftPt + centred.rightPt).toBeCloseTo(0, 0);
    expect(inkAt({ side: 'below' }).topPt).toBeGreaterThan(-3);
    expect(inkAt({ distancePt: 40 }).topPt).toBeCloseTo(centred.topPt - 40, 1);
    const upright = setBlock(onto('HOHOH', dome(300, { letters: 'upright' })), faces).lines[0]!.runs.flatMap(({ glyphs }) => glyphs);
    for (const { shift } of upright) expect(shift).toEqual(jasmine.objectContaining({ a: 1, b: 0, c: 0, d: 1 }));
    expect(new Set(upright.map(({ shift }) => Math.round(shift!.f))).size).toBeGreaterThan(2);
  });

  it('break only where told', () => {
    const block = headline('UNDER THE OLD\nDOME', { path: dome(900), frame: { xPt: 0, yPt: 0, widthPt: 300, heightPt: 100 } });
    expect(setBlock(block, faces).lines.length).toBe(2);
    expect(setBlock({ ...block, path: { kind: 'straight' } }, faces).lines.length).toBeGreaterThan(2);
  });

  it('run parallel, and keep all letters where they reach past the end', () => {
    const set = setBlock(onto('ABOVE\nBELOW', dome(900)), faces);
    const turns = set.lines.map(({ runs }) => runs[0]!.glyphs[2]!.shift!);
    // The middle letters of both lines stand one under the other, a leading apart.
    expect(turns[0]!.b).toBeCloseTo(turns[1]!.b, 1);
    expect(set.beyondPath).toBeFalse();
    const short: Path = { kind: 'arc', start: at(0, 0), through: at(50, -5), end: at(100, 0), ...RIDE };
    const beyond = setBlock(onto('FALLING STARS', short), faces);
    expect(beyond.beyondPath).toBeTrue();
    expect(beyond.lines[0]?.runs.flatMap(({ glyphs }) => glyphs).length).toBe(13);
    expect(setBlock(onto('FALLING STARS', { kind: 'circle', centre: at(0, 0), radiusPt: 40, inside: false, ...RIDE }), faces).beyondPath).toBeTrue();
    expect(setBlock(onto('STARS', { kind: 'circle', centre: at(0, 0), radiusPt: 400, inside: false, ...RIDE }), faces).beyondPath).toBeFalse();
  });

  it('keep the white they have on a straight line', () => {
    const spreadOf = (words: string, path: Arc) => {
      const block = onto(words, path);
      const straight = straightLines(setBlock(block, faces));
      const cap = 70;
      const ratios = rideLines(block, path, straight, faces, cap).flatMap(({ gaps, places }) =>
        gaps.flatMap(({ gap, from, to }) => {
          const [left, right] = [places[from], places[to]];
          return left && right ? Math.log(whiteOnBend(gap, { left, right })! / gap.white) : [];
        }),
      );
      return Math.max(...ratios.map(Math.abs));
    };
    for (const words of ['HOTEL', 'VALLEY', 'Night', 'STARS', 'ON A HILL'])
      for (const path of [dome(300), bowl(300), dome(900)]) {
        const [plain, kerned] = [spreadOf(words, { ...path, kerned: false }), spreadOf(words, path)];
        expect(kerned).withContext(`${words} ${path.start.yPt}`).toBeLessThan(0.05);
        expect(plain)
          .withContext(`${words} ${path.start.yPt}`)
          .toBeGreaterThan(2 * kerned);
      }
  });

  it('come back from any path to just where they were', () => {
    const paths: Path[] = (['arc', 'circle', 'wave', 'drawn', 'stacked', 'quarter'] as const).map((kind) => newPath(kind, { widthPt: 500 }, 100));
    fc.assert(
      fc.property(fc.string({ unit: fc.constantFrom(...'AVToy .\n'), minLength: 1, maxLength: 20 }), fc.nat(), fc.constantFrom(...paths), (words, n, path) => {
        const plain = headline(words, words.length > 1 ? { hand: [{ at: 1 + (n % (words.length - 1)), milliem: -40 }] } : {});
        const ridden = { ...plain, path };
        expect(mattersOf(setBlock({ ...ridden, path: { kind: 'straight' } }, faces))).toEqual(mattersOf(setBlock(plain, faces)));
        expect(straightLines(setBlock(ridden, faces))).toEqual(setBlock(plain, faces).lines);
      }),
      { numRuns: 60 },
    );
  });

  it('take rules, list marks and letters that are turned themselves along', () => {
    const plain = headline('ABC', { paragraph: { indentPt: 0, beforePt: 0, afterPt: 0, list: 'bullet' } });
    const set = setBlock(
      { ...plain, style: { ...plain.style, underline: true }, path: dome(300), runs: [{ start: 1, end: 2, style: { turnDeg: 30 } }] },
      faces,
    );
    const [line] = set.lines;
    expect(line?.mark?.glyphs[0]?.shift).toBeDefined();
    expect(line?.runs.flatMap(({ rules }) => rules).length).toBe(3);
    const [, turned] = line!.runs.flatMap(({ glyphs }) => glyphs);
    expect(Math.atan2(turned!.shift!.b, turned!.shift!.a) * (180 / Math.PI)).toBeCloseTo(30, -1);
  });
});

describe('upright lines', () => {
  let faces: FaceSet;
  beforeAll(async () => {
    faces = await shippedFaces('playfair-display-bold', 'source-sans-3-regular');
  });
  const inksOf = (block: Block) => {
    const set = setBlock(block, faces);
    return set.lines.map((line) =>
      line.runs.flatMap((run) => run.glyphs.flatMap((glyph) => inkOf({ lines: [{ ...line, runs: [{ ...run, glyphs: [glyph] }] }] }, faces) ?? [])),
    );
  };

  it('stand one below the other by the white between heads and feet', () => {
    const [column] = inksOf(headline('LAVA', { path: { kind: 'stacked', columns: 'rightwards' } }));
    const clear = column!.slice(1).map(({ topPt }, i) => topPt - column![i]!.bottomPt);
    for (const one of clear) expect(one).toBeGreaterThan(0);
    // The foot of an L is a bar, the head of an A a point: the A comes nearer than one bar to another would.
    const [, , level] = [clear[0], clear[1], inksOf(headline('EE', { path: { kind: 'stacked', columns: 'rightwards' } }))[0]!];
    expect(clear[0]).toBeLessThan(level[1]!.topPt - level[0]!.bottomPt);
    const middles = column!.map(({ leftPt, rightPt }) => (leftPt + rightPt) / 2);
    for (const middle of middles) expect(middle).toBeCloseTo(middles[0]!, 6);
  });

  it('open by tracking and by hand, and stand in columns either way', () => {
    const path: Path = { kind: 'stacked', columns: 'rightwards' };
    const plain = headline('HE', { path });
    const pitch = (block: Block) => inksOf(block)[0]![1]!.topPt - inksOf(block)[0]![0]!.topPt;
    expect(pitch({ ...plain, style: { ...plain.style, trackingMilliem: 100 } }) - pitch(plain)).toBeCloseTo(10, 6);
    expect(pitch({ ...plain, hand: [{ at: 1, milliem: -50 }] }) - pitch(plain)).toBeCloseTo(-5, 6);
    const columns = (way: 'rightwards' | 'leftwards') =>
      inksOf(headline('HH\nHH', { path: { kind: 'stacked', columns: way } })).map(([first]) => first!.leftPt);
    expect(columns('rightwards')[1]! - columns('rightwards')[0]!).toBeCloseTo(120, 3);
    expect(columns('leftwards')[1]! - columns('leftwards')[0]!).toBeCloseTo(-120, 3);
  });

  it('stay where their ink stood', () => {
    const boxOf = (block: Block) => inkOf(setBlock(block, faces), faces)!;
    for (const path of [
      { kind: 'stacked', columns: 'leftwards' },
      { kind: 'quarter', turn: 'clockwise' },
      { kind: 'quarter', turn: 'anticlockwise' },
    ] as const) {
      const [plain, turned] = [boxOf(headline('VALLEY\nOF')), boxOf(headline('VALLEY\nOF', { path }))];
      expect(turned.topPt).toBeCloseTo(plain.topPt, 6);
      expect(turned.leftPt).toBeCloseTo(plain.leftPt, 6);
      expect(turned.bottomPt - turned.topPt).toBeGreaterThan(turned.rightPt - turned.leftPt);
    }
    const quarter = boxOf(headline('VALLEY', { path: { kind: 'quarter', turn: 'clockwise' } }));
    const plain = boxOf(headline('VALLEY'));
    expect(quarter.bottomPt - quarter.topPt).toBeCloseTo(plain.rightPt - plain.leftPt, 6);
  });
});
