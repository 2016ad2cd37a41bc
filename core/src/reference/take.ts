/** Readings of a picture in a block's own units. */
import type { Block, Run } from '../job';
import { middleOf, turnedPoint } from '../placing';
import type { WordsReading } from '../reading';
import type { BlockSetting } from '../setting';
import { type Leading, roundMilliem } from '../units';
import { type ReferenceLine, readLinesOnSheet } from './letters';
import { type ReferencePlace, upright } from './place';

/** The settings that can be taken from a reading. */
export const TAKES = ['size', 'tracking', 'leading', 'angle', 'lines'] as const;
export type Take = (typeof TAKES)[number];

/** A reading in the units of the job; what was not told is absent. */
export interface TypeRead {
  sizePt: number;
  sizeErrorPt: number;
  trackingMilliem?: number;
  trackingErrorMilliem: number;
  /** From baseline to baseline. */
  leadingPt?: number;
  /** The same over the size. */
  leadingFactor?: number;
  leadingErrorFactor: number;
  angleDeg: number;
  angleErrorDeg: number;
}

/** A reading in points, for a picture that lies on a sheet. */
export function typeRead(words: WordsReading, { scale, turnDeg }: Pick<ReferencePlace, 'scale' | 'turnDeg'>): TypeRead {
  const sizePt = words.size * scale;
  return {
    sizePt,
    sizeErrorPt: words.sizeError * scale,
    ...(words.trackingMilliem === undefined ? {} : { trackingMilliem: words.trackingMilliem }),
    trackingErrorMilliem: words.trackingError,
    ...(words.leading === undefined ? {} : { leadingPt: words.leading * sizePt, leadingFactor: words.leading }),
    leadingErrorFactor: words.leadingError,
    angleDeg: upright(words.angleDeg + turnDeg),
    angleErrorDeg: words.angleErrorDeg,
  };
}

/** Values are taken as people would state them: no finer than they are read. */
const rounded = (value: number, stepsPerUnit: number): number => Math.round(value * stepsPerUnit) / stepsPerUnit;
const STEPS = { pt: 10, factor: 200, degree: 20 };
const [LEAST_PT, MOST_PT] = [1, 5000];

/**
 * A block with what was read as its settings. What its lines were fitted to goes where size or tracking are taken: a fit would change
 * them again.
 */
export function takeReading(block: Block, words: WordsReading, place: ReferencePlace, takes: readonly Take[]): Block {
  const read = typeRead(words, place);
  return TAKES.filter((take) => takes.includes(take)).reduce((next, take) => TAKERS[take](next, read, words, place), block);
}

type Taker = (block: Block, read: TypeRead, words: WordsReading, place: ReferencePlace) => Block;

const TAKERS: Readonly<Record<Take, Taker>> = {
  size: (block, { sizePt }) => {
    const size = Math.min(MOST_PT, Math.max(LEAST_PT, rounded(sizePt, STEPS.pt)));
    const by = size / block.style.sizePt;
    const runs = block.runs.map((run): Run => {
      const own = run.style.sizePt;
      return own === undefined ? run : { ...run, style: { ...run.style, sizePt: Math.min(MOST_PT, Math.max(LEAST_PT, own * by)) } };
    });
    return { ...block, style: { ...block.style, sizePt: size }, runs, fit: null };
  },
  tracking: (block, { trackingMilliem }) =>
    trackingMilliem === undefined
      ? block
      : { ...block, style: { ...block.style, trackingMilliem: roundMilliem(Math.min(5000, Math.max(-1000, Math.round(trackingMilliem)))) }, fit: null },
  leading: (block, { leadingPt, leadingFactor }) => {
    if (leadingPt === undefined || leadingFactor === undefined) return block;
    const leading: Leading =
      block.leading.kind === 'pt'
        ? { kind: 'pt', pt: Math.min(10_000, Math.max(0, rounded(leadingPt, STEPS.pt))) }
        : { kind: 'multiple', factor: Math.min(20, Math.max(0, rounded(leadingFactor, STEPS.factor))) };
    return { ...block, leading, lineLeading: [], fit: block.fit && { ...block.fit, height: null, even: false } };
  },
  angle: (block, { angleDeg }) => ({ ...block, rotationDeg: rounded(angleDeg, STEPS.degree) }),
  lines: (block, _read, words, place) => {
    const lines = readLinesOnSheet(words, place);
    let text = block.words;
    for (const { end } of lines.slice(0, -1)) {
      // Behind the last letter that was read stand a point, or nothing, and the blank that the line broke at.
      const blank = text.slice(end).search(/\s/u);
      if (blank >= 0 && text.charAt(end + blank) === ' ') text = `${text.slice(0, end + blank)}\n${text.slice(end + blank + 1)}`;
    }
    // Lines of the reference have room.
    const widestPt = Math.max(...lines.map(({ letters }) => lengthOf(letters)));
    const frame =
      block.grow === 'both' ? block.frame : { ...block.frame, widthPt: Math.min(50_000, Math.max(block.frame.widthPt, widestPt + block.style.sizePt * 1.2)) };
    return text === block.words && frame.widthPt === block.frame.widthPt ? block : { ...block, words: text, frame };
  },
};

const lengthOf = (letters: ReferenceLine['letters']): number => {
  const [first, last] = [letters[0], letters[letters.length - 1]];
  return first && last ? Math.hypot(last.xPt - first.xPt, last.yPt - first.yPt) : 0;
};

/** A block moved so that its first letter stands where it stands in the reference. @param setting the block as it is. */
export function movedOntoReference(block: Block, setting: BlockSetting, words: WordsReading, place: ReferencePlace): Block {
  const [line] = setting.lines;
  const their = readLinesOnSheet(words, place)[0]?.letters[0];
  if (!line || !their) return block;
  const around = middleOf(setting.frame);
  const own = turnedPoint({ xPt: line.leftPt, yPt: line.baselinePt }, around, block.rotationDeg);
  return { ...block, frame: { ...block.frame, xPt: block.frame.xPt + their.xPt - own.xPt, yPt: block.frame.yPt + their.yPt - own.yPt } };
}
