export { AREAS, type Area, type SnapLine, type Snapped, areaOf, centreIn, hasArea, isArea, snapBox, snapLines } from './snap';
export { ledByRules, movedOntoRules } from './meet-rules';
export { type RuleEnds, type GuidePart, ruleAngle, isOnSheet, levelsFor, movedGuide } from './guides';
export { type Point, middleOf, turnedPoint } from './points';
