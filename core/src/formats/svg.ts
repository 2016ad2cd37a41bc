/** SVG of a drawing: letters as outlines, or live text with a position for every letter (SVG 2). */
import {
  type DrawingNode,
  type Fill,
  type GlyphNode,
  type GroupNode,
  type LettersNode,
  type PictureNode,
  type RuleNode,
  type SheetDrawing,
  aspectOf,
  groupMatrix,
} from '../drawing';
import { WordedError } from '../base';
import { type FaceInstance, pathData } from '../face';
import { type Box, type FaceSet, clipped, grown, inkBox, joinedBoxes, mappedBox, touches } from '../setting';
import { fromPoints } from '../units';
import type { EmbeddedFonts } from './format';
import { COORDINATE_DIGITS, escapeXml, xmlNumber, printMatrix } from './xml';
import { writeText } from './svg-text';
import { type Visible, onEverySide, sheetVisible, visibleIn, widened } from './visible';

/** How letters are written. */
export type SvgLetters = 'outlines' | 'text';

export interface SvgOptions {
  letters: SvgLetters;
  /** Leaves the sheet's background out. */
  transparent?: boolean;
  /** Fonts the file holds within itself, for live text. */
  fonts?: EmbeddedFonts;
  /** A picture as a `data:` address, by its identifier; one that is not given is left out. */
  pictures?: ReadonlyMap<string, string>;
  /**
   * Draws something blurred as a picture, for a renderer to which a filter at full size is too much work.
   * @param shape SVG elements in points. @param room what the picture shows, in points.
   * @returns a `data:` address, and how renderers may lay the picture onto their pixels (SVG 2, `image-rendering`).
   */
  soften?: (shape: string, room: Box, deviationPt: number) => { href: string; rendering: 'auto' | 'optimizeSpeed' };
  /** Width and height in whole pixels, to be drawn at just that size, in place of the sheet's own. */
  pixels?: { width: number; height: number };
}

/** Longest drawing that is written, in characters: some 60,000 letters of an ordinary face. */
export const MAX_DRAWING = 64_000_000;

/** A drawing would be longer than is written. */
export class DrawingTooLargeError extends WordedError {
  override readonly name = 'DrawingTooLargeError';

  constructor() {
    super(
      `The sheet draws to more than ${MAX_DRAWING / 1e6} million characters of outlines. Hand it over with live text, or divide its words over several sheets.`,
    );
  }
}

/** Less can't be seen: a picture has 255 steps. */
const LEAST_OPACITY = 0.001;

/**
 * Writes a drawing as SVG. Physical size in the sheet's own unit, user space in points. What can't be seen is left out.
 * @throws DrawingTooLargeError
 */
export function writeSvg(drawing: SheetDrawing, faces: FaceSet, options: SvgOptions): string {
  const { widthPt, heightPt, unit } = drawing;
  const { pixels, transparent } = options;
  const length = (pt: number): string => xmlNumber(fromPoints(pt, unit)) + unit;
  const size = pixels
    ? `width="${pixels.width}" height="${pixels.height}" preserveAspectRatio="none"`
    : `width="${length(widthPt)}" height="${length(heightPt)}"`;
  const out = [
    `<svg xmlns="http://www.w3.org/2000/svg" ${size} viewBox="0 0 ${xmlNumber(widthPt)} ${xmlNumber(heightPt)}">`,
    `<title>${escapeXml(drawing.name)}</title>`,
    ...(options.fonts?.rules.length ? [`<style>${options.fonts.rules.join('\n')}</style>`] : []),
  ];
  const sheet = sheetVisible(drawing);
  const writer: Writer = { faces, options, prefix: 'ground', made: 0, written: 0 };
  if (!transparent) for (const node of drawing.ground) out.push(writeNode(node, writer, sheet).text);
  for (const block of drawing.blocks) {
    writer.prefix = escapeXml(block.blockId);
    writer.made = 0;
    const { text } = writeNodes(block.nodes, writer, visibleIn(block, sheet));
    if (text === '') continue;
    out.push(`<g id="${escapeXml(block.blockId)}" role="img" aria-label="${escapeXml(block.label)}"${transformOf(block)}>`, text, '</g>');
  }
  out.push('</svg>', '');
  return out.filter((part, i) => part !== '' || i === out.length - 1).join('\n');
}

/**
 * A picture of a blurred group, for writers without blurs.
 * @param visible what is seen of what the group stands in. @returns the picture and the place it fills, in the coordinates inside the group
 */
