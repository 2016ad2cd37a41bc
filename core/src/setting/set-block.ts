/** Setting: words and style become lines of placed glyphs, stage by stage; each stage is a file of its own (docs/architecture.md). */
import type { Block, Sheet } from '../job';
import { type BlockSetting, straightLines } from './block-setting';
import type { FaceSet } from './faces';
import { fitBlock } from './fit-block';
import { dressed } from './open-lines';
import { setLines } from './set-lines';

/** Sets one block. Pure but for the faces' caches. */
export function setBlock(block: Block, faces: FaceSet): BlockSetting {
  if (!block.fit) return setLines(block, dressed(block, faces), faces);
  const fitted = fitBlock(block, block.fit, faces, setBlock);
  return setLines(fitted.block, dressed(fitted.block, faces, fitted.breaks), faces, fitted);
}

/** Room that sums of widths are off by, in points: a line that just fits its frame must not break. */
const ROOM = 0.01;

/**
 * A block as its fit has it come out, in plain values, every letter where it stood: what letting go of the fit leaves. Its frame is made as
 * wide as its lines, ends of lines that were found become stated ones, and lines that stood by their ink keep their places by indents.
 */
export function releaseFit(block: Block, faces: FaceSet): Block {
  if (!block.fit) return block;
  const stood = straightLines(setBlock(block, faces));
  const { block: plain, breaks } = fitBlock(block, block.fit, faces, setBlock);
  let { words } = plain;
  if (plain.paragraph.list === 'none') {
    for (const { end } of breaks) {
      if (end < words.length && words.charAt(end - 1) === ' ') words = `${words.slice(0, end - 1)}\n${words.slice(end)}`;
    }
  }
  const widest = stood.reduce((most, { widthPt }) => Math.max(most, widthPt), 0) + Math.max(0, plain.paragraph.indentPt);
  const frame = plain.grow === 'both' ? plain.frame : { ...plain.frame, widthPt: Math.max(plain.frame.widthPt, widest + ROOM) };
  const free: Block = { ...plain, fit: null, words, frame };
  const own = new Map(free.lineIndents.map(({ at, byPt }) => [at, byPt]));
  straightLines(setBlock(free, faces)).forEach(({ start, leftPt }, i) => {
    const byPt = (stood[i]?.leftPt ?? leftPt) - leftPt + (own.get(start) ?? 0);
    if (Math.abs(byPt) > 1e-6) own.set(start, byPt);
    else own.delete(start);
  });
  return { ...free, lineIndents: [...own].map(([at, byPt]) => ({ at, byPt })).sort((x, y) => x.at - y.at) };
}

/** Sets every block of a sheet, in painting order. */
export const setSheet = (sheet: Sheet, faces: FaceSet): BlockSetting[] => sheet.blocks.map((block) => setBlock(block, faces));
