/**
 * The one door to HarfBuzz: the WebAssembly module of the package `harfbuzzjs`, called by the C names it exports (harfbuzz.github.io).
 * Objects are freed by `free`; one that is forgotten is freed when the garbage collector finds it.
 */
import type { PathCommand } from './outline';

/** The functions that are used, by their names in C. Pointers and tags are numbers; `hb_bool_t` is 0 or 1. */
interface HarfBuzzExports {
  memory: WebAssembly.Memory;
  __indirect_function_table: WebAssembly.Table;
  __wasm_call_ctors(): void;
  malloc(bytes: number): number;
  free(place: number): void;
  hb_blob_create(data: number, length: number, mode: number, user: number, destroy: number): number;
  hb_blob_destroy(blob: number): void;
  hb_blob_get_data(blob: number, length: number): number;
  hb_blob_get_length(blob: number): number;
  hb_buffer_add_utf16(buffer: number, text: number, length: number, start: number, count: number): void;
  hb_buffer_clear_contents(buffer: number): void;
  hb_buffer_create(): number;
  hb_buffer_destroy(buffer: number): void;
  hb_buffer_get_glyph_infos(buffer: number, length: number): number;
  hb_buffer_get_glyph_positions(buffer: number, length: number): number;
  hb_buffer_get_length(buffer: number): number;
  hb_buffer_guess_segment_properties(buffer: number): void;
  hb_buffer_set_direction(buffer: number, direction: number): void;
  hb_buffer_set_language(buffer: number, language: number): void;
  hb_buffer_set_script(buffer: number, script: number): void;
  hb_draw_funcs_create(): number;
  hb_draw_funcs_set_close_path_func(funcs: number, func: number, user: number, destroy: number): void;
  hb_draw_funcs_set_cubic_to_func(funcs: number, func: number, user: number, destroy: number): void;
  hb_draw_funcs_set_line_to_func(funcs: number, func: number, user: number, destroy: number): void;
  hb_draw_funcs_set_move_to_func(funcs: number, func: number, user: number, destroy: number): void;
  hb_draw_funcs_set_quadratic_to_func(funcs: number, func: number, user: number, destroy: number): void;
  hb_face_collect_unicodes(face: number, set: number): void;
  hb_face_create(blob: number, index: number): number;
  hb_face_destroy(face: number): void;
  hb_face_get_upem(face: number): number;
  hb_face_reference_table(face: number, tag: number): number;
  hb_font_create(face: number): number;
  hb_font_destroy(font: number): void;
  hb_font_draw_glyph(font: number, glyph: number, funcs: number, data: number): void;
  hb_font_get_glyph_extents(font: number, glyph: number, extents: number): number;
  hb_font_get_glyph_h_advance(font: number, glyph: number): number;
  hb_font_get_h_extents(font: number, extents: number): number;
  hb_font_get_nominal_glyph(font: number, codePoint: number, glyph: number): number;
  hb_font_glyph_to_string(font: number, glyph: number, text: number, size: number): void;
  hb_font_set_variations(font: number, variations: number, count: number): void;
  hb_language_from_string(text: number, length: number): number;
  hb_ot_layout_feature_get_name_ids(...given: number[]): number;
  hb_ot_layout_table_get_feature_tags(face: number, table: number, start: number, count: number, tags: number): number;
  hb_ot_metrics_get_position(font: number, metric: number, position: number): number;
  hb_ot_name_get_utf16(face: number, name: number, language: number, size: number, text: number): number;
  hb_ot_var_get_axis_infos(face: number, start: number, count: number, axes: number): number;
  hb_script_from_string(text: number, length: number): number;
  hb_set_create(): number;
  hb_set_destroy(set: number): void;
  hb_set_get_population(set: number): number;
  hb_set_next_many(set: number, after: number, values: number, size: number): number;
  hb_shape(font: number, buffer: number, features: number, count: number): void;
}

