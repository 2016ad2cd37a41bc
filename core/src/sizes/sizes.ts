/** One design in several sizes: its sheets share words and recipes, and each is fitted to its own room. */
import { type Block, type Frame, type Job, type Sheet, type SheetPreset, addSheet, resolveBlock, scaledBlock, sheetOfPreset, usualMarginPt } from '../job';
import { type FaceSet, setBlock } from '../setting';

/** Halvings of the range in which the scale of the words is looked for: to less than a hundredth. */
const HALVINGS = 8;
/** Words are made no smaller than this share of what height or width alone would make them. */
const LEAST = 0.3;
/** Frames that meet may overlap by so much, in points. */
const HAIR = 0.5;

/**
 * The design of a sheet in other sizes, each a sheet of its own behind it. Frames keep their places in the room inside the margins; words
 * are as large as that room allows, no larger than its width asks for, so that nothing which stood apart meets.
 * @param newId gives a fresh identifier at every call. @returns the job and the new sheets' identifiers; the job itself where there is no such sheet.
 */
export function inOtherSizes(job: Job, sheetId: string, sizes: readonly SheetPreset[], faces: FaceSet, newId: () => string): { job: Job; sheetIds: string[] } {
  const found = job.sheets.find(({ id }) => id === sheetId);
  if (!found || sizes.length === 0) return { job, sheetIds: [] };
  // What is shared has a part on the first sheet too.
  const model: Sheet = { ...found, blocks: found.blocks.map((block) => (block.part === null ? { ...block, part: newId() } : block)) };
  const begun: Job = { ...job, sheets: job.sheets.map((sheet) => (sheet === found ? model : sheet)) };
  const stood = framesOn(begun, model, faces);
  let behind = sheetId;
  const sheetIds: string[] = [];
  const next = sizes.reduce((now, size) => {
    const sheet = fittedSize(now, model, stood, size, faces, newId);
    const grown = addSheet(now, sheet, behind);
    behind = sheet.id;
    sheetIds.push(sheet.id);
    return grown;
  }, begun);
  return { job: next, sheetIds };
}

/** Frames as their words have made them, by block. */
const framesOn = (job: Job, sheet: Sheet, faces: FaceSet): Map<string, Frame> =>
  new Map(sheet.blocks.map((block) => [block.id, setBlock(resolveBlock(job, sheet.id, block), faces).frame]));

/** The room inside the margins. */
const roomOf = ({ widthPt, heightPt, margins }: Sheet): Frame => ({
  xPt: margins.leftPt,
  yPt: margins.topPt,
  widthPt: Math.max(1, widthPt - margins.leftPt - margins.rightPt),
  heightPt: Math.max(1, heightPt - margins.topPt - margins.bottomPt),
});

