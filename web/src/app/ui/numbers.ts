/**
 * Numbers as the person reads them: in the language of the preferences. Templates and computed values that show a number follow
 * a change of the language, as it is a signal. What is read elsewhere (spec lines, briefs, files) uses core's `printValue` instead.
 */
import { computed, signal } from '@angular/core';
import { DEFAULT_PREFERENCES, type NumberLanguage } from '@jentrix/core/preferences';
import { printSigned, printValue } from '@jentrix/core/units';

/** The language numbers are shown in; set by the preferences service alone. */
export const numberLanguage = signal<NumberLanguage>(DEFAULT_PREFERENCES.numbers);

/** The decimal sign of a language. */
export const decimalSign = (language: NumberLanguage): string =>
  new Intl.NumberFormat(language).formatToParts(0.5).find(({ type }) => type === 'decimal')?.value ?? '.';

const sign = computed(() => decimalSign(numberLanguage()));

/** Text that holds numbers, with the decimal sign of the language. */
export const inLanguage = (text: string): string => text.replace(/(\d)\.(?=\d)/g, `$1${sign()}`);

/** `printValue` in the language. */
export const showValue = (value: number, digits?: number): string => inLanguage(printValue(value, digits));

/** `printSigned` in the language. */
export const showSigned = (value: number, digits?: number): string => inLanguage(printSigned(value, digits));

/** A count with its noun: “1 finding”, “3 findings”. */
export const counted = (count: number, one: string, many = `${one}s`): string => `${count} ${count === 1 ? one : many}`;

/** How much thicker a face’s stems are than its hairlines: “7.7 : 1”. @param contrast thin over thick, as anatomy has it. */
export const thickToThin = (contrast: number): string => `${contrast > 0 ? showValue(1 / contrast, 1) : '–'} : 1`;
