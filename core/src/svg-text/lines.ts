/** Where the letters of a text stand, and which of them make a line: in points along and across the text, not yet turned, y down. */
import { type Block, type Run, type Style, createBlock } from '../job';
import { type FaceSet, type SetLine, setLettersOf, setBlock } from '../setting';
import type { Character } from './characters';
import { cssLength } from './css';

/** A character with its style and the place of its pen. */
export interface PlacedCharacter extends Character {
  style: Partial<Style>;
  penX: number;
  penY: number;
  /** How far it takes the pen, and how far it would without `textLength`. */
  widthPt: number;
  naturalPt: number;
  /** Number among the characters of its text. */
  index: number;
  /** True where it begins a chunk: its place is stated (SVG 2, section 11.5). */
  begins: boolean;
}

export type Anchor = 'start' | 'middle' | 'end';

/** The anchor of a chunk (SVG 2, section 11.10.1). */
export function anchorOf({ properties }: Pick<Character, 'properties'>): Anchor {
  const anchor = properties.get('text-anchor');
  return anchor === 'middle' || anchor === 'end' ? anchor : 'start';
}

/** The sizes a chunk is laid out with. */
interface Layout {
  faces: FaceSet;
  styleOf: (character: Character) => Partial<Style>;
  /** `textLength`, where it is stated: what the advances of the whole text come to, in user units. */
  lengthPx: number | undefined;
  /** Points for a user unit, along the line and across it. */
  alongPt: number;
  acrossPt: number;
}

/** The properties in which a style departs from another. */
export const changesFrom = (base: Style, style: Partial<Style>): Partial<Style> =>
  Object.fromEntries(Object.entries(style).filter(([key, value]) => JSON.stringify(value) !== JSON.stringify(base[key as keyof Style])));

/** A block of characters alone, set from 0, 0. */
export function blockOf(characters: readonly Pick<PlacedCharacter, 'text' | 'style'>[], breaks: ReadonlySet<number> = new Set()): Block {
  let words = '';
  const runs: Run[] = [];
  const [first] = characters;
  const base = createBlock('b', '', { xPt: 0, yPt: 0, widthPt: 1, heightPt: 1 }, first?.style ?? {});
  // Most characters share their style with their neighbours.
  const known = new Map<Partial<Style>, Partial<Style>>();
  characters.forEach(({ text, style }, i) => {
    if (breaks.has(i)) words += '\n';
    const start = words.length;
    words += text;
    const changes = known.get(style) ?? changesFrom(base.style, style);
    known.set(style, changes);
    if (Object.keys(changes).length === 0) return;
    const last = runs[runs.length - 1];
    if (last?.end === start && (last.style === changes || JSON.stringify(last.style) === JSON.stringify(changes))) last.end = words.length;
    else runs.push({ start, end: words.length, style: changes });
  });
  return { ...base, words, runs, grow: 'both' };
}

/** Where each letter's pen stands on a set line, by its first offset in the words, in points. */
export function pensOf(line: SetLine): Map<number, number> {
  return new Map(setLettersOf(line).map(({ start, leftPt }) => [start, leftPt]));
}

/** Gives every character the place of its pen. */
export function placeCharacters(characters: readonly Character[], layout: Layout): PlacedCharacter[] {
  const { styleOf, lengthPx, alongPt, acrossPt } = layout;
  const placed = characters.map((character, index): PlacedCharacter => ({
    ...character,
    style: styleOf(character),
    penX: 0,
    penY: 0,
    widthPt: 0,
    naturalPt: 0,
    index,
    begins: index === 0 || character.x !== undefined || character.y !== undefined,
  }));
  let [x, y] = [0, 0];
  for (let start = 0; start < placed.length;) {
    let end = start + 1;
    while (end < placed.length && !placed[end]?.begins) end++;
    const chunk = placed.slice(start, end);
    const widths = characterWidths(chunk, layout.faces);
    // The rest is shared by all gaps (SVG 2, section 11.5.3, `spacing`).
    const shares = lengthPx !== undefined && chunk.length > 1 && chunk.length === placed.length;
    const extra = shares ? (lengthPx * alongPt - sum(widths)) / (chunk.length - 1) : 0;
    const first = chunk[0];
    x = first?.x === undefined ? x : first.x * alongPt;
    y = first?.y === undefined ? y : first.y * acrossPt;
    const shifts = sum(chunk.map(({ dx }) => dx * alongPt));
    const length = sum(widths) + shifts + extra * Math.max(0, chunk.length - 1);
    const anchor = first ? anchorOf(first) : 'start';
    x -= anchor === 'middle' ? length / 2 : anchor === 'end' ? length : 0;
    chunk.forEach((character, i) => {
      x += character.dx * alongPt;
      y += character.dy * acrossPt;
      character.penX = x;
      character.penY = y - raisedPt(character, layout.faces);
      character.naturalPt = widths[i] ?? 0;
      character.widthPt = character.naturalPt + extra;
      x += character.widthPt;
    });
    start = end;
  }
  return placed;
}

