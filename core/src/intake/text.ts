/** Plain text: a block for every paragraph, the first the headline. */
import { createBlock } from '../job';
import { type Reader, checkedText, jobOf } from './take';
import { COPY, HEADLINE, wordsStyle } from './styles';

export const textReader: Reader = {
  id: 'text',
  name: 'Text',
  mediaType: 'text/plain',
  extensions: ['.txt'],
  take(text, faces, options) {
    const paragraphs = checkedText(text)
      .split(/\n\s*\n/)
      .map((paragraph) => paragraph.replace(/^\n+/, '').trimEnd())
      .filter((paragraph) => paragraph !== '');
    const blocks = paragraphs.map((words, i) =>
      createBlock(options.newId(), words, { xPt: 0, yPt: 0, widthPt: 100, heightPt: 20 }, wordsStyle(faces, i === 0 ? HEADLINE : COPY)),
    );
    return { job: jobOf(blocks, faces, options), notes: [] };
  },
};
