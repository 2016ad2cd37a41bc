/** The texture of paragraphs of several lines: spaces torn open, rivers, hyphens in a row, and edges that step. */
import { type Block, GREEDY } from '../../job';
import { type BlockSetting, type FaceSet, type SetLine, isHardBreak, setLettersOf, setBlock, straightLines } from '../../setting';
import { printValue } from '../../units';
import type { Found } from '../finding';
import type { Proposal } from '../proposals';
import type { BlockView, Rule } from '../rule';

/** Word spaces of justified lines, as shares of the face's own, beyond which they tear or clot. */
const WIDEST = 2.2;
const NARROWEST = 0.6;

interface WordGap {
  at: number;
  leftPt: number;
  rightPt: number;
}

/** The word spaces of a line as they stand on the sheet. */
const wordGapsOf = (words: string, line: SetLine): WordGap[] =>
  setLettersOf(line).flatMap(({ start, leftPt, rightPt }) =>
    words.charAt(start) === ' ' || words.charAt(start) === '\u00a0' ? [{ at: start, leftPt, rightPt }] : [],
  );

/** Better settings for justified lines: all of a paragraph broken for even spaces, letters giving way a little. */
const BETTER: NonNullable<Proposal['settings']> = { breaking: { ...GREEDY, way: 'total' }, justify: { lettersMilliem: 20, width: 0.02, last: 'natural' } };

/** True for a line that was filled. */
const isFull = ({ align, justify, words }: Block, line: SetLine): boolean =>
  align === 'justified' && (justify.last === 'full' || (line.end < words.length && !isHardBreak(words.charAt(line.end))));

/** How far a block's word spaces are beyond what is good, all together, in points. */
function tornSpaces({ block, setting }: Pick<BlockView, 'block' | 'setting'>): number {
  const own = ((setting.wordSpaceMilliem ?? 250) * block.style.sizePt) / 1000;
  const full = straightLines(setting).filter((line) => isFull(block, line));
  return full
    .flatMap((line) => wordGapsOf(block.words, line))
    .reduce((sum, { leftPt, rightPt }) => sum + Math.max(0, rightPt - leftPt - WIDEST * own, NARROWEST * own - (rightPt - leftPt)), 0);
}

/** The better way, where it is one. */
function fixOf(view: BlockView): { proposal: Proposal } | Record<string, never> {
  const block: Block = { ...view.block, ...BETTER };
  const after = { block, setting: setBlock(block, view.faces) };
  const improves = tornSpaces(after) < tornSpaces(view) * 0.7 || riversOf(after.block, after.setting).length < riversOf(view.block, view.setting).length;
  return improves ? { proposal: { settings: BETTER } } : {};
}

export const wideSpaces: Rule = {
  id: 'wide-spaces',
  pass: 'fit',
  name: 'Word spaces over the limits',
  looksAt: 'block',
  look: (view) => {
    const { block, setting } = view;
    const own = ((setting.wordSpaceMilliem ?? 0) * block.style.sizePt) / 1000;
    if (block.align !== 'justified' || own <= 0) return [];
    const lines = straightLines(setting).flatMap((line) => {
      const [widest] = isFull(block, line) ? wordGapsOf(block.words, line).sort((a, b) => b.rightPt - b.leftPt - (a.rightPt - a.leftPt)) : [];
      const share = widest ? (widest.rightPt - widest.leftPt) / own : 1;
      return share > WIDEST || share < NARROWEST ? [{ line, share }] : [];
    });
    if (lines.length === 0) return [];
    const fix = fixOf(view);
    return lines.map(({ line, share }): Found => ({
      at: line.start,
      severity: 'fault',
      visiblePt: Math.abs(share - 1) * own * 0.3,
      subject: `${Math.round(share * 100)} %`,
      message: share > 1 ? 'word spaces too wide' : 'word spaces too narrow',
      ...fix,
    }));
  },
};

/** So many word spaces below each other make a river. */
const RIVER = 4;

/** Word spaces that stand below each other over several lines, each by the offset of its first. */
function riversOf(block: Block, setting: BlockSetting): { at: number; lines: number }[] {
  const lines = straightLines(setting).map((line) => wordGapsOf(block.words, line));
  const found: { at: number; lines: number }[] = [];
  let open = new Map<WordGap, { at: number; lines: number }>();
  for (const gaps of lines) {
    const next = new Map<WordGap, { at: number; lines: number }>();
    for (const gap of gaps) {
      // The middle of one space stands over the other.
      const above = [...open].find(([upper]) => {
        const [middle, other] = [(upper.leftPt + upper.rightPt) / 2, (gap.leftPt + gap.rightPt) / 2];
        return (middle > gap.leftPt && middle < gap.rightPt) || (other > upper.leftPt && other < upper.rightPt);
      });
      const river = above ? { at: above[1].at, lines: above[1].lines + 1 } : { at: gap.at, lines: 1 };
      next.set(gap, river);
      if (river.lines === RIVER) found.push(river);
      else if (river.lines > RIVER) for (const known of found) if (known.at === river.at) known.lines = Math.max(known.lines, river.lines);
    }
    open = next;
  }
  return found;
}

