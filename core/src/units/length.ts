/** Lengths: every length inside Jentrix is in points (1/72 in); people type and read the unit they think in. */
import { WordedError } from '../base';

/** Units a length can be given in. `px` is the CSS reference pixel, 1/96 in (CSS Values 4, section 6.2). */
export const LENGTH_UNITS = ['mm', 'in', 'pt', 'px'] as const;
export type LengthUnit = (typeof LENGTH_UNITS)[number];

const POINTS_PER: Record<LengthUnit, number> = { pt: 1, in: 72, mm: 72 / 25.4, px: 0.75 };

/** Units that may be typed besides, in points. */
const TYPED_TOO: Readonly<Record<string, number>> = { cm: 720 / 25.4 };

/** Points of one unit as it is typed; undefined for what measures no length. */
export const pointsPerTyped = (unit: string): number | undefined =>
  LENGTH_UNITS.find((name) => name === unit) ? POINTS_PER[unit as LengthUnit] : TYPED_TOO[unit];

/** Converts a length to points. */
export function toPoints(value: number, unit: LengthUnit): number {
  return value * POINTS_PER[unit];
}

/** Converts points to another unit. */
export function fromPoints(pt: number, unit: LengthUnit): number {
  return pt / POINTS_PER[unit];
}

/** A typed value that can't be understood; `message` tells a person why. */
export class UnitError extends WordedError {
  override readonly name = 'UnitError';
}

const NUMBER = /^([+\-−]?)(\d+(?:[.,]\d+)?|[.,]\d+)\s*([a-z%/]*)$/i;

/** A number with its unit as typed: `12`, `+4,5 mm`, `−20`, `120%`. Comma and full point both mark decimals. */
export function splitQuantity(text: string): { value: number; unit: string; signed: boolean } {
  const match = NUMBER.exec(text.trim());
  if (!match) throw new UnitError(`“${text.trim()}” is not a number with a unit.`);
  const [, sign = '', digits = '', unit = ''] = match;
  const value = Number(digits.replace(',', '.')) * (sign === '-' || sign === '−' ? -1 : 1);
  return { value, unit: unit.toLowerCase(), signed: sign !== '' };
}

/**
 * Reads a typed length.
 * @param fallback the unit of a bare number.
 * @returns points.
 * @throws UnitError
 */
export function parseLength(text: string, fallback: LengthUnit = 'pt'): number {
  const { value, unit } = splitQuantity(text);
  const per = pointsPerTyped(unit === '' ? fallback : unit);
  if (per === undefined) throw new UnitError(`“${unit}” is not a unit of length. Use ${LENGTH_UNITS.join(', ')} or cm.`);
  return value * per;
}

/** A number as people read it: at most `digits` decimals, no trailing zeros, a true minus sign. */
export function printValue(value: number, digits = 2): string {
  const rounded = Number(value.toFixed(digits));
  return (Object.is(rounded, -0) ? 0 : rounded).toString().replace('-', '−');
}

/** Like `printValue`, with `+` before positive values. */
export function printSigned(value: number, digits = 1): string {
  const text = printValue(value, digits);
  return /^[0−]/.test(text) && (text === '0' || text.startsWith('−')) ? text : `+${text}`;
}
