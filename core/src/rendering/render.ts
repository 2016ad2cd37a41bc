/** Sheets as pixels. Here and in `cli/` alone the core knows Node: the renderer is a native one. */
import { Resvg } from '@resvg/resvg-js';
import { type SheetMaterial, pngFormat, writeSvg } from '../formats';
import { withPhysicalSize } from './png';
import { softener } from './soften';

/** What makes pictures of an SVG that states its pixels, by the format's name. */
const RENDERERS: Readonly<Record<string, (svg: string, widthPt: number) => Uint8Array>> = {
  [pngFormat.id]: (svg, widthPt) => withPhysicalSize(new Resvg(svg, { font: { loadSystemFonts: false } }).render().asPng(), widthPt),
};

/**
 * A sheet as a picture.
 * @param format the id of a format of pixels. @param pixels how many.
 */
export function renderSheet({ drawing, faces, pictures }: SheetMaterial, format: string, pixels: { width: number; height: number }): Uint8Array {
  const renderer = RENDERERS[format];
  if (!renderer) throw new Error(`Nothing renders “${format}”`);
  const soften = softener(pixels.width / drawing.widthPt);
  return renderer(writeSvg(drawing, faces, { letters: 'outlines', pictures, pixels, soften }), drawing.widthPt);
}
