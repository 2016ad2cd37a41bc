/** The text of an SVG spaced anew: only the attributes that say where letters stand are written, every other byte stays. */
import { inWords } from '../base';
import { printNumber } from '../face';
import { type Block, JOB_VERSION, type Job, createSheet } from '../job';
import { type CutOptions, type FirstCut, firstCut } from '../refine';
import { type BlockSetting, type FaceSet, type SetLine, setBlock } from '../setting';
import type { TakenText } from './blocks';
import type { Notes } from './look';
import { type Replacement, type SvgElement, SvgError, readSvg, replaced, withAttribute } from './document';
import { type Anchor, type PlacedCharacter, anchorOf, pensOf } from './lines';
import { textsOf } from './take-svg';

/** An SVG whose text was spaced. */
export interface RefinedSvg {
  source: string;
  /** The first cut, with the measures before and after. */
  cut: FirstCut;
  notes: Notes;
  /** How many text elements have other places now. */
  changed: number;
}

/** Steps of the first cut that say only where letters stand. */
export const SVG_STEPS = ['tracking', 'kerning', 'edges'] as const;

/** Decimals of places in user units. */
const DIGITS = 4;
/** Less than this, in user units, is no change. */
const LEAST = 0.0005;
/** A letter that a file places this near to where it stands anyway, in user units, was placed by a program that rounds to hundredths, not by hand. */
const ROUNDED = 0.015;

/**
 * Spaces the text of an SVG. Texts whose faces are not at hand stay as they are, and so do those that can't be set here. A gap that
 * the file spaces by hand (`dx`, `x`) keeps its white, and a line that begins at a `dx` its beginning, so that a step
 * changes nothing the second time (docs/handing-over.md has what remains).
 * @param options the steps, of `SVG_STEPS`. @throws SvgError
 */
export function refineSvg(source: string, faces: FaceSet, options: CutOptions): RefinedSvg {
  return inWords(
    () => spaced(source, faces, options),
    (message) => new SvgError(`The SVG can’t be spaced. ${message}`),
  );
}

function spaced(source: string, faces: FaceSet, options: CutOptions): RefinedSvg {
  const { texts, reading } = textsOf(readSvg(source), faces);
  const { canvas, notes } = reading;
  const known = texts.filter(({ missing, characters }) => {
    if (missing !== undefined) notes.left.push({ words: wordsIn(characters), why: `its face, “${missing}”, is missing` });
    return missing === undefined;
  });
  const named = known.map((text, t) => ({ text, blocks: text.blocks.map(({ block }, b) => ({ ...block, id: `${t}-${b}` })) }));
  const job: Job = {
    format: 'jentrix.job',
    version: JOB_VERSION,
    title: 'SVG',
    kind: 'other',
    language: null,
    pairs: [],
    sheets: [{ ...createSheet('sheet', 'SVG', canvas.widthPt, canvas.heightPt, 'px'), blocks: named.flatMap(({ blocks }) => blocks) }],
  };
  const cut = firstCut(job, faces, options);
  const after = new Map(cut.job.sheets[0]?.blocks.map((block) => [block.id, block]));
  const changes: Replacement[] = [];
  let changed = 0;
  for (const { text, blocks } of named) {
    const moves = new Map<PlacedCharacter, number>();
    blocks.forEach((before, b) => {
      const now = after.get(before.id);
      const taken = text.blocks[b];
      if (now && taken && now !== before)
        for (const [character, by] of movesOf(before, now, taken.lines, faces, text.placement.alongPt)) moves.set(character, by);
    });
    const own = [...moves.values()].some((by) => Math.abs(by) > LEAST * text.placement.alongPt) ? changesOf(source, text, moves) : [];
    if (own.length > 0) changed++;
    changes.push(...own);
  }
  return { source: replaced(source, changes), cut, notes, changed };
}

const wordsIn = (characters: readonly PlacedCharacter[]): string =>
  characters
    .map(({ text }) => text)
    .join('')
    .slice(0, 80);

/**
 * How far characters have moved along their lines, in points; those within a ligature are left out. Across a gap that was spaced by
 * hand they move together.
 * @param alongPt points for a user unit.
 */
function movesOf(before: Block, after: Block, lines: readonly PlacedCharacter[][], faces: FaceSet, alongPt: number): [PlacedCharacter, number][] {
  const [was, is] = [setBlock(before, faces), setBlock(after, faces)];
  const hand = new Map(before.hand.map(({ at, milliem }) => [at, milliem]));
  const byHand = ({ dx, x, style }: PlacedCharacter, at: number): boolean =>
    dx !== 0 || (x !== undefined && Math.abs(((hand.get(at) ?? 0) * (style.sizePt ?? before.style.sizePt)) / 1000 / alongPt) > ROUNDED);
  const found: [PlacedCharacter, number][] = [];
  let at = 0;
  for (const line of lines) {
    const start = at;
    const [old, now] = [lineAt(was, start), lineAt(is, start)];
    at += line.reduce((sum, { text }) => sum + text.length, 1);
    if (!old || !now) continue;
    const [from, to] = [pensOf(old), pensOf(now)];
    const anchor = line[0] ? anchorOf(line[0]) : 'start';
    const stays = held(old, now, anchor);
    let offset = start;
    let last: number | undefined;
    // What gaps that keep their white would have taken.
    let kept = anchor === 'start' && line[0]?.dx ? (to.get(start) ?? 0) - (from.get(start) ?? 0) - stays : 0;
    const moved: [PlacedCharacter, number][] = [];
    for (const character of line) {
      const [x, goal] = [from.get(offset), to.get(offset)];
      if (x !== undefined && goal !== undefined) {
        const by = goal - x - stays;
        if (last !== undefined && byHand(character, offset)) kept += by - last;
        last = by;
        moved.push([character, by - kept]);
      }
      offset += character.text.length;
    }
    const back = anchor === 'end' ? kept : anchor === 'middle' ? kept / 2 : 0;
    found.push(...moved.map(([character, by]): [PlacedCharacter, number] => [character, by + back]));
  }
  return found;
}