/** `hb_memory_mode_t`: the blob owns what it is given. */
const WRITABLE = 2;
/** `hb_direction_t`. */
const DIRECTIONS = { right: 4, left: 5 } as const;
/** `HB_OT_NAME_ID_INVALID`. */
const NO_NAME = 0xffff;
/** The most memory it may grow to, in bytes: what 32 bits of the module's own limit allow. */
const MOST_MEMORY = 2 ** 31;
const PAGE = 65_536;
/** Room for what functions answer in, in bytes: 64 axes of 32, or 128 tags, or a name of a glyph. */
const SCRATCH = 2304;

let loading: Promise<void> | undefined;
let hb: HarfBuzzExports | undefined;
let scratch = 0;

/** Loads HarfBuzz once. Await it before anything else here. */
export function loadHarfBuzz(): Promise<void> {
  // Where it could not be fetched, the next who asks tries again.
  loading ??= load().catch((error: unknown) => {
    loading = undefined;
    throw error;
  });
  return loading;
}

async function load(): Promise<void> {
  const { instance } = await instantiate({
    env: {
      emscripten_resize_heap: grow,
      _abort_js: () => {
        throw new WebAssembly.RuntimeError('HarfBuzz gave up');
      },
      _emscripten_runtime_keepalive_clear: () => undefined,
      _setitimer_js: () => 0,
    },
    wasi_snapshot_preview1: {
      proc_exit: () => {
        throw new WebAssembly.RuntimeError('HarfBuzz ended');
      },
    },
  });
  hb = instance.exports as unknown as HarfBuzzExports;
  hb.__wasm_call_ctors();
  scratch = hb.malloc(SCRATCH);
}

/** Node reads the module from its package; the page fetches it from beside its scripts. */
async function instantiate(imports: WebAssembly.Imports): Promise<WebAssembly.WebAssemblyInstantiatedSource> {
  const node = (globalThis as { process?: { getBuiltinModule?: (name: string) => unknown } }).process?.getBuiltinModule;
  if (node) {
    const { createRequire } = node('module') as { createRequire: (from: string) => { resolve: (path: string) => string } };
    const { readFile } = node('fs/promises') as { readFile: (path: string) => Promise<Uint8Array<ArrayBuffer>> };
    return WebAssembly.instantiate(await readFile(createRequire(import.meta.url).resolve('harfbuzzjs/dist/harfbuzz.wasm')), imports);
  }
  const answer = await fetch(new URL('harfbuzz.wasm', import.meta.url));
  if (!answer.ok) throw new Error('HarfBuzz can’t be fetched.');
  // Some servers of files say another type than `application/wasm`, which streaming insists on.
  return answer.headers.get('content-type')?.startsWith('application/wasm')
    ? WebAssembly.instantiateStreaming(answer, imports)
    : WebAssembly.instantiate(await answer.arrayBuffer(), imports);
}

/** Makes the memory larger: by a fifth more than is needed, so that it isn't asked again at once. @returns 1 where it could */
function grow(needed: number): number {
  const memory = loaded().memory;
  const bytes = needed >>> 0;
  if (bytes > MOST_MEMORY) return 0;
  for (const room of [Math.min(MOST_MEMORY, bytes * 1.2), bytes]) {
    try {
      memory.grow(Math.ceil((room - memory.buffer.byteLength) / PAGE));
      return 1;
    } catch {
      // With less it may go.
    }
  }
  return 0;
}

/** @throws Error when `loadHarfBuzz` has not resolved yet */
function loaded(): HarfBuzzExports {
  if (!hb) throw new Error('HarfBuzz is not loaded yet: await loadHarfBuzz() first');
  return hb;
}

const tagOf = (tag: string): number =>
  ((tag.charCodeAt(0) & 255) << 24) | ((tag.charCodeAt(1) & 255) << 16) | ((tag.charCodeAt(2) & 255) << 8) | (tag.charCodeAt(3) & 255);
const tagText = (tag: number): string => String.fromCharCode((tag >> 24) & 255, (tag >> 16) & 255, (tag >> 8) & 255, tag & 255);

