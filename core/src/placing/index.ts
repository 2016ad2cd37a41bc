export { type SnapLine, type Snapped, areaOf, centreIn, snapBox, snapLines } from './snap';
export { type GuidePart, angleOf, isOnSheet, levelsFor, movedGuide } from './guides';
export { type Point, middleOf, turned } from './points';
