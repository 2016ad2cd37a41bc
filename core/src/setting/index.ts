export { type FaceChoice, FaceSet } from './faces';
export { type BlockSetting, type PlacedGlyph, type PlacedRun, type SetLine, facesOf, setBlock, setSheet } from './setting';
export { type GapLedger, type GapPlace, gapsOf, ledgersOf } from './gaps';
export { type LineRange, isSpace } from './breaking';
