/** The types of a setting: lines of placed glyphs, plain data. Points from the sheet's left and top, y down. */
import type { Alone, LeverValues } from '../fitting';
import type { Frame, LeverName, Style, WordRange } from '../job';
import type { Matrix } from './matrix';

/** A glyph on the sheet. */
export interface PlacedGlyph {
  glyphId: number;
  /** Offset in the block's words of the first letter it stands for. */
  cluster: number;
  /** Where spacing has put its origin, in points from the sheet's left and top; `glyphMatrix` says where it stands after its shift. */
  xPt: number;
  yPt: number;
  /** The font's own x offset within `xPt`, which marks have: without it, `xPt` is where the pen stood. */
  offsetPt: number;
  /** Moves, turns or scales the letter from there, in the sheet's coordinates; absent where it stays. The same for all glyphs of a cluster. */
  shift?: Matrix;
}

/** Glyphs of one style on one line. */
export interface PlacedRun extends WordRange {
  style: Style;
  /** Points per font unit: upright, and across. */
  scale: number;
  xScale: number;
  glyphs: PlacedGlyph[];
  /** Underline and strike-through, from the font's own metrics. */
  rules: RuleLine[];
}

/** A straight rule on the sheet, in points. */
export interface RuleLine {
  xPt: number;
  yPt: number;
  widthPt: number;
  heightPt: number;
  /** Takes it from there to its letters on a path; absent where it stays. */
  shift?: Matrix;
}

/** A line's stretch of words; `visibleEnd` leaves out the blanks that hang past it. */
export interface LineRange extends WordRange {
  visibleEnd: number;
}

/** One line of a block. Lengths in points, from the sheet's left and top. */
export interface SetLine extends LineRange {
  leftPt: number;
  /** From the first letter's origin to the end of the last letter's advance. */
  widthPt: number;
  baselinePt: number;
  /** Distance to the baseline above that this line asks for. */
  leadingPt: number;
  /** Largest type size on the line. */
  sizePt: number;
  runs: PlacedRun[];
  /** Where its edges are seen, on the sheet; absent where they are those of its advances. */
  edges?: { leftPt: number; rightPt: number };
  /** How far it begins from where side bearings alone would have it begin, in points. */
  offsetPt?: number;
  /** The fit of the line. */
  fit?: LineFit;
  /** The mark of a list before the line's first letter. */
  mark?: PlacedRun;
}

/** How a line was brought to a width. */
export interface LineFit {
  targetPt: number;
  /** Its width before. */
  naturalPt: number;
  values: LeverValues;
  /** The value of each lever that works alone. */
  alone: Readonly<Record<LeverName, Alone | undefined>>;
  /** The width missing within the levers' limits, in points; negative where it is too wide. */
  missingPt: number;
}

/** A block as it stands on the sheet; plain data. Lines are not turned: the block's rotation turns all of it around the middle of `frame`. */
export interface BlockSetting {
  blockId: string;
  lines: SetLine[];
  /** The lines as they would be without the block's path; absent where they are straight. */
  straight?: SetLine[];
  /** True where words reach past an end of their path. */
  beyondPath?: boolean;
  /** The frame as the words have made it: as stated where it is fixed, else as wide or as high as they need. */
  frame: Frame;
  /** The height missing to the height that its lines are fitted to, in points; absent where they are to none. */
  missingHeightPt?: number;
  /** From the frame's top to the lower end of the last line, in points. */
  heightPt: number;
  /** True where a fixed frame cuts words off; the last line then ends with an ellipsis. */
  cut: boolean;
  /** True where small capitals had to be made by reducing capitals. */
  reducedCaps: boolean;
  /** The face's own word space in 1/1000 em, where it has a space. */
  wordSpaceMilliem: number | undefined;
  /** Faces the job names that are not here; a stand-in was used. */
  missingFaces: string[];
}

/** A block's lines as they are without its path: what is compared side by side is compared on these. */
export const straightLines = ({ straight, lines }: Pick<BlockSetting, 'straight' | 'lines'>): readonly SetLine[] => straight ?? lines;

/** All runs of a line, a list mark first. */
export const runsOfLine = ({ mark, runs }: Pick<SetLine, 'mark' | 'runs'>): readonly PlacedRun[] => (mark ? [mark, ...runs] : runs);
