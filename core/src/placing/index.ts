export { type SnapLine, type Snapped, areaOf, centreIn, middleOf, snapBox, snapLines, turned } from './snap';
