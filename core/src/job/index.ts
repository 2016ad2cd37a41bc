export * from './schema';
export * from './edits';
export * from './create';
export * from './pair-rules';
export { type StyledRange, styleAt, styledRanges } from './runs';
export { type Splice, spliceWords, splicesBetween } from './words';
export { graphemeBoundaries, isGraphemeBoundary } from './graphemes';
export { JobFormatError, upgradeJob } from './upgrade';