/** The memory as it is now: it moves when it grows. */
const bytes = (place: number, length: number): Uint8Array<ArrayBuffer> => new Uint8Array(loaded().memory.buffer, place, length);
const words = (place: number, count: number): Uint32Array => new Uint32Array(loaded().memory.buffer, place, count);
const signed = (place: number, count: number): Int32Array => new Int32Array(loaded().memory.buffer, place, count);

/** Room in its memory, in bytes. @throws WebAssembly.RuntimeError where there is none left: what HarfBuzz holds then can't be trusted */
function allocate(length: number): number {
  const place = loaded().malloc(length);
  if (place === 0) throw new WebAssembly.RuntimeError('HarfBuzz has no memory left.');
  return place;
}

/** Hands a text over for the time of a call. @param width bytes of a character: 1 for ASCII, 2 for UTF-16 */
function withText<T>(text: string, width: 1 | 2, use: (place: number) => T): T {
  const place = allocate(Math.max(1, text.length * width));
  const room = width === 1 ? bytes(place, text.length) : new Uint16Array(loaded().memory.buffer, place, text.length);
  for (let i = 0; i < text.length; i++) room[i] = text.charCodeAt(i);
  try {
    return use(place);
  } finally {
    loaded().free(place);
  }
}

/** Where a block of so many bytes would lie in its memory: for specs, since it climbs when memory leaks. */
export function freePlace(length: number): number {
  const place = loaded().malloc(length);
  loaded().free(place);
  return place;
}

/** Languages that HarfBuzz has been told of: it keeps them for good. */
const languages = new Map<string, number>();

/** @param language BCP 47, in ASCII */
function languageOf(language: string): number {
  let known = languages.get(language);
  if (known === undefined) {
    known = withText(language, 1, (place) => loaded().hb_language_from_string(place, language.length));
    languages.set(language, known);
  }
  return known;
}

const forgotten = new FinalizationRegistry<() => void>((destroy) => destroy());
/** Apart from the object it belongs to, which it would keep. */
const destroyer = (destroy: (pointer: number) => void, pointer: number) => (): void => destroy(pointer);

/** Something in HarfBuzz's memory. */
abstract class Held {
  private destroy: (() => void) | undefined;

  protected constructor(
    protected readonly pointer: number,
    destroy: (pointer: number) => void,
  ) {
    this.destroy = destroyer(destroy, pointer);
    forgotten.register(this, this.destroy, this);
  }

  /** Frees its memory now. Safe to call twice; the object must not be used again. */
  free(): void {
    if (!this.destroy) return;
    forgotten.unregister(this);
    this.destroy();
    this.destroy = undefined;
  }
}

/** An axis of a variable font. */
export interface AxisInfo {
  tag: string;
  nameId: number;
  min: number;
  default: number;
  max: number;
}

/** A font file. */
export class HbFace extends Held {
  readonly unitsPerEm: number;

  /** @param sfnt a TTF or OTF file, which is copied */
  constructor(sfnt: Uint8Array) {
    const own = loaded();
    const place = allocate(sfnt.byteLength);
    bytes(place, sfnt.byteLength).set(sfnt);
    const blob = own.hb_blob_create(place, sfnt.byteLength, WRITABLE, place, freeFunction());
    super(own.hb_face_create(blob, 0), own.hb_face_destroy);
    // The face holds its own reference.
    own.hb_blob_destroy(blob);
    this.unitsPerEm = own.hb_face_get_upem(this.pointer);
  }

  /** A font at a position in the design space. */
  fontAt(variations: readonly { tag: string; value: number }[]): HbFont {
    return new HbFont(this.pointer, variations);
  }

  /** A copy of a table; undefined where it is empty or missing. */
  table(tag: string): Uint8Array<ArrayBuffer> | undefined {
    const own = loaded();
    const blob = own.hb_face_reference_table(this.pointer, tagOf(tag));
    const length = own.hb_blob_get_length(blob);
    const copy = length > 0 ? bytes(own.hb_blob_get_data(blob, 0), length).slice() : undefined;
    own.hb_blob_destroy(blob);
    return copy;
  }

