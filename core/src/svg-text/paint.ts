/** Colours of SVG as ours. */
import { formatHex, modeRgb, parse, useMode } from 'culori/fn';
import { tried } from '../base';
import type { Style } from '../job';
import { type CssProperties, cssLength } from './css';

useMode(modeRgb);

const BLACK = '#000000';

/** `#rrggbb` and how opaque; undefined for no paint. @param gradients the first colour of each paint server, by its identifier */
function paintOf(text: string | undefined, properties: CssProperties, gradients: ReadonlyMap<string, string>): { colour: string; opacity: number } | undefined {
  const value = (text ?? BLACK).trim();
  if (value === 'none' || value === 'transparent') return undefined;
  const server = /^url\(\s*["']?#([^"')]+)["']?\s*\)/.exec(value)?.[1];
  const named = server === undefined ? (value === 'currentColor' ? (properties.get('color') ?? BLACK) : value) : (gradients.get(server) ?? BLACK);
  const colour = tried(() => parse(named));
  return { colour: formatHex(colour) ?? BLACK, opacity: colour?.alpha ?? 1 };
}

/** The paint of a style. @param alongPt points for a user unit. @param opacity of all groups it is in */
export function paintStyle(properties: CssProperties, alongPt: number, opacity: number, gradients: ReadonlyMap<string, string>): Partial<Style> {
  const fill = paintOf(properties.get('fill'), properties, gradients);
  const stroke = properties.get('stroke') === undefined ? undefined : paintOf(properties.get('stroke'), properties, gradients);
  const em = Number(properties.get('font-size') ?? 16);
  const width = cssLength(properties.get('stroke-width') ?? '1', em, em) ?? 1;
  const join = properties.get('stroke-linejoin');
  const opaque = opacity * (fill?.opacity ?? 1) * Number(properties.get('fill-opacity') ?? 1);
  const line = properties.get('text-decoration-line') ?? properties.get('text-decoration') ?? '';
  const outline: Style['outline'] =
    stroke && width > 0
      ? { colour: stroke.colour, milliem: Math.min(1000, (width / em) * 1000), join: join === 'round' || join === 'bevel' ? join : 'miter' }
      : null;
  return {
    colour: fill?.colour ?? stroke?.colour ?? BLACK,
    opacity: Math.min(1, Math.max(0, Number.isFinite(opaque) ? opaque : 1)),
    ...(outline && alongPt > 0 ? { outline } : {}),
    ...(line.includes('underline') ? { underline: true } : {}),
    ...(line.includes('line-through') ? { strike: true } : {}),
  };
}
