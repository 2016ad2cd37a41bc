export { renderSheet } from './render';
