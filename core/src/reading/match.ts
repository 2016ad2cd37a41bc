/**
 * Letters laid on a picture: size, tracking, angle and the start of every line are moved until letters as they would be printed and the
 * picture are as like each other as they get. Least squares over pixels by Gauss and Newton, as images are registered (Lucas and Kanade
 * 1981), from a small picture to larger ones; each letter has a paper and an ink of its own, so that uneven light moves nothing, and the
 * blur of the picture is found with the rest.
 */
import { valueAt } from '../base';
import { type Tile, blurTile, coverageOf, spreadTile } from './coverage';
import type { ModelLetter } from './letter-model';
import type { Raster } from './raster';
import { solve } from './solve';

/** Letters of a line, and where its first letter's origin stands. */
export interface LaidLine {
  letters: readonly ModelLetter[];
  x: number;
  y: number;
}

/** How letters lie on a picture, in its pixels. */
export interface Lay {
  /** Pixels an em. */
  size: number;
  /** Clockwise, in radians. */
  angle: number;
  /** In ems. */
  tracking: number;
  /** Standard deviation of the picture's blur, in pixels. */
  blur: number;
  /** By how much ink has spread beyond the outlines, in pixels; negative where it falls short of them. */
  gain: number;
  lines: readonly LaidLine[];
}

/** Where a letter stands in the picture against where its line has it, along the line. */
export interface LetterOff {
  at: number;
  /** Where its line has it: its origin. */
  x: number;
  y: number;
  /** Farther along the line, in pixels. */
  off: number;
  /** That this is off by, as a standard deviation. */
  error: number;
  /** From 0, nothing of it there, to 1. */
  likeness: number;
}

/** The result of a match. */
export interface LetterMatch {
  lay: Lay;
  /** Correlation of picture and letters, 0 to 1. */
  likeness: number;
  /** The same line by line. */
  lineLikeness: readonly number[];
  /** Standard deviations: of the size as a share, of tracking in ems, of the angle in radians, and of each line's start across it in pixels. */
  errors: { size: number; tracking: number | undefined; angle: number; across: readonly number[] };
  letters: readonly (readonly LetterOff[])[];
}

/** Unknowns that all lines share: size, angle, tracking, blur, gain. */
const SHARED = 5;
/** The unknowns a letter's own pixels determine: along and across, larger, turned, more blurred, more spread. */
const LOCAL = 6;
/** Steps are no longer than this: size as a share, angle in radians, tracking in ems. */
const MOST_STEP = [0.06, 0.05, 0.04] as const;
/** Letters that have become so much larger or smaller have lost their place. */
const MOST_GROWN = 1.5;
/** A step that moves nothing farther than this is the last, in pixels. */
const STILL = 0.01;
/** Where coverage changes less than this from pixel to pixel, letters may move without a trace. */
const FLAT = 2e-3;
/** Pixels; and, as a share of the size, what leaves nothing of letters. */
const [LEAST_BLUR, MOST_BLUR] = [0.25, 0.15];
/** Ink spreads by a fraction of a pixel: a standard deviation that is assumed beforehand, since thin strokes don't tell spread from blackness. */
const USUAL_GAIN = 0.15;
const MOST_GAIN = 0.8;

const originOf = ({ size, angle, tracking }: Lay, { letters, x, y }: LaidLine, letter: ModelLetter): { x: number; y: number } => {
  const first = letters[0];
  const along = size * (letter.x - (first?.x ?? 0) + tracking * (letter.tracked - (first?.tracked ?? 0)));
  const down = size * letter.y;
  return { x: x + along * Math.cos(angle) - down * Math.sin(angle), y: y + along * Math.sin(angle) + down * Math.cos(angle) };
};

/** A letter's pixels, boiled down. */
interface Told {
  line: number;
  letter: ModelLetter;
  origin: { x: number; y: number };
  /** LOCAL x LOCAL, paper and ink taken out. */
  matrix: Float64Array;
  right: Float64Array;
  covariance: number;
  pictureVariance: number;
  modelVariance: number;
  /** Of what is left per pixel. */
  leftOver: number;
  pixels: number;
}

/** Lays letters; a raster of the picture's size is kept for the letters. */
export class Matcher {
  private readonly sheet: Float32Array;

  constructor(private readonly picture: Raster) {
    this.sheet = new Float32Array(picture.width * picture.height);
  }

