import fc from 'fast-check';
import { headline } from '../testing';
import {
  changeFace,
  duplicateBlocks,
  factorInTenths,
  moveBlocks,
  orderBlock,
  pasteSettings,
  resizeFrame,
  scaleBlock,
  withBlockSettings,
  withTenths,
  settleParked,
} from './blocks';
import { findBlock, withHand } from './edits';
import { copyPassage, findText, passageSchema, pastePassage, replaceMatches } from '../wording';
import { SHEET_PRESETS, addSheet, duplicateSheet, moveSheet, removeSheet, withSheet, sheetOf, sheetOfPreset } from './sheets';
import { type Block, type Job, jobSchema } from './schema';
import { createJob, withPairRule, restyle, styleAt } from '.';
import { editWords } from '../wording';

function jobOf(...blocks: Block[]): Job {
  let n = 0;
  const job = createJob('Blocks', () => `id${n++}`);
  const [sheet] = job.sheets;
  if (!sheet) throw new Error('no sheet');
  return { ...job, sheets: [{ ...sheet, id: 'one', blocks }] };
}
const named = (id: string, words = id, change: Partial<Block> = {}): Block => ({ ...headline(words, change), id });
const block = (job: Job, id: string): Block => {
  const found = findBlock(job, id);
  if (!found) throw new Error(`no ${id}`);
  return found;
};

describe('blocks', () => {
  it('move together, locked ones stay', () => {
    const job = jobOf(named('a'), named('b'), named('c', 'c', { locked: true }));
    const moved = moveBlocks(job, ['a', 'c'], 5, -3);
    expect([block(moved, 'a').frame.xPt, block(moved, 'a').frame.yPt]).toEqual([5, -3]);
    expect(block(moved, 'b')).toBe(block(job, 'b'));
    expect(block(moved, 'c')).toBe(block(job, 'c'));
    expect(resizeFrame(job, 'c', { xPt: 9, yPt: 9, widthPt: 9, heightPt: 9 })).toBe(job);
  });

  it('scale words and frame together, values in 1/1000 em kept, the fixed point staying', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.05, max: 8, noNaN: true }), fc.integer({ min: -500, max: 500 }), (factor, xPt) => {
        const made = named('a', 'Two nights', {
          frame: { xPt: 10, yPt: 20, widthPt: 300, heightPt: 100 },
          leading: { kind: 'pt', pt: 90 },
          runs: [{ start: 0, end: 3, style: { sizePt: 50 } }],
          hand: [{ at: 2, milliem: -10 }],
        });
        const scaled = block(scaleBlock(jobOf(made), 'a', factor, { xPt, yPt: 20 }), 'a');
        const by = scaled.style.sizePt / 100;
        expect(by).toBeCloseTo(factor, 6);
        expect(scaled.runs[0]?.style.sizePt).toBeCloseTo(50 * by, 6);
        expect(scaled.leading.kind === 'pt' ? scaled.leading.pt : 0).toBeCloseTo(90 * by, 6);
        expect(scaled.frame.xPt - xPt).toBeCloseTo((10 - xPt) * by, 6);
        expect(scaled.frame.yPt).toBeCloseTo(20, 6);
        expect(scaled.hand).toEqual(made.hand);
        expect(jobSchema.safeParse(jobOf(scaled)).success).toBeTrue();
      }),
      { numRuns: 60 },
    );
    const huge = block(scaleBlock(jobOf(named('a')), 'a', 1e6, { xPt: 0, yPt: 0 }), 'a');
    expect(huge.style.sizePt).toBe(5000);
  });

  it('come to tenths of a point where that is asked for: sizes and leading, in proportion to their own size', () => {
    const made = named('a', 'AB', {
      style: { ...named('a').style, sizePt: 48 },
      runs: [{ start: 0, end: 1, style: { sizePt: 33.3 } }],
      leading: { kind: 'pt', pt: 50.5 },
    });
    expect(factorInTenths(made, 1.23456) * 48).toBeCloseTo(59.3, 9);
    expect(factorInTenths(made, 0.001) * 48).toBe(1);
    const scaled = withTenths(block(scaleBlock(jobOf(made), 'a', factorInTenths(made, 1.23456), { xPt: 0, yPt: 0 }), 'a'));
    expect([scaled.style.sizePt, scaled.runs[0]?.style.sizePt, scaled.leading]).toEqual([59.3, 41.1, { kind: 'pt', pt: 62.4 }]);
    const auto = { ...made, leading: { kind: 'auto' as const }, runs: [{ start: 0, end: 1, style: { colour: '#000000' } }] };
    expect(withTenths(auto)).toEqual(auto);
  });

  it('are ordered, duplicated and given each other’s settings', () => {
    const job = jobOf(named('a'), named('b'), named('c'));
    const ids = (now: Job): string[] => now.sheets[0]?.blocks.map(({ id }) => id) ?? [];
    expect(ids(orderBlock(job, 'a', 'front'))).toEqual(['b', 'c', 'a']);
    expect(ids(orderBlock(job, 'c', 'back'))).toEqual(['c', 'a', 'b']);
    expect(ids(orderBlock(job, 'a', 'forward'))).toEqual(['b', 'a', 'c']);
    expect(orderBlock(job, 'a', 'backward')).toBe(job);
    const copies = duplicateBlocks(
      job,
      ['a', 'c'],
      (() => {
        let n = 0;
        return () => `copy${n++}`;
      })(),
    );
    expect(ids(copies.job)).toEqual(['a', 'b', 'c', 'copy0', 'copy1']);
    expect(copies.ids).toEqual(['copy0', 'copy1']);
    const styled = withBlockSettings(restyle(job, 'a', { sizePt: 33 }), 'a', { align: 'right' });
    const given = block(pasteSettings(styled, 'b', block(styled, 'a')), 'b');
    expect([given.style.sizePt, given.align, given.words]).toEqual([33, 'right', 'b']);
  });
});

