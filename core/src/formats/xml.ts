/** Parts of XML. */
import { printNumber } from '../face';
import type { Matrix } from '../setting';

/** Decimals of coordinates in points: 1/10,000 pt is 35 nanometres. */
export const COORDINATE_DIGITS = 4;

/** A coordinate in points. */
export const xmlNumber = (value: number): string => printNumber(value, COORDINATE_DIGITS);

/** Decimals of the sines and cosines of a turn. */
const TURN_DIGITS = 8;

/** A sine or cosine, or a scale. */
export const printPart = (value: number): string => Number(value.toFixed(TURN_DIGITS)).toString();

/** A map as SVG writes it. */
export function printMatrix({ a, b, c, d, e, f }: Matrix): string {
  return `matrix(${[a, b, c, d].map(printPart).join(' ')} ${xmlNumber(e)} ${xmlNumber(f)})`;
}

/** Text safe in XML content and attributes; characters XML 1.0 doesn't allow are dropped. */
export function escapeXml(text: string): string {
  return (
    text
      // eslint-disable-next-line no-control-regex -- these are exactly the characters XML 1.0 forbids
      .replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, '')
      .replace(/[&<>"]/g, (character) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[character] ?? character)
  );
}
