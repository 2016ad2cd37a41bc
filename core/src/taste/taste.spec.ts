import * as fc from 'fast-check';
import { type Taste, LEAST_DECISIONS, NO_TASTE, amountOf, decided, decisionsOf, tasteLines, pairKind, tasteSchema } from '.';

const KINDS = ['round to straight', 'diagonal to round', 'open to straight', 'diagonal to open', 'round to round', 'diagonal to diagonal'];

describe('the designer’s own hand', () => {
  /** The decisions of a designer of known amounts on proposals: whole steps of 1/1000 em. */
  const decide = (taste: Taste, proposals: readonly { kind: string; proposedMilliem: number }[], amounts: Readonly<Record<string, number>>): Taste =>
    proposals.reduce(
      (now, { kind, proposedMilliem }) => decided(now, { kind, proposedMilliem, chosenMilliem: Math.round(proposedMilliem * (amounts[kind] ?? 1)) }),
      taste,
    );
  const proposal = fc.record({ kind: fc.constantFrom(...KINDS), proposedMilliem: fc.integer({ min: -120, max: -12 }) });
  const errorOf = (taste: Taste, test: readonly { kind: string; proposedMilliem: number }[], amounts: Readonly<Record<string, number>>): number =>
    test.reduce((sum, { kind, proposedMilliem }) => sum + Math.abs(proposedMilliem * (amountOf(taste, kind) - (amounts[kind] ?? 1))), 0);

  it('comes at least 40 % nearer to a taste of known amounts after 40 decisions, and is never farther off than the plain proposals', () => {
    const amount = fc.double({ min: 0.6, max: 1.45, noNaN: true }).map((value) => Math.round(value * 100) / 100);
    const gains: number[] = [];
    fc.assert(
      fc.property(
        fc.tuple(...KINDS.map(() => amount)),
        fc.array(proposal, { minLength: 40, maxLength: 40 }),
        fc.array(proposal, { minLength: 60, maxLength: 60 }),
        (values, made, test) => {
          const amounts = Object.fromEntries(KINDS.map((kind, i) => [kind, values[i] ?? 1]));
          const plain = errorOf(NO_TASTE, test, amounts);
          for (const count of [5, LEAST_DECISIONS - 1, LEAST_DECISIONS, 30, 40]) {
            const error = errorOf(decide(NO_TASTE, made.slice(0, count), amounts), test, amounts);
            if (count < LEAST_DECISIONS) expect(error).toBe(plain);
            expect(error).toBeLessThanOrEqual(plain + 1e-9);
          }
          if (plain > 60 * 3) gains.push(1 - errorOf(decide(NO_TASTE, made, amounts), test, amounts) / plain);
        },
      ),
      { numRuns: 300 },
    );
    gains.sort((a, b) => a - b);
    expect(gains.length).toBeGreaterThan(200);
    expect(gains[Math.floor(gains.length * 0.02)]).toBeGreaterThan(0.4);
  });

  it('starts at nothing, and leaves those alone who take what is proposed', () => {
    expect(amountOf(NO_TASTE, 'round to round')).toBe(1);
    const made = Array.from({ length: 60 }, (_, i) => ({ kind: KINDS[i % 6] ?? '', proposedMilliem: -20 - i }));
    const taste = decide(NO_TASTE, made, {});
    expect(decisionsOf(taste)).toBe(60);
    expect(tasteLines(taste).every(({ percent, decisions }) => percent === 0 && decisions === 10)).toBeTrue();
  });

  it('says what it knows, kind by kind, and can be switched off', () => {
    const made = Array.from({ length: 30 }, () => ({ kind: 'diagonal to round', proposedMilliem: -60 }));
    const taste = decide(NO_TASTE, made, { 'diagonal to round': 1.15 });
    expect(tasteLines(taste)).toEqual([{ kind: 'diagonal to round', decisions: 30, percent: jasmine.any(Number) }]);
    expect(Math.abs((tasteLines(taste)[0]?.percent ?? 0) - 15)).toBeLessThanOrEqual(1);
    expect(amountOf({ ...taste, on: false }, 'diagonal to round')).toBe(1);
    expect(amountOf(taste, 'round to round')).toBe(1);
    expect(amountOf(taste, undefined)).toBe(1);
  });

  it('learns nothing from what is about something else, keeps no letters, and follows a change of taste', () => {
    for (const [proposedMilliem, chosenMilliem] of [
      [-4, -8],
      [-20, 90],
      [0, 5],
      [Number.NaN, 3],
      [-30, Number.POSITIVE_INFINITY],
    ] as const)
      expect(decided(NO_TASTE, { kind: 'round to round', proposedMilliem, chosenMilliem })).toBe(NO_TASTE);
    const once = Array.from({ length: 200 }, () => ({ kind: 'round to round', proposedMilliem: -50 }));
    const then = decide(decide(NO_TASTE, once, { 'round to round': 1.4 }), [...once, ...once], { 'round to round': 0.8 });
    expect(amountOf(then, 'round to round')).toBeLessThan(0.9);
    expect(tasteSchema.parse(then)).toEqual(then);
    expect(pairKind('round', 'diagonal')).toBe('diagonal to round');
    expect(pairKind('diagonal', 'round')).toBe('diagonal to round');
    expect(pairKind(undefined, 'round')).toBeUndefined();
  });
});
