/**
 * Pairs put into a font's `GPOS` table (OpenType 1.9.1): a lookup of single pairs behind those that are there, in the feature `kern` of
 * every language system. What is there stays byte by byte and is pointed to by extension subtables, so that it may be as large as it likes.
 */
import { type TablePart, tableBytes, tagBytes, u16, u32 } from './bytes';

/** Kerning in font units: left glyph to right glyph to value. */
export type GlyphPairs = ReadonlyMap<number, ReadonlyMap<number, number>>;

const PAIRS = 2;
const EXTENSION = 9;
const IGNORE_MARKS = 0x0008;
const USE_MARK_FILTERING_SET = 0x0010;
const X_ADVANCE = 0x0004;
const NO_FEATURE = 0xffff;

interface Feature {
  tag: string;
  /** The parameters; only the optical size has any (`size`). */
  params: Uint8Array | undefined;
  lookups: number[];
}

interface LanguageSystem {
  required: number;
  features: number[];
}

interface ScriptTable {
  tag: string;
  standard: LanguageSystem | undefined;
  languages: { tag: string; system: LanguageSystem }[];
}

interface Lookup {
  flag: number;
  /** Subtables as they lie in the old table: their type and where they begin. */
  subtables: { type: number; at: number }[];
  markSet: number | undefined;
}

interface Layout {
  scripts: ScriptTable[];
  features: Feature[];
  lookups: Lookup[];
  /** Where variations of features begin; 0 where there are none. */
  variations: number;
}

const EMPTY: Layout = {
  scripts: [{ tag: 'DFLT', standard: { required: NO_FEATURE, features: [] }, languages: [] }],
  features: [],
  lookups: [],
  variations: 0,
};

/**
 * @param old the table as it is; absent where the font has none.
 * @throws RangeError where the table is damaged, or can't hold the pairs
 */
export function withPairs(old: Uint8Array | undefined, pairs: GlyphPairs): Uint8Array {
  const layout = old ? readLayout(old) : EMPTY;
  const added = layout.lookups.length;
  const features = layout.features.map((feature) => (feature.tag === 'kern' ? { ...feature, lookups: [...feature.lookups, added] } : feature));
  const lacking = systemsOf(layout).filter(({ features: own }) => !own.some((i) => features[i]?.tag === 'kern'));
  let scripts = layout.scripts;
  if (lacking.length > 0) {
    // In the order of the alphabet, unless feature variations count on the numbers as they are.
    const at = layout.variations > 0 ? features.length : features.filter(({ tag: name }) => name <= 'kern').length;
    features.splice(at, 0, { tag: 'kern', params: undefined, lookups: [added] });
    const moved = (i: number): number => (i !== NO_FEATURE && i >= at ? i + 1 : i);
    const withKern = (system: LanguageSystem): LanguageSystem => ({
      required: moved(system.required),
      features: [...system.features.map(moved), ...(lacking.includes(system) ? [at] : [])].sort((a, b) => a - b),
    });
    scripts = scripts.map(({ tag: name, standard, languages }) => ({
      tag: name,
      standard: standard && withKern(standard),
      languages: languages.map(({ tag: language, system }) => ({ tag: language, system: withKern(system) })),
    }));
  }
  return write({ ...layout, scripts, features }, old ?? new Uint8Array(0), pairs);
}

const systemsOf = ({ scripts }: Layout): LanguageSystem[] =>
  scripts.flatMap(({ standard, languages }) => [...(standard ? [standard] : []), ...languages.map(({ system }) => system)]);

/** @throws RangeError where an offset leads out of the table */
function readLayout(bytes: Uint8Array): Layout {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const word = (at: number): number => view.getUint16(at);
  const name = (at: number): string => String.fromCharCode(...[0, 1, 2, 3].map((i) => view.getUint8(at + i)));
  const words = (at: number, count: number): number[] => Array.from({ length: count }, (_, i) => word(at + i * 2));
  const system = (at: number): LanguageSystem => ({ required: word(at + 2), features: words(at + 6, word(at + 4)) });
  const records = <T>(at: number, read: (record: number) => T, size: number): T[] => Array.from({ length: word(at) }, (_, i) => read(at + 2 + i * size));

  const [scriptList, featureList, lookupList] = [word(4), word(6), word(8)];
  return {
    scripts:
      scriptList === 0
        ? EMPTY.scripts
        : records(
            scriptList,
            (record) => {
              const at = scriptList + word(record + 4);
              return {
                tag: name(record),
                standard: word(at) === 0 ? undefined : system(at + word(at)),
                languages: records(at + 2, (language) => ({ tag: name(language), system: system(at + word(language + 4)) }), 6),
              };
            },
            6,
          ),
    features:
      featureList === 0
        ? []
        : records(
            featureList,
            (record) => {
              const at = featureList + word(record + 4);
              const params = name(record) === 'size' && word(at) !== 0 ? bytes.slice(at + word(at), at + word(at) + 10) : undefined;
              return { tag: name(record), params, lookups: words(at + 4, word(at + 2)) };
            },
            6,
          ),
    lookups:
      lookupList === 0
        ? []
        : records(
            lookupList,
            (record) => {
              const at = lookupList + word(record);
              const [type = 0, flag = 0, count = 0] = words(at, 3);
              const subtables = words(at + 6, count).map((offset) => {
                const own = at + offset;
                return type === EXTENSION ? { type: word(own + 2), at: own + view.getUint32(own + 4) } : { type, at: own };
              });
              return { flag, subtables, markSet: flag & USE_MARK_FILTERING_SET ? word(at + 6 + count * 2) : undefined };
            },
            2,
          ),
    variations: word(2) >= 1 ? view.getUint32(10) : 0,
  };
}

