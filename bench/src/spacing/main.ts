/**
 * npm run bench:spacing: proposals against the kerning of professional designers, cross-validated by family: networks fitted
 * without a family are asked about it. `-- train` fits on all families and writes the weights; `-- shipped` scores those (fitted
 * on the very families, so better than they will be elsewhere).
 */
import { BEYOND_RIGHT, DEAD_ZONE, FEATURE_COUNT, besideMark, profileOf, proposeKerning, rhythmOf } from '@jentrix/core/spacing';
import { printTable } from '../table';
import { type Samples, collect } from './data';
import { reportEvenness } from './evenness';
import { FAMILIES, type Font, PAIRS, SETS, designerKerning, openFonts } from './families';
import { reportOpticalSizes } from './optical-sizes';
import { boardRow, emptyBoard, score } from './report';
import { fit, predict, writeModel } from './train';

const FOLDS = 6;
const HEAD = ['predictor', 'UU', 'UL', 'LL', 'P'];

const withDeadZone = (values: Float64Array, zone: number): Float64Array =>
  values.map((value) => Math.round(Math.sign(value) * Math.max(0, Math.abs(value) - zone)));

/** The networks' answers as the core makes proposals of them: dead zone, and half the closed form beside marks. */
function asShipped(answers: Float64Array, { set, features }: Samples): Float64Array {
  return answers.map((value, i) => {
    const kept = Math.sign(value) * Math.max(0, Math.abs(value) - DEAD_ZONE);
    return Math.round(set === 'P' ? besideMark(kept, 1000 * (features[i * FEATURE_COUNT + BEYOND_RIGHT] ?? 0)) : kept);
  });
}

function crossValidate(samples: readonly Samples[]): void {
  const none = emptyBoard();
  const closed = emptyBoard();
  const raw = emptyBoard();
  const kept = emptyBoard();
  for (let fold = 0; fold < FOLDS; fold++) {
    const held = new Set(FAMILIES.filter((_, i) => i % FOLDS === fold));
    const model = fit(samples.filter(({ font }) => !held.has(font.family)));
    for (const sample of samples.filter(({ font }) => held.has(font.family))) {
      const answers = predict(model, sample);
      none[sample.set].push(score(new Float64Array(sample.truth.length), sample.truth));
      closed[sample.set].push(
        score(
          withDeadZone(
            sample.truth.map((_, i) => 700 * (sample.features[i * FEATURE_COUNT] ?? 0)),
            20,
          ),
          sample.truth,
        ),
      );
      raw[sample.set].push(score(withDeadZone(answers, 0), sample.truth));
      kept[sample.set].push(score(asShipped(answers, sample), sample.truth));
    }
    console.log(`fold ${fold + 1} of ${FOLDS}: ${[...held].join(' ')}`);
  }
  printTable(`Shape-only proposals, cross-validated by family (${FOLDS} folds): Pearson r / mean error in 1/1000 em / over no kerning / wrong signs`, [
    HEAD,
    boardRow('no kerning', none),
    boardRow('white solved to target, dead zone', closed),
    boardRow('networks', raw),
    boardRow('networks, dead zone (as shipped)', kept),
  ]);
}

function scoreShipped(fonts: readonly Font[], samples: readonly Samples[]): void {
  const board = emptyBoard();
  for (const font of fonts) {
    const rhythm = rhythmOf(font.instance);
    const side = (letter: string) => {
      const profile = profileOf(font.instance, font.instance.nominalGlyph(letter.codePointAt(0) ?? 0) ?? 0);
      return profile && { profile, rhythm };
    };
    for (const set of SETS) {
      if (!samples.some((sample) => sample.font === font && sample.set === set)) continue;
      const proposed: number[] = [];
      const truth: number[] = [];
      for (const [a, b] of PAIRS[set]) {
        const left = side(a);
        const right = side(b);
        if (!left || !right) continue;
        proposed.push(proposeKerning(left, right).milliem);
        truth.push(designerKerning(font.instance, a, b));
      }
      board[set].push(score(proposed, truth));
    }
  }
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
  if (task === 'train') {
    writeModel(fit(samples));
    return;
  }
  if (task === undefined) crossValidate(samples);
  scoreShipped(fonts, samples);
  reportEvenness(fonts);
  await reportOpticalSizes();
}
