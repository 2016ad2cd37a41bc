/** The cost of drawing an SVG, judged before it is drawn: filters, and layers that lie in one another. */
import { SaxesParser } from 'saxes';
import { PictureError } from './safe-svg';

/** The numbers of an attribute; one that is given instead where there are none. */
const numbers = (value: string | undefined, otherwise: number): number[] => {
  const found = (value ?? '')
    .split(/[\s,]+/)
    .map(Number)
    .filter(Number.isFinite);
  return found.length > 0 ? found : [otherwise];
};
const product = (values: readonly number[]): number => (values[0] ?? 0) * (values[1] ?? values[0] ?? 0);
/**
 * Work of each filter step on a pixel, in multiples of copying it; what the renderer's own code does, counted roughly.
 * Steps that look at a whole neighbourhood are counted by its size.
 */
const WORK: Readonly<Record<string, (attributes: Readonly<Record<string, string>>) => number>> = {
  feTurbulence: ({ numOctaves }) => 20 * (numbers(numOctaves, 1)[0] ?? 1),
  feMorphology: ({ radius }) => 4 * product(numbers(radius, 0)),
  feConvolveMatrix: ({ order }) => 2 * product(numbers(order, 3)),
  feGaussianBlur: () => 8,
  feDropShadow: () => 10,
  feDiffuseLighting: () => 10,
  feSpecularLighting: () => 10,
};
const OTHER_STEP = 2;

/** Most work of all filters on each pixel of the picture, and most layers in one another: each is as large as what is drawn. */
export const COST_LIMITS = { filters: 400, layers: 12 } as const;

/**
 * Refuses a drawing that costs too much.
 * @param svg as the renderer has written it: without style sheets, every filter by its address.
 * @throws PictureError saying what costs too much
 */
export function checkCost(svg: string): void {
  const filters = new Map<string, number>();
  const used: string[] = [];
  const open: boolean[] = [];
  let inside: string | undefined;
  let layers = 0;
  const parser = new SaxesParser({ xmlns: false });
  parser.on('opentag', ({ name, attributes }) => {
    if (name === 'filter') {
      inside = attributes['id'];
      if (inside !== undefined) filters.set(inside, 0);
    } else if (inside !== undefined && name.startsWith('fe')) filters.set(inside, (filters.get(inside) ?? 0) + (WORK[name]?.(attributes) ?? OTHER_STEP));
    used.push(...[...(attributes['filter'] ?? '').matchAll(/url\(#([^)]*)\)/g)].map(([, id = '']) => id));
    const layer = ['filter', 'mask', 'clip-path', 'opacity', 'style'].some((one) => attributes[one] !== undefined);
    open.push(layer);
    if (layer && ++layers > COST_LIMITS.layers)
      throw new PictureError(`More than ${COST_LIMITS.layers} layers (opacity, masks, clips, filters) lie in one another.`);
  });
  parser.on('closetag', ({ name }) => {
    if (name === 'filter') inside = undefined;
    if (open.pop()) layers--;
  });
  parser.on('error', (error) => {
    throw error;
  });
  parser.write(svg).close();
  const work = used.reduce((sum, id) => sum + (filters.get(id) ?? 0), 0);
  if (work > COST_LIMITS.filters) {
    throw new PictureError(
      `Its filters cost ${Math.round(work)} times copying the picture; at most ${COST_LIMITS.filters} is taken. Turbulence, morphology and large convolutions cost most.`,
    );
  }
}
