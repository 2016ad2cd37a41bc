import type { Background } from '../job';

/**
 * Where a gradient at a CSS angle begins and ends in a box (CSS Images 3, section 3.1.1): 0 points up, 90 to the right; the ends
 * lie where the box's corners are reached.
 */
export function gradientLine(width: number, height: number, angleDeg: number): { x1: number; y1: number; x2: number; y2: number } {
  const angle = (angleDeg * Math.PI) / 180;
  const [sin, cos] = [Math.sin(angle), Math.cos(angle)];
  const half = (Math.abs(width * sin) + Math.abs(height * cos)) / 2;
  return { x1: width / 2 - sin * half, y1: height / 2 + cos * half, x2: width / 2 + sin * half, y2: height / 2 - cos * half };
}

/** The plain colour that lies under everything. */
export const baseColour = (background: Background): string => (background.kind === 'gradient' ? background.from : background.colour);
