/** A word to practise on: its letters as outlines, and where its designer and its shapes would have them. */
import { WordedError } from '../base';
import { type PathMatrix, pathData } from '../face';
import type { Block } from '../job';
import { type FaceSet, type GapLedger, type SetLetter, type SetLine, isSpace, ledgersOf, setLettersOf, setBlock } from '../setting';
import { fontWordOf } from '../spacing';
import type { PairKind } from '../taste';
import { LEAST_WORD_LETTERS, MOST_WORD_LETTERS } from './levels';

/** Set so large that points are 1/1000 em. */
const SIZE = 1000;
/** From this belief in a font's own kerning on, where it stands is what is aimed at; under it, what the shapes propose. */
const GOOD_KERNING = 0.5;

export interface DrillLetter {
  text: string;
  /** SVG path data from the letter's origin, in 1/1000 em, y down. */
  outline: string;
  /** Its advance, without kerning. */
  advance: number;
}

/** A gap between a letter and the one before it. */
export interface DrillGap {
  /** Which sides face each other; null across a word space or where one has no ink. */
  pair: PairKind | null;
  /** The letters of both sides, and the blank between. */
  text: string;
}

/** All lengths in 1/1000 em. */
export interface DrillLine {
  faceId: string;
  words: string;
  letters: DrillLetter[];
  /** One less than letters. */
  gaps: DrillGap[];
  /** Where each letter begins, as the font's designer spaces it, and as its shapes ask for between the same ends. */
  designer: number[];
  measured: number[];
  /** Which of both is aimed at. */
  aim: 'designer' | 'measured';
  ascender: number;
  descender: number;
  capHeight: number;
  xHeight: number;
}

/** Ligatures would make one letter of two. */
const APART = { liga: 0, clig: 0, dlig: 0, hlig: 0, calt: 0 };

/** Something that can't be practised on, in words. */
export class DrillError extends WordedError {
  override readonly name = 'DrillError';
}

/** True for a face whose own kerning can be learned from: it agrees with the shapes of its letters. */
export const hasGoodKerning = (faces: FaceSet, faceId: string): boolean => fontWordOf(faces.instance({ faceId, axes: {} }).face).kerned >= GOOD_KERNING;

/** Words set in one line with their gaps changed by hand, letter by letter. @throws DrillError for words with fewer than three or too many letters */
function setWords(words: string, faceId: string, faces: FaceSet, plain: Block, hand: Block['hand'] = []): SetWords {
  const text = words.replace(/\s+/gu, ' ').trim();
  const frame = { xPt: 0, yPt: 0, widthPt: 1_000_000, heightPt: SIZE };
  const block: Block = { ...plain, words: text, frame, style: { ...plain.style, faceId, sizePt: SIZE, features: APART, kerning: 'font' }, hand };
  const [line] = setBlock(block, faces).lines;
  const set = line ? setLettersOf(line) : [];
  const letters = set.filter(({ start, end }) => !isSpace(text.slice(start, end)));
  if (!line || letters.length < LEAST_WORD_LETTERS) throw new DrillError('Type at least three letters: the first and last are fixed.');
  if (letters.length > MOST_WORD_LETTERS) throw new DrillError(`${letters.length} letters are too many; up to ${MOST_WORD_LETTERS} can be practised.`);
  const ledgers = ledgersOf(block, line, faces);
  const origin = letters[0]?.leftPt ?? 0;
  return {
    text,
    line,
    letters,
    places: letters.map(({ leftPt }) => inTenths(leftPt - origin)),
    between: letters.slice(1).map((right, i) => ledgers.filter(({ at }) => at > (letters[i]?.start ?? 0) && at <= right.start)),
  };
}

interface SetWords {
  text: string;
  line: SetLine;
  letters: SetLetter[];
  places: number[];
  /** The gaps between a letter and the one before it: two where a blank is between them. */
  between: GapLedger[][];
}

/** The one gap between two letters; undefined where a blank is between them. */
const loneOf = ([only, more]: readonly GapLedger[]): GapLedger | undefined => (more ? undefined : only);

