export { type Grey, MOST_PIXELS, greyOf } from './raster';
export * from './read';
