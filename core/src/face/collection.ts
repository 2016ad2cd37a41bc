/** Font collections (OpenType 1.9.1, "Font Collections"): one file of several fonts that share tables. Any one of them becomes a font of its own. */
import { FaceError } from './errors';
import { readTableDirectory, writeSfnt } from './sfnt';

const TTCF = 0x74746366;
const HEADER = 12;
/** The largest collections in use hold some 40 fonts. */
const MAX_FONTS = 128;

/** True for a file that begins like a collection. */
export const isCollection = (bytes: Uint8Array): boolean =>
  bytes.byteLength >= HEADER && new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength).getUint32(0) === TTCF;

/**
 * How many fonts a collection holds.
 * @throws FaceError `damaged` or `truncated` for a header that is nonsense.
 */
export function collectionSize(bytes: Uint8Array): number {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const count = view.getUint32(8);
  if (count === 0 || count > MAX_FONTS) throw new FaceError('damaged', `The collection claims ${count} fonts; between 1 and ${MAX_FONTS} are taken.`);
  if (bytes.byteLength < HEADER + count * 4) throw new FaceError('truncated', 'The collection ends inside its header.');
  return count;
}

/**
 * One font of a collection as a file of its own.
 * @param index which one, from 0.
 * @throws FaceError `no-such-font` for an index beyond the collection; as `readTableDirectory` for its tables.
 */
export function fontAt(bytes: Uint8Array, index: number): Uint8Array {
  const count = collectionSize(bytes);
  if (!Number.isInteger(index) || index < 0 || index >= count) {
    throw new FaceError('no-such-font', `The collection holds ${count} fonts; there is no number ${index + 1}.`);
  }
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const start = view.getUint32(HEADER + index * 4);
  if (start + HEADER > bytes.byteLength) throw new FaceError('truncated', `The collection ends before its font ${index + 1}.`);
  const tables = [...readTableDirectory(bytes, start).values()];
  return writeSfnt(
    view.getUint32(start),
    tables.map(({ tag, checksum, offset, length }) => ({ tag, checksum, data: bytes.subarray(offset, offset + length) })),
  );
}
