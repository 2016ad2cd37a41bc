/** Path stage: straight lines of placed letters as the block's path has them run. */
import { type Block, handAt, isRide } from '../../job';
import { milliemToPoints } from '../../units';
import type { PlacedRun, RuleLine, SetLine } from '../block-setting';
import type { FaceSet } from '../faces';
import { inkOf } from '../ink';
import { type Matrix, compose } from '../matrix';
import { rideLines, toPlace } from './along';
import { type PathLetter, pathLetters } from './letters';
import { movedTo, quarterTurn, stackColumns } from './upright';

export { type Curve, type OnCurve, curveOf, nearestLength, parallelOf } from './curve';
export { type RiddenLine, rideLines } from './along';
export { type BendGap, whiteOnBend } from './bend';

/** The lines of a block on its path, and whether they reach past its end. @returns undefined where they are straight. */
export function onPath(block: Block, lines: readonly SetLine[], faces: FaceSet): { lines: SetLine[]; beyondPath: boolean } | undefined {
  const { path, align, vertical } = block;
  if (path.kind === 'straight') return undefined;
  if (isRide(path)) {
    const ridden = rideLines(block, path, lines, faces, capHeight(lines[0], faces));
    return {
      lines: ridden.map(({ line, letters, places }) =>
        withMaps(line, letters, (letter, i) => {
          const place = places[i];
          return place ? toPlace(letter, place, line.baselinePt) : UNMOVED;
        }),
      ),
      beyondPath: ridden.some(({ beyond }) => beyond),
    };
  }
  const read = lines.map((line) => ({ line, letters: pathLetters(line, faces) }));
  const maps =
    path.kind === 'stacked'
      ? stackColumns({ columns: path.columns, align }, read, (upper, { cluster }) => milliemToPoints(handAt(block, cluster), upper.style.sizePt))
      : read.map(({ letters }) => letters.map(() => quarterTurn(path.turn)));
  const there = inkOf({ lines: [...lines] }, faces);
  const turned = (to: Matrix | undefined): SetLine[] =>
    read.map(({ line, letters }, l) =>
      withMaps(line, letters, (_, i) => {
        const map = maps[l]?.[i] ?? UNMOVED;
        return to ? compose(to, map) : map;
      }),
    );
  const here = inkOf({ lines: turned(undefined) }, faces);
  return { lines: turned(there && here ? movedTo(there, here, align, vertical) : undefined), beyondPath: false };
}

const UNMOVED: Matrix = { a: 1, b: 0, c: 0, d: 1, e: 0, f: 0 };

/** Height of the capitals of a line's first letters, in points. */
function capHeight(line: SetLine | undefined, faces: FaceSet): number {
  const run = line?.runs[0];
  return run ? faces.instance(run.style).metrics.capHeight * run.scale : 0;
}

/** A line with each of its letters, and the rules under and through it, taken elsewhere. */
function withMaps(line: SetLine, letters: readonly PathLetter[], mapOf: (letter: PathLetter, index: number) => Matrix): SetLine {
  const maps = new Map(letters.map((letter, i) => [letter.glyphs[0], mapOf(letter, i)]));
  const byRun = new Map<PlacedRun, PathLetter[]>();
  for (const letter of letters) {
    const own = byRun.get(letter.run);
    if (own) own.push(letter);
    else byRun.set(letter.run, [letter]);
  }
  const moved = (run: PlacedRun): PlacedRun => {
    let map = UNMOVED;
    const rules: RuleLine[] = [];
    const end = run.rules[0] ? run.rules[0].xPt + run.rules[0].widthPt : 0;
    const own = byRun.get(run) ?? [];
    const glyphs = run.glyphs.map((glyph) => {
      map = maps.get(glyph) ?? map;
      return { ...glyph, shift: glyph.shift ? compose(map, glyph.shift) : map };
    });
    for (const rule of run.rules) {
      own.forEach((letter, i) => {
        const to = own[i + 1]?.penPt ?? end;
        rules.push({ ...rule, xPt: letter.penPt, widthPt: to - letter.penPt, shift: maps.get(letter.glyphs[0]) ?? UNMOVED });
      });
    }
    return { ...run, glyphs, rules };
  };
  return { ...line, runs: line.runs.map(moved), ...(line.mark ? { mark: moved(line.mark) } : {}) };
}
