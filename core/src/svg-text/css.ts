/** The properties of elements in an SVG: by presentation attributes, style sheets and `style` (SVG 2, section 6; CSS Cascade 4). */
import { compile } from 'css-select';
import * as cssTree from 'css-tree';
import { type SvgElement, elementsOf, isElement } from './document';

/** Properties that children have from their parents; all others are an element's own. */
const INHERITED = new Set([
  'font-family',
  'font-size',
  'font-weight',
  'font-style',
  'font-kerning',
  'font-feature-settings',
  'font-variation-settings',
  'letter-spacing',
  'word-spacing',
  'kerning',
  'text-anchor',
  'text-transform',
  'white-space',
  'fill',
  'fill-opacity',
  'stroke',
  'stroke-width',
  'stroke-linejoin',
  'stroke-opacity',
  'direction',
  'dominant-baseline',
  'visibility',
  'color',
  'writing-mode',
]);

/** Properties that are an element's own. */
const OWN = ['opacity', 'display', 'text-decoration', 'text-decoration-line', 'baseline-shift', 'font'] as const;

export type CssProperties = ReadonlyMap<string, string>;

interface CssRule {
  matches: (element: SvgElement) => boolean;
  specificity: number;
  order: number;
  declarations: [name: string, value: string, important: boolean][];
}

/** The style sheets of an SVG. */
export class Styles {
  private readonly rules: CssRule[];
  private readonly known = new Map<SvgElement, CssProperties>();

  constructor(root: SvgElement) {
    const elements = [...elementsOf(root)];
    const sheets = elements.filter(({ name }) => name === 'style').map(({ children }) => children.filter((child) => typeof child === 'string').join(''));
    this.rules = sheets.flatMap((sheet) => cssRulesOf(sheet, elements.length > MANY_ELEMENTS)).map((rule, order) => ({ ...rule, order }));
  }

  /** The properties of an element, with what it inherits. */
  of(element: SvgElement): CssProperties {
    const known = this.known.get(element);
    if (known) return known;
    const inherited = element.parent ? [...this.of(element.parent)].filter(([name]) => INHERITED.has(name)) : [];
    const properties = new Map(inherited);
    for (const [name, value] of this.declared(element)) {
      if (value === 'inherit') continue;
      if (name === 'font') for (const [own, part] of fontParts(value)) properties.set(own, part);
      else
        properties.set(
          name,
          name === 'font-size' ? String(sizeOf(value, Number(element.parent ? (this.of(element.parent).get('font-size') ?? 16) : 16))) : value,
        );
    }
    if (properties.has('font-size')) properties.set('font-size', String(sizeOf(properties.get('font-size') ?? '', 16)));
    this.known.set(element, properties);
    return properties;
  }

  /** From the least weight to the most. */
  private declared(element: SvgElement): [string, string][] {
    const attributes = Object.entries(element.attributes).filter(([name]) => INHERITED.has(name) || (OWN as readonly string[]).includes(name));
    const matching = this.rules.filter(({ matches }) => matches(element)).sort((a, b) => a.specificity - b.specificity || a.order - b.order);
    const style = element.attributes['style'];
    const inline = style === undefined ? [] : declarationsOf(cssTree.parse(style, { context: 'declarationList', parseValue: false }));
    const rules = [...matching.flatMap(({ declarations }) => declarations), ...inline];
    const plain = rules.filter(([, , important]) => !important);
    return [...attributes, ...[...plain, ...rules.filter(([, , important]) => important)].map(([name, value]): [string, string] => [name, value])];
  }
}

function declarationsOf(node: cssTree.CssNode): CssRule['declarations'] {
  const found: CssRule['declarations'] = [];
  cssTree.walk(node, {
    visit: 'Declaration',
    enter: ({ property, value, important }) => void found.push([property.toLowerCase(), cssTree.generate(value).trim(), important !== false]),
  });
  return found;
}

/** The rules of a style sheet; what can't be read is left out, as CSS asks. @param large leaves out selectors that look at all siblings */
function cssRulesOf(text: string, large: boolean): Omit<CssRule, 'order'>[] {
  const rules: Omit<CssRule, 'order'>[] = [];
  const sheet = cssTree.parse(text, { onParseError: () => undefined, parseValue: false });
  cssTree.walk(sheet, {
    visit: 'Rule',
    enter(rule) {
      // Rules that hold under conditions only are not for all who look.
      if (this.atrule || rule.prelude.type !== 'SelectorList') return;
      const declarations = declarationsOf(rule.block);
      rule.prelude.children.forEach((selector) => {
        const read = selector.type === 'Selector' ? readSelector(selector, large) : undefined;
        if (read) rules.push({ ...read, declarations });
      });
    },
  });
  return rules;
}

