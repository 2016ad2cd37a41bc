/** Reading a picture of type: what can be told of its lines without knowing its words, and, the words known, what they are set in. */
import type { Block } from '../job';
import type { FaceSet } from '../setting';
import { opportunitiesOf } from '../setting/break';
import { pictureAngle, levelled, unlevelled } from './angle';
import { type InkShare, inkShareOf } from './ink-share';
import { modelOf } from './letter-model';
import { type LevelLine, lineLean, inkLinesOf } from './lines';
import { type Mark, inkHeightOf, inkMarksOf, inkWidthOf } from './marks';
import { type Lay, type LetterMatch, Matcher } from './match';
import { type Grey, type Raster, halved, smoothed } from './raster';
import { medianOf } from './median';
import { type WordsOnLines, spanOf, wordsOnLines } from './words-on-lines';

/** A place in a picture, in its pixels, y down. */
export interface PicturePoint {
  x: number;
  y: number;
}

/** A line of type in a picture. Lengths in the picture's pixels. */
export interface PictureLine {
  /** Its baseline, from the first ink to the last. */
  from: PicturePoint;
  to: PicturePoint;
  /** Undefined where all its letters are as high as each other. */
  xHeight: number | undefined;
  /** Or of all letters, where they are as high as each other. */
  capHeight: number;
  letters: number;
  /** From 0 to 1: how far its letters agree on where they stand and how high they are. */
  sure: number;
}

export interface PictureReading {
  width: number;
  height: number;
  /** Light letters on dark paper. */
  reversed: boolean;
  /** Of all lines, clockwise. */
  angleDeg: number;
  /** In reading order. */
  lines: readonly PictureLine[];
  /** From baseline to baseline where lines follow each other in like sizes: what most of them have. */
  pitch: number | undefined;
}

/** The type of words in a picture. */
export interface WordsReading {
  /** Pixels an em, and its deviation. */
  size: number;
  sizeError: number;
  /** In 1/1000 em; undefined where no two letters tell of it. */
  trackingMilliem: number | undefined;
  trackingError: number;
  /** From baseline to baseline over the size; undefined for one line. */
  leading: number | undefined;
  leadingError: number;
  angleDeg: number;
  angleErrorDeg: number;
  /** Correlation of the picture with the words set so, 0 to 1. */
  likeness: number;
  lines: readonly ReadLine[];
}

/** A line of words in a picture. */
export interface ReadLine {
  /** In the words, from its first letter with ink to its last. */
  start: number;
  end: number;
  /** Of its first letter's origin, and of its last letter's. */
  from: PicturePoint;
  to: PicturePoint;
  likeness: number;
  letters: readonly ReadLetter[];
}

export interface ReadLetter {
  at: number;
  /** Where its origin stands in the picture. */
  x: number;
  y: number;
  /** How far that is off along the line, as a standard deviation; undefined where it could not be told apart. */
  error: number | undefined;
}

/** Why nothing was read. */
export type NoReading = 'no type' | 'other words';

export interface PictureRead {
  picture: PictureReading | undefined;
  words: WordsReading | undefined;
  /** Why one of both is missing. */
  why: NoReading | undefined;
}

/** The block whose words and face the picture shows. */
export interface KnownWords {
  block: Block;
  faces: FaceSet;
}

/** Blobs lower than this share of the highest letter count as specks, or at least not as the subject. */
const SPECK = 0.06;
/** Letters taller than this, in pixels, are measured in a picture that is scaled down. */
const TALL = 56;
/** Sizes of letters in the coarse and the fine pass, in pixels an em. */
const COARSE_EM = 15;
const FINE_EM = 36;
/** A reading is refused below this mean likeness (0 to 1), or when fewer than a share of its letters (second) reach a likeness of their own (first). */
const LEAST_LIKE = 0.75;
const [LETTER_LIKE, MOST_LETTERS] = [0.6, 0.75];
/** Greatest blur of letters that can be read, as a share of their size. */
const BLOT = 0.1;
/** Fewer agreeing letters than this prove nothing. */
const LEAST_LETTERS = 4;
const FEW_LETTERS = 8;
/** Smaller letters can't be told from blots, in pixels an em; letters this much on top of each other are no words. */
const LEAST_EM = 9;
const [LEAST_TRACKING, MOST_TRACKING] = [-0.2, 1.2];

/**
 * Reads a picture.
 * @param known the words, where they are known. @param onProgress called with the share done, 0 to 1.
 */
