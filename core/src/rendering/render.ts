/** Sheets as pixels. Here and in `cli/` alone the core knows Node: the renderers are native ones. */
import { Resvg } from '@resvg/resvg-js';
import { type SheetMaterial, jpegFormat, pngFormat, webpFormat, writeSvg } from '../formats';
import { withPhysicalSize } from './png';
import { softener } from './soften';

/** The options of pixel formats besides their size; each takes what it has. */
export interface RenderOptions {
  transparent?: boolean;
  /** 1 to 100. */
  quality?: number;
}

interface Rendered {
  png: Uint8Array;
  widthPt: number;
  /** Pixels an inch. */
  density: number;
}

type Encoder = (rendered: Rendered, options: RenderOptions) => Promise<Uint8Array>;

/** Other codecs than PNG are loaded by who wants them. */
const sharpOf = async ({ png, density }: Rendered) => {
  const { default: sharp } = await import('sharp');
  return sharp(png).withMetadata({ density });
};

/** The encoders of rendered sheets, by the format's name. All state sRGB and the physical size, where the format can. */
const ENCODERS: Readonly<Record<string, Encoder>> = {
  [pngFormat.id]: ({ png, widthPt }) => Promise.resolve(withPhysicalSize(png, widthPt)),
  [jpegFormat.id]: async (rendered, { quality }) =>
    (await sharpOf(rendered))
      .flatten({ background: '#ffffff' })
      .jpeg({ ...(quality === undefined ? {} : { quality }), mozjpeg: true })
      .toBuffer(),
  [webpFormat.id]: async (rendered, { quality }) => (await sharpOf(rendered)).webp(quality === undefined ? {} : { quality }).toBuffer(),
};

/**
 * A sheet as a picture.
 * @param format the id of a format of pixels. @param pixels how many. @param options those of the format.
 */
export async function renderSheet(
  { drawing, faces, pictures }: SheetMaterial,
  format: string,
  pixels: { width: number; height: number },
  options: RenderOptions = {},
): Promise<Uint8Array> {
  const encode = ENCODERS[format];
  if (!encode) throw new Error(`Nothing renders “${format}”`);
  const soften = softener(pixels.width / drawing.widthPt);
  const svg = writeSvg(drawing, faces, { letters: 'outlines', pictures, pixels, soften, transparent: options.transparent ?? false });
  const png = new Resvg(svg, { font: { loadSystemFonts: false } }).render().asPng();
  return encode({ png, widthPt: drawing.widthPt, density: (pixels.width * 72) / drawing.widthPt }, options);
}