  /** A name in English; empty where there is none. */
  nameText(nameId: number): string {
    const own = loaded();
    const language = languageOf('en');
    const length = own.hb_ot_name_get_utf16(this.pointer, nameId, language, 0, 0);
    const place = allocate((length + 1) * 2);
    words(scratch, 1)[0] = length + 1;
    own.hb_ot_name_get_utf16(this.pointer, nameId, language, scratch, place);
    const text = Array.from(new Uint16Array(own.memory.buffer, place, length), (code) => String.fromCharCode(code)).join('');
    own.free(place);
    return text;
  }

  /** The axes, by their tags: no more than 64. */
  axes(): Map<string, AxisInfo> {
    const own = loaded();
    const [count, at] = [scratch, scratch + 4];
    words(count, 1)[0] = 64;
    own.hb_ot_var_get_axis_infos(this.pointer, 0, count, at);
    const view = new DataView(own.memory.buffer);
    const found = new Map<string, AxisInfo>();
    for (let i = 0; i < view.getUint32(count, true); i++) {
      const axis = at + i * 32;
      const tag = tagText(view.getUint32(axis + 4, true));
      const [min, initial, max] = [16, 20, 24].map((offset) => view.getFloat32(axis + offset, true)) as [number, number, number];
      found.set(tag, { tag, nameId: view.getUint32(axis + 8, true), min, default: initial, max });
    }
    return found;
  }

  /** The features of `GSUB` or `GPOS`, in the order of the table. */
  features(table: 'GSUB' | 'GPOS'): string[] {
    const own = loaded();
    const [count, at, most] = [scratch, scratch + 4, 128];
    const found: string[] = [];
    for (let got = most; got === most;) {
      words(count, 1)[0] = most;
      own.hb_ot_layout_table_get_feature_tags(this.pointer, tagOf(table), found.length, count, at);
      [got = 0] = words(count, 1);
      found.push(...Array.from(words(at, got), tagText));
    }
    return found;
  }

  /** The name of a feature of `GSUB`, by its number; undefined where it has none. */
  featureNameId(index: number): number | undefined {
    const places = [0, 4, 8, 12, 16].map((offset) => scratch + offset);
    const found = loaded().hb_ot_layout_feature_get_name_ids(this.pointer, tagOf('GSUB'), index, ...places);
    const [label = NO_NAME] = words(scratch, 1);
    return found && label !== NO_NAME ? label : undefined;
  }

  /** The code points it has letters for, ascending. */
  codePoints(): number[] {
    const own = loaded();
    const set = own.hb_set_create();
    own.hb_face_collect_unicodes(this.pointer, set);
    const count = own.hb_set_get_population(set);
    const place = allocate(Math.max(4, count * 4));
    own.hb_set_next_many(set, -1, place, count);
    const found = Array.from(words(place, count));
    own.free(place);
    own.hb_set_destroy(set);
    return found;
  }
}

/** A font at a position in its design space, in font units. */
export class HbFont extends Held {
  /** @param face its place; the font holds a reference. @param variations axes that are not at their defaults */
  constructor(face: number, variations: readonly { tag: string; value: number }[]) {
    const own = loaded();
    super(own.hb_font_create(face), own.hb_font_destroy);
    if (variations.length === 0) return;
    const place = allocate(variations.length * 8);
    const view = new DataView(own.memory.buffer, place);
    variations.forEach(({ tag, value }, i) => {
      view.setUint32(i * 8, tagOf(tag), true);
      view.setFloat32(i * 8 + 4, value, true);
    });
    own.hb_font_set_variations(this.pointer, place, variations.length);
    own.free(place);
  }

