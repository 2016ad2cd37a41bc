export type {
  BlockDrawing,
  DrawingNode,
  Fill,
  GlyphNode,
  Gradient,
  GroupNode,
  LettersNode,
  PictureNode,
  RectangleNode,
  RuleNode,
  SheetDrawing,
  Stroke,
  Turn,
} from './drawing';
export { type LineLook, drawBlock, drawGround, drawLine, drawSheet } from './draw';
export { baseColour, gradientLine } from './gradient-line';
export { fadedMarks } from './faded-marks';
// What lays pages out is taken from its own file: whoever only draws sheets shall not load it.
export type { Page, PageLayout } from './page';
export { aspectOf } from './aspect';
export { groupMatrix } from './group-matrix';
export { onlyBlock } from './only-block';
