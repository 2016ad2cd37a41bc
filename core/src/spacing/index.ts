export { type Lean, UPRIGHT_LEAN, leanOf } from './lean';
export {
  BAND,
  BANDS,
  DEEPEST,
  type GlyphProfile,
  BASE_LEVEL,
  bandHeight,
  LOWEST,
  type GlyphSide,
  type Standing,
  facedSide,
  placedSide,
  profileOf,
  profileOutline,
} from './profile';
export { inkDistance } from './ink-distance';
export { type CharacterKind, type SignKind, characterAt, signKindAt } from './sign';
export { nearestInk, offsetForWhite, roughDistance, whiteBetween } from './white';
export { type Rhythm, bearingsOf, heightClass, letterSpaceOf, rhythmOf } from './rhythm';
export { SIDE_KINDS, type SideKind, type SideShape, sideShape } from './side-shape';
export { FEATURE_COUNT, type GapSide, MIRRORED, beyondBearing, measurePair } from './pair-measures';
export {
  LEAST_DISTANCE,
  type ProposalLimit,
  MAX_STRENGTH,
  type ShapeProposal,
  atStrength,
  beforeMark,
  proposeBesideSpace,
  proposeKerning,
  settled,
  withoutSmall,
} from './proposal';
export type { Learned, ShapeModel } from './learned';
export { DESCRIBED, type Likeness, type PairSide, type Precedents, RANK, describe, liken, precedent, recall, withPrecedent } from './precedent';
export { packNumbers, stepFor, unpackNumbers } from './packed';
export { type FontWord, type Given, NOTICED, NO_WORD, type Opinions, certainty, kerningFrom, weighed, wordOf } from './evidence';
export { fontWordOf, kernsSpaces, measureWord } from './font-word';
export { type Deviation, deviationOf, evenness } from './evenness';
export { type BoundKind, boundKindOf } from './face-kind';
