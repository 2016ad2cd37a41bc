import { keptBy } from '../base';
import { collectionSize } from './collection';
import { type Woff2Decoder, unpackFont } from './container';
import { FaceError } from './errors';
import { extremesOf } from './extremes';
import { HbBuffer, HbFace, type HbFont, type ShapedGlyph, loadHarfBuzz } from './harfbuzz';
import type { FeatureRange } from './features';
import { type KernLookup, applyKerning, readKerning } from './kern';
import { combiningMarksOf, placeMarks } from './marks';
import type { Bounds, Outline } from './outline';
import { type MathScripts, readMathScripts } from './math';
import { type Posture, readPosture } from './posture';
import { OTTO, TRUE_TYPE, type TableData, checkSfnt, withoutTables, writeSfnt } from './sfnt';

/** Design-space position: axis tag to value in the axis's own units. */
export type AxisValues = Readonly<Record<string, number>>;

/** One axis of a variable font (OpenType `fvar`). */
export interface Axis {
  tag: string;
  name: string;
  min: number;
  default: number;
  max: number;
}

/** Vertical metrics in font units, y up (so `descender` is usually negative). */
export interface FaceMetrics {
  ascender: number;
  descender: number;
  lineGap: number;
  capHeight: number;
  xHeight: number;
  /** Top of the underline and of the strike-through, and how thick they are (`post`, `OS/2`). */
  underlineOffset: number;
  underlineSize: number;
  strikeOffset: number;
  strikeSize: number;
}

export interface OpenOptions {
  decodeWoff2?: Woff2Decoder;
  /** Tables that are taken out before the font is opened, such as `GPOS`. */
  withoutTables?: readonly string[];
  /** Which font of a collection, from 0. */
  font?: number;
}

/** How many axis positions of one face are kept alive at a time. */
const MAX_INSTANCES = 24;
/** How many outlines and advances one instance remembers. */
const MAX_CACHED_GLYPHS = 4096;
/** HarfBuzz as built writes past its stack (64 KB) from 4,096 features of 16 bytes each. */
const MAX_FEATURES = 2000;

/** The shaper is in no known state any more: it has to be thrown away. */
export class ShaperError extends Error {
  override readonly name = 'ShaperError';
}

/** A face at one position in its design space: shapes text and draws glyphs. */
export class FaceInstance {
  private readonly outlines = new Map<number, Outline>();
  private readonly advances = new Map<number, number>();
  private readonly bounds = new Map<number, Bounds | null>();
  private measured: FaceMetrics | undefined;
  /** A buffer for shaping, kept for the next text. */
  private buffer: HbBuffer | undefined;

  constructor(
    /** The face this is an instance of. */
    readonly face: Face,
    /** Distinguishes instances of one face, e.g. `wght=700`; empty for the default position. */
    readonly key: string,
    private readonly font: HbFont,
  ) {}

  get unitsPerEm(): number {
    return this.face.unitsPerEm;
  }

  /** Vertical metrics at this position. */
  get metrics(): FaceMetrics {
    this.measured ??= measureMetrics(this.font, this);
    return this.measured;
  }

  /** Size and rise of superiors and inferiors as `MATH` or else `OS/2` state them, in em, whichever way the table counts; undefined where none does. */
  get scripts(): Readonly<Record<'superior' | 'inferior', { size: number | undefined; rise: number | undefined }>> {
    const stated = (tag: string): number | undefined => {
      const value = this.font.metric(tag);
      return value === undefined || value === 0 ? undefined : Math.abs(value) / this.unitsPerEm;
    };
    const math = this.face.mathScripts;
    if (math) {
      const { size, superiorRise, inferiorDrop } = math;
      return {
        superior: { size, rise: Math.abs(superiorRise) / this.unitsPerEm },
        inferior: { size, rise: Math.abs(inferiorDrop) / this.unitsPerEm },
      };
    }
    return {
      superior: { size: stated('spys'), rise: stated('spyo') },
      inferior: { size: stated('sbys'), rise: stated('sbyo') },
    };
  }

  /** Heights of capitals and small letters by the font's word where it has one: no letter is looked up for them. */
  get statedHeights(): Pick<FaceMetrics, 'capHeight' | 'xHeight'> {
    const { capHeight, xHeight } = statedHeights(this.font, this.unitsPerEm);
    return { capHeight: capHeight ?? this.metrics.capHeight, xHeight: xHeight ?? this.metrics.xHeight };
  }

