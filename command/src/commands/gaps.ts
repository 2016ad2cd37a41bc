/** `jentrix gaps`: every gap of a text, or a batch of pairs. */
import { PAIR_APART, type Face, ownKerning } from '@jentrix/core/face';
import { createBlock, languageSchema } from '@jentrix/core/job';
import { FaceSet, type GapLedger, ledgersOf, setBlock } from '@jentrix/core/setting';
import { atStrength, characterAt, profileOf, proposeKerning, rhythmOf } from '@jentrix/core/spacing';
import { roundMilliem } from '@jentrix/core/units';
import { NO_TASTE, type PairKind, type Taste } from '@jentrix/core/taste';
import { type Command, numberOf, tasteIn } from '../command';
import { openFontFile, readBytes } from '../fonts';
import { UsageError } from '../usage-error';

export const gaps: Command = {
  name: 'gaps',
  usage: [
    '--font FILE --text TEXT [--axes wght=700,wdth=90] [--size PT] [--tracking N] [--strength S] [--language TAG] [--taste FILE] [--json] [--no-font-kerning]',
    '--font FILE --pairs FILE [--axes …] [--strength S] [--no-font-kerning]',
  ],
  says:
    'Every gap of a text: the two letters; fontMilliem, the font’s own kerning; shapeMilliem, the kerning proposed from the shapes alone, relative to the ' +
    'unkerned advance; shouldMilliem, the target of the gap: both weighted by how reliable they are; whiteMilliem, the measured white of the gap as set (font kerning and tracking included) and targetMilliem, what the face’s rhythm wants ' +
    'there; distancePt, the closest distance between the inks. With --pairs (one pair a line) a line of JSON for each pair, in order.',
  example: '--font Headline.otf --text AVATAR --size 72',
  options: ['font', 'text', 'pairs', 'axes', 'size', 'tracking', 'strength', 'language', 'taste', 'json', 'no-font-kerning'],
  async run(values, _files, { out }) {
    if (values.font === undefined) throw new UsageError('--font FILE is needed.');
    if ((values.text === undefined) === (values.pairs === undefined)) throw new UsageError('Either --text or --pairs is needed.');
    const options = {
      axes: axesOf(values.axes),
      sizePt: numberOf('size', values.size, 1, 5000),
      trackingMilliem: numberOf('tracking', values.tracking, -1000, 5000),
      strength: numberOf('strength', values.strength, 0, 2),
      language: languageOf(values.language),
      taste: tasteIn(values.taste) ?? NO_TASTE,
    };
    const face = await openFontFile(values.font, values['no-font-kerning'] ? { withoutTables: ['GPOS', 'kern', 'kerx'] } : {});
    if (values.pairs !== undefined) {
      const list = new TextDecoder().decode(readBytes(values.pairs));
      for (const row of pairsOf(face, list, options)) out(`${JSON.stringify(row)}\n`);
      return 0;
    }
    const rows = gapsOfText(face, values.text ?? '', options);
    out(values.json ? `${JSON.stringify(rows, null, 2)}\n` : tableOf(rows));
    return 0;
  },
};

function tableOf(rows: readonly GapRow[]): string {
  const table = [
    ['pair', 'fontMilliem', 'shapeMilliem', 'shouldMilliem', 'whiteMilliem', 'targetMilliem', 'distancePt'],
    ...rows.map((row) => [
      `${row.left} ${row.right}`,
      String(row.fontMilliem),
      String(row.shapeMilliem),
      String(row.shouldMilliem),
      String(row.whiteMilliem),
      String(row.targetMilliem),
      row.distancePt === null ? '-' : row.distancePt.toFixed(2),
    ]),
  ];
  return table.map((cells) => `${cells.map((cell, i) => (i === 0 ? cell.padEnd(5) : cell.padStart(14))).join('')}\n`).join('');
}

/** @throws UsageError */
function languageOf(tag: string | undefined): string | null {
  if (tag === undefined) return null;
  const read = languageSchema.safeParse(tag);
  if (!read.success) throw new UsageError(`--language: ${read.error.issues[0]?.message ?? 'can’t be read'}`);
  return read.data;
}

