/** Letters of a placed line, as what stands on a path. Lengths in points. */
import type { FaceInstance } from '../../face';
import { milliemToPoints } from '../../units';
import type { PlacedGlyph, PlacedRun, SetLine } from '../block-setting';
import { runsOfLine } from '../block-setting';
import type { FaceSet } from '../faces';
import { type StyledFace, raisePt } from '../shift';

/** A letter with what draws it. A ligature counts as one, and marks stand with their letter. */
export interface PathLetter extends StyledFace {
  readonly run: PlacedRun;
  readonly instance: FaceInstance;
  readonly cluster: number;
  /** The glyph that carries it. */
  readonly glyphId: number;
  readonly glyphs: readonly PlacedGlyph[];
  /** Where it begins on the straight line, in points from the sheet's left. */
  readonly penPt: number;
  /** The font's own advance of the glyph that carries it. */
  readonly widthPt: number;
}

/** The letters of a line from left to right, list marks and ellipses among them. */
export function pathLetters(line: SetLine, faces: FaceSet): PathLetter[] {
  const letters: PathLetter[] = [];
  for (const run of runsOfLine(line)) {
    const { style, glyphs, xScale } = run;
    const instance = faces.instance(style);
    for (let from = 0; from < glyphs.length;) {
      const first = glyphs[from];
      if (!first) break;
      let past = from + 1;
      while (glyphs[past]?.cluster === first.cluster) past++;
      const own = glyphs.slice(from, past);
      let base = first;
      for (const glyph of own) if (instance.advance(glyph.glyphId) > instance.advance(base.glyphId)) base = glyph;
      letters.push({
        run,
        style,
        instance,
        cluster: first.cluster,
        glyphId: base.glyphId,
        glyphs: own,
        penPt: base.xPt - base.offsetPt,
        widthPt: instance.advance(base.glyphId) * xScale,
      });
      from = past;
    }
  }
  return letters.sort((a, b) => a.penPt - b.penPt);
}

/** The middle of a letter's advance on its straight line. */
export const middlePt = ({ penPt, widthPt }: PathLetter): number => penPt + widthPt / 2;

/** How high over the baseline a letter's profile is turned about: the middle of its x-height, raised with it. */
export const pivotPt = (letter: PathLetter): number => (letter.instance.metrics.xHeight * letter.run.scale) / 2 + raisePt(letter);

/** The room that tracking gives a letter, in points. */
export const trackingPt = ({ style }: PathLetter): number => milliemToPoints(style.trackingMilliem, style.sizePt) * style.scaleX;
