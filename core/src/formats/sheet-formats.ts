import * as z from 'zod';
import { type PageLayout, pageOf } from '../drawing/page';
import { WordedError } from '../base';
import { fromPoints, toPoints } from '../units';
import { type FormatField, NO_FONTS, type PixelFormat, type SheetFormat, type SheetMaterial, pageFormat, pixelFormat, textFormat } from './format';
import { htmlParts, writeHtml } from './html';
import { onOrOff } from './on-or-off';
import { writeSvg } from './svg';

export const svgFormat = textFormat({
  kind: 'text',
  id: 'svg',
  name: 'SVG',
  says: 'vector, for the web and other programs',
  mediaType: 'image/svg+xml',
  extension: '.svg',
  options: z.object({ letters: z.enum(['outlines', 'text']).default('outlines'), embed: onOrOff }),
  fields: [
    {
      kind: 'choice',
      name: 'Letters',
      of: [
        { name: 'As outlines', says: 'looks the same everywhere', set: { letters: 'outlines' } },
        { name: 'Live text', says: 'needs the faces', set: { letters: 'text' } },
      ],
    },
    { kind: 'switch', name: 'Embed faces', key: 'embed', says: 'where the licence allows' },
  ],
  embeds: ({ letters, embed }) => letters === 'text' && embed,
  write: ({ drawing, faces, pictures, fonts }, { letters }) => writeSvg(drawing, faces, { letters, pictures, ...(fonts ? { fonts } : {}) }),
});

const MAX_WIDTH = 30_000;
const MAX_PPI = 2400;

/** How large a picture is: pixels per CSS pixel (1/96 in), or, where one of them is said, its width in pixels or ppi. */
const size = {
  scale: z.coerce
    .number()
    .pipe(z.union([z.literal(1), z.literal(2), z.literal(3)]))
    .default(1),
  width: z.coerce.number().int().min(1).max(MAX_WIDTH).optional(),
  ppi: z.coerce.number().min(1).max(MAX_PPI).optional(),
};
const quality = z.coerce.number().int().min(1).max(100).default(85);

/** @throws z.ZodError where both are said */
const oneSize = <Schema extends z.ZodType<{ width?: number | undefined; ppi?: number | undefined }>>(options: Schema): Schema =>
  options.refine(({ width, ppi }) => width === undefined || ppi === undefined, { error: 'Give either a width or a resolution, not both.' });

/** Largest picture that is made, in pixels: an A1 sheet at 3x. Layers and the file itself take several times its bytes. */
export const MAX_EXPORT_PIXELS = 66_000_000;

/** A picture would have more pixels than are made. */
export class PictureTooLargeError extends WordedError {
  override readonly name = 'PictureTooLargeError';

  /** @param most pixels that a side can have in its format, where that is in the way. */
  constructor({ width, height }: { width: number; height: number }, most?: number) {
    const limit = most === undefined ? `at most ${MAX_EXPORT_PIXELS / 1e6} million are made` : `at most ${most} on a side fit into this format`;
    super(`It would have ${width} × ${height} pixels; ${limit}. Choose a smaller size, or SVG.`);
  }
}

/** @throws PictureTooLargeError */
export function checkPixels({ width, height }: { width: number; height: number }, { mostSide }: Pick<PixelFormat, 'mostSide'>): void {
  if (width * height > MAX_EXPORT_PIXELS) throw new PictureTooLargeError({ width, height });
  if (mostSide !== undefined && Math.max(width, height) > mostSide) throw new PictureTooLargeError({ width, height }, mostSide);
}

/** Never a row short: what covers part of a pixel gets one. Sums of lengths are off by less than a thousandth. */
const wholePixels = (length: number): number => Math.max(1, Math.ceil(length - 0.001));

type Size = z.output<z.ZodObject<typeof size>>;

function pixelSize({ widthPt, heightPt }: { widthPt: number; heightPt: number }, { scale, width, ppi }: Size): { width: number; height: number } {
  if (width !== undefined) return { width, height: wholePixels((width * heightPt) / widthPt) };
  const perPoint = ppi === undefined ? fromPoints(scale, 'px') : ppi / 72;
  return { width: wholePixels(widthPt * perPoint), height: wholePixels(heightPt * perPoint) };
}

const suffixOf = ({ scale, width, ppi }: Size): string => (width !== undefined ? `-${width}px` : ppi !== undefined ? `-${ppi}ppi` : `@${scale}x`);

const sizeField: FormatField = {
  kind: 'choice',
  name: 'Size',
  of: [
    ...([1, 2, 3] as const).map((scale) => ({ name: `${scale}×`, says: `${96 * scale} ppi`, set: { scale } })),
    { name: 'Width', set: { width: 1920 }, number: { key: 'width', unit: 'px', min: 1, max: MAX_WIDTH, step: 10 } },
    { name: 'Resolution', set: { ppi: 300 }, number: { key: 'ppi', unit: 'ppi', min: 1, max: MAX_PPI, step: 1 } },
  ],
};
const transparentField: FormatField = { kind: 'switch', name: 'Transparent background', key: 'transparent', says: 'without a background' };
const qualityField: FormatField = { kind: 'number', name: 'Quality', key: 'quality', unit: 'of 100', min: 1, max: 100, step: 5 };

