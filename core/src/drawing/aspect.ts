import type { PictureNode } from './drawing';

/** How a picture keeps its proportions in a box (SVG 2, `preserveAspectRatio`). */
export const aspectOf = (fit: PictureNode['fit']): string => `xMidYMid ${fit === 'cover' ? 'slice' : 'meet'}`;
