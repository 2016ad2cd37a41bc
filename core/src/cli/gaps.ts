/** `jentrix gaps`: every gap of a text, or a batch of pairs. */
import type { Face, FaceInstance } from '../face';
import { createBlock } from '../job';
import { FaceSet, type GapLedger, ledgersOf, setBlock } from '../setting';
import { profileOf, proposeKerning, rhythmOf } from '../spacing';
import { roundMilliem } from '../units';
import { UsageError } from './usage';

export interface GapsOptions {
  axes: Record<string, number>;
  sizePt: number;
  trackingMilliem: number;
  strength: number;
}

/** One gap as it is printed. */
export interface GapRow {
  left: string;
  right: string;
  fontMilliem: number;
  shapeMilliem: number;
  whiteMilliem: number;
  targetMilliem: number;
  distancePt: number | null;
}

/** The gaps of a text, line by line. */
export function gapsOfText(face: Face, text: string, { axes, sizePt, trackingMilliem, strength }: GapsOptions): GapRow[] {
  const faces = new FaceSet('font');
  faces.add('font', face);
  const block = createBlock('text', text, { xPt: 0, yPt: 0, widthPt: 50_000, heightPt: 100 }, { faceId: 'font', axes, sizePt, trackingMilliem });
  const letters = ({ start, end }: GapLedger['left']): string => text.slice(start, end);
  return setBlock({ ...block, style: { ...block.style, kerningStrength: strength } }, faces).lines.flatMap((line) =>
    ledgersOf({ ...block, style: { ...block.style, kerningStrength: strength } }, line, faces).map((gap) => ({
      left: letters(gap.left),
      right: letters(gap.right),
      fontMilliem: gap.fontMilliem,
      shapeMilliem: gap.shapeMilliem,
      whiteMilliem: gap.whiteMilliem,
      targetMilliem: gap.targetMilliem,
      distancePt: gap.distancePt === undefined ? null : Math.round(gap.distancePt * 1000) / 1000,
    })),
  );
}

/** The answer for one pair of a batch; `missing` where the font lacks one of the letters. */
export interface PairRow {
  pair: string;
  fontMilliem: number;
  shapeMilliem: number;
  missing?: true;
}

const PLAIN = ['liga', 'clig', 'calt'].map((tag) => ({ tag, value: 0 }));

/** The font's own kerning of two letters in 1/1000 em: their advance with `kern` minus without. */
function fontKerning(instance: FaceInstance, pair: string): number {
  const width = (kern: number): number =>
    instance.shape(pair, 0, pair.length, [...PLAIN, { tag: 'kern', value: kern }]).reduce((sum, glyph) => sum + glyph.xAdvance, 0);
  return roundMilliem(((width(1) - width(0)) * 1000) / instance.unitsPerEm);
}

/** The pairs of a list, one a line. @throws UsageError for a line that is not two letters. */
export function* pairsOf(face: Face, list: string, { axes, strength }: Pick<GapsOptions, 'axes' | 'strength'>): Generator<PairRow> {
  const instance = face.instance(axes);
  const rhythm = rhythmOf(instance);
  const segmenter = new Intl.Segmenter('und', { granularity: 'grapheme' });
  for (const [i, line] of list.split(/\r?\n/).entries()) {
    if (line === '') continue;
    const letters = [...segmenter.segment(line)].map(({ segment }) => segment);
    if (letters.length !== 2) throw new UsageError(`Line ${i + 1} of the pairs, “${line}”, is not two letters.`);
    // The first glyph of a letter carries it; marks follow.
    const glyphs = letters.map((letter) => instance.shape(letter, 0, letter.length, PLAIN)[0]?.glyphId ?? 0);
    const [left, right] = glyphs.map((glyphId) => profileOf(instance, glyphId));
    const proposal = left && right ? proposeKerning({ profile: left, rhythm }, { profile: right, rhythm }).milliem : 0;
    const row: PairRow = { pair: line, fontMilliem: fontKerning(instance, line), shapeMilliem: roundMilliem(proposal * strength) };
    if (glyphs.includes(0)) row.missing = true;
    yield row;
  }
}
