import { csvReader } from './csv';
import { htmlReader } from './html';
import { markdownReader } from './markdown';
import { svgReader } from './svg';
import type { Reader } from './take';
import { textReader } from './text';

export { IntakeError, type IntakeOptions, type Reader, type Taken } from './take';

/** All kinds of files that are taken in as jobs, besides job files. A new one is a file of its own and a line here. */
export const READERS: readonly Reader[] = [svgReader, textReader, markdownReader, htmlReader, csvReader];

/** What reads a file, by its name. */
export const readerFor = (fileName: string): Reader | undefined =>
  READERS.find(({ extensions }) => extensions.some((extension) => fileName.toLowerCase().endsWith(extension)));
