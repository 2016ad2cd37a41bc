/** CSV (RFC 4180): a block for every row, what its columns say by their names. */
import Papa from 'papaparse';
import { ALIGNMENTS, type Align, type Block, type Style, createBlock } from '../job';
import { UnitError, parseLength, parseMilliem } from '../units';
import { COPY, wordsStyle } from './styles';
import { IntakeError, type Reader, checkedText, jobOf } from './take';

/** A row as read so far. */
interface CsvRow {
  words: string;
  style: Partial<Style>;
  align: Align;
  leading: Block['leading'];
  frame: Partial<Block['frame']>;
}

/** Columns by name, and how each is read. */
const COLUMNS: ReadonlyMap<string, (value: string, row: CsvRow) => void> = new Map(
  Object.entries<(value: string, row: CsvRow) => void>({
    words: (value, row) => (row.words = value),
    face: (value, row) => (row.style.faceId = value),
    size: (value, row) => (row.style.sizePt = parseLength(value)),
    tracking: (value, row) => (row.style.trackingMilliem = parseMilliem(value, row.style.sizePt ?? COPY.sizePt)),
    colour: (value, row) => (row.style.colour = colourIn(value)),
    leading: (value, row) => (row.leading = { kind: 'pt', pt: parseLength(value) }),
    align: (value, row) => (row.align = alignIn(value)),
    x: (value, row) => (row.frame.xPt = parseLength(value)),
    y: (value, row) => (row.frame.yPt = parseLength(value)),
    width: (value, row) => (row.frame.widthPt = parseLength(value)),
  }),
);

/** Other names of columns. */
const ALSO: ReadonlyMap<string, string> = new Map(Object.entries({ text: 'words', copy: 'words', font: 'face', color: 'colour', left: 'x', top: 'y' }));

const colourIn = (value: string): string => {
  if (/^#[0-9a-f]{6}$/i.test(value)) return value;
  throw new UnitError('A colour is written #rrggbb.');
};
const alignIn = (value: string): Align => {
  const found = ALIGNMENTS.find((one) => one === value.toLowerCase() || (value.toLowerCase() === 'center' && one === 'centre'));
  if (!found) throw new UnitError(`align is one of ${ALIGNMENTS.join(', ')}.`);
  return found;
};

export const csvReader: Reader = {
  id: 'csv',
  name: 'CSV',
  mediaType: 'text/csv',
  extensions: ['.csv', '.tsv'],
  take(text, faces, options) {
    // Rows as lists: what a column is called must not become the name of a member.
    const { data, errors } = Papa.parse<string[]>(checkedText(text), { skipEmptyLines: 'greedy' });
    const broken = errors.find(({ type }) => type === 'Quotes');
    if (broken) throw new IntakeError(`Row ${(broken.row ?? 0) + 1}: ${broken.message}.`);
    const [titles = [], ...rows] = data;
    const meant = (name: string): string => ALSO.get(name) ?? name;
    const columns = titles.map((title, index) => {
      const name = title.trim().toLowerCase();
      return { name, index, known: COLUMNS.get(meant(name)) };
    });
    if (!columns.some(({ name }) => meant(name) === 'words')) throw new IntakeError('The first row names the columns, and one of them is “words”.');
    const notes = columns.flatMap(({ name, known }) => (known ? [] : [`The column “${name}” says nothing here; there are ${[...COLUMNS.keys()].join(', ')}.`]));
    const placed = new Set<Block>();
    const blocks = rows.flatMap((cells, i): Block[] => {
      const row: CsvRow = { words: '', style: wordsStyle(faces, COPY), align: 'left', leading: { kind: 'auto' }, frame: {} };
      for (const { name, index, known } of columns) {
        const value = (cells[index] ?? '').trim();
        if (value === '' || !known) continue;
        try {
          known(value, row);
        } catch (error) {
          if (!(error instanceof UnitError)) throw error;
          throw new IntakeError(`Row ${i + 1}, ${name}: ${error.message}`);
        }
      }
      if (row.words === '') return [];
      if (!faces.has(row.style.faceId ?? '')) notes.push(`Row ${i + 1}: the face “${row.style.faceId ?? ''}” is missing.`);
      const frame = { xPt: 0, yPt: 0, widthPt: 100, heightPt: 20, ...row.frame };
      const grow = row.frame.widthPt === undefined && row.frame.xPt !== undefined ? ('both' as const) : ('down' as const);
      const block: Block = { ...createBlock(options.newId(), row.words, frame, row.style), align: row.align, leading: row.leading, grow };
      if (row.frame.xPt !== undefined && row.frame.yPt !== undefined) placed.add(block);
      return [block];
    });
    return { job: jobOf(blocks, faces, options, placed), notes };
  },
};
