export { progressOf } from './progress';
