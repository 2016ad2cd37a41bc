import { AUTO_LEADING_FACTOR, type LengthUnit, autoLeading, toPoints } from '../units';
import { type Block, type Frame, JOB_VERSION, type Job, type Paragraph, type Sheet } from './schema';
import { GREEDY, PLAIN_JUSTIFY } from './fit';
import { STRAIGHT } from './path';
import { DEFAULT_STYLE, type Style } from './style';
import { wordsFrom } from './words';

/** Paragraphs as they are when nothing was said. */
export const PLAIN_PARAGRAPH: Paragraph = { indentPt: 0, beforePt: 0, afterPt: 0, list: 'none' };

/** The kerning source of a new block, unless it is begun like another. */
export const NEW_KERNING = 'weighed' satisfies Style['kerning'];

/** A block with nothing adjusted yet. */
export function createBlock(id: string, words: string, frame: Frame, style: Partial<Style> = {}): Block {
  return {
    id,
    frame,
    words: wordsFrom(words),
    style: { ...DEFAULT_STYLE, ...style },
    runs: [],
    align: 'left',
    leading: { kind: 'auto' },
    hand: [],
    intended: [],
    grow: 'down',
    vertical: 'top',
    trim: false,
    rotationDeg: 0,
    locked: false,
    paragraph: PLAIN_PARAGRAPH,
    parked: [],
    lineLeading: [],
    recipeId: null,
    language: null,
    path: STRAIGHT,
    ends: null,
    fit: null,
    breaking: GREEDY,
    justify: PLAIN_JUSTIFY,
    tightened: [],
    edges: null,
    lineIndents: [],
    part: null,
  };
}

/** The margin a new sheet has on every side, in points: 7 % of its shorter side. */
export const usualMarginPt = (widthPt: number, heightPt: number): number => Math.round(Math.min(widthPt, heightPt) * 0.07);

/** An empty sheet. */
export function createSheet(id: string, name: string, widthPt: number, heightPt: number, unit: LengthUnit): Sheet {
  const marginPt = usualMarginPt(widthPt, heightPt);
  return {
    id,
    name,
    widthPt,
    heightPt,
    unit,
    margins: { topPt: marginPt, rightPt: marginPt, bottomPt: marginPt, leftPt: marginPt },
    background: { kind: 'colour', colour: '#ffffff' },
    guides: [],
    safeShare: 0,
    centreLines: false,
    blocks: [],
    reference: null,
  };
}

/** The words of a new job. */
export const STARTER_WORDS = 'Your headline\ngoes here';

/**
 * A new job: one A4 sheet with a headline to replace.
 * @param newId gives a fresh identifier at every call. @param autoFactor what its automatic leading multiplies the size by.
 */
export function createJob(title: string, newId: () => string, unit: LengthUnit = 'mm', autoFactor = AUTO_LEADING_FACTOR): Job {
  const sheet = createSheet(newId(), 'Sheet 1', toPoints(210, 'mm'), toPoints(297, 'mm'), unit);
  const { leftPt, rightPt } = sheet.margins;
  const words = createBlock(
    newId(),
    STARTER_WORDS,
    { xPt: leftPt, yPt: leftPt, widthPt: sheet.widthPt - leftPt - rightPt, heightPt: toPoints(60, 'mm') },
    { faceId: 'playfair-display-bold', sizePt: 64, kerning: NEW_KERNING },
  );
  return {
    format: 'jentrix.job',
    version: JOB_VERSION,
    title,
    kind: 'other',
    language: null,
    pairs: [],
    sheets: [{ ...sheet, blocks: [{ ...words, leading: autoLeading(autoFactor) }] }],
  };
}
