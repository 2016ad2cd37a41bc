export { readHtml } from './html';
export { type FaceFor, type RichParagraph, type RichPiece, isRich, passageOf, wordsFromPieces } from './paragraphs';
export { type PosedFaces, faceLike } from './face-like';
