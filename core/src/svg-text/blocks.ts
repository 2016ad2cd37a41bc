/** Text elements as blocks whose letters stand just where they stood. */
import { type Align, type Block, LIMITS, type Style } from '../job';
import { type BlockSetting, type FaceSet, LIGATURE_FEATURES, type SetLine, applyToPoint, setLettersOf, setBlock } from '../setting';
import { type TextCharacters, svgCharactersOf } from './characters';
import { cssLength } from './css';
import type { SvgElement } from './document';
import { type Placement, matrixTo, placementOf } from './geometry';
import { type Anchor, type PlacedCharacter, anchorOf, blockOf, changesFrom, svgLinesOf, placeCharacters } from './lines';
import { type TextReading, lookIn } from './look';
import { compose } from 'transformation-matrix';

/** A text element as it is imported. */
export interface TakenText {
  element: SvgElement;
  characters: PlacedCharacter[];
  ranges: TextCharacters['ranges'];
  placement: Placement;
  blocks: TakenBlock[];
  /** A face it asks for that is not at hand. */
  missing: string | undefined;
}

/** A block, and which character of the text each of its letters is. */
export interface TakenBlock {
  block: Block;
  /** The characters of each line, by their number in the text. */
  lines: PlacedCharacter[][];
  /** How far a letter stands from where it stood, at most, in points. */
  offPt: number;
}

/** Takes a text element in; undefined, with a note, where it has to stay as it is. */
export function takeText(element: SvgElement, reading: TextReading): TakenText | undefined {
  const { styles, canvas, faces, notes } = reading;
  const { characters, ranges, foreign } = svgCharactersOf(element, styles, canvas.viewport);
  const words = characters.map(({ text }) => text).join('');
  const stays = (why: string): undefined => void notes.left.push({ words: words.slice(0, 80), why });
  if (words.trim() === '') return undefined;
  if (words.length > LIMITS.words) return stays('it is too long');
  if (foreign !== undefined) return stays(foreign);
  const properties = styles.of(element);
  if (properties.get('visibility') === 'hidden') return stays('it is hidden');
  if (/^(tb|vertical)/.test(properties.get('writing-mode') ?? '')) return stays('it runs downwards');
  const own = matrixTo(element);
  const placement = own && placementOf(compose(canvas.matrix, own));
  if (!placement) return stays('it leans, is mirrored, or lies in a pattern');
  const stretched = element.attributes['lengthAdjust'] === 'spacingAndGlyphs';
  const layout = {
    faces,
    styleOf: lookIn(element, placement, reading),
    lengthPx: stretched ? undefined : cssLength(element.attributes['textLength'], 16, canvas.viewport.width),
    alongPt: placement.alongPt,
    acrossPt: placement.acrossPt,
  };
  const placed = placeCharacters(characters, layout);
  if (placed.some(({ style }) => !((style.sizePt ?? 0) >= 1 && (style.sizePt ?? 0) <= 5000))) return stays('its size is not from 1 to 5000 pt');
  const groups = groupsOf(svgLinesOf(placed).filter((line) => line.some(({ text }) => text.trim() !== '')));
  const blocks = groups.map((lines) => takenBlock(lines, placement, faces));
  const missing = placed.map((character) => reading.finder.find(character.properties).missing).find((one) => one !== undefined);
  return { element, characters: placed, ranges, placement, blocks, missing };
}

/** Lines that make one block: one below the other, in one size, and aligned alike. */
function groupsOf(lines: readonly PlacedCharacter[][]): PlacedCharacter[][][] {
  const groups: PlacedCharacter[][][] = [];
  for (const line of lines) {
    const group = groups[groups.length - 1];
    const [above, first] = [group?.[group.length - 1]?.[0], line[0]];
    if (!group || !above || !first || !isBelow(above, first)) groups.push([line]);
    else group.push(line);
  }
  return groups;
}

function isBelow(above: PlacedCharacter, first: PlacedCharacter): boolean {
  const anchor = anchorOf(first);
  if (anchor !== anchorOf(above)) return false;
  const size = above.style.sizePt ?? 1;
  const leading = first.penY - above.penY;
  const sameStart = anchor !== 'start' || Math.abs(first.penX - above.penX) < 2 * size;
  return leading > 0.4 * size && leading < 3 * size && sameStart && first.rotate === 0 && above.rotate === 0 && first.style.faceId === above.style.faceId;
}

const ALIGNS: Readonly<Record<Anchor, Align>> = { start: 'left', middle: 'centre', end: 'right' };

/** A letter stands no farther off than this, in points, to be taken for in place. */
const IN_PLACE = 1e-4;

