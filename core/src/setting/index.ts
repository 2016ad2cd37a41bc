export { type FaceChoice, FaceSet } from './faces';
export { type BlockSetting, type PlacedGlyph, type PlacedRun, type Rule, type SetLine, facesOf, inkOf, inkOfGlyph, setBlock, setSheet } from './setting';
export { type GapLedger, type GapPlace, type GapWhite, gapsOf, ledgersOf, whiteOfGap } from './gaps';
export { type LineRange, isSpace } from './breaking';
export { hasSmallCaps } from './letter-case';
export { type Alternate, KNOWN_FEATURES, type KnownFeature, type LiveFeature, alternatesOf, liveFeatures } from './features';
export { type LineGap, type SizeLevel, evenOut, hierarchyOf, lineGapsOf } from './line-gaps';
export * from './box';
