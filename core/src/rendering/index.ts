export { type RenderOptions, renderSheet } from './render';
export { previewSheet, writeSheets } from './write';