  /**
   * Shapes `text.slice(start, end)` with its surroundings as context.
   * @param features OpenType features over ranges; later ones win.
   * @param script ISO 15924 tag; guessed from the letters where absent.
   * @param language BCP 47: chooses forms of letters where a font has several (`locl`).
   * @returns glyphs in visual order.
   * @throws ShaperError or WebAssembly.RuntimeError when its memory is exhausted; RangeError for more features than the shaper can take.
   */
  shape(
    text: string,
    start: number,
    end: number,
    features: readonly FeatureRange[] = [],
    script?: string,
    runs?: 'left' | 'right',
    language?: string,
  ): ShapedGlyph[] {
    if (end <= start) return [];
    const shown = this.face.symbols ? inSymbols(text) : text;
    if (features.length > MAX_FEATURES) throw new RangeError(`${features.length} features are more than the shaper takes at a time.`);
    this.buffer ??= new HbBuffer();
    this.buffer.fill(shown, start, end, { script, runs, language });
    this.font.shape(this.buffer, features);
    const glyphs = this.buffer.glyphs();
    if (glyphs.length === 0) throw new ShaperError('HarfBuzz returned nothing: its memory is exhausted');
    const { kerning, placesMarks } = this.face;
    if (kerning || !placesMarks) {
      const marks = combiningMarksOf(glyphs, text.slice(0, end), this);
      if (marks.size > 0 && !placesMarks) placeMarks(glyphs, marks, this);
      if (kerning) applyKerning(glyphs, kerning, features, (glyph) => marks.has(glyph));
    }
    return glyphs;
  }

  /** A glyph's outline in font units, y up; cached. */
  outline(glyphId: number): Outline {
    return keptBy(this.outlines, glyphId, MAX_CACHED_GLYPHS, () => this.font.outline(glyphId));
  }

  /** The box of a glyph's ink in font units, y up, by its curves' own extremes: what fonts state is often wider. Undefined without ink. */
  inkBounds(glyphId: number): Bounds | undefined {
    return keptBy(this.bounds, glyphId, MAX_CACHED_GLYPHS, () => extremesOf(this.outline(glyphId)) ?? null) ?? undefined;
  }

  /** A glyph's own horizontal advance in font units, before any positioning feature. */
  advance(glyphId: number): number {
    return keptBy(this.advances, glyphId, MAX_CACHED_GLYPHS, () => this.font.advance(glyphId));
  }

  /** The font's name for a glyph; `gid` and its number where it has no names. */
  glyphName(glyphId: number): string {
    return this.font.glyphName(glyphId);
  }

  /** The glyph of one Unicode code point, or undefined where the face has none. */
  nominalGlyph(codePoint: number): number | undefined {
    return this.font.nominalGlyph(codePoint) ?? (this.face.symbols && codePoint < 0x100 ? this.font.nominalGlyph(SYMBOLS + codePoint) : undefined);
  }

  /** Frees the WebAssembly side. Only `Face` calls this. */
  dispose(): void {
    this.font.free();
    this.buffer?.free();
    this.outlines.clear();
    this.advances.clear();
    this.bounds.clear();
  }
}

/** A font file opened: names, metrics, axes, features, and instances that shape and draw. */
export class Face {
  private readonly instances = new Map<string, FaceInstance>();
  private closed = false;
  private measuredPosture: Posture | undefined;
  private readMath: { scripts: MathScripts | undefined } | undefined;
  /** The one instance of a static face, found without a key. */
  private onlyInstance: FaceInstance | undefined;

  private constructor(
    private readonly hbFace: HbFace,
    /** Typographic family (name ID 16, else 1). */
    readonly family: string,
    /** Typographic style (name ID 17, else 2). */
    readonly style: string,
    readonly unitsPerEm: number,
    readonly glyphCount: number,
    /** Axes of a variable font, in `fvar` order; empty for a static one. */
    readonly axes: readonly Axis[],
    /** Tags of all GSUB and GPOS features, and `kern` where an older table holds kerning; sorted, each once. */
    readonly features: readonly string[],
    /** The kerning of a table older than GPOS, where GPOS has none. */
    readonly kerning: KernLookup | undefined,
    /** False where the font does not say where marks go. */
    readonly placesMarks: boolean,
    /** True for a font whose characters are symbols in the private use area, U+F000 to U+F0FF, for those of one byte (`cmap` 3.0). */
    readonly symbols: boolean,
    /** The tables of the file, in their order. */
    private readonly tables: readonly { tag: string; checksum: number }[],
  ) {}

