export { type SnapLine, type Snapped, angleOf, areaOf, centreIn, levelsFor, middleOf, snapBox, snapLines, turned } from './snap';
