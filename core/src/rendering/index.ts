export type { RenderOptions } from './render';
export { previewSheet, renderSheet, writeSheets } from './write';
