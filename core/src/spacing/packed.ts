/**
 * Weights as they lie in the source: whole steps, as digits to the base 91. One digit is one character, so that what is sent of them
 * packs by how often each value comes.
 */

/** Printable ASCII but for quotes and the backslash. */
const DIGITS = Array.from({ length: 94 }, (_, i) => String.fromCharCode(33 + i)).filter((char) => !'"\'\\'.includes(char));
const BASE = DIGITS.length;
const VALUES = new Map(DIGITS.map((digit, value) => [digit.charCodeAt(0), value]));

/** How many digits a number takes: one holds -45 to 45 steps, two hold -4140 to 4140. */
type DigitCount = 1 | 2;

/** How many steps either way so many digits hold. */
const mostOf = (digits: DigitCount): number => (BASE ** digits - 1) / 2;

/** The numbers in a text that `packNumbers` made with the same step and as many digits. */
export function unpackNumbers(text: string, step: number, digits: DigitCount): Float64Array {
  return Float64Array.from({ length: text.length / digits }, (_, i) => {
    let whole = 0;
    for (let digit = 0; digit < digits; digit++) whole = whole * BASE + (VALUES.get(text.charCodeAt(i * digits + digit)) ?? 0);
    return step * (whole - mostOf(digits));
  });
}

/** Numbers as text, rounded to whole steps; what lies outside of what the digits hold is brought to its end. */
export function packNumbers(values: ArrayLike<number>, step: number, digits: DigitCount): string {
  const most = mostOf(digits);
  return Array.from(values, (value) => {
    let whole = Math.max(-most, Math.min(most, Math.round(value / step))) + most;
    let text = '';
    for (let digit = 0; digit < digits; digit++, whole = Math.floor(whole / BASE)) text = (DIGITS[whole % BASE] ?? '') + text;
    return text;
  }).join('');
}

/** The smallest step with which one digit holds all of these. */
export const stepFor = (values: ArrayLike<number>): number => Array.from(values).reduce((most, value) => Math.max(most, Math.abs(value)), 0) / mostOf(1);
