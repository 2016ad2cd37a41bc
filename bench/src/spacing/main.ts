/**
 * npm run bench:spacing: proposals against the kerning of professional designers, cross-validated by family: networks fitted
 * without a family are asked about it. `-- train` fits on all families and writes the weights; `-- shipped` scores those (fitted
 * on the very families, so better than they will be elsewhere). `-- findings` (npm run bench:findings) asks when the gap rules speak, `-- first-cut` (npm run
 * bench:first-cut) what weighed kerning keeps and brings back; `-- scripts` how Greek and Cyrillic do.
 */
import { FEATURE_COUNT, type ShapeModel, beforeMark, beyondBearing, proposeKerning, settled, withoutSmall } from '@jentrix/core/spacing';
import { printTable } from '../table';
import { type Samples, collect } from './data';
import { reportEvenness } from './evenness';
import { reportFindings } from './findings';
import { reportFirstCut } from './first-cut';
import { type Font, SETS, openFonts, sidesOf } from './families';
import { FOLDS, foldsOf } from './folds';
import { reportOpticalSizes } from './optical-sizes';
import { TrainingPool } from './pool';
import { referenceBoards } from './references';
import { type Board, boardRow, emptyBoard, enter } from './report';
import { precedentsFor } from './precedents';
import { reportScripts } from './scripts';
import { answers, fit, partOf, predict, shapeModelOf, writeModel } from './train';

/** Fonts that means are published over. */
const CHOICES: Readonly<Record<string, (font: Font) => boolean>> = {
  'regular weights': ({ weight, italic }) => weight === 400 && !italic,
  'bold weights': ({ weight, italic }) => weight === 700 && !italic,
  italics: ({ italic }) => italic,
};
const HEAD = ['predictor', ...SETS];

/** Answers as the core makes proposals of them: without small values, and in part the closed form beside marks. */
function asShipped(answers: Float64Array, { set, features }: Samples): Float64Array {
  return answers.map((value, i) => {
    const kept = withoutSmall(value, partOf(set));
    const measures = features.subarray(i * FEATURE_COUNT, (i + 1) * FEATURE_COUNT);
    return settled(set === 'P' ? beforeMark(kept, 1000 * beyondBearing(measures, 'right')) : kept);
  });
}

async function crossValidate(samples: readonly Samples[], pool: TrainingPool): Promise<void> {
  const networks = emptyBoard();
  const precedents = emptyBoard();
  const raw = emptyBoard();
  const kept = emptyBoard();
  const whole = emptyBoard();
  for (const { held, model } of await foldsOf(samples, pool)) {
    const shapes = shapeModelOf(model);
    for (const sample of samples.filter(({ font }) => held.includes(font.family))) {
      const weighed = predict(model, sample);
      enter(raw, sample, weighed);
      enter(kept, sample, asShipped(weighed, sample));
      enter(networks, sample, asShipped(answers(model, sample), sample));
      enter(
        precedents,
        sample,
        precedentsFor(sample, model.precedents).map(({ milliem }) => settled(withoutSmall(milliem, partOf(sample.set)))),
      );
      enter(whole, sample, proposedFor(sample, shapes));
    }
  }
  const boards: Record<string, Board> = {
    ...referenceBoards(samples),
    'networks alone': networks,
    'precedents alone': precedents,
    'both, small answers left as they are': raw,
    'proposals before inks are looked at': kept,
    'proposals as shipped': whole,
  };
  const figures = `cross-validated by family (${FOLDS} folds): Pearson r / mean error in 1/1000 em / over no kerning / wrong signs`;
  for (const [which, among] of Object.entries(CHOICES)) {
    printTable(`Shape-only proposals, ${which}, ${figures}`, [HEAD, ...Object.entries(boards).map(([name, board]) => boardRow(name, board, among))]);
  }
}

/** The core's proposals for the pairs of a sample. @param model another than the shipped one. */
function proposedFor({ font: { instance }, pairs }: Samples, model?: ShapeModel): number[] {
  const side = sidesOf(instance);
  const sides = new Map([...new Set(pairs.join(''))].map((letter) => [letter, side(letter)]));
  return pairs.map((pair) => {
    const [left, right] = [sides.get(pair.charAt(0)), sides.get(pair.charAt(1))];
    return left && right ? proposeKerning(left, right, undefined, model).milliem : 0;
  });
}

function scoreShipped(samples: readonly Samples[]): void {
  const board = emptyBoard();
  for (const sample of samples) enter(board, sample, proposedFor(sample));
  printTable('The shipped weights on the families they were fitted on', [HEAD, boardRow('by shape', board)]);
}

export async function benchSpacing([task]: readonly string[]): Promise<void> {
  if (task === 'sizes') {
    await reportOpticalSizes();
    return;
  }
  const fonts = await openFonts();
  const samples = collect(fonts);
  console.log(`${fonts.length} fonts of ${new Set(fonts.map(({ family }) => family)).size} families, ${samples.length} sets`);
  if (task !== 'shipped') {
    const pool = new TrainingPool();
    if (task === 'train') writeModel(await fit(samples, pool));
    else if (task === 'findings') await reportFindings(samples, pool);
    else if (task === 'first-cut') await reportFirstCut(samples, pool);
    else if (task === 'scripts') await reportScripts(samples, pool);
    else if (task === 'evenness') await reportEvenness(samples, pool);
    else {
      await crossValidate(samples, pool);
      await reportEvenness(samples, pool);
    }
    await pool.close();
    if (task !== undefined) return;
  }
  scoreShipped(samples);
  await reportOpticalSizes();
}
