import { WordedError } from '../errors';
import { AUTO_LEADING_FACTOR, type Leading, parseLeading, printLeading } from './leading';
import { UnitError, parseLength, printSigned, printValue } from './length';
import { parseMilliem } from './milliem';

/** Alignment of the lines in their frame. */
export const ALIGNMENTS = ['left', 'centre', 'right'] as const;
export type Align = (typeof ALIGNMENTS)[number];

/** What a spec line can say; parts that were not written are absent. */
export interface Spec {
  faceId?: string;
  sizePt?: number;
  leading?: Leading;
  trackingMilliem?: number;
  wordSpaceMilliem?: number;
  align?: Align;
  case?: SpecCase;
  /** Width and height of letters over their natural ones. */
  scaleX?: number;
  scaleY?: number;
}

/** Letter case as a spec line names it. */
const CASE_WORDS = { caps: 'capitals', smallcaps: 'small', titlecase: 'title', typed: 'typed' } as const;
export type SpecCase = (typeof CASE_WORDS)[keyof typeof CASE_WORDS];
const SCALE_WORDS = { wide: 'scaleX', tall: 'scaleY' } as const;

/** A face as a spec line names it. */
export interface NamedFace {
  id: string;
  family: string;
  style: string;
}

/** A spec line that can't be read: `message` for people, `word` the part it is about, `index` where that begins. */
export class SpecError extends WordedError {
  override readonly name = 'SpecError';

  constructor(
    message: string,
    readonly word: string,
    readonly index: number,
  ) {
    super(message);
  }
}

interface Token {
  text: string;
  index: number;
}

/** Size, with or without leading: begins with a digit and is not a signed value. */
const SIZE = /^(\d+(?:[.,]\d+)?(?:pt|mm|in|px)?)(?:\/(.+))?$/i;
const SIGNED = /^(?:[+\-−]\S+|0)$/;

/**
 * Reads trade notation: `Playfair Display Bold 64/60 −12 word −40 wide 90% caps centre`. Every part may be missing; their order after
 * the face is free. A bare number is the size; tracking carries a sign or is `0`.
 * @param faces the faces that may be named; words of the name may be shortened from the end (`Playfair Bold`).
 * @param sizePt the size that tracking given in points or millimetres refers to when none is written.
 * @param autoFactor what `auto` leading multiplies the size by.
 * @throws SpecError pointing at the word that is not understood.
 */
export function parseSpec(text: string, faces: readonly NamedFace[], sizePt: number, autoFactor = AUTO_LEADING_FACTOR): Spec {
  const tokens = [...text.matchAll(/\S+/g)].map((match): Token => ({ text: match[0], index: match.index }));
  const spec: Spec = {};
  const name: Token[] = [];
  while (tokens[0] && (!isValue(tokens[0].text) || continuesName(name, tokens[0], faces))) name.push(tokens.shift() as Token);
  if (name.length > 0) spec.faceId = findFace(name, faces).id;

  const trackings: Token[] = [];
  while (tokens.length > 0) {
    const token = tokens.shift() as Token;
    const align = alignment(token.text);
    if (align) {
      spec.align = align;
    } else if (/^word$/i.test(token.text)) {
      const value = tokens.shift();
      if (!value) throw new SpecError('A value must follow “word”.', token.text, token.index);
      spec.wordSpaceMilliem = read(value, () => parseMilliem(value.text, spec.sizePt ?? sizePt));
    } else if (caseOf(token.text)) {
      spec.case = caseOf(token.text) ?? 'typed';
    } else if (isScale(token.text)) {
      const value = tokens.shift();
      if (!value) throw new SpecError(`A percentage must follow “${token.text}”.`, token.text, token.index);
      spec[SCALE_WORDS[token.text.toLowerCase() as keyof typeof SCALE_WORDS]] = readScale(value);
    } else if (SIGNED.test(token.text)) {
      trackings.push(token);
    } else {
      readSize(token, spec, autoFactor);
    }
  }
  const tracking = trackings[0];
  if (tracking) spec.trackingMilliem = read(tracking, () => parseMilliem(tracking.text, spec.sizePt ?? sizePt));
  const second = trackings[1];
  if (second) throw new SpecError('Tracking is given twice.', second.text, second.index);
  return spec;
}

