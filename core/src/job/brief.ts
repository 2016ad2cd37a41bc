/** Briefs: what somebody has written that blocks should be, line by line; what conforms, what does not, and the edit that makes it so. */
import { AUTO_LEADING_FACTOR, leadingPoints, printLeading } from '../units';
import { findBlock, updateBlock } from './edits';
import { sameStyle } from './runs';
import type { Block, Job } from './schema';
import { type NamedFace, type Spec, SpecError, parseSpec, printSpec } from './spec';
import { styleProperties } from './style';

/** Settings that a spec line states. */
type Stated = Pick<Block, 'style' | 'leading' | 'align'>;

/** Settings with every part of a spec that was written; what nothing changes comes back itself. */
export function withSpec<T extends Stated>(settings: T, spec: Spec): T {
  const style = { ...settings.style, ...spec.style };
  // `auto` on what is automatic already leaves it the factor it was made with.
  const staysAuto = spec.leading?.kind === 'auto' && settings.leading.kind === 'auto';
  const leading = staysAuto ? settings.leading : (spec.leading ?? settings.leading);
  const align = spec.align ?? settings.align;
  const same = sameStyle(style, settings.style) && leading === settings.leading && align === settings.align;
  return same ? settings : { ...settings, style, leading, align };
}

/** Carries out a spec on a block. */
export const applySpec = (job: Job, blockId: string, spec: Spec): Job => updateBlock(job, blockId, (block) => withSpec(block, spec));

/** A face that is not here, named after its identifier: the job knows no other name of it. */
export const missingFace = (id: string): NamedFace => ({
  id,
  family: id
    .split('-')
    .map((word) => word.charAt(0).toUpperCase() + word.slice(1))
    .join(' '),
  style: '',
});

/** The faces that a block's spec line can name: those that are here, and its own where that is missing. */
export const facesFor = ({ style: { faceId } }: Pick<Block, 'style'>, faces: readonly NamedFace[]): readonly NamedFace[] =>
  faces.some(({ id }) => id === faceId) ? faces : [...faces, missingFace(faceId)];

/** A block's settings as one spec line. */
export function specOf({ style, leading, align }: Block, faces: readonly NamedFace[]): string {
  const face = faces.find(({ id }) => id === style.faceId) ?? missingFace(style.faceId);
  return printSpec(face, { style, leading, align });
}

/** One thing a brief asks for that a block does not have. */
export interface Difference {
  what: string;
  wanted: string;
  has: string;
}

/** A line of a brief beside its block. */
export interface BriefLine {
  text: string;
  /** Absent where there are fewer blocks than lines. */
  blockId?: string;
  spec?: Spec;
  /** Why the line can't be read. */
  error?: string;
  /** Empty where the block conforms. */
  differences: Difference[];
}

/** Two lengths or values nearer than this are the same to a brief. */
const SAME = 0.005;

/**
 * Reads a brief, one line for each block in order; empty lines leave their block alone.
 * @param autoFactor what `auto` leading multiplies the size by.
 */
export function readBrief(text: string, blocks: readonly Block[], faces: readonly NamedFace[], autoFactor = AUTO_LEADING_FACTOR): BriefLine[] {
  return text
    .replace(/\s+$/, '')
    .split('\n')
    .map((line, i): BriefLine => {
      const block = blocks[i];
      const found: BriefLine = { text: line, differences: [] };
      if (block) found.blockId = block.id;
      if (line.trim() === '') return found;
      try {
        found.spec = parseSpec(line, { faces: block ? facesFor(block, faces) : faces, sizePt: block?.style.sizePt ?? 12, autoFactor });
        if (block) found.differences = differencesOf(block, found.spec, faces);
      } catch (error) {
        if (!(error instanceof SpecError)) throw error;
        found.error = error.message;
      }
      return found;
    });
}

const isFar = (a: unknown, b: unknown): boolean => (typeof a === 'number' && typeof b === 'number' ? Math.abs(a - b) > SAME : a !== b);

function differencesOf(block: Block, spec: Spec, faces: readonly NamedFace[]): Difference[] {
  const { style } = block;
  const differences: Difference[] = [];
  const differ = (what: string, wanted: string, has: string): void => void differences.push({ what, wanted, has });
  const nameOf = (id: string): string => {
    const face = faces.find((candidate) => candidate.id === id);
    return face ? `${face.family} ${face.style}` : missingFace(id).family;
  };
  const differInLeading = (): void => {
    if (!spec.leading) return;
    const size = spec.style.sizePt ?? style.sizePt;
    // Leading is compared in points: 120 % of 30 is 36. Automatic is automatic.
    const bothAuto = spec.leading.kind === 'auto' && block.leading.kind === 'auto';
    if (!bothAuto && isFar(leadingPoints(spec.leading, size), leadingPoints(block.leading, style.sizePt)))
      differ('leading', printLeading(spec.leading), printLeading(block.leading));
  };
  for (const [key, { name, spec: part, show }] of styleProperties) {
    // Leading is written right behind the size.
    if (key === 'trackingMilliem') differInLeading();
    const [wanted, has] = [spec.style[key], style[key]];
    if (wanted === undefined || !isFar(wanted, has)) continue;
    const shown = (value: unknown): string => {
      if (key === 'faceId') return nameOf(String(value));
      return show?.(value) ?? (part && 'word' in part ? part.print(value) : String(value));
    };
    differ(name, shown(wanted), shown(has));
  }
  if (spec.align !== undefined && spec.align !== block.align) differ('align', spec.align, block.align);
  return differences;
}

/** Makes every block what its line asks for; lines that can't be read change nothing. */
export function applyBrief(job: Job, lines: readonly BriefLine[]): Job {
  return lines.reduce((next, { blockId, spec }) => (blockId !== undefined && spec && findBlock(next, blockId) ? applySpec(next, blockId, spec) : next), job);
}

/** The brief that blocks as they are conform to. */
export const writeBrief = (blocks: readonly Block[], faces: readonly NamedFace[]): string => `${blocks.map((block) => specOf(block, faces)).join('\n')}\n`;
