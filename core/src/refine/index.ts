export { type CutItem, type CutOptions, type CutStep, type FirstCut, type Measure, firstCut } from './first-cut';
export { STEPS } from './steps';
