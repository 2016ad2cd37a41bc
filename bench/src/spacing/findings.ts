/**
 * npm run bench:findings: when the gap rules speak. Networks fitted without a family judge headlines in it: set as its designer
 * kerned them, with a fault planted into one gap, and with the font's kerning taken off.
 */
import type { Face } from '@jentrix/core/face';
import { NOTICED, NO_WORD, type ShapeModel, certainty, measureWord, weighed } from '@jentrix/core/spacing';
import { printTable } from '../table';
import type { Samples } from './data';
import { FOLDS } from './folds';
import { HEADLINES, type Kind, forHeldFaces, gapsOf } from './held-faces';
import type { TrainingPool } from './pool';

/** Sizes of planted faults, and what counts as kerned and as left to the shapes; in 1/1000 em. */
const FAULTS = [20, 30, 50, 80];
const CLEARLY = 40;

class Counts {
  gaps = 0;
  alarms = 0;
  touches = 0;
  readonly planted = FAULTS.map(() => ({ all: 0, found: 0, first: 0 }));
  needed = 0;
  met = 0;
  spoken = 0;
  right = 0;
}

function judge(counts: Counts, face: Face, model: ShapeModel): void {
  const instance = face.instance();
  const word = measureWord(face, model);
  for (const text of HEADLINES) {
    const gaps = gapsOf(instance, text, model).filter(({ atSpace }) => !atSpace);
    const off = gaps.map(({ font, shape }) => font - weighed(font, shape, word));
    const sure = gaps.map(({ font, shape }) => certainty(font, shape, word));
    counts.gaps += gaps.length;
    counts.alarms += off.filter((value) => Math.abs(value) >= NOTICED).length;
    counts.touches += gaps.filter(({ font, distance }) => distance(font) <= 0).length;
    FAULTS.forEach((size, f) => {
      const planted = counts.planted[f]!;
      for (const fault of [size, -size]) {
        off.forEach((value, i) => {
          const seen = Math.abs(value + fault);
          planted.all++;
          if (seen < NOTICED) return;
          planted.found++;
          if (off.every((other, j) => j === i || Math.abs(other) * sure[j]! <= seen * sure[i]!)) planted.first++;
        });
      }
    });
    // A font that says nothing: the shapes alone.
    for (const { font, shape } of gaps) {
      const speaks = Math.abs(weighed(0, shape, NO_WORD)) >= NOTICED;
      if (Math.abs(font) >= CLEARLY) {
        counts.needed++;
        if (speaks) counts.met++;
      }
      if (!speaks) continue;
      counts.spoken++;
      if (font * shape > 0) counts.right++;
    }
  }
}

/** Prints how findings do on families that the networks were not fitted on. @param samples of all families. */
export async function reportFindings(samples: readonly Samples[], pool: TrainingPool): Promise<void> {
  const counts: Record<Kind, Counts> = { roman: new Counts(), bold: new Counts(), italic: new Counts() };
  await forHeldFaces(samples, pool, (face, model, kind) => judge(counts[kind], face, model));
  const percent = (part: number, all: number): string => ((100 * part) / Math.max(1, all)).toFixed(1);
  printTable(`Findings on families held out (${FOLDS} folds), % but for the first column`, [
    ['', 'false alarms / 100 gaps', 'inks that touch / 100', ...FAULTS.flatMap((size) => [`±${size} found`, 'first']), 'unkerned: found', 'right'],
    ...Object.entries(counts).map(([kind, { alarms, touches, gaps, planted, needed, met, spoken, right }]) => [
      kind,
      percent(alarms, gaps),
      percent(touches, gaps),
      ...planted.flatMap(({ all, found, first }) => [percent(found, all), percent(first, all)]),
      percent(met, needed),
      percent(right, spoken),
    ]),
    ['aim', '<= 1, touches included', '', '', '>= 90', '', '>= 95', '', '>= 97', '', '>= 99.5', '>= 85', '>= 80'],
  ]);
}
