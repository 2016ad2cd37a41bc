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
