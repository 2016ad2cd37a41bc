/**
 * Letters as live text, so that whoever opens the file with the same font sees what the outlines show. Each letter has its own place;
 * since a place of its own takes a letter out of its neighbours' shaping, words whose letters are other glyphs alone are written as one
 * where a reader sets them like this, and as outlines where it wouldn't.
 */
import type { GlyphNode, LettersNode } from '../drawing';
import { type FaceInstance, type FeatureRange, pathData } from '../face';
import { LIGATURE_FEATURES, type Matrix, applyToPoint, inverse } from '../setting';
import { type EmbeddedFonts, NO_FONTS } from './format';
import { COORDINATE_DIGITS, escapeXml, xmlNumber, printMatrix, printPart } from './xml';

/** A reader's own setting that is no farther off than this is taken for the same, in em. */
const NEAR = 0.0005;

/** A letter: its glyphs, the first of which says what it shows. */
interface SvgLetter {
  text: string;
  at: number;
  glyphs: GlyphNode[];
  /** How it is turned and scaled; upright and as wide as drawn where it is absent. */
  transform: Matrix | undefined;
  /** Where the pen stood, in the space so turned and scaled. */
  x: number;
  y: number;
  /** Where it stood on the sheet. */
  pen: { xPt: number; yPt: number };
}

/** Letters that get one place, or one each. */
type Piece = { kind: 'word' | 'letter' | 'outline'; letters: readonly SvgLetter[] };

/** @param fonts where the file holds some: families go by the names they have there. */
export function writeText(node: LettersNode, instance: FaceInstance, fonts: EmbeddedFonts = NO_FONTS): string {
  const features = featuresOf(node.style);
  const pieces = svgWordsOf(svgLettersOf(node, instance)).flatMap((word) =>
    piecesOf(word, { instance, features, sizePt: node.style.sizePt, language: node.language }),
  );
  const out: string[] = [];
  let open: Piece[] = [];
  const close = (): void => {
    if (open.length > 0) out.push(writeElement(open, node, instance, { features, fonts }));
    open = [];
  };
  for (const piece of pieces) {
    if (piece.kind === 'outline') {
      close();
      for (const { glyphs } of piece.letters)
        for (const { glyphId, matrix } of glyphs) {
          const d = pathData(instance.outline(glyphId), matrix, COORDINATE_DIGITS);
          if (d) out.push(`<path d="${d}"/>`);
        }
      continue;
    }
    if (open[0] && !shareElement(open[0], piece)) close();
    open.push(piece);
  }
  close();
  return out.join('\n');
}

/** The letters in the order of the words. */
function svgLettersOf({ glyphs, style }: LettersNode, instance: FaceInstance): SvgLetter[] {
  const em = style.sizePt / instance.unitsPerEm;
  const byPlace = new Map<number, GlyphNode[]>();
  for (const glyph of glyphs) {
    if (glyph.at === undefined) continue;
    const own = byPlace.get(glyph.at);
    if (own) own.push(glyph);
    else byPlace.set(glyph.at, [glyph]);
  }
  return [...byPlace]
    .sort(([a], [b]) => a - b)
    .flatMap(([at, own]) => {
      const first = own.find(({ shows }) => shows !== '');
      if (!first) return [];
      const { a, b, c, d } = first.matrix;
      const turn: Matrix = { a: a / em, b: b / em, c: -c / em, d: -d / em, e: 0, f: 0 };
      const transform = sameTurn(turn, UPRIGHT) ? undefined : turn;
      // Turned and scaled letters keep their places: positions are given in the turned and scaled space.
      return [{ text: first.shows, at, glyphs: own, transform, pen: first.pen, ...applyToPoint(inverse(turn), { x: first.pen.xPt, y: first.pen.yPt }) }];
    });
}

const UPRIGHT: Matrix = { a: 1, b: 0, c: 0, d: 1, e: 0, f: 0 };
const sameTurn = (one: Matrix = UPRIGHT, other: Matrix = UPRIGHT): boolean =>
  (['a', 'b', 'c', 'd'] as const).every((key) => Math.abs(one[key] - other[key]) < 1e-9);

