export { type FacePair, type PairsOfFace, pairsOfJob } from './pairs';
export { pairFiles, pairsAsCsv, pairsAsFeatures, pairsAsJson } from './write';
export { type FontFilesOptions, fontFiles } from './font/font-files';
export { type FontOptions, type MadeFont, type Refusal, fontWithPairs } from './font/font-with-pairs';
