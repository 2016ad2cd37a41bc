/** HTML as paragraphs: its words with what is bold, italic, of a size and a colour. Everything else of it is left. */
import { formatHex, parse as parseColour } from 'culori';
import { tried } from '../base';
import { type DefaultTreeAdapterTypes, html as specification, parseFragment } from 'parse5';
import { type LengthUnit, toPoints } from '../units';
import type { RichParagraph, RichPiece } from './paragraphs';

type Node = DefaultTreeAdapterTypes.ChildNode;
type Element = DefaultTreeAdapterTypes.Element;

const HIDDEN = new Set(['head', 'style', 'script', 'title', 'template', 'noscript', 'select', 'object', 'svg', 'math', 'textarea', 'button', 'iframe']);
const BLOCKS = new Set([
  'address',
  'article',
  'aside',
  'blockquote',
  'body',
  'dd',
  'div',
  'dl',
  'dt',
  'fieldset',
  'figcaption',
  'figure',
  'footer',
  'form',
  'header',
  'hr',
  'html',
  'li',
  'main',
  'nav',
  'ol',
  'p',
  'pre',
  'section',
  'table',
  'tbody',
  'td',
  'tfoot',
  'th',
  'thead',
  'tr',
  'ul',
]);

/** Sizes by name (CSS Fonts 4, section 3.5), in CSS pixels. */
const NAMED_PX: ReadonlyMap<string, number> = new Map(
  Object.entries({ 'xx-small': 9, 'x-small': 10, small: 13, medium: 16, large: 18, 'x-large': 24, 'xx-large': 32 }),
);
/** Sizes within which words are set. */
const [LEAST_PT, MOST_PT] = [1, 5000];
/** The size where none was stated, in points. */
const USUAL_PT = 12;

/** The inherited values at a node. */
interface Context {
  bold: boolean;
  italic: boolean;
  sizePt: number | undefined;
  colour: string | undefined;
  /** White space stands as it is written. */
  pre: boolean;
  heading: number;
  list: RichParagraph['list'];
}

const PLAIN: Context = { bold: false, italic: false, sizePt: undefined, colour: undefined, pre: false, heading: 0, list: 'none' };

/** A step still to do: nodes with what holds around them, and the ends of blocks. */
type Step = { node: Node; context: Context } | 'end';

/** @param html a page or a part of one, as damaged as it likes. */
export function readHtml(html: string): RichParagraph[] {
  const paragraphs: RichParagraph[] = [];
  let open: RichParagraph | undefined;
  const close = (): void => {
    const pieces = open ? trimmed(open.pieces) : [];
    if (open && pieces.length > 0) paragraphs.push({ ...open, pieces });
    open = undefined;
  };
  const put = (text: string, { bold, italic, sizePt, colour, heading, list }: Context): void => {
    open ??= { heading, list, pieces: [] };
    open.pieces.push({ text, bold, italic, sizePt, colour });
  };
  // Not by calls within calls: a hostile page nests as deeply as it is long.
  const steps: Step[] = [];
  const push = (nodes: readonly Node[], context: Context): void => {
    for (let i = nodes.length - 1; i >= 0; i--) {
      const node = nodes[i];
      if (node) steps.push({ node, context });
    }
  };
  push(parseFragment(html).childNodes, PLAIN);
  for (let step = steps.pop(); step; step = steps.pop()) {
    if (step === 'end') {
      close();
      continue;
    }
    const { node, context } = step;
    if ('value' in node) put(context.pre ? node.value.replace(/\r\n?/g, '\n') : node.value.replace(/[ \t\r\n\f]+/g, ' '), context);
    if (!('tagName' in node) || HIDDEN.has(node.tagName)) continue;
    if (node.tagName === 'br') {
      put('\n', context);
      continue;
    }
    const own = contextOf(node, context);
    if (!own) continue;
    if (BLOCKS.has(node.tagName) || own.heading !== context.heading) {
      close();
      steps.push('end');
    }
    push(node.childNodes, own);
  }
  close();
  return paragraphs;
}