function takenBlock(given: readonly PlacedCharacter[][], placement: Placement, faces: FaceSet): TakenBlock {
  // Blanks at the ends of lines show nothing.
  const lines = given.map((line) => line.slice(0, line.findLastIndex(({ text }) => text.trim() !== '') + 1));
  const characters = lines.flat();
  const breaks = new Set<number>();
  lines.reduce((count, line, i) => (i > 0 && breaks.add(count), count + line.length), 0);
  const offsets = offsetsOf(characters, breaks);
  let block: Block = { ...blockOf(characters, breaks), align: ALIGNS[characters[0] ? anchorOf(characters[0]) : 'start'], leading: leadingOf(lines) };
  block = { ...block, lineLeading: lineLeadings(lines, offsets, block) };
  block = withTurns(block, characters, offsets);
  let setting = setBlock(block, faces);
  if (isTied(setting, offsets)) {
    // Letters that are placed one by one are no ligature.
    block = { ...block, style: { ...block.style, features: { ...block.style.features, ...Object.fromEntries(LIGATURE_FEATURES.map((tag) => [tag, 0])) } } };
    setting = setBlock(block, faces);
  }
  for (let round = 0; round < 4; round++) {
    const off = offsOf(setting, offsets);
    if (worst(off) < IN_PLACE) break;
    block = moved(block, off, setting, offsets);
    setting = setBlock(block, faces);
  }
  const offPt = worst(offsOf(setting, offsets));
  return { block: placedOnSheet(block, setting, placement, offsets), lines: lines.map((line) => [...line]), offPt };
}

/** The characters by where they stand in the words. */
function offsetsOf(characters: readonly PlacedCharacter[], breaks: ReadonlySet<number>): Map<number, PlacedCharacter> {
  const offsets = new Map<number, PlacedCharacter>();
  let at = 0;
  characters.forEach((character, i) => {
    if (breaks.has(i)) at++;
    offsets.set(at, character);
    at += character.text.length;
  });
  return offsets;
}

const USUAL_LEADING = 1.2;

function leadingOf(lines: readonly PlacedCharacter[][]): Block['leading'] {
  const [first, second] = lines.map((line) => line[0]);
  const size = first?.style.sizePt ?? 1;
  return { kind: 'pt', pt: first && second ? second.penY - first.penY : USUAL_LEADING * size };
}

function lineLeadings(lines: readonly PlacedCharacter[][], offsets: ReadonlyMap<number, PlacedCharacter>, { leading }: Block): Block['lineLeading'] {
  const usual = leading.kind === 'pt' ? leading.pt : 0;
  const at = new Map([...offsets].map(([offset, character]) => [character, offset]));
  return lines.flatMap((line, i) => {
    const [first, above] = [line[0], lines[i - 1]?.[0]];
    const byPt = first && above ? first.penY - above.penY - usual : 0;
    const offset = first && at.get(first);
    return offset !== undefined && offset > 0 && Math.abs(byPt) > IN_PLACE ? [{ at: offset, byPt }] : [];
  });
}

/** Letters that are raised or turned, as runs. */
function withTurns(block: Block, characters: readonly PlacedCharacter[], offsets: ReadonlyMap<number, PlacedCharacter>): Block {
  if (!characters.some(({ rotate }) => rotate !== 0)) return block;
  const runs = [...offsets].map(([start, { text, rotate, style }]) => ({
    start,
    end: start + text.length,
    style: { ...changesFrom(block.style, style), turnDeg: rotate },
  }));
  return { ...block, runs };
}

interface Off {
  line: number;
  /** In points, to the right and down. */
  x: number;
  y: number;
  sizePt: number;
}

/** How far each letter stands from where it should, by its offset in the words; relative to the block's first letter. */
function offsOf({ lines }: BlockSetting, offsets: ReadonlyMap<number, PlacedCharacter>): Map<number, Off> {
  const found = new Map<number, Off>();
  let origin: { x: number; y: number } | undefined;
  lines.forEach((line, number) => {
    for (const { start, x, y, sizePt } of pensAt(line)) {
      const character = offsets.get(start);
      if (!character) continue;
      const off = { x: character.penX - x, y: character.penY - y };
      origin ??= off;
      found.set(start, { line: number, x: off.x - origin.x, y: off.y - origin.y, sizePt });
    }
  });
  return found;
}

const pensAt = (line: SetLine): { start: number; x: number; y: number; sizePt: number }[] =>
  [...setLettersOf(line)]
    .sort((a, b) => a.start - b.start)
    .map(({ start, leftPt, shift, sizePt }) => ({
      start,
      sizePt,
      ...(shift ? applyToPoint(shift, { x: leftPt, y: line.baselinePt }) : { x: leftPt, y: line.baselinePt }),
    }));

