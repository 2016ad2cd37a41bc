/** From a setting to its drawing. */
import type { Block, Frame, Sheet, Style } from '../job';
import { type BlockSetting, type PlacedGlyph, type PlacedRun, type SetLine, applyToPoint, endsInHyphen, glyphMatrix, runsOfLine, shownWords } from '../setting';
import { milliemToPoints } from '../units';
import type { BlockDrawing, DrawingNode, Fill, GlyphNode, LettersNode, SheetDrawing, Stroke } from './drawing';
import { gradientLine } from './gradient-line';

/** Outlines thinner and blurs smaller than this, in points, can't be seen at any scale that is handed over. */
const LEAST = 0.01;

/** Draws a sheet. @param settings its blocks as set; one that is not among them is left out. */
export function drawSheet(sheet: Sheet, settings: readonly BlockSetting[]): SheetDrawing {
  const byId = new Map(settings.map((setting) => [setting.blockId, setting]));
  const blocks = sheet.blocks.flatMap((block) => {
    const setting = byId.get(block.id);
    return setting ? [drawBlock(block, setting)] : [];
  });
  return { widthPt: sheet.widthPt, heightPt: sheet.heightPt, unit: sheet.unit, name: sheet.name, ground: drawGround(sheet), blocks };
}

/** The background under all blocks: a colour, a gradient, or a picture on its colour. */
export function drawGround({ background, widthPt, heightPt }: Pick<Sheet, 'background' | 'widthPt' | 'heightPt'>): DrawingNode[] {
  const box = { leftPt: 0, topPt: 0, rightPt: widthPt, bottomPt: heightPt };
  switch (background.kind) {
    case 'colour':
      return [{ kind: 'rectangle', box, fill: background.colour }];
    case 'gradient': {
      const { from, to, angleDeg } = background;
      return [{ kind: 'rectangle', box, fill: { from, to, ...gradientLine(widthPt, heightPt, angleDeg) } }];
    }
    case 'picture':
      return [
        { kind: 'rectangle', box, fill: background.colour },
        { kind: 'picture', box, pictureId: background.pictureId, fit: background.fit },
      ];
  }
}

/** Draws a block. */
export function drawBlock(block: Block, setting: BlockSetting): BlockDrawing {
  const { frame, lines } = setting;
  const drawing: BlockDrawing = {
    kind: 'group',
    blockId: block.id,
    label: block.words.replaceAll('\n', ' '),
    nodes: lines.flatMap((line) => drawLine(line, { words: block.words, language: block.language ?? undefined, frame })),
  };
  if (block.rotationDeg !== 0) {
    drawing.turn = { degrees: block.rotationDeg, xPt: frame.xPt + frame.widthPt / 2, yPt: frame.yPt + frame.heightPt / 2 };
  }
  return drawing;
}

/** How a line is drawn. */
export interface LineLook {
  /** The block's words, and the language they are in (BCP 47). */
  words: string;
  language?: string | undefined;
  /** The block's frame: a gradient runs over all of it. */
  frame: Frame;
  /** Draws all letters in this colour instead of with their own paint. */
  colour?: string;
}

/** Lines as they were drawn last, with their own paint: after most edits all but one are the very same. */
const drawn = new WeakMap<SetLine, { look: LineLook; nodes: readonly DrawingNode[] }>();

/** Draws one line, a list mark first. */
export function drawLine(line: SetLine, look: LineLook): readonly DrawingNode[] {
  const known = drawn.get(line);
  if (known && sameLook(known.look, look)) return known.nodes;
  const nodes = drawRuns(line, look);
  drawn.set(line, { look, nodes });
  return nodes;
}

const sameLook = (a: LineLook, b: LineLook): boolean =>
  a.words === b.words &&
  a.language === b.language &&
  a.colour === b.colour &&
  a.frame.xPt === b.frame.xPt &&
  a.frame.yPt === b.frame.yPt &&
  a.frame.widthPt === b.frame.widthPt &&
  a.frame.heightPt === b.frame.heightPt;

function drawRuns(line: SetLine, { words, language, frame, colour }: LineLook): DrawingNode[] {
  return runsOfLine(line).map((run) => {
    const letters = lettersNodeOf(run, line, { words, language });
    return colour === undefined ? painted(letters, run.style, frame) : { ...letters, fill: colour, stroke: undefined };
  });
}