/** `wght=700,wdth=90` @throws UsageError */
export function axesOf(text: string | undefined): Record<string, number> {
  if (text === undefined) return {};
  const axes: Record<string, number> = {};
  for (const part of text.split(',')) {
    const match = /^\s*([\x20-\x7e]{4})\s*=\s*(-?\d+(?:\.\d+)?)\s*$/.exec(part);
    const [, tag, value] = match ?? [];
    if (tag === undefined) throw new UsageError(`--axes is written wght=700,wdth=90; “${part}” is not part of that.`);
    axes[tag] = Number(value);
  }
  return axes;
}

interface GapsOptions {
  axes: Record<string, number>;
  sizePt: number;
  trackingMilliem: number;
  strength: number;
  language: string | null;
  taste: Taste;
}

/** One gap as it is printed. */
interface GapRow {
  left: string;
  right: string;
  fontMilliem: number;
  shapeMilliem: number;
  shouldMilliem: number;
  /** The same whoever judges, and the kind of pair, by which a taste has it. */
  plainMilliem: number;
  kind: PairKind | null;
  whiteMilliem: number;
  targetMilliem: number;
  distancePt: number | null;
}

/** The gaps of a text, line by line. */
function gapsOfText(face: Face, text: string, { axes, sizePt, trackingMilliem, strength, language, taste }: GapsOptions): GapRow[] {
  const faces = new FaceSet('font');
  faces.add('font', face);
  const plain = createBlock('text', text, { xPt: 0, yPt: 0, widthPt: 50_000, heightPt: 100 }, { faceId: 'font', axes, sizePt, trackingMilliem });
  const block = { ...plain, language, style: { ...plain.style, kerningStrength: strength } };
  const letters = ({ start, end }: GapLedger['left']): string => block.words.slice(start, end);
  return setBlock(block, faces).lines.flatMap((line) =>
    ledgersOf(block, line, faces, taste).map((gap) => ({
      left: letters(gap.left),
      right: letters(gap.right),
      fontMilliem: gap.fontMilliem,
      shapeMilliem: gap.shapeMilliem,
      weighedMilliem: gap.weighedMilliem,
      shouldMilliem: gap.shouldMilliem,
      plainMilliem: gap.plainMilliem,
      kind: gap.pair ?? null,
      whiteMilliem: gap.whiteMilliem,
      targetMilliem: gap.targetMilliem,
      distancePt: gap.distancePt === undefined ? null : Math.round(gap.distancePt * 1000) / 1000,
    })),
  );
}

/** The answer for one pair of a batch; `missing` where the font lacks one of the letters. */
interface PairRow {
  pair: string;
  fontMilliem: number;
  shapeMilliem: number;
  missing?: true;
}

/** The pairs of a list, one a line. @throws UsageError for a line that is not two letters. */
function* pairsOf(face: Face, list: string, { axes, strength }: Pick<GapsOptions, 'axes' | 'strength'>): Generator<PairRow> {
  const instance = face.instance(axes);
  const rhythm = rhythmOf(instance);
  const segmenter = new Intl.Segmenter('und', { granularity: 'grapheme' });
  for (const [i, line] of list.split(/\r?\n/).entries()) {
    if (line === '') continue;
    const letters = [...segmenter.segment(line)].map(({ segment }) => segment);
    if (letters.length !== 2) throw new UsageError(`Line ${i + 1} of the pairs, “${line}”, is not two letters.`);
    // The first glyph of a letter carries it; marks follow.
    const glyphs = letters.map((letter) => instance.shape(letter, 0, letter.length, PAIR_APART)[0]?.glyphId ?? 0);
    const [left, right] = glyphs.map((glyphId) => profileOf(instance, glyphId));
    const kinds = letters.map((letter) => characterAt(letter, 0));
    const shapeMilliem =
      left && right ? atStrength(proposeKerning({ profile: left, rhythm, ...kinds[0] }, { profile: right, rhythm, ...kinds[1] }), strength) : 0;
    const row: PairRow = { pair: line, fontMilliem: ownKerning(instance, line), shapeMilliem: roundMilliem(shapeMilliem) };
    if (glyphs.includes(0)) row.missing = true;
    yield row;
  }
}
