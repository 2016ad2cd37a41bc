/**
 * How far the upright strokes of a face lean, measured from its outlines. White is looked at along the lean: the sides of an italic H
 * are as straight as a roman one's. No letter is looked up. Lengths in em.
 */
import { valueAt } from '../base';
import { type FaceInstance, flatten } from '../face';

/** A direction that edges are looked at along: `x − (y − about) · slope` stays where it is on an upright stroke. */
export interface Lean {
  /** Tangent of the angle that strokes lean to the right; 0 where they stand upright. */
  slope: number;
  /** The height that letters are leant about. */
  about: number;
}

export const UPRIGHT_LEAN: Lean = { slope: 0, about: 0 };

/** Glyphs looked at: enough for the letters of a font, whatever stands before them. */
const MOST_GLYPHS = 300;
/** Strokes that lean farther than this (tangent) are diagonals. */
const STEEPEST = 0.5;
/** Width of a class of slopes, and how many classes beside the commonest still count as upright strokes. */
const CLASS = 0.01;
const NEAR = 2;
/** Of all steep pieces of outline, by height, so many must share the commonest slope; else the font's tables are asked. */
const LEAST_SHARE = 0.12;
/** Leaning by less than this is upright: half a degree and what rounding to font units makes of it. */
const LEAST_SLOPE = 0.015;
/** Curves are looked at in this many pieces. */
const PIECES = 4;

const leans = new WeakMap<FaceInstance, Lean>();

/** The lean of a face at its axis position; measured once. */
export function leanOf(instance: FaceInstance): Lean {
  let lean = leans.get(instance);
  if (!lean) {
    const slope = slopeOf(instance);
    const xHeight = instance.statedHeights.xHeight / instance.unitsPerEm;
    lean = slope === 0 ? UPRIGHT_LEAN : { slope, about: Math.max(0, Math.min(0.4, xHeight / 2)) };
    leans.set(instance, lean);
  }
  return lean;
}

/** The commonest slope of the steep pieces of the outlines, counted by their height. */
function slopeOf(instance: FaceInstance): number {
  const middle = Math.ceil(STEEPEST / CLASS);
  const heights = new Float64Array(2 * middle + 1);
  /** Slopes times heights: a class knows its mean. */
  const slopes = new Float64Array(2 * middle + 1);
  let all = 0;
  const count = Math.min(MOST_GLYPHS, instance.face.glyphCount);
  for (let glyphId = 1; glyphId < count; glyphId++) {
    flatten(instance.outline(glyphId), PIECES, (x0, y0, x1, y1) => {
      const height = Math.abs(y1 - y0);
      const slope = (x1 - x0) / (y1 - y0);
      if (height === 0 || !(Math.abs(slope) < STEEPEST)) return;
      const at = middle + Math.round(slope / CLASS);
      heights[at] = valueAt(heights, at) + height;
      slopes[at] = valueAt(slopes, at) + slope * height;
      all += height;
    });
  }
  const around = (values: Float64Array, at: number): number => values.slice(Math.max(0, at - NEAR), at + NEAR + 1).reduce((sum, value) => sum + value, 0);
  let commonest = 0;
  for (let at = 1; at < heights.length; at++) if (around(heights, at) > around(heights, commonest)) commonest = at;
  const shared = around(heights, commonest);
  return shared === 0 || shared < LEAST_SHARE * all ? statedSlope(instance) : settledLean(around(slopes, commonest) / shared);
}

const statedSlope = ({ face }: FaceInstance): number => settledLean(Math.tan((face.posture.slopeDeg * Math.PI) / 180));

const settledLean = (slope: number): number => (Math.abs(slope) < LEAST_SLOPE ? 0 : Math.max(-STEEPEST, Math.min(STEEPEST, slope)));
