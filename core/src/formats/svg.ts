/** SVG of a sheet, from a setting: letters as outlines, or live text with a position for every letter (SVG 2). */
import { WordedError } from '../errors';
import { pathData, printNumber } from '../face';
import type { Block, LetterCase, Sheet } from '../job';
import { type BlockSetting, type Box, type FaceSet, type PlacedRun, type Reach, type SetLine, clipped, grown, inkOfGlyph, joined, touches } from '../setting';
import { fromPoints } from '../units';
import { gradientLine } from './background';
import { type RunPaint, paintOf, reachOf } from './paint';
import { type View, viewOf } from './seen';

/** How letters are written. */
export type SvgLetters = 'outlines' | 'text';

export interface SvgOptions {
  letters: SvgLetters;
  /** Leaves the sheet's background out. */
  transparent?: boolean;
  /** A picture as a `data:` address, by its identifier; one that is not given is left out. */
  pictures?: ReadonlyMap<string, string>;
  /**
   * Draws a blurred shadow as a picture, for a renderer to which a filter at full size is too much work.
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

/** Decimals of coordinates in points: 1/10,000 pt is 35 nanometres. */
const DIGITS = 4;

/**
 * Writes a sheet as SVG. Physical size in the sheet's own unit, user space in points. What lies off the sheet is left out.
 * @param settings the sheet's blocks as set, in painting order.
 * @throws DrawingTooLargeError
 */
export function writeSvg(
  sheet: Sheet,
  settings: readonly BlockSetting[],
  faces: FaceSet,
  { letters, transparent, pictures, pixels, soften }: SvgOptions,
): string {
  const length = (pt: number): string => printNumber(fromPoints(pt, sheet.unit), DIGITS) + sheet.unit;
  const number = (pt: number): string => printNumber(pt, DIGITS);
  const size = pixels
    ? `width="${pixels.width}" height="${pixels.height}" preserveAspectRatio="none"`
    : `width="${length(sheet.widthPt)}" height="${length(sheet.heightPt)}"`;
  const out = [
    `<svg xmlns="http://www.w3.org/2000/svg" ${size} viewBox="0 0 ${number(sheet.widthPt)} ${number(sheet.heightPt)}">`,
    `<title>${escapeXml(sheet.name)}</title>`,
  ];
  if (!transparent) out.push(...background(sheet, pictures));
  let count = 0;
  let written = 0;
  for (const setting of settings) {
    const block = sheet.blocks.find(({ id }) => id === setting.blockId);
    if (!block) continue;
    const view = viewOf(sheet, block.rotationDeg, setting.frame);
    const groups: string[] = [];
    for (const line of setting.lines) {
      for (const run of line.mark ? [line.mark, ...line.runs] : line.runs) {
        const group = drawRun(run, { block, line, setting, faces, letters, soften, view, id: `${escapeXml(block.id)}-${count++}` });
        if (group === '') continue;
        groups.push(group);
        written += group.length;
        if (written > MAX_DRAWING) throw new DrawingTooLargeError();
      }
    }
    if (groups.length === 0) continue;
    out.push(
      `<g id="${escapeXml(block.id)}" role="img" aria-label="${escapeXml(block.words.replaceAll('\n', ' '))}"${rotation(block, setting)}>`,
      ...groups,
      '</g>',
    );
  }
  out.push('</svg>', '');
  return out.join('\n');
}

interface RunPlace {
  block: Block;
  line: SetLine;
  setting: BlockSetting;
  faces: FaceSet;
  letters: SvgLetters;
  soften: SvgOptions['soften'];
  view: View;
  /** For the paint's own addresses. */
  id: string;
}

/** One run with its paint; empty where nothing of it can be seen. */
function drawRun(run: PlacedRun, { block, line, setting, faces, letters, soften, view, id }: RunPlace): string {
  const number = (pt: number): string => printNumber(pt, DIGITS);
  const paint = paintOf(run.style, setting.frame, id);
  const reach = reachOf(paint);
  const instance = faces.instance(run.style);
  const boxes = run.glyphs.map((glyph) => inkOfGlyph(glyph, run, instance));
  const near = grown(view.seen, reach);
  const shown = boxes.map((box) => box !== undefined && touches(box, near));
  const rules = run.rules.flatMap(
    ({ xPt, yPt, widthPt, heightPt }) => clipped({ leftPt: xPt, topPt: yPt, rightPt: xPt + widthPt, bottomPt: yPt + heightPt }, near) ?? [],
  );
  const inked = joined([...boxes.filter((box, i) => box !== undefined && shown[i]), ...rules]);
  if (!inked) return '';
  // Marks and ellipses are not among the words: they stay outlines.
  const asOutlines = letters === 'outlines' || run.start === run.end;
  const body = [
    asOutlines ? outlineRun(run, faces, shown) : textRun(block, line, run, faces),
    ...rules.map(
      (rule) =>
        `<rect x="${number(rule.leftPt)}" y="${number(rule.topPt)}" width="${number(rule.rightPt - rule.leftPt)}" height="${number(rule.bottomPt - rule.topPt)}"/>`,
    ),
  ].filter(Boolean);
  return body.length > 0 ? painted(body.join('\n'), paint, { inked, view, soften }) : '';
}

function background({ background: ground, widthPt, heightPt }: Sheet, pictures: ReadonlyMap<string, string> | undefined): string[] {
  const paint = (fill: string): string => `<rect width="100%" height="100%" fill="${fill}"/>`;
  if (ground.kind === 'colour') return [paint(ground.colour)];
  if (ground.kind === 'picture') {
    const href = pictures?.get(ground.pictureId);
    const fit = ground.fit === 'cover' ? 'slice' : 'meet';
    return [
      paint(ground.colour),
      ...(href ? [`<image width="${widthPt}" height="${heightPt}" preserveAspectRatio="xMidYMid ${fit}" href="${escapeXml(href)}"/>`] : []),
    ];
  }
  const line = Object.entries(gradientLine(widthPt, heightPt, ground.angleDeg)).map(([name, value]) => `${name}="${printNumber(value, DIGITS)}"`);
  const stops = `<stop stop-color="${ground.from}"/><stop offset="1" stop-color="${ground.to}"/>`;
  return [`<defs><linearGradient id="ground" gradientUnits="userSpaceOnUse" ${line.join(' ')}>${stops}</linearGradient></defs>`, paint('url(#ground)')];
}

function rotation({ rotationDeg }: Block, { frame }: BlockSetting): string {
  if (rotationDeg === 0) return '';
  const x = printNumber(frame.xPt + frame.widthPt / 2, DIGITS);
  const y = printNumber(frame.yPt + frame.heightPt / 2, DIGITS);
  return ` transform="rotate(${printNumber(rotationDeg, DIGITS)} ${x} ${y})"`;
}

/** What is around letters that are painted: how far their ink goes, and what of it can be seen. */
interface Around extends Pick<RunPlace, 'view' | 'soften'> {
  inked: Box;
}

/** Letters with their paint around them. */
function painted(body: string, { fill, opacity, gradient, stroke, shadow }: RunPaint, { inked, view, soften }: Around): string {
  const number = (value: number): string => printNumber(value, DIGITS);
  // A blur is drawn no farther than it reaches (three deviations), and only where it can be seen or takes from.
  const room = shadow && shadow.deviationPt > 0 ? blurRoom(shadow, inked, view, stroke?.widthPt ?? 0) : undefined;
  const casts = shadow && (room ?? (shadow.deviationPt === 0 && view.shows(moved(inked, shadow))));
  // Where only the edge of an outline reaches the sheet, how far it does depends on the corners: nothing is drawn then.
  if ((!casts && !view.shows(inked)) || opacity < LEAST_OPACITY) return '';
  const defs: string[] = [];
  if (gradient) {
    const { id, from, to, ...line } = gradient;
    const place = Object.entries(line).map(([name, value]) => `${name}="${number(value)}"`);
    defs.push(
      `<linearGradient id="${id}" gradientUnits="userSpaceOnUse" ${place.join(' ')}><stop stop-color="${from}"/><stop offset="1" stop-color="${to}"/></linearGradient>`,
    );
  }
  const place = room && `x="${number(room.leftPt)}" y="${number(room.topPt)}" width="${number(room.rightPt - room.leftPt)}" height="${number(room.bottomPt - room.topPt)}"`; // prettier-ignore
  if (shadow && place && !soften) {
    defs.push(
      `<filter id="${shadow.id}" filterUnits="userSpaceOnUse" ${place} color-interpolation-filters="sRGB"><feGaussianBlur stdDeviation="${number(shadow.deviationPt)}"/></filter>`,
    );
  }
  const edge = stroke ? ` stroke="${stroke.colour}" stroke-width="${number(stroke.widthPt)}" stroke-linejoin="${stroke.join}"` : '';
  const parts = [defs.length > 0 ? `<defs>${defs.join('')}</defs>` : ''];
  if (shadow && casts) {
    const move = `transform="translate(${number(shadow.xPt)} ${number(shadow.yPt)})"`;
    const shade = stroke ? ` stroke="${shadow.colour}" stroke-width="${number(stroke.widthPt)}" stroke-linejoin="${stroke.join}"` : '';
    const cast = (blur: string): string => `fill="${shadow.colour}"${shade}${blur}>\n${body}\n</g>`;
    if (room && place && soften) {
      const { href, rendering } = soften(`<g ${cast('')}`, room, shadow.deviationPt);
      parts.push(`<image ${move} ${place} preserveAspectRatio="none" image-rendering="${rendering}" href="${href}"/>`);
    } else parts.push(`<g ${move} ${cast(room ? ` filter="url(#${shadow.id})"` : '')}`);
  }
  parts.push(`<g fill="${fill}"${edge}>\n${body}\n</g>`);
  const inside = parts.filter(Boolean).join('\n');
  return opacity < 1 ? `<g opacity="${number(opacity)}">\n${inside}\n</g>` : inside;
}

const onEverySide = (pt: number): Reach => ({ leftPt: pt, topPt: pt, rightPt: pt, bottomPt: pt });

/** A box where a shadow stands. */
const moved = (box: Box, { xPt, yPt }: { xPt: number; yPt: number }): Box => ({
  leftPt: box.leftPt + xPt,
  topPt: box.topPt + yPt,
  rightPt: box.rightPt + xPt,
  bottomPt: box.bottomPt + yPt,
});

/** Where a shadow's blur is worked out, in the letters' own coordinates; undefined where none of it can be seen. */
function blurRoom(shadow: NonNullable<RunPaint['shadow']>, inked: Box, { seen, shows }: View, strokePt: number): Box | undefined {
  const far = 3 * shadow.deviationPt;
  const visible = moved(seen, { xPt: -shadow.xPt, yPt: -shadow.yPt });
  const room = clipped(grown(inked, onEverySide(far + strokePt)), grown(visible, onEverySide(far)));
  return room && shows(moved(room, shadow)) ? room : undefined;
}

function outlineRun({ glyphs, scale, xScale, style }: PlacedRun, faces: FaceSet, shown: readonly boolean[]): string {
  const instance = faces.instance(style);
  return glyphs
    .filter((_, i) => shown[i])
    .map(({ glyphId, xPt, yPt }) => pathData(instance.outline(glyphId), xScale, scale, xPt, yPt, DIGITS))
    .filter(Boolean)
    .map((d) => `<path d="${d}"/>`)
    .join('\n');
}

/** One `tspan` per letter that stands for several characters, so that its characters still join; the rest share a list of positions. */
function textRun({ words }: Block, line: SetLine, run: PlacedRun, faces: FaceSet): string {
  const { style } = run;
  const { face } = faces.instance(style);
  const letters: { start: number; end: number; xPt: number; yPt: number }[] = [];
  for (const glyph of run.glyphs) {
    if (letters[letters.length - 1]?.start === glyph.cluster) continue;
    letters.push({ start: glyph.cluster, end: 0, xPt: glyph.xPt - glyph.offsetPt, yPt: glyph.yPt });
  }
  letters.sort((a, b) => a.start - b.start);
  letters.forEach((letter, i) => (letter.end = letters[i + 1]?.start ?? run.end));
  if (letters.length === 0) return '';

  const spans: { text: string; xs: string[]; single: boolean }[] = [];
  for (const { start, end, xPt } of letters) {
    const text = shownText(words, start, end, style.case === 'small' && style.features['smcp'] !== 1 ? 'reduced' : style.case);
    const single = text.length === 1;
    const last = spans[spans.length - 1];
    const x = printNumber(xPt / style.scaleX, DIGITS);
    if (single && last?.single) {
      last.text += text;
      last.xs.push(x);
    } else spans.push({ text, xs: [x], single });
  }
  const body = spans.map(({ text, xs }) => `<tspan x="${xs.join(' ')}">${escapeXml(text)}</tspan>`).join('');
  const attributes = [
    `y="${printNumber(line.baselinePt / style.scaleY, DIGITS)}"`,
    `font-family="${escapeXml(`'${face.family.replaceAll("'", '')}'`)}"`,
    ...fontStyle(face.style),
    `font-size="${printNumber(style.sizePt, DIGITS)}"`,
    'xml:space="preserve"',
  ];
  const settings = cssSettings(style.axes);
  const features = cssSettings({ ...style.features, ...(style.trackingMilliem !== 0 ? { liga: 0, clig: 0 } : {}) });
  const css = [settings && `font-variation-settings:${settings}`, features && `font-feature-settings:${features}`].filter(Boolean).join(';');
  if (css) attributes.push(`style="${escapeXml(css)}"`);
  // Scaled letters keep their places: positions are given in the scaled space.
  const { scaleX, scaleY } = style;
  if (scaleX !== 1 || scaleY !== 1) attributes.push(`transform="scale(${printNumber(scaleX, DIGITS)} ${printNumber(scaleY, DIGITS)})"`);
  return `<text ${attributes.join(' ')}>${body}</text>`;
}

/** Characters as their case shows them; small capitals are lower case for the font to draw, or were reduced to smaller capitals. */
function shownText(words: string, start: number, end: number, letterCase: LetterCase | 'reduced'): string {
  const text = words.slice(start, end);
  if (letterCase === 'capitals' || letterCase === 'reduced') return text.toUpperCase();
  if (letterCase === 'title' && !/[\p{L}\p{N}\p{M}'’]/u.test(words.charAt(start - 1))) return text.charAt(0).toUpperCase() + text.slice(1);
  return text;
}

function cssSettings(values: Readonly<Record<string, number>>): string {
  return Object.entries(values)
    .map(([tag, value]) => `"${tag.replaceAll('"', '')}" ${value}`)
    .join(', ');
}

/** Weight names of the OpenType specification (`OS/2` usWeightClass). */
const WEIGHTS: readonly (readonly [RegExp, number])[] = [
  [/thin/i, 100],
  [/(extra|ultra) ?light/i, 200],
  [/light/i, 300],
  [/medium/i, 500],
  [/(semi|demi) ?bold/i, 600],
  [/(extra|ultra) ?bold/i, 800],
  [/bold/i, 700],
  [/black|heavy/i, 900],
];

/** The weight a style name stands for (`OS/2` usWeightClass). */
export const weightOf = (style: string): number => WEIGHTS.find(([name]) => name.test(style))?.[1] ?? 400;

function fontStyle(style: string): string[] {
  const weight = weightOf(style);
  return [`font-weight="${weight}"`, ...(/italic|oblique/i.test(style) ? ['font-style="italic"'] : [])];
}

/** Text safe in XML content and attributes; characters XML 1.0 doesn't allow are dropped. */
export function escapeXml(text: string): string {
  return (
    text
      // eslint-disable-next-line no-control-regex -- these are exactly the characters XML 1.0 forbids
      .replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, '')
      .replace(/[&<>"]/g, (character) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[character] ?? character)
  );
}