export function softPicture(
  group: GroupNode,
  faces: FaceSet,
  visible: Visible,
  soften: NonNullable<SvgOptions['soften']>,
): { href: string; room: Box } | undefined {
  let made: { href: string; room: Box } | undefined;
  const options: SvgOptions = {
    letters: 'outlines',
    soften: (shape, room, deviationPt) => {
      const drawn = soften(shape, room, deviationPt);
      made = { href: drawn.href, room };
      return drawn;
    },
  };
  writeGroup(group, { faces, options, prefix: 'soft', made: 0, written: 0 }, visible);
  return made;
}

/** The state of a writer. */
interface Writer {
  readonly faces: FaceSet;
  readonly options: SvgOptions;
  /** Begins the addresses of what a block refers to; `made` counts them. */
  prefix: string;
  made: number;
  /** Characters so far. */
  written: number;
}

/** A node as written; empty where nothing of it can be seen. */
interface Written {
  text: string;
  /** The area it covers, in the coordinates it was written in. */
  covers: Box | undefined;
}
const NOTHING: Written = { text: '', covers: undefined };

function writeNodes(nodes: readonly DrawingNode[], writer: Writer, visible: Visible): Written {
  const parts = nodes.map((node) => writeNode(node, writer, visible)).filter(({ text }) => text !== '');
  return { text: parts.map(({ text }) => text).join('\n'), covers: joinedBoxes(parts.map(({ covers }) => covers)) };
}

function writeNode(node: DrawingNode, writer: Writer, visible: Visible): Written {
  switch (node.kind) {
    case 'group':
      return writeGroup(node, writer, visible);
    case 'letters':
      return writeLetters(node, writer, visible);
    case 'picture':
      return writePicture(node, writer);
    case 'rectangle': {
      const { defs, paint } = fillOf(node.fill, writer);
      return { text: defs + rectangle(node.box, ` fill="${paint}"`), covers: node.box };
    }
  }
}

function writeGroup(node: GroupNode, writer: Writer, visible: Visible): Written {
  const { opacity = 1, blurPt } = node;
  if (opacity < LEAST_OPACITY) return NOTHING;
  const inside = visibleIn(node, visible);
  const matrix = groupMatrix(node);
  const outside = (box: Box | undefined): Box | undefined => (box && matrix ? mappedBox(matrix, box) : box);
  if (blurPt === undefined) {
    const { text, covers } = writeNodes(node.nodes, writer, inside);
    if (text === '') return NOTHING;
    const attributes = transformOf(node) + (opacity < 1 ? ` opacity="${xmlNumber(opacity)}"` : '');
    return { text: attributes ? `<g${attributes}>\n${text}\n</g>` : text, covers: outside(covers) };
  }
  // A blur is drawn no farther than it reaches (three deviations), and only where it can be seen or takes from.
  const far = 3 * blurPt;
  const { text, covers } = writeNodes(node.nodes, writer, { ...widened(inside, far), shows: () => true });
  const room = covers && clipped(grown(covers, onEverySide(far)), grown(inside.seen, onEverySide(far)));
  if (text === '' || !room || !inside.shows(room)) return NOTHING;
  const place = `x="${xmlNumber(room.leftPt)}" y="${xmlNumber(room.topPt)}" width="${xmlNumber(room.rightPt - room.leftPt)}" height="${xmlNumber(room.bottomPt - room.topPt)}"`;
  const { soften } = writer.options;
  if (soften) {
    const { href, rendering } = soften(text, room, blurPt);
    return { text: `<image${transformOf(node)} ${place} preserveAspectRatio="none" image-rendering="${rendering}" href="${href}"/>`, covers: outside(room) };
  }
  const id = `blur-${writer.prefix}-${writer.made++}`;
  const filter = `<defs><filter id="${id}" filterUnits="userSpaceOnUse" ${place} color-interpolation-filters="sRGB"><feGaussianBlur stdDeviation="${xmlNumber(blurPt)}"/></filter></defs>`;
  return { text: `${filter}\n<g${transformOf(node)} filter="url(#${id})">\n${text}\n</g>`, covers: outside(room) };
}

function transformOf({ turn, move }: GroupNode): string {
  const steps = [
    ...(move ? [`translate(${xmlNumber(move.xPt)} ${xmlNumber(move.yPt)})`] : []),
    ...(turn ? [`rotate(${xmlNumber(turn.degrees)} ${xmlNumber(turn.xPt)} ${xmlNumber(turn.yPt)})`] : []),
  ];
  return steps.length > 0 ? ` transform="${steps.join(' ')}"` : '';
}

