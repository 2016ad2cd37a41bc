/** HTML: its words, headings and copy as blocks that follow recipes; bold, italic, sizes and colours as runs. */
import { readHtml } from '../rich-text';
import { takeRich } from './rich';
import { type Reader, checkedText } from './take';

export const htmlReader: Reader = {
  id: 'html',
  name: 'HTML',
  mediaType: 'text/html',
  extensions: ['.html', '.htm'],
  take: (text, faces, options) => takeRich(readHtml(checkedText(text)), faces, options, []),
};
