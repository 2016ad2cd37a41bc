/** Shared by specs and benchmarks only: the shipped faces, opened in Node. */
import { readFileSync } from 'node:fs';
import { Face } from './face';
import { type Block, createBlock } from './job';
import { FaceSet } from './setting';

/** How much a spec does: `usual` in every `npm test`, `full` in `npm run test:long`. */
export const sized = (usual: number, full: number): number => (process.env['JENTRIX_LONG'] ? full : usual);

const folder = new URL('../../faces/', import.meta.url);

/** The faces that Jentrix comes with. */
export const SHIPPED_IDS = (JSON.parse(readFileSync(new URL('faces.json', folder), 'utf8')) as { id: string }[]).map(({ id }) => id);

export const fontBytes = (id: string): Uint8Array => new Uint8Array(readFileSync(new URL(`${id}.ttf`, folder)));

export const openShipped = (id: string): Promise<Face> => Face.open(fontBytes(id));

/** A set of shipped faces; the first stands in for missing ones. */
export async function shippedFaces(...ids: string[]): Promise<FaceSet> {
  const faces = new FaceSet(ids[0] ?? '');
  for (const id of ids) faces.add(id, await openShipped(id));
  return faces;
}

/** A block in Playfair Display Bold at 100 pt in a frame wide enough for anything, at (0, 0). */
export function headline(words: string, change: Partial<Block> = {}): Block {
  return {
    ...createBlock('b', words, { xPt: 0, yPt: 0, widthPt: 40_000, heightPt: 100 }, { faceId: 'playfair-display-bold', sizePt: 100 }),
    ...change,
  };
}

/** A collection of font files that share nothing (OpenType, "Font Collections", version 1.0). */
export function toCollection(...fonts: readonly Uint8Array[]): Uint8Array {
  const header = 12 + fonts.length * 4;
  const out = new Uint8Array(fonts.reduce((sum, { byteLength }) => sum + ((byteLength + 3) & ~3), header));
  const view = new DataView(out.buffer);
  out.set(new TextEncoder().encode('ttcf'));
  view.setUint16(4, 1);
  view.setUint32(8, fonts.length);
  let start = header;
  fonts.forEach((font, i) => {
    out.set(font, start);
    view.setUint32(12 + i * 4, start);
    // Tables are counted from the beginning of the file.
    for (let table = 0; table < view.getUint16(start + 4); table++) {
      const at = start + 12 + table * 16 + 8;
      view.setUint32(at, view.getUint32(at) + start);
    }
    start += (font.byteLength + 3) & ~3;
  });
  return out;
}

/** Numbers from 0 up to 1, the same for a seed (mulberry32, public domain). */
export function randomFrom(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}
