/** The baselines that proposals are compared with, on the same fonts in the same run: nothing, other designers, and a closed form without learning. */
import { BANDS, type GlyphProfile, bandHeight, profileOf } from '@jentrix/core/spacing';
import type { Samples } from './data';
import { type Font, PAIRS, type SetName } from './families';
import { type Board, emptyBoard, enter } from './report';

/** Boards by the name of the predictor, in 1/1000 em. */
export function referenceBoards(samples: readonly Samples[]): Record<string, Board> {
  const nothing = emptyBoard();
  const others = emptyBoard();
  const closed = emptyBoard();
  const elsewhere = mediansOfOthers(samples);
  const forms = new Map<Font, ClosedForm>();
  for (const sample of samples) {
    const { set, truth, font, pairs } = sample;
    enter(nothing, sample, new Float64Array(truth.length));
    enter(others, sample, elsewhere(sample));
    let form = forms.get(font);
    if (!form) forms.set(font, (form = closedForm(font)));
    const kern = form[set];
    if (!kern) continue;
    enter(
      closed,
      sample,
      pairs.map((pair) => Math.round(kern.get(pair) ?? 0)),
    );
  }
  return { 'no kerning': nothing, 'median of the other families’ designers': others, 'closed form, nothing learned': closed };
}

const median = (values: readonly number[]): number => {
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 === 1 ? (sorted[middle] ?? 0) : ((sorted[middle - 1] ?? 0) + (sorted[middle] ?? 0)) / 2;
};

/** The median kerning of the same two letters in other fonts: knows letters, not shapes. */
function mediansOfOthers(samples: readonly Samples[]): (sample: Samples) => number[] {
  const all = new Map<string, { family: string; kern: number }[]>();
  for (const { set, font, pairs, truth } of samples) {
    pairs.forEach((pair, i) => {
      const known = all.get(set + pair);
      const one = { family: font.family, kern: truth[i] ?? 0 };
      if (known) known.push(one);
      else all.set(set + pair, [one]);
    });
  }
  const found = new Map<string, number>();
  return ({ set, font, pairs }) =>
    pairs.map((pair) => {
      const key = `${font.family} ${set}${pair}`;
      let kern = found.get(key);
      if (kern === undefined) {
        kern = median((all.get(set + pair) ?? []).filter(({ family }) => family !== font.family).map((one) => one.kern));
        found.set(key, kern);
      }
      return kern;
    });
}

/** The sets it was made for. */
type FormSet = Exclude<SetName, 'A' | 'F' | 'S'>;
type ClosedForm = Readonly<Partial<Record<SetName, ReadonlyMap<string, number>>>>;

/** Control pairs, and the threshold and strength of the end: fitted once by hand, flat around these values. In 1/1000 em. */
const FORMS: Readonly<Record<FormSet, { controls: string; threshold: number; strength: number }>> = {
  UU: { controls: 'HH HO OH OO HN EN NE HI', threshold: 6, strength: 0.6 },
  UL: { controls: 'Hn Hu He In Nn Mi Ho Bu', threshold: 3, strength: 0.8 },
  LL: { controls: 'nn no on oo hn nu un hu', threshold: 10, strength: 0.6 },
  P: { controls: 'H. n. i. h. N, u,', threshold: 8, strength: 0.55 },
};

/**
 * The offset at which a power mean of the distances (power -4, in a band of heights) equals that of the control pairs, less what
 * the side bearings of both letters already do, closed beyond a threshold. It looks letters up, as references may.
 */
