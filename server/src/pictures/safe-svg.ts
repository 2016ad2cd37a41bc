/**
 * SVG from outside, written anew with nothing in it that reaches outside: before any library that draws sees the file. Addresses
 * are `#…` or pictures inside the file, whose bytes are looked at; scripts, links, foreign elements, entities and imports are gone.
 */
import * as cssTree from 'css-tree';
import { imageSize } from 'image-size';
import { SaxesParser } from 'saxes';
import { escapeXml } from '@jentrix/core/formats';
import { WordedError } from '@jentrix/core/base';

/** An SVG that is not taken; `message` says why. */
export class PictureError extends WordedError {
  override readonly name = 'PictureError';
}

const SVG = 'http://www.w3.org/2000/svg';
const XLINK = 'http://www.w3.org/1999/xlink';

/** Limits well above any real drawing. */
export const SVG_LIMITS = {
  depth: 200,
  elements: 200_000,
  styleSheets: 200_000,
  rules: 2_000,
  entities: 50,
  written: 24_000_000,
  pictures: 60_000_000,
} as const;

/** Elements that draw, or say how (SVG 1.1, appendix M; Filter Effects 1). All others go, with what is in them. */
const DRAWING = new Set(
  `svg g a defs use symbol switch path rect circle ellipse line polyline polygon text tspan textPath tref image clipPath mask pattern marker
  linearGradient radialGradient stop style filter feBlend feColorMatrix feComponentTransfer feComposite feConvolveMatrix feDiffuseLighting
  feDisplacementMap feDistantLight feDropShadow feFlood feFuncA feFuncB feFuncG feFuncR feGaussianBlur feImage feMerge feMergeNode feMorphology
  feOffset fePointLight feSpecularLighting feSpotLight feTile feTurbulence`.split(/\s+/),
);
const WITH_PICTURE = new Set(['image', 'feImage']);
const PICTURE_TYPES: Readonly<Record<string, string>> = { png: 'image/png', jpg: 'image/jpeg', gif: 'image/gif', webp: 'image/webp' };

