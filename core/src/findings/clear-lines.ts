/** The leading that parts lines whose inks meet. */
import type { Block } from '../job';
import { type FaceSet, type LineGap, lineGapsOf, setBlock } from '../setting';
import { autoFactorOf, leadingPoints } from '../units';
import type { Proposal } from './proposals';
import type { BlockView } from './rule';

/** The least clear paper that lines are led apart to, as a share of the lower one's size. */
export const CLEAR_LINES = 0.02;
/** Leading is raised so often until the lines are clear: where white is evened, each line gets its share only. */
const TRIES = 6;

/** True for lines whose inks touch or overlap, straight up and down. */
export const meets = ({ clearPt }: LineGap): boolean => clearPt !== undefined && clearPt <= 0;

/** The least leading that parts the lines of a block, in the way it is stated, or as a multiple where a fit has made its lines unlike; without the height it was kept at. Undefined where none does. */
export function leadingThatClears(view: Pick<BlockView, 'block' | 'setting' | 'faces'>): Proposal | undefined {
  const { block, faces } = view;
  let { setting } = view;
  let next: Block = block.fit?.height ? { ...block, fit: { ...block.fit, height: null } } : block;
  const { leading: stated, style } = block;
  // One distance for lines whose fit has made them of very different sizes would be that of the largest: then each is led by its own size.
  if (block.fit && stated.kind === 'pt' && linesDiffer(setting.lines.map(({ sizePt }) => sizePt)))
    next = { ...next, leading: { kind: 'multiple', factor: upTo(stated.pt / style.sizePt, 100) } };
  for (let tries = 0; tries < TRIES; tries++) {
    if (next !== block) setting = setBlock(next, faces);
    const sizes = new Map(setting.lines.map(({ start, sizePt }) => [start, sizePt]));
    const close = lineGapsOf(setting, faces).filter(meets);
    if (close.length === 0) {
      const { leading } = next;
      return { settings: { leading }, ...(block.fit?.height ? { fit: { height: null } } : {}) };
    }
    const needs = close.map(({ at, clearPt = 0 }) => {
      const sizePt = sizes.get(at) ?? block.style.sizePt;
      return { sizePt, pt: CLEAR_LINES * sizePt - clearPt };
    });
    const now = next.leading;
    if (now.kind === 'pt') next = { ...next, leading: { kind: 'pt', pt: upTo(now.pt + Math.max(...needs.map(({ pt }) => pt)), 10) } };
    else {
      const factor = now.kind === 'auto' ? autoFactorOf(now) : now.factor;
      next = { ...next, leading: { kind: 'multiple', factor: upTo(factor + Math.max(...needs.map(({ pt, sizePt }) => pt / sizePt)), 100) } };
    }
    if (leadingPoints(next.leading, block.style.sizePt) > MOST_LEADING) return undefined;
  }
  return undefined;
}

/** Sizes of lines that are farther apart than this look unlike. */
const UNLIKE = 1.2;
const linesDiffer = (sizes: readonly number[]): boolean => Math.max(...sizes) > UNLIKE * Math.min(...sizes);
const MOST_LEADING = 10_000;
const upTo = (value: number, parts: number): number => Math.ceil(value * parts - 1e-6) / parts;

/**
 * A proposal of leading for a block whose fit would make lines meet: lines that met before were meant to.
 * @param fitted the block with its fit, as it would be set.
 */
export function ledApart(fitted: Block, faces: FaceSet): Proposal | undefined {
  const setting = setBlock(fitted, faces);
  if (setting.lines.length < 2 || !lineGapsOf(setting, faces).some(meets)) return undefined;
  const before = { ...fitted, fit: null };
  if (lineGapsOf(setBlock(before, faces), faces).some(meets)) return undefined;
  return leadingThatClears({ block: fitted, setting, faces });
}
