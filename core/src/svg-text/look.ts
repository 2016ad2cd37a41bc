/** The style of text, from the properties of its elements. */
import type { Style } from '../job';
import type { FaceSet } from '../setting';
import { type CssProperties, type Styles, cssLength } from './css';
import type { SvgElement } from './document';
import { type FaceFinder, settingsIn } from './faces';
import type { Canvas, Placement } from './geometry';
import { paintStyle } from './paint';

/** Messages about an import. */
export interface Notes {
  /** Faces that are not at hand, and what stands in for them. */
  faces: Map<string, string>;
  /** Text that stays in the picture, and why. */
  left: { words: string; why: string }[];
}

/** The state that all texts of a drawing share. */
export interface TextReading {
  styles: Styles;
  canvas: Canvas;
  faces: FaceSet;
  finder: FaceFinder;
  gradients: ReadonlyMap<string, string>;
  notes: Notes;
}

/** The style of each character of a text. */
export function lookIn(element: SvgElement, placement: Placement, reading: TextReading): (character: { properties: CssProperties }) => Partial<Style> {
  const looks = new Map<CssProperties, Partial<Style>>();
  return ({ properties }) => {
    let look = looks.get(properties);
    if (!look) looks.set(properties, (look = styleOf(properties, placement, element, reading)));
    return look;
  };
}

function styleOf(properties: CssProperties, placement: Placement, element: SvgElement, { finder, notes, gradients, styles }: TextReading): Partial<Style> {
  const em = Number(properties.get('font-size') ?? 16);
  const space = (name: string): number => ((cssLength(properties.get(name), em, em) ?? 0) / em) * 1000;
  const { faceId, axes, missing } = finder.find(properties);
  if (missing !== undefined) notes.faces.set(missing, faceId);
  let opacity = 1;
  for (let at: SvgElement | undefined = element; at; at = at.parent) opacity *= Number(styles.of(at).get('opacity') ?? 1);
  const kerning = cssLength(properties.get('kerning'), em, em);
  const kern = settingsIn(properties.get('font-feature-settings'));
  const scaleX = placement.alongPt / placement.acrossPt;
  return {
    faceId,
    axes,
    sizePt: em * placement.acrossPt,
    ...(Math.abs(scaleX - 1) > 1e-9 ? { scaleX } : {}),
    trackingMilliem: space('letter-spacing') * scaleX + (kerning === undefined ? 0 : (kerning / em) * 1000 * scaleX),
    wordSpaceMilliem: space('word-spacing') * scaleX,
    kerning: kerning !== undefined || properties.get('font-kerning') === 'none' || kern['kern'] === 0 ? 'off' : 'font',
    features: Object.fromEntries(Object.entries(kern).filter(([tag]) => tag !== 'kern')),
    ...paintStyle(properties, placement.alongPt, opacity, gradients),
  };
}
