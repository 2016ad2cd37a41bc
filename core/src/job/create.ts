import { toPoints } from '../units';
import { type Block, type Frame, JOB_VERSION, type Job, type Style } from './schema';

/** The style new copy has when nothing else says so. */
export const DEFAULT_STYLE: Style = {
  faceId: 'source-sans-3-regular',
  sizePt: 48,
  trackingMilliem: 0,
  wordSpaceMilliem: 0,
  kerning: 'font',
  kerningStrength: 1,
  colour: '#1f2528',
  axes: {},
  features: {},
};

/** A block with nothing adjusted yet. */
export function createBlock(id: string, words: string, frame: Frame, style: Partial<Style> = {}): Block {
  return { id, frame, words, style: { ...DEFAULT_STYLE, ...style }, runs: [], align: 'left', leading: { kind: 'auto' }, hand: [], intended: [] };
}

/** A new job: one A4 sheet with a headline to replace. @param newId gives a fresh identifier at every call. */
export function createJob(title: string, newId: () => string): Job {
  const widthPt = toPoints(210, 'mm');
  const heightPt = toPoints(297, 'mm');
  const marginPt = toPoints(15, 'mm');
  return {
    format: 'jentrix.job',
    version: JOB_VERSION,
    title,
    kind: 'other',
    pairs: [],
    sheets: [
      {
        id: newId(),
        name: 'Sheet 1',
        widthPt,
        heightPt,
        unit: 'mm',
        margins: { topPt: marginPt, rightPt: marginPt, bottomPt: marginPt, leftPt: marginPt },
        background: { kind: 'colour', colour: '#ffffff' },
        blocks: [
          createBlock(
            newId(),
            'Your headline\ngoes here',
            { xPt: marginPt, yPt: marginPt, widthPt: widthPt - 2 * marginPt, heightPt: toPoints(60, 'mm') },
            { faceId: 'playfair-display-bold', sizePt: 64 },
          ),
        ],
      },
    ],
  };
}