/** `url(…)` that is not a place in the file itself. */
const OUTSIDE = /url\(\s*(?!["']?\s*#)/i;

/**
 * @param text the file as text.
 * @throws PictureError for what is no SVG, damaged, or more than a drawing needs
 */
export function safeSvg(text: string): string {
  const parser = new SaxesParser({ xmlns: true });
  const out: string[] = [];
  let written = 0;
  /** The elements that are open: their names, or nothing for one that is left out. */
  const open: (string | undefined)[] = [];
  let leftOut = 0;
  let elements = 0;
  let style = '';
  let styleSheets = 0;
  let pixels = 0;
  const write = (part: string): void => {
    written += part.length;
    if (written > SVG_LIMITS.written) throw new PictureError('It is larger than a drawing should be.');
    out.push(part);
  };

  /** An address as it may stay; undefined for one that goes. */
  const addressOf = (element: string, value: string): string | undefined => {
    const address = value.trim();
    if (address.startsWith('#')) return address;
    if (!WITH_PICTURE.has(element)) return undefined;
    const data = /^data:[^,]*;base64,/i.exec(address.slice(0, 200))?.[0];
    if (data === undefined) return undefined;
    const bytes = Buffer.from(address.slice(data.length), 'base64');
    const size = sizeOf(bytes);
    if (!size) return undefined;
    pixels += size.width * size.height;
    if (pixels > SVG_LIMITS.pictures) throw new PictureError(`The pictures in it have more than ${SVG_LIMITS.pictures / 1e6} million pixels.`);
    return `data:${size.type};base64,${bytes.toString('base64')}`;
  };

  parser.on('error', (error) => {
    throw new PictureError(`The SVG can’t be read: ${error.message.slice(0, 200)}`);
  });
  parser.on('doctype', (doctype) => {
    // Drawing programs name their namespaces by entities; values that hold nothing but text can’t grow.
    for (const [, name, , value] of [...doctype.matchAll(/<!ENTITY\s+([\w.-]+)\s+(["'])([^"'&<%]{0,200})\2\s*>/g)].slice(0, SVG_LIMITS.entities)) {
      if (name !== undefined && value !== undefined) parser.ENTITIES[name] = value;
    }
  });
  parser.on('opentag', ({ local, uri, attributes, isSelfClosing }) => {
    if (++elements > SVG_LIMITS.elements) throw new PictureError(`It has more than ${SVG_LIMITS.elements} elements.`);
    if (open.length >= SVG_LIMITS.depth) throw new PictureError(`Its elements stand more than ${SVG_LIMITS.depth} deep in one another.`);
    const kept = leftOut === 0 && uri === SVG && DRAWING.has(local);
    open.push(kept ? local : undefined);
    if (!kept) {
      leftOut++;
      return;
    }
    let tag = `<${local}`;
    if (open.length === 1) tag += ` xmlns="${SVG}" xmlns:xlink="${XLINK}"`;
    for (const attribute of Object.values(attributes)) {
      const { local: name, uri: space, prefix } = attribute;
      let value: string | undefined = attribute.value;
      if (prefix === 'xmlns' || name === 'xmlns' || /^on/i.test(name)) continue;
      if (name === 'href' && (space === '' || space === XLINK)) {
        value = addressOf(local, value);
        if (value !== undefined) tag += ` xlink:href="${escapeXml(value)}"`;
        continue;
      }
      if (space !== '' && !(prefix === 'xml' && name === 'space')) continue;
      if (name === 'style') value = safeDeclarations(value);
      else if (OUTSIDE.test(value)) continue;
      tag += ` ${prefix === 'xml' ? 'xml:' : ''}${name}="${escapeXml(value)}"`;
    }
    write(isSelfClosing ? `${tag}/>` : `${tag}>`);
  });
  parser.on('closetag', ({ isSelfClosing }) => {
    const name = open.pop();
    if (name === undefined) {
      leftOut--;
      return;
    }
    if (name === 'style') {
      styleSheets += style.length;
      if (styleSheets > SVG_LIMITS.styleSheets) throw new PictureError('Its style sheets are longer than a drawing needs.');
      write(escapeXml(safeStyleSheet(style)));
      style = '';
    }
    if (!isSelfClosing) write(`</${name}>`);
  });
  const onText = (value: string): void => {
    const within = open[open.length - 1];
    if (leftOut > 0 || within === undefined) return;
    if (within === 'style') style += value;
    else if (value.trim() !== '' || within === 'text' || within === 'tspan') write(escapeXml(value));
  };
  parser.on('text', onText);
  parser.on('cdata', onText);
  parser.write(text).close();
  if (out.length === 0) throw new PictureError('It is not an SVG: its outermost element isn’t “svg” in SVG’s namespace.');
  return out.join('');
}

/** The type and size of a picture inside a drawing, by its bytes; undefined for anything but a picture made of pixels. */
function sizeOf(bytes: Buffer): { type: string; width: number; height: number } | undefined {
  try {
    const { type = '', width, height } = imageSize(bytes);
    const known = PICTURE_TYPES[type];
    return known ? { type: known, width, height } : undefined;
  } catch {
    return undefined;
  }
}

/** True where a declaration names an address outside the file, or hides by escapes what it names. */
const isOutside = (node: cssTree.CssNode): boolean => {
  const text = cssTree.generate(node);
  return text.includes('\\') || OUTSIDE.test(text);
};

/** Takes out every declaration that reaches outside. */
function cleaned(tree: cssTree.CssNode): string {
  cssTree.walk(tree, {
    visit: 'Declaration',
    enter(node, item, list) {
      if (isOutside(node)) list.remove(item);
    },
  });
  return cssTree.generate(tree);
}

function safeDeclarations(text: string): string {
  return cleaned(cssTree.parse(text, { context: 'declarationList', parseCustomProperty: true }));
}

/** Rules only: what begins with @ imports, loads or depends on where the drawing is shown. */
function safeStyleSheet(text: string): string {
  const tree = cssTree.parse(text, { parseCustomProperty: true });
  let rules = 0;
  cssTree.walk(tree, {
    enter(node: cssTree.CssNode, item: cssTree.ListItem<cssTree.CssNode>, list: cssTree.List<cssTree.CssNode> | undefined) {
      if (list && (node.type === 'Atrule' || node.type === 'Raw')) list.remove(item);
      else if (node.type === 'Selector') rules++;
    },
  });
  if (rules > SVG_LIMITS.rules) throw new PictureError(`Its style sheets have more than ${SVG_LIMITS.rules} rules.`);
  return cleaned(tree);
}
