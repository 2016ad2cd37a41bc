/** The spec line: trade notation for the settings of a block. What a property says in it stands in the property's definition. */
import { WordedError } from '../base';
import { AUTO_LEADING_FACTOR, type Leading, UnitError, parseLeading, parseLength, parseMilliem, printLeading, printSigned, printValue } from '../units';
import { ALIGNMENTS, type Align } from './schema';
import { type SpecPart, type Style, type StyleProperty, styleProperties } from './style';

/** The values of a spec line; parts that were not written are absent. */
export interface Spec {
  style: Partial<Style>;
  leading?: Leading;
  align?: Align;
}

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
const SIZE = /^(\d+(?:[.,]\d+)?(?:pt|mm|cm|in|px)?)(?:\/(.+))?$/i;
const SIGNED = /^(?:[+\-−]\S+|0)$/;
/** Leading alone, as a share of the size. */
const PERCENT = /^\d+(?:[.,]\d+)?%$/;
/** Words that tracking may follow; its sign is not needed then. */
const TRACKING = new Set(['tracking', 'track']);
/** Words that are understood and never printed, with those that are. */
const ALIASES: Readonly<Record<string, string>> = { uppercase: 'caps', center: 'centre', centred: 'centre', centered: 'centre' };

/** The context of a spec line. */
export interface SpecContext {
  /** The faces that may be named; words of the name may be shortened from the end (`Playfair Bold`). */
  faces: readonly NamedFace[];
  /** The size that tracking given in points or millimetres refers to when none is written. */
  sizePt: number;
  /** The factor of `auto` leading. */
  autoFactor?: number;
  /** The properties whose words are understood. */
  properties?: readonly (readonly [string, StyleProperty])[];
}

/**
 * Reads trade notation: `Playfair Display Bold 64/60 −12 word −40 wide 90% caps centre`. Every part may be missing; their order after
 * the face is free. A bare number is the size, a bare percentage the leading; tracking carries a sign, is `0`, or follows `tracking`.
 * @throws SpecError pointing at the word that is not understood.
 */
export function parseSpec(text: string, { faces, sizePt, autoFactor = AUTO_LEADING_FACTOR, properties = styleProperties }: SpecContext): Spec {
  const parts = properties === styleProperties ? PARTS : partsOf(properties);
  const partOf = (word: string): WordOfSpec | undefined => parts.get(ALIASES[word.toLowerCase()] ?? word.toLowerCase());
  const isValue = (word: string): boolean =>
    SIZE.test(word) ||
    SIGNED.test(word) ||
    PERCENT.test(word) ||
    TRACKING.has(word.toLowerCase()) ||
    alignment(word) !== undefined ||
    partOf(word) !== undefined ||
    /^\d[^/]*\//.test(word);
  const tokens = [...text.matchAll(/\S+/g)].map((match): Token => ({ text: match[0], index: match.index }));
  const spec: Spec = { style: {} };
  const { style } = spec;
  const name: Token[] = [];
  while (tokens[0] && (!isValue(tokens[0].text) || continuesName(name, tokens[0], faces))) name.push(tokens.shift() as Token);
  if (name.length > 0) style.faceId = findFace(name, faces).id;

  // Values may refer to the size, wherever in the line that stands: they are read at the end.
  const later: (() => void)[] = [];
  let tracked = false;
  while (tokens.length > 0) {
    const token = tokens.shift() as Token;
    const align = alignment(token.text);
    const part = partOf(token.text);
    if (align) spec.align = align;
    else if (part?.kind === 'value') Object.assign(style, { [part.key]: part.value });
    else if (part) {
      const value = tokens.shift();
      if (!value) throw new SpecError(`A value must follow “${token.text}”.`, token.text, token.index);
      later.push(() => Object.assign(style, { [part.key]: readWord(value, () => part.read(value.text, style.sizePt ?? sizePt)) }));
    } else if (SIGNED.test(token.text) || TRACKING.has(token.text.toLowerCase())) {
      if (tracked) throw new SpecError('Tracking is given twice.', token.text, token.index);
      tracked = true;
      const value = SIGNED.test(token.text) ? token : tokens.shift();
      if (!value) throw new SpecError(`A value must follow “${token.text}”.`, token.text, token.index);
      later.push(() => (style.trackingMilliem = readWord(value, () => parseMilliem(value.text, style.sizePt ?? sizePt))));
    } else if (PERCENT.test(token.text)) {
      if (spec.leading !== undefined) throw new SpecError('Leading is given twice.', token.text, token.index);
      spec.leading = readWord(token, () => parseLeading(token.text, autoFactor));
    } else {
      readSize(token, spec, autoFactor);
    }
  }
  for (const finish of later) finish();
  return spec;
}

