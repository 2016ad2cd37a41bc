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

/** Pixels per CSS pixel (1/96 in). */
const scale = z.coerce
  .number()
  .pipe(z.union([z.literal(1), z.literal(2), z.literal(3)]))
  .default(1);

/** Largest picture that is made, in pixels: an A1 sheet at 3x. Layers and the file itself take several times its bytes. */
export const MAX_PIXELS = 66_000_000;

/** Never a row short: what covers part of a pixel gets one. Sums of lengths are off by less than a thousandth. */
const wholePixels = (length: number): number => Math.max(1, Math.ceil(length - 0.001));

export const pngFormat = pixelFormat({
  kind: 'pixels',
  id: 'png',
  name: 'PNG',
  mediaType: 'image/png',
  extension: '.png',
  options: z.object({ scale }),
  choices: ([1, 2, 3] as const).map((times) => ({
    name: `${times}×`,
    says: `${96 * times} pixels per inch`,
    options: { scale: times },
    ...(times === 2 ? { forAll: true as const } : {}),
  })),
  suffix: (options) => `@${options.scale}x`,
  pixels: ({ widthPt, heightPt }, options) => ({
    width: wholePixels(fromPoints(widthPt, 'px') * options.scale),
    height: wholePixels(fromPoints(heightPt, 'px') * options.scale),
  }),
});

/** All formats a sheet can be handed over in. A new one is a definition and a line here. */
export const SHEET_FORMATS: readonly SheetFormat[] = [svgFormat, pngFormat];
