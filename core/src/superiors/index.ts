export { SMALL_KINDS, type Sibling, type SmallForm, type SmallKind, madeForm, ownForm, smallChanges, smallForms } from './superiors';
export { type TypedSmall, typedSmalls } from './typed';
