/** A font's `name` table with another family name (OpenType 1.9.1). */
import { type TablePart, tableBytes, u16 } from './bytes';

/** Names that hold the family's: family, full name, typographic family, compatible full name, WWS family. */
const WITH_FAMILY = new Set([1, 4, 16, 18, 21]);
const UNIQUE = 3;
/** Names without spaces: of the font, and what those of its instances begin with. */
const POSTSCRIPT = 6;
const PREFIX = 25;

interface Name {
  platform: number;
  encoding: number;
  language: number;
  id: number;
  text: string;
}

/** A name as PostScript has it: printable ASCII without spaces and brackets, at most 63 characters. */
export const postScriptName = (text: string): string =>
  text
    .normalize('NFKD')
    .replace(/[^\x21-\x7e]|[[\](){}<>/%]/g, '')
    .slice(0, 63);

const isWide = ({ platform }: Pick<Name, 'platform'>): boolean => platform === 0 || platform === 3;

/**
 * @param from what the family is called in the table, and what it is to be called.
 * @throws RangeError where the table is damaged
 */
export function renamed(table: Uint8Array, from: string, to: string): Uint8Array {
  const { names, languages } = readNames(table);
  const style = names.find(({ id }) => id === 17)?.text ?? names.find(({ id }) => id === 2)?.text ?? 'Regular';
  const postScript = postScriptName(`${to.replace(/\s+/g, '')}-${style.replace(/\s+/g, '')}`);
  return writeNames(
    names.map((name) => {
      if (name.id === POSTSCRIPT) return { ...name, text: postScript };
      if (name.id === PREFIX) return { ...name, text: postScriptName(to.replace(/\s+/g, '')).replace(/[^A-Za-z0-9]/g, '') };
      if (name.id === UNIQUE) return { ...name, text: `${postScript};kerned` };
      if (!WITH_FAMILY.has(name.id)) return name;
      // A family of one style beside the usual four holds its name: “Family Black”.
      const behind = name.text.startsWith(from) ? name.text.slice(from.length) : name.id === 4 || name.id === 18 ? ` ${style}` : '';
      return { ...name, text: to + behind };
    }),
    languages,
  );
}

/** Every name of a kind. @throws RangeError where the table is damaged */
export const namesOf = (table: Uint8Array, ...ids: readonly number[]): string[] =>
  readNames(table).names.flatMap(({ id, text }) => (ids.includes(id) ? [text] : []));

/** @param languages what tells languages by name, as it stands (format 1). */
function readNames(table: Uint8Array): { names: Name[]; languages: Uint8Array[] } {
  const view = new DataView(table.buffer, table.byteOffset, table.byteLength);
  const storage = view.getUint16(4);
  const slice = (at: number): Uint8Array => {
    const [length, offset] = [view.getUint16(at), view.getUint16(at + 2)];
    if (storage + offset + length > table.length) throw new RangeError('A name leads out of its table');
    return table.slice(storage + offset, storage + offset + length);
  };
  const count = view.getUint16(2);
  const names = Array.from({ length: count }, (_, i): Name => {
    const at = 6 + i * 12;
    const record = { platform: view.getUint16(at), encoding: view.getUint16(at + 2), language: view.getUint16(at + 4), id: view.getUint16(at + 6) };
    return { ...record, text: new TextDecoder(isWide(record) ? 'utf-16be' : 'macintosh').decode(slice(at + 8)) };
  });
  const behind = 6 + count * 12;
  const languages = view.getUint16(0) === 1 ? Array.from({ length: view.getUint16(behind) }, (_, i) => slice(behind + 2 + i * 4)) : [];
  return { names, languages };
}

function writeNames(names: readonly Name[], languages: readonly Uint8Array[]): Uint8Array {
  const texts = names.map((name) =>
    isWide(name) ? tableBytes([u16(...Array.from({ length: name.text.length }, (_, i) => name.text.charCodeAt(i)))]) : macRoman(name.text),
  );
  let at = 0;
  const place = (bytes: Uint8Array): TablePart => {
    const start = at;
    at += bytes.length;
    return u16(bytes.length, start);
  };
  const records = names.flatMap(({ platform, encoding, language, id }, i): TablePart[] => [
    u16(platform, encoding, language, id),
    place(texts[i] ?? new Uint8Array(0)),
  ]);
  const tags = languages.map(place);
  const head = 6 + names.length * 12 + (languages.length > 0 ? 2 + languages.length * 4 : 0);
  return tableBytes([
    u16(languages.length > 0 ? 1 : 0, names.length, head),
    ...records,
    ...(languages.length > 0 ? [u16(languages.length), ...tags] : []),
    ...texts,
    ...languages,
  ]);
}

let macBytes: ReadonlyMap<string, number> | undefined;

/** A text in MacRoman. */
function macRoman(text: string): Uint8Array {
  macBytes ??= new Map(Array.from({ length: 256 }, (_, byte) => [new TextDecoder('macintosh').decode(new Uint8Array([byte])), byte]));
  const bytes = macBytes;
  return Uint8Array.from(text, (letter) => bytes.get(letter) ?? 0x3f);
}