  /**
   * Opens a TTF, OTF or WOFF file or one font of a collection, and WOFF2 where a decoder is given.
   * @throws FaceError saying what is wrong with the file; nothing is kept then.
   */
  static async open(bytes: Uint8Array, { decodeWoff2, withoutTables: leftOut = [], font }: OpenOptions = {}): Promise<Face> {
    const unpacked = await unpackFont(bytes, decodeWoff2, font);
    const { glyphCount, unitsPerEm, tables } = checkSfnt(unpacked);
    const sfnt = leftOut.length > 0 ? withoutTables(unpacked, leftOut) : unpacked;
    await loadHarfBuzz();
    const hbFace = new HbFace(sfnt);
    try {
      if (hbFace.unitsPerEm !== unitsPerEm) throw new FaceError('damaged', 'The “head” table can’t be read.');
      const axes = tables.has('fvar') ? readAxes(hbFace) : [];
      const family = readName(hbFace, [16, 1]) || 'Unnamed';
      const style = readName(hbFace, [17, 2]) || 'Regular';
      const positioning = hbFace.features('GPOS');
      // Copies: what is kept of a table must not keep the whole file.
      const table = (tag: string): Uint8Array | undefined => {
        const record = leftOut.includes(tag) ? undefined : tables.get(tag);
        return record && unpacked.slice(record.offset, record.offset + record.length);
      };
      const kerning = positioning.includes('kern') ? undefined : readKerning(table);
      const features = [...new Set([...hbFace.features('GSUB'), ...positioning, ...(kerning ? ['kern'] : [])])].sort();
      const symbols = hasOnlySymbols(table('cmap'));
      const kept = [...tables.values()].filter(({ tag }) => !leftOut.includes(tag)).map(({ tag, checksum }) => ({ tag, checksum }));
      return new Face(hbFace, family, style, unitsPerEm, glyphCount, axes, features, kerning, positioning.includes('mark'), symbols, kept);
    } catch (error) {
      hbFace.free();
      throw error;
    }
  }

  /** Vertical metrics at the default position. */
  get metrics(): FaceMetrics {
    return this.instance().metrics;
  }

  /**
   * The face at a position in its design space. Values are clamped to the axes' ranges, unknown axes ignored.
   * Instances are shared and bounded: the least recently asked for is freed.
   * @throws Error after `dispose`.
   */
  instance(values: AxisValues = {}): FaceInstance {
    if (this.closed) throw new Error('This face has been closed');
    if (this.axes.length === 0) {
      this.onlyInstance ??= this.make('', []);
      return this.onlyInstance;
    }
    const settings = this.axes
      .map((axis) => ({ tag: axis.tag, value: Math.min(axis.max, Math.max(axis.min, values[axis.tag] ?? axis.default)), axis }))
      .filter(({ value, axis }) => value !== axis.default);
    const key = settings.map(({ tag, value }) => `${tag}=${value}`).join(',');
    const known = this.instances.get(key);
    if (known) {
      this.instances.delete(key);
      this.instances.set(key, known);
      return known;
    }
    const made = this.make(key, settings);
    if (this.instances.size > MAX_INSTANCES) {
      const oldest = this.instances.entries().next().value;
      if (oldest) {
        this.instances.delete(oldest[0]);
        oldest[1].dispose();
      }
    }
    return made;
  }

  private make(key: string, settings: readonly { tag: string; value: number }[]): FaceInstance {
    const made = new FaceInstance(this, key, this.hbFace.fontAt(settings));
    this.instances.set(key, made);
    return made;
  }

  /** How heavy the face says it is, how far it leans, and whether it is an italic: from its tables, whatever its style is called. */
  get posture(): Posture {
    this.measuredPosture ??= readPosture((tag) => this.hbFace.table(tag));
    return this.measuredPosture;
  }

