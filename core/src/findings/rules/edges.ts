/** Edges that look out of line, between lines and between blocks, and what is centred by its marks or nearly. */
import { type Block, USUAL_EDGES } from '../../job';
import { type FaceSet, type LineSeen, inkOf, seenLines } from '../../setting';
import { printValue } from '../../units';
import type { Found } from '../finding';
import type { BlockView, Rule, SheetView } from '../rule';

/** Edges are looked at from this size on, in points. */
const LEAST_PT = 24;
/** Deviations below this share of the smaller of two sizes are invisible, and so are those below this on paper read at arm's length, in points. */
const UNSEEN = 0.05;
const UNSEEN_PT = 1;
/** The distance, in millimetres, that `UNSEEN_PT` is of. */
const EDGE_ARM_MM = 450;

const threshold = (sizePt: number, distanceMm: number): number => Math.max(UNSEEN * sizePt, (UNSEEN_PT * distanceMm) / EDGE_ARM_MM);

const isSide = (align: Block['align']): align is 'left' | 'right' | 'justified' => align !== 'centre';

/** Where the edge that a block aligns to is seen in each of its lines. */
const edgeOf = ({ align }: Block, seen: LineSeen): number => (align === 'right' ? seen.rightPt : seen.leftPt);

/** The lines of a block that stand at its edge, each with where that is seen. */
function atEdge({ block, setting, faces }: Pick<BlockView, 'block' | 'setting' | 'faces'>): { at: number; words: string; sizePt: number; xPt: number }[] {
  const own = new Set(block.lineIndents.map(({ at }) => at));
  return seenLines(block, setting, faces).flatMap((seen) => {
    if (!seen || own.has(seen.start) || (block.paragraph.indentPt !== 0 && seen.first)) return [];
    return [{ at: seen.start, words: block.words.slice(seen.start, seen.end), sizePt: seen.sizePt, xPt: edgeOf(block, seen) }];
  });
}

const EYE = { settings: { edges: USUAL_EDGES } };

export const unevenEdge: Rule = {
  id: 'uneven-edge',
  pass: 'edges',
  name: 'Edges out of line',
  looksAt: 'block',
  look: (view) => {
    const { block, setting, distanceMm } = view;
    if (!isSide(block.align) || block.edges || block.fit || setting.straight || block.style.sizePt < LEAST_PT) return [];
    const lines = atEdge(view);
    if (lines.length < 2) return [];
    const sorted = lines.map(({ xPt }) => xPt).sort((a, b) => a - b);
    const middle = sorted[Math.floor(sorted.length / 2)] ?? 0;
    const [worst] = [...lines].sort((a, b) => Math.abs(b.xPt - middle) - Math.abs(a.xPt - middle));
    if (!worst) return [];
    const off = worst.xPt - middle;
    const smallest = Math.min(...lines.map(({ sizePt }) => sizePt));
    if (Math.abs(off) < threshold(smallest, distanceMm)) return [];
    return [
      {
        at: worst.at,
        severity: 'notice',
        visiblePt: Math.abs(off) * 0.5,
        subject: worst.words.slice(0, 3),
        message: `${printValue(Math.abs(off), 1)} pt ${off > 0 === (block.align !== 'right') ? 'inside' : 'outside'} the optical edge`,
        proposal: EYE,
      },
    ];
  },
};

export const centredOnMarks: Rule = {
  id: 'centred-on-marks',
  pass: 'edges',
  name: 'Centred on punctuation',
  looksAt: 'block',
  look: ({ block, setting, faces, distanceMm }) => {
    if (block.align !== 'centre' || block.edges || setting.straight || block.style.sizePt < LEAST_PT) return [];
    const middle = setting.frame.xPt + setting.frame.widthPt / 2;
    return seenLines(block, setting, faces).flatMap((seen): Found[] => {
      if (!seen) return [];
      const off = (seen.letters.leftPt + seen.letters.rightPt) / 2 - middle;
      if (!seen.marked || Math.abs(off) < threshold(seen.sizePt, distanceMm)) return [];
      return [
        {
          at: seen.start,
          severity: 'notice',
          visiblePt: Math.abs(off) * 0.5,
          subject: block.words.slice(seen.start, seen.end).slice(0, 12),
          message: `letters ${printValue(Math.abs(off), 1)} pt ${off < 0 ? 'left' : 'right'} of centre`,
          proposal: EYE,
        },
      ];
    });
  },
};

