/** One block of a sheet by itself, on nothing, as large as what of it is seen. */
import { type Box, type FaceSet, grown, inkBox, joinedBoxes, mappedBox } from '../setting';
import type { DrawingNode, GroupNode, SheetDrawing } from './drawing';
import { groupMatrix } from './group-matrix';

/** @returns undefined where there is no such block, or nothing of it is seen */
export function onlyBlock(drawing: SheetDrawing, blockId: string, faces: FaceSet): SheetDrawing | undefined {
  const block = drawing.blocks.find((one) => one.blockId === blockId);
  const box = block && boxOf(block, faces);
  if (!block || !box) return undefined;
  const { move = { xPt: 0, yPt: 0 } } = block;
  return {
    ...drawing,
    name: block.label.slice(0, 200) || drawing.name,
    widthPt: Math.max(1, box.rightPt - box.leftPt),
    heightPt: Math.max(1, box.bottomPt - box.topPt),
    ground: [],
    blocks: [{ ...block, move: { xPt: move.xPt - box.leftPt, yPt: move.yPt - box.topPt } }],
  };
}

/** The box around what a node shows, where it stands. */
function boxOf(node: DrawingNode, faces: FaceSet): Box | undefined {
  switch (node.kind) {
    case 'group':
      return groupBox(node, faces);
    case 'letters': {
      const instance = faces.instance(node.style);
      const boxes = [
        ...node.glyphs.map(({ glyphId, matrix }) => inkBox(glyphId, matrix, instance)),
        ...node.rules.map(({ box, matrix }) => (matrix ? mappedBox(matrix, box) : box)),
      ];
      const inked = joinedBoxes(boxes);
      const reach = node.stroke ? 2 * node.stroke.widthPt : 0;
      return inked && grown(inked, { leftPt: reach, topPt: reach, rightPt: reach, bottomPt: reach });
    }
    default:
      return node.box;
  }
}

function groupBox(node: GroupNode, faces: FaceSet): Box | undefined {
  const inside = joinedBoxes(node.nodes.map((one) => boxOf(one, faces)));
  // A blur is seen as far as three deviations.
  const far = 3 * (node.blurPt ?? 0);
  const soft = inside && grown(inside, { leftPt: far, topPt: far, rightPt: far, bottomPt: far });
  const matrix = groupMatrix(node);
  return soft && matrix ? mappedBox(matrix, soft) : soft;
}
