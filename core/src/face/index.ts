export { FaceError, type FaceErrorCode } from './errors';
export { type ShapedGlyph, loadHarfBuzz } from './harfbuzz';
export type { Woff2Decoder } from './container';
export { startPosition } from './axes';
export type { Posture } from './posture';
export { MAX_FONT_BYTES } from './sfnt';
export { flatten } from './flatten';
export { type Bounds, type Outline, type PathCommand, FONT_UNITS, type PathMatrix, controlBounds, pathData, printNumber } from './outline';
export { type Axis, type AxisValues, Face, FaceInstance, type FaceMetrics, type FeatureRange, type OpenOptions } from './face';
