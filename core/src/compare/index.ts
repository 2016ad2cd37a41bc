export { BLOCK_ASPECTS, SHEET_ASPECTS } from './aspects';
export { type Change, type CompareOptions, compareJobs, revertChanges } from './compare';
export { capitalised, inShort } from './in-short';
export { onLines } from './lines';
export { nameStep, sayChange } from './say';
