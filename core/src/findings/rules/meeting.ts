/** Inks of two lines, or of two blocks, that lie over each other. It may be meant: told once, and silenced like any finding. */
import { touches } from '../../setting';
import { printValue } from '../../units';
import { CLEAR_LINES, leadingThatClears, meets } from '../clear-lines';
import { type Found, firstWords } from '../finding';
import type { Proposal } from '../proposals';
import type { BlockView, Rule, SheetView } from '../rule';
import { nearLines } from './near-lines';
import { shiftedAt } from './shifted';
import { type SheetInk, inksMeet, movedInk, movesToClear, sheetBoxOf, sheetInkOf } from '../sheet-ink';

/** Blocks are moved apart to so much clear paper, as a share of the smaller size. */
const CLEAR_BLOCKS = 0.1;
/** Blocks with more pairs of letters than this are copy over copy: what parts them isn't looked for at every key. */
const MOST_PAIRS = 200_000;

export const linesMeet: Rule = {
  id: 'lines-meet',
  pass: 'leading',
  name: 'Lines touch',
  looksAt: 'block',
  look: (view) => {
    const { block, setting, faces } = view;
    if (setting.lines.length < 2) return [];
    // A line that meets another by a letter that is shifted is told of that letter.
    const close = nearLines(setting, faces).flatMap(({ upper, lower, gap }) => (meets(gap) && !shiftedAt(block, upper, lower, gap.xPt) ? [gap] : []));
    if (close.length === 0) return [];
    // All lines are led alike: one proposal parts them all.
    const proposal = block.locked ? undefined : leadingThatClears(view);
    return close.map(({ at, clearPt = 0 }) => ({
      at,
      severity: 'severe',
      visiblePt: Math.max(-clearPt, CLEAR_LINES * block.style.sizePt),
      subject: firstWords(block.words.slice(at)),
      message: clearPt < -0.005 ? `overlaps the line above by ${printValue(-clearPt, 1)} pt` : 'touches the line above',
      ...(proposal ? { proposal } : {}),
    }));
  },
};

interface Inked {
  view: BlockView;
  ink: SheetInk;
}

/** The least move that parts a block from another and leads it over nothing else, nor out of the sheet. */
function moveApart({ sheet }: SheetView, moving: Inked, still: Inked, all: readonly Inked[]): { proposal: Proposal; pt: number; says: string } | undefined {
  const { block } = moving.view;
  if (block.locked || moving.ink.shapes.length * still.ink.shapes.length > MOST_PAIRS) return undefined;
  const spare = CLEAR_BLOCKS * Math.min(block.style.sizePt, still.view.block.style.sizePt);
  const { downPt, rightPt } = movesToClear(still.ink, moving.ink);
  const { downPt: upPt, rightPt: leftPt } = movesToClear(moving.ink, still.ink);
  const moves = [
    { way: 'down', pt: downPt + spare, x: 0, y: 1 },
    { way: 'up', pt: upPt + spare, x: 0, y: -1 },
    { way: 'right', pt: rightPt + spare, x: 1, y: 0 },
    { way: 'left', pt: leftPt + spare, x: -1, y: 0 },
  ].sort((a, b) => a.pt - b.pt);
  const before = moving.ink.box;
  const stays = ({ leftPt: left, topPt: top, rightPt: right, bottomPt: bottom }: SheetInk['box']): boolean =>
    left >= Math.min(0, before.leftPt) &&
    top >= Math.min(0, before.topPt) &&
    right <= Math.max(sheet.widthPt, before.rightPt) &&
    bottom <= Math.max(sheet.heightPt, before.bottomPt);
  for (const { way, pt, x, y } of moves) {
    const [xPt, yPt] = [x * pt, y * pt];
    const ink = movedInk(moving.ink, xPt, yPt);
    if (!stays(ink.box) || all.some((other) => other !== moving && inksMeet(ink, other.ink))) continue;
    return { proposal: { frame: { xPt: block.frame.xPt + xPt, yPt: block.frame.yPt + yPt } }, pt, says: `${printValue(pt, 1)} pt ${way}` };
  }
  return undefined;
}

export const blocksMeet: Rule = {
  id: 'blocks-meet',
  pass: 'leading',
  name: 'Blocks overlap',
  looksAt: 'sheet',
  look: (sheetView) => {
    const boxed = sheetView.blocks.flatMap((view) => {
      const box = sheetBoxOf(view.block, view.setting, view.faces);
      return box ? [{ view, box }] : [];
    });
    // On most sheets all blocks stand clear: letters are compared only where boxes meet.
    if (!boxed.some((one, i) => boxed.slice(i + 1).some((other) => touches(one.box, other.box)))) return [];
    const all = boxed.flatMap(({ view }): Inked[] => {
      const ink = sheetInkOf(view.block, view.setting, view.faces);
      return ink ? [{ view, ink }] : [];
    });
    /** The blocks under each block that would give way. */
    const over = new Map<Inked, Inked[]>();
    all.forEach((one, i) => {
      for (const other of all.slice(i + 1)) {
        if (!inksMeet(one.ink, other.ink)) continue;
        // The lower of the two gives way, or the later one where they begin alike.
        const [still, moving] = one.ink.box.topPt <= other.ink.box.topPt ? [one, other] : [other, one];
        over.set(moving, [...(over.get(moving) ?? []), still]);
      }
    });
    return [...over].flatMap(([moving, [still, ...others]]): Found[] => {
      if (!still) return [];
      const move = moveApart(sheetView, moving, still, all);
      const [a, b] = [still.ink.box, moving.ink.box];
      return [
        {
          at: 0,
          blockId: moving.view.block.id,
          severity: 'severe',
          visiblePt: move?.pt ?? Math.min(a.bottomPt - b.topPt, a.rightPt - b.leftPt, b.rightPt - a.leftPt),
          subject: firstWords(moving.view.block.words),
          message: `overlaps “${firstWords(still.view.block.words)}”${others.length > 0 ? ` and ${others.length} more` : ''}${move ? `: move it ${move.says}` : ''}`,
          ...(move ? { proposal: move.proposal } : {}),
        },
      ];
    });
  },
};