export function readPicture(grey: Grey, known?: KnownWords, onProgress: (share: number) => void = () => undefined): PictureRead {
  const ink = inkShareOf(grey);
  onProgress(0.15);
  const found = ink && findLines(ink);
  onProgress(0.45);
  if (!ink || !found) return { picture: undefined, words: undefined, why: 'no type' };
  const sure = found.lines.filter(isType);
  const picture = sure.length > 0 && isVaried(found) ? readingOf(grey, ink, { ...found, lines: sure }) : undefined;
  const words = known && readWords(ink, found, known, (share) => onProgress(0.45 + 0.55 * share));
  onProgress(1);
  // Words that are there are type, few as their letters may be.
  if (words && !picture)
    return { picture: readingOf(grey, ink, { ...found, lines: found.lines.filter(({ letters, agree }) => letters * agree >= 1) }), words, why: undefined };
  return { picture, words, why: picture ? (known && !words ? 'other words' : undefined) : 'no type' };
}

interface FoundLines {
  angleDeg: number;
  /** In the pixels of a picture that is smaller by `scale`, and level. */
  lines: readonly LevelLine[];
  marks: readonly Mark[];
  level: Pick<Raster, 'width' | 'height'>;
  scale: number;
}

/** The height of most letters; specks have none. */
function tallOf(marks: readonly Mark[], { width, height }: Raster): number | undefined {
  const letters = marks.filter((mark) => inkHeightOf(mark) >= 4 && mark.area >= 10 && inkHeightOf(mark) < height * 0.95 && inkWidthOf(mark) < width * 0.98);
  const tallest = Math.max(0, ...letters.map(inkHeightOf));
  const heights = letters
    .map(inkHeightOf)
    .filter((one) => one > tallest * SPECK)
    .sort((a, b) => a - b);
  return heights[heights.length >> 1];
}

function findLines(ink: InkShare): FoundLines | undefined {
  let raster: Raster = ink.spread > 0.12 ? smoothed(ink) : ink;
  let scale = 1;
  for (;;) {
    const marks = inkMarksOf(raster);
    const tall = marks && tallOf(marks.marks, raster);
    if (!marks || tall === undefined) return undefined;
    if (tall > TALL && Math.min(raster.width, raster.height) > 64) {
      raster = halved(raster);
      scale *= 2;
      continue;
    }
    const found = linesAt(raster, pictureAngle(raster, marks, tall), scale);
    const lean = found && lineLean(found.lines.filter(isType));
    return found && lean && Math.abs(lean) > LEAST_LEAN && Math.abs(lean) < 1 ? linesAt(raster, found.angleDeg + lean, scale) : found;
  }
}

/** Lines that lean less than this after levelling are level, in degrees. */
const LEAST_LEAN = 0.02;

function linesAt(raster: Raster, angleDeg: number, scale: number): FoundLines | undefined {
  const level = levelled(raster, angleDeg);
  const marks = inkMarksOf(level)?.marks;
  return marks && { angleDeg, lines: inkLinesOf(level, marks), marks, level, scale };
}

const isType = ({ letters, agree }: LevelLine): boolean =>
  letters >= LEAST_LETTERS && letters * agree >= LEAST_LETTERS && agree >= (letters < FEW_LETTERS ? 0.75 : 0.68);

/** Shapes that differ by less are the same; of letters no more than this share are. */
const SAME = 0.04;
const MOST_SAME = 0.6;

/** Rows of equal shapes are a pattern: letters differ in width, and lines of them leave paper in their boxes. */
function isVaried({ lines, marks }: FoundLines): boolean {
  const own = lines
    .filter(isType)
    .flatMap((line) => marks.filter((mark) => mark.bottom > line.top && mark.top < line.bottom && mark.left >= line.left && mark.right <= line.right));
  const letters = own.filter((mark) => inkHeightOf(mark) >= 4);
  if (letters.length < LEAST_LETTERS) return false;
  const [wide, high] = [medianOf(letters.map(inkWidthOf)), medianOf(letters.map(inkHeightOf))];
  const like = letters.filter((mark) => Math.abs(inkWidthOf(mark) - wide) <= SAME * wide && Math.abs(inkHeightOf(mark) - high) <= SAME * high).length;
  const fill = letters.reduce((sum, mark) => sum + mark.area, 0) / letters.reduce((sum, mark) => sum + inkWidthOf(mark) * inkHeightOf(mark), 0);
  return like < letters.length * MOST_SAME && fill < 0.85;
}

function readingOf(grey: Grey, ink: InkShare, { angleDeg, lines, level, scale }: FoundLines): PictureReading {
  const place = (x: number, y: number): PicturePoint => {
    const at = unlevelled({ x, y }, level, angleDeg);
    return { x: at.x * scale, y: at.y * scale };
  };
  const scaled = (value: number | undefined): number | undefined => value && value * scale;
  return {
    width: grey.width,
    height: grey.height,
    reversed: ink.reversed,
    angleDeg,
    lines: lines.map(({ left, right, baseline, xHeight, capHeight, letters, agree }) => ({
      from: place(left, baseline),
      to: place(right, baseline),
      xHeight: scaled(xHeight),
      capHeight: capHeight * scale,
      letters,
      sure: agree,
    })),
    pitch: scaled(pitchOf(lines)),
  };
}