  /**
   * Moves letters to where they fit.
   * @param rounds at most. @returns undefined where they have slid off the picture or nothing determines them.
   */
  lay(from: Lay, rounds: number): LetterMatch | undefined {
    let lay = from;
    for (let round = 0; ; round++) {
      const told = this.look(lay);
      if (told.length === 0) return undefined;
      const system = systemOf(lay, told);
      if (round === rounds) return matchOf(lay, told, system);
      const step = solve(damped(system.matrix, system.size), system.right);
      if (!step) return undefined;
      const [next, moved] = stepped(lay, step);
      lay = next;
      if (!(lay.size > from.size / MOST_GROWN && lay.size < from.size * MOST_GROWN)) return undefined;
      if (moved < STILL) {
        const last = this.look(lay);
        return last.length === 0 ? undefined : matchOf(lay, last, systemOf(lay, last));
      }
    }
  }

  /** The picture's evidence at every letter. */
  private look(lay: Lay): Told[] {
    const margin = Math.ceil(3 * lay.blur) + 2;
    const { width, height } = this.picture;
    const [cos, sin] = [lay.size * Math.cos(lay.angle), lay.size * Math.sin(lay.angle)];
    const laid = lay.lines.flatMap((line, l) =>
      line.letters.flatMap((letter) => {
        const origin = originOf(lay, line, letter);
        const within = origin.x > -lay.size && origin.y > -lay.size && origin.x < width + lay.size && origin.y < height + lay.size;
        const tile = within ? coverageOf(letter.pieces, { cos, sin, ...origin }, margin) : undefined;
        if (!tile) return [];
        blurTile(tile, lay.blur);
        spreadTile(tile, lay.gain);
        return [{ line: l, letter, origin, tile }];
      }),
    );
    for (const { tile } of laid) this.paint(tile, 1);
    const told = laid.flatMap((one) => this.tell(one) ?? []);
    for (const { tile } of laid) this.paint(tile, 0);
    return told;
  }

  /** Adds a letter to the sheet of all letters, or clears its place. */
  private paint({ x, y, width, height, values }: Tile, sign: 0 | 1): void {
    const { sheet, picture } = this;
    for (let row = Math.max(0, -y), last = Math.min(height, picture.height - y); row < last; row++) {
      const base = (y + row) * picture.width + x;
      for (let column = Math.max(0, -x), end = Math.min(width, picture.width - x); column < end; column++) {
        const k = base + column;
        sheet[k] = sign === 0 ? 0 : Math.min(1, valueAt(sheet, k) + valueAt(values, row * width + column));
      }
    }
  }

  private tell({ line, letter, origin, tile }: { line: number; letter: ModelLetter; origin: { x: number; y: number }; tile: Tile }): Told | undefined {
    const { sheet, picture } = this;
    const { x, y, width, height, values } = tile;
    const sums = new Float64Array(LOCAL * LOCAL);
    const [right, onPaper, onInk, v] = [new Float64Array(LOCAL), new Float64Array(LOCAL), new Float64Array(LOCAL), new Float64Array(LOCAL)];
    let [squares, pixels, ink, inkSquares, all, shared] = [0, 0, 0, 0, 0, 0];
    for (let row = Math.max(1, -y), last = Math.min(height - 1, picture.height - y); row < last; row++) {
      const base = (y + row) * picture.width + x;
      const dy = y + row + 0.5 - origin.y;
      for (let column = Math.max(1, -x), end = Math.min(width - 1, picture.width - x); column < end; column++) {
        const k = row * width + column;
        const here = valueAt(values, k);
        const [before, behind, above, below] = [valueAt(values, k - 1), valueAt(values, k + 1), valueAt(values, k - width), valueAt(values, k + width)];
        const gx = (behind - before) / 2;
        const gy = (below - above) / 2;
        const curved = before + behind + above + below - 4 * here;
        const model = valueAt(sheet, base + column);
        const value = valueAt(picture.values, base + column);
        squares += value * value;
        pixels++;
        ink += model;
        inkSquares += model * model;
        all += value;
        shared += model * value;
        if (Math.abs(gx) + Math.abs(gy) + Math.abs(curved) < FLAT) continue;
        const dx = x + column + 0.5 - origin.x;
        v[0] = -gx;
        v[1] = -gy;
        v[2] = -(gx * dx + gy * dy);
        v[3] = gx * dy - gy * dx;
        v[4] = curved / 2;
        v[5] = Math.sqrt(gx * gx + gy * gy);
        for (let i = 0; i < LOCAL; i++) {
          const vi = valueAt(v, i);
          right[i] = valueAt(right, i) + vi * value;
          onPaper[i] = valueAt(onPaper, i) + vi;
          onInk[i] = valueAt(onInk, i) + vi * model;
          for (let j = i; j < LOCAL; j++) sums[i * LOCAL + j] = valueAt(sums, i * LOCAL + j) + vi * valueAt(v, j);
        }
      }
    }
    // Hardly anything of the letter is in the picture.
    if (pixels < 12 || pixels < width * height * 0.4) return undefined;
    const modelVariance = inkSquares - (ink * ink) / pixels;
    const covariance = shared - (ink * all) / pixels;
    const pictureVariance = squares - all ** 2 / pixels;
    if (!(modelVariance > 1e-6)) return undefined;
    const blackness = Math.max(0.3, Math.min(1.5, covariance / modelVariance));
    // Paper and ink of this letter are taken out of everything (Schur complement).
    const matrix = new Float64Array(LOCAL * LOCAL);
    const own = new Float64Array(LOCAL);
    const alongInk = onInk.map((sum, i) => sum - (ink * valueAt(onPaper, i)) / pixels);
    for (let i = 0; i < LOCAL; i++) {
      const taken = valueAt(alongInk, i) / modelVariance;
      own[i] = blackness * (valueAt(right, i) - (valueAt(onPaper, i) * all) / pixels - taken * covariance);
      for (let j = 0; j < LOCAL; j++) {
        const sum = valueAt(sums, Math.min(i, j) * LOCAL + Math.max(i, j));
        matrix[i * LOCAL + j] = blackness ** 2 * (sum - (valueAt(onPaper, i) * valueAt(onPaper, j)) / pixels - taken * valueAt(alongInk, j));
      }
    }
    const leftOver = Math.max(0, pictureVariance - covariance ** 2 / modelVariance) / pixels;
    return { line, letter, origin, matrix, right: own, covariance, pictureVariance, modelVariance, leftOver, pixels };
  }
}