function closedForm({ instance }: Font): ClosedForm {
  const em = instance.unitsPerEm;
  const profiles = new Map<string, GlyphProfile | undefined>();
  const profile = (letter: string): GlyphProfile | undefined => {
    if (!profiles.has(letter)) profiles.set(letter, profileOf(instance, instance.nominalGlyph(letter.codePointAt(0) ?? 0) ?? 0));
    return profiles.get(letter);
  };
  const solved = (set: FormSet): Map<string, number> => {
    const [low, high] = set === 'UU' ? [-0.02, instance.metrics.capHeight / em] : [-0.25, Math.max(0.75, instance.metrics.capHeight / em)];
    const white = ([left = '', right = '']: string, offset: number): number => {
      const [a, b] = [profile(left), profile(right)];
      if (!a || !b) return Number.NaN;
      let sum = 0;
      let weights = 0;
      for (let band = 0; band < BANDS; band++) {
        const height = bandHeight(band);
        if (height < low || height > high) continue;
        const weight = height < 0 ? 0.5 : 1;
        sum += weight * (Math.max((a.right.seen[band] ?? 0) + (b.left.seen[band] ?? 0) + offset, -0.07) + 0.1) ** -4;
        weights += weight;
      }
      return (sum / weights) ** -0.25;
    };
    const target = median(FORMS[set].controls.split(' ').flatMap((pair) => white(pair, 0) || []));
    const step = 1e-4;
    return new Map(
      PAIRS[set].flatMap(([left, right]): [string, number][] => {
        const pair = left + right;
        let offset = 0;
        for (let i = 0; i < 6; i++) {
          const now = white(pair, offset);
          offset += Math.max(-0.15, Math.min(0.15, (target - now) / ((white(pair, offset + step) - now) / step)));
          offset = Math.max(-0.5, Math.min(0.5, offset));
        }
        return Number.isFinite(offset) ? [[pair, 1000 * offset]] : [];
      }),
    );
  };
  const [capitals, lower] = [polished(solved('UU')), polished(solved('LL'))];
  const mixed = solved('UL');
  const own = new Map([...mixed].map(([pair, x]) => [pair, x - (capitals.rows.get(pair.charAt(0)) ?? 0) - (lower.columns.get(pair.charAt(1)) ?? 0)]));
  const level = median(FORMS.UL.controls.split(' ').flatMap((pair) => own.get(pair) ?? []));
  const marks = solved('P');
  const ofMark = (mark: string): number => median([...marks].filter(([pair]) => pair.charAt(1) === mark).map(([, x]) => x));
  const levels = new Map(['.', ',', '-'].map((mark) => [mark, ofMark(mark)]));
  const beyond: Record<FormSet, Map<string, number>> = {
    UU: capitals.rest,
    UL: new Map([...own].map(([pair, x]) => [pair, x - level])),
    LL: lower.rest,
    P: new Map([...marks].map(([pair, x]) => [pair, x - (levels.get(pair.charAt(1)) ?? 0)])),
  };
  const closed = (set: FormSet): Map<string, number> => {
    const { threshold, strength } = FORMS[set];
    return new Map([...beyond[set]].map(([pair, x]) => [pair, x < -threshold ? strength * (x + threshold) : 0]));
  };
  return { UU: closed('UU'), UL: closed('UL'), LL: closed('LL'), P: closed('P') };
}

/** A table of pairs less the medians of its whole, its rows and its columns (median polish, five sweeps). */
function polished(table: ReadonlyMap<string, number>): { rest: Map<string, number>; rows: Map<string, number>; columns: Map<string, number> } {
  const whole = median([...table.values()]);
  const rest = new Map([...table].map(([pair, x]) => [pair, x - whole]));
  const [rows, columns] = [new Map<string, number>(), new Map<string, number>()];
  for (let sweep = 0; sweep < 5; sweep++) {
    for (const [effects, letter] of [
      [rows, 0],
      [columns, 1],
    ] as const) {
      const groups = new Map<string, string[]>();
      for (const pair of rest.keys()) groups.set(pair.charAt(letter), [...(groups.get(pair.charAt(letter)) ?? []), pair]);
      for (const [name, pairs] of groups) {
        const middle = median(pairs.map((pair) => rest.get(pair) ?? 0));
        effects.set(name, (effects.get(name) ?? 0) + middle);
        for (const pair of pairs) rest.set(pair, (rest.get(pair) ?? 0) - middle);
      }
    }
  }
  return { rest, rows, columns };
}
