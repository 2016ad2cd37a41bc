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
export { type Page, type PageLayout, pageOf, sheetOfPage } from './page';
export { aspectOf } from './aspect';
export { groupMatrix } from './group-matrix';
export { onlyBlock } from './only-block';
