/** Words that don't fit: cut by their frame, past it, past the margin, past the sheet. */
import { type Block, type Sheet, scaledBlock } from '../../job';
import { type Box, type LineSeen, seenLines, setBlock } from '../../setting';
import { printValue } from '../../units';
import { type Found, firstWords } from '../finding';
import type { Proposal } from '../proposals';
import type { BlockView, Rule, SheetView } from '../rule';
import { sheetBoxOf } from '../sheet-ink';

/** Overhang below this share of the size is invisible; at small sizes, below this in points. */
const UNSEEN = 0.08;
const UNSEEN_PT = 1;
const unseen = (sizePt: number): number => Math.max(UNSEEN_PT, UNSEEN * sizePt);

/** Words are made smaller by a fix to no less than this share of their size; beyond it other words are wanted. */
const SMALLEST = 0.3;
/** A frame that cuts words gets smaller words where so little does, else it is made higher. */
const LITTLE = 0.9;
/** Sizes are tried in steps of a tenth of a point, so many at most. */
const HALVINGS = 9;

/** A block with all its sizes times a factor, the size of the block in tenths of a point, its frame as it is. */
function smaller(block: Block, factor: number): { block: Block; factor: number } {
  const { sizePt } = block.style;
  const by = Math.max(0.1, Math.floor(sizePt * factor * 10 + 1e-6) / 10) / sizePt;
  return { block: { ...scaledBlock(block, by, { xPt: 0, yPt: 0 }), frame: block.frame }, factor: by };
}

/** The largest sizes at which a block is right, as a factor of what they are, and at least `SMALLEST`; undefined where even the smallest are too large. */
function largestThat(fits: (block: Block) => boolean, block: Block): number | undefined {
  let [low, high] = [SMALLEST, 1];
  if (!fits(smaller(block, low).block)) return undefined;
  for (let i = 0; i < HALVINGS; i++) {
    const middle = (low + high) / 2;
    if (fits(smaller(block, middle).block)) low = middle;
    else high = middle;
  }
  return smaller(block, low).factor;
}

const sizeSays = (block: Block, factor: number): string => `${printValue(block.style.sizePt, 1)} → ${printValue(block.style.sizePt * factor, 1)} pt`;

export const wordsCut: Rule = {
  id: 'words-cut',
  pass: 'fit',
  name: 'Words cut off',
  looksAt: 'block',
  look: ({ block, setting, faces }) => {
    if (!setting.cut) return [];
    const last = setting.lines[setting.lines.length - 1];
    const at = last?.visibleEnd ?? 0;
    const missing = block.words.slice(at).trim();
    const factor = block.locked ? undefined : largestThat((one) => !setBlock(one, faces).cut, block);
    const heightPt = setBlock({ ...block, grow: 'down' }, faces).frame.heightPt;
    const shrink = factor !== undefined && factor >= LITTLE;
    const fix = shrink ? `size ${sizeSays(block, factor)}` : `frame ${printValue(block.frame.heightPt, 1)} → ${printValue(heightPt, 1)} pt high`;
    const proposal: Proposal = shrink ? { scale: factor } : { frame: { heightPt } };
    return [
      {
        at,
        severity: 'severe',
        visiblePt: block.style.sizePt,
        subject: firstWords(missing),
        message: `cut off by the frame: ${fix}`,
        ...(block.locked ? {} : { proposal }),
      },
    ];
  },
};

/** The farthest that lines stand past both sides of a span, and which does. */
function farthestPast(lines: readonly (LineSeen | undefined)[], from: number, to: number): { line: LineSeen; pt: number } | undefined {
  let worst: { line: LineSeen; pt: number } | undefined;
  for (const line of lines) {
    if (!line) continue;
    const pt = Math.max(from - line.leftPt, line.rightPt - to);
    if (pt >= unseen(line.sizePt) && pt > (worst?.pt ?? 0)) worst = { line, pt };
  }
  return worst;
}