describe('changing the face', () => {
  const kerned = withHand(withHand(jobOf(named('a', 'AVATAR')), 'a', 1, -10), 'a', 3, 7);

  it('parks the hand kerning with the old face and gives it back with it', () => {
    const changed = changeFace(kerned, 'a', 'eb-garamond-regular');
    expect(block(changed, 'a').hand).toEqual([]);
    expect(block(changed, 'a').parked).toEqual([
      {
        faceId: 'playfair-display-bold',
        hand: [
          { at: 1, milliem: -10 },
          { at: 3, milliem: 7 },
        ],
      },
    ]);
    const edited = withHand(changed, 'a', 2, 5);
    const back = block(changeFace(edited, 'a', 'playfair-display-bold'), 'a');
    expect(back.hand).toEqual(block(kerned, 'a').hand);
    expect(back.parked).toEqual([{ faceId: 'eb-garamond-regular', hand: [{ at: 2, milliem: 5 }] }]);
    expect(changeFace(kerned, 'a', 'playfair-display-bold').sheets[0]?.blocks[0]?.hand).toEqual(block(kerned, 'a').hand);
  });

  it('lets the parked values be kept or dropped', () => {
    const changed = changeFace(kerned, 'a', 'eb-garamond-regular');
    const kept = block(settleParked(changed, 'a', 'playfair-display-bold', true), 'a');
    expect([kept.hand, kept.parked]).toEqual([block(kerned, 'a').hand, []]);
    const dropped = block(settleParked(changed, 'a', 'playfair-display-bold', false), 'a');
    expect([dropped.hand, dropped.parked]).toEqual([[], []]);
  });

  it('parks only what a range covers, and parked values move with the words', () => {
    const ranged = block(changeFace(kerned, 'a', 'eb-garamond-regular', { start: 2, end: 6 }), 'a');
    expect(ranged.hand).toEqual([{ at: 1, milliem: -10 }]);
    expect(ranged.parked[0]?.hand).toEqual([{ at: 3, milliem: 7 }]);
    const typed = editWords(changeFace(kerned, 'a', 'x'), 'a', [{ start: 0, end: 0, insert: 'THE ' }]);
    expect(block(typed, 'a').parked[0]?.hand.map(({ at }) => at)).toEqual([5, 7]);
    expect(block(changeFace(typed, 'a', 'playfair-display-bold'), 'a').hand.map(({ at }) => at)).toEqual([5, 7]);
  });
});

