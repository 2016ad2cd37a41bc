import { lexer } from 'marked';
import { checkJob } from '../findings';
import { type Job, createBlock, createJob, updateBlock, withHand } from '../job';
import { type FaceSet, setBlock } from '../setting';
import { shippedFaces } from '../testing';
import { reportOn, sayReport } from '.';

describe('reports', () => {
  let faces: FaceSet;
  let job: Job;
  beforeAll(async () => {
    faces = await shippedFaces('source-sans-3-bold', 'league-gothic-regular');
    let n = 0;
    const empty = createJob('Tides | low', () => `i${n++}`);
    const style = { faceId: 'source-sans-3-bold', sizePt: 40 };
    const blocks = [
      createBlock('a', 'WATER\nAVATAR', { xPt: 20, yPt: 20, widthPt: 400, heightPt: 90 }, style),
      createBlock('b', 'gone', { xPt: 20, yPt: 200, widthPt: 400, heightPt: 90 }, { ...style, faceId: 'old-slab-bold' }),
    ];
    job = { ...empty, sheets: [{ ...empty.sheets[0]!, blocks }] };
    job = withHand(job, 'a', 8, 90);
  });

  it('say of every line what it says, how large and how wide it is, and of every block how it is set', () => {
    const report = reportOn(job, faces);
    const [first, second] = report.sheets[0]!.blocks;
    const set = setBlock(job.sheets[0]!.blocks[0]!, faces).lines;
    expect(first!.lines.map(({ words, widthPt }) => [words, widthPt])).toEqual([
      ['WATER', set[0]!.widthPt],
      ['AVATAR', set[1]!.widthPt],
    ]);
    expect(first!.spec).toContain('Source Sans 3 Bold 40');
    expect([first!.byHand, second!.evenness, second!.findings]).toEqual([1, null, 0]);
    expect(report.faces).toEqual([
      { id: 'source-sans-3-bold', name: 'Source Sans 3 Bold', missing: false },
      { id: 'old-slab-bold', name: 'Old Slab Bold', missing: true },
    ]);
  });

  it('count what checking finds', () => {
    const { findings, evenness } = checkJob(job, faces);
    const report = reportOn(job, faces);
    expect(report.evenness).toBe(evenness ?? null);
    expect(report.open.length).toBe(findings.length);
    expect(findings.length).toBeGreaterThan(0);
    const sum = (counts: Readonly<Record<string, number>>): number => Object.values(counts).reduce((all, one) => all + one, 0);
    expect([sum(report.findings), sum(report.passes)]).toEqual([findings.length, findings.length]);
  });

  it('are Markdown whose tables hold whatever words there are', () => {
    const text = sayReport(
      reportOn(
        updateBlock(job, 'a', (block) => ({ ...block, words: 'A|B\nC' })),
        faces,
      ),
    );
    const tokens = lexer(text);
    expect(tokens.find(({ type }) => type === 'heading')).toEqual(jasmine.objectContaining({ text: 'Tides | low' }));
    const rows = tokens.flatMap((token) => (token.type === 'table' ? [(token as { rows: { text: string }[][] }).rows] : []))[0];
    expect(rows?.map(([line]) => line?.text)).toEqual(['A|B', 'C', 'gone']);
    expect(sayReport(reportOn({ ...job, sheets: [{ ...job.sheets[0]!, blocks: [] }] }, faces))).toContain('Empty.');
  });
});
