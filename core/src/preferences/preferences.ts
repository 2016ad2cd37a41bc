import * as z from 'zod';
import { WordedError } from '../base';
import { StoredError, type StoredKind, fromStored, toStored } from '../stored';
import { type Taste, tasteSchema } from '../taste';
import { AUTO_LEADING_FACTOR, LENGTH_UNITS } from '../units';

const step = (max: number) => z.number().min(0.1).max(max);

/** `system` follows what the reader's system says. */
export const THEMES = ['light', 'dark', 'system'] as const;

/** Languages (BCP 47) whose way of writing numbers can be chosen; all of them use the digits that fields read. */
export const NUMBER_LANGUAGES = ['en', 'de', 'es', 'fr', 'it', 'ja', 'nl', 'pl', 'pt', 'sv'] as const;
export type NumberLanguage = (typeof NUMBER_LANGUAGES)[number];

/** A person's preferences; every value has a default, so that an empty object is complete. */
export const preferencesSchema = z.strictObject({
  /** Fine and coarse step of kerning, tracking and word space, in 1/1000 em. */
  fineMilliem: step(200).default(2),
  coarseMilliem: step(500).default(10),
  /** Fine and coarse step of leading, in points. */
  fineLeadingPt: step(50).default(0.5),
  coarseLeadingPt: step(200).default(4),
  /** The factor of automatic leading for new settings. */
  autoLeadingFactor: z.number().min(0.5).max(3).default(AUTO_LEADING_FACTOR),
  /** How far copy can be tightened unseen, until it shows, until it is wrong, in 1/1000 em. */
  cautionMilliem: z.number().min(-500).max(0).default(-15),
  strongMilliem: z.number().min(-500).max(0).default(-30),
  outMilliem: z.number().min(-500).max(0).default(-50),
  /** The unit new jobs are measured in. */
  unit: z.enum(LENGTH_UNITS).default('mm'),
  theme: z.enum(THEMES).default('light'),
  /** The language whose numbers the bench shows; spec lines are a notation and keep the point, and fields read both signs. */
  numbers: z.enum(NUMBER_LANGUAGES).default('en'),
  /** Whether marks that typists type and designers don't are turned right while words are typed. */
  typingHelp: z.boolean().default(true),
  /** Whether short hints are shown beside what is new, and those that were put away. */
  hints: z.boolean().default(true),
  hintsSeen: z.array(z.string().max(40)).max(200).default([]),
  /** The designer's own hand, learned from what they do with proposals. */
  taste: tasteSchema.prefault({}),
  /** Whether single characters are keys of the bench (WCAG 2.2, 2.1.4). */
  characterKeys: z.boolean().default(true),
  /** Other characters, in lower case, for keys of the bench: as many as each has, by its name. */
  ownKeys: z
    .record(
      z.string().max(40),
      z
        .array(z.string().regex(/^[^\s\p{C}]$/u))
        .min(1)
        .max(4),
    )
    .default({}),
});
export type Preferences = z.infer<typeof preferencesSchema>;

/** Preferences as they are stored. What a version adds has a default, so that older ones are read as they are. */
export const STORED_PREFERENCES: StoredKind<typeof preferencesSchema> = {
  name: 'file of preferences',
  version: 1,
  schema: preferencesSchema,
  upgrade: (value) => value,
};

/** Every preference that can be read, the rest with their defaults: one that is damaged, or that only a newer Jentrix knows, costs no other. */
export function rescuePreferences(stored: unknown): Preferences {
  const values = Object.entries(typeof stored === 'object' && stored !== null ? stored : {});
  const shape: Readonly<Record<string, z.ZodType>> = preferencesSchema.shape;
  return preferencesSchema.parse(Object.fromEntries(values.filter(([key, value]) => shape[key]?.safeParse(value).success)));
}

/** The tracking limits among the preferences, in order whatever was typed. */
export function limitsOf({ cautionMilliem, strongMilliem, outMilliem }: Preferences): { caution: number; strong: number; out: number } {
  const strong = Math.min(cautionMilliem, strongMilliem);
  return { caution: cautionMilliem, strong, out: Math.min(strong, outMilliem) };
}

/** Who judges by these preferences. */
export const judgeOf = (preferences: Preferences): { limits: ReturnType<typeof limitsOf>; taste: Taste } => ({
  limits: limitsOf(preferences),
  taste: preferences.taste,
});

export const DEFAULT_PREFERENCES: Preferences = preferencesSchema.parse({});

/** Preferences that can't be read. */
export class PreferencesError extends WordedError {
  override readonly name = 'PreferencesError';
}

/** Preferences as a file; `readPreferences` gives them back. */
export const writePreferences = (preferences: Preferences): string =>
  `${JSON.stringify({ format: 'jentrix.preferences', ...toStored(STORED_PREFERENCES, preferences) }, null, 2)}\n`;

/** Reads a file of preferences; what it does not say has its default. @throws PreferencesError */
export function readPreferences(text: string): Preferences {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw new PreferencesError('The file is not JSON.');
  }
  const file = z.looseObject({ format: z.literal('jentrix.preferences') }).safeParse(value);
  if (!file.success) throw new PreferencesError('The file holds no Jentrix preferences.');
  const { format: _format, ...rest } = file.data;
  try {
    return fromStored(STORED_PREFERENCES, rest);
  } catch (error) {
    if (error instanceof StoredError) throw new PreferencesError(error.message);
    throw error;
  }
}
