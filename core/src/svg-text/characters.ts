/** The characters of a text element and where they are told to stand (SVG 2, sections 11.5 and 11.10.2). */
import type { CssProperties, Styles } from './css';
import { cssLength } from './css';
import { type SvgElement, isElement } from './document';

/** A character that has a place of its own. */
export interface Character {
  /** One code point, in its case as shown. */
  text: string;
  properties: CssProperties;
  /** Where it stands, in user units; undefined where it follows. */
  x: number | undefined;
  y: number | undefined;
  dx: number;
  dy: number;
  /** In degrees. */
  rotate: number;
}

/** The characters of a text element. */
export interface TextCharacters {
  characters: Character[];
  /** The characters of every element in it, itself included. */
  ranges: Map<SvgElement, { start: number; end: number }>;
  /** Why it can't be set here; undefined where it can. */
  foreign: string | undefined;
}

/** Elements whose words belong to the text. */
const PARTS = new Set(['text', 'tspan', 'a']);
/** Elements that are not shown. */
const SILENT = new Set(['title', 'desc', 'metadata', 'script', 'style', 'animate', 'set', 'animateTransform']);

/** @param viewport width and height that percentages are of, in user units */
export function svgCharactersOf(text: SvgElement, styles: Styles, viewport: { width: number; height: number }): TextCharacters {
  const characters: Character[] = [];
  const ranges: TextCharacters['ranges'] = new Map();
  let foreign: string | undefined;
  let blank = true as boolean;
  const walk = (element: SvgElement, preserves: boolean): void => {
    const properties = styles.of(element);
    if (properties.get('display') === 'none') return;
    if (element !== text && element.attributes['textLength'] !== undefined) foreign ??= 'a part of it has a length of its own';
    if (element.attributes['lengthAdjust'] === 'spacingAndGlyphs' && element.attributes['textLength'] !== undefined) foreign ??= 'its letters are stretched';
    const space = element.attributes['xml:space'];
    const white = properties.get('white-space') ?? '';
    const keeps = /^(pre|pre-wrap|break-spaces)$/.test(white) || (space === undefined ? preserves : space === 'preserve');
    const start = characters.length;
    for (const child of element.children) {
      if (isElement(child)) {
        if (PARTS.has(child.name)) walk(child, keeps);
        else if (!SILENT.has(child.name)) foreign ??= `“${child.name}” in its text`;
        continue;
      }
      for (const character of shown(child, properties)) {
        const isBlank = /^[ \t\n\r]$/.test(character);
        if (isBlank && !keeps && blank) continue;
        blank = isBlank && !keeps;
        characters.push({ text: isBlank ? ' ' : character, properties, x: undefined, y: undefined, dx: 0, dy: 0, rotate: 0 });
      }
    }
    ranges.set(element, { start, end: characters.length });
  };
  walk(text, false);
  // Blanks at the end show nothing, unless they are kept.
  if (blank) characters.pop();
  for (const range of ranges.values()) range.end = Math.min(range.end, characters.length);
  for (const [element, range] of [...ranges].sort(([a], [b]) => a.start - b.start)) place(element, range, characters, viewport);
  return { characters, ranges, foreign };
}

/** Words in their case as shown; some letters become several. */
function shown(text: string, properties: CssProperties): string[] {
  switch (properties.get('text-transform')) {
    case 'uppercase':
      return Array.from(text.toUpperCase());
    case 'lowercase':
      return Array.from(text.toLowerCase());
    case 'capitalize':
      return Array.from(text.replace(/(^|\s)(\p{L})/gu, (_, before: string, letter: string) => before + letter.toUpperCase()));
    default:
      return Array.from(text);
  }
}

/** Gives the characters of an element the places it lists; what is inside comes later and says otherwise. */
function place(
  { attributes }: SvgElement,
  { start, end }: { start: number; end: number },
  characters: Character[],
  { width, height }: { width: number; height: number },
): void {
  const em = Number(characters[start]?.properties.get('font-size') ?? 16);
  const list = (name: string, whole: number): number[] =>
    (attributes[name] ?? '')
      .trim()
      .split(/[\s,]+/)
      .flatMap((text) => cssLength(text, em, whole) ?? []);
  const [xs, ys, dxs, dys] = [list('x', width), list('y', height), list('dx', width), list('dy', height)];
  const turns = list('rotate', 0);
  for (let i = start; i < end; i++) {
    const character = characters[i];
    if (!character) break;
    character.x = xs[i - start] ?? character.x;
    character.y = ys[i - start] ?? character.y;
    character.dx = dxs[i - start] ?? character.dx;
    character.dy = dys[i - start] ?? character.dy;
    character.rotate = turns[Math.min(i - start, turns.length - 1)] ?? character.rotate;
  }
}
