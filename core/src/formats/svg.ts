/** SVG of a sheet, from a setting: letters as outlines, or live text with a position for every letter (SVG 2). */
import { pathData, printNumber } from '../face';
import type { Sheet } from '../job';
import type { BlockSetting, FaceSet, PlacedRun, SetLine } from '../setting';
import { fromPoints } from '../units';

/** How letters are written. */
export type SvgLetters = 'outlines' | 'text';

export interface SvgOptions {
  letters: SvgLetters;
  /** Leaves the sheet's background out. */
  transparent?: boolean;
}

/** Decimals of coordinates in points: 1/10,000 pt is 35 nanometres. */
const DIGITS = 4;

/**
 * Writes a sheet as SVG. Physical size in the sheet's own unit, user space in points.
 * @param settings the sheet's blocks as set, in painting order.
 */
export function writeSvg(sheet: Sheet, settings: readonly BlockSetting[], faces: FaceSet, { letters, transparent }: SvgOptions): string {
  const length = (pt: number): string => printNumber(fromPoints(pt, sheet.unit), DIGITS) + sheet.unit;
  const number = (pt: number): string => printNumber(pt, DIGITS);
  const out = [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${length(sheet.widthPt)}" height="${length(sheet.heightPt)}" viewBox="0 0 ${number(sheet.widthPt)} ${number(sheet.heightPt)}">`,
    `<title>${escapeXml(sheet.name)}</title>`,
  ];
  if (!transparent) out.push(`<rect width="100%" height="100%" fill="${sheet.background.colour}"/>`);
  for (const setting of settings) {
    const block = sheet.blocks.find(({ id }) => id === setting.blockId);
    if (!block) continue;
    out.push(`<g id="${escapeXml(block.id)}" role="img" aria-label="${escapeXml(block.words.replaceAll('\n', ' '))}">`);
    for (const line of setting.lines) {
      if (letters === 'outlines') out.push(...line.runs.map((run) => outlineRun(run, faces)).filter(Boolean));
      else out.push(...line.runs.map((run) => textRun(block.words, line, run, faces)).filter(Boolean));
    }
    out.push('</g>');
  }
  out.push('</svg>', '');
  return out.join('\n');
}

function outlineRun({ glyphs, scale, style }: PlacedRun, faces: FaceSet): string {
  const instance = faces.instance(style);
  const paths = glyphs
    .map(({ glyphId, xPt, yPt }) => pathData(instance.outline(glyphId), scale, scale, xPt, yPt, DIGITS))
    .filter(Boolean)
    .map((d) => `<path d="${d}"/>`);
  return paths.length > 0 ? `<g fill="${style.colour}">\n${paths.join('\n')}\n</g>` : '';
}

/** One `tspan` per letter that stands for several characters, so that its characters still join; the rest share a list of positions. */
function textRun(words: string, line: SetLine, run: PlacedRun, faces: FaceSet): string {
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
    const text = words.slice(start, end);
    const single = text.length === 1;
    const last = spans[spans.length - 1];
    const x = printNumber(xPt, DIGITS);
    if (single && last?.single) {
      last.text += text;
      last.xs.push(x);
    } else spans.push({ text, xs: [x], single });
  }
  const body = spans.map(({ text, xs }) => `<tspan x="${xs.join(' ')}">${escapeXml(text)}</tspan>`).join('');
  const attributes = [
    `y="${printNumber(line.baselinePt, DIGITS)}"`,
    `font-family="${escapeXml(`'${face.family.replaceAll("'", '')}'`)}"`,
    ...fontStyle(face.style),
    `font-size="${printNumber(style.sizePt, DIGITS)}"`,
    `fill="${style.colour}"`,
    'xml:space="preserve"',
  ];
  const settings = cssSettings(style.axes);
  const features = cssSettings({ ...style.features, ...(style.trackingMilliem !== 0 ? { liga: 0, clig: 0 } : {}) });
  const css = [settings && `font-variation-settings:${settings}`, features && `font-feature-settings:${features}`].filter(Boolean).join(';');
  if (css) attributes.push(`style="${escapeXml(css)}"`);
  return `<text ${attributes.join(' ')}>${body}</text>`;
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

function fontStyle(style: string): string[] {
  const weight = WEIGHTS.find(([name]) => name.test(style))?.[1] ?? 400;
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
