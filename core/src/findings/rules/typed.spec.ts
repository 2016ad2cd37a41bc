import { type Block, type Job, createBlock, createJob, findBlock } from '../../job';
import { type FaceSet, setBlock } from '../../setting';
import { shippedFaces } from '../../testing';
import { type Finding, acceptFindings, inspectBlock } from '..';
import { helpTyping } from './typed-marks';

const MARKS = ['straight-quotes', 'straight-primes', 'double-space', 'hyphens-for-dash', 'three-points', 'x-for-times', 'space-at-mark'];

describe('what is typed as a typewriter has it', () => {
  let faces: FaceSet;
  beforeAll(async () => (faces = await shippedFaces('source-sans-3-regular', 'eb-garamond-regular')));

  const block = (words: string, change: Partial<Block> = {}): Block => ({
    ...createBlock('b', words, { xPt: 0, yPt: 0, widthPt: 5000, heightPt: 100 }, { faceId: 'source-sans-3-regular', sizePt: 40 }),
    ...change,
  });
  const found = (one: Block, rules: readonly string[]): Finding[] =>
    inspectBlock(one, setBlock(one, faces), faces)
      .findings.filter(({ rule }) => rules.includes(rule))
      .sort((a, b) => a.at - b.at);
  const fixed = (one: Block, rules: readonly string[]): Block => {
    const job = createJob('t', () => 's');
    const whole: Job = { ...job, sheets: job.sheets.map((sheet) => ({ ...sheet, blocks: [one] })) };
    return (
      findBlock(
        acceptFindings(
          whole,
          found(one, rules).map((finding) => ({ ...finding, blockId: 'b' })),
        ),
        'b',
      ) ?? one
    );
  };

  /** Rule, language, as typed, as it should be. */
  const CASES: readonly (readonly [string, string | null, string, string])[] = [
    ['straight-quotes', null, '"Two nights" it says', '“Two nights” it says'],
    ['straight-quotes', 'en-GB', "it's the stars' night", 'it’s the stars’ night'],
    ['straight-quotes', 'en', "'Two' nights", '‘Two’ nights'],
    ['straight-quotes', 'en', "('Two' nights)", '(‘Two’ nights)'],
    ['straight-quotes', 'en', "'tis cold, 'twas colder, rock 'n' roll, '69 and '70s", '’tis cold, ’twas colder, rock ’n’ roll, ’69 and ’70s'],
    ['straight-quotes', 'en', 'she said "so"\n"and so"', 'she said “so”\n“and so”'],
    ['straight-quotes', 'en', "don't 'go'\nit's", 'don’t ‘go’\nit’s'],
    ['straight-quotes', 'de', '"Zwei Nächte" \'so\'', '„Zwei Nächte“ ‚so‘'],
    ['straight-quotes', 'pl', '"Dwie" \'noce\'', '„Dwie” ‚noce’'],
    ['straight-quotes', 'sv', '"Två" \'natt\'', '”Två” ’natt’'],
    ['straight-quotes', 'es', '"Dos" \'noches\'', '«Dos» “noches”'],
    ['straight-quotes', 'fr', '"Deux" l\'été', '«\u202fDeux\u202f» l’été'],
    ['straight-quotes', 'en', 'a 6" lens, 12\'', 'a 6" lens, 12\''],
    ['straight-quotes', 'en', '"open 6" he said', '“open 6” he said'],
    ['straight-primes', 'en', 'a 6\' 2" tube', 'a 6′ 2″ tube'],
    ['straight-primes', 'en', '"open 6" he said', '"open 6" he said'],
    ['straight-primes', 'en', 'the 6"er', 'the 6"er'],
    ['straight-primes', 'en', '"so\n6" wide', '"so\n6″ wide'],
    ['double-space', 'en', 'Two  nights   on the lawn', 'Two nights on the lawn'],
    ['double-space', 'en', '  Two nights  ', '  Two nights  '],
    ['hyphens-for-dash', 'en', 'stars--and more', 'stars—and more'],
    ['hyphens-for-dash', 'en', 'stars -- and --- more', 'stars—and—more'],
    ['hyphens-for-dash', 'de', 'Sterne -- und mehr', 'Sterne – und mehr'],
    ['hyphens-for-dash', 'en', 'stars - and more', 'stars – and more'],
    ['hyphens-for-dash', 'en', 'open 9-11, rooms 12-14', 'open 9–11, rooms 12–14'],
    ['hyphens-for-dash', 'en', '2026-08-12, A4-12, 05-06, 1-2a, well-known', '2026-08-12, A4-12, 05-06, 1-2a, well-known'],
    ['three-points', 'en', 'and so... on....', 'and so… on....'],
    ['x-for-times', 'en', '3x4 and 3 X 4', '3×4 and 3 × 4'],
    ['x-for-times', 'en', '0x4f, box 4, x4', '0x4f, box 4, x4'],
    ['space-at-mark', 'en', 'stars,moon;sun', 'stars, moon; sun'],
    ['space-at-mark', 'en', 'stars  , moon !', 'stars, moon!'],
    ['space-at-mark', 'en', '1,5 and 9:30', '1,5 and 9:30'],
    ['space-at-mark', 'fr', 'étoiles; lune! ciel: oui ?', 'étoiles\u202f; lune\u202f! ciel\u00a0: oui\u202f?'],
    ['space-at-mark', 'fr', 'étoiles , lune .', 'étoiles, lune.'],
    ['space-at-mark', 'fr', 'vers 9:30', 'vers 9:30'],
  ];
  for (const [rule, language, typed, right] of CASES)
    it(`${rule} in ${language ?? 'no language'}: ${JSON.stringify(typed)}`, () => {
      const one = block(typed, { language });
      expect(fixed(one, [rule]).words).toBe(right);
      // Once is enough.
      expect(found(block(right, { language }), [rule])).toEqual([]);
    });

  it('is told with the letters around it on its line, by its size', () => {
    const told = (words: string): Pick<Finding, 'at' | 'subject' | 'message' | 'visiblePt' | 'severity'>[] =>
      found(block(words), MARKS).map(({ at, subject, message, visiblePt, severity }) => ({ at, subject, message, visiblePt, severity }));
    expect(told('Watch the  stars')).toEqual([{ at: 9, subject: 'h the  stars', message: 'more than one space', visiblePt: 10, severity: 'fault' }]);
    expect(told('ab\nso... on\ncd')).toEqual([{ at: 5, subject: 'so... on', message: 'three points for an ellipsis', visiblePt: 10, severity: 'notice' }]);
    expect(told('"a')).toEqual([{ at: 0, subject: '"a', message: 'straight quote or apostrophe', visiblePt: 10, severity: 'fault' }]);
    expect(told('3x4')).toEqual([{ at: 1, subject: '3x4', message: 'x for a multiplication sign', visiblePt: 10, severity: 'fault' }]);
    expect(told('6"')).toEqual([{ at: 1, subject: '6"', message: 'should be a prime', visiblePt: 10, severity: 'fault' }]);
    expect(told('a - b').map(({ message }) => message)).toEqual(['hyphen for a dash']);
    expect(told('a ,b').map(({ message }) => message)).toEqual([]);
    expect(told('ab , b').map(({ message }) => message)).toEqual(['missing or extra space at punctuation']);
  });

  it('is put right while it is typed, where it ends at the caret', () => {
    const typing = (before: string, behind = '', language: string | null = 'en'): string => {
      const { splices, caret } = helpTyping(before + behind, before.length, language);
      const words = splices.reduce((now, { start, end, insert }) => now.slice(0, start) + insert + now.slice(end), before + behind);
      return `${words.slice(0, caret)}|${words.slice(caret)}`;
    };
    expect(typing('"')).toBe('“|');
    expect(typing('"a')).toBe('“a|');
    expect(typing('"ab')).toBe('"ab|');
    expect(typing('so...')).toBe('so…|');
    expect(typing('so... a')).toBe('so… a|');
    expect(typing('so... ab')).toBe('so... ab|');
    expect(typing('ab,c')).toBe('ab,c|');
    expect(typing("it's")).toBe('it’s|');
    expect(typing('first\n"')).toBe('first\n“|');
    expect(typing('"first\n"', '"')).toBe('"first\n“|"');
    expect(typing('a--b', ' c')).toBe('a—b| c');
    expect(typing('"Nacht"', '', 'de-AT')).toBe('"Nacht“|');
    expect(typing('"Night"', '', null)).toBe('"Night”|');
    expect(typing('3x4')).toBe('3×4|');
  });

  describe('letters that should be small', () => {
    const smalls = (words: string, change: Partial<Block> = {}): Finding[] => found(block(words, change), ['typed-small']);
    it('are told with what they would be, and are so once that is taken', () => {
      for (const [words, shown, kind] of [
        ['CO2 now', 'CO2', 'inferior'],
        ['12 m2 of lawn', 'm2', 'superior'],
        ['the 1st night', '1st', 'as an ordinal'],
      ] as const) {
        const [finding, ...others] = smalls(words);
        expect(others).toEqual([]);
        expect([finding?.subject, finding?.severity, finding?.visiblePt]).toEqual([shown, 'notice', 16]);
        expect(finding?.message).toMatch(new RegExp(`^set ${kind}: .`));
        const after = fixed(block(words), ['typed-small']);
        expect(after.words).toBe(words);
        expect(after.runs.length).toBeGreaterThan(0);
        expect(found(after, ['typed-small'])).toEqual([]);
        expect(finding?.at).toBe(words.indexOf(shown) + (kind === 'as an ordinal' ? 1 : shown.length - 1));
      }
    });

    it('lose the mark that stood for them', () => {
      const [finding] = smalls('10^-6');
      expect(finding?.proposal?.words).toEqual([{ start: 2, end: jasmine.any(Number), insert: jasmine.any(String) } as never]);
      const after = fixed(block('10^-6'), ['typed-small']);
      expect(after.words.startsWith('10')).toBeTrue();
      expect(after.words).not.toContain('^');
      expect(after.runs.some(({ start, end, style }) => start <= 2 && end > 2 && Object.keys(style).length > 0)).toBeTrue();
    });

    it('are left alone where they are small already, in any way', () => {
      for (const style of [{ baselineShiftMilliem: 300 }, ...['sups', 'subs', 'sinf', 'ordn', 'numr'].map((tag) => ({ features: { [tag]: 1 } }))])
        expect(smalls('CO2', { runs: [{ start: 2, end: 3, style }] }))
          .withContext(JSON.stringify(style))
          .toEqual([]);
      expect(smalls('CO2', { runs: [{ start: 2, end: 3, style: { features: { sups: 0, liga: 1 } } }] }).length).toBe(1);
      expect(smalls('CO2', { runs: [{ start: 0, end: 2, style: { baselineShiftMilliem: 300 } }] }).length).toBe(1);
    });
  });
});