/** How far a character stands above the line it is told to stand on: by `dominant-baseline` and `baseline-shift` (CSS Inline 3). */
function raisedPt({ properties, style }: PlacedCharacter, faces: FaceSet): number {
  const { faceId = '', axes = {}, sizePt = 0 } = style;
  const baseline = properties.get('dominant-baseline') ?? 'auto';
  const shift = properties.get('baseline-shift') ?? '0';
  if (/^(auto|alphabetic)$/.test(baseline) && /^(0|baseline)$/.test(shift)) return 0;
  const instance = faces.instance({ faceId, axes });
  const { ascender, descender, xHeight } = instance.metrics;
  const below = new Map(
    Object.entries({
      middle: xHeight / 2,
      central: (ascender + descender) / 2,
      mathematical: ascender / 2,
      hanging: ascender * 0.8,
      'text-before-edge': ascender,
      'text-top': ascender,
      'text-after-edge': descender,
      'text-bottom': descender,
      ideographic: descender,
    }),
  );
  const em = Number(properties.get('font-size') ?? 16);
  const height = (ascender - descender) / 2;
  const named = shift === 'super' ? height : shift === 'sub' ? -height : undefined;
  const raised = named ?? ((cssLength(shift, em, em) ?? 0) / em) * instance.unitsPerEm;
  return ((raised - (below.get(baseline) ?? 0)) * sizePt) / instance.unitsPerEm;
}

const sum = (values: readonly number[]): number => values.reduce((total, value) => total + value, 0);

/** How far each character of a chunk takes the pen, as a reader sets it: with its neighbours of the same face and size, and with its letter-spacing behind it. */
function characterWidths(chunk: readonly PlacedCharacter[], faces: FaceSet): number[] {
  const widths: number[] = [];
  for (let start = 0; start < chunk.length;) {
    let end = start + 1;
    while (end < chunk.length && shapesAlike(chunk[start], chunk[end])) end++;
    widths.push(...shapedWidths(chunk.slice(start, end), faces));
    start = end;
  }
  return widths;
}

/** True where readers shape both together: the same face at the same size. */
const shapesAlike = (one: PlacedCharacter | undefined, other: PlacedCharacter | undefined): boolean =>
  one?.style === other?.style ||
  (['faceId', 'sizePt', 'kerning', 'scaleX', 'axes', 'features'] as const).every(
    (key) => JSON.stringify(one?.style[key]) === JSON.stringify(other?.style[key]),
  );

function shapedWidths(chunk: readonly PlacedCharacter[], faces: FaceSet): number[] {
  const last = chunk[chunk.length - 1];
  // Blanks at the end of a line hang past it: a letter behind them tells how wide they are.
  const hangs = last?.text === ' ';
  const [line] = setBlock(blockOf(hangs ? [...chunk, { ...last, text: 'n' }] : chunk), faces).lines;
  if (!line) return chunk.map(() => 0);
  const pens = pensOf(line);
  const places: (number | undefined)[] = [];
  let offset = 0;
  for (const { text } of chunk) {
    places.push(pens.get(offset));
    offset += text.length;
  }
  const trail = last ? ((last.style.trackingMilliem ?? 0) / 1000) * (last.style.sizePt ?? 0) : 0;
  return spread(places, (hangs ? pens.get(offset) : undefined) ?? line.leftPt + line.widthPt + trail);
}

/** Widths from places; characters of a ligature share its room alike. */
function spread(places: readonly (number | undefined)[], end: number): number[] {
  const widths: number[] = [];
  for (let i = 0; i < places.length;) {
    let next = i + 1;
    while (next < places.length && places[next] === undefined) next++;
    const room = (places[next] ?? end) - (places[i] ?? 0);
    for (let k = i; k < next; k++) widths.push(room / (next - i));
    i = next;
  }
  return widths;
}

/** A gap within a line is no wider than this, and no narrower, in em. */
const GAP = { least: -0.9, most: 1.5 };
/** Letters stand on one line up to this difference of their height, in em. */
const LEVEL = 0.75;

/** Lines: what follows on about the same height, each letter near the end of the one before. */
export function svgLinesOf(placed: readonly PlacedCharacter[]): PlacedCharacter[][] {
  const lines: PlacedCharacter[][] = [];
  for (const character of placed) {
    const line = lines[lines.length - 1];
    const last = line?.[line.length - 1];
    if (line && last && (!character.begins || goesOn(last, character)) && isLevel(last, character)) line.push(character);
    else lines.push([character]);
  }
  return lines;
}

const emOf = ({ style }: PlacedCharacter): number => style.sizePt ?? 1;

function goesOn(last: PlacedCharacter, next: PlacedCharacter): boolean {
  const gap = (next.penX - last.penX - last.widthPt) / emOf(last);
  return gap > GAP.least && gap < GAP.most;
}

/** Turned letters ride on a path and keep no height. */
const isLevel = (last: PlacedCharacter, next: PlacedCharacter): boolean =>
  Math.abs(next.penY - last.penY) < LEVEL * emOf(last) || (next.rotate !== 0 && last.rotate !== 0 && Math.abs(next.penY - last.penY) < GAP.most * emOf(last));
