/** The letters of a block in the order of its words, and the room each has on its line. */
import { type DrawingNode, type GlyphNode, type GroupNode, type LettersNode, groupMatrix } from '../../drawing';
import type { AxisValues, FaceInstance } from '../../face';
import { type FaceSet, type Matrix, compose } from '../../setting';

/** The glyphs sheets use of each face, with its position in design space. */
export function usedGlyphs(sheets: readonly { blocks: readonly GroupNode[]; faces: FaceSet }[]): Map<FaceInstance, { axes: AxisValues; glyphs: Set<number> }> {
  const used = new Map<FaceInstance, { axes: AxisValues; glyphs: Set<number> }>();
  const walk = (node: DrawingNode, faces: FaceSet): void => {
    if (node.kind === 'group') for (const one of node.nodes) walk(one, faces);
    if (node.kind !== 'letters') return;
    const instance = faces.instance(node.style);
    const own = used.get(instance) ?? { axes: node.style.axes, glyphs: new Set<number>() };
    used.set(instance, own);
    for (const { glyphId } of node.glyphs) own.glyphs.add(glyphId);
  };
  for (const { blocks, faces } of sheets) for (const block of blocks) walk(block, faces);
  return used;
}

/** A letter: what it shows, and the map from the font's units, y up, to the page. */
export interface PdfLetter {
  text: string;
  at: number;
  matrix: Matrix;
  unitsPerEm: number;
  /** In font units. */
  advance: number;
}

/** All letters of a block that stand for words, each once, in reading order. */
export function pdfLettersIn(block: GroupNode, faces: FaceSet): PdfLetter[] {
  const found: PdfLetter[] = [];
  const walk = (node: DrawingNode, outer: Matrix | undefined): void => {
    if (node.kind === 'group') {
      if (node.shadow) return;
      const own = groupMatrix(node);
      const matrix = own && outer ? compose(outer, own) : (own ?? outer);
      for (const one of node.nodes) walk(one, matrix);
    } else if (node.kind === 'letters') found.push(...pdfLettersOf(node, faces, outer));
  };
  walk(block, undefined);
  return found.sort((one, other) => one.at - other.at);
}

function pdfLettersOf(node: LettersNode, faces: FaceSet, outer: Matrix | undefined): PdfLetter[] {
  const instance = faces.instance(node.style);
  return node.glyphs.flatMap(({ glyphId, matrix, at, shows }: GlyphNode) =>
    at === undefined || shows === ''
      ? []
      : [
          {
            text: shows,
            at,
            matrix: outer ? compose(outer, matrix) : matrix,
            unitsPerEm: instance.unitsPerEm,
            advance: instance.advance(glyphId) || instance.unitsPerEm / 4,
          },
        ],
  );
}

/** Readers take a gap for a blank from about a tenth of an em on, some only from a fifth; the limits are on the safe side, in em. */
const LIKE_LETTERS = 0.06;
const LIKE_A_BLANK = 0.25;

/**
 * How wide the characters over letters are, in font units: each up to the next on its line, so that no reader takes tracking for a blank.
 * Where the next stands elsewhere, its own advance. Before a narrow blank so much less that no reader overlooks it.
 */
export function roomsOf(letters: readonly PdfLetter[]): number[] {
  const rooms = letters.map((letter, i) => roomOf(letter, letters[i + 1]));
  return rooms.map((room, i) => {
    const { unitsPerEm, text } = letters[i] ?? { unitsPerEm: 0, text: ' ' };
    const blank = letters[i + 1]?.text === ' ' && text !== ' ' ? (rooms[i + 1] ?? 0) : unitsPerEm;
    return Math.max(room / 2, room - Math.max(0, LIKE_A_BLANK * unitsPerEm - blank));
  });
}

function roomOf({ matrix, advance, unitsPerEm }: PdfLetter, next: PdfLetter | undefined): number {
  if (!next) return advance;
  const { along, across } = wayTo(matrix, next.matrix);
  const near = Math.abs(across) < unitsPerEm / 2 && along > advance / 4 && along < advance + unitsPerEm;
  return near ? along : advance;
}

/** Where one glyph stands, seen from another: along its baseline and across it, in its units; endless where it has no extent. */
function wayTo({ a, b, c, d, e, f }: Matrix, other: Matrix): { along: number; across: number } {
  const [dx, dy] = [other.e - e, other.f - f];
  const determinant = a * d - b * c;
  return { along: (d * dx - c * dy) / determinant, across: (a * dy - b * dx) / determinant };
}

/** True where no gap among the glyphs of a word could be taken for a blank. */
export const isTight = (word: readonly GlyphNode[], instance: FaceInstance): boolean =>
  word.every((glyph, i) => {
    const next = word[i + 1];
    if (!next) return true;
    const { along, across } = wayTo(glyph.matrix, next.matrix);
    const gap = Math.max(Math.abs(along - instance.advance(glyph.glyphId)), Math.abs(across));
    return gap < LIKE_LETTERS * instance.unitsPerEm;
  });

/** Glyphs between blanks; a blank is a word of its own, and so is what stands for no words. */
export function glyphWordsOf(glyphs: readonly GlyphNode[]): GlyphNode[][] {
  const words: GlyphNode[][] = [];
  let last: GlyphNode | undefined;
  for (const glyph of glyphs) {
    const goesOn = last?.at !== undefined && glyph.at !== undefined && !/\s/.test(last.shows + glyph.shows);
    if (goesOn) words[words.length - 1]?.push(glyph);
    else words.push([glyph]);
    last = glyph;
  }
  return words;
}

/** True for glyphs that stand in the opposite order of their words. */
export const runsLeft = ([first, ...more]: readonly GlyphNode[]): boolean => first?.at !== undefined && (more[more.length - 1]?.at ?? first.at) < first.at;

/** The words of glyphs, in their order. */
export const wordsShown = (glyphs: readonly GlyphNode[]): string =>
  [...glyphs]
    .sort((one, other) => (one.at ?? 0) - (other.at ?? 0))
    .map(({ shows }) => shows)
    .join('');
