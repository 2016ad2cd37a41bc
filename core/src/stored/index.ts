export { StoredError, type StoredKind, fromStored, toStored } from './stored';
