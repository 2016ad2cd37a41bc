/**
 * A set sheet as a display list: what page, SVG, thumbnails and pixel tests render, so that what is on the table is handed over by
 * construction. Plain data in the sheet's points, y down, painted in order. Renderers add nothing; they may leave out what can't be seen.
 */
import type { Style } from '../job';
import type { Box, Matrix } from '../setting';
import type { LengthUnit } from '../units';

/** From one colour to another along a line, in the coordinates of what is filled. */
export interface Gradient {
  from: string;
  to: string;
  x1: number;
  y1: number;
  x2: number;
  y2: number;
}

/** A colour, `#rrggbb` or as the page names it, or a gradient. */
export type Fill = string | Gradient;

export interface Stroke {
  colour: string;
  widthPt: number;
  join: 'miter' | 'round' | 'bevel';
}

/** A glyph's outline. */
export interface GlyphNode {
  glyphId: number;
  /** From the font's units, y up, to points. */
  matrix: Matrix;
  /** Where the pen stood for its letter, on the sheet, the letter's shift included: where a renderer that shapes words itself begins. */
  pen: { xPt: number; yPt: number };
  /** Offset in the block's words of the first letter it stands for; undefined for list marks and ellipses, which are not among them. */
  at: number | undefined;
  /** The words it shows, in their case as shown; empty for all but the first glyph of a letter, and for marks. */
  shows: string;
}

/** A straight rule, taken to its letters by a map where they stand on a path. */
export interface RuleNode {
  box: Box;
  matrix?: Matrix;
}

/** Letters of one style on one line, in one paint. */
export interface LettersNode {
  kind: 'letters';
  style: Style;
  /** The language of the words (BCP 47), where it is known. */
  language?: string;
  glyphs: readonly GlyphNode[];
  /** Underlines and strike-throughs: filled, never outlined. */
  rules: readonly RuleNode[];
  fill: Fill;
  stroke: Stroke | undefined;
}

export interface RectangleNode {
  kind: 'rectangle';
  box: Box;
  fill: Fill;
}

/** A picture that covers a box or fits into it, in its middle. */
export interface PictureNode {
  kind: 'picture';
  box: Box;
  pictureId: string;
  fit: 'cover' | 'contain';
}

/** Clockwise around a point. */
export interface Turn {
  degrees: number;
  xPt: number;
  yPt: number;
}

/** Nodes painted together: turned, then moved, blurred as one, and as opaque as one. */
export interface GroupNode {
  kind: 'group';
  nodes: readonly DrawingNode[];
  turn?: Turn;
  move?: { xPt: number; yPt: number };
  /** Standard deviation of a Gaussian blur, in points. */
  blurPt?: number;
  /** True for a shadow of letters that stand in front: their words are there once. */
  shadow?: true;
  opacity?: number;
}

export type DrawingNode = LettersNode | RectangleNode | PictureNode | GroupNode;

/** A block: its lines, turned as one. */
export interface BlockDrawing extends GroupNode {
  blockId: string;
  /** Its words, for people who don't see it. */
  label: string;
}

/** A whole sheet. */
export interface SheetDrawing {
  widthPt: number;
  heightPt: number;
  /** The unit people see its size in. */
  unit: LengthUnit;
  name: string;
  ground: readonly DrawingNode[];
  blocks: readonly BlockDrawing[];
}