/** The inherited values inside an element; undefined where it shows nothing. */
function contextOf(element: Element, around: Context): Context | undefined {
  const { tagName: name } = element;
  const style = styleOf(element);
  if (style.get('display') === 'none' || style.get('visibility') === 'hidden') return undefined;
  const heading = /^h([1-6])$/.exec(name)?.[1];
  const weight = style.get('font-weight');
  const slant = style.get('font-style');
  return {
    bold: weight !== undefined ? isBold(weight, around.bold) : around.bold || name === 'b' || name === 'strong' || name === 'th' || heading !== undefined,
    italic: slant !== undefined ? /italic|oblique/.test(slant) : around.italic || name === 'i' || name === 'em' || name === 'cite' || name === 'dfn',
    sizePt: sizeIn(style.get('font-size'), around.sizePt) ?? around.sizePt,
    colour: colourIn(style.get('color') ?? attribute(element, 'color', name === 'font')) ?? around.colour,
    pre: name === 'pre' || (style.get('white-space')?.startsWith('pre') ?? around.pre),
    heading: heading === undefined ? around.heading : Number(heading),
    list: name === 'ul' ? 'bullet' : name === 'ol' ? 'number' : around.list,
  };
}

function attribute({ attrs, namespaceURI }: Element, name: string, asked: boolean): string | undefined {
  return asked && namespaceURI === specification.NS.HTML ? attrs.find((one) => one.name === name)?.value : undefined;
}

/** The declarations of a `style` attribute. Values with semicolons in them are none of ours. */
function styleOf(element: Element): Map<string, string> {
  const text = attribute(element, 'style', true) ?? '';
  return new Map(
    text.split(';').flatMap((declaration): [string, string][] => {
      const at = declaration.indexOf(':');
      const value = declaration
        .slice(at + 1)
        .replace(/!important/i, '')
        .trim()
        .toLowerCase();
      return at < 0 || /^(inherit|unset)$/.test(value) ? [] : [[declaration.slice(0, at).trim().toLowerCase(), value]];
    }),
  );
}

function isBold(weight: string, around: boolean): boolean {
  if (weight === 'bolder' || weight === 'bold') return true;
  if (weight === 'lighter' || weight === 'normal') return false;
  const number = Number(weight);
  return Number.isFinite(number) ? number >= 600 : around;
}

function sizeIn(text: string | undefined, around: number | undefined): number | undefined {
  const [, number = '', unit = ''] = /^([\d.]+)(px|pt|em|rem|%|mm|in)$/.exec(text ?? '') ?? [];
  const px = NAMED_PX.get(text ?? '');
  const value = Number(number);
  const relative = { em: value, '%': value / 100 }[unit];
  let sizePt: number | undefined;
  if (px !== undefined) sizePt = toPoints(px, 'px');
  else if (number === '' || !Number.isFinite(value)) sizePt = undefined;
  else if (relative !== undefined) sizePt = relative * (around ?? USUAL_PT);
  else if (unit === 'rem') sizePt = value * USUAL_PT;
  else sizePt = toPoints(value, unit as LengthUnit);
  return sizePt === undefined || sizePt < LEAST_PT ? undefined : Math.min(MOST_PT, Math.round(sizePt * 100) / 100);
}

function colourIn(text: string | undefined): string | undefined {
  const colour = text === undefined ? undefined : tried(() => parseColour(text));
  return colour && (colour.alpha ?? 1) > 0 ? formatHex(colour) : undefined;
}

/** A line without the spaces at its ends. Not by a pattern: that would take the square of their number. */
function withoutSpaces(line: string, before: boolean, behind: boolean): string {
  let [start, end] = [0, line.length];
  while (before && start < end && line.charAt(start) === ' ') start++;
  while (behind && end > start && line.charAt(end - 1) === ' ') end--;
  return line.slice(start, end);
}

/** Pieces without white space before and behind them, or twice in between. */
function trimmed(pieces: readonly RichPiece[]): RichPiece[] {
  const found: RichPiece[] = [];
  let blank = true;
  for (const piece of pieces) {
    // Two spaces in a row are told by one that does not break; alone it is meant.
    let text = piece.text.replace(/\u00a0 | \u00a0/g, ' ');
    if (blank) text = text.replace(/^ +/, '');
    if (text.includes('\n'))
      text = text
        .split('\n')
        .map((line, i, lines) => (i === 0 ? withoutSpaces(line, false, true) : withoutSpaces(line, true, i < lines.length - 1)))
        .join('\n');
    if (text === '') continue;
    blank = /[ \n]$/.test(text);
    found.push({ ...piece, text });
  }
  while (found.length > 0) {
    const last = found[found.length - 1];
    if (!last) break;
    let end = last.text.length;
    while (end > 0 && ' \n'.includes(last.text.charAt(end - 1))) end--;
    const text = last.text.slice(0, end);
    found.pop();
    if (text === '') continue;
    found.push({ ...last, text });
    break;
  }
  return found;
}
