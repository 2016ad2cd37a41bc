/** What the engine draws for files and for copying out; loaded when it is first wanted. */
export { drawSheet } from '@jentrix/core/drawing';
export { letterOutlines, writeSvg } from '@jentrix/core/formats';
