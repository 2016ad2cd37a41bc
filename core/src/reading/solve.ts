/** Small systems of linear equations. */
import { valueAt } from '../base';

/**
 * Solves `matrix · x = right` for a symmetric matrix by elimination with the largest pivot.
 * @param matrix row by row, `right.length` rows and columns. @returns undefined where it can't be told from a singular one.
 */
export function solve(matrix: ArrayLike<number>, right: ArrayLike<number>): Float64Array | undefined {
  const n = right.length;
  const a = Float64Array.from(matrix);
  const x = Float64Array.from(right);
  const at = (row: number, column: number): number => valueAt(a, row * n + column);
  let largest = 0;
  for (const value of a) largest = Math.max(largest, Math.abs(value));
  for (let k = 0; k < n; k++) {
    let pivot = k;
    for (let row = k + 1; row < n; row++) if (Math.abs(at(row, k)) > Math.abs(at(pivot, k))) pivot = row;
    if (!(Math.abs(at(pivot, k)) > largest * 1e-13)) return undefined;
    if (pivot !== k) {
      for (let column = 0; column < n; column++) [a[k * n + column], a[pivot * n + column]] = [at(pivot, column), at(k, column)];
      [x[k], x[pivot]] = [valueAt(x, pivot), valueAt(x, k)];
    }
    for (let row = k + 1; row < n; row++) {
      const factor = at(row, k) / at(k, k);
      if (factor === 0) continue;
      for (let column = k; column < n; column++) a[row * n + column] = at(row, column) - factor * at(k, column);
      x[row] = valueAt(x, row) - factor * valueAt(x, k);
    }
  }
  for (let row = n - 1; row >= 0; row--) {
    let sum = valueAt(x, row);
    for (let column = row + 1; column < n; column++) sum -= at(row, column) * valueAt(x, column);
    x[row] = sum / at(row, row);
  }
  return x;
}
