import fc from 'fast-check';
import { type FaceSet, ledgersOf, setBlock } from '../setting';
import { SHIPPED_IDS, shippedFaces } from '../testing';
import { createBlock } from '../job';
import {
  DEALT,
  type DrillResult,
  EXERCISES,
  LEVELS,
  type PlaceExercise,
  aimOf,
  chanceScore,
  oneOf,
  deal,
  drillLine,
  led,
  letterScore,
  mondayOf,
  placed,
  playRounds,
  pointedAt,
  scoreAgainst,
  scoreOf,
} from '.';
import { progressOf } from './progress';

describe('the drill', () => {
  let faces: FaceSet;
  let offered: { id: string; italic: boolean }[];
  beforeAll(async () => {
    faces = await shippedFaces(...SHIPPED_IDS);
    offered = SHIPPED_IDS.map((id) => ({ id, italic: faces.instance({ faceId: id, axes: {} }).face.posture.italic }));
  });
  const place = (seed: number, level: (typeof LEVELS)[number]['id'] = 'capitals', pair?: string): PlaceExercise =>
    deal({ kind: 'place', level, seed, faces: offered, pair, hardness: 0 }, faces) as PlaceExercise;

  it('deals the same for a seed, with the ends where they belong and the rest no farther off than is said', () => {
    fc.assert(
      fc.property(fc.nat(), fc.constantFrom(...LEVELS), (seed, { id }) => {
        const one = place(seed, id);
        expect(place(seed, id)).toEqual(one);
        const aim = aimOf(one.line);
        expect([one.dealt[0], one.dealt.at(-1)]).toEqual([aim[0], aim.at(-1)]);
        one.dealt.forEach((x, i) => expect(Math.abs(x - (aim[i] ?? 0))).toBeLessThanOrEqual(DEALT + 0.05));
      }),
      { numRuns: 60 },
    );
  });

  it('has every level’s letters in a face whose kerning can be learned from, slanted ones where it says so', () => {
    for (const level of LEVELS) {
      for (let seed = 0; seed < 12; seed++) {
        const { line } = place(seed, level.id);
        expect(line.aim).withContext(line.faceId).toBe('designer');
        expect(offered.find(({ id }) => id === line.faceId)?.italic).toBe(level.italic);
        expect(level.words).toContain(line.words);
        expect(line.letters.map(({ text }) => text).join('')).toBe(line.words.replaceAll(' ', ''));
        for (const { outline } of line.letters) expect(outline).toMatch(/^M[-\d]/);
      }
    }
  });

  it('has the designer’s places from the font, and the measured ones from the shapes between the same ends', () => {
    const { designer, measured, gaps } = drillLine('AVATAR', 'playfair-display-bold', faces);
    const block = createBlock('x', 'AVATAR', { xPt: 0, yPt: 0, widthPt: 99_999, heightPt: 99 }, { faceId: 'playfair-display-bold', sizePt: 1000 });
    const [line] = setBlock(block, faces).lines;
    const ledgers = line ? ledgersOf(block, line, faces) : [];
    expect(ledgers.map(({ xPt }) => xPt)).toEqual(designer.slice(1));
    expect(gaps.map(({ pair }) => pair)).toEqual(ledgers.map(({ pair }) => pair ?? null));
    const more = ledgers.map(({ shapeMilliem, fontMilliem }) => shapeMilliem - fontMilliem);
    const share = more.reduce((sum, one) => sum + one, 0) / more.length;
    let moved = 0;
    more.forEach((one, i) => {
      moved += one - share;
      expect(measured[i + 1]).toBeCloseTo((designer[i + 1] ?? 0) + moved, 0);
    });
    expect(measured.at(-1)).toBe(designer.at(-1));
  });

  it('aims at the measured places in a font without kerning, and takes a word space as one gap', async () => {
    const bare = await shippedFaces('playfair-display-bold');
    const line = drillLine('To Wait', 'playfair-display-bold', bare);
    expect(line.letters.length).toBe(6);
    expect(line.gaps.map(({ text, pair }) => [text, pair === null])).toEqual([
      ['To', false],
      ['o W', true],
      ['Wa', false],
      ['ai', false],
      ['it', false],
    ]);
    expect(() => drillLine('AB', 'playfair-display-bold', faces)).toThrowError(/three letters/);
    expect(() => drillLine('ABCDE'.repeat(10), 'playfair-display-bold', faces)).toThrowError(/too many/);
  });

  it('scores letters by how far they are off, and chance as the definition predicts', () => {
    expect([0, 4, -4, 22, 40, -400].map(letterScore)).toEqual([100, 100, 100, 50, 0, 0]);
    const n = 200_000;
    for (const spread of [2, 20, 40, DEALT, 200]) {
      // The mean over an even strewing, by summing.
      let sum = 0;
      for (let i = 0; i < n; i++) sum += letterScore(-spread + (2 * spread * (i + 0.5)) / n);
      expect(chanceScore(spread))
        .withContext(`${spread}`)
        .toBeCloseTo(sum / n, 2);
    }
  });

  it('tells how far and to which side letters and gaps are off', () => {
    const exercise = place(3);
    const aim = aimOf(exercise.line);
    const answer = placed(
      exercise,
      aim.map((x, i) => (i === 1 ? x + 22 : x)),
    );
    expect(answer.letters.map(({ off }) => off)).toEqual(aim.slice(1, -1).map((_, i) => (i === 0 ? 22 : 0)));
    expect(answer.gaps.slice(0, 3).map(({ off }) => off)).toEqual([22, -22, 0]);
    expect(scoreOf(answer)).toBeCloseTo(100 - 50 / answer.letters.length);
  });

  it('scores what was placed against both opinions, and a leading that is left by how far it was dealt off', () => {
    const exercise = place(5);
    for (const which of ['designer', 'measured'] as const) expect(scoreAgainst(which, exercise, placed(exercise, exercise.line[which]))).toBeGreaterThan(99.9);
    const leading = deal({ kind: 'leading', level: 'capitals', seed: 1, faces: offered, hardness: 1 }, faces);
    if (leading.kind !== 'leading') throw new Error('another kind');
    const answer = led(leading, leading.dealt);
    const result: DrillResult = { level: 'capitals', faceId: 'x', words: 'VALLEY', at: '2026-11-27T10:00:00Z', seconds: null, answer };
    const told = progressOf([result]).exercises.find(({ kind }) => kind === 'leading');
    expect(told?.chance).toBe(scoreOf(answer));
  });

  it('makes the other exercises as they say', () => {
    const spread = (aim: readonly number[], x: readonly number[]): number => {
      const off = x.slice(1).map((one, i) => one - (x[i] ?? 0) - ((aim[i + 1] ?? 0) - (aim[i] ?? 0)));
      return Math.sqrt(off.reduce((sum, one) => sum + one * one, 0) / off.length);
    };
    for (let seed = 0; seed < 20; seed++) {
      for (const hardness of [0, 1]) {
        const ask = { level: 'capitals', seed, faces: offered, hardness } as const;
        const even = deal({ ...ask, kind: 'even' }, faces);
        const wrong = deal({ ...ask, kind: 'wrong' }, faces);
        const touch = deal({ ...ask, kind: 'touch' }, faces);
        const leading = deal({ ...ask, kind: 'leading' }, faces);
        if (even.kind !== 'even' || wrong.kind !== 'wrong' || touch.kind !== 'touch' || leading.kind !== 'leading') throw new Error('another kind');
        const [better, worse] = even.answer === 'first' ? [even.first, even.second] : [even.second, even.first];
        expect(spread(aimOf(even.line), worse) - spread(aimOf(even.line), better)).toBeCloseTo(even.by, 0);
        expect(scoreOf(oneOf(even, even.answer))).toBe(100);
        aimOf(wrong.line).forEach((x, i) => expect((wrong.places[i] ?? 0) - x).toBeCloseTo(i > wrong.answer ? wrong.by : 0, 1));
        expect([scoreOf(pointedAt(wrong, wrong.answer)), scoreOf(pointedAt(wrong, wrong.answer === 0 ? 1 : 0))]).toEqual([100, 0]);
        expect([scoreOf(led(leading, leading.answer)), scoreOf(led(leading, leading.answer + 64)), scoreOf(led(leading, leading.dealt))]).toEqual([
          100,
          50,
          jasmine.any(Number),
        ]);
        // The inks, measured again from a block that has these places as hand values.
        const { line, places, answer } = touch;
        const block = createBlock('x', line.words, { xPt: 0, yPt: 0, widthPt: 99_999, heightPt: 99 }, { faceId: line.faceId, sizePt: 1000 });
        const hand = line.gaps.map((_, i) => ({
          at: i + 1,
          milliem: (places[i + 1] ?? 0) - (places[i] ?? 0) - ((line.designer[i + 1] ?? 0) - (line.designer[i] ?? 0)),
        }));
        const [set] = setBlock({ ...block, hand }, faces).lines;
        const distances = set ? ledgersOf({ ...block, hand }, set, faces).map(({ distancePt }) => distancePt ?? 0) : [];
        distances.forEach((distance, i) => (i === answer ? expect(distance).toBeLessThanOrEqual(0) : expect(distance).toBeGreaterThan(4)));
      }
    }
  });

  it('deals words that hold a kind of pair where that is asked for', () => {
    const held = (pair?: string): number =>
      Array.from({ length: 30 }, (_, seed) => place(seed, 'words', pair).line.gaps)
        .flat()
        .filter((gap) => gap.pair === 'open to round').length;
    expect(held('open to round')).toBeGreaterThan(1.5 * held());
  });

  describe('played by the numbers', () => {
    const played = (player: Parameters<typeof playRounds>[0], seed = 4, rounds = 90): DrillResult[] =>
      playRounds(player, { rounds, seed, faces: offered }, faces);
    const scored = (results: readonly DrillResult[]): number => results.reduce((sum, { answer }) => sum + scoreOf(answer), 0) / results.length;

    it('gives a perfect player 100 in every round, and no bias', () => {
      const results = played({ bias: {}, deviation: 0 });
      expect(results.every(({ answer }) => scoreOf(answer) === 100)).toBeTrue();
      const { pairs, streak, advice } = progressOf(results);
      expect(pairs.every(({ bias, off }) => bias === 0 && off === 0)).toBeTrue();
      expect(streak).toEqual({ best: 90, now: 90 });
      expect(advice.about).toBe('exercise');
    });

    it('gives chance the score that the definition predicts, and finds no bias in it', () => {
      for (const seed of [1, 2, 3]) {
        const results = played({ bias: {}, deviation: 0, idle: true }, seed, 300);
        const letters = results.reduce((sum, { answer }) => sum + (answer.kind === 'place' ? answer.letters.length : 0), 0);
        // A letter's score has a standard deviation under 40; words differ in length.
        expect(Math.abs(scored(results) - chanceScore(DEALT))).toBeLessThan((4 * 40) / Math.sqrt(letters));
        expect(progressOf(results).advice.about).toBe('level');
      }
    });

    it('finds the bias that a player has, says it, and practises it', () => {
      for (const [kind, bias] of [
        ['round to straight', 20],
        ['open to round', -16],
        ['open to straight', 14],
      ] as const) {
        for (const seed of [4, 5]) {
          const { pairs, advice } = progressOf(played({ bias: { [kind]: bias }, deviation: 6 }, seed));
          const found = pairs.find(({ pair }) => pair === kind);
          expect(Math.abs((found?.bias ?? 0) - bias))
            .withContext(kind)
            .toBeLessThan(Math.max(4, 3 * (found?.error ?? 0)));
          for (const other of pairs.filter(({ pair, gaps }) => pair !== kind && gaps > 12))
            expect(Math.abs(other.bias)).withContext(other.pair).toBeLessThan(9);
          expect(advice.next.pair).toBe(kind);
          expect(advice.says).toContain(`${kind} about ${Math.abs(Math.round(found?.bias ?? 0))}/1000 em ${bias > 0 ? 'more open' : 'tighter'}`);
          expect(place(1, advice.next.level, kind).line.gaps.some(({ pair }) => pair === kind)).toBeTrue();
        }
      }
    });

    it('scores an unsteady hand lower the more unsteady it is, and a biased one lower than a perfect one', () => {
      const scores = [0, 6, 12, 24, 48].map((deviation) => scored(played({ bias: {}, deviation })));
      expect([...scores].sort((a, b) => b - a)).toEqual(scores);
      expect(scored(played({ bias: { 'round to straight': 30 }, deviation: 0 }))).toBeLessThan(98);
    });

    it('advises to begin, then the first level that is not mastered', () => {
      expect(progressOf([]).advice).toEqual(jasmine.objectContaining({ about: 'begin', next: { kind: 'place', level: 'straight' } }));
      const straight = playRounds({ bias: {}, deviation: 0 }, { rounds: 5, seed: 1, faces: offered, levels: ['straight'] }, faces);
      expect(progressOf(straight).advice.next.level).toBe('round');
    });
  });

  it('counts weeks from Monday, streaks of good answers, and makes an exercise harder as it is done well', () => {
    expect(['2026-11-22T23:59:59Z', '2026-11-23T00:00:00Z', '2026-11-29T12:00:00Z'].map(mondayOf)).toEqual(['2026-11-16', '2026-11-23', '2026-11-23']);
    const results = ['111101', '1111'].flatMap((row, week) =>
      [...row].map((right): DrillResult => {
        const at = `2026-11-${16 + 7 * week}T10:00:00Z`;
        return { level: 'capitals', faceId: 'x', words: 'VALLEY', at, seconds: null, answer: { kind: 'even', right: right === '1', by: 10 } };
      }),
    );
    const { weeks, streak, exercises } = progressOf(results);
    expect(weeks.map(({ monday, count, score }) => [monday, count, Math.round(score)])).toEqual([
      ['2026-11-16', 6, 83],
      ['2026-11-23', 4, 100],
    ]);
    expect(streak).toEqual({ best: 5, now: 5 });
    expect(exercises.find(({ kind }) => kind === 'even')).toEqual({ kind: 'even', count: 10, score: 90, chance: 50, hardness: 0.7 });
    expect(EXERCISES.length).toBe(5);
  });
});