const likenessOf = (told: readonly Pick<Told, 'covariance' | 'pictureVariance' | 'modelVariance'>[]): number => {
  const [covariance, picture, model] = told.reduce(([c, p, m], one) => [c + one.covariance, p + one.pictureVariance, m + one.modelVariance], [0, 0, 0]);
  return Math.max(0, covariance / Math.sqrt(Math.max(1e-12, picture * model)));
};

interface System {
  matrix: Float64Array;
  right: Float64Array;
  size: number;
}

/** How all unknowns move a letter: for each one that does, by how much along each of what its own pixels tell. */
function movesOf(lay: Lay, { line, letter, origin }: Told): [unknown: number, column: number, by: number][] {
  const start = lay.lines[line];
  if (!start) return [];
  const [dx, dy] = [origin.x - start.x, origin.y - start.y];
  const tracked = lay.size * (letter.tracked - (start.letters[0]?.tracked ?? 0));
  return [
    [0, 0, dx],
    [0, 1, dy],
    [0, 2, 1],
    [1, 0, -dy],
    [1, 1, dx],
    [1, 3, 1],
    [2, 0, tracked * Math.cos(lay.angle)],
    [2, 1, tracked * Math.sin(lay.angle)],
    [3, 4, 1],
    [4, 5, 1],
    [SHARED + 2 * line, 0, 1],
    [SHARED + 2 * line + 1, 1, 1],
  ];
}

function systemOf(lay: Lay, told: readonly Told[]): System {
  const size = SHARED + 2 * lay.lines.length;
  const matrix = new Float64Array(size * size);
  const right = new Float64Array(size);
  for (const one of told) {
    const moves = movesOf(lay, one);
    // A letter that isn't there, or is another, has no say.
    const likeness = likenessOf([one]);
    const weight = Math.max(0.02, Math.min(1, (likeness - 0.3) / 0.5));
    for (const [p, i, by] of moves) {
      right[p] = valueAt(right, p) + weight * by * valueAt(one.right, i);
      for (const [q, j, and] of moves) matrix[p * size + q] = valueAt(matrix, p * size + q) + weight * by * and * valueAt(one.matrix, i * LOCAL + j);
    }
  }
  const pixels = told.reduce((sum, one) => sum + one.pixels, 0);
  const noise = told.reduce((sum, one) => sum + one.leftOver * one.pixels, 0) / Math.max(1, pixels);
  const beforehand = (noise * alikeOf(lay) ** 2) / USUAL_GAIN ** 2;
  matrix[4 * size + 4] = valueAt(matrix, 4 * size + 4) + beforehand;
  right[4] = valueAt(right, 4) - beforehand * lay.gain;
  return { matrix, right, size };
}

