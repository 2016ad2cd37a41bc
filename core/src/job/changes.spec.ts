import {
  addBlock,
  createBlock,
  createJob,
  letterName,
  relead,
  removeBlock,
  resizeSheet,
  restyle,
  retitle,
  sayChange,
  withHand,
  withIntended,
  withKind,
} from '.';

describe('what an edit changed', () => {
  let n = 0;
  const start = createJob('Open day', () => `id${n++}`);
  const sheet = start.sheets[0]!;
  const id = sheet.blocks[0]!.id;

  it('is said, and to what', () => {
    expect(sayChange(start, start)).toBe('');
    expect(sayChange(start, restyle(start, id, { trackingMilliem: -12 }))).toBe('Tracking −12.');
    expect(sayChange(start, restyle(start, id, { sizePt: 30, underline: true }))).toBe('Size 30 pt, underline on.');
    expect(sayChange(start, restyle(start, id, { faceId: 'f' }), () => 'Lora Bold')).toBe('Face Lora Bold.');
    expect(sayChange(start, restyle(start, id, { colour: '#ff0000' }, { start: 0, end: 2 }))).toBe('Colour of some letters #ff0000.');
    expect(sayChange(start, relead(start, id, { kind: 'pt', pt: 34 }))).toBe('Leading 34.');
    expect(sayChange(start, withHand(start, id, 4, 15))).toBe('Gap r word space, by hand +15.');
    expect(sayChange(withHand(start, id, 4, 15), start)).toBe('Gap r word space, by hand nothing.');
    expect(sayChange(start, withHand(withHand(start, id, 4, 15), id, 6, 3))).toBe('2 gaps by hand.');
    expect(sayChange(start, withIntended(start, id, 'gap-open', 3, true))).toBe('As intended: silenced.');
    expect(sayChange(start, withKind(start, 'flyer'))).toBe('The job is for: flyer.');
    expect(sayChange(start, retitle(start, 'Open night'))).toContain('Open night');
    expect(sayChange(start, resizeSheet(start, sheet.id, { widthPt: 72, heightPt: 144, unit: 'in' }))).toBe('Sheet 1 in by 2 in.');
    const two = addBlock(start, sheet.id, createBlock('new', 'Tea\nand cocoa', { xPt: 0, yPt: 0, widthPt: 1, heightPt: 1 }));
    expect([sayChange(start, two), sayChange(removeBlock(two, id), two)]).toEqual(['Added: Tea and cocoa.', 'Added: Your headline goes here.']);
    expect(sayChange(two, start)).toBe('Taken off: Tea and cocoa.');
  });

  it('names what is silent when it is read', () => {
    expect(['.', '”', ' ', 'A', 'a', '7', 'ß'].map(letterName)).toEqual(['full point', 'closing quote', 'word space', 'capital A', 'a', '7', 'ß']);
  });
});

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