/** True for a letter that is turned, or stands upright, and is as large as drawn: `rotate` (SVG 2, 11.10.1.2) can turn it about its pen. */
function isOnlyTurned({ kind, letters: [letter, more] }: Piece): boolean {
  if (kind !== 'letter' || !letter || more || letter.text.length !== 1) return false;
  const { a, b, c, d } = letter.transform ?? UPRIGHT;
  return Math.abs(a - d) < 1e-9 && Math.abs(b + c) < 1e-9 && Math.abs(a * a + b * b - 1) < 1e-9;
}

/** Pieces that one element can hold: turned and scaled alike, or only turned. */
const shareElement = (one: Piece, other: Piece): boolean =>
  sameTurn(one.letters[0]?.transform, other.letters[0]?.transform) || (isOnlyTurned(one) && isOnlyTurned(other));

const degreesOf = ({ transform }: SvgLetter): number => (transform ? (Math.atan2(transform.b, transform.a) * 180) / Math.PI : 0);

/** Letters between blanks that stand on one line and are turned alike; a blank is a word of its own. */
function svgWordsOf(letters: readonly SvgLetter[]): SvgLetter[][] {
  const words: SvgLetter[][] = [];
  for (const letter of letters) {
    const last = words[words.length - 1];
    const before = last?.[last.length - 1];
    const together = before && !/\s/.test(before.text + letter.text) && sameTurn(before.transform, letter.transform) && Math.abs(before.y - letter.y) < 1e-9;
    if (last && together) last.push(letter);
    else words.push([letter]);
  }
  return words;
}

interface Setter {
  instance: FaceInstance;
  features: readonly FeatureRange[];
  sizePt: number;
  language: string | undefined;
}

function piecesOf(word: readonly SvgLetter[], setter: Setter): Piece[] {
  const alike = word.map((letter) => setsAlike([letter], setter));
  if (alike.every((one) => one)) return word.map((letter) => ({ kind: 'letter', letters: [letter] }));
  if (setsAlike(word, setter)) return [{ kind: 'word', letters: word }];
  return word.map((letter, i) => ({ kind: alike[i] ? 'letter' : 'outline', letters: [letter] }));
}

/** True where a reader that shapes letters by themselves comes to the glyphs that are drawn, in their places. */
function setsAlike(letters: readonly SvgLetter[], { instance, features, sizePt, language }: Setter): boolean {
  const text = letters.map(({ text: own }) => own).join('');
  const drawn = letters.flatMap(({ glyphs }) => glyphs).sort((a, b) => originOf(a) - originOf(b));
  const shaped = instance.shape(text, 0, text.length, features, undefined, undefined, language);
  if (shaped.length !== drawn.length) return false;
  const em = sizePt / instance.unitsPerEm;
  const [first] = letters;
  const turn = inverse(first?.transform ?? UPRIGHT);
  let pen = 0;
  const set = shaped.map(({ glyphId, xAdvance, xOffset, yOffset }) => {
    const place = { glyphId, x: (pen + xOffset) * em, y: -yOffset * em };
    pen += xAdvance;
    return place;
  });
  // Where a reader begins: at the pen of the leftmost letter.
  const left = Math.min(...letters.map(({ x }) => x));
  return set
    .sort((a, b) => a.x - b.x)
    .every(({ glyphId, x, y }, i) => {
      const glyph = drawn[i];
      if (glyph?.glyphId !== glyphId) return false;
      const place = applyToPoint(turn, { x: glyph.matrix.e, y: glyph.matrix.f });
      return Math.abs(place.x - left - x) < NEAR * sizePt && Math.abs(place.y - (first?.y ?? 0) - y) < NEAR * sizePt;
    });
}

const originOf = ({ matrix }: GlyphNode): number => matrix.e;

