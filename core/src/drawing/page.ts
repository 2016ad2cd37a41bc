/** A sheet on a page that is printed and cut: the trimmed sheet, what bleeds over its edges, and the marks to cut by. */
import type { Box } from '../setting';
import type { BlockDrawing, DrawingNode, GroupNode, RectangleNode, SheetDrawing } from './drawing';

/** A page: everything in its own points from its top left. */
export interface Page {
  widthPt: number;
  heightPt: number;
  /** The sheet, the area left after cutting. */
  trim: Box;
  /** The printed area: the sheet and its bleed. */
  bleed: Box;
  /** The sheet's ground and blocks, to be clipped to the bleed. */
  ground: readonly DrawingNode[];
  blocks: readonly BlockDrawing[];
  /** Where to cut. */
  marks: readonly RectangleNode[];
}

/** How a page is laid out. */
export interface PageLayout {
  bleedPt: number;
  marks: boolean;
}

/** Marks begin so far outside what is printed, are so long and so thick, in points. */
const MARK = { away: 6, length: 14, thick: 0.25 };

/** Lays a sheet onto a page with room for its bleed and marks. */
export function pageOf(drawing: SheetDrawing, { bleedPt, marks }: PageLayout): Page {
  const edge = bleedPt + (marks ? MARK.away + MARK.length : 0);
  const trim = { leftPt: edge, topPt: edge, rightPt: edge + drawing.widthPt, bottomPt: edge + drawing.heightPt };
  const bleed = grownBy(trim, bleedPt);
  const move = { xPt: edge, yPt: edge };
  return {
    widthPt: drawing.widthPt + 2 * edge,
    heightPt: drawing.heightPt + 2 * edge,
    trim,
    bleed,
    ground: drawing.ground.map((node) => bled(node, drawing, move, bleedPt)),
    blocks: drawing.blocks.map((block) => ({ ...block, move: { xPt: edge + (block.move?.xPt ?? 0), yPt: edge + (block.move?.yPt ?? 0) } })),
    marks: marks ? marksAround(trim, bleedPt + MARK.away) : [],
  };
}

const grownBy = ({ leftPt, topPt, rightPt, bottomPt }: Box, by: number): Box => ({
  leftPt: leftPt - by,
  topPt: topPt - by,
  rightPt: rightPt + by,
  bottomPt: bottomPt + by,
});

/** A part of the ground that reaches the edges of the sheet reaches over them by the bleed. */
function bled(node: DrawingNode, { widthPt, heightPt }: SheetDrawing, move: NonNullable<GroupNode['move']>, by: number): GroupNode {
  if (node.kind !== 'rectangle' && node.kind !== 'picture') return { kind: 'group', move, nodes: [node] };
  const { leftPt, topPt, rightPt, bottomPt } = node.box;
  const box = {
    leftPt: leftPt <= 0 ? leftPt - by : leftPt,
    topPt: topPt <= 0 ? topPt - by : topPt,
    rightPt: rightPt >= widthPt ? rightPt + by : rightPt,
    bottomPt: bottomPt >= heightPt ? bottomPt + by : bottomPt,
  };
  // A picture that is fitted into the sheet stays as large as it is seen on the table.
  const keeps = node.kind === 'picture' && node.fit === 'contain';
  return { kind: 'group', move, nodes: [keeps ? node : { ...node, box }] };
}

/** Two marks at each corner, in line with the edges that are cut. */
function marksAround({ leftPt, topPt, rightPt, bottomPt }: Box, away: number): RectangleNode[] {
  const half = MARK.thick / 2;
  const lying = (x: number, y: number): Box => ({ leftPt: x, topPt: y - half, rightPt: x + MARK.length, bottomPt: y + half });
  const standing = (x: number, y: number): Box => ({ leftPt: x - half, topPt: y, rightPt: x + half, bottomPt: y + MARK.length });
  const boxes = [topPt, bottomPt].flatMap((y) => [lying(leftPt - away - MARK.length, y), lying(rightPt + away, y)]);
  boxes.push(...[leftPt, rightPt].flatMap((x) => [standing(x, topPt - away - MARK.length), standing(x, bottomPt + away)]));
  return boxes.map((box) => ({ kind: 'rectangle', box, fill: '#000000' }));
}

/** A page as a sheet of its own, so that it can be looked at: what is clipped away is covered with paper. */
export function sheetOfPage({ widthPt, heightPt, bleed, ground, blocks, marks }: Page, { unit, name }: Pick<SheetDrawing, 'unit' | 'name'>): SheetDrawing {
  const paper = (box: Box): RectangleNode => ({ kind: 'rectangle', box, fill: '#ffffff' });
  const around = [
    { leftPt: 0, topPt: 0, rightPt: widthPt, bottomPt: bleed.topPt },
    { leftPt: 0, topPt: bleed.bottomPt, rightPt: widthPt, bottomPt: heightPt },
    { leftPt: 0, topPt: bleed.topPt, rightPt: bleed.leftPt, bottomPt: bleed.bottomPt },
    { leftPt: bleed.rightPt, topPt: bleed.topPt, rightPt: widthPt, bottomPt: bleed.bottomPt },
  ].filter(({ leftPt, topPt, rightPt, bottomPt }) => rightPt > leftPt && bottomPt > topPt);
  const cover: BlockDrawing = { kind: 'group', blockId: 'page', label: '', nodes: [...around.map(paper), ...marks] };
  return { widthPt, heightPt, unit, name, ground, blocks: [...blocks, ...(cover.nodes.length > 0 ? [cover] : [])] };
}
