/** Big-endian numbers one after the other, as font tables are written. */

/** A run of numbers of the same width, or bytes as they are. */
export type TablePart = { u16: readonly number[] } | { u32: readonly number[] } | { tag: string } | Uint8Array;

const lengthOf = (part: TablePart): number =>
  part instanceof Uint8Array ? part.length : 'tag' in part ? 4 : 'u16' in part ? part.u16.length * 2 : part.u32.length * 4;

export const u16 = (...values: number[]): TablePart => ({ u16: values });
export const u32 = (...values: number[]): TablePart => ({ u32: values });
export const tagBytes = (name: string): TablePart => ({ tag: name });

/** @throws RangeError where a number has no room in its width: the table would be another one */
export function tableBytes(parts: readonly TablePart[]): Uint8Array {
  const out = new Uint8Array(parts.reduce((sum, part) => sum + lengthOf(part), 0));
  const view = new DataView(out.buffer);
  let at = 0;
  for (const part of parts) {
    if (part instanceof Uint8Array) out.set(part, at);
    else if ('tag' in part) for (let i = 0; i < 4; i++) out[at + i] = part.tag.charCodeAt(i);
    else if ('u16' in part) part.u16.forEach((value, i) => view.setUint16(at + i * 2, within(value, -0x8000, 0xffff)));
    else part.u32.forEach((value, i) => view.setUint32(at + i * 4, within(value, 0, 0xffffffff)));
    at += lengthOf(part);
  }
  return out;
}

function within(value: number, least: number, most: number): number {
  if (Number.isInteger(value) && value >= least && value <= most) return value;
  throw new RangeError(`${value} has no room in the table`);
}
