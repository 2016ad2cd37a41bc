/** The choices of the hand-over, kept for the next time. */
import { type FormatChoice, type FormatField, type FormatValue, type JobFormat, type SheetFormat, optionKeysOf } from '@jentrix/core/formats';
import * as z from 'zod';

export type HandedFormat = SheetFormat | JobFormat;

/** Options of a format, as they were set. */
export type Options = Readonly<Record<string, FormatValue>>;

const keptSchema = z.object({
  version: z.literal(1),
  format: z.string(),
  all: z.boolean(),
  options: z.record(z.string(), z.record(z.string(), z.union([z.string(), z.number(), z.boolean()]))),
});
export type KeptChoices = z.infer<typeof keptSchema>;

const KEPT_AS = 'jentrix.hand-over';

/** The last choices in this browser. */
export function readKept(): KeptChoices | undefined {
  try {
    return keptSchema.safeParse(JSON.parse(localStorage.getItem(KEPT_AS) ?? 'null')).data;
  } catch {
    return undefined;
  }
}

export function keep(kept: KeptChoices): void {
  try {
    localStorage.setItem(KEPT_AS, JSON.stringify(kept));
  } catch {
    // Kept for this visit only.
  }
}

/** The options to begin with: those kept, where the format takes them still. */
export function startOf({ options }: HandedFormat, kept: Options | undefined): Options {
  if (kept && options.safeParse(kept).success) return kept;
  return Object.fromEntries(
    Object.entries(options.parse({}) as Record<string, FormatValue | undefined>).flatMap(([key, value]) => (value === undefined ? [] : [[key, value]])),
  );
}

/** True where this of several ways is the one that options take. */
export const isChosen = (field: FormatField, { set, number }: FormatChoice, options: Options): boolean =>
  optionKeysOf(field).every((key) => (key in set ? (number?.key === key ? key in options : options[key] === set[key]) : !(key in options)));

/** Options with one of several ways taken. */
export function choose(field: FormatField, { set }: FormatChoice, options: Options): Options {
  const others = optionKeysOf(field);
  return { ...Object.fromEntries(Object.entries(options).filter(([key]) => !others.includes(key))), ...set };
}
