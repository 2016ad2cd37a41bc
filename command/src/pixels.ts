/** Pictures as pixels: PNG, JPEG and WebP through libvips, SVG through the renderer that sheets are rendered with. */
import { Resvg } from '@resvg/resvg-js';
import { type Grey, MOST_READ_PIXELS, greyOf } from '@jentrix/core/reading';
import { readBytes } from './fonts';
import { UsageError } from './usage-error';

export interface PixelPicture {
  grey: Grey;
  /** As the file states it; undefined where it doesn't. */
  pixelsPerInch: number | undefined;
}

/** CSS pixels, which an SVG's size is in (CSS Values 4, section 6.2). */
const SVG_PIXELS_PER_INCH = 96;
/** Most pixels a file may have: beyond it, decoding alone would take the machine's memory. */
const MOST_DECODED = 200_000_000;

/** A picture in grey, made smaller where it has more pixels than are read. @throws UsageError for what is no picture. */
export async function pictureAt(path: string): Promise<PixelPicture> {
  const bytes = readBytes(path);
  try {
    return isSvgFile(bytes) ? drawn(bytes) : await decoded(bytes);
  } catch (error) {
    throw new UsageError(`“${path}” is no picture that can be read: ${error instanceof Error ? error.message : String(error)}`);
  }
}

const isSvgFile = (bytes: Uint8Array): boolean => /^\uFEFF?\s*<(?:\?xml|!DOCTYPE svg|!--|svg)/.test(new TextDecoder().decode(bytes.subarray(0, 400)));

function drawn(bytes: Uint8Array): PixelPicture {
  const svg = new TextDecoder().decode(bytes);
  const font = { loadSystemFonts: false };
  const image = new Resvg(svg, { font });
  const shrink = Math.min(1, Math.sqrt(MOST_READ_PIXELS / Math.max(1, image.width * image.height)));
  const { pixels, width, height } = (shrink < 1 ? new Resvg(svg, { font, fitTo: { mode: 'zoom', value: shrink } }) : image).render();
  return { grey: greyOf(new Uint8Array(pixels), width, height), pixelsPerInch: SVG_PIXELS_PER_INCH * shrink };
}

async function decoded(bytes: Uint8Array): Promise<PixelPicture> {
  // Loaded by who reads pictures: other commands don't wait for it.
  const { default: sharp } = await import('sharp');
  const image = sharp(bytes, { limitInputPixels: MOST_DECODED }).autoOrient();
  const { width, height, density } = await image.metadata();
  const shrink = Math.min(1, Math.sqrt(MOST_READ_PIXELS / (width * height)));
  const small = shrink < 1 ? image.resize({ width: Math.floor(width * shrink) }) : image;
  const { data, info } = await small.toColourspace('srgb').ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  return { grey: greyOf(new Uint8Array(data), info.width, info.height), pixelsPerInch: density === undefined ? undefined : density * shrink };
}
