export { type PointPair, type ReferencePlace, fittedPlace, placeOnSheet, placeMatrix, placedByPairs } from './place';
export { type ReferenceLetter, type ReferenceLine, readLinesOnSheet, setLinesOnSheet } from './letters';
export { type Differences, type GapDifference, type LineDifference, referenceDifferences } from './differences';
export { TAKES, type Take, type TypeRead, movedOntoReference, takeReading, typeRead } from './take';