/** Prints a whole spec line; `parseSpec` reads it back to the same values. */
export function printSpec(
  face: NamedFace,
  { style, leading, align }: { style: Style; leading: Leading; align: Align },
  properties: SpecContext['properties'] = styleProperties,
): string {
  const valueOf: Readonly<Record<string, unknown>> = style;
  const parts = [`${face.family} ${face.style}`.trim(), `${printValue(style.sizePt)}/${printLeading(leading)}`, printSigned(style.trackingMilliem)];
  for (const [key, { spec, default: usual }] of properties) {
    if (spec && valueOf[key] !== usual) parts.push(...writtenPart(spec, valueOf[key]));
  }
  if (align !== 'left') parts.push(align);
  return parts.join(' ');
}

function writtenPart(part: SpecPart<unknown>, value: unknown): string[] {
  if ('word' in part) return [part.word, part.print(value)];
  return Object.entries(part.words).flatMap(([word, stands]) => (stands === value ? [word] : []));
}

/** The property a word of a spec line begins: a property whose value follows, or a value that is said by the word itself. */
type WordOfSpec = { key: string } & ({ kind: 'named'; read: (text: string, sizePt: number) => unknown } | { kind: 'value'; value: unknown });

const partsOf = (properties: readonly (readonly [string, StyleProperty])[]): ReadonlyMap<string, WordOfSpec> =>
  new Map(
    properties.flatMap(([key, { spec }]): [string, WordOfSpec][] => {
      if (!spec) return [];
      if ('word' in spec) return [[spec.word, { kind: 'named', key, read: (text, sizePt) => spec.read(text, sizePt) }]];
      return Object.entries(spec.words).map(([word, value]) => [word, { kind: 'value', key, value }]);
    }),
  );
const PARTS = partsOf(styleProperties);

function alignment(word: string): Align | undefined {
  const lower = ALIASES[word.toLowerCase()] ?? word.toLowerCase();
  return ALIGNMENTS.find((align) => align === lower);
}

function readSize(token: Token, spec: Spec, autoFactor: number): void {
  const { style } = spec;
  const match = SIZE.exec(token.text);
  if (!match)
    throw new SpecError(`Didn’t understand “${token.text}”. Write size and leading as 64/60, tracking as a signed number: −20.`, token.text, token.index);
  if (style.sizePt !== undefined) throw new SpecError('The size is given twice.', token.text, token.index);
  const [, size = '', leading] = match;
  style.sizePt = readWord(token, () => parseLength(size));
  if (style.sizePt < 1 || style.sizePt > 5000) throw new SpecError('The size must be between 1 and 5000 pt.', token.text, token.index);
  if (leading !== undefined) spec.leading = readWord(token, () => parseLeading(leading, autoFactor));
}

function readWord<T>(token: Token, reader: () => T): T {
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
  throw new SpecError(
    known ? `That family has no style “${last.text}”.` : `Didn’t understand “${first.text}”. It is no face of yours. Write tracking as a signed number: −20.`,
    at.text,
    at.index,
  );
}

/** Exact names first, then a family's regular style, then the rest. */
function rank(face: NamedFace, words: readonly string[]): number {
  const full = `${face.family} ${face.style}`.toLowerCase();
  if (full === words.join(' ')) return 0;
  return face.style.toLowerCase() === 'regular' ? 1 : 2;
}
