/**
 * The one door to HarfBuzz (WebAssembly).
 *
 * harfbuzzjs frees its objects only through a FinalizationRegistry, which never runs inside a synchronous
 * loop. While the module loads, its registry is replaced by one that remembers each clean-up, so that `freeMemory`
 * can free an object at once. Where a later harfbuzzjs stops using a registry, `freeMemory` does nothing and the
 * garbage collector is left to it; `face.spec.ts` notices.
 *
 * While it loads, its WebAssembly instance is remembered as well, so that glyphs are read straight from its memory: harfbuzzjs itself
 * makes two objects and a call for each. Without the instance its own methods are used; `face.spec.ts` holds both to the same answers.
 */
import type * as HarfBuzz from 'harfbuzzjs';

export type { Buffer as HbBuffer, Face as HbFace, Feature as HbFeature, Font as HbFont } from 'harfbuzzjs';

const cleanups = new WeakMap<WeakKey, () => void>();
const registries = new WeakMap<WeakKey, FinalizationRegistry<unknown>>();

let loading: Promise<typeof HarfBuzz> | undefined;
let loaded: typeof HarfBuzz | undefined;

/** Loads HarfBuzz once. Resolves to the same module for every caller; call it before anything else here. */
export function loadHarfBuzz(): Promise<typeof HarfBuzz> {
  loading ??= load();
  return loading;
}

async function load(): Promise<typeof HarfBuzz> {
  const Native = globalThis.FinalizationRegistry;
  class RememberingRegistry<T> extends Native<T> {
    override register(target: WeakKey, held: T, token?: WeakKey): void {
      super.register(target, held, token ?? target);
      if (typeof held === 'function' && token === undefined) {
        cleanups.set(target, held as () => void);
        registries.set(target, this);
      }
    }
  }
  const { instantiate, instantiateStreaming } = WebAssembly;
  const remember = <T extends { instance: WebAssembly.Instance }>(source: T): T => {
    if ('hb_buffer_get_glyph_infos' in source.instance.exports) native = source.instance.exports as unknown as NativeHarfBuzz;
    return source;
  };
  globalThis.FinalizationRegistry = RememberingRegistry;
  WebAssembly.instantiate = ((bytes: BufferSource, imports?: WebAssembly.Imports) => instantiate(bytes, imports).then(remember)) as typeof instantiate;
  WebAssembly.instantiateStreaming = (source, imports) => instantiateStreaming(source, imports).then(remember);
  try {
    loaded = await import('harfbuzzjs');
    return loaded;
  } finally {
    globalThis.FinalizationRegistry = Native;
    Object.assign(WebAssembly, { instantiate, instantiateStreaming });
  }
}

/** HarfBuzz's own functions that are used, by their names in C (hb-buffer.h). */
interface NativeHarfBuzz {
  memory: WebAssembly.Memory;
  hb_buffer_get_glyph_infos(buffer: number, length: number): number;
  hb_buffer_get_glyph_positions(buffer: number, length: number): number;
  malloc(bytes: number): number;
  free(place: number): void;
  hb_language_from_string(text: number, length: number): number;
  hb_buffer_set_language(buffer: number, language: number): void;
}
let native: NativeHarfBuzz | undefined;

/** Languages that HarfBuzz has been told of: it keeps them for good. */
const languages = new Map<string, number>();

/** Says what language a buffer's text is in. harfbuzzjs has no method for it; without the instance the text has none. @param language BCP 47, in ASCII. */
export function setLanguage(buffer: HarfBuzz.Buffer, language: string): void {
  if (!native) return;
  let known = languages.get(language);
  if (known === undefined) {
    const place = native.malloc(language.length);
    if (place === 0) return;
    new Uint8Array(native.memory.buffer, place, language.length).set(Uint8Array.from(language, (letter) => letter.charCodeAt(0)));
    known = native.hb_language_from_string(place, language.length);
    native.free(place);
    languages.set(language, known);
  }
  native.hb_buffer_set_language(buffer.ptr, known);
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

/** The glyphs of a shaped buffer, in visual order. @param direct false has harfbuzzjs read them. */
export function glyphsIn(buffer: HarfBuzz.Buffer, direct = true): ShapedGlyph[] {
  if (!native || !direct) return glyphsByMethods(buffer);
  const count = buffer.getLength();
  const [info, position] = [native.hb_buffer_get_glyph_infos(buffer.ptr, 0), native.hb_buffer_get_glyph_positions(buffer.ptr, 0)];
  if (info === 0 || position === 0) return [];
  const infos = new Uint32Array(native.memory.buffer, info, count * WORDS);
  const positions = new Int32Array(native.memory.buffer, position, count * WORDS);
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

function glyphsByMethods(buffer: HarfBuzz.Buffer): ShapedGlyph[] {
  const positions = buffer.getGlyphPositions();
  return buffer.getGlyphInfos().map(({ codepoint, cluster, flags }, i) => {
    const { xAdvance = 0, xOffset = 0, yOffset = 0 } = positions[i] ?? {};
    return { glyphId: codepoint, cluster, xAdvance, xOffset, yOffset, unsafeToBreak: (flags & UNSAFE_TO_BREAK) !== 0 };
  });
}

/**
 * The loaded module, for synchronous use.
 * @throws Error when `loadHarfBuzz` has not resolved yet.
 */
export function harfBuzz(): typeof HarfBuzz {
  if (!loaded) throw new Error('HarfBuzz is not loaded yet: await loadHarfBuzz() first');
  return loaded;
}

/** Frees the WebAssembly memory of a HarfBuzz object now. Safe to call twice; the object must not be used again. */
export function freeMemory(object: object): void {
  const cleanup = cleanups.get(object);
  if (!cleanup) return;
  cleanups.delete(object);
  registries.get(object)?.unregister(object);
  cleanup();
}
