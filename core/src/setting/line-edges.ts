/** Align stage: where a line's edges are seen: at its letters, marks hanging outside, rounds and open sides past it. */
import { edgeShape, hangingBefore, hangingBehind } from '../edges';
import type { FaceInstance } from '../face';
import type { Block, Edges, HangKind, WordRange } from '../job';
import type { OpenLine } from './fit';

/** The look of a line's edge. */
export interface EdgeLook {
  /** How much of each kind of mark hangs outside; absent where none does. */
  readonly hang?: Edges['hang'];
  /** From the side of the advance (0) to the ink (1). */
  readonly ink: number;
  /** True where that is all ink; else the ink that an edge meets, without tails of leaning letters. */
  readonly allInk: boolean;
  /** How much of what letters reach past an edge is let out. */
  readonly past: number;
}

/** Where a line's edges are, in points from where its glyphs are said from. */
export interface LineEdges {
  readonly leftPt: number;
  readonly rightPt: number;
  /** The ink that it is centred by: its letters and dashes, without other marks before and behind them; everything where it is marks alone. */
  readonly letters: { readonly leftPt: number; readonly rightPt: number };
}

/** How a block's own edges are looked at; undefined where lines are aligned by side bearings. */
export const lookOf = ({ edges }: Pick<Block, 'edges'>): EdgeLook | undefined =>
  edges ? { hang: edges.hang, ink: edges.optical, allInk: false, past: edges.optical } : undefined;

/** A glyph of a line where it stands along it, in points. */
export interface StandingGlyph {
  readonly cluster: number;
  readonly glyphId: number;
  readonly instance: FaceInstance;
  /** Where its pen stands, and where its advance ends without what stands between it and the next. */
  readonly room: number;
  readonly end: number;
  /** The font's own x offset. */
  readonly offset: number;
  /** Points in a font unit. */
  readonly unit: number;
}

/** The glyphs of a line that is not placed yet, from where its pen starts. */
export function standingIn({ runs }: OpenLine): StandingGlyph[] {
  const standing: StandingGlyph[] = [];
  let startPt = 0;
  for (const { glyphs, advances, between, unitPt, instance } of runs) {
    const unit = unitPt * 10_000;
    let pen = 0;
    glyphs.forEach(({ cluster, glyphId, xOffset }, i) => {
      const room = startPt + pen * unitPt;
      const end = startPt + (pen + (advances[i] ?? 0) - (between[i] ?? 0)) * unitPt;
      pen += advances[i] ?? 0;
      standing.push({ cluster, glyphId, instance, room, end, offset: xOffset * unit, unit });
    });
    startPt += pen * unitPt;
  }
  return standing;
}

/** A letter with its seen sides. */
interface SeenLetter {
  cluster: number;
  /** Room, ink and seen edge, in points from where the pen starts. */
  left: { room: number; ink: number; seen: number };
  right: { room: number; ink: number; seen: number };
}

/**
 * The edges of a line, from where its glyphs are said from.
 * @param range its words without the blanks behind them. @param begins true where it begins its paragraph.
 * @returns undefined for a line without letters.
 */
export function edgesOf(words: string, range: WordRange, glyphs: readonly StandingGlyph[], look: EdgeLook, begins: boolean): LineEdges | undefined {
  const letters = seenLetters(glyphs, look);
  const [first, last] = [letters[0], letters[letters.length - 1]];
  if (!first || !last) return undefined;
  // Marks are told in the order of the words, and hang on whichever side they stand.
  const text = words.slice(range.start, range.end);
  const kinds = new Map<number, HangKind>();
  const before = hangingBefore(text, begins);
  before.forEach((kind, i) => kinds.set(range.start + i, kind));
  if (before.length < text.length) hangingBehind(text).forEach((kind, i) => kinds.set(range.end - 1 - i, kind));
  const hangs = ({ cluster }: SeenLetter): HangKind | undefined => kinds.get(cluster);
  // The letters that are left when marks are taken off; of marks alone, all of them.
  let [from, to] = [0, letters.length - 1];
  while (from < to && letters[from] && hangs(letters[from] ?? first) !== undefined) from++;
  while (to > from && hangs(letters[to] ?? last) !== undefined) to--;
  const inner = letters.slice(from, to + 1);
  // Most often the first and the last letter reach farthest, but one behind a mark or a small letter may reach past it.
  const own = { left: Math.min(...inner.map(({ left }) => left.seen)), right: Math.max(...inner.map(({ right }) => right.seen)) };
  const share = (letter: SeenLetter): number => look.hang?.[hangs(letter) ?? 'points'] ?? 0;
  let left = own.left;
  for (let i = from - 1; i >= 0; i--) {
    const [mark, next] = [letters[i], letters[i + 1]];
    if (mark && next) left += (1 - share(mark)) * Math.min(0, mark.left.seen - (i === from - 1 ? own.left : next.left.seen));
  }
  let right = own.right;
  for (let i = to + 1; i < letters.length; i++) {
    const [mark, next] = [letters[i], letters[i - 1]];
    if (mark && next) right += (1 - share(mark)) * Math.max(0, mark.right.seen - (i === to + 1 ? own.right : next.right.seen));
  }
  // A dash is as wide as a letter: lines are centred with it.
  const isDash = ({ cluster }: SeenLetter): boolean => /[-\u2010-\u2015]/.test(words.charAt(cluster));
  while (letters.slice(0, from).some(isDash)) from--;
  while (letters.slice(to + 1).some(isDash)) to++;
  const centred = letters.slice(from, to + 1);
  return {
    leftPt: left,
    rightPt: right,
    letters: { leftPt: Math.min(...centred.map((letter) => letter.left.ink)), rightPt: Math.max(...centred.map((letter) => letter.right.ink)) },
  };
}

function seenLetters(glyphs: readonly StandingGlyph[], { ink, past, allInk }: EdgeLook): SeenLetter[] {
  const letters: SeenLetter[] = [];
  for (const { cluster, glyphId, instance, room, end, offset, unit } of glyphs) {
    const em = unit * instance.unitsPerEm;
    const width = instance.advance(glyphId) * unit;
    const sides = { left: edgeShape(instance, glyphId, 'left'), right: edgeShape(instance, glyphId, 'right') };
    const inkLeft = sides.left ? room + offset + sides.left.ink * em : room;
    const inkRight = sides.right ? room + offset + width - sides.right.ink * em : end;
    const metLeft = sides.left && !allInk ? room + offset + sides.left.bearing * em : inkLeft;
    const metRight = sides.right && !allInk ? room + offset + width - sides.right.bearing * em : inkRight;
    const left = { room, ink: inkLeft, seen: room + ink * (metLeft - room) + past * (sides.left?.past ?? 0) * em };
    const right = { room: end, ink: inkRight, seen: end + ink * (metRight - end) - past * (sides.right?.past ?? 0) * em };
    const known = letters[letters.length - 1];
    if (known?.cluster !== cluster) {
      letters.push({ cluster, left, right });
      continue;
    }
    // A letter of several glyphs: its outermost ink counts.
    if (sides.left && left.ink < known.left.ink) known.left = { ...left, room: known.left.room };
    if (sides.right && (right.ink > known.right.ink || known.right.room === known.right.ink)) known.right = right;
  }
  return letters;
}
