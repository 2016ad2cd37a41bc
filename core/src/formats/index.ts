export { aspectOf, fitted } from './fitting';
export { DrawingTooLargeError, type SvgLetters, type SvgOptions, writeSvg } from './svg';
export { escapeXml } from './xml';
export {
  type FormatChoice,
  type PixelFormat,
  type SheetFormat,
  type SheetMaterial,
  type TextFormat,
  endingOf,
  pixelFormat,
  queryOf,
  textFormat,
} from './format';
export { MAX_PIXELS, SHEET_FORMATS, pngFormat, svgFormat } from './sheet-formats';
export {
  JOB_FILE_EXTENSION,
  JOB_FILE_TYPE,
  type JobFile,
  MAX_JOB_FILE,
  describeIssues,
  openJobFile,
  readJob,
  readJobFile,
  withoutReferences,
  writeJobFile,
} from './job-file';
export { type OutsideFace, type ReadToken, TokenError, readTokens, writeCss, writeTokens } from './tokens';
export { letterOutlines } from './letter-outlines';
