/** Drawings for files and for copying out; loaded on demand. */
export { drawSheet } from '@jentrix/core/drawing';
export { letterOutlines, writeSvg } from '@jentrix/core/formats';
