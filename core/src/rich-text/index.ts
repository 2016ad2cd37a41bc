export { readHtml } from './html';
export { type FaceFor, type RichParagraph, type RichPiece, isRich, passageOf, wordsOf } from './paragraphs';
export { type PosedFaces, faceLike } from './face-like';
