/**
 * A block's letters before anything is known of size, tracking and lines: their outlines and where they stand on one long
 * line a paragraph, in ems, and how far each moves with tracking.
 */
import { flatten } from '../face';
import { type Block, GREEDY, PLAIN_PARAGRAPH, STRAIGHT } from '../job';
import { type FaceSet, type PlacedGlyph, type PlacedRun, glyphMatrix, runsOfLine, setBlock } from '../setting';

/** A letter with ink (a glyph of one). Ems of the block's size, y down from the baseline. */
export interface ModelLetter {
  /** Offset in the words of the letter it shows, or the first of a ligature. */
  at: number;
  /** Its origin, without tracking. */
  x: number;
  y: number;
  /** Ems that it moves to the right for one em of tracking. */
  tracked: number;
  /** Straight pieces of its outline around its origin: x0, y0, x1, y1 each. */
  pieces: Float64Array;
  /** Around its ink. */
  left: number;
  top: number;
  right: number;
  bottom: number;
}

export interface LetterModel {
  /** In the order they stand in, from left to right, a list a paragraph. */
  paragraphs: readonly (readonly ModelLetter[])[];
  /** Points of an em in the block as it is. */
  sizePt: number;
}

/** Curves become so many pieces: off by less than a hundredth of a pixel at the sizes letters are measured at. */
const PIECES = 8;
/** A tracking that takes ligatures apart and is as good as none, and one to see how far letters move. */
const [NONE, SOME] = [0.1, 100.1];

/** The block's letters, ligatures taken apart, as tracked words are set. */
export function modelOf(block: Block, faces: FaceSet): LetterModel {
  const long = (trackingMilliem: number): Block => ({
    ...block,
    style: { ...block.style, trackingMilliem },
    frame: { xPt: 0, yPt: 0, widthPt: 50_000, heightPt: 1 },
    ...{ grow: 'both', align: 'left', vertical: 'top', trim: false, rotationDeg: 0, paragraph: PLAIN_PARAGRAPH, breaking: GREEDY },
    ...{ fit: null, edges: null, path: STRAIGHT, ends: null, lineIndents: [], lineLeading: [], tightened: [] },
  });
  const sizePt = block.style.sizePt;
  const [near, far] = [setBlock(long(NONE), faces), setBlock(long(SOME), faces)];
  const shapes = new Map<string, Pick<ModelLetter, 'pieces' | 'left' | 'top' | 'right' | 'bottom'> | undefined>();
  const paragraphs = near.lines.map((line, l): ModelLetter[] => {
    const moved = (far.lines[l] ? runsOfLine(far.lines[l]) : []).flatMap(({ glyphs }) => glyphs);
    let count = 0;
    return runsOfLine(line)
      .flatMap((run) =>
        run.glyphs.flatMap((glyph): ModelLetter[] => {
          const beyond = moved[count++];
          const { a, b, c, d, e, f } = glyphMatrix(glyph, run);
          const key = [run.style.faceId, JSON.stringify(run.style.axes), glyph.glyphId, a, b, c, d].join(' ');
          if (!shapes.has(key)) shapes.set(key, shapeOf(glyph, run, faces, sizePt));
          const shape = shapes.get(key);
          if (!shape) return [];
          const movedPt = beyond ? glyphMatrix(beyond, run).e - e : 0;
          const tracked = movedPt / sizePt / ((SOME - NONE) / 1000);
          return [{ ...shape, at: glyph.cluster, x: e / sizePt - (tracked * NONE) / 1000, y: (f - line.baselinePt) / sizePt, tracked }];
        }),
      )
      .sort((x, y) => x.x - y.x);
  });
  return { paragraphs, sizePt };
}

function shapeOf(
  glyph: PlacedGlyph,
  run: PlacedRun,
  faces: FaceSet,
  sizePt: number,
): Pick<ModelLetter, 'pieces' | 'left' | 'top' | 'right' | 'bottom'> | undefined {
  const { a, b, c, d } = glyphMatrix(glyph, run);
  const pieces: number[] = [];
  const box = { left: Infinity, top: Infinity, right: -Infinity, bottom: -Infinity };
  flatten(faces.instance(run.style).outline(glyph.glyphId), PIECES, (x0, y0, x1, y1) => {
    const ends = [(a * x0 + c * y0) / sizePt, (b * x0 + d * y0) / sizePt, (a * x1 + c * y1) / sizePt, (b * x1 + d * y1) / sizePt] as const;
    pieces.push(...ends);
    box.left = Math.min(box.left, ends[0]);
    box.right = Math.max(box.right, ends[0]);
    box.top = Math.min(box.top, ends[1]);
    box.bottom = Math.max(box.bottom, ends[1]);
  });
  return pieces.length > 0 && box.right > box.left ? { pieces: Float64Array.from(pieces), ...box } : undefined;
}
