/** Weight and slope as a font's tables state them (OpenType 1.9.1: `OS/2`, `post`, `head`). */

export interface Posture {
  /** `OS/2` usWeightClass, 1 to 1000: 400 is regular, 700 bold. */
  weight: number;
  /** True for italic and oblique faces. */
  italic: boolean;
  /** How far upright strokes lean to the right, in degrees (`post` italicAngle, turned round). */
  slopeDeg: number;
}

const REGULAR = 400;
/** `OS/2` fsSelection: italic, oblique; `head` macStyle: italic. */
const ITALIC = 1 << 0;
const OBLIQUE = 1 << 9;
const MAC_ITALIC = 1 << 1;

/** @param table gives a table's bytes, or undefined where the font has none. */
export function readPosture(table: (tag: string) => Uint8Array | undefined): Posture {
  const view = (tag: string, least: number): DataView | undefined => {
    const bytes = table(tag);
    return bytes && bytes.byteLength >= least ? new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength) : undefined;
  };
  const os2 = view('OS/2', 64);
  const stated = os2?.getUint16(4) ?? 0;
  // Early fonts count from 1 to 9.
  const scaled = stated > 0 && stated < 10 ? stated * 100 : stated;
  const lean = -(view('post', 8)?.getInt32(4) ?? 0) / 65_536 || 0;
  const slopeDeg = Math.abs(lean) < 60 ? Math.round(lean * 100) / 100 : 0;
  const flagged = ((os2?.getUint16(62) ?? 0) & (ITALIC | OBLIQUE)) !== 0 || ((view('head', 46)?.getUint16(44) ?? 0) & MAC_ITALIC) !== 0;
  return { weight: scaled >= 1 && scaled <= 1000 ? scaled : REGULAR, italic: flagged || slopeDeg !== 0, slopeDeg };
}
