/**
 * The sfnt container (OpenType 1.9.1, "Organization of an OpenType font"): reading the table directory of
 * an untrusted file and checking what HarfBuzz would otherwise silently answer with nothing.
 */
import { FaceError } from './errors';

/** Largest file that is opened, in bytes. The largest text fonts in use (CJK) stay below it. */
export const MAX_FONT_BYTES = 32 * 1024 * 1024;

/** The first bytes of font files: TrueType outlines, and CFF outlines. */
export const TRUE_TYPE = 0x00010000;
export const OTTO = 0x4f54544f;

const MAX_TABLES = 256;
const HEAD_MAGIC = 0x5f0f3cf5;

/** Where a table lies in its file, in bytes. */
export interface TableRecord {
  tag: string;
  checksum: number;
  offset: number;
  length: number;
}

/** The four characters of a tag at a byte offset; unprintable bytes come back as `?`. */
export function tagAt(view: DataView, offset: number): string {
  let tag = '';
  for (let i = 0; i < 4; i++) {
    const code = view.getUint8(offset + i);
    tag += code >= 0x20 && code < 0x7f ? String.fromCharCode(code) : '?';
  }
  return tag;
}

/**
 * Reads the table directory.
 * @param start where it begins: behind the beginning of the file in collections. Tables are counted from the beginning of the file all the same.
 * @throws FaceError `truncated` or `damaged` when a record points outside the file or the directory is nonsense.
 */
export function readTableDirectory(bytes: Uint8Array, start = 0): Map<string, TableRecord> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.byteLength < start + 12) throw new FaceError('truncated', 'The file ends inside its header.');
  const count = view.getUint16(start + 4);
  if (count === 0 || count > MAX_TABLES) {
    throw new FaceError('damaged', `The file claims ${count} tables; a font has between 1 and ${MAX_TABLES}.`);
  }
  if (bytes.byteLength < start + 12 + count * 16) {
    throw new FaceError('truncated', 'The file ends inside its table directory.');
  }
  const tables = new Map<string, TableRecord>();
  for (let i = 0; i < count; i++) {
    const at = start + 12 + i * 16;
    const tag = tagAt(view, at);
    const offset = view.getUint32(at + 8);
    const length = view.getUint32(at + 12);
    if (offset + length > bytes.byteLength) {
      throw new FaceError('truncated', `The file ends inside its “${tag}” table (needs ${offset + length} bytes, has ${bytes.byteLength}).`);
    }
    tables.set(tag, { tag, checksum: view.getUint32(at + 4), offset, length });
  }
  return tables;
}

/** A table on its way into a file. */
export interface TableData {
  /** Four characters. */
  tag: string;
  checksum: number;
  data: Uint8Array;
}

/**
 * Writes a font file of tables that are there already.
 * @param version what the file begins with: `TRUE_TYPE` or `OTTO`.
 * @throws FaceError `too-large` beyond `MAX_FONT_BYTES`.
 */
export function writeSfnt(version: number, tables: readonly TableData[]): Uint8Array {
  const directory = 12 + tables.length * 16;
  const total = tables.reduce((sum, { data }) => sum + ((data.byteLength + 3) & ~3), directory);
  if (total > MAX_FONT_BYTES) throw new FaceError('too-large', 'The font unpacks to more than is opened.');
  const out = new Uint8Array(total);
  const sfnt = new DataView(out.buffer);
  sfnt.setUint32(0, version);
  sfnt.setUint16(4, tables.length);
  const entrySelector = Math.floor(Math.log2(tables.length));
  sfnt.setUint16(6, 16 << entrySelector);
  sfnt.setUint16(8, entrySelector);
  sfnt.setUint16(10, tables.length * 16 - (16 << entrySelector));
  let offset = directory;
  tables.forEach(({ tag, checksum, data }, i) => {
    const at = 12 + i * 16;
    for (let c = 0; c < 4; c++) sfnt.setUint8(at + c, tag.charCodeAt(c));
    sfnt.setUint32(at + 4, checksum);
    sfnt.setUint32(at + 8, offset);
    sfnt.setUint32(at + 12, data.byteLength);
    out.set(data, offset);
    offset += (data.byteLength + 3) & ~3;
  });
  return out;
}

/** The checksum of a table: the sum of its words of 32 bits (OpenType 1.9.1, “Calculating checksums”). */
export function checksumOf(data: Uint8Array): number {
  const view = new DataView(data.buffer, data.byteOffset, data.byteLength);
  let sum = 0;
  let at = 0;
  for (; at + 4 <= data.byteLength; at += 4) sum = (sum + view.getUint32(at)) >>> 0;
  let rest = 0;
  for (let i = 0; i < 4; i++) rest = rest * 256 + (at + i < data.byteLength ? view.getUint8(at + i) : 0);
  return (sum + rest) >>> 0;
}

/** The checksum of a whole font, its own adjustment included. */
const WHOLE = 0xb1b0afba;

