export { type Clash, type Merged, mergerOf } from './merge';
