export { carriedSplices, editWords, splicesBetween } from './edit-words';
export * from './passage';
