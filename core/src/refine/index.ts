export { type CutItem, type CutOptions, type CutStep, type FirstCut, type CutMeasure, firstCut } from './first-cut';
export { rememberGivenBack } from './given-back';
export { KERNING_SOURCES, type KerningSource } from './step';
export { STEPS } from './steps';