export const pngFormat = pixelFormat({
  kind: 'pixels',
  id: 'png',
  name: 'PNG',
  says: 'lossless pixels',
  mediaType: 'image/png',
  extension: '.png',
  options: oneSize(z.object({ ...size, transparent: onOrOff })),
  fields: [sizeField, transparentField],
  suffix: suffixOf,
  pixels: pixelSize,
});

export const jpegFormat = pixelFormat({
  kind: 'pixels',
  id: 'jpeg',
  name: 'JPEG',
  says: 'pixels, small, for photographs',
  mediaType: 'image/jpeg',
  extension: '.jpg',
  // ISO/IEC 10918-1, section B.2.2.
  mostSide: 65_535,
  options: oneSize(z.object({ ...size, quality })),
  fields: [sizeField, qualityField],
  suffix: suffixOf,
  pixels: pixelSize,
});

export const webpFormat = pixelFormat({
  kind: 'pixels',
  id: 'webp',
  name: 'WebP',
  says: 'pixels, smaller still, for the web',
  mediaType: 'image/webp',
  extension: '.webp',
  // RFC 9649, section 2.5.
  mostSide: 16_383,
  options: oneSize(z.object({ ...size, quality, transparent: onOrOff })),
  fields: [sizeField, qualityField, transparentField],
  suffix: suffixOf,
  pixels: pixelSize,
});

const pdfOptions = z.object({
  letters: z.enum(['outlines', 'text']).default('outlines'),
  /** In millimetres. */
  bleed: z.coerce.number().min(0).max(50).default(0),
  marks: onOrOff,
  /** Resolution of what can only be a picture. */
  ppi: z.coerce.number().min(36).max(1200).default(300),
});
export type PdfOptions = z.output<typeof pdfOptions>;

/** How pages are laid out that are printed and cut: bleeds are told in millimetres, as printers do. */
export const pageLayout = ({ bleed, marks }: PdfOptions): PageLayout => ({ bleedPt: toPoints(bleed, 'mm'), marks });

export const pdfFormat = pageFormat({
  kind: 'pages',
  id: 'pdf',
  name: 'PDF',
  says: 'vector, for print; all sheets in one file',
  mediaType: 'application/pdf',
  extension: '.pdf',
  options: pdfOptions,
  fields: [
    {
      kind: 'choice',
      name: 'Letters',
      of: [
        { name: 'As outlines', says: 'words stay selectable', set: { letters: 'outlines' } },
        { name: 'Embedded faces', says: 'where the licence allows', set: { letters: 'text' } },
      ],
    },
    { kind: 'number', name: 'Bleed', key: 'bleed', unit: 'mm', min: 0, max: 50, step: 1 },
    { kind: 'switch', name: 'Crop marks', key: 'marks' },
    { kind: 'number', name: 'Soft shadows at', key: 'ppi', unit: 'ppi', min: 36, max: 1200, step: 10 },
  ],
  page: (drawing, options) => pageOf(drawing, pageLayout(options)),
});

const htmlOptions = z.object({ fluid: onOrOff });
const fluidField: FormatField = { kind: 'switch', name: 'Fluid', key: 'fluid', says: 'as wide as its container' };
const partsOf = ({ drawing, faces, pictures, fonts = NO_FONTS }: SheetMaterial, options: z.output<typeof htmlOptions>) =>
  htmlParts(drawing, faces, pictures, fonts, options);

export const htmlFormat = textFormat({
  kind: 'text',
  id: 'html',
  name: 'Web page',
  says: 'live text, set the same in a browser',
  mediaType: 'text/html',
  extension: '.html',
  options: htmlOptions,
  fields: [fluidField],
  embeds: () => true,
  write: (material, options, { language }) => writeHtml(partsOf(material, options), { title: material.drawing.name, language }),
});

export const cssFormat = textFormat({
  kind: 'text',
  id: 'css',
  name: 'CSS alone',
  says: 'styles only, with a markup example',
  mediaType: 'text/css',
  extension: '.css',
  options: htmlOptions,
  fields: [fluidField],
  embeds: () => true,
  write: (material, options) => {
    const { css, body } = partsOf(material, options);
    return `/* For this markup:\n\n${body.replaceAll('*/', '* /')}\n\n*/\n${css}\n`;
  },
});

/** Which sheets a file is asked for, and in which format; the options of the format stand beside it. */
export const sheetsQuerySchema = z.object({
  format: z.string().default(pngFormat.id),
  /** Their identifiers, with commas; all where they are not said. */
  sheets: z
    .string()
    .transform((list) => list.split(','))
    .optional(),
  /** One block of the sheet alone, by its identifier. */
  block: z.string().max(80).optional(),
  /** Of the square that a preview fits into, in pixels. */
  side: z.coerce.number().int().min(16).max(1600).default(640),
});

/** All formats a sheet can be handed over in. A new one is a definition and a line here. */
export const SHEET_FORMATS: readonly SheetFormat[] = [pngFormat, jpegFormat, webpFormat, svgFormat, pdfFormat, htmlFormat, cssFormat];