/** Shows the hyphen of a word that a line divides. */
const HYPHEN = '-';

function lettersNodeOf(
  run: PlacedRun,
  { baselinePt, visibleEnd }: SetLine,
  own: { words: string; language: string | undefined },
): Omit<LettersNode, 'fill' | 'stroke'> {
  const { glyphs, rules, style, start, end } = run;
  // Marks and ellipses stand for no words.
  const among = end > start;
  // Where each letter's words end: where the next in the order of the words begins.
  const starts = among ? [...new Set(glyphs.map(({ cluster }) => cluster))].sort((a, b) => a - b) : [];
  const ends = new Map(starts.map((at, i) => [at, starts[i + 1] ?? end]));
  const hyphen = endsInHyphen(own.words, visibleEnd) ? visibleEnd - 1 : undefined;
  const shownFrom = (at: number): string => (at === hyphen ? HYPHEN : shownWords(own, { start: at, end: ends.get(at) ?? at }, style));
  let previous: number | undefined;
  return {
    kind: 'letters',
    style,
    ...(own.language === undefined ? {} : { language: own.language }),
    glyphs: glyphs.map((glyph): GlyphNode => {
      const at = among ? glyph.cluster : undefined;
      const shows = at === undefined || at === previous ? '' : shownFrom(at);
      previous = at;
      return { glyphId: glyph.glyphId, matrix: glyphMatrix(glyph, run), pen: penOf(glyph, baselinePt), at, shows };
    }),
    rules: rules.map(({ xPt, yPt, widthPt, heightPt, shift }) => ({
      box: { leftPt: xPt, topPt: yPt, rightPt: xPt + widthPt, bottomPt: yPt + heightPt },
      ...(shift ? { matrix: shift } : {}),
    })),
  };
}

function penOf({ xPt, offsetPt, shift }: PlacedGlyph, baselinePt: number): GlyphNode['pen'] {
  const x = xPt - offsetPt;
  if (!shift) return { xPt: x, yPt: baselinePt };
  const moved = applyToPoint(shift, { x, y: baselinePt });
  return { xPt: moved.x, yPt: moved.y };
}

/** Letters with their paint, and their shadow behind them. */
function painted(letters: Omit<LettersNode, 'fill' | 'stroke'>, style: Style, frame: Frame): DrawingNode {
  const stroke = strokeOf(style);
  const front: LettersNode = { ...letters, fill: fillOf(style, frame), stroke };
  const { shadow, opacity, sizePt } = style;
  if (!shadow) return opacity < 1 ? { kind: 'group', opacity, nodes: [front] } : front;
  // A CSS blur radius is twice the standard deviation (CSS Backgrounds 3, section 4.6.1).
  const blurPt = milliemToPoints(shadow.blurMilliem, sizePt) / 2;
  const cast: DrawingNode = {
    kind: 'group',
    shadow: true,
    move: { xPt: milliemToPoints(shadow.xMilliem, sizePt), yPt: milliemToPoints(shadow.yMilliem, sizePt) },
    ...(blurPt >= LEAST ? { blurPt } : {}),
    nodes: [{ ...letters, fill: shadow.colour, stroke: stroke && { ...stroke, colour: shadow.colour } }],
  };
  return { kind: 'group', ...(opacity < 1 ? { opacity } : {}), nodes: [cast, front] };
}

function fillOf({ colour, gradient }: Style, { xPt, yPt, widthPt, heightPt }: Frame): Fill {
  if (!gradient) return colour;
  const { x1, y1, x2, y2 } = gradientLine(widthPt, heightPt, gradient.angleDeg);
  return { from: colour, to: gradient.to, x1: xPt + x1, y1: yPt + y1, x2: xPt + x2, y2: yPt + y2 };
}

function strokeOf({ outline, sizePt }: Style): Stroke | undefined {
  const widthPt = outline ? milliemToPoints(outline.milliem, sizePt) : 0;
  return outline && widthPt >= LEAST ? { colour: outline.colour, widthPt, join: outline.join } : undefined;
}