describe('sheets', () => {
  it('are added, copied with fresh identifiers, moved, changed and removed', () => {
    let n = 0;
    const newId = (): string => `new${n++}`;
    let job = jobOf(named('a'), named('b'));
    job = duplicateSheet(job, 'one', newId);
    expect(jobSchema.safeParse(job).success).toBeTrue();
    expect(job.sheets[1]?.blocks.map(({ words }) => words)).toEqual(['a', 'b']);
    const [preset] = SHEET_PRESETS;
    if (!preset) throw new Error('no preset');
    job = addSheet(job, sheetOfPreset('big', preset), 'one');
    expect(job.sheets.map(({ id }) => id)).toEqual(['one', 'big', 'new0']);
    expect(job.sheets[1]?.widthPt).toBeCloseTo((594 * 72) / 25.4, 6);
    job = moveSheet(job, 2, 0);
    expect(job.sheets.map(({ id }) => id)).toEqual(['new0', 'one', 'big']);
    expect(moveSheet(job, 0, 9)).toBe(job);
    job = withSheet(job, 'big', { name: 'Banner', safeShare: 0.05 });
    expect(job.sheets[2]?.name).toBe('Banner');
    expect(sheetOf(job, 'b')?.id).toBe('one');
    job = withPairRule(job, { left: 'V', right: 'A', faceId: 'f' }, 1, { kind: 'sheet', id: 'one' });
    job = removeSheet(job, 'one');
    expect([job.sheets.length, job.pairs.length]).toEqual([2, 0]);
    job = removeSheet(removeSheet(job, 'new0'), 'big');
    expect(job.sheets.length).toBe(1);
  });

  it('have sizes that the schema takes', () => {
    for (const preset of SHEET_PRESETS) {
      const job = jobOf();
      expect(jobSchema.safeParse({ ...job, sheets: [sheetOfPreset('s', preset)] }).success)
        .withContext(preset.name)
        .toBeTrue();
    }
  });
});

describe('passages', () => {
  it('carry words with their settings and kerning to another block', () => {
    let job = jobOf(named('a', 'Two nights to watch'), named('b', 'xy'));
    job = restyle(job, 'a', { sizePt: 40, colour: '#aa0000' }, { start: 4, end: 10 });
    job = withHand(job, 'a', 6, -12);
    const passage = passageSchema.parse(JSON.parse(JSON.stringify(copyPassage(block(job, 'a'), 4, 10))));
    expect(passage.words).toBe('nights');
    const pasted = block(pastePassage(job, 'b', 1, 1, passage), 'b');
    expect(pasted.words).toBe('xnightsy');
    expect([styleAt(pasted, 0).sizePt, styleAt(pasted, 1).sizePt, styleAt(pasted, 7).sizePt]).toEqual([100, 40, 100]);
    expect(pasted.hand).toEqual([{ at: 3, milliem: -12 }]);
    expect(jobSchema.safeParse(pastePassage(job, 'b', 0, 2, passage)).success).toBeTrue();
  });

  it('are found over the whole job and replaced with the spacing work kept', () => {
    let job = jobOf(named('a', 'A valley, THE VALLEY'), named('b', 'no hill'));
    job = withHand(withHand(job, 'a', 12, -8), 'a', 1, 3);
    expect(findText(job, 'valley').map(({ blockId, start }) => [blockId, start])).toEqual([
      ['a', 2],
      ['a', 14],
    ]);
    expect(findText(job, 'valley', true).length).toBe(1);
    expect(findText(job, '')).toEqual([]);
    // Whole letters, however their accents are written.
    const accents = jobOf(named('b', 'e\u0301toile é İstanbul'));
    expect(findText(accents, 'e').map(({ start }) => start)).toEqual([6]);
    expect(findText(accents, 'É').map(({ start, end }) => [start, end])).toEqual([
      [0, 2],
      [8, 9],
    ]);
    expect(findText(accents, 'stan').map(({ start }) => start)).toEqual([11]);
    const replaced = block(replaceMatches(job, findText(job, 'valley'), 'hill'), 'a');
    expect(replaced.words).toBe('A hill, THE hill');
    expect(replaced.hand).toEqual([
      { at: 1, milliem: 3 },
      { at: 10, milliem: -8 },
    ]);
  });
});
