/** The value in the middle, the upper one of two; 0 of none. */
import { valueAt } from '../base';
export const medianOf = (values: readonly number[]): number => valueAt(Float64Array.from(values).sort(), values.length >> 1);
