/** From where a sheet is read: what is seen of a fault depends on it. Lengths in millimetres. */
import type { JobKind, Sheet } from '../job';
import { fromPoints } from '../units';

/** At arm's length: what a hand holds. */
export const ARM_MM = 400;

/**
 * Kinds that are looked at from a distance that grows with them, in diagonals of the sheet: a poster is seen as a whole; a slide is
 * thrown on a wall and a graphic shown on a telephone, whatever size the file says.
 */
const DIAGONALS: Readonly<Record<JobKind, number>> = { poster: 1.5, slides: 2.5, social: 3, flyer: 1, other: 1 };

/** The distance a sheet is read from; never nearer than at arm's length. */
export function readingDistance(kind: JobKind, { widthPt, heightPt }: Pick<Sheet, 'widthPt' | 'heightPt'>): number {
  return Math.max(ARM_MM, DIAGONALS[kind] * fromPoints(Math.hypot(widthPt, heightPt), 'mm'));
}
