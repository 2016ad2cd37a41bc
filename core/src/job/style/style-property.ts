/** The definition of a property of the style: everything that is asked about it anywhere is answered by its definition. */
import type { z } from 'zod';

/**
 * The effect of a property: which glyphs are chosen (letters are shaped apart where it differs), how wide letters are, where they
 * stand, or only how they are painted.
 */
export type Changes = 'glyphs' | 'advances' | 'shift' | 'paint';

/** How a spec line writes a property, apart from face, size and tracking, which are told by where and how they stand. */
export type SpecPart<T> =
  | {
      /** The word that its value follows. */
      word: string;
      /**
       * Reads the value. @param sizePt the size it refers to.
       * @throws UnitError
       */
      read(text: string, sizePt: number): T;
      print(value: T): string;
    }
  | { /** The words that each stand for a value. */ words: Readonly<Record<string, T>> };

export interface StyleProperty<S extends z.ZodType = z.ZodType> {
  schema: S;
  /** The default. What was written before the property was there is read as having it. */
  default: z.output<S>;
  /** The version of the job format that brought it. */
  since: number;
  changes: Changes;
  /** As people read it, in lower case. */
  name: string;
  spec?: SpecPart<z.output<S>>;
  /** The value as a brief compares it with another; as in a spec line where this is absent. */
  show?(value: z.output<S>): string;
  /** CSS declarations, property and value, that say the same. */
  css?(value: z.output<S>): readonly [property: string, value: string];
}

/** Has TypeScript keep the schema's own type. */
export const property = <S extends z.ZodType>(definition: StyleProperty<S>): StyleProperty<S> => definition;
