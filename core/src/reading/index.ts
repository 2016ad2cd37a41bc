export { type Grey, MOST_READ_PIXELS, greyOf } from './raster';
export * from './read';
