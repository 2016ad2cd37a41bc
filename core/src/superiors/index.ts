export { SMALL_KINDS, type Sibling, type SmallForm, type SmallKind, madeForm, ownForm, smallForms } from './superiors';
export { type TypedSmall, typedSmalls } from './typed';
