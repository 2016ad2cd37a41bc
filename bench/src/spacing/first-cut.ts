/**
 * npm run bench:first-cut: what weighed kerning keeps of good work, and what it brings back of work that is lost. Networks fitted without a
 * family kern headlines in it, with the kerning its designer gave it and without. Word gaps are gaps as any.
 */
import type { Face } from '@jentrix/core/face';
import { NO_WORD, type ShapeModel, kerningFrom, measureWord } from '@jentrix/core/spacing';
import { printTable } from '../table';
import type { Samples } from './data';
import { FOLDS } from './folds';
import { HEADLINES, KINDS, type Kind, forHeldFaces, gapsOf } from './held-faces';
import type { TrainingPool } from './pool';

/** A gap that is moved by more than this was kerned anew, in 1/1000 em. */
const FAR = 15;

class Sums {
  gaps = 0;
  moved = 0;
  far = 0;
  byShape = 0;
  /** Pairs that the designers kern, how many of them are missing in the same faces without kerning tables, and how many come back with the right sign. */
  kerned = 0;
  missing = 0;
  back = 0;
  readonly inWords = { kerned: 0, missing: 0 };

  add(face: Face, model: ShapeModel): void {
    const instance = face.instance();
    const word = measureWord(face, model);
    for (const { font, shape, atSpace } of HEADLINES.flatMap((text) => gapsOf(instance, text, model))) {
      const moved = Math.abs(kerningFrom.weighed({ font, shape, atSpace, word }) - font);
      this.gaps++;
      this.moved += moved;
      if (moved > FAR) this.far++;
      this.byShape += Math.abs(kerningFrom.shape({ font, shape, atSpace, word }) - font);
      const stripped = kerningFrom.weighed({ font: 0, shape, atSpace, word: NO_WORD });
      this.kerned += Math.abs(font);
      this.missing += Math.abs(stripped - font);
      if (!atSpace) {
        this.inWords.kerned += Math.abs(font);
        this.inWords.missing += Math.abs(stripped - font);
      }
      this.back += Math.max(0, Math.min(Math.abs(font), stripped * Math.sign(font)));
    }
  }

  row(name: string): string[] {
    const { gaps, moved, far, byShape, kerned, missing, back, inWords } = this;
    const percent = (part: number, all: number): string => `${((100 * part) / Math.max(1e-9, all)).toFixed(1)} %`;
    return [
      name,
      (moved / gaps).toFixed(2),
      percent(far, gaps),
      (byShape / gaps).toFixed(2),
      percent(back, kerned),
      percent(kerned - missing, kerned),
      percent(inWords.kerned - inWords.missing, inWords.kerned),
    ];
  }
}

/** Prints both figures for every fold and kind of face. @param samples of all families. */
export async function reportFirstCut(samples: readonly Samples[], pool: TrainingPool): Promise<void> {
  const all = new Map<Kind, Sums>();
  const byFold = new Map<string, Sums>();
  const sumsIn = <K>(sums: Map<K, Sums>, key: K): Sums => sums.get(key) ?? (sums.set(key, new Sums()), sums.get(key)!);
  await forHeldFaces(samples, pool, (face, model, kind, fold) => {
    for (const sums of [sumsIn(all, kind), sumsIn(byFold, `${kind}, fold ${fold + 1}`)]) sums.add(face, model);
  });
  printTable(`Weighed kerning on families held out (${FOLDS} folds), in 1/1000 em a gap`, [
    ['', 'moved', `by more than ${FAR}`, 'by shape alone', 'without tables: comes back', 'of the error gone', 'inside words'],
    ...(Object.keys(KINDS) as Kind[]).flatMap((kind) => [...byFold].filter(([name]) => name.startsWith(`${kind},`)).map(([name, sums]) => sums.row(name))),
    ...[...all].map(([kind, sums]) => sums.row(kind)),
    ['aim', '<= 1.0', '<= 0.5 %', '', '>= 55 %', '', ''],
  ]);
}
