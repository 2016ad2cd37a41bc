/** The colours of a style, by what they paint. */
import type { Style } from './style';

/** The parts of letters that can have a colour. */
export const COLOUR_PLACES = ['fill', 'gradient', 'outline', 'shadow'] as const;
export type ColourPlace = (typeof COLOUR_PLACES)[number];

/** The change that gives a colour to a place; none where the style has no such effect. @param colour `#rrggbb`. */
export function withColour({ gradient, outline, shadow }: Style, place: ColourPlace, colour: string): Partial<Style> {
  switch (place) {
    case 'fill':
      return { colour };
    case 'gradient':
      return gradient ? { gradient: { ...gradient, to: colour } } : {};
    case 'outline':
      return outline ? { outline: { ...outline, colour } } : {};
    case 'shadow':
      return shadow ? { shadow: { ...shadow, colour } } : {};
  }
}
