/** What every folder may use: errors worded for people, ordered lists, and caches. */
export { FileError, WordedError, inWords, tried } from './errors';
export { firstIndex } from './ordered';
export { keptBy, knownOf } from './remember';
export { valueAt } from './value-at';
