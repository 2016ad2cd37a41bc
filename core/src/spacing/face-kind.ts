/** Faces whose spacing is fixed by their design. They are recognised from advances and outlines, and left alone unless somebody asks. */
import type { FaceInstance } from '../face';
import { knownOf } from '../base';
import { casedLettersOf } from './first-letters';
import { rhythmOf } from './rhythm';

/** `fixed`: fixed pitch, all letters have one advance. `pixel`: outlines follow a pixel grid. `joined`: a connected script. */
export type BoundKind = 'fixed' | 'pixel' | 'joined';

/** Of the letters so many must agree, and fewer letters than this tell nothing. */
const MOST = 0.9;
const FEW = 8;
/** Advances that differ by less than this are one, in em. */
const SAME_WIDTH = 0.004;
/** The squares of a pixel face are no smaller than this, in em; corners off the grid by less than a share of it are on it. */
const LEAST_SQUARE = 0.02;
const OFF_GRID = 0.04;

const known = new WeakMap<FaceInstance, BoundKind | null>();

/** The kind of a face at its axis position, found once; undefined for a face whose letters stand for themselves. */
export const boundKindOf = (instance: FaceInstance): BoundKind | undefined => knownOf(known, instance, () => found(instance) ?? null) ?? undefined;

function found(instance: FaceInstance): BoundKind | undefined {
  const glyphs = casedLettersOf(instance.face).flatMap((letter) => instance.nominalGlyph(letter.codePointAt(0) ?? 0) ?? []);
  if (glyphs.length >= FEW) {
    if (areOneWidth(glyphs.map((glyph) => instance.advance(glyph) / instance.unitsPerEm))) return 'fixed';
    if (areSquares(glyphs.map((glyph) => cornersOf(instance, glyph)).filter((corners) => corners !== null && corners.length > 0))) return 'pixel';
  }
  return rhythmOf(instance).joined ? 'joined' : undefined;
}

function areOneWidth(advances: number[]): boolean {
  const usual = [...advances].sort((a, b) => a - b)[advances.length >> 1] ?? 0;
  return usual > 0 && advances.filter((advance) => Math.abs(advance - usual) < SAME_WIDTH).length >= MOST * advances.length;
}

/** The corners of an outline that is all level and upright lines, in em, x and y in turn; null for any other. */
function cornersOf(instance: FaceInstance, glyph: number): number[] | null {
  const corners: number[] = [];
  let [x, y] = [0, 0];
  for (const { type, values } of instance.outline(glyph)) {
    if (type === 'Z') continue;
    const [nextX = 0, nextY = 0] = values;
    if (type !== 'M' && (type !== 'L' || (nextX !== x && nextY !== y))) return null;
    [x, y] = [nextX, nextY];
    corners.push(x / instance.unitsPerEm, y / instance.unitsPerEm);
  }
  return corners;
}

/** True where the corners of most letters lie on one grid that is not too fine. */
function areSquares(letters: readonly (number[] | null)[]): boolean {
  const square = letters.filter((corners) => corners !== null);
  if (letters.length < FEW || square.length < MOST * letters.length) return false;
  // The grid is the shortest usual step between corners, that the others are multiples of.
  const steps = square.flatMap((corners) => corners.slice(2).map((value, i) => Math.abs(value - (corners[i] ?? 0)))).filter((step) => step > 1e-6);
  steps.sort((a, b) => a - b);
  const size = steps[Math.floor(steps.length / 20)] ?? 0;
  if (size < LEAST_SQUARE) return false;
  const onGrid = steps.filter((step) => Math.abs(step / size - Math.round(step / size)) < OFF_GRID);
  return onGrid.length >= MOST * steps.length;
}