/** The number of neighbouring pixels whose errors are alike: there are fewer pixels than it seems. */
const alikeOf = ({ blur }: Lay): number => 1 + 2 * Math.sqrt(Math.PI) * blur;

/** So much of each unknown's own weight is added that what nothing determines stays where it is (Levenberg). */
function damped(matrix: Float64Array, size: number): Float64Array {
  const kept = Float64Array.from(matrix);
  let most = 0;
  for (let i = 0; i < size; i++) most = Math.max(most, valueAt(matrix, i * size + i));
  for (let i = 0; i < size; i++) kept[i * size + i] = valueAt(matrix, i * size + i) * 1.0005 + most * 1e-9 + 1e-9;
  return kept;
}

const within = (value: number, most: number): number => Math.max(-most, Math.min(most, value));

function stepped(lay: Lay, step: Float64Array): [Lay, movedPx: number] {
  const [size, angle, tracking] = MOST_STEP.map((most, i) => within(valueAt(step, i), most)) as [number, number, number];
  const blur = Math.sqrt(Math.max(LEAST_BLUR ** 2, lay.blur ** 2 + within(valueAt(step, 3), 0.6 * lay.blur ** 2 + 0.3)));
  const gain = within(lay.gain + within(valueAt(step, 4), 0.3), MOST_GAIN);
  const lines = lay.lines.map((line, l) => ({
    ...line,
    x: line.x + within(valueAt(step, SHARED + 2 * l), lay.size * 0.15),
    y: line.y + within(valueAt(step, SHARED + 2 * l + 1), lay.size * 0.15),
  }));
  const next = {
    size: lay.size * Math.exp(size),
    angle: lay.angle + angle,
    tracking: lay.tracking + tracking,
    blur: Math.min(Math.max(1.2, lay.size * MOST_BLUR), blur),
    gain,
    lines,
  };
  const longest = Math.max(...lay.lines.map(({ letters }) => lay.size * Math.abs((letters[letters.length - 1]?.x ?? 0) - (letters[0]?.x ?? 0))));
  const moved = Math.max(
    (Math.abs(size) + Math.abs(angle)) * longest,
    Math.abs(tracking) * lay.size * 10,
    ...Array.from(step.subarray(SHARED), Math.abs),
    Math.abs(blur - lay.blur) / 4,
  );
  return [next, moved];
}

function matchOf(lay: Lay, told: readonly Told[], { matrix, size }: System): LetterMatch {
  const alike = alikeOf(lay);
  const pixels = told.reduce((sum, one) => sum + one.pixels, 0);
  const noise = told.reduce((sum, one) => sum + one.leftOver * one.pixels, 0) / Math.max(1, pixels);
  const deviation = (unknown: number): number | undefined => {
    const unit = new Float64Array(size);
    unit[unknown] = 1;
    const variance = solve(damped(matrix, size), unit)?.[unknown];
    return variance !== undefined && variance > 0 ? Math.sqrt(variance * noise) * alike : undefined;
  };
  const tracked = told.some(({ line, letter }) => letter.tracked !== lay.lines[line]?.letters[0]?.tracked);
  const [cos, sin] = [Math.cos(lay.angle), Math.sin(lay.angle)];
  return {
    lay,
    likeness: likenessOf(told),
    lineLikeness: lay.lines.map((_, l) => likenessOf(told.filter(({ line }) => line === l))),
    errors: {
      size: deviation(0) ?? 1,
      tracking: tracked ? deviation(2) : undefined,
      angle: deviation(1) ?? 1,
      across: lay.lines.map((_, l) => deviation(SHARED + 2 * l + 1) ?? lay.size),
    },
    letters: lay.lines.map((_, l) =>
      told
        .filter(({ line }) => line === l)
        .map(({ letter, origin, matrix: own, right, leftOver, ...one }): LetterOff => {
          // Along the line alone: across it and in size it goes with its line.
          const weight = cos * cos * valueAt(own, 0) + 2 * cos * sin * valueAt(own, 1) + sin * sin * valueAt(own, LOCAL + 1);
          const pull = cos * valueAt(right, 0) + sin * valueAt(right, 1);
          const off = weight > 1e-9 ? within(pull / weight, lay.size * 0.2) : 0;
          const error = weight > 1e-9 ? Math.sqrt(leftOver / weight) * alike : lay.size;
          return { at: letter.at, ...origin, off, error, likeness: likenessOf([one]) };
        }),
    ),
  };
}
