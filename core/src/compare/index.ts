export { type Change, type CompareOptions, compareJobs, giveBack } from './compare';
export { onLines } from './lines';
