import * as z from 'zod';
import { fromPoints } from '../units';
import { type SheetFormat, pixelFormat, textFormat } from './format';
import { writeSvg } from './svg';

export const svgFormat = textFormat({
  kind: 'text',
  id: 'svg',
  name: 'SVG',
  mediaType: 'image/svg+xml',
  extension: '.svg',
  options: z.object({ letters: z.enum(['outlines', 'text']).default('outlines') }),
  choices: [
    { name: 'Letters as outlines', says: 'looks the same everywhere', options: { letters: 'outlines' }, forAll: true },
    { name: 'Live text', says: 'needs the faces', options: { letters: 'text' } },
  ],
  write: ({ drawing, faces, pictures }, { letters }) => writeSvg(drawing, faces, { letters, pictures }),
});

/** Said as text in a query or a command. */
const onOrOff = z.union([z.boolean(), z.enum(['true', 'false']).transform((text) => text === 'true')]).default(false);

/** How large a picture is: pixels per CSS pixel (1/96 in), or, where one of them is said, its width in pixels or pixels an inch. */
const size = {
  scale: z.coerce
    .number()
    .pipe(z.union([z.literal(1), z.literal(2), z.literal(3)]))
    .default(1),
  width: z.coerce.number().int().min(1).max(30_000).optional(),
  ppi: z.coerce.number().min(1).max(2400).optional(),
};
const quality = z.coerce.number().int().min(1).max(100).default(85);

/** @throws z.ZodError where both are said */
const oneSize = <Schema extends z.ZodType<{ width?: number | undefined; ppi?: number | undefined }>>(options: Schema): Schema =>
  options.refine(({ width, ppi }) => width === undefined || ppi === undefined, { error: 'A picture has either a width or pixels an inch.' });

/** Largest picture that is made, in pixels: an A1 sheet at 3x. Layers and the file itself take several times its bytes. */
export const MAX_PIXELS = 66_000_000;

/** Never a row short: what covers part of a pixel gets one. Sums of lengths are off by less than a thousandth. */
const wholePixels = (length: number): number => Math.max(1, Math.ceil(length - 0.001));

type Size = z.output<z.ZodObject<typeof size>>;

function pixelsOf({ widthPt, heightPt }: { widthPt: number; heightPt: number }, { scale, width, ppi }: Size): { width: number; height: number } {
  if (width !== undefined) return { width, height: wholePixels((width * heightPt) / widthPt) };
  const perPoint = ppi === undefined ? fromPoints(scale, 'px') : ppi / 72;
  return { width: wholePixels(widthPt * perPoint), height: wholePixels(heightPt * perPoint) };
}

const suffixOf = ({ scale, width, ppi }: Size): string => (width !== undefined ? `-${width}px` : ppi !== undefined ? `-${ppi}ppi` : `@${scale}x`);

/** The choices every picture has. @param forAll the scale that is offered for all sheets */
const scales = ([1, 2, 3] as const).map((scale) => ({ name: `${scale}×`, says: `${96 * scale} pixels per inch`, options: { scale } }));

export const pngFormat = pixelFormat({
  kind: 'pixels',
  id: 'png',
  name: 'PNG',
  mediaType: 'image/png',
  extension: '.png',
  options: oneSize(z.object({ ...size, transparent: onOrOff })),
  choices: [
    ...scales.map(({ name, says, options }) => ({
      name,
      says,
      options: { ...options, transparent: false },
      ...(options.scale === 2 ? { forAll: true as const } : {}),
    })),
    { name: '2×, transparent', says: 'without the ground', options: { scale: 2 as const, transparent: true } },
  ],
  suffix: suffixOf,
  pixels: pixelsOf,
});

export const jpegFormat = pixelFormat({
  kind: 'pixels',
  id: 'jpeg',
  name: 'JPEG',
  mediaType: 'image/jpeg',
  extension: '.jpg',
  options: oneSize(z.object({ ...size, quality })),
  choices: [{ name: '2×', says: 'small, for photographs', options: { scale: 2, quality: 85 } }],
  suffix: suffixOf,
  pixels: pixelsOf,
});

export const webpFormat = pixelFormat({
  kind: 'pixels',
  id: 'webp',
  name: 'WebP',
  mediaType: 'image/webp',
  extension: '.webp',
  options: oneSize(z.object({ ...size, quality, transparent: onOrOff })),
  choices: [{ name: '2×', says: 'smaller, for the web', options: { scale: 2, quality: 85, transparent: false } }],
  suffix: suffixOf,
  pixels: pixelsOf,
});

/** All formats a sheet can be handed over in. A new one is a definition and a line here. */
export const SHEET_FORMATS: readonly SheetFormat[] = [svgFormat, pngFormat, jpegFormat, webpFormat];
