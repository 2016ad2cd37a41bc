import { addBlock, createBlock, createJob, removeBlock, withHand, retitle, updateBlock } from '@jentrix/core/job';
import { describeDifferences } from './conflict-dialog';

describe('differences of two versions', () => {
  const frame = { xPt: 0, yPt: 0, widthPt: 10, heightPt: 10 };
  const empty = createJob('Perseids', () => crypto.randomUUID());
  const job = addBlock(empty, empty.sheets[0]?.id ?? '', createBlock('b', 'TWO NIGHTS\nTO WATCH', frame));

  it('are told block by block', () => {
    expect(describeDifferences(withHand(job, 'b', 3, 5), job)).toEqual(['Different settings: “TWO NIGHTS”.']);
    expect(
      describeDifferences(
        updateBlock(job, 'b', (block) => ({ ...block, words: 'ONE NIGHT' })),
        job,
      )[0],
    ).toContain('mine “ONE NIGHT”, theirs “TWO NIGHTS”');
    expect(describeDifferences(removeBlock(job, 'b'), job)).toEqual(['Only in theirs: “TWO NIGHTS”.']);
    expect(describeDifferences(job, removeBlock(job, 'b'))).toEqual(['Only in mine: “TWO NIGHTS”.']);
    expect(describeDifferences(retitle(job, 'Leonids'), job)[0]).toContain('Leonids');
    expect(describeDifferences({ ...job, kind: 'flyer' }, job).length).toBe(1);
  });
});
