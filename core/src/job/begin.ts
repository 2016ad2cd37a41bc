/** The start of a job: the words, and what they are for. */
import { AUTO_LEADING_FACTOR, autoLeading } from '../units';
import { NEW_KERNING, STARTER_WORDS, createBlock, createJob } from './create';
import type { Job } from './schema';
import { type SheetPreset, sheetOfPreset } from './sheets';
import { wordsFrom } from './words';

/** Letters of a headline are about so wide on average, in em, and its lines about so far apart. */
const lineWidthEm = (line: string): number =>
  Array.from(line).reduce((sum, letter) => sum + (letter === ' ' ? 0.27 : /\p{Lu}/u.test(letter) ? 0.78 : 0.56), 0.1);
const LEADING = 1.2;
/** The share of a sheet's room that a headline may fill in height, and the largest it begins in, in points. */
const SHARE = 0.6;
const MOST_PT = 400;
const LEAST_PT = 8;

/**
 * A job for a size with a headline that fills its width about, until it is set and seen.
 * @param newId gives a fresh identifier at every call. @param words what it says; words to replace where there are none.
 */
export function beginJob(
  newId: () => string,
  { words, size, autoFactor = AUTO_LEADING_FACTOR }: { words: string; size: SheetPreset; autoFactor?: number },
): Job {
  const said = wordsFrom(words).trim() || STARTER_WORDS;
  const [first = ''] = wordsFrom(words).trim().split('\n');
  const job = createJob(first.slice(0, 80) || 'Untitled job', newId);
  const sheet = sheetOfPreset(newId(), size);
  const { topPt, rightPt, bottomPt, leftPt } = sheet.margins;
  const [widthPt, heightPt] = [sheet.widthPt - leftPt - rightPt, sheet.heightPt - topPt - bottomPt];
  const lines = said.split('\n');
  const longest = Math.max(...lines.map(lineWidthEm));
  const sizePt = Math.min(MOST_PT, widthPt / longest, (heightPt * SHARE) / (lines.length * LEADING));
  const block = createBlock(
    newId(),
    said,
    { xPt: leftPt, yPt: topPt, widthPt, heightPt: heightPt * SHARE },
    { faceId: 'playfair-display-bold', sizePt: Math.max(LEAST_PT, Math.floor(sizePt)), kerning: NEW_KERNING },
  );
  return { ...job, kind: size.kind, sheets: [{ ...sheet, blocks: [{ ...block, leading: autoLeading(autoFactor) }] }] };
}
