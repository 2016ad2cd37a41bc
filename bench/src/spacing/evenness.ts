/**
 * Evenness against the designers, in faces that the model has not learned from: how often their kerning scores higher than none, and how it
 * scores beside faults, kerning by shape and weighed kerning.
 */
import type { Face } from '@jentrix/core/face';
import { NO_WORD, type FontWord, type ShapeModel, deviationOf, evenness, kerningFrom, measureWord } from '@jentrix/core/spacing';
import { randomFrom } from '@jentrix/core/testing';
import { printTable } from '../table';
import type { Samples } from './data';
import { type Gap, HEADLINES, KINDS, type Kind, forHeldFaces, gapsOf } from './held-faces';
import type { TrainingPool } from './pool';

/** A headline shows whether its designer's kerning is even where a pair of it is kerned by at least this, in 1/1000 em. */
const KERNED = 20;

type Setting = (gap: Gap, word: FontWord, i: number, faulty: number) => number;
/** How a headline is set: the kerning of each gap. */
const SETTINGS: Readonly<Record<string, Setting>> = {
  designer: ({ font }) => font,
  weighed: (gap, word) => kerningFrom.weighed({ ...gap, word }),
  'by shape': (gap, word) => kerningFrom.shape({ ...gap, word }),
  none: () => 0,
  ...Object.fromEntries(
    [20, 30, 50, 80].map((fault) => [
      `one gap off by ${fault}`,
      ({ font }: Gap, _: FontWord, i: number, faulty: number): number => font + (i === faulty ? fault : 0),
    ]),
  ),
  ...Object.fromEntries([0.5, 0.8, 1.2, 1.5].map((times) => [`${times} of designer`, ({ font }: Gap): number => times * font])),
};

class Means {
  private readonly sums = new Map<string, number>();
  lines = 0;
  silent = 0;
  better = 0;
  /** The same faces without kerning tables, by shape. */
  bare = 0;
  bareLines = 0;

  add(face: Face, model: ShapeModel, random: () => number): void {
    const word = measureWord(face, model);
    for (const text of HEADLINES) {
      const gaps = gapsOf(face.instance(), text, model).filter(({ atSpace }) => !atSpace);
      if (!gaps.some(({ font }) => Math.abs(font) >= KERNED)) continue;
      const faulty = Math.floor(random() * gaps.length);
      const score = (set: Setting): number | undefined => evenness(gaps.map((gap, i) => deviationOf(set(gap, word, i, faulty), gap.font, gap.asked, word)));
      const bare = evenness(gaps.map(({ shape, asked }) => deviationOf(shape, 0, asked, NO_WORD)));
      if (bare !== undefined) {
        this.bare += bare;
        this.bareLines++;
      }
      const scores = Object.entries(SETTINGS).map(([name, set]) => [name, score(set)] as const);
      const [own, none] = [score(SETTINGS['designer']!), score(SETTINGS['none']!)];
      if (own === undefined || none === undefined) {
        this.silent++;
        continue;
      }
      this.lines++;
      if (own > none) this.better++;
      for (const [name, value] of scores) this.sums.set(name, (this.sums.get(name) ?? 0) + (value ?? 0));
    }
  }

  row(kind: string): string[] {
    const of = (name: string): string => ((this.sums.get(name) ?? 0) / Math.max(1, this.lines)).toFixed(1);
    const share = (part: number, all: number): string => `${((100 * part) / Math.max(1, all)).toFixed(1)} %`;
    return [
      kind,
      String(this.lines),
      share(this.silent, this.silent + this.lines),
      share(this.better, this.lines),
      ...Object.keys(SETTINGS).map(of),
      (this.bare / Math.max(1, this.bareLines)).toFixed(1),
    ];
  }
}

/** Prints the mean score of every way to set headlines. @param samples of all families. */
export async function reportEvenness(samples: readonly Samples[], pool: TrainingPool): Promise<void> {
  const random = randomFrom(7);
  const means = new Map<Kind, Means>((Object.keys(KINDS) as Kind[]).map((kind) => [kind, new Means()]));
  await forHeldFaces(samples, pool, (face, model, kind) => means.get(kind)?.add(face, model, random));
  printTable('Mean evenness on families held out', [
    ['', 'lines', 'can’t tell', 'designer above none', ...Object.keys(SETTINGS), 'without tables, by shape'],
    ...[...means].map(([kind, sums]) => sums.row(kind)),
  ]);
}
