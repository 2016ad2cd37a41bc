import { shippedFaces } from '../testing';
import { setBlock } from '../setting';
import { STARTER_WORDS, beginJob } from '.';
import { jobSchema } from './schema';
import { SHEET_PRESETS } from './sheets';

describe('a job that begins', () => {
  let n = 0;
  const newId = (): string => `id${n++}`;

  it('has its words in every common size inside the margins, on the lines they were typed in', async () => {
    const faces = await shippedFaces('playfair-display-bold');
    for (const size of SHEET_PRESETS) {
      for (const words of ['Tonight: Vega & Altair', 'TWO NIGHTS\nTO WATCH\nA VALLEY OF\nFALLING STARS', 'A', STARTER_WORDS]) {
        const job = beginJob(newId, { words, size });
        expect(jobSchema.safeParse(job).success).toBeTrue();
        const [sheet] = job.sheets;
        const [block] = sheet?.blocks ?? [];
        if (!sheet || !block) throw new Error('no block');
        const setting = setBlock(block, faces);
        expect(setting.lines.length).withContext(`${size.name}: ${words}`).toBe(words.split('\n').length);
        expect(setting.frame.yPt + setting.heightPt).toBeLessThanOrEqual(sheet.heightPt - sheet.margins.bottomPt);
        const widest = Math.max(...setting.lines.map(({ widthPt }) => widthPt));
        if (words.length > 10 && block.style.sizePt < 380)
          expect(widest)
            .withContext(`${size.name}: ${words}`)
            .toBeGreaterThan(0.4 * block.frame.widthPt);
        expect(job.kind).toBe(size.kind);
        expect(job.title).toBe(words.split('\n')[0] ?? '');
      }
    }
  });

  it('has words to replace where none were given', () => {
    const [size] = SHEET_PRESETS;
    if (!size) throw new Error('no size');
    const job = beginJob(newId, { words: ' \n ', size });
    expect([job.title, job.sheets[0]?.blocks[0]?.words]).toEqual(['Untitled job', STARTER_WORDS]);
  });
});