  /** The font as a plain TTF or OTF file. @throws Error after `dispose` */
  get sfnt(): Uint8Array {
    const tables = this.tableData;
    return writeSfnt(tables.some(({ tag }) => tag === 'CFF ' || tag === 'CFF2') ? OTTO : TRUE_TYPE, tables);
  }

  /** The tables of the file, in their order. @throws Error after `dispose` */
  get tableData(): TableData[] {
    if (this.closed) throw new Error('This face has been closed');
    return this.tables.flatMap(({ tag, checksum }) => {
      const data = this.hbFace.table(tag);
      return data ? [{ tag, checksum, data }] : [];
    });
  }

  /** Whether its maker lets it be put into files that are handed over (OpenType 1.9.1, `OS/2`, `fsType`), whole or only the glyphs that are used. */
  get embedding(): 'subset' | 'whole' | 'no' {
    const bits = this.rights;
    // Where several kinds of use are stated the least restrictive holds; outlines must not be embedded under “bitmaps only”.
    const kind = bits & 0x000e;
    if (kind === 0x0002 || bits & 0x0200) return 'no';
    return bits & 0x0100 ? 'whole' : 'subset';
  }

  /** Whether its maker lets the font itself be passed on to others, who may keep it (`fsType`: “installable”). */
  get installable(): boolean {
    return (this.rights & 0x000e) === 0;
  }

  /** `fsType`; 0, which restricts nothing, where the font has no `OS/2`. */
  private get rights(): number {
    const table = this.hbFace.table('OS/2');
    return table && table.byteLength >= 10 ? new DataView(table.buffer, table.byteOffset, table.byteLength).getUint16(8) : 0;
  }

  /** The constants for small letters in formulas, where the font has them (`MATH`). */
  get mathScripts(): MathScripts | undefined {
    this.readMath ??= { scripts: readMathScripts((tag) => this.hbFace.table(tag)) };
    return this.readMath.scripts;
  }

  /** The code points it has letters for, ascending. */
  get codePoints(): readonly number[] {
    return this.hbFace.codePoints();
  }

  /** The name the font gives a feature (stylistic sets, `ss01` to `ss20`), or undefined where it gives none. */
  featureName(tag: string): string | undefined {
    const index = this.hbFace.features('GSUB').indexOf(tag);
    const nameId = index < 0 ? undefined : this.hbFace.featureNameId(index);
    return (nameId && readName(this.hbFace, [nameId])) || undefined;
  }

  /** The named positions of a variable font (OpenType `fvar`, instance records). */
  get namedInstances(): { name: string; values: AxisValues }[] {
    if (this.axes.length === 0) return [];
    const bytes = this.hbFace.table('fvar');
    if (!bytes || bytes.byteLength < 16) return [];
    const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    const [offset, axisCount, axisSize, count, size] = [4, 8, 10, 12, 14].map((at) => view.getUint16(at));
    if (offset === undefined || axisCount === undefined || axisSize === undefined || count === undefined || size === undefined) return [];
    const tags = [...this.hbFace.axes().keys()];
    const found: { name: string; values: AxisValues }[] = [];
    for (let i = 0; i < Math.min(count, 200); i++) {
      const at = offset + axisCount * axisSize + i * size;
      if (at + 4 + axisCount * 4 > bytes.byteLength || tags.length !== axisCount) break;
      const name = readName(this.hbFace, [view.getUint16(at)]);
      const values = Object.fromEntries(tags.map((tag, axis) => [tag, view.getInt32(at + 4 + axis * 4) / 65536]));
      if (name) found.push({ name, values });
    }
    return found;
  }

  /** Frees the WebAssembly memory of the face and all its instances. */
  dispose(): void {
    if (this.closed) return;
    this.closed = true;
    for (const instance of this.instances.values()) instance.dispose();
    this.instances.clear();
    this.hbFace.free();
  }
}

/** A font of a collection, by its names. */
export interface CollectionEntry {
  /** Its number, from 0. */
  font: number;
  family: string;
  style: string;
}

/**
 * The fonts of a collection that can be opened.
 * @throws FaceError where the file is none, or none of its fonts can be opened: that of the first.
 */
