export { BAND, BANDS, DEEPEST, type GlyphProfile, heightOf, type Side, placedSide, profileOf, profileOutline } from './profile';
export { nearestInk, offsetForWhite, smallestDistance, whiteBetween } from './white';
export { type Rhythm, bearingsOf, heightClass, letterSpaceOf, rhythmOf } from './rhythm';
export { SIDE_KINDS, type SideKind, type SideShape, sideShape } from './side-shape';
export { FEATURE_COUNT, type GapSide, MIRRORED, beyondBearing, measurePair } from './pair-measures';
export { type ProposalLimit, type ShapeProposal, type Standing, besideMark, proposeKerning, settled, withDeadZone } from './proposal';
export { evenness } from './evenness';