/** Lines wider than the frame that they are to break in. */
export const pastFrame: Rule = {
  id: 'past-frame',
  pass: 'fit',
  name: 'Words past their frame',
  looksAt: 'block',
  look: ({ block, setting, faces }) => {
    // Where the frame follows the words, or others than the frame give the measure, there is nothing to stand out of.
    if (block.grow === 'both' || setting.straight || (block.fit?.to && block.fit.to.kind !== 'frame')) return [];
    const past = (one: Block): { line: LineSeen; pt: number } | undefined => {
      const own = new Set(one.lineIndents.map(({ at }) => at));
      const set = one === block ? setting : setBlock(one, faces);
      const lines = seenLines(one, set, faces).filter((line) => line && !own.has(line.start));
      return farthestPast(lines, set.frame.xPt, set.frame.xPt + set.frame.widthPt);
    };
    const worst = past(block);
    if (!worst) return [];
    const factor = block.locked || block.fit ? undefined : largestThat((one) => past(one) === undefined, block);
    return [
      {
        at: worst.line.start,
        severity: 'fault',
        visiblePt: worst.pt,
        subject: firstWords(block.words.slice(worst.line.start, worst.line.end)),
        message: `${printValue(worst.pt, 1)} pt past its frame${factor === undefined ? '' : `: size ${sizeSays(block, factor)}`}`,
        ...(factor === undefined ? {} : { proposal: { scale: factor } }),
      },
    ];
  },
};

/** A side of the sheet or of its margins that words stand past. */
interface Past {
  side: 'left' | 'top' | 'right' | 'bottom';
  pt: number;
}

/** The side of a room that a box stands past by most, if by `least` or more; in points. */
function pastBox(box: Box, room: Box, least: number): Past | undefined {
  const sides: Past[] = [
    { side: 'left', pt: room.leftPt - box.leftPt },
    { side: 'top', pt: room.topPt - box.topPt },
    { side: 'right', pt: box.rightPt - room.rightPt },
    { side: 'bottom', pt: box.bottomPt - room.bottomPt },
  ];
  const [worst] = sides.filter(({ pt }) => pt >= least).sort((a, b) => b.pt - a.pt);
  return worst;
}

const sheetBox = ({ widthPt, heightPt }: Pick<Sheet, 'widthPt' | 'heightPt'>): Box => ({ leftPt: 0, topPt: 0, rightPt: widthPt, bottomPt: heightPt });
const marginBox = ({ widthPt, heightPt, margins }: Pick<Sheet, 'widthPt' | 'heightPt' | 'margins'>): Box => ({
  leftPt: margins.leftPt,
  topPt: margins.topPt,
  rightPt: widthPt - margins.rightPt,
  bottomPt: heightPt - margins.bottomPt,
});

/**
 * The part of a block that belongs inside the margins: its lines at their visible edges, from the ink at the top to the last baseline; what
 * hangs, and what reaches below the baseline, may stand outside. Undefined for turned blocks, and for those on a path.
 */
function bodyOf({ block, setting, faces }: BlockView, ink: Box): Box | undefined {
  const turned = block.rotationDeg !== 0 || setting.straight;
  const lines = turned ? [] : seenLines(block, setting, faces).filter((line) => line !== undefined);
  const last = setting.lines[setting.lines.length - 1];
  if (lines.length === 0 || !last) return undefined;
  return {
    leftPt: Math.min(...lines.map(({ leftPt }) => leftPt)),
    rightPt: Math.max(...lines.map(({ rightPt }) => rightPt)),
    topPt: ink.topPt,
    bottomPt: last.baselinePt,
  };
}

