/** Leading typed into a field. In a folder of its own, so that the first load of the page leaves it out. */
import { AUTO_LEADING_FACTOR, type Leading, parseLeading } from '../leading';
import { UnitError, splitQuantity } from '../length';

/** Multiples that anybody means: lines that lie on each other below, one line a poster above. */
const LEAST_MULTIPLE = 0.2;
const MOST_MULTIPLE = 10;
/** A bare number up to here is a factor, from there on a percentage; in between nobody can tell. */
const MOST_FACTOR = 5;
const LEAST_PERCENT = 20;

/**
 * Reads leading typed where it is stated in one way already: as a multiple, `1.1`, `110` and `110 %` are the same.
 * @param kind how it is stated there: what a bare number is.
 * @param autoFactor what `auto` multiplies the size by.
 * @returns points, or a multiple of the size
 * @throws UnitError also for a multiple that can’t be meant: below 0.2, above 10, or a bare number from 5 to 20
 */
export function typedLeading(text: string, kind: Leading['kind'], autoFactor = AUTO_LEADING_FACTOR): Leading {
  const isBare = kind === 'multiple' && /^[\d.,\s]+$/.test(text);
  const bare = isBare ? splitQuantity(text).value : 0;
  const cannotBeMeant = new UnitError(`“${text.trim()}” is not a multiple of the size. Type 1.1 or 110 %.`);
  if (isBare && bare > MOST_FACTOR && bare < LEAST_PERCENT) throw cannotBeMeant;
  const leading = parseLeading(isBare ? `${text.trim()}${bare > MOST_FACTOR ? '%' : 'x'}` : text, autoFactor);
  if (leading.kind === 'multiple' && (leading.factor < LEAST_MULTIPLE || leading.factor > MOST_MULTIPLE)) throw cannotBeMeant;
  return leading;
}
