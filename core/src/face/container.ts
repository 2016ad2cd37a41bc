/** Font containers: TTF, OTF, one font of a TTC, WOFF 1.0, and WOFF2 where a decoder is given; all become plain sfnt bytes. */
import { Inflate } from 'fflate';
import { collectionSize, fontAt, isCollection } from './collection';
import { FaceError } from './errors';
import { MAX_FONT_BYTES, OTTO, TRUE_TYPE, type TableData, tagAt, writeSfnt } from './sfnt';

/** Turns WOFF2 bytes into sfnt bytes. Only the server has one: the decoders need `unsafe-eval`. */
export type Woff2Decoder = (bytes: Uint8Array) => Promise<Uint8Array>;

const SFNT_SIGNATURES = new Set([TRUE_TYPE, OTTO, 0x74727565 /* true */]);
const WOFF = 0x774f4646;
const WOFF2 = 0x774f4632;

/**
 * Unpacks a font file to sfnt bytes.
 * @param bytes the file as it came.
 * @param font which font of a collection, from 0; where it is left out, a collection of one font gives that.
 * @throws FaceError for anything that is not one complete font.
 */
export async function unpackFont(bytes: Uint8Array, decodeWoff2?: Woff2Decoder, font?: number): Promise<Uint8Array> {
  if (bytes.byteLength === 0) throw new FaceError('empty', 'The file is empty.');
  if (bytes.byteLength > MAX_FONT_BYTES) {
    throw new FaceError('too-large', `The file has ${bytes.byteLength} bytes; fonts are opened up to ${MAX_FONT_BYTES}.`);
  }
  if (bytes.byteLength < 12) throw new FaceError('not-a-font', 'The file is too short to be a font.');
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const signature = view.getUint32(0);
  if (SFNT_SIGNATURES.has(signature)) return bytes;
  if (signature === WOFF) return unpackWoff(bytes, view);
  if (isCollection(bytes)) return outOfCollection(bytes, font);
  if (signature === WOFF2) {
    if (!decodeWoff2) throw new FaceError('unsupported', 'WOFF2 can only be opened through the server.');
    const unpacked = await unpackWoff2(bytes, view, decodeWoff2);
    return isCollection(unpacked) ? outOfCollection(unpacked, font) : unpacked;
  }
  throw new FaceError('not-a-font', `The file does not begin like a font (TTF, OTF, TTC, WOFF or WOFF2) but with “${tagAt(view, 0)}”.`);
}

function outOfCollection(bytes: Uint8Array, font: number | undefined): Uint8Array {
  const count = collectionSize(bytes);
  if (font === undefined && count > 1) throw new FaceError('collection', `The file is a collection of ${count} fonts: say which one.`);
  return fontAt(bytes, font ?? 0);
}

async function unpackWoff2(bytes: Uint8Array, view: DataView, decode: Woff2Decoder): Promise<Uint8Array> {
  if (bytes.byteLength < 48) throw new FaceError('truncated', 'The WOFF2 file ends inside its header.');
  if (view.getUint32(8) > bytes.byteLength) throw new FaceError('truncated', 'The WOFF2 file is shorter than it says.');
  if (Math.max(view.getUint32(16), woff2Size(view)) > MAX_FONT_BYTES) throw new FaceError('too-large', 'The WOFF2 file unpacks to more than is opened.');
  try {
    const sfnt = await decode(bytes);
    if (sfnt.byteLength === 0) throw new Error('nothing came out');
    return sfnt;
  } catch (error) {
    throw new FaceError('damaged', `The WOFF2 data can’t be unpacked: ${error instanceof Error ? error.message : String(error)}`);
  }
}

/** Flag of a table whose tag is spelled out, and the index of the tables that are transformed unless they say otherwise. */
const OWN_TAG = 63;
const TRANSFORMED = new Set([10 /* glyf */, 11 /* loca */]);

/**
 * The size that the tables of a WOFF2 file claim to unpack to, in bytes.
 * @throws FaceError for a directory that can't be read (WOFF2, sections 4.1 and 5.1).
 */
function woff2Size(view: DataView): number {
  let at = 48;
  const byte = (): number => {
    if (at >= view.byteLength) throw new FaceError('truncated', 'The WOFF2 file ends inside its table directory.');
    return view.getUint8(at++);
  };
  const length = (): number => {
    let value = 0;
    for (let i = 0; i < 5; i++) {
      const next = byte();
      value = value * 128 + (next & 0x7f);
      if (next < 0x80) return value;
    }
    throw new FaceError('damaged', 'A length in the WOFF2 file can’t be read.');
  };
  let total = 0;
  for (let count = view.getUint16(12); count > 0; count--) {
    const flags = byte();
    const index = flags & 0x3f;
    if (index === OWN_TAG) at += 4;
    const own = length();
    // Version 3 of glyf and loca is the one without a transformation, of all others version 0 is.
    const transformed = TRANSFORMED.has(index) ? flags >> 6 !== 3 : flags >> 6 !== 0;
    total += transformed ? Math.max(own, length()) : own;
  }
  return total;
}

/** WOFF 1.0 (W3C Recommendation, sections 3 to 5) to sfnt. */
function unpackWoff(bytes: Uint8Array, view: DataView): Uint8Array {
  if (bytes.byteLength < 44) throw new FaceError('truncated', 'The WOFF file ends inside its header.');
  const count = view.getUint16(12);
  if (count === 0 || count > 256) throw new FaceError('damaged', `The WOFF file claims ${count} tables.`);
  if (bytes.byteLength < 44 + count * 20) throw new FaceError('truncated', 'The WOFF file ends inside its table directory.');

  const tables: TableData[] = [];
  let total = 12 + count * 16;
  for (let i = 0; i < count; i++) {
    const at = 44 + i * 20;
    const name = tagAt(view, at);
    const offset = view.getUint32(at + 4);
    const packedLength = view.getUint32(at + 8);
    const length = view.getUint32(at + 12);
    if (offset + packedLength > bytes.byteLength) throw new FaceError('truncated', `The WOFF file ends inside its “${name}” table.`);
    if (packedLength > length) throw new FaceError('damaged', `The “${name}” table is packed larger than its size.`);
    total += (length + 3) & ~3;
    if (total > MAX_FONT_BYTES) throw new FaceError('too-large', 'The WOFF file unpacks to more than is opened.');
    const packed = bytes.subarray(offset, offset + packedLength);
    const data = packedLength === length ? packed : inflate(packed, length, name);
    tables.push({ tag: name, checksum: view.getUint32(at + 16), data });
  }

  return writeSfnt(view.getUint32(4), tables);
}

/** Inflates a zlib stream and stops as soon as it gives more than it promised, so that a bomb costs nothing. */
function inflate(packed: Uint8Array, length: number, name: string): Uint8Array {
  const out = new Uint8Array(length);
  let filled = 0;
  const stop = new FaceError('damaged', `The packed “${name}” table does not unpack to the size it names.`);
  if (packed.byteLength < 6) throw stop;
  const stream = new Inflate((chunk) => {
    if (filled + chunk.byteLength > length) throw stop;
    out.set(chunk, filled);
    filled += chunk.byteLength;
  });
  try {
    const body = packed.subarray(2); // the two bytes of the zlib header (RFC 1950)
    for (let at = 0; at < body.byteLength; at += 16384) {
      stream.push(body.subarray(at, at + 16384), at + 16384 >= body.byteLength);
    }
  } catch (error) {
    if (error === stop) throw stop;
    throw new FaceError('damaged', `The packed “${name}” table can’t be unpacked.`);
  }
  if (filled !== length) throw stop;
  return out;
}