function fittedSize(job: Job, model: Sheet, stood: ReadonlyMap<string, Frame>, size: SheetPreset, faces: FaceSet, newId: () => string): Sheet {
  const plain = sheetOfPreset(newId(), size);
  const scale = Math.min(plain.widthPt, plain.heightPt) / Math.min(model.widthPt, model.heightPt);
  const usual = usualMarginPt(model.widthPt, model.heightPt);
  const follow = (marginPt: number, own: number): number => (Math.abs(marginPt - usual) < HAIR ? own : marginPt * scale);
  const { background, safeShare, centreLines, margins } = model;
  const empty: Sheet = {
    ...plain,
    background,
    safeShare,
    centreLines,
    margins: {
      topPt: follow(margins.topPt, plain.margins.topPt),
      rightPt: follow(margins.rightPt, plain.margins.rightPt),
      bottomPt: follow(margins.bottomPt, plain.margins.bottomPt),
      leftPt: follow(margins.leftPt, plain.margins.leftPt),
    },
  };
  const ids = new Map(model.blocks.map(({ id }) => [id, newId()]));
  const [from, to] = [roomOf(model), roomOf(empty)];
  const across = to.widthPt / from.widthPt;
  const apart = pairsApart(model.blocks, stood);
  const at = (factor: number): { sheet: Sheet; fits: boolean } => {
    const blocks = model.blocks.map((block) => mapped(block, factor, from, to, ids));
    const set = framesOn({ ...job, sheets: [...job.sheets, { ...empty, blocks }] }, { ...empty, blocks }, faces);
    const placed = blocks.map((block, i): Block => {
      const was = model.blocks[i] && stood.get(model.blocks[i].id);
      const now = set.get(block.id);
      return was && now ? { ...block, frame: { ...block.frame, yPt: blockTop(was, now.heightPt, from, to) } } : block;
    });
    const edges = placed.map((block) => ({ top: block.frame.yPt, bottom: block.frame.yPt + (set.get(block.id)?.heightPt ?? 0) }));
    const inside = edges.every(({ top, bottom }) => top >= Math.min(to.yPt, 0) - HAIR && bottom <= empty.heightPt + HAIR);
    const clear = apart.every(([above, below]) => (edges[above]?.bottom ?? 0) <= (edges[below]?.top ?? 0) + HAIR);
    return { sheet: { ...empty, blocks: placed }, fits: inside && clear };
  };
  let best = at(across);
  if (best.fits) return best.sheet;
  let [low, high] = [Math.min(across, to.heightPt / from.heightPt) * LEAST, across];
  best = at(low);
  for (let halving = 0; halving < HALVINGS; halving++) {
    const tried = at((low + high) / 2);
    if (tried.fits) [low, best] = [(low + high) / 2, tried];
    else high = (low + high) / 2;
  }
  return best.sheet;
}

/** Pairs of blocks of which the first stands above the second. */
const pairsApart = (blocks: readonly Block[], stood: ReadonlyMap<string, Frame>): (readonly [number, number])[] =>
  blocks.flatMap((above, i) =>
    blocks.flatMap((below, j): (readonly [number, number])[] => {
      const [a, b] = [stood.get(above.id), stood.get(below.id)];
      const beside = !a || !b || a.xPt + a.widthPt <= b.xPt || b.xPt + b.widthPt <= a.xPt;
      return i !== j && !beside && a.yPt + a.heightPt <= b.yPt + HAIR ? [[i, j]] : [];
    }),
  );

/** A block in another room: its frame across as there, its words scaled, its size in tenths of a point. */
function mapped(block: Block, factor: number, from: Frame, to: Frame, ids: ReadonlyMap<string, string>): Block {
  const tenths = Math.max(1, Math.round(block.style.sizePt * factor * 10) / 10);
  const own = scaledBlock(block, tenths / block.style.sizePt, { xPt: 0, yPt: 0 });
  const widthPt = Math.max(1, (block.frame.widthPt * to.widthPt) / from.widthPt);
  const xPt = to.xPt + ((block.frame.xPt - from.xPt) * to.widthPt) / from.widthPt;
  // A frame that its words make, and one that a path runs in, is as wide as they are, in the middle of its place.
  const ownWidth = block.grow === 'both' || block.path.kind !== 'straight';
  const frame = ownWidth ? { ...own.frame, xPt: xPt + (widthPt - own.frame.widthPt) / 2 } : { ...own.frame, xPt, widthPt };
  const id = ids.get(block.id) ?? block.id;
  const fit = own.fit?.to?.kind === 'block' ? { ...own.fit, to: { ...own.fit.to, id: ids.get(own.fit.to.id) ?? own.fit.to.id } } : own.fit;
  return { ...own, id, frame: { ...frame, yPt: to.yPt + ((block.frame.yPt - from.yPt) * to.heightPt) / from.heightPt }, fit, intended: [] };
}

/** Where a frame begins that has become so high: it keeps to the edge of the room that it stood nearer to, or to the middle. */
function blockTop(was: Frame, heightPt: number, from: Frame, to: Frame): number {
  const [above, below] = [was.yPt - from.yPt, from.yPt + from.heightPt - was.yPt - was.heightPt];
  const by = to.heightPt / from.heightPt;
  if (Math.abs(above - below) < from.heightPt * 0.02) return to.yPt + above * by + (was.heightPt * by - heightPt) / 2;
  return above < below ? to.yPt + above * by : to.yPt + to.heightPt - below * by - heightPt;
}
