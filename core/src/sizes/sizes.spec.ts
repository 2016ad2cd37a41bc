import { readFileSync } from 'node:fs';
import { readJobFile } from '../formats';
import { type Job, SHEET_PRESETS, type Sheet, applyRecipe, createBlock, createJob, findBlock, leavePart, leaveRecipe, resolveBlock, settingsOf } from '../job';
import { editWords } from '../wording';
import { type FaceSet, setBlock } from '../setting';
import { shippedFaces } from '../testing';
import { inOtherSizes } from '.';

describe('one design in several sizes', () => {
  let faces: FaceSet;
  let job: Job;
  let n = 0;
  const newId = (): string => `new${n++}`;
  const preset = (name: string) => SHEET_PRESETS.filter((one) => one.name === name);
  beforeAll(async () => {
    job = readJobFile(readFileSync(new URL('../../../demo/1-perseids-poster.jentrix.json', import.meta.url), 'utf8'));
    faces = await shippedFaces(...new Set(job.sheets.flatMap(({ blocks }) => blocks.map(({ style }) => style.faceId))));
  });
  beforeEach(() => (n = 0));
  const framesOf = (whole: Job, sheet: Sheet) => sheet.blocks.map((block) => setBlock(resolveBlock(whole, sheet.id, block), faces).frame);

  it('keeps blocks apart, in their order and on the sheet, in words as large as that allows', () => {
    for (const [i, sheet] of job.sheets.entries()) {
      const made = inOtherSizes(job, sheet.id, SHEET_PRESETS, faces, newId);
      expect(made.sheetIds.length).toBe(SHEET_PRESETS.length);
      expect(made.job.sheets.slice(i + 1, i + 1 + SHEET_PRESETS.length).map(({ id }) => id)).toEqual(made.sheetIds);
      const before = framesOf(job, sheet);
      for (const id of made.sheetIds) {
        const own = made.job.sheets.find((one) => one.id === id);
        if (!own) throw new Error('no sheet');
        const after = framesOf(made.job, own);
        before.forEach((a, j) =>
          before.forEach((b, k) => {
            const beside = a.xPt + a.widthPt <= b.xPt || b.xPt + b.widthPt <= a.xPt;
            const [c, d] = [after[j], after[k]];
            if (j === k || beside || a.yPt + a.heightPt > b.yPt || !c || !d) return;
            expect(c.yPt + c.heightPt)
              .withContext(`${own.name}: ${j} above ${k}`)
              .toBeLessThanOrEqual(d.yPt + 1);
          }),
        );
        for (const { yPt, heightPt } of after)
          expect(yPt + heightPt)
            .withContext(own.name)
            .toBeLessThanOrEqual(own.heightPt + 1);
        own.blocks.forEach((block, j) => {
          const model = sheet.blocks[j];
          if (!model) throw new Error('no block');
          expect([block.words, block.hand, block.recipeId]).toEqual([model.words, model.hand, model.recipeId]);
          // No larger than the width asks for, in tenths of a point.
          const room = (s: Sheet): number => s.widthPt - s.margins.leftPt - s.margins.rightPt;
          expect(block.style.sizePt).toBeLessThanOrEqual((model.style.sizePt * room(own)) / room(sheet) + 0.05);
          expect(block.style.sizePt * 10).toBeCloseTo(Math.round(block.style.sizePt * 10), 6);
        });
      }
    }
  });

  it('lets the words grow with a sheet of the same proportions, every line broken where it was', () => {
    const [sheet] = job.sheets;
    if (!sheet) throw new Error('no sheet');
    const made = inOtherSizes(job, sheet.id, preset('Poster A1'), faces, newId);
    const own = made.job.sheets[1];
    const ends = (whole: Job, one: Sheet) => one.blocks.map((block) => setBlock(resolveBlock(whole, one.id, block), faces).lines.map(({ end }) => end));
    expect(own && ends(made.job, own)).toEqual(ends(job, sheet));
    expect(own?.blocks[0]?.style.sizePt).toBeCloseTo((sheet.blocks[0]?.style.sizePt ?? 0) * Math.SQRT2, -1);
  });

  it('shares words and recipes from then on, each in its own size, until a block leaves its part', () => {
    const plain = createJob('Campaign', newId);
    const [sheet] = plain.sheets;
    const [first] = sheet?.blocks ?? [];
    if (!sheet || !first) throw new Error('no block');
    const made = inOtherSizes(plain, sheet.id, [...preset('Square 1:1'), ...preset('Tall 9:16')], faces, newId).job;
    const blocks = (whole: Job) => whole.sheets.flatMap((one) => one.blocks);
    const sizes = blocks(made).map(({ style }) => style.sizePt);
    expect(new Set(blocks(made).map(({ part }) => part)).size).toBe(1);
    const [, second, third] = blocks(made);
    if (!second || !third) throw new Error('no block');
    const edited = editWords(made, second.id, [{ start: 0, end: 4, insert: 'Our' }]);
    expect(blocks(edited).map(({ words }) => words)).toEqual(Array(3).fill('Our headline\ngoes here') as string[]);
    const settings = settingsOf({ ...createBlock('x', '', first.frame), style: { ...first.style, sizePt: 40, trackingMilliem: 25 } });
    const followed = applyRecipe(edited, first.id, { id: 'r', settings });
    expect(blocks(followed).map(({ recipeId, style }) => [recipeId, style.trackingMilliem])).toEqual(Array(3).fill(['r', 25]) as [string, number][]);
    expect(blocks(followed).map(({ style }) => style.sizePt)).toEqual([40, ...sizes.slice(1)]);
    expect(blocks(leaveRecipe(followed, third.id)).map(({ recipeId }) => recipeId)).toEqual([null, null, null]);
    const alone = editWords(leavePart(edited, third.id), third.id, [{ start: 0, end: 3, insert: 'My' }]);
    expect(blocks(alone).map(({ words }) => words.slice(0, 3))).toEqual(['Our', 'Our', 'My ']);
    expect(findBlock(alone, third.id)?.part).toBeNull();
  });

  it('leaves a job alone that has no such sheet', () => {
    expect(inOtherSizes(job, 'nowhere', preset('Letter'), faces, newId)).toEqual({ job, sheetIds: [] });
  });
});
