/** Text on a path (SVG 2, section 11.8) as a block on a drawn path. */
import { compose, fromDefinition, fromTransformAttribute } from 'transformation-matrix';
import { type Block, LIMITS } from '../job';
import { PathDataError, readPath } from './path-data';
import { curveOf } from '../setting';
import type { TakenText } from './blocks';
import { svgCharactersOf } from './characters';
import { cssLength } from './css';
import { type SvgElement, elementsOf, isElement } from './document';
import { matrixTo, placementOf } from './geometry';
import { type Anchor, anchorOf, blockOf, placeCharacters } from './lines';
import { type TextReading, lookIn } from './look';

/** The one part of a text that stands on a path; undefined where there is none, or more than that. */
export function pathPartOf({ children }: SvgElement): SvgElement | undefined {
  const parts = children.filter((child) => (isElement(child) ? child.name !== 'title' && child.name !== 'desc' : child.trim() !== ''));
  const [only] = parts;
  return parts.length === 1 && only && isElement(only) && only.name === 'textPath' ? only : undefined;
}

const HOLD = { start: 'start', middle: 'centre', end: 'end' } as const satisfies Record<Anchor, string>;
/** Attributes of a path that aren't followed. */
const OTHERWISE: Readonly<Record<string, RegExp>> = { side: /^right$/, method: /^stretch$/, textLength: /./, path: /./ };

/** @returns the text; or why it stays in the picture. */
export function takeOnPath(element: SvgElement, part: SvgElement, reading: TextReading): TakenText | string {
  const { styles, canvas, faces, finder } = reading;
  const href = (part.attributes['href'] ?? part.attributes['xlink:href'] ?? '').replace(/^#/, '');
  const path = pathCalled(element, href);
  if (!path) return 'its path is not in the drawing';
  if (Object.entries(OTHERWISE).some(([name, not]) => not.test(part.attributes[name] ?? '')) || path.attributes['pathLength'] !== undefined)
    return 'it stands on its path in a way of its own';
  const own = matrixTo(element);
  const placement = own && placementOf(compose(canvas.matrix, own));
  if (!own || !placement || Math.abs(placement.alongPt - placement.acrossPt) > 1e-6 * placement.acrossPt) return 'it leans, is mirrored, or stretched';
  const { characters, ranges, foreign } = svgCharactersOf(part, styles, canvas.viewport);
  const { x, y, dx, dy, rotate } = element.attributes;
  const placed = [x, y, dx, dy, rotate].some((value) => value !== undefined && Number.parseFloat(value) !== 0);
  if (foreign !== undefined) return foreign;
  if (placed || characters.some((one) => one.x !== undefined || one.y !== undefined || one.dx !== 0 || one.dy !== 0 || one.rotate !== 0))
    return 'its letters have places of their own on its path';
  const [first] = characters;
  if (!first || characters.length > LIMITS.words) return 'it is too long';
  try {
    const matrix = compose(canvas.matrix, own, transformOf(path));
    const drawn = readPath(path.attributes['d'] ?? '', matrix);
    const { lengthPt } = curveOf(drawn);
    const offset = part.attributes['startOffset'];
    const along = offset?.trim().endsWith('%') ? (Number.parseFloat(offset) / 100) * lengthPt : (cssLength(offset, 16, 0) ?? 0) * placement.alongPt;
    const styleOf = lookIn(element, placement, reading);
    const set = placeCharacters(characters, { faces, styleOf, lengthPx: undefined, alongPt: placement.alongPt, acrossPt: placement.acrossPt });
    const sizes = set.map(({ style }) => style.sizePt ?? 0);
    if (sizes.some((size) => !(size >= 1 && size <= 5000))) return 'its size is not from 1 to 5000 pt';
    const anchor = anchorOf(first);
    const [begin, end] = [set[0]?.penX ?? 0, (set[set.length - 1]?.penX ?? 0) + (set[set.length - 1]?.widthPt ?? 0)];
    const from = along - { start: 0, middle: (end - begin) / 2, end: end - begin }[anchor];
    if (from < -HAIR || from + end - begin > lengthPt + HAIR) return 'it reaches past its path, where letters are left out';
    const ride = { ...drawn, hold: HOLD[anchor], atShare: Math.min(1, Math.max(0, along / (lengthPt || 1))), kerned: false };
    const block: Block = { ...blockOf(set), frame: { xPt: 0, yPt: 0, widthPt: 100, heightPt: Math.max(...sizes) * 1.2 }, path: ride };
    const missing = characters.map(({ properties }) => finder.find(properties).missing).find((one) => one !== undefined);
    return { element, characters: set, ranges, placement, blocks: [{ block, lines: [set], offPt: 0 }], missing };
  } catch (error) {
    if (error instanceof PathDataError) return 'its path can’t be read';
    throw error;
  }
}

/** Words that reach past a path by less than this, in points, end with it. */
const HAIR = 0.01;

function pathCalled(element: SvgElement, id: string): SvgElement | undefined {
  let root = element;
  while (root.parent) root = root.parent;
  return id === '' ? undefined : [...elementsOf(root)].find(({ name, attributes }) => name === 'path' && attributes['id'] === id);
}

/** A path is read as it lies in its own place, with its own transform alone. @throws PathDataError for one that can’t be read */
function transformOf({ attributes }: SvgElement): Parameters<typeof compose>[0] {
  const text = attributes['transform']?.trim() ?? '';
  if (text === '' || text === 'none') return { a: 1, b: 0, c: 0, d: 1, e: 0, f: 0 };
  try {
    return compose(fromDefinition(fromTransformAttribute(text)));
  } catch {
    throw new PathDataError('Its transform can’t be read.');
  }
}
