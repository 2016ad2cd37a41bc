/** The value in the middle, the upper one of two; 0 of none. */
export const medianOf = (values: readonly number[]): number => Float64Array.from(values).sort()[values.length >> 1] ?? 0;