function write({ scripts, features, lookups, variations }: Layout, old: Uint8Array, pairs: GlyphPairs): Uint8Array {
  const scriptList = listTable(scripts.map(({ tag: name, standard, languages }) => ({ tag: name, bytes: scriptTable(standard, languages) })));
  const featureList = listTable(
    features.map(({ tag: name, params, lookups: own }) => ({
      tag: name,
      bytes: tableBytes([u16(params ? 4 + own.length * 2 : 0, own.length, ...own), params ?? u16()]),
    })),
  );
  const added = pairTables(pairs);
  // Where everything lies from the beginning of the list of lookups: the lookups with their extensions, the new pairs, what was there.
  const heads = [...lookups, { flag: IGNORE_MARKS, subtables: added.map(() => ({ type: PAIRS, at: 0 })), markSet: undefined }];
  const headSize = ({ subtables, markSet }: Lookup): number => 6 + subtables.length * (2 + 8) + (markSet === undefined ? 0 : 2);
  const starts = runningSum(heads.map(headSize), 2 + heads.length * 2);
  const pairsAt = starts.pop() ?? 0;
  const addedAt = runningSum(
    added.map(({ length }) => length),
    pairsAt,
  );
  const oldAt = addedAt.pop() ?? 0;
  const lookupList = tableBytes([
    u16(heads.length, ...starts),
    ...heads.flatMap(({ flag, subtables, markSet }, i): TablePart[] => {
      const extensions = 6 + subtables.length * 2 + (markSet === undefined ? 0 : 2);
      const places = i < lookups.length ? subtables.map(({ at }) => oldAt + at) : addedAt;
      return [
        u16(EXTENSION, flag, subtables.length, ...subtables.map((_, s) => extensions + s * 8)),
        ...(markSet === undefined ? [] : [u16(markSet)]),
        ...subtables.flatMap(({ type }, s): TablePart[] => [u16(1, type), u32((places[s] ?? 0) - ((starts[i] ?? 0) + extensions + s * 8))]),
      ];
    }),
    ...added,
  ]);
  const header = variations > 0 ? 14 : 10;
  const [featuresAt, lookupsAt] = [header + scriptList.length, header + scriptList.length + featureList.length];
  return tableBytes([
    u16(1, variations > 0 ? 1 : 0, header, featuresAt, lookupsAt),
    ...(variations > 0 ? [u32(lookupsAt + oldAt + variations)] : []),
    scriptList,
    featureList,
    lookupList,
    old,
  ]);
}

/** Where things of these sizes begin, and behind the last where the next would. */
function runningSum(sizes: readonly number[], from: number): number[] {
  const starts = [from];
  for (const size of sizes) starts.push((starts[starts.length - 1] ?? 0) + size);
  return starts;
}

/** A list of named tables, as scripts, languages and features have it. */
function listTable(named: readonly { tag: string; bytes: Uint8Array }[]): Uint8Array {
  const starts = runningSum(
    named.map(({ bytes }) => bytes.length),
    2 + named.length * 6,
  );
  return tableBytes([
    u16(named.length),
    ...named.flatMap(({ tag: name }, i): TablePart[] => [tagBytes(name), u16(starts[i] ?? 0)]),
    ...named.map(({ bytes }) => bytes),
  ]);
}

function scriptTable(standard: LanguageSystem | undefined, languages: ScriptTable['languages']): Uint8Array {
  const bytes = ({ required, features }: LanguageSystem): Uint8Array => tableBytes([u16(0, required, features.length, ...features)]);
  const own = standard ? bytes(standard) : new Uint8Array(0);
  const head = 4 + languages.length * 6;
  const systems = languages.map(({ system }) => bytes(system));
  const starts = runningSum(
    systems.map(({ length }) => length),
    head + own.length,
  );
  return tableBytes([
    u16(standard ? head : 0, languages.length),
    ...languages.flatMap(({ tag: name }, i): TablePart[] => [tagBytes(name), u16(starts[i] ?? 0)]),
    own,
    ...systems,
  ]);
}

/** A subtable holds no more than this, so that its offsets of 16 bits reach. */
const MOST_BYTES = 60_000;
const MOST_PAIRS = 12_000;

/** Pairs one by one (“PairPosFormat1”), in as many subtables as they take. */
function pairTables(pairs: GlyphPairs): Uint8Array[] {
  const rows = [...pairs]
    .sort(([a], [b]) => a - b)
    .flatMap(([left, values]) => {
      const all = [...values].sort(([a], [b]) => a - b);
      return Array.from({ length: Math.ceil(all.length / MOST_PAIRS) }, (_, i) => ({ left, values: all.slice(i * MOST_PAIRS, (i + 1) * MOST_PAIRS) }));
    });
  const groups: (typeof rows)[] = [];
  let room = 0;
  for (const row of rows) {
    const size = 2 + 2 + 2 + row.values.length * 4;
    const last = groups[groups.length - 1];
    // A left glyph stands once in a subtable.
    if (last && size <= room && last[last.length - 1]?.left !== row.left) last.push(row);
    else groups.push([row]);
    room = (last === groups[groups.length - 1] ? room : MOST_BYTES) - size;
  }
  return groups.map((group) => {
    const sets = group.map(({ values }) => tableBytes([u16(values.length, ...values.flat())]));
    const starts = runningSum(
      sets.map(({ length }) => length),
      10 + group.length * 2,
    );
    const coverage = starts.pop() ?? 0;
    return tableBytes([u16(1, coverage, X_ADVANCE, 0, group.length, ...starts), ...sets, u16(1, group.length, ...group.map(({ left }) => left))]);
  });
}
