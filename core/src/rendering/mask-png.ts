/** PNG of one colour in varying coverage: a palette of that colour with 256 opacities (PNG 3, sections 11.2.2 and 11.3.1.1). */
import { valueAt } from '../base';
import { deflateSync } from 'node:zlib';

const SIGNATURE = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);

/** CRC-32 by bytes (PNG 3, annex D). */
const CRCS = Uint32Array.from({ length: 256 }, (_, n) => {
  let c = n;
  for (let k = 0; k < 8; k++) c = c & 1 ? 0xedb88320 ^ (c >>> 1) : c >>> 1;
  return c;
});

function crc(bytes: Uint8Array): number {
  let c = 0xffffffff;
  for (const byte of bytes) c = valueAt(CRCS, (c ^ byte) & 0xff) ^ (c >>> 8);
  return (c ^ 0xffffffff) >>> 0;
}

/** One chunk of a PNG. @param type four letters. */
export function pngChunk(type: string, data: Uint8Array): Buffer {
  const chunk = Buffer.alloc(data.length + 12);
  chunk.writeUInt32BE(data.length, 0);
  chunk.write(type, 4, 'latin1');
  chunk.set(data, 8);
  chunk.writeUInt32BE(crc(chunk.subarray(4, data.length + 8)), data.length + 8);
  return chunk;
}

/**
 * Writes a mask.
 * @param mask coverage, 0 to 255, row by row. @param colour `#rrggbb`.
 */
export function writeMask(mask: Uint8Array, width: number, height: number, colour: string): Buffer {
  const header = Buffer.alloc(13);
  header.writeUInt32BE(width, 0);
  header.writeUInt32BE(height, 4);
  header.set([8, 3], 8); // eight bits, palette
  const rgb = Buffer.from(colour.slice(1), 'hex');
  const rows = new Uint8Array((width + 1) * height);
  for (let y = 0; y < height; y++) rows.set(mask.subarray(y * width, (y + 1) * width), y * (width + 1) + 1);
  return Buffer.concat([
    SIGNATURE,
    pngChunk('IHDR', header),
    pngChunk('PLTE', Buffer.concat(Array.from({ length: 256 }, () => rgb))),
    pngChunk(
      'tRNS',
      Uint8Array.from({ length: 256 }, (_, i) => i),
    ),
    pngChunk('IDAT', deflateSync(rows, { level: 1 })),
    pngChunk('IEND', new Uint8Array(0)),
  ]);
}
