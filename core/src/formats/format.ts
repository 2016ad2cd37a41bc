/** What a format is: routes, hand-over menu, ZIP and command are made from its definition. */
import type { z } from 'zod';
import type { SheetDrawing } from '../drawing';
import type { FaceSet } from '../setting';

/** What a file of a sheet is written from. */
export interface SheetMaterial {
  drawing: SheetDrawing;
  faces: FaceSet;
  /** Pictures as `data:` addresses, by their identifiers. */
  pictures: ReadonlyMap<string, string>;
}

/** Options as people are offered them. */
export interface FormatChoice<Options> {
  name: string;
  /** What it is good for, in a few words. */
  says: string;
  options: Options;
  /** True where it is offered for all sheets of a job as well. */
  forAll?: true;
}

interface FormatOf<Schema extends z.ZodType> {
  /** Its name in addresses and commands. */
  id: string;
  /** As people are told. */
  name: string;
  mediaType: string;
  /** With its full point. */
  extension: string;
  /** Options as a query or a command gives them, as text; all have defaults. */
  options: Schema;
  choices: readonly FormatChoice<z.output<Schema>>[];
  /** What a file's name says of the options, before the extension. */
  suffix?(options: z.output<Schema>): string;
}

/** A format that is written as text here. */
export interface TextFormat<Schema extends z.ZodType = z.ZodType> extends FormatOf<Schema> {
  kind: 'text';
  write(material: SheetMaterial, options: z.output<Schema>): string;
}

/** A format of pixels, which whoever has a renderer makes of the drawing at this size. */
export interface PixelFormat<Schema extends z.ZodType = z.ZodType> extends FormatOf<Schema> {
  kind: 'pixels';
  pixels(sheet: { widthPt: number; heightPt: number }, options: z.output<Schema>): { width: number; height: number };
}

export type SheetFormat = TextFormat | PixelFormat;

/** Have TypeScript check a definition against its own options, and forget them. */
export const textFormat = <Schema extends z.ZodType>(definition: TextFormat<Schema>): TextFormat => definition;
export const pixelFormat = <Schema extends z.ZodType>(definition: PixelFormat<Schema>): PixelFormat => definition;

/** The ending of a file's name. */
export const endingOf = (format: SheetFormat, options: unknown): string => (format.suffix?.(options) ?? '') + format.extension;

/** Options as a query. */
export const queryOf = (options: unknown): string =>
  new URLSearchParams(Object.entries(options as Record<string, string | number | boolean>).map(([key, value]) => [key, String(value)])).toString();
