export * from './schema';
export * from './style';
export { LIMITS } from './limits';
export { colourSchema } from './values';
export * from './spec';
export { sameValue } from './same';
export * from './edits';
export * from './colours';
export * from './create';
export * from './pair-rules';
export { resolveBlock, resolveSheet } from './resolve';
export * from './sheets';
export { letterName } from './letter-names';
export { beginJob } from './begin';
export * from './blocks';
export * from './path';
export { type Arc, HOLDS, type Path, type PathKind, type PathPoint, type Ride, STANCES, pathSchema } from './path-schema';
export { FARTHEST_PT, LEAST_SCALE, MOST_SCALE, REFERENCE_SIDES, type Reference, type ReferenceSide } from './reference-schema';
export * from './fit';
export {
  BREAKINGS,
  type Breaking,
  type Edges,
  type Fit,
  type FitTarget,
  HANG_KINDS,
  type HangKind,
  type Justify,
  type LeverName,
  type Levers,
  type LineIndent,
  RAG_SHAPES,
  type RagShape,
  type Tightened,
  edgesSchema,
  fitSchema,
} from './fit-schema';
export * from './picks';
export * from './brief';
export * from './recipes';
export * from './stock';
export * from './uses';
export { type StyledRange, styleAt, styledRanges } from './runs';
export { type Splice, spliceWords, wordsFrom } from './words';
export { LANGUAGES, languageSchema } from './language';
export { graphemeBoundaries, isGraphemeBoundary } from './graphemes';
export { JobFormatError, upgradeJob } from './upgrade';
export { SoundBlocks, describeIssues, readJob } from './read';
