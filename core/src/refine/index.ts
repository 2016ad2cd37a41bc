export { type CutItem, type CutOptions, type CutStepReport, type FirstCut, type CutMeasure, firstCut } from './first-cut';
export { rememberReverted } from './reverted';
export { type CutStep, KERNING_SOURCES, type KerningSource } from './step';
export { CUT_STEPS } from './steps';