  /** @param features ranges of UTF-16 offsets in the text; to its ends where absent */
  shape(buffer: HbBuffer, features: readonly { tag: string; value: number; start?: number; end?: number }[]): void {
    const own = loaded();
    const place = features.length === 0 ? 0 : allocate(features.length * 16);
    const room = words(place, features.length * 4);
    features.forEach(({ tag, value, start = 0, end = 0xffffffff }, i) => room.set([tagOf(tag) >>> 0, value, start, end], i * 4));
    own.hb_shape(this.pointer, buffer.place, place, features.length);
    if (place !== 0) own.free(place);
  }

  /** The outline of a glyph, y up. */
  outline(glyphId: number): PathCommand[] {
    drawn = [];
    loaded().hb_font_draw_glyph(this.pointer, glyphId, drawFunctions(), 0);
    return drawn;
  }

  advance(glyphId: number): number {
    return loaded().hb_font_get_glyph_h_advance(this.pointer, glyphId);
  }

  glyphName(glyphId: number): string {
    const most = 256;
    loaded().hb_font_glyph_to_string(this.pointer, glyphId, scratch, most);
    const text = bytes(scratch, most);
    return new TextDecoder().decode(text.slice(0, text.indexOf(0)));
  }

  nominalGlyph(codePoint: number): number | undefined {
    return loaded().hb_font_get_nominal_glyph(this.pointer, codePoint, scratch) ? words(scratch, 1)[0] : undefined;
  }

  /** The top of a glyph's ink; undefined where the font can't tell. */
  topOf(glyphId: number): number | undefined {
    return loaded().hb_font_get_glyph_extents(this.pointer, glyphId, scratch) ? signed(scratch, 2)[1] : undefined;
  }

  verticals(): { ascender: number; descender: number; lineGap: number } {
    signed(scratch, 3).fill(0);
    loaded().hb_font_get_h_extents(this.pointer, scratch);
    const [ascender = 0, descender = 0, lineGap = 0] = signed(scratch, 3);
    return { ascender, descender, lineGap };
  }

  /** A metric that the font states itself (OpenType, `MVAR` value tags): such as `cpht`; undefined where it does not. */
  metric(tag: string): number | undefined {
    return loaded().hb_ot_metrics_get_position(this.pointer, tagOf(tag), scratch) ? signed(scratch, 1)[0] : undefined;
  }
}

/** Text on its way to glyphs. */
export class HbBuffer extends Held {
  constructor() {
    super(loaded().hb_buffer_create(), loaded().hb_buffer_destroy);
  }

  get place(): number {
    return this.pointer;
  }

  /**
   * Fills it anew with `text.slice(start, end)`; the rest is context.
   * @param script ISO 15924; guessed where absent, as is the way letters run. @param language BCP 47, in ASCII
   */
  fill(
    text: string,
    start: number,
    end: number,
    { script, runs, language }: { script?: string | undefined; runs?: 'left' | 'right' | undefined; language?: string | undefined },
  ): void {
    const own = loaded();
    own.hb_buffer_clear_contents(this.pointer);
    withText(text, 2, (place) => own.hb_buffer_add_utf16(this.pointer, place, text.length, start, end - start));
    if (script)
      own.hb_buffer_set_script(
        this.pointer,
        withText(script, 1, (place) => own.hb_script_from_string(place, script.length)),
      );
    if (runs) own.hb_buffer_set_direction(this.pointer, DIRECTIONS[runs]);
    if (language) own.hb_buffer_set_language(this.pointer, languageOf(language));
    own.hb_buffer_guess_segment_properties(this.pointer);
  }

