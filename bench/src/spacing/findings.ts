/**
 * npm run bench:findings: when the gap rules speak. Networks fitted without a family judge headlines in it: set as its designer
 * kerned them, with a fault planted into one gap, and with the font's kerning taken off.
 */
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Face, type FaceInstance } from '@jentrix/core/face';
import { NOTICED, NO_WORD, type ShapeModel, certainty, measureWord, proposeKerning, weighed } from '@jentrix/core/spacing';
import { root } from '@jentrix/e2e/harness';
import { printTable } from '../table';
import type { Samples } from './data';
import { designerKerning, sidesOf } from './families';
import { FOLDS, foldsOf } from './folds';
import type { TrainingPool } from './pool';
import { shapeModelOf } from './train';

const KINDS = { roman: ['400-normal'], bold: ['700-normal'], italic: ['400-italic', '700-italic'] } as const;
type Kind = keyof typeof KINDS;

const HEADLINES = [
  'Two Nights to Watch',
  'A Valley of Falling Stars',
  'TWO NIGHTS TO WATCH',
  'FALLING STARS',
  'Yonder Valley',
  'Very Fresh',
  'Tonight, Vega.',
  'Warm Toast',
  'LATVIA',
  'Bring a Blanket',
  'The Dark Is Kind',
  'Wave Tower',
  'YESTERDAY',
  'AVATAR',
  'Kites over Fjord',
  'Quiet Rooms',
  'Young Type, New Work',
  'Typography for Everyone',
];
/** Sizes of planted faults, and what counts as kerned and as left to the shapes; in 1/1000 em. */
const FAULTS = [30, 50, 80];
const CLEARLY = 40;

class Counts {
  gaps = 0;
  alarms = 0;
  readonly planted = FAULTS.map(() => ({ all: 0, found: 0, first: 0 }));
  needed = 0;
  met = 0;
  spoken = 0;
  right = 0;
}

interface Gap {
  font: number;
  shape: number;
}

function gapsOf(instance: FaceInstance, text: string, model: ShapeModel): Gap[] {
  const side = sidesOf(instance);
  return [...text].slice(1).flatMap((right, i) => {
    const left = text.charAt(i);
    const [a, b] = [side(left), side(right)];
    return a && b ? [{ font: designerKerning(instance, left, right), shape: proposeKerning(a, b, undefined, model).milliem }] : [];
  });
}

function judge(counts: Counts, face: Face, model: ShapeModel): void {
  const instance = face.instance();
  const word = measureWord(face, model);
  for (const text of HEADLINES) {
    const gaps = gapsOf(instance, text, model);
    const off = gaps.map(({ font, shape }) => font - weighed(font, shape, word));
    const sure = gaps.map(({ font, shape }) => certainty(font, shape, word));
    counts.gaps += gaps.length;
    counts.alarms += off.filter((value) => Math.abs(value) >= NOTICED).length;
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
  for (const { held, model: learnt } of await foldsOf(samples, pool)) {
    const model = shapeModelOf(learnt);
    for (const kind of Object.keys(KINDS) as Kind[]) {
      for (const file of held.flatMap((family) =>
        KINDS[kind].map((style) => join(root, `node_modules/@fontsource/${family}/files/${family}-latin-${style}.woff`)),
      )) {
        if (!existsSync(file)) continue;
        const face = await Face.open(new Uint8Array(readFileSync(file)));
        judge(counts[kind], face, model);
        face.dispose();
      }
    }
  }
  const percent = (part: number, all: number): string => ((100 * part) / Math.max(1, all)).toFixed(1);
  printTable(`Findings on families held out (${FOLDS} folds), % but for the first column`, [
    ['', 'false alarms / 100 gaps', ...FAULTS.flatMap((size) => [`±${size} found`, 'first']), 'unkerned: found', 'right'],
    ...Object.entries(counts).map(([kind, { alarms, gaps, planted, needed, met, spoken, right }]) => [
      kind,
      percent(alarms, gaps),
      ...planted.flatMap(({ all, found, first }) => [percent(found, all), percent(first, all)]),
      percent(met, needed),
      percent(right, spoken),
    ]),
    ['aim, roman and bold', '<= 2', '>= 85', '', '', '>= 97', '>= 99.5', '', '>= 85', '>= 80'],
    ['aim, italic', '<= 3', '>= 85', '', '', '>= 97', '>= 99.5', '', '>= 85', '>= 80'],
  ]);
}
