export { type EdgeShape, type EdgeSide, edgeShape, uprightProfile, whiteAlong } from './optical';
export { hangingBefore, hangingBehind } from './hanging';
