/** Languages that words can be in. */
import * as z from 'zod';

/** A tag of BCP 47, such as `tr` or `sr-Cyrl`. */
const isWellFormed = (tag: string): boolean => {
  try {
    return Intl.getCanonicalLocales(tag).length === 1;
  } catch {
    return false;
  }
};

export const languageSchema = z
  .string()
  .max(35)
  .regex(/^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/, 'A language is written as a tag of BCP 47, such as “tr”.')
  .refine(isWellFormed, 'This is no tag of BCP 47.')
  .describe('BCP 47: what decides about capitals and the forms of letters');

/** The languages that are offered, by their tags. */
export const LANGUAGES = [
  ...['bg', 'ca', 'cs', 'cy', 'da', 'de', 'el', 'en', 'es', 'et', 'eu', 'fi', 'fr', 'ga', 'gl', 'hr', 'hu', 'is', 'it', 'lt'],
  ...['lv', 'mk', 'nl', 'no', 'pl', 'pt', 'ro', 'ru', 'sk', 'sl', 'sr', 'sv', 'tr', 'uk'],
] as const;
