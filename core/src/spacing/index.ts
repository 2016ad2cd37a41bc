export { BAND, BANDS, DEEPEST, type GlyphProfile, LEVEL, heightOf, type Side, type Standing, placedSide, profileOf, profileOutline } from './profile';
export { inkDistance } from './ink-distance';
export { nearestInk, offsetForWhite, whiteBetween } from './white';
export { type Rhythm, bearingsOf, heightClass, joinsLetters, letterSpaceOf, rhythmOf } from './rhythm';
export { SIDE_KINDS, type SideKind, type SideShape, sideShape } from './side-shape';
export { FEATURE_COUNT, type GapSide, MIRRORED, beyondBearing, measurePair } from './pair-measures';
export {
  type ProposalLimit,
  MAX_STRENGTH,
  type ShapeModel,
  type ShapeProposal,
  atStrength,
  besideMark,
  proposeKerning,
  settled,
  withDeadZone,
} from './proposal';
export { type FontWord, NO_WORD, type Opinions, certainty, weighed, wordOf } from './evidence';
export { fontWordOf, measureWord } from './font-word';
export { evenness } from './evenness';
