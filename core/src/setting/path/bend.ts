/**
 * Kerning on a bend: the white between two letters that are turned against each other is brought to what it is between them on the
 * straight line. Both are measured as they stand to the line that halves their angle (docs/spacing.md, "On a bend").
 */
import { type GlyphProfile, LEAST_DISTANCE, BASE_LEVEL, type Standing, facedSide, offsetForWhite, profileOf, roughDistance, whiteBetween } from '../../spacing';
import { hasCursive } from '../scripts';
import { standing } from '../shape-kerning';
import type { OnCurve } from './curve';
import { type PathLetter, pivotPt } from './letters';

/** A bend opens and closes a gap by no more than this, in em. */
const MOST_OPENED = 0.5;
const MOST_CLOSED = 0.3;

const DEGREES = 180 / Math.PI;

/** Two neighbours and the white between them on the straight line. */
export interface BendGap {
  left: PathLetter;
  right: PathLetter;
  /** Between their advances on the straight line, in points. */
  betweenPt: number;
  /** In em of the left letter. */
  white: number;
  /** The distance of their inks that is kept: what it is on the straight line, where that is less than letters keep. */
  least: number;
}

/** How wide an em of a letter is on its line, in points. */
const emPt = ({ style }: PathLetter): number => style.sizePt * style.scaleX;

const turnedBy = ({ instance, glyphId, style }: PathLetter, angle: number): GlyphProfile | undefined =>
  profileOf(instance, glyphId, style.turnDeg + angle * DEGREES);

/** The gap between two letters as it stands on the straight line; undefined where one has no ink, or where strokes join them. */
export function bendGap(words: string, left: PathLetter, right: PathLetter): BendGap | undefined {
  const [a, b] = [turnedBy(left, 0), turnedBy(right, 0)];
  if (!a || !b || hasCursive(words.slice(Math.min(left.cluster, right.cluster), Math.max(left.cluster, right.cluster) + 1))) return undefined;
  const side = facedSide(a, b, left.style === right.style ? BASE_LEVEL : standing(left, right));
  const betweenPt = right.penPt - left.penPt - left.widthPt;
  const between = betweenPt / emPt(left);
  return { left, right, betweenPt, white: whiteBetween(a.right, side, between, 4), least: Math.min(LEAST_DISTANCE, roughDistance(a.right, side, between)) };
}

/** How two letters stand on a bend, to the line that halves their angle: profiles, and how far their advances are apart in em of the left. */
function onBend({ left, right }: BendGap, at: { left: OnCurve; right: OnCurve }) {
  const half = (at.right.angle - at.left.angle) / 2;
  const [a, b] = [turnedBy(left, -half), turnedBy(right, half)];
  if (!a || !b) return undefined;
  const middle = (at.left.angle + at.right.angle) / 2;
  const [x, y] = [at.right.x - at.left.x, at.right.y - at.left.y];
  const along = x * Math.cos(middle) + y * Math.sin(middle);
  const down = y * Math.cos(middle) - x * Math.sin(middle);
  // Profiles are turned about the middle of the x-height, letters about their feet.
  const [leftPivot, rightPivot] = [pivotPt(left), pivotPt(right)];
  const em = emPt(left);
  const between = (along + (leftPivot + rightPivot) * Math.sin(half) - (left.widthPt + right.widthPt) / 2) / em;
  const upright: Standing = left.style === right.style ? BASE_LEVEL : standing(left, right);
  const high = left.style.sizePt * left.style.scaleY;
  const raised = upright.shift + (-down + (rightPivot - leftPivot) * (Math.cos(half) - 1)) / high;
  const side = facedSide(a, b, { ...upright, shift: Math.abs(raised) < HAIR ? 0 : raised });
  return { left: a.right, side, between, em };
}

/** Letters raised against each other by less than this, in em, stand level. */
const HAIR = 0.0005;

/** The white of a gap on a bend, in em of the left letter; undefined where a letter has no ink. */
export function whiteOnBend(gap: BendGap, at: { left: OnCurve; right: OnCurve }): number | undefined {
  const placed = onBend(gap, at);
  return placed && whiteBetween(placed.left, placed.side, placed.between, 4);
}

/**
 * How much farther apart, in points, two letters have to stand on a bend than they do, so that their white is that of the straight line.
 * @param at where their advances' middles stand. @param opened how far the gap has been opened already, in points.
 */
export function openedOnBend(gap: BendGap, at: { left: OnCurve; right: OnCurve }, opened: number): number {
  const placed = onBend(gap, at);
  if (!placed) return 0;
  const { left, side, between, em } = placed;
  let wanted = opened / em + offsetForWhite(left, side, gap.white, 4) - between;
  wanted = Math.max(-MOST_CLOSED, Math.min(MOST_OPENED, wanted));
  const distance = roughDistance(left, side, between + wanted - opened / em);
  if (distance < gap.least) wanted = Math.min(MOST_OPENED, wanted + gap.least - distance);
  return wanted * em;
}
