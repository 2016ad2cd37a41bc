import fc from 'fast-check';
import { Resvg } from '@resvg/resvg-js';
import { PictureError, SVG_LIMITS, safeSvg } from './safe-svg';
import { checkCost } from './svg-cost';

const svg = (inside: string, attributes = ''): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="40" height="20" ${attributes}>${inside}</svg>`;
const PIXEL = `data:image/png;base64,${Buffer.from(new Resvg(svg('<rect width="9" height="9"/>')).render().asPng()).toString('base64')}`;

describe('safe SVG', () => {
  it('keeps what draws', () => {
    const kept = safeSvg(
      svg(
        `<defs><linearGradient id="g"><stop offset="0" stop-color="red"/></linearGradient></defs><style>.a{fill:url(#g)} rect{stroke:#000}</style>
         <g transform="scale(2)"><use xlink:href="#g"/><rect class="a" width="9" height="9" style="opacity:.5;fill:url(#g)"/><text x="3">V &amp; A<tspan> B</tspan></text></g>
         <image href="${PIXEL}" width="5" height="5"/>`,
        'viewBox="0 0 40 20"',
      ),
    );
    for (const part of ['viewBox="0 0 40 20"', 'scale(2)', 'xlink:href="#g"', 'url(#g)', 'opacity:.5', 'V &amp; A', '<tspan> B', PIXEL])
      expect(kept).toContain(part);
    expect(new Resvg(kept).render().width).toBe(40);
  });

  it('lets nothing reach outside, however it is written', () => {
    const hostile = [
      ...[
        '/etc/passwd.png',
        '/dev/zero',
        'file:///etc/hosts',
        'http://evil.example/x.png',
        '//evil.example/x',
        'x.svg#a',
        '\\\\evil\\x.png',
        'data:text/plain,evil',
      ].flatMap((to) => [
        `<image href="${to}" width="5" height="5"/>`,
        `<image xlink:href=" ${to}" width="5" height="5"/>`,
        `<use href="${to}"/>`,
        `<filter id="f"><feImage href="${to}"/></filter>`,
        `<rect fill="url(${to})" width="9" height="9"/>`,
        `<rect style="fill:url('${to}')" width="9" height="9"/>`,
        `<rect style="fill:u\\72l(${to})" width="9" height="9"/>`,
        `<rect style="--a:url(${to});fill:var(--a)" width="9" height="9"/>`,
        `<style>@import url(${to}); @font-face{src:url(${to})} rect{fill:url(${to})}</style>`,
        `<style><![CDATA[@import "${to}";]]></style>`,
      ]),
      '<script>evil</script>',
      '<a href="javascript:evil"><rect width="2" height="2" onclick="evil" onload="evil"/></a>',
      '<foreignObject><iframe xmlns="http://www.w3.org/1999/xhtml" src="evil"/></foreignObject>',
      '<x:script xmlns:x="http://www.w3.org/2000/svg">evil</x:script>',
      '<animate attributeName="href" to="evil"/>',
      '<svg xml:base="http://evil.example/"><image href="x.png"/></svg>',
    ];
    for (const one of hostile)
      expect(safeSvg(svg(`${one}<rect width="1" height="1"/>`))).not.toMatch(/evil|passwd|\/dev|hosts|import|font-face|javascript|file:/);
    const pictures = `data:image/svg+xml;base64,${Buffer.from(svg('<image href="/etc/evil.png"/>')).toString('base64')}`;
    expect(safeSvg(svg(`<image href="${pictures}"/><image href="${pictures.replace('svg+xml', 'png')}"/>`))).not.toContain('base64');
  });

  it('knows entities that name namespaces, and expands no others', () => {
    const named = `<!DOCTYPE svg [<!ENTITY ns "http://www.w3.org/2000/svg"><!ENTITY file SYSTEM "/etc/passwd"><!ENTITY b "&ns;&ns;">]><svg xmlns="&ns;" width="4" height="4"><rect width="2" height="2"/></svg>`;
    expect(safeSvg(named)).toContain('<rect');
    expect(() => safeSvg(named.replace('<rect', '<text>&file;</text><rect'))).toThrowError(PictureError);
    expect(() => safeSvg(named.replace('<rect', '<text>&b;</text><rect'))).toThrowError(PictureError);
  });

  it('refuses what is more than a drawing needs, in words', () => {
    const why = (text: string): string => {
      try {
        checkCost(safeSvg(text));
        return '';
      } catch (error) {
        if (error instanceof PictureError) return error.message;
        throw error;
      }
    };
    expect(why('<html/>')).toContain('not an SVG');
    expect(why(svg('<rect'))).toContain('can’t be read');
    expect(why(svg('<g>'.repeat(SVG_LIMITS.depth) + '</g>'.repeat(SVG_LIMITS.depth)))).toContain('deep');
    expect(why(svg(`<style>${'a{fill:red}'.repeat(SVG_LIMITS.rules + 1)}</style>`))).toContain('rules');
    expect(why(svg(`<style>${' '.repeat(SVG_LIMITS.styleSheets + 1)}</style>`))).toContain('style sheets');
    expect(why(svg('<g opacity=".5">'.repeat(13) + '</g>'.repeat(13)))).toContain('layers');
    for (const step of ['<feTurbulence numOctaves="200"/>', '<feMorphology radius="60"/>', '<feConvolveMatrix order="60"/>', '<feGaussianBlur/>'.repeat(90)]) {
      expect(why(svg(`<filter id="f">${step}</filter><rect filter="url(#f)"/>`))).toContain('filters cost');
    }
    expect(why(svg('<filter id="f"><feGaussianBlur stdDeviation="3"/></filter><rect filter="url(#f)"/>'))).toBe('');
  });

  it('gives XML that draws, or refuses, whatever it is given', () => {
    const part = fc.oneof(
      fc.constantFrom(
        '<g>',
        '</g>',
        '<rect width="3" height="3"/>',
        '<style>',
        '</style>',
        '<image href="',
        '"/>',
        '<!--',
        '-->',
        '<![CDATA[',
        ']]>',
        '&amp;',
        '&x;',
        '<?a?>',
        'url(',
      ),
      fc.string({ unit: 'binary', maxLength: 8 }),
    );
    fc.assert(
      fc.property(fc.array(part, { maxLength: 20 }), (parts) => {
        try {
          new Resvg(safeSvg(svg(parts.join('')))).render();
        } catch (error) {
          if (!(error instanceof PictureError)) throw error;
        }
      }),
      { numRuns: 300 },
    );
  });
});
