export { fitted } from './fitting';
export { DrawingTooLargeError, type SvgLetters, type SvgOptions, softPicture, writeSvg } from './svg';
export { escapeXml } from './xml';
export {
  type DocumentInfo,
  type EmbeddedFonts,
  NO_FONTS,
  type FormatChoice,
  type FormatField,
  type JobFormat,
  type FormatNumber,
  type FormatValue,
  type PageFormat,
  type PixelFormat,
  type SheetFormat,
  type SheetMaterial,
  type TextFormat,
  documentInfo,
  endingOf,
  jobFormat,
  optionKeysOf,
  optionsOf,
  pageFormat,
  pixelFormat,
  queryOf,
  textFormat,
} from './format';
export {
  MAX_EXPORT_PIXELS,
  type PdfOptions,
  PictureTooLargeError,
  SHEET_FORMATS,
  checkPixels,
  cssFormat,
  htmlFormat,
  jpegFormat,
  pageLayout,
  pdfFormat,
  pngFormat,
  sheetsQuerySchema,
  svgFormat,
  webpFormat,
} from './sheet-formats';
export { JOB_FILE_EXTENSION, JOB_FILE_TYPE, type JobFile, MAX_JOB_FILE, openJobFile, readJobFile, withoutReferences, writeJobFile } from './job-file';
export { type OutsideFace, type ReadToken, TokenError, readTokens, writeCss, writeTokens } from './tokens';
export { letterOutlines } from './letter-outlines';
export { type Visible, onEverySide, sheetVisible, visibleIn } from './visible';
export { JOB_FORMATS, fileFormat, packageFormat, pairsFormat } from './job-formats';
