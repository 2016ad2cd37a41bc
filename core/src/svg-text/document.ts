/** An SVG as a tree that knows where everything stands in the file, so that a part can be changed and every other byte stays. */
import { SaxesParser } from 'saxes';
import { FileError } from '../base';

/** An SVG can't be read; the message is for people. */
export class SvgError extends FileError {
  override readonly name = 'SvgError';
}

/** Longest SVG that is read, in characters. */
const MAX_SVG = 16_000_000;
const MAX_DEPTH = 200;
const MAX_ELEMENTS = 200_000;

export interface SvgElement {
  /** Without a prefix. */
  name: string;
  attributes: Readonly<Record<string, string>>;
  /** Where it begins and ends in the file, and where its start tag ends. */
  start: number;
  tagEnd: number;
  end: number;
  children: (SvgElement | string)[];
  parent: SvgElement | undefined;
}

export const isElement = (node: SvgElement | string): node is SvgElement => typeof node !== 'string';

/**
 * Reads an SVG.
 * @throws SvgError saying what is wrong, and in which line.
 */
export function readSvg(source: string): SvgElement {
  if (source.trim() === '') throw new SvgError('The file is empty.');
  if (source.length > MAX_SVG) throw new SvgError(`The file has ${source.length} characters; SVGs are read up to ${MAX_SVG}.`);
  const parser = new SaxesParser();
  let root: SvgElement | undefined;
  let open: SvgElement | undefined;
  let [depth, count] = [0, 0];
  const add = (text: string): void => {
    if (open) open.children.push(text);
  };
  parser.on('error', (error) => {
    throw new SvgError(`The file is not an SVG that can be read: ${error.message.replace(/^undefined:/, 'line ')}`);
  });
  parser.on('text', add);
  parser.on('cdata', add);
  parser.on('opentag', ({ name, attributes }) => {
    if (++depth > MAX_DEPTH) throw new SvgError(`Its elements are nested more than ${MAX_DEPTH} deep.`);
    if (++count > MAX_ELEMENTS) throw new SvgError(`It has more than ${MAX_ELEMENTS} elements.`);
    const tagEnd = parser.position;
    // “<” has no place inside a tag (XML 1.0, section 2.3).
    const start = source.lastIndexOf('<', tagEnd - 1);
    const element: SvgElement = { name: localOf(name), attributes, start, tagEnd, end: tagEnd, children: [], parent: open };
    open?.children.push(element);
    root ??= element;
    open = element;
  });
  parser.on('closetag', () => {
    depth--;
    if (open) open.end = parser.position;
    open = open?.parent;
  });
  parser.write(source).close();
  if (root?.name !== 'svg') throw new SvgError('The file is XML, but no SVG.');
  return root;
}

const localOf = (name: string): string => name.slice(name.indexOf(':') + 1);

/** All elements in the order of the file. */
export function* elementsOf(element: SvgElement): Generator<SvgElement> {
  yield element;
  for (const child of element.children) if (isElement(child)) yield* elementsOf(child);
}

/** A change of the file: what stands there is replaced. */
export interface Replacement {
  start: number;
  end: number;
  text: string;
}

/** The file with changes made to it, which don't overlap. */
export function replaced(source: string, changes: readonly Replacement[]): string {
  let out = '';
  let at = 0;
  for (const { start, end, text } of [...changes].sort((a, b) => a.start - b.start)) {
    out += source.slice(at, start) + text;
    at = end;
  }
  return out + source.slice(at);
}

/** An attribute in a start tag: with the blank before it. */
const attributePattern = (name: string): RegExp => new RegExp(`\\s+${name}\\s*=\\s*("[^"]*"|'[^']*')`);

/**
 * A start tag with an attribute that says something else, or is gone; all else in it stays as it is written.
 * @param tag from “<” to “>”. @param value undefined takes the attribute away
 */
export function withAttribute(tag: string, name: string, value: string | undefined): string {
  const found = attributePattern(name).exec(tag);
  if (found) {
    const quote = found[1]?.charAt(0) ?? '"';
    const before = found[0].slice(0, found[0].length - (found[1]?.length ?? 0));
    return tag.slice(0, found.index) + (value === undefined ? '' : before + quote + value + quote) + tag.slice(found.index + found[0].length);
  }
  if (value === undefined) return tag;
  const end = /\s*\/?>$/.exec(tag)?.index ?? tag.length - 1;
  return `${tag.slice(0, end)} ${name}="${value}"${tag.slice(end)}`;
}