/** The usual distance of lines that follow each other in like sizes. */
function pitchOf(lines: readonly LevelLine[]): number | undefined {
  const steps = lines.flatMap((line, i) => {
    const above = lines[i - 1];
    if (!above) return [];
    const step = line.baseline - above.baseline;
    return Math.abs(line.capHeight / above.capHeight - 1) < 0.12 && step > line.capHeight * 0.5 && step < line.capHeight * 5 ? [step] : [];
  });
  return steps.sort((a, b) => a - b)[steps.length >> 1];
}

function readWords(ink: InkShare, found: FoundLines, { block, faces }: KnownWords, onProgress: (share: number) => void): WordsReading | undefined {
  const model = modelOf(block, faces);
  const measured = found.lines.map((line) => ({ width: (line.right - line.left) * found.scale, up: (line.baseline - line.top) * found.scale }));
  const ways = wordsOnLines(model, opportunitiesOf(block.words), measured);
  onProgress(0.2);
  const [first] = ways;
  if (!first) return undefined;

  const pyramid: Raster[] = [ink];
  const levelFor = (size: number, em: number): number => {
    let level = 0;
    while (size / 2 ** (level + 1) >= em) level++;
    return level;
  };
  const at = (level: number): Raster => {
    while (pyramid.length <= level) {
      const last = pyramid[pyramid.length - 1];
      if (!last || Math.min(last.width, last.height) < 8) break;
      pyramid.push(halved(last));
    }
    return pyramid[Math.min(level, pyramid.length - 1)] ?? ink;
  };

  // A look at each way of the words to stand; then the likeliest are moved.
  const seeds = ways.flatMap((way) => {
    const level = Math.min(levelFor(way.size, COARSE_EM), 8);
    const matcher = new Matcher(at(level));
    return SEEDS.flatMap((share) => {
      const seen = matcher.lay(seedOf(way, found, measured, share, 2 ** level), 1);
      return seen ? [{ seen, level, matcher }] : [];
    });
  });
  seeds.sort((a, b) => b.seen.likeness - a.seen.likeness);
  onProgress(0.4);
  let best: { match: LetterMatch; level: number } | undefined;
  for (const { seen, level, matcher } of seeds.slice(0, MOST_MOVED)) {
    const match = matcher.lay(seen.lay, 6);
    if (match && (!best || match.likeness > best.match.likeness)) best = { match, level };
    if (best && best.match.likeness > 0.93) break;
  }
  if (!best || best.match.likeness < LEAST_LIKE / 1.5 || best.match.lay.blur > best.match.lay.size * 2 * BLOT) return undefined;
  onProgress(0.6);
  let { match, level } = best;
  const last = levelFor(match.lay.size * 2 ** level, FINE_EM);
  while (level >= last) {
    const finer = new Matcher(at(level)).lay(match.lay, 12);
    // What is like letters only as a blot becomes no letters on a closer look.
    if (!finer || finer.lay.blur > finer.lay.size * BLOT) return undefined;
    match = finer;
    if (level === last) break;
    level--;
    match = { ...match, lay: doubled(match.lay) };
  }
  onProgress(0.95);
  if (!isThere(match) || match.lay.size * 2 ** level < LEAST_EM) return undefined;
  return wordsReadingOf(match, 2 ** level, pairsInOneParagraph(best.match.lay, model.paragraphs));
}

function isThere({ likeness, letters, lay }: LetterMatch): boolean {
  const all = letters.flat();
  if (lay.tracking < LEAST_TRACKING || lay.tracking > MOST_TRACKING) return false;
  return likeness >= LEAST_LIKE && all.filter((one) => one.likeness > LETTER_LIKE).length >= all.length * MOST_LETTERS;
}

/** Sizes that are begun with, as shares of what widths and heights say; tracking follows, so that lines keep their widths. */
const MOST_MOVED = 6;
const SEEDS = [1, 0.97, 1.03, 0.94, 1.06] as const;

