export { type FaceQuery, type Searchable, isFaceKind, sayKind, searchFaces } from './face-search';
export { type Anatomy, FACE_KINDS, FOUND_KINDS, type FaceKind, type FoundKind, type Partnering, measureAnatomy, partnering } from './anatomy';
export { ARM_MM, readingDistance } from './reading-distance';
export { type LineReach, adviseLeading } from './leading-advice';
export { type TrackingAdvice, adviseTracking, inCapitals, meanWhite, whiteShare } from './tracking-advice';
export { type GroundContrast, coloursOf, contrast, contrastNeeded, contrastOver, hexOf, isLightOnDark, luminance } from './contrast';