export async function fontsIn(bytes: Uint8Array): Promise<CollectionEntry[]> {
  const found: CollectionEntry[] = [];
  let trouble: unknown;
  for (let font = 0; font < collectionSize(bytes); font++) {
    try {
      const face = await Face.open(bytes, { font });
      found.push({ font, family: face.family, style: face.style });
      face.dispose();
    } catch (error) {
      if (!(error instanceof FaceError)) throw error;
      trouble ??= error;
    }
  }
  if (found.length === 0) throw trouble;
  return found;
}

/** Where the characters of symbol fonts begin. */
const SYMBOLS = 0xf000;

/** A text with its characters of one byte in the place where symbol fonts have them. */
const inSymbols = (text: string): string => text.replace(/[\u0020-\u00ff]/g, (character) => String.fromCharCode(SYMBOLS + character.charCodeAt(0)));

/** True for a `cmap` with an encoding for symbols (platform 3, encoding 0) and none for Unicode. */
function hasOnlySymbols(cmap: Uint8Array | undefined): boolean {
  if (!cmap || cmap.byteLength < 4) return false;
  const view = new DataView(cmap.buffer, cmap.byteOffset, cmap.byteLength);
  const count = Math.min(view.getUint16(2), Math.floor((cmap.byteLength - 4) / 8));
  const encodings = Array.from({ length: count }, (_, i) => [view.getUint16(4 + i * 8), view.getUint16(6 + i * 8)] as const);
  return (
    encodings.some(([platform, encoding]) => platform === 3 && encoding === 0) &&
    !encodings.some(([platform, encoding]) => platform === 0 || (platform === 3 && encoding > 0))
  );
}

function readName(face: HbFace, ids: readonly number[]): string {
  for (const id of ids) {
    const name = face.nameText(id).trim();
    if (name) return name.slice(0, 200);
  }
  return '';
}

function readAxes(face: HbFace): Axis[] {
  return [...face.axes().values()]
    .filter(({ min, max }) => Number.isFinite(min) && Number.isFinite(max) && min <= max)
    .map(({ tag, nameId, min, default: initial, max }) => ({
      tag,
      name: readName(face, [nameId]) || tag,
      min,
      default: Math.min(max, Math.max(min, initial)),
      max,
    }));
}

/** Heights of capitals and small letters as `OS/2` states them, in font units; undefined where it does not, or nonsense. */
function statedHeights(font: HbFont, em: number): { capHeight: number | undefined; xHeight: number | undefined } {
  const stated = (tag: string): number | undefined => plausible(font.metric(tag), em);
  return { capHeight: stated('cpht'), xHeight: stated('xhgt') };
}

const plausible = (value: number | undefined, em: number): number | undefined => (value !== undefined && value > 0 && value < 3 * em ? value : undefined);

/** Heights for a font of which nothing else is known, as shares of the em. */
const USUAL = { capHeight: 0.7, xHeight: 0.5 };

/**
 * Reads the metrics HarfBuzz knows. Cap height and x-height are measured on `H` and `x`, since what `OS/2` states of them is often another
 * height; a font without those letters is taken by its word, and without any by 0.7 and 0.5 em.
 */
function measureMetrics(font: HbFont, instance: FaceInstance): FaceMetrics {
  const { ascender, descender, lineGap } = font.verticals();
  const em = instance.unitsPerEm;
  const heightOf = (letter: string): number | undefined => {
    const glyph = instance.nominalGlyph(letter.codePointAt(0) ?? 0);
    const top = glyph === undefined ? undefined : font.topOf(glyph);
    return top !== undefined && top > 0 ? top : undefined;
  };
  const stated = statedHeights(font, em);
  const xHeight = heightOf('x') ?? stated.xHeight ?? Math.round(USUAL.xHeight * em);
  const thickness = plausible(font.metric('unds'), em) ?? Math.round(0.05 * em);
  const offset = font.metric('undo');
  return {
    ascender: ascender || Math.round(0.8 * em),
    descender: descender || Math.round(-0.2 * em),
    lineGap,
    capHeight: heightOf('H') ?? stated.capHeight ?? Math.round(USUAL.capHeight * em),
    xHeight,
    underlineOffset: offset !== undefined && offset < 0 && offset > -em ? offset : Math.round(-0.1 * em),
    underlineSize: thickness,
    strikeOffset: plausible(font.metric('stro'), em) ?? Math.round(xHeight * 0.6),
    strikeSize: plausible(font.metric('strs'), em) ?? thickness,
  };
}