/** In a drawing of more elements, selectors that look at all siblings of each are left out: they would take the square of its time. */
const MANY_ELEMENTS = 5000;
const OF_SIBLINGS = /[~+]|:nth-|-of-type|:last-child|:only-child/;
/** They look into all that an element holds. */
const OF_CONTENT = /:(?:has|i?contains)\(/;

const siblingsOf = ({ parent }: SvgElement): (SvgElement | string)[] => parent?.children ?? [];

/** An SVG as `css-select` walks it. */
const adapter: NonNullable<NonNullable<Parameters<typeof compile<SvgElement | string, SvgElement>>[1]>['adapter']> = {
  isTag: isElement,
  getAttributeValue: ({ attributes }, name) => attributes[name],
  getChildren: (node) => (isElement(node) ? node.children : []),
  getName: ({ name }) => name,
  getParent: ({ parent }) => parent ?? null,
  getSiblings: (node) => (isElement(node) ? (node.parent ? siblingsOf(node) : [node]) : []),
  prevElementSibling: (node) => {
    if (!isElement(node)) return null;
    const siblings = siblingsOf(node);
    for (let i = siblings.indexOf(node) - 1; i >= 0; i--) {
      const before = siblings[i];
      if (before !== undefined && isElement(before)) return before;
    }
    return null;
  },
  getText: (node) => (isElement(node) ? '' : node),
  hasAttrib: ({ attributes }, name) => name in attributes,
  removeSubsets: (nodes) => nodes,
};

/** @returns undefined for a selector that isn't understood: its rule counts for nobody */
function readSelector(selector: cssTree.Selector, large: boolean): Pick<CssRule, 'matches' | 'specificity'> | undefined {
  const text = cssTree.generate(selector);
  if (OF_CONTENT.test(text) || (large && OF_SIBLINGS.test(text))) return undefined;
  try {
    return { matches: compile<SvgElement | string, SvgElement>(text, { xmlMode: true, cacheResults: false, adapter }), specificity: specificityOf(selector) };
  } catch {
    return undefined;
  }
}

const BY_KIND: Partial<Record<cssTree.CssNode['type'], number>> = { IdSelector: 1_000_000, ClassSelector: 1000, AttributeSelector: 1000, TypeSelector: 1 };

/** The weight of a selector as one number (Selectors 4, section 16). */
function specificityOf(selector: cssTree.Selector): number {
  return selector.children.toArray().reduce((sum, part) => {
    if (part.type === 'TypeSelector' && part.name === '*') return sum;
    if (part.type !== 'PseudoClassSelector') return sum + (BY_KIND[part.type] ?? 0);
    if (part.name === 'where') return sum;
    const inside = part.children?.toArray().flatMap((list) => (list.type === 'SelectorList' ? list.children.toArray() : [])) ?? [];
    const most = inside.map((one) => (one.type === 'Selector' ? specificityOf(one) : 0));
    return sum + (['is', 'not', 'matches'].includes(part.name) ? Math.max(0, ...most) : 1000);
  }, 0);
}

/** The parts of the `font` shorthand (CSS Fonts 4, section 6.1) that are of use here. */
function fontParts(value: string): [string, string][] {
  const match =
    /^(.*?)\s*(?<![\w.-])(\d*\.?\d+(?:px|pt|pc|mm|cm|in|em|rem|ex|q|%)|(?:xx?-)?(?:small|large)|medium|smaller|larger)(?:\s*\/\s*[^\s,]+)?\s*(.+)$/i.exec(
      value.trim(),
    );
  if (!match) return [];
  const [, before = '', size = '', family = ''] = match;
  const words = before.split(/\s+/);
  return [
    ['font-style', words.find((word) => /^(italic|oblique)$/.test(word)) ?? 'normal'],
    ['font-weight', words.find((word) => /^(bold|bolder|lighter|[1-9]00)$/.test(word)) ?? 'normal'],
    ['font-size', String(sizeOf(size, 16))],
    ['font-family', family],
  ];
}

/** CSS pixels in each unit (CSS Values 4, section 6.2). */
const PX: ReadonlyMap<string, number> = new Map(Object.entries({ '': 1, px: 1, pt: 96 / 72, pc: 16, mm: 96 / 25.4, cm: 96 / 2.54, in: 96, q: 96 / 101.6 }));

/** Sizes by word (CSS Fonts 4, section 3.1). */
const SIZES: ReadonlyMap<string, number> = new Map(
  Object.entries({ 'xx-small': 9, 'x-small': 10, small: 13, medium: 16, large: 18, 'x-large': 24, 'xx-large': 32 }),
);

/** A size in user units. @param em what em and percentages count from */
function sizeOf(value: string, em: number): number {
  return SIZES.get(value) ?? (value === 'larger' ? em * 1.2 : value === 'smaller' ? em / 1.2 : cssLength(value, em, em)) ?? em;
}

/**
 * A length in user units.
 * @param em the type size. @param whole what percentages are of. @returns undefined for what is no length
 */
export function cssLength(text: string | undefined, em: number, whole: number): number | undefined {
  const match = /^\s*([+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?)\s*([a-z%]*)\s*$/i.exec(text ?? '');
  const value = Number(match?.[1]);
  if (!match || !Number.isFinite(value)) return undefined;
  const unit = (match[2] ?? '').toLowerCase();
  switch (unit) {
    case 'em':
      return value * em;
    case 'ex':
      return (value * em) / 2;
    case 'rem':
      return value * 16;
    case '%':
      return (value / 100) * whole;
    default:
      return PX.has(unit) ? value * (PX.get(unit) ?? 1) : undefined;
  }
}
