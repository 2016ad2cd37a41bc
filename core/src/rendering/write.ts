/** Files of sheets in any format, as the command and the server write them. */
import { sheetOfPage } from '../drawing/page';
import { type DocumentInfo, type SheetFormat, type SheetMaterial, checkPixels, pngFormat } from '../formats';
import type { RenderOptions } from './render';

/** A sheet as pixels; what draws them is loaded by those who want it. */
export const renderSheetOnDemand: typeof import('./render').renderSheet = async (...given) => (await import('./render')).renderSheet(...given);

/** The writers of documents, by the format's name, loaded on demand. */
const DOCUMENTS: Readonly<Record<string, (sheets: readonly SheetMaterial[], info: DocumentInfo, options: never) => Promise<Uint8Array>>> = {
  pdf: async (...given) => (await import('./pdf/write-pdf')).writePdf(...given),
};

/**
 * A sheet as a file; formats of pages take several.
 * @param options as the format's schema gives them. @throws PictureTooLargeError, DrawingTooLargeError
 */
export async function writeSheets(
  format: SheetFormat,
  sheets: readonly [SheetMaterial, ...SheetMaterial[]],
  info: DocumentInfo,
  options: unknown,
): Promise<Uint8Array | string> {
  const [first] = sheets;
  switch (format.kind) {
    case 'text': {
      const embeds = format.embeds?.(options) ?? false;
      const fonts = embeds ? await (await import('./embedding')).embeddedFonts(first.drawing, first.faces) : undefined;
      return format.write(fonts ? { ...first, fonts } : first, options, info);
    }
    case 'pixels': {
      const pixels = format.pixels(first.drawing, options);
      checkPixels(pixels, format);
      return renderSheetOnDemand(first, format.id, pixels, options as RenderOptions);
    }
    case 'pages': {
      const write = DOCUMENTS[format.id];
      if (!write) throw new Error(`Nothing writes “${format.id}”`);
      return write(sheets, info, options as never);
    }
  }
}

/** A sheet as it comes to lie in a file, as a PNG. @param side of the square it fits into, in pixels */
export async function previewSheet(format: SheetFormat, material: SheetMaterial, options: unknown, side: number): Promise<Uint8Array> {
  const { drawing } = material;
  const shown = format.kind === 'pages' ? sheetOfPage(format.page(drawing, options), drawing) : drawing;
  const scale = side / Math.max(shown.widthPt, shown.heightPt);
  const pixels = { width: Math.max(1, Math.round(shown.widthPt * scale)), height: Math.max(1, Math.round(shown.heightPt * scale)) };
  return renderSheetOnDemand({ ...material, drawing: shown }, pngFormat.id, pixels);
}
