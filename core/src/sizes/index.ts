export { inOtherSizes } from './sizes';
