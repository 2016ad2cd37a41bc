import type { Axis, AxisValues } from './face';

/**
 * Where a variable face is taken up: at regular weight, whatever its file has as default, and at the optical size of the type.
 * @param sizePt type size; `opsz` is in points (OpenType registry of axes).
 */
export function startPosition(axes: readonly Axis[], sizePt: number): AxisValues {
  const values: Record<string, number> = {};
  for (const { tag, min, max, default: initial } of axes) {
    const wanted = tag === 'wght' ? 400 : tag === 'opsz' ? sizePt : initial;
    const value = Math.min(max, Math.max(min, wanted));
    if (value !== initial) values[tag] = value;
  }
  return values;
}
