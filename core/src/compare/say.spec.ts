import { addBlock, createBlock, createJob, letterName, relead, removeBlock, resizeSheet, restyle, retitle, withHand, withSilenced, withKind } from '../job';
import { editWords } from '../wording';
import { nameStep, sayChange } from '.';

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
    expect(sayChange(start, withHand(start, id, 4, 15))).toBe('Gap r word space, manual +15.');
    expect(sayChange(withHand(start, id, 4, 15), start)).toBe('Gap r word space, manual none.');
    expect(sayChange(start, withHand(withHand(start, id, 4, 15), id, 6, 3))).toBe('2 gaps adjusted.');
    expect(sayChange(start, withSilenced(start, id, 'gap-open', 3, true))).toBe('Ignored.');
    expect(sayChange(start, withKind(start, 'flyer'))).toBe('Kind of work: flyer.');
    expect(sayChange(start, retitle(start, 'Open night'))).toContain('Open night');
    expect(sayChange(start, resizeSheet(start, sheet.id, { widthPt: 72, heightPt: 144, unit: 'in' }))).toBe('Sheet size 1 in × 2 in.');
    const two = addBlock(start, sheet.id, createBlock('new', 'Tea\nand cocoa', { xPt: 0, yPt: 0, widthPt: 1, heightPt: 1 }));
    expect([sayChange(start, two), sayChange(removeBlock(two, id), two)]).toEqual(['Added: Tea and cocoa.', 'Added: Your headline goes here.']);
    expect(sayChange(two, start)).toBe('Deleted: Tea and cocoa.');
  });

  it('names the step it was', () => {
    expect(nameStep(start, restyle(start, id, { trackingMilliem: -12 }))).toBe('tracking −12');
    expect(nameStep(start, withHand(start, id, 4, 15))).toBe('kerning of “r ” +15');
    expect(nameStep(start, editWords(start, id, [{ start: 0, end: 0, insert: 'Nights ' }]))).toBe('typing “Nights”');
    expect(nameStep(start, editWords(start, id, [{ start: 0, end: 5, insert: '' }]))).toBe('deleting “Your”');
    expect(nameStep(start, removeBlock(start, id))).toBe('deleted: Your headline goes here');
    expect(nameStep(start, { ...start })).toBe('the last change');
    // States that were kept are not the very same any more.
    const two = addBlock(start, sheet.id, createBlock('new', 'Tea', { xPt: 0, yPt: 0, widthPt: 1, heightPt: 1 }));
    expect(nameStep(JSON.parse(JSON.stringify(two)) as typeof two, withHand(two, id, 4, 15))).toBe('kerning of “r ” +15');
  });

  it('names what is silent when it is read', () => {
    expect(['.', '”', ' ', 'A', 'a', '7', 'ß'].map(letterName)).toEqual(['full point', 'closing quote', 'word space', 'capital A', 'a', '7', 'ß']);
  });
});
