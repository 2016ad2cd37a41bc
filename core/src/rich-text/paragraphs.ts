/** Words with the looks that other programs can say: paragraphs of pieces, bold, italic, of a size and a colour. */
import type { Block, Run, Style } from '../job';
import type { Passage } from '../wording';

export interface RichPiece {
  text: string;
  bold: boolean;
  italic: boolean;
  sizePt?: number | undefined;
  /** `#rrggbb`. */
  colour?: string | undefined;
}

export interface RichParagraph {
  /** 1 to 6 for headings, 0 for copy. */
  heading: number;
  list: Block['paragraph']['list'];
  pieces: RichPiece[];
}

/** Gives the face for a pose: the bold or italic one of a family. */
export type FaceFor = (pose: Pick<RichPiece, 'bold' | 'italic'>) => string;

/** The properties in which a piece departs from the words around it. */
function departing(piece: RichPiece, base: Pick<Style, 'faceId' | 'sizePt' | 'colour'>, faceFor: FaceFor): Run['style'] {
  const { sizePt, colour } = piece;
  const faceId = faceFor(piece);
  return {
    ...(faceId === base.faceId ? {} : { faceId }),
    ...(sizePt === undefined || sizePt === base.sizePt ? {} : { sizePt }),
    ...(colour === undefined || colour === base.colour ? {} : { colour }),
  };
}

/** Pieces as words with runs. @param base the style of the words they are among. */
export function wordsFromPieces(
  pieces: readonly RichPiece[],
  base: Pick<Style, 'faceId' | 'sizePt' | 'colour'>,
  faceFor: FaceFor,
): { words: string; runs: Run[] } {
  const runs: Run[] = [];
  let words = '';
  for (const piece of pieces) {
    const start = words.length;
    words += piece.text;
    const style = departing(piece, base, faceFor);
    if (piece.text.trim() !== '' && Object.keys(style).length > 0) runs.push({ start, end: words.length, style });
  }
  return { words, runs };
}

/** Paragraphs as a passage to be pasted among words of a style, a line for each. */
export function passageOf(paragraphs: readonly RichParagraph[], base: Style, faceFor: FaceFor): Passage {
  const lineEnd: RichPiece = { text: '\n', bold: false, italic: false };
  const { words, runs } = wordsFromPieces(
    paragraphs.flatMap(({ pieces }, i) => (i === 0 ? pieces : [lineEnd, ...pieces])),
    base,
    faceFor,
  );
  return { words, styles: runs.map(({ start, end, style }) => ({ start, end, style: { ...base, ...style } })), hand: [] };
}

/** True where something in it has a look: other text may be taken as plain. */
export const isRich = (paragraphs: readonly RichParagraph[]): boolean =>
  paragraphs.some(({ pieces }) => pieces.some(({ bold, italic, sizePt, colour }) => bold || italic || sizePt !== undefined || colour !== undefined));