/** @throws DrillError for words with fewer than three or too many letters */
export function drillLineFrom(plain: Block, words: string, faceId: string, faces: FaceSet): DrillLine {
  const { text, line, letters: shown, places: designer, between } = setWords(words, faceId, faces, plain);
  const instance = faces.instance({ faceId, axes: {} });
  const perUnit = SIZE / instance.unitsPerEm;
  const glyphs = line.runs.flatMap((run) => run.glyphs);
  const letters = shown.map(({ start, end, leftPt }): DrillLetter => {
    const own = glyphs.filter(({ cluster }) => cluster === start);
    const outline = own.map(({ glyphId, xPt, yPt }) => {
      const matrix: PathMatrix = { a: perUnit, b: 0, c: 0, d: -perUnit, e: xPt - leftPt, f: yPt - line.baselinePt };
      return pathData(instance.outline(glyphId), matrix, 1);
    });
    return { text: text.slice(start, end), outline: outline.join(''), advance: own.reduce((sum, { glyphId }) => sum + instance.advance(glyphId) * perUnit, 0) };
  });
  const { metrics } = instance;
  return {
    faceId,
    words: text,
    letters,
    gaps: between.map((held, i) => ({ pair: loneOf(held)?.pair ?? null, text: text.slice(shown[i]?.start, shown[i + 1]?.end) })),
    designer,
    measured: betweenEnds(designer, between.map(shapeOverFont)),
    aim: hasGoodKerning(faces, faceId) ? 'designer' : 'measured',
    ascender: metrics.ascender * perUnit,
    descender: metrics.descender * perUnit,
    capHeight: metrics.capHeight * perUnit,
    xHeight: metrics.xHeight * perUnit,
  };
}

/** Gaps are looked for within so much of where the designer has them, and found to a tenth of 1/1000 em. */
const REACH = 800;
const HALVINGS = 14;

/**
 * Where letters stand whose inks are only just farther apart than is asked for, gap by gap, and how far they are then.
 * @param wanted in 1/1000 em; undefined leaves a gap as the designer has it, as a word space does.
 */
export function closedTo(
  plain: Block,
  line: DrillLine,
  wanted: readonly (number | undefined)[],
  faces: FaceSet,
): { places: number[]; distances: (number | undefined)[] } {
  const { between } = setWords(line.words, line.faceId, faces, plain);
  const ats = between.map((held) => loneOf(held)?.at);
  const [low, high] = [wanted.map(() => -REACH), wanted.map(() => REACH)];
  const handAt = (values: readonly number[]): Block['hand'] =>
    ats.flatMap((at, i) => (at === undefined || wanted[i] === undefined ? [] : [{ at, milliem: inTenths(values[i] ?? 0) }]));
  for (let halving = 0; halving < HALVINGS; halving++) {
    const middle = low.map((value, i) => (value + (high[i] ?? 0)) / 2);
    // All gaps are looked at together: none of them moves the inks of another.
    const tried = setWords(line.words, line.faceId, faces, plain, handAt(middle));
    tried.between.forEach((held, i) => {
      const far = (loneOf(held)?.distancePt ?? Number.POSITIVE_INFINITY) > (wanted[i] ?? 0);
      (far ? high : low)[i] = middle[i] ?? 0;
    });
  }
  const closed = setWords(line.words, line.faceId, faces, plain, handAt(high));
  return { places: closed.places, distances: closed.between.map((held) => loneOf(held)?.distancePt) };
}

/** How much more than the font's own kerning the shapes ask for. */
const shapeOverFont = (held: readonly GapLedger[]): number => held.reduce((sum, { fontMilliem, shapeMilliem }) => sum + shapeMilliem - fontMilliem, 0);

/** Where letters stand with their gaps changed and both ends kept: what that adds or takes in all is shared out evenly. */
export function betweenEnds(places: readonly number[], changes: readonly number[]): number[] {
  const share = changes.reduce((sum, change) => sum + change, 0) / Math.max(1, changes.length);
  let moved = 0;
  return places.map((place, i) => {
    if (i > 0) moved += (changes[i - 1] ?? 0) - share;
    return inTenths(place + moved);
  });
}

/** Places in the steps that they are kept in: tenths of 1/1000 em. */
export const inTenths = (value: number): number => Math.round(value * 10) / 10;
