/** What a PNG says of itself besides its pixels (PNG, third edition). */
import { crc32 } from 'node:zlib';

/** Signature and header: where the first chunk of one's own can stand (section 5.6). */
const BEHIND_HEADER = 8 + 25;
const METRES_PER_POINT = 0.0254 / 72;

/**
 * A PNG that states its physical size (`pHYs`, section 11.3.4.3), so that it is placed as large as the sheet.
 * @param widthPt the width it stands for, in points; pixels are square.
 */
export function withPhysicalSize(png: Uint8Array, widthPt: number): Buffer {
  const view = new DataView(png.buffer, png.byteOffset, png.byteLength);
  const perMetre = Math.round(view.getUint32(16) / (widthPt * METRES_PER_POINT));
  const chunk = Buffer.alloc(21);
  chunk.writeUInt32BE(9, 0);
  chunk.write('pHYs', 4, 'latin1');
  chunk.writeUInt32BE(perMetre, 8);
  chunk.writeUInt32BE(perMetre, 12);
  chunk.writeUInt8(1, 16);
  chunk.writeUInt32BE(crc32(chunk.subarray(4, 17)), 17);
  return Buffer.concat([png.subarray(0, BEHIND_HEADER), chunk, png.subarray(BEHIND_HEADER)]);
}
