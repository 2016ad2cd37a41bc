import { UnitError, pointsPerTyped, printValue, splitQuantity } from './length';

/** Leading as the designer states it: points, a multiple of the size, or automatic (`AUTO_LEADING_FACTOR` times the size unless it has a factor of its own). */
export type Leading = { kind: 'pt'; pt: number } | { kind: 'multiple'; factor: number } | { kind: 'auto'; factor?: number | undefined };

/** The factor of automatic leading: 120 %, the trade's convention. */
export const AUTO_LEADING_FACTOR = 1.2;

/** Baseline to baseline in points for a line whose largest size is `sizePt`. */
export function leadingPoints(leading: Leading, sizePt: number): number {
  if (leading.kind === 'pt') return leading.pt;
  return sizePt * (leading.kind === 'auto' ? autoFactorOf(leading) : leading.factor);
}

/** The factor of automatic leading here. */
export const autoFactorOf = ({ factor }: { factor?: number | undefined }): number => factor ?? AUTO_LEADING_FACTOR;

/** Automatic leading with a factor, in its shortest form. */
export const autoLeading = (factor: number): Leading => (factor === AUTO_LEADING_FACTOR ? { kind: 'auto' } : { kind: 'auto', factor });

/**
 * Reads typed leading: `36`, `12mm` (a distance), `120%`, `1.2x` (of the size), `auto`.
 * @param autoFactor what `auto` multiplies the size by.
 * @throws UnitError
 */
export function parseLeading(text: string, autoFactor = AUTO_LEADING_FACTOR): Leading {
  if (/^auto$/i.test(text.trim())) return autoLeading(autoFactor);
  const { value, unit } = splitQuantity(text);
  if (value < 0) throw new UnitError('Leading can’t be negative.');
  if (unit === '%') return { kind: 'multiple', factor: value / 100 };
  if (unit === 'x') return { kind: 'multiple', factor: value };
  if (unit === '') return { kind: 'pt', pt: value };
  const per = pointsPerTyped(unit);
  if (per === undefined) throw new UnitError(`“${unit}” is not a unit of leading. Use pt, mm, cm, in, px, %, x or auto.`);
  return { kind: 'pt', pt: value * per };
}

/** Prints leading so that `parseLeading` reads the same: `36`, `120%`, `auto`. */
export function printLeading(leading: Leading): string {
  switch (leading.kind) {
    case 'auto':
      return 'auto';
    case 'pt':
      return printValue(leading.pt);
    case 'multiple':
      return `${printValue(leading.factor * 100)}%`;
  }
}

/**
 * Leading before and after a change, in one unit: points where either is stated in points, else percent of the size.
 * @param sizePt the size of the block, before and after.
 */
export function printLeadings(before: Leading, after: Leading, sizePt: readonly [before: number, after: number]): [string, string] {
  const inPoints = before.kind === 'pt' || after.kind === 'pt';
  const print = (leading: Leading, size: number): string => {
    const points = leadingPoints(leading, size);
    return `${leading.kind === 'auto' ? 'auto, ' : ''}${inPoints ? `${printValue(points)} pt` : `${printValue((points / size) * 100)} %`}`;
  };
  return [print(before, sizePt[0]), print(after, sizePt[1])];
}
