import { headline } from '../testing';
import { applyBrief, readBrief, writeBrief } from './brief';
import { findBlock } from './edits';
import { autoLeading } from '../units';
import { createJob, type Job } from '.';

const FACES = [
  { id: 'playfair-display-bold', family: 'Playfair Display', style: 'Bold' },
  { id: 'source-sans-3-semibold', family: 'Source Sans 3', style: 'SemiBold' },
];

describe('brief', () => {
  const blocks = [
    { ...headline('Two nights'), id: 'a' },
    { ...headline('to watch'), id: 'b' },
  ];
  const job: Job = (() => {
    let n = 0;
    const made = createJob('Brief', () => `s${n++}`);
    return { ...made, sheets: made.sheets.map((sheet) => ({ ...sheet, blocks })) };
  })();

  it('tells what conforms and what does not, with the difference', () => {
    const [first, second, third] = readBrief('100/120 0 left\nSource Sans 3 Semi 34/36 +15 centre caps\n20', blocks, FACES);
    expect(first?.differences).toEqual([]);
    expect(second?.differences.map(({ what, wanted, has }) => [what, wanted, has])).toEqual([
      ['face', 'Source Sans 3 SemiBold', 'Playfair Display Bold'],
      ['size', '34 pt', '100 pt'],
      ['leading', '36', 'auto'],
      ['tracking', '+15', '0'],
      ['case', 'capitals', 'typed'],
      ['align', 'centre', 'left'],
    ]);
    expect(third?.blockId).toBeUndefined();
  });

  it('is applied line by line; a line that can’t be read changes nothing and says why', () => {
    const lines = readBrief('Plafyair 20\n34/36 +15', blocks, FACES);
    expect(lines[0]?.error).toContain('Plafyair');
    const applied = applyBrief(job, lines);
    expect(findBlock(applied, 'a')).toBe(blocks[0]);
    expect(findBlock(applied, 'b')?.style.sizePt).toBe(34);
    const now = applied.sheets[0]?.blocks ?? [];
    expect(readBrief('\n34/36 +15', now, FACES).flatMap(({ differences }) => differences)).toEqual([]);
  });

  it('leaves a job that conforms to it the very same', () => {
    expect(applyBrief(job, readBrief(writeBrief(blocks, FACES), blocks, FACES))).toBe(job);
  });

  it('is written so that the blocks conform to it', () => {
    const text = writeBrief(blocks, FACES);
    expect(text.split('\n')[0]).toBe('Playfair Display Bold 100/auto 0');
    expect(readBrief(text, blocks, FACES).every(({ differences, error }) => differences.length === 0 && !error)).toBeTrue();
  });

  it('can be written for a face that is not here, and read again', () => {
    const lone = [{ ...headline('Two nights', {}), id: 'c' }].map((block) => ({ ...block, style: { ...block.style, faceId: 'league-gothic-regular' } }));
    const text = writeBrief(lone, FACES);
    expect(text).toBe('League Gothic Regular 100/auto 0\n');
    const [line] = readBrief(text.replace('100', '90'), lone, FACES);
    expect([line?.error, line?.spec?.style.faceId]).toEqual([undefined, 'league-gothic-regular']);
    expect(line?.differences.map(({ what }) => what)).toEqual(['size']);
  });

  it('leaves automatic leading the factor it was made with, and gives new automatic leading that of the preferences', () => {
    const own = { ...job, sheets: job.sheets.map((sheet) => ({ ...sheet, blocks: sheet.blocks.map((block) => ({ ...block, leading: autoLeading(1.1) })) })) };
    const [first] = own.sheets[0]?.blocks ?? [];
    const lines = readBrief('34/auto', first ? [first] : [], FACES, 1.25);
    expect(lines[0]?.differences.map(({ what }) => what)).not.toContain('leading');
    expect(applyBrief(own, lines).sheets[0]?.blocks[0]?.leading).toEqual({ kind: 'auto', factor: 1.1 });
    const points = applyBrief(own, readBrief('34/36', first ? [first] : [], FACES));
    expect(applyBrief(points, readBrief('34/auto', points.sheets[0]?.blocks ?? [], FACES, 1.25)).sheets[0]?.blocks[0]?.leading).toEqual({
      kind: 'auto',
      factor: 1.25,
    });
  });
});
