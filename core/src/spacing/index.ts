export { BAND, BANDS, DEEPEST, type GlyphProfile, heightOf, type Side, placedSide, profileOf, profileOutline } from './profile';
export { nearestInk, offsetForWhite, smallestDistance, whiteBetween } from './white';
export { type Rhythm, bearingsOf, heightClass, rhythmOf } from './rhythm';
export { SIDE_KINDS, type SideKind, type SideShape, sideShape } from './side-shape';
export { BEYOND_RIGHT, FEATURE_COUNT, type GapSide, measurePair } from './features';
export { DEAD_ZONE, besideMark, type ProposalLimit, type ShapeProposal, type Standing, proposeKerning } from './proposal';
export { evenness } from './evenness';
export { type FaceQuery, type Searchable, searchFaces } from './face-search';
export { type Anatomy, FACE_KINDS, type FaceKind, type Partnering, measureAnatomy, partnering } from './anatomy';