/** Frames that begin (or end) nearer to each other than this, in points, stand on one margin. */
const ONE_MARGIN_PT = 0.5;

/** Blocks on one margin whose first letters are seen at different places. */
export const blocksOutOfLine: Rule = {
  id: 'blocks-out-of-line',
  pass: 'edges',
  name: 'Blocks out of line',
  looksAt: 'sheet',
  look: ({ blocks }: SheetView) =>
    (['left', 'right'] as const).flatMap((side): Found[] => {
      const standing = blocks.flatMap((view) => {
        const { block, setting } = view;
        const aligned = side === 'left' ? block.align === 'left' || block.align === 'justified' : block.align === 'right';
        if (!aligned || setting.straight || block.rotationDeg !== 0 || block.paragraph.list !== 'none') return [];
        return [{ view, marginPt: side === 'left' ? setting.frame.xPt : setting.frame.xPt + setting.frame.widthPt }];
      });
      const onOne = (a: { marginPt: number }, b: { marginPt: number }): boolean => a !== b && Math.abs(a.marginPt - b.marginPt) <= ONE_MARGIN_PT;
      // Where edges are seen is asked of blocks only that share their margin.
      const shared = standing.filter((one) => standing.some((other) => onOne(one, other)));
      const seen = shared.flatMap((one) =>
        atEdge(one.view)
          .slice(0, 1)
          .map((first) => ({ ...one, first })),
      );
      const found: Found[] = [];
      for (const one of seen) {
        const { first } = one;
        const { block, distanceMm } = one.view;
        const others = seen.filter((other) => onOne(one, other));
        if (others.length === 0) continue;
        const sorted = [...others.map((other) => other.first), first].sort((a, b) => a.xPt - b.xPt);
        const middle = sorted[Math.floor(sorted.length / 2)];
        if (!middle || middle === first || block.edges) continue;
        const off = first.xPt - middle.xPt;
        const [small, large] = [Math.min(first.sizePt, middle.sizePt), Math.max(first.sizePt, middle.sizePt)];
        if (large < LEAST_PT || Math.abs(off) < Math.max(threshold(small, distanceMm), UNSEEN * large)) continue;
        found.push({
          at: 0,
          blockId: block.id,
          severity: 'notice',
          visiblePt: Math.abs(off) * 0.5,
          subject: `${middle.words.slice(0, 3)} ${first.words.slice(0, 3)}`,
          message: `optical edges ${printValue(Math.abs(off), 1)} pt apart on one margin`,
          proposal: EYE,
        });
      }
      return found;
    }),
};

/** A block whose ink is off the middle of its sheet by less than this share of its width was meant to stand there. */
const NEARLY = 0.015;

export const nearlyCentred: Rule = {
  id: 'nearly-centred',
  pass: 'edges',
  name: 'Nearly centred',
  looksAt: 'sheet',
  look: ({ sheet, blocks }: SheetView) =>
    blocks.flatMap((view): Found[] => {
      const { block, faces, distanceMm } = view;
      if (block.align !== 'centre' || block.rotationDeg !== 0 || block.locked) return [];
      const middle = linesMiddle(view, faces);
      if (middle === undefined) return [];
      const off = middle - sheet.widthPt / 2;
      if (Math.abs(off) < threshold(block.style.sizePt, distanceMm) || Math.abs(off) > NEARLY * sheet.widthPt) return [];
      return [
        {
          at: 0,
          blockId: block.id,
          severity: 'notice',
          visiblePt: Math.abs(off) * 0.5,
          subject: block.words.split('\n', 1)[0]?.slice(0, 12) ?? '',
          message: `${printValue(Math.abs(off), 1)} pt ${off < 0 ? 'left' : 'right'} of the sheet’s centre`,
          proposal: { frame: { xPt: block.frame.xPt - off } },
        },
      ];
    }),
};

/** The middle of a centred block: of its frame, or of its ink on a path. */
function linesMiddle({ setting }: BlockView, faces: FaceSet): number | undefined {
  if (setting.straight) {
    const ink = inkOf(setting, faces);
    return ink && (ink.leftPt + ink.rightPt) / 2;
  }
  return setting.frame.xPt + setting.frame.widthPt / 2;
}

/** Edges and centring. */
export const EDGES: readonly Rule[] = [unevenEdge, centredOnMarks, blocksOutOfLine, nearlyCentred];
