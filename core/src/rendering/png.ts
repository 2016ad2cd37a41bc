/** The metadata of a PNG (PNG, third edition). */
import { pngChunk } from './mask-png';

/** Signature and header: where the first chunk of one's own can stand (section 5.6). */
const BEHIND_HEADER = 8 + 25;
const METRES_PER_POINT = 0.0254 / 72;

/**
 * A PNG that states what its colours are (`sRGB`, section 11.3.2.5, perceptual) and its physical size (`pHYs`, section 11.3.4.3), so that
 * it is placed as large as the sheet.
 * @param widthPt the width it stands for, in points; pixels are square.
 */
export function withPhysicalSize(png: Uint8Array, widthPt: number): Buffer {
  const view = new DataView(png.buffer, png.byteOffset, png.byteLength);
  const perMetre = Math.round(view.getUint32(16) / (widthPt * METRES_PER_POINT));
  const size = Buffer.alloc(9);
  size.writeUInt32BE(perMetre, 0);
  size.writeUInt32BE(perMetre, 4);
  size.writeUInt8(1, 8);
  return Buffer.concat([png.subarray(0, BEHIND_HEADER), pngChunk('sRGB', Uint8Array.of(0)), pngChunk('pHYs', size), png.subarray(BEHIND_HEADER)]);
}
