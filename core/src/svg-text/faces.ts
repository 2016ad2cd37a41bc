/** Which face at hand a text is set in: the one it names, or the one that is nearest by measure. */
import { type FaceKind, measureAnatomy } from '../advice';
import type { Face } from '../face';
import type { FaceSet } from '../setting';
import type { CssProperties } from './css';

/** A face for a text. */
export interface FaceFound {
  faceId: string;
  axes: Record<string, number>;
  /** The name asked for, where it is not at hand. */
  missing: string | undefined;
}

/** The face a text asks for. */
interface WantedFace {
  families: string[];
  weight: number;
  italic: boolean;
}

/** Generic families (CSS Fonts 4, section 2.1.3) as kinds of faces. */
const GENERIC: ReadonlyMap<string, FaceKind> = new Map(
  Object.entries<FaceKind>({
    serif: 'serif',
    'sans-serif': 'sans',
    'system-ui': 'sans',
    'ui-sans-serif': 'sans',
    'ui-serif': 'serif',
    monospace: 'mono',
    'ui-monospace': 'mono',
    cursive: 'script',
  }),
);

const bare = (name: string): string => name.toLowerCase().replace(/[^\p{L}\p{N}]/gu, '');

function wantedOf(properties: CssProperties): WantedFace {
  const families = (properties.get('font-family') ?? 'sans-serif').split(',').map((family) => family.trim().replace(/^["']|["']$/g, ''));
  const weight = properties.get('font-weight') ?? 'normal';
  return {
    families,
    weight: weight === 'bold' || weight === 'bolder' ? 700 : weight === 'lighter' ? 300 : Number(weight) || 400,
    italic: /italic|oblique/.test(properties.get('font-style') ?? ''),
  };
}

/** Settings by tag as CSS writes them, such as `"wght" 700, "opsz" 12`. */
export const settingsIn = (text: string | undefined): Record<string, number> =>
  Object.fromEntries(
    [...(text ?? '').matchAll(/["']([ -~]{4})["']\s*(on|off|-?[\d.]+)?/g)].map(([, tag = '', value = 'on']) => [
      tag,
      value === 'on' ? 1 : value === 'off' ? 0 : Number(value),
    ]),
  );

/** The faces at hand, looked at once. */
export class FaceFinder {
  private readonly kinds = new Map<Face, FaceKind>();
  private readonly found = new WeakMap<CssProperties, FaceFound>();

  constructor(private readonly faces: FaceSet) {}

  /** The face for an element's properties. */
  find(properties: CssProperties): FaceFound {
    let known = this.found.get(properties);
    if (!known) this.found.set(properties, (known = this.look(properties)));
    return known;
  }

  private look(properties: CssProperties): FaceFound {
    const wanted = wantedOf(properties);
    const asked = settingsIn(properties.get('font-variation-settings'));
    const all = [...this.faces.entries()].map(([faceId, face]) => ({ faceId, face, axes: axesFor(face, wanted, asked) }));
    for (const family of wanted.families) {
      const own = all.filter(({ face }) => isCalled(face, family));
      const [best] = own.sort((a, b) => farFrom(a, wanted) - farFrom(b, wanted));
      if (best) return { faceId: best.faceId, axes: best.axes, missing: undefined };
    }
    const kind = wanted.families.map((family) => GENERIC.get(family.toLowerCase())).find((one) => one !== undefined);
    const ranked = all
      .map((one) => {
        const unlike = kind !== undefined && this.kindOf(one.face) !== kind ? 2 : 0;
        return { ...one, far: farFrom(one, wanted) + unlike };
      })
      .sort((a, b) => a.far - b.far);
    const [nearest] = ranked;
    if (!nearest) throw new Error('There is no face at all');
    return { faceId: nearest.faceId, axes: nearest.axes, missing: wanted.families[0] ?? 'a face' };
  }

  private kindOf(face: Face): FaceKind {
    let kind = this.kinds.get(face);
    if (kind === undefined) this.kinds.set(face, (kind = measureAnatomy(face.instance()).kind));
    return kind;
  }
}

const isCalled = (face: Face, family: string): boolean => {
  const name = bare(family);
  return name !== '' && [face.family, `${face.family} ${face.style}`, `${face.family}-${face.style}`].some((one) => bare(one) === name);
};

/** Where a variable face stands for what is asked: axes by their settings, else by weight and slope. */
function axesFor(face: Face, { weight, italic }: WantedFace, asked: Readonly<Record<string, number>>): Record<string, number> {
  return Object.fromEntries(
    face.axes.flatMap(({ tag, min, max }) => {
      const value = asked[tag] ?? (tag === 'wght' ? weight : tag === 'ital' && italic ? 1 : undefined);
      return value === undefined ? [] : [[tag, Math.min(max, Math.max(min, value))]];
    }),
  );
}

/** How far a face is from weight and slope: 1 is three steps of weight. */
function farFrom({ face, axes }: { face: Face; axes: Readonly<Record<string, number>> }, { weight, italic }: WantedFace): number {
  const own = axes['wght'] ?? face.posture.weight;
  return Math.abs(own - weight) / 300 + (face.posture.italic !== italic && axes['ital'] === undefined ? 2 : 0);
}
