/** A format's definition: routes, hand-over menu, ZIP and command are made from its definition. */
import type { z } from 'zod';
import type { Page, SheetDrawing } from '../drawing';
import type { FaceInstance } from '../face';
import type { Job } from '../job';
import type { FaceSet } from '../setting';

/** Fonts that a file holds within itself. */
export interface EmbeddedFonts {
  /** `@font-face` rules. */
  rules: readonly string[];
  /** The family an instance is set in, in quotes. */
  familyOf(instance: FaceInstance): string;
  /** False for a face that must not be embedded, which whoever looks has to have. */
  embeds(instance: FaceInstance): boolean;
}

/** None: whoever looks has to have the faces. */
export const NO_FONTS: EmbeddedFonts = { rules: [], familyOf: ({ face }) => `"${face.family.replaceAll('"', '')}"`, embeds: () => false };

/** The material for a file of a sheet. */
export interface SheetMaterial {
  drawing: SheetDrawing;
  faces: FaceSet;
  /** Pictures as `data:` addresses, by their identifiers. */
  pictures: ReadonlyMap<string, string>;
  /** Fonts the file holds, where its format asks for them. */
  fonts?: EmbeddedFonts;
}

/** The metadata of a document. */
export interface DocumentInfo {
  title: string;
  /** Of its words (BCP 47), where it is known. */
  language: string | undefined;
}

export const documentInfo = ({ title, language }: Pick<Job, 'title' | 'language'>): DocumentInfo => ({ title, language: language ?? undefined });

/** The value of an option, as a query or a command gives it. */
export type FormatValue = string | number | boolean;

/** A number people set. */
export interface FormatNumber {
  key: string;
  unit: string;
  min: number;
  max: number;
  step: number;
}

/** One of several ways, each of which sets options; with the number it leaves open, where it leaves one. */
export interface FormatChoice {
  name: string;
  /** Its use, in a few words. */
  says?: string;
  set: Readonly<Record<string, FormatValue>>;
  number?: FormatNumber;
}

/** Options as people set them in the hand-over. */
export type FormatField =
  | { kind: 'choice'; name: string; of: readonly FormatChoice[] }
  | { kind: 'switch'; name: string; key: string; says?: string }
  | ({ kind: 'number'; name: string } & FormatNumber);

interface FormatOf<Schema extends z.ZodType> {
  /** Its name in addresses and commands. */
  id: string;
  /** As people are told. */
  name: string;
  /** Its use, in a few words. */
  says: string;
  mediaType: string;
  /** With its full point. */
  extension: string;
  /** Options as a query or a command gives them, as text; all have defaults. */
  options: Schema;
  fields: readonly FormatField[];
  /** The part of a file's name that tells the options, before the extension. */
  suffix?(options: z.output<Schema>): string;
}

/** A format that is written as text here. */
export interface TextFormat<Schema extends z.ZodType = z.ZodType> extends FormatOf<Schema> {
  kind: 'text';
  /** True where the file holds the faces it is set in. */
  embeds?(options: z.output<Schema>): boolean;
  write(material: SheetMaterial, options: z.output<Schema>, info: DocumentInfo): string;
}

/** A format of pixels, which whoever has a renderer makes of the drawing at this size. */
export interface PixelFormat<Schema extends z.ZodType = z.ZodType> extends FormatOf<Schema> {
  kind: 'pixels';
  /** Most pixels that a side can have in it; as many as there is room for where it is not said. */
  mostSide?: number;
  pixels(sheet: { widthPt: number; heightPt: number }, options: z.output<Schema>): { width: number; height: number };
}

/** A format of pages, one a sheet in one file, which whoever has a writer makes. */
export interface PageFormat<Schema extends z.ZodType = z.ZodType> extends FormatOf<Schema> {
  kind: 'pages';
  /** How a sheet lies on its page. */
  page(drawing: SheetDrawing, options: z.output<Schema>): Page;
}

/** A format of a whole job, which the server makes. */
export interface JobFormat<Schema extends z.ZodType = z.ZodType> extends FormatOf<Schema> {
  kind: 'job';
}

export type SheetFormat = TextFormat | PixelFormat | PageFormat;

/** Each checks a definition against the type of its own options, then widens it so that all formats fit one table. */
export const textFormat = <Schema extends z.ZodType>(definition: TextFormat<Schema>): TextFormat => definition;
export const pageFormat = <Schema extends z.ZodType>(definition: PageFormat<Schema>): PageFormat => definition;
export const jobFormat = <Schema extends z.ZodType>(definition: JobFormat<Schema>): JobFormat<Schema> => definition;
export const pixelFormat = <Schema extends z.ZodType>(definition: PixelFormat<Schema>): PixelFormat => definition;

/** The ending of a file's name. */
export const endingOf = (format: SheetFormat | JobFormat, options: unknown): string => (format.suffix?.(options) ?? '') + format.extension;

/** Options as a query. */
export const queryOf = (options: object): string =>
  new URLSearchParams(Object.entries(options).flatMap(([key, value]) => (value === undefined ? [] : [[key, String(value)]]))).toString();

/** The names of a format's options, by its schema: what an address, the hand-over and the command may say of it. */
export const optionsOf = ({ options }: Pick<SheetFormat, 'options'>): string[] => Object.keys((options as z.ZodObject).shape);

/** All options a field sets. */
export const optionKeysOf = (field: FormatField): string[] =>
  field.kind === 'choice' ? [...new Set(field.of.flatMap(({ set }) => Object.keys(set)))] : [field.key];