/** Moved into the room where it is large enough, else made so much smaller that it is, and moved then. */
function intoRoom(view: BlockView, body: Box, room: Box): { proposal: Proposal; says: string } | undefined {
  const { block } = view;
  if (block.locked) return undefined;
  const [widthPt, heightPt] = [room.rightPt - room.leftPt, room.bottomPt - room.topPt];
  const needed = Math.min(1, widthPt / (body.rightPt - body.leftPt), heightPt / (body.bottomPt - body.topPt));
  if (needed < 1 && (block.fit || needed < SMALLEST)) return undefined;
  const factor = needed < 1 ? smaller(block, needed).factor : 1;
  const { xPt, yPt } = block.frame;
  // The block is made smaller about its frame's top left corner.
  const scaledBox: Box = {
    leftPt: xPt + (body.leftPt - xPt) * factor,
    rightPt: xPt + (body.rightPt - xPt) * factor,
    topPt: yPt + (body.topPt - yPt) * factor,
    bottomPt: yPt + (body.bottomPt - yPt) * factor,
  };
  const [x, y] = [
    offsetInto(scaledBox.leftPt, scaledBox.rightPt, room.leftPt, room.rightPt),
    offsetInto(scaledBox.topPt, scaledBox.bottomPt, room.topPt, room.bottomPt),
  ];
  const frame = {
    xPt: xPt + x,
    yPt: yPt + y,
    ...(factor < 1 ? { widthPt: Math.max(1, block.frame.widthPt * factor), heightPt: Math.max(1, block.frame.heightPt * factor) } : {}),
  };
  return factor < 1
    ? { proposal: { scale: factor, frame }, says: `size ${sizeSays(block, factor)}` }
    : {
        proposal: { frame },
        says: `move it ${[x === 0 ? '' : `${printValue(Math.abs(x), 1)} pt ${x < 0 ? 'left' : 'right'}`, y === 0 ? '' : `${printValue(Math.abs(y), 1)} pt ${y < 0 ? 'up' : 'down'}`].filter(Boolean).join(', ')}`,
      };
}

/** How far a span must move to lie inside another that is as long or longer. */
const offsetInto = (from: number, to: number, least: number, most: number): number => (from < least ? least - from : to > most ? most - to : 0);

/** True where the middle of a box is inside a room. What has its middle outside was put there. */
const isIn = (box: Box, room: Box): boolean => {
  const [x, y] = [(box.leftPt + box.rightPt) / 2, (box.topPt + box.bottomPt) / 2];
  return x > room.leftPt && x < room.rightPt && y > room.topPt && y < room.bottomPt;
};

function roomRule(of: 'sheet' | 'margin'): Rule {
  return {
    id: `past-${of}`,
    pass: 'fit',
    name: of === 'sheet' ? 'Words past the sheet' : 'Words past the margin',
    looksAt: 'sheet',
    look: ({ sheet, blocks }: SheetView) =>
      blocks.flatMap((view): Found[] => {
        const { block, setting, faces } = view;
        const ink = sheetBoxOf(block, setting, faces);
        if (!ink) return [];
        const least = unseen(block.style.sizePt);
        const off = pastBox(ink, sheetBox(sheet), of === 'sheet' ? 0.01 : least);
        const margins = marginBox(sheet);
        const body = bodyOf(view, ink);
        const past = of === 'sheet' ? off : off || !body || !isIn(body, margins) ? undefined : pastBox(body, margins, least);
        if (!past) return [];
        const fix = body ? intoRoom(view, body, margins) : intoRoom(view, ink, sheetBox(sheet));
        return [
          {
            at: 0,
            blockId: block.id,
            severity: of === 'sheet' ? 'severe' : 'notice',
            visiblePt: past.pt,
            subject: firstWords(block.words),
            message: `${printValue(past.pt, 1)} pt past the ${past.side} ${of === 'sheet' ? 'edge of the sheet' : 'margin'}${fix ? `: ${fix.says}` : ''}`,
            ...(fix ? { proposal: fix.proposal } : {}),
          },
        ];
      }),
  };
}

/** Copy that doesn't fit. */
export const NO_ROOM: readonly Rule[] = [wordsCut, pastFrame, roomRule('sheet'), roomRule('margin')];
