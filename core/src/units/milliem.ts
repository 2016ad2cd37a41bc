import { UnitError, pointsPerTyped, splitQuantity } from './length';

/** Rounds to the stored precision of 1/10 of 1/1000 em. */
export function roundMilliem(milliem: number): number {
  const rounded = Math.round(milliem * 10) / 10;
  return Object.is(rounded, -0) ? 0 : rounded;
}

/** 1/1000 em in points at a size in points. */
export function milliemToPoints(milliem: number, sizePt: number): number {
  return (milliem * sizePt) / 1000;
}

/**
 * Reads tracking, word space or kerning: a bare number is 1/1000 em; `em`, `%` (of an em), `pt`, `mm`, `cm`, `in`, `px` are converted.
 * @param sizePt the size the value belongs to, in points.
 * @returns 1/1000 em, rounded to 0.1.
 * @throws UnitError
 */
export function parseMilliem(text: string, sizePt: number): number {
  const { value, unit } = splitQuantity(text);
  switch (unit) {
    case '':
      return roundMilliem(value);
    case 'em':
      return roundMilliem(value * 1000);
    case '%':
      return roundMilliem(value * 10);
    default: {
      const per = pointsPerTyped(unit);
      if (per !== undefined) return roundMilliem((value * per * 1000) / sizePt);
      throw new UnitError(`“${unit}” is not a unit of letter space. Use 1/1000 em, em, %, pt, mm, cm, in or px.`);
    }
  }
}
