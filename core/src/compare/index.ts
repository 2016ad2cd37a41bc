export { BLOCK_ASPECTS, BREAKING_NAMES, SHEET_ASPECTS } from './aspects';
export { type Change, type CompareOptions, compareJobs, giveBack } from './compare';
export { inShort } from './in-short';
export { onLines } from './lines';
export { nameStep, sayChange } from './say';