const lineAt = ({ lines }: BlockSetting, at: number): SetLine | undefined => lines.find(({ start, end }) => at >= start && at < Math.max(end, start + 1));

/** By how much a line has to go back so that its anchor stays: its beginning, its middle, or its end. */
function held(old: SetLine, now: SetLine, anchor: Anchor): number {
  // Where edges are aligned by what is seen, a beginning moves on purpose.
  if (anchor === 'start') return now.edges ? 0 : now.leftPt - old.leftPt;
  const edgesOf = ({ edges, leftPt, widthPt }: SetLine): { leftPt: number; rightPt: number } => edges ?? { leftPt, rightPt: leftPt + widthPt };
  const [a, b] = [{ leftPt: old.leftPt, rightPt: old.leftPt + old.widthPt }, edgesOf(now)];
  return anchor === 'end' ? b.rightPt - a.rightPt : (b.leftPt + b.rightPt - a.leftPt - a.rightPt) / 2;
}

/** The start tags of a text with the places of its letters as they are now. */
function changesOf(source: string, { element, characters, ranges, placement }: TakenText, moves: ReadonlyMap<PlacedCharacter, number>): Replacement[] {
  const { alongPt } = placement;
  const dxs: number[] = [];
  const xs = new Map<number, number>();
  const print = (value: number): number => Math.round(value * 10 ** DIGITS) / 10 ** DIGITS;
  // Where the pen is when a chunk begins.
  let pen = 0;
  for (let start = 0; start < characters.length;) {
    let end = start + 1;
    while (end < characters.length && !characters[end]?.begins) end++;
    const [first, ...more] = characters.slice(start, end);
    if (!first) break;
    const anchor = anchorOf(first);
    // Characters without a move of their own, within ligatures and at the ends of lines, go with the one before.
    let by = moves.get(first) ?? 0;
    const begin = (first.penX + by) / alongPt;
    // One that is given a height only goes on where the pen is.
    const goesOn = first.x === undefined && start > 0 && anchor === 'start';
    // A beginning that moves says so by its shift: its place goes on being the margin. Other anchors don't heed it.
    const own = goesOn ? print(begin - pen) : anchor === 'start' && first.x !== undefined ? print(begin - first.x) : first.dx;
    dxs[start] = own;
    let said = own;
    let expected = begin + first.naturalPt / alongPt;
    for (const character of more) {
      by = moves.get(character) ?? by;
      const dx = print((character.penX + by) / alongPt - expected);
      dxs[character.index] = dx;
      said += dx;
      expected += dx + character.naturalPt / alongPt;
    }
    pen = expected;
    const length = [first, ...more].reduce((sum, { naturalPt }) => sum + naturalPt / alongPt, said);
    const x = begin - own + (anchor === 'middle' ? length / 2 : anchor === 'end' ? length : 0);
    if (!goesOn && Math.abs(x - (first.x ?? 0)) > LEAST) xs.set(start, print(x));
    start = end;
  }
  const out: Replacement[] = [];
  for (const [part, range] of ranges) {
    const tag = source.slice(part.start, part.tagEnd);
    const now = withPlaces(tag, part, { isText: part === element, range, dxs, xs, characters });
    if (now !== tag) out.push({ start: part.start, end: part.tagEnd, text: now });
  }
  return out;
}

interface Places {
  isText: boolean;
  range: { start: number; end: number };
  dxs: readonly number[];
  xs: ReadonlyMap<number, number>;
  characters: readonly PlacedCharacter[];
}

function withPlaces(tag: string, { attributes }: SvgElement, { isText, range, dxs, xs, characters }: Places): string {
  let now = tag;
  const { start, end } = range;
  // All shifts stand with the text; parts of it would only hide them.
  const shifts = isText ? Array.from({ length: end - start }, (_, i) => dxs[start + i] ?? 0) : [];
  while (shifts[shifts.length - 1] === 0) shifts.pop();
  if (isText || attributes['dx'] !== undefined) now = withAttribute(now, 'dx', shifts.length > 0 ? shifts.map(printedNumber).join(' ') : undefined);
  if (isText) now = withAttribute(now, 'textLength', undefined);
  const list = (attributes['x'] ?? '').trim() === '' ? [] : (attributes['x'] ?? '').trim().split(/[\s,]+/);
  const owned = list.map((text, i) => (characters[start + i]?.x === undefined ? text : printedOr(xs.get(start + i), text)));
  if (isText && list.length === 0 && xs.has(start)) owned.push(printedNumber(xs.get(start) ?? 0));
  if (owned.join(' ') !== list.join(' ')) now = withAttribute(now, 'x', owned.join(' '));
  return now;
}

const printedNumber = (value: number): string => printNumber(value, DIGITS);
const printedOr = (value: number | undefined, otherwise: string): string => (value === undefined ? otherwise : printedNumber(value));