  /** The glyphs of shaped text, in visual order; none where memory was exhausted. */
  glyphs(): ShapedGlyph[] {
    const own = loaded();
    const count = own.hb_buffer_get_length(this.pointer);
    const [info, position] = [own.hb_buffer_get_glyph_infos(this.pointer, 0), own.hb_buffer_get_glyph_positions(this.pointer, 0)];
    if (info === 0 || position === 0) return [];
    const infos = words(info, count * WORDS);
    const positions = signed(position, count * WORDS);
    const glyphs = new Array<ShapedGlyph>(count);
    for (let i = 0, at = 0; i < count; i++, at += WORDS) {
      glyphs[i] = {
        glyphId: infos[at] ?? 0,
        cluster: infos[at + 2] ?? 0,
        xAdvance: positions[at] ?? 0,
        xOffset: positions[at + 2] ?? 0,
        yOffset: positions[at + 3] ?? 0,
        unsafeToBreak: ((infos[at + 1] ?? 0) & UNSAFE_TO_BREAK) !== 0,
      };
    }
    return glyphs;
  }
}

/** One glyph as HarfBuzz placed it (`hb_glyph_info_t` and `hb_glyph_position_t`); distances in font units. */
export interface ShapedGlyph {
  glyphId: number;
  /** The font's own kerning before the next glyph, in font units, where it was looked up but is not applied. */
  fontKern?: number;
  /** UTF-16 offset in the text of the first code unit this glyph stands for. */
  cluster: number;
  xAdvance: number;
  xOffset: number;
  yOffset: number;
  /** True when the line can't be cut before this glyph without shaping both halves again. */
  unsafeToBreak: boolean;
}

/** Both structures are five words of 32 bits: codepoint, mask, cluster and two of its own; advances, offsets and one of its own. */
const WORDS = 5;
const UNSAFE_TO_BREAK = 1;

let drawn: PathCommand[] = [];
let functions: number | undefined;

/** The functions that take an outline down into `drawn` (hb-draw.h: each is given funcs, data, state, its coordinates, and user data). */
function drawFunctions(): number {
  if (functions !== undefined) return functions;
  const own = loaded();
  functions = own.hb_draw_funcs_create();
  const to =
    (type: PathCommand['type']) =>
    (_funcs: number, _data: number, _state: number, ...given: number[]): void =>
      void drawn.push({ type, values: given.slice(0, -1) });
  own.hb_draw_funcs_set_move_to_func(functions, placeInTable(to('M'), 'iiiffi'), 0, 0);
  own.hb_draw_funcs_set_line_to_func(functions, placeInTable(to('L'), 'iiiffi'), 0, 0);
  own.hb_draw_funcs_set_quadratic_to_func(functions, placeInTable(to('Q'), 'iiiffffi'), 0, 0);
  own.hb_draw_funcs_set_cubic_to_func(functions, placeInTable(to('C'), 'iiiffffffi'), 0, 0);
  own.hb_draw_funcs_set_close_path_func(functions, placeInTable(to('Z'), 'iiii'), 0, 0);
  return functions;
}

let freeing: number | undefined;
/** The function by which a blob frees its bytes. */
const freeFunction = (): number => (freeing ??= placeInTable((place: number) => loaded().free(place), 'i'));

/**
 * Gives HarfBuzz a function to call. A table takes only functions of a WebAssembly module: this makes one that hands its call on
 * (WebAssembly 1.0, binary format: sections type, import and export).
 * @param parameters a letter each: `i` for 32 bits, `f` for a float. @returns its place in the table
 */
function placeInTable(call: (...given: number[]) => void, parameters: string): number {
  const types = Array.from(parameters, (kind) => (kind === 'f' ? 0x7d : 0x7f));
  const section = (id: number, content: readonly number[]): number[] => [id, content.length, ...content];
  const [e, f] = [0x65, 0x66];
  const module = new WebAssembly.Module(
    Uint8Array.of(
      ...[0x00, 0x61, 0x73, 0x6d, 0x01, 0x00, 0x00, 0x00],
      ...section(1, [1, 0x60, types.length, ...types, 0]),
      ...section(2, [1, 1, e, 1, f, 0, 0]),
      ...section(7, [1, 1, f, 0, 0]),
    ),
  );
  const { __indirect_function_table: table } = loaded();
  const place = table.grow(1);
  table.set(place, new WebAssembly.Instance(module, { e: { f: call } }).exports['f']);
  return place;
}