/** Writes a font of tables that were changed: in their order, with the checksum of the whole. @throws FaceError `too-large` */
export function writeFont(tables: readonly TableData[]): Uint8Array {
  const sorted = [...tables]
    .sort((a, b) => (a.tag < b.tag ? -1 : 1))
    .map((table): TableData => {
      if (table.tag !== 'head') return table;
      const data = table.data.slice();
      new DataView(data.buffer).setUint32(8, 0);
      return { tag: 'head', data, checksum: checksumOf(data) };
    });
  const out = writeSfnt(sorted.some(({ tag }) => tag === 'CFF ' || tag === 'CFF2') ? OTTO : TRUE_TYPE, sorted);
  const head = readTableDirectory(out).get('head');
  if (head) new DataView(out.buffer).setUint32(head.offset + 8, (WHOLE - checksumOf(out)) >>> 0);
  return out;
}

/** A summary of a checked sfnt, before HarfBuzz sees it. */
export interface SfntSummary {
  tables: Map<string, TableRecord>;
  glyphCount: number;
  unitsPerEm: number;
}

/**
 * Checks that a file has what setting letters needs: the required tables, a plausible em, glyphs, and outlines.
 * @throws FaceError with the first thing that is wrong.
 */
export function checkSfnt(bytes: Uint8Array): SfntSummary {
  const tables = readTableDirectory(bytes);
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);

  const need = (tag: string, minLength: number): TableRecord => {
    const table = tables.get(tag);
    if (!table) throw new FaceError('missing-table', `The font has no “${tag}” table, which every OpenType font needs.`);
    if (table.length < minLength) throw new FaceError('damaged', `The “${tag}” table is ${table.length} bytes long; it needs at least ${minLength}.`);
    return table;
  };

  const head = need('head', 54);
  const maxp = need('maxp', 6);
  const hhea = need('hhea', 36);
  const cmap = need('cmap', 4);
  if (view.getUint32(head.offset + 12) !== HEAD_MAGIC) {
    throw new FaceError('damaged', 'The “head” table does not carry its magic number: the file is damaged.');
  }
  const unitsPerEm = view.getUint16(head.offset + 18);
  if (unitsPerEm < 16 || unitsPerEm > 16384) {
    throw new FaceError('damaged', `The font claims ${unitsPerEm} units per em; OpenType allows 16 to 16384.`);
  }
  const glyphCount = view.getUint16(maxp.offset + 4);
  if (glyphCount === 0) throw new FaceError('no-glyphs', 'The font has no glyphs.');
  if (view.getUint16(cmap.offset + 2) === 0) throw new FaceError('damaged', 'The “cmap” table maps no characters.');

  const longMetrics = view.getUint16(hhea.offset + 34);
  if (longMetrics === 0 || longMetrics > glyphCount) {
    throw new FaceError('damaged', `The “hhea” table claims ${longMetrics} advances for ${glyphCount} glyphs.`);
  }
  need('hmtx', longMetrics * 4);
  checkOutlines(view, tables, head, glyphCount);
  return { tables, glyphCount, unitsPerEm };
}

/** The kind of a font without outlines, by the tables that hold its letters. */
function kindWithoutOutlines(tables: ReadonlyMap<string, TableRecord>): string {
  if (['sbix', 'CBDT'].some((tag) => tables.has(tag))) return 'This is a colour bitmap font: its letters are pictures of certain sizes.';
  if (tables.has('EBDT') || tables.has('bdat')) return 'This is a bitmap font: its letters are pictures of certain sizes.';
  if (tables.has('SVG ')) return 'This is a colour font: its letters are SVG drawings.';
  return 'This is a font without letters.';
}

function checkOutlines(view: DataView, tables: Map<string, TableRecord>, head: TableRecord, glyphCount: number): void {
  const cff = tables.get('CFF ') ?? tables.get('CFF2');
  if (cff) {
    const major = cff.length >= 5 ? view.getUint8(cff.offset) : 0;
    if (major !== 1 && major !== 2) throw new FaceError('damaged', `The “${cff.tag}” table does not begin as one.`);
    return;
  }
  const glyf = tables.get('glyf');
  const loca = tables.get('loca');
  if (!glyf || !loca) {
    throw new FaceError('no-outlines', `${kindWithoutOutlines(tables)} It has no outlines (neither “glyf” nor “CFF ”), which is what is set here.`);
  }
  const long = view.getUint16(head.offset + 50) === 1;
  const size = long ? 4 : 2;
  if (loca.length < (glyphCount + 1) * size) {
    throw new FaceError('damaged', `The “loca” table has room for ${Math.floor(loca.length / size) - 1} of ${glyphCount} glyphs.`);
  }
  let previous = 0;
  for (let i = 0; i <= glyphCount; i++) {
    const offset = long ? view.getUint32(loca.offset + i * 4) : view.getUint16(loca.offset + i * 2) * 2;
    if (offset < previous || offset > glyf.length) {
      throw new FaceError('damaged', `The outline of glyph ${Math.max(0, i - 1)} lies outside the “glyf” table.`);
    }
    previous = offset;
  }
}

/** A copy of a font whose directory leaves some tables out, so that nobody can read them. */
export function withoutTables(bytes: Uint8Array, tags: readonly string[]): Uint8Array {
  const copy = bytes.slice();
  const view = new DataView(copy.buffer);
  const count = view.getUint16(4);
  let kept = 0;
  for (let i = 0; i < count; i++) {
    const at = 12 + i * 16;
    if (tags.includes(tagAt(view, at))) continue;
    copy.copyWithin(12 + kept * 16, at, at + 16);
    kept++;
  }
  view.setUint16(4, kept);
  return copy;
}
