export { type FaceQuery, type Searchable, searchFaces } from './face-search';
export { type Anatomy, FACE_KINDS, type FaceKind, type Partnering, measureAnatomy, partnering } from './anatomy';
export { type TrackingAdvice, adviseTracking, meanWhite, whiteShare } from './tracking-advice';
export { type GroundContrast, coloursOf, contrast, contrastNeeded, contrastOver, hexOf, luminance } from './contrast';
