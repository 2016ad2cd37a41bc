/**
 * npm run bench:spacing: proposals against the kerning of professional designers, cross-validated by family: networks fitted
 * without a family are asked about it. `-- train` fits on all families and writes the weights; `-- shipped` scores those (fitted
 * on the very families, so better than they will be elsewhere).
 */
import { FEATURE_COUNT, besideMark, beyondBearing, profileOf, proposeKerning, rhythmOf, settled, withDeadZone } from '@jentrix/core/spacing';
import { printTable } from '../table';
import { type Samples, collect } from './data';
import { reportEvenness } from './evenness';
import { FAMILIES, type Font, PAIRS, SETS, designerKerning, openFonts } from './families';
import { reportOpticalSizes } from './optical-sizes';
import { TrainingPool } from './pool';
import { referenceBoards } from './references';
import { boardRow, emptyBoard, score } from './report';
import { fit, predict, writeModel } from './train';

const FOLDS = 12;
const HEAD = ['predictor', ...SETS];

/** The networks' answers as the core makes proposals of them: dead zone, and in part the closed form beside marks. */
function asShipped(answers: Float64Array, { set, features }: Samples): Float64Array {
  return answers.map((value, i) => {
    const kept = withDeadZone(value);
    const measures = features.subarray(i * FEATURE_COUNT, (i + 1) * FEATURE_COUNT);
    return settled(set === 'P' ? besideMark(kept, 1000 * beyondBearing(measures, 'right')) : kept);
  });
}

async function crossValidate(samples: readonly Samples[], pool: TrainingPool): Promise<void> {
  const alone = emptyBoard();
  const raw = emptyBoard();
  const kept = emptyBoard();
  await Promise.all(
    Array.from({ length: FOLDS }, async (_, fold) => {
      const held = new Set(FAMILIES.filter((_, i) => i % FOLDS === fold));
      const model = await fit(
        samples.filter(({ font }) => !held.has(font.family)),
        pool,
      );
      for (const sample of samples.filter(({ font }) => held.has(font.family))) {
        const answers = predict(model, sample);
        raw[sample.set].push(score(answers, sample.truth));
        const [first] = model.nets;
        if (first)
          alone[sample.set].push(
            score(
              predict({ ...model, nets: [first] }, sample).map((answer) => settled(withDeadZone(answer))),
              sample.truth,
            ),
          );
        kept[sample.set].push(score(asShipped(answers, sample), sample.truth));
      }
      console.log(`without ${[...held].join(' ')}`);
    }),
  );
  const references = referenceBoards(samples);
  printTable(`Shape-only proposals, cross-validated by family (${FOLDS} folds): Pearson r / mean error in 1/1000 em / over no kerning / wrong signs`, [
    HEAD,
    ...Object.entries(references).map(([name, board]) => boardRow(name, board)),
    boardRow('one of the networks alone, settled', alone),
    boardRow('all networks, unsettled', raw),
    boardRow('proposals as shipped', kept),
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
  if (task !== 'shipped') {
    const pool = new TrainingPool();
    if (task === 'train') writeModel(await fit(samples, pool));
    else await crossValidate(samples, pool);
    await pool.close();
    if (task === 'train') return;
  }
  scoreShipped(fonts, samples);
  reportEvenness(fonts);
  await reportOpticalSizes();
}
