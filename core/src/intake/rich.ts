/** Paragraphs with looks as a job: headings and copy follow recipes of their names. */
import { type Block, PLAIN_PARAGRAPH, type Recipe, createBlock, settingsOf } from '../job';
import { type RichParagraph, faceLike, wordsFromPieces } from '../rich-text';
import type { FaceSet } from '../setting';
import { COPY, HEADINGS, type SourceStyle, wordsStyle } from './styles';
import { type IntakeOptions, type ImportResult, jobOf } from './take';

const NO_FRAME = { xPt: 0, yPt: 0, widthPt: 100, heightPt: 20 };

/** @throws IntakeError where there are no words, or too many blocks */
export function takeRich(paragraphs: readonly RichParagraph[], faces: FaceSet, options: IntakeOptions, notes: string[]): ImportResult {
  const made = new Map<string, Recipe>();
  const recipeOf = (name: string, look: SourceStyle): Recipe => {
    const known = made.get(name) ?? options.recipes?.find((one) => one.name.toLowerCase() === name.toLowerCase());
    if (known) return known;
    const recipe = { id: options.newId(), name, settings: settingsOf(createBlock('recipe', '', NO_FRAME, wordsStyle(faces, look))) };
    made.set(name, recipe);
    return recipe;
  };
  const blocks = withListsWhole(paragraphs).map(({ heading, list, pieces }): Block => {
    const level = Math.min(heading, HEADINGS.length);
    const { id, settings } = recipeOf(level > 0 ? `Heading ${level}` : 'Copy', HEADINGS[level - 1] ?? COPY);
    const { style } = settings;
    const { bold } = HEADINGS[level - 1] ?? COPY;
    // What is bold among bold words is set as these are.
    const faceFor = (pose: { bold: boolean; italic: boolean }): string =>
      pose.bold === bold && !pose.italic ? style.faceId : faceLike(faces, style.faceId, pose);
    const { words, runs } = wordsFromPieces(pieces, style, faceFor);
    const block = createBlock(options.newId(), words, NO_FRAME, style);
    return { ...block, ...settings, paragraph: { ...(list === 'none' ? settings.paragraph : PLAIN_PARAGRAPH), list }, runs, recipeId: id };
  });
  const title = blocks[0]?.words.replaceAll('\n', ' ').slice(0, 200);
  return { job: jobOf(blocks, faces, { ...options, title: title ?? options.title }), recipes: [...made.values()], notes };
}

/** Items of one list as one paragraph, a line each. */
function withListsWhole(paragraphs: readonly RichParagraph[]): RichParagraph[] {
  const found: RichParagraph[] = [];
  for (const paragraph of paragraphs) {
    const last = found[found.length - 1];
    if (last && paragraph.list !== 'none' && last.list === paragraph.list)
      found[found.length - 1] = { ...last, pieces: [...last.pieces, { text: '\n', bold: false, italic: false }, ...paragraph.pieces] };
    else found.push(paragraph);
  }
  return found;
}