function writePicture({ box, pictureId, fit }: PictureNode, { options }: Writer): Written {
  const href = options.pictures?.get(pictureId);
  if (!href) return NOTHING;
  return { text: `<image ${placeOf(box)} preserveAspectRatio="${aspectOf(fit)}" href="${escapeXml(href)}"/>`, covers: box };
}

const placeOf = ({ leftPt, topPt, rightPt, bottomPt }: Box): string =>
  `x="${xmlNumber(leftPt)}" y="${xmlNumber(topPt)}" width="${xmlNumber(rightPt - leftPt)}" height="${xmlNumber(bottomPt - topPt)}"`;

const rectangle = (box: Box, paint: string): string => `<rect ${placeOf(box)}${paint}/>`;

/** The visible part of a rule: one on a path is seen whole or not at all. */
function clippedRule({ box, matrix }: RuleNode, near: Box): RuleNode | undefined {
  if (matrix) return touches(mappedBox(matrix, box), near) ? { box, matrix } : undefined;
  const seen = clipped(box, near);
  return seen && { box: seen };
}

/** A fill as SVG, with the definitions it refers to. */
function fillOf(fill: Fill, writer: Writer): { defs: string; paint: string } {
  if (typeof fill === 'string') return { defs: '', paint: fill };
  const id = `fill-${writer.prefix}-${writer.made++}`;
  const { from, to, ...line } = fill;
  const place = Object.entries(line).map(([name, value]) => `${name}="${xmlNumber(value)}"`);
  const stops = `<stop stop-color="${from}"/><stop offset="1" stop-color="${to}"/>`;
  return {
    defs: `<defs><linearGradient id="${id}" gradientUnits="userSpaceOnUse" ${place.join(' ')}>${stops}</linearGradient></defs>\n`,
    paint: `url(#${id})`,
  };
}

/** Letters with their paint. */
function writeLetters(node: LettersNode, writer: Writer, visible: Visible): Written {
  const { stroke } = node;
  const instance = writer.faces.instance(node.style);
  // A mitred corner sticks out by at most the limit of SVG, 4, times half the width.
  const near = stroke ? grown(visible.seen, onEverySide(2 * stroke.widthPt)) : visible.seen;
  const boxes = node.glyphs.map(({ glyphId, matrix }) => inkBox(glyphId, matrix, instance));
  const shown = boxes.map((box) => box !== undefined && touches(box, near));
  const rules = node.rules.flatMap((rule) => clippedRule(rule, near) ?? []);
  const inked = joinedBoxes([...boxes.filter((_, i) => shown[i]), ...rules.map(({ box, matrix }) => (matrix ? mappedBox(matrix, box) : box))]);
  // Where only the edge of an outline reaches the sheet, how far it does depends on the corners: nothing is drawn then.
  if (!inked || !visible.shows(inked)) return NOTHING;
  const asText = writer.options.letters === 'text' && node.glyphs.some(({ at }) => at !== undefined);
  const body = [
    asText ? writeText(node, instance, writer.options.fonts) : writeOutlines(node.glyphs, instance, shown),
    ...rules.map(({ box, matrix }) => rectangle(box, (matrix ? ` transform="${printMatrix(matrix)}"` : '') + (stroke ? ' stroke="none"' : ''))),
  ].filter(Boolean);
  if (body.length === 0) return NOTHING;
  const { defs, paint } = fillOf(node.fill, writer);
  const edge = stroke ? ` stroke="${stroke.colour}" stroke-width="${xmlNumber(stroke.widthPt)}" stroke-linejoin="${stroke.join}"` : '';
  const text = `${defs}<g fill="${paint}"${edge}>\n${body.join('\n')}\n</g>`;
  writer.written += text.length;
  if (writer.written > MAX_DRAWING) throw new DrawingTooLargeError();
  return { text, covers: stroke ? grown(inked, onEverySide(stroke.widthPt)) : inked };
}

function writeOutlines(glyphs: readonly GlyphNode[], instance: FaceInstance, shown: readonly boolean[]): string {
  return glyphs
    .filter((_, i) => shown[i])
    .map(({ glyphId, matrix }) => pathData(instance.outline(glyphId), matrix, COORDINATE_DIGITS))
    .filter(Boolean)
    .map((d) => `<path d="${d}"/>`)
    .join('\n');
}
