export type { RenderOptions } from './render';
export { previewSheet, renderSheetOnDemand, writeSheets } from './write';
