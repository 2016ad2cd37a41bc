import { createBlock, createJob, findBlock, type Job } from '../job';
import { editWords } from '../wording';
import { setBlock } from '../setting';
import { shippedFaces } from '../testing';
import { canDivide, divisions, withoutDivisions } from '.';

describe('hyphenation', () => {
  const jobOf = (words: string): Job => {
    const job = createJob('t', () => 's');
    const block = { ...createBlock('b', words, { xPt: 0, yPt: 0, widthPt: 60, heightPt: 10 }, { sizePt: 10 }), hand: [{ at: 1, milliem: -20 }] };
    return { ...job, sheets: job.sheets.map((sheet) => ({ ...sheet, blocks: [block] })) };
  };

  it('marks where words may be divided by the patterns of their language, and takes the marks away again', async () => {
    const job = jobOf('Observatory telescope at night');
    const marked = editWords(job, 'b', await divisions('Observatory telescope at night', 'en'));
    expect(findBlock(marked, 'b')?.words.replaceAll('\u00ad', '-')).toBe('Ob-ser-vat-ory tele-scope at night');
    expect(findBlock(marked, 'b')?.hand).toEqual([{ at: 1, milliem: -20 }]);
    const words = findBlock(marked, 'b')?.words ?? '';
    expect(await divisions(words, 'en')).toEqual([]);
    expect(findBlock(editWords(marked, 'b', withoutDivisions(words)), 'b')?.words).toBe('Observatory telescope at night');
    expect((await divisions('Sternwartenführung', 'de-AT')).length).toBeGreaterThan(1);
    expect(await divisions('Sternwarte', 'xx')).toEqual([]);
    expect([canDivide(null), canDivide('fr'), canDivide('ja')]).toEqual([true, true, false]);
  });

  it('lets lines end there, with a hyphen that shows', async () => {
    const faces = await shippedFaces('source-sans-3-regular');
    const words = 'A large observatory';
    const block = findBlock(editWords(jobOf(words), 'b', await divisions(words, 'en')), 'b');
    const ends = block && setBlock(block, faces).lines.map(({ visibleEnd }) => block.words.charAt(visibleEnd - 1));
    expect(ends).toContain('\u00ad');
  });
});
