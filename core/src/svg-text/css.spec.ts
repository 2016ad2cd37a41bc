import { Styles } from './css';
import { elementsOf, readSvg } from './document';

describe('style sheets of an SVG', () => {
  /** The fill of the element called `x`. */
  const fillOf = (css: string, drawing = '<g class="a b"><text id="w"/><text id="x" class="c d" data-n="one two"/></g>'): string | undefined => {
    const root = readSvg(`<svg xmlns="http://www.w3.org/2000/svg"><style>${css}</style>${drawing}</svg>`);
    const element = [...elementsOf(root)].find(({ attributes }) => attributes['id'] === 'x');
    return element && new Styles(root).of(element).get('fill');
  };

  it('count for what their selectors match: names, classes, attributes, neighbours, negations', () => {
    const matching = ['text', '*', '.c', '.c.d', '#x', 'text#x.d', 'g text', 'g > text', 'svg .d', '[data-n~=two]', '[data-n^="one"]', '[class]']
      .concat('text + text', '#w ~ text', 'text:not(#w)', ':is(.z, .c)', ':where(.c)', 'text:nth-child(2)', 'text:last-of-type', 'g:root text, .c')
      .filter((selector) => fillOf(`${selector} { fill: red }`) !== 'red');
    expect(matching).toEqual([]);
    const others = [
      '.e',
      'svg > text',
      'text text',
      '#w',
      'text:first-child',
      'text:not(.c)',
      '[data-n=one]',
      'g:hover text',
      'text::before',
      '.c:has(*)',
      '..c',
      'g:contains(x)',
    ];
    expect(others.filter((selector) => fillOf(`${selector} { fill: red }`) !== undefined)).toEqual([]);
  });

  it('win by weight, then by order; what is important wins over all, and `where` weighs nothing', () => {
    expect(fillOf('#x { fill: a } .c.d { fill: b } text { fill: c }')).toBe('a');
    expect(fillOf('.c { fill: a } .d { fill: b }')).toBe('b');
    expect(fillOf('.c.d { fill: a } :is(#q, .c) { fill: b }')).toBe('b');
    expect(fillOf('.c { fill: a } :where(#x) { fill: b }')).toBe('a');
    expect(fillOf('text:nth-child(2) { fill: a } text { fill: b }')).toBe('a');
    expect(fillOf('text { fill: a !important } #x { fill: b }')).toBe('a');
    expect(fillOf('text { fill: a }', '<text id="x" style="fill: b"/>')).toBe('b');
    expect(fillOf('@media print { text { fill: a } }')).toBeUndefined();
  });

  it('leave out what would look at every sibling in a drawing of very many elements', () => {
    const many = `${'<g/>'.repeat(6000)}<text id="x" class="c"/>`;
    expect(fillOf('g ~ text { fill: a }', many)).toBeUndefined();
    expect(fillOf('g + text { fill: a } .c { fill: b }', many)).toBe('b');
  });
});
