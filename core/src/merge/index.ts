export { type Clash, type MergeOptions, type Merged, mergerOf, startedFrom } from './merge';
