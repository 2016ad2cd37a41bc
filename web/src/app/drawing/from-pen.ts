import type { Matrix } from '@jentrix/core/setting';

/** Steps a point: what is written is exact to a ten-thousandth. */
const STEPS = 10_000;
/** So many ways of one glyph are kept. */
const MOST = 64;

interface PenCommand {
  type: string;
  /** Right and up in turn, in font units. */
  places: readonly number[];
}

interface Way extends Pick<Matrix, 'a' | 'b' | 'c' | 'd'> {
  data: string;
}

/** A glyph's outline as it came, read, and as it was written last. */
interface CachedGlyph {
  from: string;
  commands: readonly PenCommand[];
  ways: Way[];
}

/** By the outlines of a face, then by glyph. */
const kept = new WeakMap<ReadonlyMap<number, string>, Map<number, CachedGlyph>>();

/**
 * The outline of a glyph as path data that is relative to where the pen stands, so that letters are placed by what it begins with. Paths
 * without a transform of their own are painted together: each transform is a node that a browser layers and paints apart.
 * @param outlines absolute path data (M, L, Q, C, Z) in font units, y down, by glyph
 * @param matrix from font units, y up, to points
 * @returns empty where the glyph has no outline
 */
export function fromPen(outlines: ReadonlyMap<number, string>, glyphId: number, { a, b, c, d, e, f }: Matrix): string {
  const from = outlines.get(glyphId);
  if (!from) return '';
  let glyphs = kept.get(outlines);
  if (!glyphs) kept.set(outlines, (glyphs = new Map<number, CachedGlyph>()));
  let glyph = glyphs.get(glyphId);
  // A stand-in's outlines give way to the face's own.
  if (glyph?.from !== from) glyphs.set(glyphId, (glyph = { from, commands: commandsIn(from), ways: [] }));
  let way = glyph.ways.find((one) => one.a === a && one.b === b && one.c === c && one.d === d);
  if (!way) {
    way = { a, b, c, d, data: relative(glyph.commands, { a, b, c, d }) };
    if (glyph.ways.length >= MOST) glyph.ways = [];
    glyph.ways.push(way);
  }
  return `M${e},${f}${way.data}`;
}

const commandsIn = (data: string): PenCommand[] =>
  [...data.matchAll(/([MLQCZ])([^MLQCZ]*)/g)].map(([, type = '', places = '']) => ({
    type,
    places: type === 'Z' ? [] : places.split(/[ ,]/).map((place, i) => (i % 2 === 0 ? Number(place) : -Number(place))),
  }));

/** How many places a segment has (SVG 2, section 9.3); the last of them is where it ends. */
const PLACES: Readonly<Record<string, number>> = { M: 1, L: 1, Q: 2, C: 3 };

/** An outline mapped and relative, in points: differences of rounded places, so that nothing adds up. */
function relative(commands: readonly PenCommand[], { a, b, c, d }: Omit<Way, 'data'>): string {
  let [x, y, startX, startY] = [0, 0, 0, 0];
  let data = '';
  for (const { type, places } of commands) {
    data += type.toLowerCase();
    if (type === 'Z') [x, y] = [startX, startY];
    const numbers = 2 * (PLACES[type] ?? 1);
    for (let i = 0; i + 1 < places.length; i += 2) {
      const [right, up] = [places[i] ?? 0, places[i + 1] ?? 0];
      const toX = Math.round((a * right + c * up) * STEPS);
      const toY = Math.round((b * right + d * up) * STEPS);
      data += `${i > 0 ? ' ' : ''}${(toX - x) / STEPS},${(toY - y) / STEPS}`;
      if ((i + 2) % numbers === 0) [x, y] = [toX, toY];
    }
    if (type === 'M') [startX, startY] = [x, y];
  }
  return data;
}
