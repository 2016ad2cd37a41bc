export { type FaceChoice, FaceSet } from './faces';
export {
  type BlockSetting,
  type LineFit,
  type LineRange,
  type PlacedGlyph,
  type PlacedRun,
  type RuleLine,
  type SetLine,
  runsOfLine,
  straightLines,
} from './block-setting';
export { releaseFit, setBlock, setSheet } from './set-block';
export { facesOf } from './faces';
export { type LetterStretch, type PlaceOnLine, type SetLetter, baselinesOf, setLettersOf, lineUnder, letterRoomOf, stretchesOf } from './letters';
export { glyphMatrix, inkBox, inkOf, inkOfGlyph } from './ink';
export { type Matrix, applyToPoint, compose, inverse, isUpright, mappedBox, rotateDEG, translate } from './matrix';
export { type GapLedger, type GapPlace, type GapWhite, gapsOf, handForWhite, ledgersOf, whiteOfGap } from './gaps';
export { isSpace } from './blank';
export { isHardBreak } from './paragraphs';
export { tornApart } from './sense';
export { hasCursive } from './scripts';
export { LIGATURE_FEATURES } from './shape';
export { hasSmallCaps, shownWords } from './letter-case';
export { type BreakableParagraph, endsInHyphen } from './lines';
export { type ParagraphRoom, breakableAt } from './open-lines';
export { type Alternate, KNOWN_FEATURES, type KnownFeature, type LiveFeature, alternatesOf, liveFeatures } from './features';
export { type EvenBy, type LineGap, type SizeLevel, evenOut, evenedBy, hierarchyOf, lineGapsOf, whiteBy } from './line-gaps';
export * from './box';
export { type Curve, type OnCurve, type RiddenLine, curveOf, nearestLength, rideLines } from './path';
export { type LineSeen, seenLines } from './seen-lines';
export { type Rag, ragOf } from './rag';