function seedOf(way: WordsOnLines, found: FoundLines, measured: readonly { width: number }[], share: number, shrunk: number): Lay {
  const size = way.size * share;
  const spans = way.lines.map(({ letters }) => spanOf(letters));
  let [above, below] = [0, 0];
  spans.forEach(({ width, tracked }, i) => {
    above += ((measured[way.lines[i]?.on ?? -1]?.width ?? 0) / size - width) * tracked;
    below += tracked * tracked;
  });
  const tracking = below > 0 ? above / below : 0;
  return {
    size: size / shrunk,
    angle: (found.angleDeg * Math.PI) / 180,
    tracking,
    blur: 0.8,
    gain: 0,
    lines: way.lines.map(({ letters, on }, i) => {
      const line = found.lines[on];
      const left = (line?.left ?? 0) - (size / found.scale) * ((spans[i]?.left ?? 0) - (letters[0]?.x ?? 0));
      const start = unlevelled({ x: left, y: line?.baseline ?? 0 }, found.level, found.angleDeg);
      return { letters, x: (start.x * found.scale) / shrunk, y: (start.y * found.scale) / shrunk };
    }),
  };
}

const doubled = (lay: Lay): Lay => ({
  ...lay,
  size: lay.size * 2,
  blur: Math.max(0.5, lay.blur * 1.6),
  gain: lay.gain * 1.5,
  lines: lay.lines.map(({ letters, x, y }) => ({ letters, x: x * 2, y: y * 2 })),
});

/** For each line but the first, whether it goes on with the paragraph of the line above. */
function pairsInOneParagraph({ lines }: Lay, paragraphs: ReturnType<typeof modelOf>['paragraphs']): boolean[] {
  const of = lines.map(({ letters }) => paragraphs.findIndex((own) => own.some((letter) => letter.at === letters[0]?.at)));
  return of.slice(1).map((paragraph, i) => paragraph === of[i]);
}

/** Letters that are off by more than this could not be told apart from their neighbours, in ems. */
const TOLD_APART = 0.02;

/**
 * Errors that remain however sharp a picture is, since outlines are not drawn alike everywhere: deviations of the size as a share, of tracking
 * and leading in 1/1000 em, and of the angle in degrees (`npm run bench:reading`).
 */
const REMAINS = { size: 0.0012, trackingMilliem: 0.6, leadingMilliem: 1, angleDeg: 0.01 };

function wordsReadingOf({ lay, likeness, lineLikeness, errors, letters }: LetterMatch, scale: number, goesOn: readonly boolean[]): WordsReading {
  const size = lay.size * scale;
  const [cos, sin] = [Math.cos(lay.angle), Math.sin(lay.angle)];
  const down = lay.lines.map(({ x, y }) => -x * sin + y * cos);
  const steps = down
    .slice(1)
    .map((at, i) => ({ by: at - (down[i] ?? 0), error: Math.hypot(errors.across[i] ?? 0, errors.across[i + 1] ?? 0), within: goesOn[i] ?? false }));
  // Between paragraphs there may be more; where there are no others they say what there is.
  const telling = steps.some(({ within }) => within) ? steps.filter(({ within }) => within) : steps;
  const sorted = telling.map(({ by }) => by).sort((a, b) => a - b);
  const usual = sorted[sorted.length >> 1];
  const alike = telling.filter(({ by }) => Math.abs(by - (usual ?? 0)) < lay.size * 0.04);
  const leading = alike.reduce((sum, { by }) => sum + by, 0) / Math.max(1, alike.length) / lay.size;
  const leadingError = Math.sqrt(alike.reduce((sum, { error }) => sum + error ** 2, 0)) / Math.max(1, alike.length) / lay.size;
  return {
    size,
    sizeError: Math.hypot(errors.size, REMAINS.size) * size,
    trackingMilliem: errors.tracking === undefined ? undefined : lay.tracking * 1000,
    trackingError: Math.hypot((errors.tracking ?? 0) * 1000, REMAINS.trackingMilliem),
    leading: alike.length > 0 ? leading : undefined,
    leadingError: Math.hypot(leadingError, leading * errors.size, REMAINS.leadingMilliem / 1000),
    angleDeg: (lay.angle * 180) / Math.PI,
    angleErrorDeg: Math.hypot((errors.angle * 180) / Math.PI, REMAINS.angleDeg),
    likeness,
    lines: letters.map((own, l): ReadLine => {
      const placed = own.map(({ at, x, y, off, error, likeness: like }): ReadLetter => {
        const told = like > 0.6 && error < lay.size * TOLD_APART;
        const by = told ? off : 0;
        return { at, x: (x + by * cos) * scale, y: (y + by * sin) * scale, error: told ? error * scale : undefined };
      });
      const [first, last] = [placed[0], placed[placed.length - 1]];
      return {
        start: Math.min(...placed.map(({ at }) => at)),
        end: Math.max(...placed.map(({ at }) => at)) + 1,
        from: { x: first?.x ?? 0, y: first?.y ?? 0 },
        to: { x: last?.x ?? 0, y: last?.y ?? 0 },
        likeness: lineLikeness[l] ?? 0,
        letters: placed,
      };
    }),
  };
}