export const rivers: Rule = {
  id: 'river',
  pass: 'fit',
  name: 'Rivers',
  looksAt: 'block',
  look: (view) => {
    const { block, setting } = view;
    if (block.align !== 'justified') return [];
    const found = riversOf(block, setting);
    if (found.length === 0) return [];
    const fix = fixOf(view);
    return found.map(({ at, lines }): Found => ({
      at,
      severity: 'notice',
      visiblePt: block.style.sizePt * 0.1 * lines,
      subject: `${lines} lines`,
      message: 'word spaces line up across lines',
      ...fix,
    }));
  },
};

/** So many lines in a row that end in a hyphen. */
const HYPHENS = 3;

export const hyphensInRow: Rule = {
  id: 'hyphens-in-row',
  pass: 'fit',
  name: 'Hyphens in a row',
  looksAt: 'block',
  look: ({ block, setting }) => {
    const ends = straightLines(setting).map(({ visibleEnd, end }) => end < block.words.length && /[-\u00ad\u2010]/.test(block.words.charAt(visibleEnd - 1)));
    return straightLines(setting).flatMap((line, i): Found[] => {
      if (!ends[i] || ends[i - 1]) return [];
      let count = 1;
      while (ends[i + count]) count++;
      return count < HYPHENS
        ? []
        : [
            {
              at: line.start,
              severity: 'notice',
              visiblePt: block.style.sizePt * 0.1 * count,
              subject: `${count} lines`,
              message: 'in a row end in hyphens',
            },
          ];
    });
  },
};

/** A line shorter than both neighbours by this share of the measure makes a hole, and so many that grow or shrink evenly a wedge. */
const HOLE = 0.28;
const WEDGE = 4;
const STEP = 0.04;

function ragFaults(block: Block, setting: BlockSetting): { at: number; subject: string; message: string; shortPt: number }[] {
  const lines = straightLines(setting);
  const measure = setting.frame.widthPt;
  const inner = lines.filter((line) => line.end < block.words.length && !isHardBreak(block.words.charAt(line.end)));
  const found = inner.slice(1, -1).flatMap((line, k) => {
    const [above, below] = [inner[k], inner[k + 2]];
    const shortPt = Math.min(above?.widthPt ?? 0, below?.widthPt ?? 0) - line.widthPt;
    return shortPt > HOLE * measure ? [{ at: line.start, subject: 'hole', message: `${printValue(shortPt, 1)} pt shorter than its neighbours`, shortPt }] : [];
  });
  let from = 0;
  for (let i = 1; i <= inner.length; i++) {
    const step = (inner[i]?.widthPt ?? Number.NaN) - (inner[i - 1]?.widthPt ?? 0);
    const first = (inner[from + 1]?.widthPt ?? 0) - (inner[from]?.widthPt ?? 0);
    if (Math.min(Math.abs(step), Math.abs(first)) > STEP * measure && Math.sign(step) === Math.sign(first)) continue;
    if (i - from >= WEDGE) {
      const wide = Math.abs((inner[i - 1]?.widthPt ?? 0) - (inner[from]?.widthPt ?? 0));
      found.push({ at: inner[from]?.start ?? 0, subject: 'wedge', message: `${i - from} line ends form a slope`, shortPt: wide });
    }
    from = Math.max(from + 1, i - 1);
  }
  return found;
}

export const rag: Rule = {
  id: 'rag',
  pass: 'fit',
  name: 'Rag with holes and wedges',
  looksAt: 'block',
  look: ({ block, setting, faces }) => {
    if (block.align === 'justified' || block.grow === 'both' || setting.straight || block.breaking.shape !== 'even') return [];
    const found = ragFaults(block, setting);
    if (found.length === 0) return [];
    const settings = { breaking: { way: 'even', shape: 'even' } } as const;
    const fixed = block.breaking.way !== 'even' && improves({ ...block, ...settings }, found.length, faces);
    return found.map(({ at, subject, message, shortPt }): Found => ({
      at,
      severity: 'notice',
      visiblePt: shortPt * 0.05,
      subject,
      message,
      ...(fixed ? { proposal: { settings } } : {}),
    }));
  },
};

const improves = (block: Block, than: number, faces: FaceSet): boolean => ragFaults(block, setBlock(block, faces)).length < than;

/** Paragraphs as a texture. */
export const TEXTURE: readonly Rule[] = [wideSpaces, rivers, hyphensInRow, rag];
