/** Everything measured on the families' pairs, once: features and the designers' kerning. */
import { FEATURE_COUNT, describe, measurePair } from '@jentrix/core/spacing';
import { type Font, PAIRS, SETS, type SetName, designerKerning, hasLowerCase, sidesOf } from './families';

export interface Samples {
  font: Font;
  set: SetName;
  /** Two letters a row. */
  pairs: readonly string[];
  /** Row by row, `FEATURE_COUNT` each. */
  features: Float64Array;
  /** 1/1000 em. */
  truth: Float64Array;
  /** The shape description of each letter in the pairs. */
  described: ReadonlyMap<string, Float64Array>;
}

/** Fonts with fewer kerned pairs in a set say nothing about kerning there. */
export const LEAST_KERNED = 20;

export function collect(fonts: readonly Font[]): Samples[] {
  const samples: Samples[] = [];
  for (const font of fonts) {
    const { instance } = font;
    const side = sidesOf(instance);
    const described = new Map<string, Float64Array>();
    for (const set of SETS) {
      if (set !== 'UU' && !hasLowerCase(instance)) continue;
      const pairs = PAIRS[set].filter(([left, right]) => side(left) && side(right));
      const truth = Float64Array.from(pairs, ([left, right]) => designerKerning(instance, left, right));
      if (truth.filter((kern) => kern !== 0).length < LEAST_KERNED) continue;
      const features = new Float64Array(pairs.length * FEATURE_COUNT);
      pairs.forEach(([a, b], i) => {
        const left = side(a);
        const right = side(b);
        if (!left || !right) return;
        measurePair(
          { left, right, facing: { left: left.profile.right, right: right.profile.left } },
          features.subarray(i * FEATURE_COUNT, (i + 1) * FEATURE_COUNT),
        );
        if (!described.has(a)) described.set(a, describe(left.profile, left.rhythm));
        if (!described.has(b)) described.set(b, describe(right.profile, right.rhythm));
      });
      samples.push({ font, set, pairs: pairs.map(([left, right]) => left + right), features, truth, described });
    }
  }
  return samples;
}