const worst = (offs: ReadonlyMap<number, Off>): number => Math.max(0, ...[...offs.values()].map(({ x, y }) => Math.max(Math.abs(x), Math.abs(y))));

/** True where a character that is told where to stand is within a ligature. */
function isTied({ lines }: BlockSetting, offsets: ReadonlyMap<number, PlacedCharacter>): boolean {
  const starts = new Set(lines.flatMap((line) => setLettersOf(line).map(({ start }) => start)));
  return [...offsets].some(([at, { begins, dx }]) => !starts.has(at) && (begins || dx !== 0) && /\S/.test(offsets.get(at)?.text ?? ''));
}

/** Moves letters to their places: lines by their indents, gaps by hand, heights and turned letters by their shifts. */
function moved(block: Block, offs: ReadonlyMap<number, Off>, { lines }: BlockSetting, offsets: ReadonlyMap<number, PlacedCharacter>): Block {
  const hand = new Map(block.hand.map(({ at, milliem }) => [at, milliem]));
  const indents = new Map(block.lineIndents.map(({ at, byPt }) => [at, byPt]));
  const shifts: { start: number; end: number; style: Partial<Style> }[] = [];
  lines.forEach((line, number) => {
    let before: Off | undefined;
    for (const { start } of pensAt(line)) {
      const off = offs.get(start);
      if (off?.line !== number) continue;
      if (!before) {
        if (Math.abs(off.x) > IN_PLACE) indents.set(start, (indents.get(start) ?? 0) + off.x);
      } else if (Math.abs(off.x - before.x) > IN_PLACE) hand.set(start, (hand.get(start) ?? 0) + ((off.x - before.x) / before.sizePt) * 1000);
      const character = offsets.get(start);
      if (character && Math.abs(off.y) > IN_PLACE) {
        const style = block.runs.find((run) => run.start <= start && run.end > start)?.style ?? {};
        const raised = (style.baselineShiftMilliem ?? block.style.baselineShiftMilliem) - (off.y / off.sizePt) * 1000;
        shifts.push({ start, end: start + character.text.length, style: { baselineShiftMilliem: raised } });
      }
      before = off;
    }
  });
  const sorted = (values: ReadonlyMap<number, number>): [number, number][] => [...values].filter(([, value]) => value !== 0).sort(([a], [b]) => a - b);
  const held = (value: number): number => Math.min(5000, Math.max(-1000, value));
  return {
    ...withRuns(block, shifts),
    hand: sorted(hand).flatMap(([at, milliem]) => (at > 0 ? [{ at, milliem: held(milliem) }] : [])),
    lineIndents: sorted(indents).map(([at, byPt]) => ({ at, byPt })),
  };
}

/** A block with further changes over stretches of its words. */
function withRuns(block: Block, changes: readonly { start: number; end: number; style: Partial<Style> }[]): Block {
  if (changes.length === 0) return block;
  const cuts = [...new Set([...block.runs, ...changes].flatMap(({ start, end }) => [start, end]))].sort((a, b) => a - b);
  const runs = cuts.slice(0, -1).flatMap((start, i) => {
    const end = cuts[i + 1] ?? start;
    const own = [...block.runs, ...changes].filter((run) => run.start <= start && run.end >= end);
    return own.length > 0 ? [{ start, end, style: Object.assign({}, ...own.map(({ style }) => style)) as Partial<Style> }] : [];
  });
  return { ...block, runs };
}

/** The block where its first letter stands on the sheet; it turns around the middle of its frame. */
function placedOnSheet(
  block: Block,
  { frame, lines }: BlockSetting,
  { alongPt, acrossPt, degrees, matrix }: Placement,
  offsets: ReadonlyMap<number, PlacedCharacter>,
): Block {
  const [first] = lines;
  const [pen] = first ? pensAt(first) : [];
  const target = pen && offsets.get(pen.start);
  // From where it is set to where it is along and across the text, then as the text lies.
  const [dx, dy] = target ? [target.penX - pen.x, target.penY - pen.y] : [0, 0];
  const middle = { x: frame.xPt + frame.widthPt / 2 + dx, y: frame.yPt + frame.heightPt / 2 + dy };
  const lying = applyToPoint(matrix, { x: middle.x / alongPt, y: middle.y / acrossPt });
  const turn = Math.abs(degrees) < 1e-9 ? 0 : degrees;
  return {
    ...block,
    rotationDeg: turn,
    frame: { xPt: lying.x - frame.widthPt / 2, yPt: lying.y - frame.heightPt / 2, widthPt: Math.max(1, frame.widthPt), heightPt: Math.max(1, frame.heightPt) },
  };
}
