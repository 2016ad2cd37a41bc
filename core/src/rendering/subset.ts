/** Parts of fonts: HarfBuzz's own subsetter, which the shaper's package brings along as a module with C names (hb-subset.h). */
import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import type { AxisValues } from '../face';

interface Subsetter {
  memory: WebAssembly.Memory;
  _initialize(): void;
  malloc(bytes: number): number;
  free(pointer: number): void;
  hb_blob_create(data: number, length: number, mode: number, user: number, destroy: number): number;
  hb_blob_destroy(blob: number): void;
  hb_blob_get_data(blob: number, length: number): number;
  hb_blob_get_length(blob: number): number;
  hb_face_create(blob: number, index: number): number;
  hb_face_destroy(face: number): void;
  hb_face_reference_blob(face: number): number;
  hb_set_add(set: number, value: number): void;
  hb_set_clear(set: number): void;
  hb_set_invert(set: number): void;
  hb_subset_input_create_or_fail(): number;
  hb_subset_input_destroy(input: number): void;
  hb_subset_input_set(input: number, kind: number): number;
  hb_subset_input_glyph_set(input: number): number;
  hb_subset_input_unicode_set(input: number): number;
  hb_subset_input_set_flags(input: number, flags: number): void;
  hb_subset_input_pin_axis_location(input: number, face: number, tag: number, value: number): number;
  hb_subset_or_fail(face: number, input: number): number;
}

const WRITABLE = 2;
const LAYOUT_FEATURES = 6;
const RETAIN_GLYPH_IDS = 0x2;

let loading: Promise<Subsetter> | undefined;
const load = async (): Promise<Subsetter> => {
  const path = createRequire(import.meta.url).resolve('harfbuzzjs/dist/harfbuzz-subset.wasm');
  const { instance } = await WebAssembly.instantiate(await readFile(path));
  const exports = instance.exports as unknown as Subsetter;
  exports._initialize();
  return exports;
};

const tagOf = (tag: string): number => Buffer.from(tag.padEnd(4).slice(0, 4), 'latin1').readUInt32BE();

/** The part of a font to keep. */
export interface FontPart {
  /** Glyphs that keep their numbers. */
  glyphs?: Iterable<number>;
  /** Characters, with all the forms that features make of them. */
  codePoints?: Iterable<number>;
  /** A position in design space to fix the font at; axes that are not named stay free. */
  axes?: AxisValues;
}

/**
 * A font with only a part of its glyphs.
 * @param sfnt a TTF or OTF file. @throws Error where the font can't be taken apart
 */
export async function subsetFont(sfnt: Uint8Array, { glyphs = [], codePoints = [], axes = {} }: FontPart): Promise<Uint8Array> {
  const hb = await (loading ??= load());
  const data = hb.malloc(sfnt.byteLength);
  new Uint8Array(hb.memory.buffer).set(sfnt, data);
  const blob = hb.hb_blob_create(data, sfnt.byteLength, WRITABLE, 0, 0);
  const face = hb.hb_face_create(blob, 0);
  hb.hb_blob_destroy(blob);
  const input = hb.hb_subset_input_create_or_fail();
  try {
    const features = hb.hb_subset_input_set(input, LAYOUT_FEATURES);
    hb.hb_set_clear(features);
    hb.hb_set_invert(features);
    const keepsNumbers = [...glyphs];
    if (keepsNumbers.length > 0) hb.hb_subset_input_set_flags(input, RETAIN_GLYPH_IDS);
    for (const glyph of keepsNumbers) hb.hb_set_add(hb.hb_subset_input_glyph_set(input), glyph);
    for (const point of codePoints) hb.hb_set_add(hb.hb_subset_input_unicode_set(input), point);
    for (const [tag, value] of Object.entries(axes)) hb.hb_subset_input_pin_axis_location(input, face, tagOf(tag), value);
    const part = hb.hb_subset_or_fail(face, input);
    if (part === 0) throw new Error('The font can’t be taken apart');
    const result = hb.hb_face_reference_blob(part);
    const bytes = new Uint8Array(hb.memory.buffer, hb.hb_blob_get_data(result, 0), hb.hb_blob_get_length(result)).slice();
    hb.hb_blob_destroy(result);
    hb.hb_face_destroy(part);
    if (bytes.byteLength === 0) throw new Error('The font can’t be taken apart');
    return bytes;
  } finally {
    hb.hb_subset_input_destroy(input);
    hb.hb_face_destroy(face);
    hb.free(data);
  }
}
