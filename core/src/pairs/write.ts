/** Pairs as other programs take them. */
import Papa from 'papaparse';
import type { FacePair, PairsOfFace } from './pairs';

/** A table with a row a pair. */
export const pairsAsCsv = (faces: readonly PairsOfFace[]): string =>
  `${Papa.unparse(
    faces.flatMap(({ faceId, pairs }) =>
      pairs.map(({ left, right, milliem, fontMilliem, count, others }) => ({ face: faceId, left, right, milliem, fontMilliem, count, others })),
    ),
    { columns: ['face', 'left', 'right', 'milliem', 'fontMilliem', 'count', 'others'], newline: '\n' },
  )}\n`;

export const pairsAsJson = (faces: readonly PairsOfFace[]): string =>
  `${JSON.stringify({ unit: '1/1000 em', faces: faces.map(({ faceId, family, style, pairs }) => ({ face: faceId, family, style, pairs: pairs.map(({ left, right, milliem, fontMilliem, count, others }) => ({ left, right, milliem, fontMilliem, count, others })) })) }, null, 2)}\n`;

/** OpenType feature code for a face (OpenType Feature File 1.26, section 6.b): a `kern` feature, with classes of glyphs where values agree. */
export function pairsAsFeatures({ family, style, unitsPerEm, pairs }: PairsOfFace): string {
  const units = ({ milliem }: FacePair): number => Math.round((milliem * unitsPerEm) / 1000);
  const kerned = pairs.filter((pair) => units(pair) !== 0);
  const rules = classesOf(kerned, units).flatMap((left) => {
    const byValue = new Map<number, string[]>();
    for (const pair of kerned) if (pair.leftGlyph === left[0]) byValue.set(units(pair), [...(byValue.get(units(pair)) ?? []), pair.rightGlyph]);
    return [...byValue].map(([value, right]) => `  ${left.length + right.length > 2 ? 'enum ' : ''}pos ${glyphNamesIn(left)} ${glyphNamesIn(right)} ${value};`);
  });
  return `# ${family} ${style}, ${unitsPerEm} units an em\nfeature kern {\n${rules.join('\n')}\n} kern;\n`;
}

/** Left glyphs that have the same values with the same right ones. */
function classesOf(pairs: readonly FacePair[], value: (pair: FacePair) => number): string[][] {
  const rows = new Map<string, string[]>();
  for (const pair of pairs) rows.set(pair.leftGlyph, [...(rows.get(pair.leftGlyph) ?? []), `${pair.rightGlyph}:${value(pair)}`]);
  const classes = new Map<string, string[]>();
  for (const [glyph, row] of rows) {
    const key = row.sort().join(' ');
    classes.set(key, [...(classes.get(key) ?? []), glyph]);
  }
  return [...classes.values()];
}

const glyphNamesIn = (names: readonly string[]): string => (names.length === 1 ? (names[0] ?? '') : `[${names.join(' ')}]`);

/** All files of a job's pairs, by their names. */
export const pairFiles = (faces: readonly PairsOfFace[]): Record<string, string> => ({
  'pairs.csv': pairsAsCsv(faces),
  'pairs.json': pairsAsJson(faces),
  ...Object.fromEntries(faces.map((face) => [`${face.faceId.replace(/[^\w.-]+/g, '-')}.fea`, pairsAsFeatures(face)])),
});