/** Prints a whole spec line; `parseSpec` reads it back to the same values. */
export function printSpec(
  face: NamedFace,
  spec: Required<Omit<Spec, 'faceId' | 'case' | 'scaleX' | 'scaleY'>> & Pick<Spec, 'case' | 'scaleX' | 'scaleY'>,
): string {
  const parts = [`${face.family} ${face.style}`.trim(), `${printValue(spec.sizePt)}/${printLeading(spec.leading)}`, printSigned(spec.trackingMilliem)];
  if (spec.wordSpaceMilliem !== 0) parts.push('word', printSigned(spec.wordSpaceMilliem));
  if (spec.scaleX !== undefined && spec.scaleX !== 1) parts.push('wide', `${printValue(spec.scaleX * 100, 4)}%`);
  if (spec.scaleY !== undefined && spec.scaleY !== 1) parts.push('tall', `${printValue(spec.scaleY * 100, 4)}%`);
  const named = Object.entries(CASE_WORDS).find(([, value]) => value === spec.case && value !== 'typed')?.[0];
  if (named) parts.push(named);
  if (spec.align !== 'left') parts.push(spec.align);
  return parts.join(' ');
}

function isValue(word: string): boolean {
  return (
    SIZE.test(word) ||
    SIGNED.test(word) ||
    /^word$/i.test(word) ||
    alignment(word) !== undefined ||
    caseOf(word) !== undefined ||
    isScale(word) ||
    /^\d[^/]*\//.test(word)
  );
}

const caseOf = (word: string): SpecCase | undefined => (CASE_WORDS as Record<string, SpecCase | undefined>)[word.toLowerCase()];
const isScale = (word: string): boolean => word.toLowerCase() in SCALE_WORDS;

function readScale(token: Token): number {
  const match = /^(\d+(?:[.,]\d+)?)%?$/.exec(token.text);
  const share = Number(match?.[1]?.replace(',', '.')) / 100;
  if (!(share >= 0.1 && share <= 10)) throw new SpecError('Scale is a percentage between 10 and 1000.', token.text, token.index);
  return share;
}

function alignment(word: string): Align | undefined {
  const lower = word.toLowerCase();
  if (lower === 'center' || lower === 'centred' || lower === 'centered') return 'centre';
  return ALIGNMENTS.find((align) => align === lower);
}

function readSize(token: Token, spec: Spec, autoFactor: number): void {
  const match = SIZE.exec(token.text);
  if (!match) throw new SpecError(`“${token.text}” is not understood here.`, token.text, token.index);
  if (spec.sizePt !== undefined) throw new SpecError('The size is given twice.', token.text, token.index);
  const [, size = '', leading] = match;
  spec.sizePt = read(token, () => parseLength(size));
  if (spec.sizePt < 1 || spec.sizePt > 5000) throw new SpecError('The size must be between 1 and 5000 pt.', token.text, token.index);
  if (leading !== undefined) spec.leading = read(token, () => parseLeading(leading, autoFactor));
}

function read<T>(token: Token, reader: () => T): T {
  try {
    return reader();
  } catch (error) {
    if (error instanceof UnitError) throw new SpecError(error.message, token.text, token.index);
    throw error;
  }
}

const nameWords = (face: NamedFace): string[] => `${face.family} ${face.style}`.toLowerCase().split(/\s+/);

/** A figure can be part of a family's name (`Source Sans 3`): it is where a face has it right after the words so far. */
function continuesName(name: readonly Token[], token: Token, faces: readonly NamedFace[]): boolean {
  if (name.length === 0) return false;
  const typed = name.map(({ text }) => text.toLowerCase());
  return faces.some((face) => {
    const words = nameWords(face);
    return typed.every((word, i) => words[i]?.startsWith(word)) && words[typed.length] === token.text;
  });
}

/** The face whose family and style words begin, in order, with the typed words; the shortest name wins. */
function findFace(typed: readonly Token[], faces: readonly NamedFace[]): NamedFace {
  const first = typed[0] as Token;
  const words = typed.map(({ text }) => text.toLowerCase());
  const inOrder = (name: readonly string[]): boolean => {
    let at = 0;
    return words.every((word) => {
      while (at < name.length && !name[at]?.startsWith(word)) at++;
      return at++ < name.length;
    });
  };
  const matches = faces
    .filter((face) => inOrder(nameWords(face)))
    .sort((a, b) => rank(a, words) - rank(b, words) || nameWords(a).join(' ').length - nameWords(b).join(' ').length);
  const best = matches[0];
  if (best) return best;
  const known = faces.some((face) => face.family.toLowerCase().startsWith(words[0] ?? ''));
  const last = typed[typed.length - 1] as Token;
  const at = known ? last : first;
  throw new SpecError(known ? `That family has no style “${last.text}”.` : `No face here is called “${first.text}”.`, at.text, at.index);
}

/** Exact names first, then a family's regular style, then the rest. */
function rank(face: NamedFace, words: readonly string[]): number {
  const full = `${face.family} ${face.style}`.toLowerCase();
  if (full === words.join(' ')) return 0;
  return face.style.toLowerCase() === 'regular' ? 1 : 2;
}
