export { type RenderOptions, renderSheet } from './render';
