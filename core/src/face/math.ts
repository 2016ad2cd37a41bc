/** Superiors and inferiors in a font made for formulas (OpenType 1.9.1, "MATH": MathConstants). */

/** Size over the letters', and how far the superior rises and the inferior sinks, in font units. */
export interface MathScripts {
  size: number;
  superiorRise: number;
  inferiorDrop: number;
}

/** Offsets in MathConstants, in bytes. */
const SCRIPT_PERCENT = 0;
const SUBSCRIPT_SHIFT_DOWN = 24;
const SUPERSCRIPT_SHIFT_UP = 36;
const LEAST_LENGTH = 40;

/** @param table gives a table's bytes, or undefined where the font has none. */
export function readMathScripts(table: (tag: string) => Uint8Array | undefined): MathScripts | undefined {
  const bytes = table('MATH');
  if (!bytes || bytes.byteLength < 10) return undefined;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const constants = view.getUint16(4);
  if (view.getUint16(0) !== 1 || constants === 0 || constants + LEAST_LENGTH > bytes.byteLength) return undefined;
  const at = (offset: number): number => view.getInt16(constants + offset);
  return { size: at(SCRIPT_PERCENT) / 100, superiorRise: at(SUPERSCRIPT_SHIFT_UP), inferiorDrop: at(SUBSCRIPT_SHIFT_DOWN) };
}
