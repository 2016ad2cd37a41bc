/** The operators of a PDF page (PDF 32000-1, annex A). */
import { type Outline, printNumber } from '../../face';
import type { Box, Matrix } from '../../setting';

/** Decimals of coordinates in points, as in SVG. */
const DIGITS = 4;
/** Decimals of sines, cosines and scales. */
const PART_DIGITS = 8;

export const pdfNumber = (value: number): string => printNumber(value, DIGITS);
const part = (value: number): string => printNumber(value, PART_DIGITS);

export const matrixOf = ({ a, b, c, d, e, f }: Matrix): string => [a, b, c, d].map(part).join(' ') + ` ${pdfNumber(e)} ${pdfNumber(f)}`;

/** A rectangle to be filled or clipped to. */
export const pdfRectangle = ({ leftPt, topPt, rightPt, bottomPt }: Box): string =>
  `${[leftPt, topPt, rightPt - leftPt, bottomPt - topPt].map(pdfNumber).join(' ')} re`;

/** A text in UTF-16, as hexadecimal figures. */
export const utf16 = (text: string): string => [...Array(text.length).keys()].map((i) => text.charCodeAt(i).toString(16).padStart(4, '0')).join('');

/** An outline mapped to the page; curves of second degree become such of third, which PDF has alone. */
export function outlinePath(outline: Outline, { a, b, c, d, e, f }: Matrix): string {
  let out = '';
  let [fromX, fromY] = [0, 0];
  for (const { type, values } of outline) {
    const [x0 = 0, y0 = 0, x1 = 0, y1 = 0, x2 = 0, y2 = 0] = values;
    const at = (x: number, y: number): string => `${pdfNumber(a * x + c * y + e)} ${pdfNumber(b * x + d * y + f)} `;
    switch (type) {
      case 'M':
        out += `${at(x0, y0)}m `;
        [fromX, fromY] = [x0, y0];
        break;
      case 'L':
        out += `${at(x0, y0)}l `;
        [fromX, fromY] = [x0, y0];
        break;
      case 'Q':
        // Raising the degree of a Bézier curve: its inner points stand at two thirds.
        out += `${at(fromX + (2 / 3) * (x0 - fromX), fromY + (2 / 3) * (y0 - fromY))}${at(x1 + (2 / 3) * (x0 - x1), y1 + (2 / 3) * (y0 - y1))}${at(x1, y1)}c `;
        [fromX, fromY] = [x1, y1];
        break;
      case 'C':
        out += `${at(x0, y0)}${at(x1, y1)}${at(x2, y2)}c `;
        [fromX, fromY] = [x2, y2];
        break;
      case 'Z':
        out += 'h ';
    }
  }
  return out;
}