/** Neighbours of a kind share a list of places; what is one word or one letter of several characters has a `tspan` of its own. */
function writeElement(
  pieces: readonly Piece[],
  { style, language }: LettersNode,
  instance: FaceInstance,
  { features, fonts }: { features: readonly FeatureRange[]; fonts: EmbeddedFonts },
): string {
  const letters = pieces.flatMap((piece) => piece.letters);
  const [first] = letters;
  // Letters that stand on a path: each has its place and its turn.
  const turned =
    pieces.some(({ letters: [letter] }) => !sameTurn(letter?.transform, first?.transform)) || (first?.transform !== undefined && pieces.every(isOnlyTurned));
  const level = !turned && letters.every(({ y }) => Math.abs(y - (first?.y ?? 0)) < 1e-9);
  const spans: { text: string; xs: string[]; ys: string[]; turns: string[]; single: boolean }[] = [];
  for (const { kind, letters: own } of pieces) {
    const text = own.map((letter) => letter.text).join('');
    const single = kind === 'letter' && text.length === 1;
    const [start] = own;
    const x = xmlNumber(Math.min(...own.map((letter) => (turned ? letter.pen.xPt : letter.x))));
    const y = xmlNumber((turned ? start?.pen.yPt : start?.y) ?? 0);
    const turn = start && turned ? printPart(Math.round(degreesOf(start) * 1e6) / 1e6) : '0';
    const last = spans[spans.length - 1];
    if (single && last?.single) {
      last.text += text;
      last.xs.push(x);
      last.ys.push(y);
      last.turns.push(turn);
    } else spans.push({ text, xs: [x], ys: [y], turns: [turn], single });
  }
  const body = spans
    .map(
      ({ text, xs, ys, turns }) =>
        `<tspan x="${xs.join(' ')}"${level ? '' : ` y="${ys.join(' ')}"`}${turned ? ` rotate="${turns.join(' ')}"` : ''}>${escapeXml(text)}</tspan>`,
    )
    .join('');
  const { face } = instance;
  const attributes = [
    ...(level ? [`y="${xmlNumber(letters[0]?.y ?? 0)}"`] : []),
    `font-family="${escapeXml(familiesOf(instance, fonts))}"`,
    `font-weight="${style.axes['wght'] ?? face.axes.find(({ tag }) => tag === 'wght')?.default ?? face.posture.weight}"`,
    ...(face.posture.italic ? ['font-style="italic"'] : []),
    `font-size="${xmlNumber(style.sizePt)}"`,
    'xml:space="preserve"',
    ...(language === undefined ? [] : [`xml:lang="${escapeXml(language)}"`]),
  ];
  // Every axis is stated: a reader sets what is not to its own values, the optical size to that of the type.
  const axes = Object.fromEntries(face.axes.map(({ tag, min, max, default: usual }) => [tag, Math.min(max, Math.max(min, style.axes[tag] ?? usual))]));
  const css = [
    ...(face.axes.length > 0 ? [`font-variation-settings:${cssSettings(axes)}`, 'font-optical-sizing:none'] : []),
    // Letters are neither hinted nor moved to whole pixels.
    'text-rendering:geometricPrecision',
    'font-synthesis:none',
    ...(features.length > 0 ? [`font-feature-settings:${cssSettings(Object.fromEntries(features.map(({ tag, value }) => [tag, value])))}`] : []),
  ];
  attributes.push(`style="${escapeXml(css.join(';'))}"`);
  const transform = turned ? undefined : first?.transform;
  if (transform) attributes.push(`transform="${printTransform(transform)}"`);
  return `<text ${attributes.join(' ')}>${body}</text>`;
}

/** The font features for a reader's shaper: kerning that is not the font's is in the letters' places. */
function featuresOf({ features, kerning, trackingMilliem }: LettersNode['style']): FeatureRange[] {
  return Object.entries({
    ...features,
    ...(kerning === 'font' ? {} : { kern: 0 }),
    ...(trackingMilliem === 0 ? {} : Object.fromEntries(LIGATURE_FEATURES.map((tag) => [tag, 0]))),
  }).map(([tag, value]) => ({ tag, value }));
}

const printTransform = (turn: Matrix): string => (turn.b === 0 && turn.c === 0 ? `scale(${printPart(turn.a)} ${printPart(turn.d)})` : printMatrix(turn));

function cssSettings(values: Readonly<Record<string, number>>): string {
  return Object.entries(values)
    .map(([tag, value]) => `"${tag.replaceAll('"', '')}" ${value}`)
    .join(', ');
}

/** The families of a face: the one the file holds first, so that other programs find it by its own name. */
function familiesOf(instance: FaceInstance, fonts: EmbeddedFonts): string {
  const own = `'${instance.face.family.replaceAll("'", '')}'`;
  return fonts.embeds(instance) ? `${fonts.familyOf(instance).replaceAll('"', "'")}, ${own}` : own;
}
