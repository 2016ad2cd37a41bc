/** How words are set that come without a look of their own. */
import { DEFAULT_STYLE, NEW_KERNING, type Style } from '../job';
import type { FaceSet } from '../setting';
import { faceLike } from '../rich-text';

export interface SourceStyle {
  sizePt: number;
  bold: boolean;
}

export const HEADLINE: SourceStyle = { sizePt: 48, bold: true };
export const COPY: SourceStyle = { sizePt: 14, bold: false };
/** Headings by their depth, from 1. */
export const HEADINGS: readonly SourceStyle[] = [HEADLINE, { sizePt: 32, bold: true }, { sizePt: 24, bold: true }, { sizePt: 18, bold: true }];

export function wordsStyle(faces: FaceSet, { sizePt, bold }: SourceStyle): Partial<Style> {
  const [first] = faces.entries();
  const usual = faces.has(DEFAULT_STYLE.faceId) ? DEFAULT_STYLE.faceId : (first?.[0] ?? DEFAULT_STYLE.faceId);
  return { faceId: faceLike(faces, usual, { bold, italic: false }), sizePt, kerning: NEW_KERNING };
}
