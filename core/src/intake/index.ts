import { csvReader } from './csv';
import { htmlReader } from './html';
import { markdownReader } from './markdown';
import { svgReader } from './svg';
import { inWords } from '../base';
import { type Block, type Job, LIMITS, jobSchema } from '../job';
import type { FaceSet } from '../setting';
import { IntakeError, type IntakeOptions, type Reader, type ImportResult } from './take';
import { textReader } from './text';

export { IntakeError, type IntakeOptions, type Reader, type ImportResult } from './take';

/** All kinds of files that are imported as jobs, besides job files. A new one is a file of its own and a line here. */
export const READERS: readonly Reader[] = [svgReader, textReader, markdownReader, htmlReader, csvReader];

/** The reader of a file, by its name. */
export const readerFor = (fileName: string): Reader | undefined =>
  READERS.find(({ extensions }) => extensions.some((extension) => fileName.toLowerCase().endsWith(extension)));

/**
 * Takes the text of a file in. Whatever is wrong with it is said in its own terms.
 * @throws WordedError
 */
export function importJob(reader: Reader, text: string, faces: FaceSet, options: IntakeOptions): ImportResult {
  const taken = inWords(
    () => reader.take(text, faces, options),
    (message) => new IntakeError(`This ${reader.name} file can’t be read. ${message}`),
  );
  mustFit(taken.job);
  if (!jobSchema.safeParse(taken.job).success) throw new IntakeError(`This ${reader.name} file can’t be read. Something in it can’t be set.`);
  return taken;
}

/** @throws IntakeError naming what of the words is too much */
function mustFit({ sheets }: Job): void {
  const blocks = sheets.flatMap((sheet) => sheet.blocks);
  const named = ({ words }: Block, i: number): string => `Passage ${i + 1}, “${words.trim().slice(0, 30).replaceAll('\n', ' ')}…”,`;
  for (const [i, block] of blocks.entries()) {
    const { length } = block.words;
    if (length > LIMITS.words)
      throw new IntakeError(`${named(block, i)} has ${length} characters; a block holds at most ${LIMITS.words}. Divide it into paragraphs.`);
    if (block.runs.length > LIMITS.runs)
      throw new IntakeError(`${named(block, i)} changes its look ${block.runs.length} times; a block does at most ${LIMITS.runs}.`);
    if (block.hand.length > LIMITS.hand)
      throw new IntakeError(`${named(block, i)} spaces ${block.hand.length} gaps manually; a block holds at most ${LIMITS.hand}.`);
  }
  const letters = blocks.reduce((sum, { words }) => sum + words.length, 0);
  if (letters > LIMITS.letters) throw new IntakeError(`The file has ${letters} characters of words; a job holds at most ${LIMITS.letters}.`);
}
