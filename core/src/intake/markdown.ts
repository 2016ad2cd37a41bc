/** Markdown: headings and paragraphs as blocks that follow recipes, lists with their marks, bold and italic as runs. */
import { type Token, type Tokens, lexer } from 'marked';
import type { RichParagraph, RichPiece } from '../rich-text';
import { takeRich } from './rich';
import { IntakeError, type Reader, checkedText } from './take';

type Pose = Pick<RichPiece, 'bold' | 'italic'>;

function piecesOf(tokens: readonly Token[], pose: Pose): RichPiece[] {
  return tokens.flatMap((token): RichPiece[] => {
    const inner = 'tokens' in token && token.tokens ? token.tokens : undefined;
    switch (token.type) {
      case 'strong':
        return piecesOf(inner ?? [], { ...pose, bold: true });
      case 'em':
        return piecesOf(inner ?? [], { ...pose, italic: true });
      case 'br':
        return [{ ...pose, text: '\n' }];
      case 'image':
      case 'html':
        return [];
      case 'list':
        // A list in a list: its items are further lines.
        return (token as Tokens.List).items.flatMap(({ tokens: own }) => [{ ...pose, text: '\n' }, ...piecesOf(own, pose)]);
      default:
        return inner ? piecesOf(inner, pose) : 'text' in token ? [{ ...pose, text: plain((token as Tokens.Text).text) }] : [];
    }
  });
}

/** Lines of the source that belong together are one, and the few named characters are themselves. */
const plain = (text: string): string =>
  onOneLine(text).replace(/&(amp|lt|gt|quot|#39);/g, (_, name: string) => ({ amp: '&', lt: '<', gt: '>', quot: '"', '#39': '’' })[name] ?? '');

export const markdownReader: Reader = {
  id: 'markdown',
  name: 'Markdown',
  mediaType: 'text/markdown',
  extensions: ['.md', '.markdown'],
  take(text, faces, options) {
    const notes: string[] = [];
    const paragraphs: RichParagraph[] = [];
    const add = (pieces: RichPiece[], heading = 0, list: RichParagraph['list'] = 'none'): void => {
      if (pieces.some(({ text: own }) => own.trim() !== '')) paragraphs.push({ heading, list, pieces });
    };
    const walk = (tokens: readonly Token[]): void => {
      for (const token of tokens) {
        const inner = 'tokens' in token && token.tokens ? token.tokens : [];
        if (token.type === 'heading') add(piecesOf(inner, { bold: true, italic: false }), (token as Tokens.Heading).depth);
        else if (token.type === 'paragraph' || token.type === 'text') add(piecesOf(inner, PLAIN));
        else if (token.type === 'list') {
          const { items, ordered } = token as Tokens.List;
          const pieces = items.flatMap(({ tokens: own }, i) => [...(i > 0 ? [{ ...PLAIN, text: '\n' }] : []), ...piecesOf(own, PLAIN)]);
          add(pieces, 0, ordered ? 'number' : 'bullet');
        } else if (token.type === 'blockquote') walk(inner);
        else if (token.type !== 'space' && token.type !== 'hr' && token.type !== 'def') notes.push(`A ${token.type} was left out.`);
      }
    };
    try {
      walk(lexer(checkedText(text)));
    } catch (error) {
      // Marked calls itself for everything that is inside another.
      throw error instanceof RangeError ? new IntakeError('Its quotations or lists are nested too deep.') : error;
    }
    return takeRich(paragraphs, faces, options, notes);
  },
};

/** Lines with one space between them, whatever blanks stand at their ends. Not by a pattern: that would take the square of the blanks. */
function onOneLine(text: string): string {
  const lines = text.split('\n');
  if (lines.length === 1) return text;
  return lines
    .map((line, i) => (i === 0 ? line.trimEnd() : i === lines.length - 1 ? line.trimStart() : line.trim()))
    .filter((line, i) => line !== '' || i === 0 || i === lines.length - 1)
    .join(' ');
}

const PLAIN: Pose = { bold: false, italic: false };
