import { addBlock, createBlock, createJob, resizeSheet } from '.';

describe('another size of the sheet', () => {
  let n = 0;
  const job = createJob('Open day', () => `id${n++}`);
  const sheet = job.sheets[0]!;
  const frame = (of: typeof job, at = 0): number[] => {
    const { xPt, yPt, widthPt } = of.sheets[0]!.blocks[at]!.frame;
    return [xPt, yPt, widthPt].map((pt) => Math.round(pt * 100) / 100);
  };

  it('takes along what keeps to margins or the middle, and nothing else', () => {
    const { widthPt, margins } = sheet;
    const stands = { yPt: 300, widthPt: 100, heightPt: 20 };
    const at = (id: string, xPt: number, locked = false): ReturnType<typeof createBlock> => ({ ...createBlock(id, 'x', { ...stands, xPt }), locked });
    let full = job;
    for (const block of [at('right', widthPt - margins.rightPt - 100), at('middle', widthPt / 2 - 50), at('free', 33), at('still', widthPt / 2 - 50, true)])
      full = addBlock(full, sheet.id, block);
    const wide = resizeSheet(full, sheet.id, { widthPt: 1000, heightPt: 500 });
    expect(wide.sheets[0]?.margins.leftPt).toBe(35);
    expect([0, 1, 2, 3, 4].map((i) => frame(wide, i))).toEqual([[35, 35, 930], [865, 300, 100], [450, 300, 100], [33, 300, 100], frame(full, 4)]);
    expect(resizeSheet(wide, sheet.id, { widthPt: sheet.widthPt, heightPt: sheet.heightPt })).toEqual(full);
  });

  it('leaves margins that somebody set', () => {
    const own = { ...job, sheets: [{ ...sheet, margins: { ...sheet.margins, leftPt: 5 } }] };
    expect(resizeSheet(own, sheet.id, { widthPt: 1000, heightPt: 500 }).sheets[0]?.margins).toEqual({ leftPt: 5, rightPt: 35, topPt: 35, bottomPt: 35 });
  });
});
