import { type GroupNode } from '../drawing';
import { checkJob } from '../findings';
import { type Job, createJob, restyle, updateBlock, withHand } from '../job';
import type { FaceSet } from '../setting';
import { shippedFaces } from '../testing';
import { proofPage } from '.';

describe('a proof to send', () => {
  let faces: FaceSet;
  beforeAll(async () => (faces = await shippedFaces('source-sans-3-regular', job.sheets[0]!.blocks[0]!.style.faceId)));
  let n = 0;
  const fresh = createJob('Open day', () => `id${n++}`);
  const blockId = fresh.sheets[0]!.blocks[0]!.id;
  const job = updateBlock(fresh, blockId, (block) => ({ ...block, words: 'A valley of falling stars' }));
  const sheet = job.sheets[0]!;
  const state = (of: Job) => ({ job: of, check: checkJob(of, faces) });
  const after = withHand(restyle(job, blockId, { trackingMilliem: 300 }), blockId, 1, -20);

  it('shows the sheet before beside after at one size, with what changed, what it is set in, and what is open', () => {
    const page = proofPage({ sheetId: sheet.id, after: state(after), before: state(job), faces, date: '27 November' });
    const sheets = page.ground.filter((node): node is GroupNode => node.kind === 'group');
    expect(sheets.length).toBe(2);
    const [left, right] = sheets.map(({ move }) => move!);
    expect(left?.yPt).toBe(right!.yPt);
    expect(right!.xPt - left!.xPt).toBeGreaterThan(sheet.widthPt);
    const words = page.blocks.map(({ label }) => label);
    expect(words[0]).toBe('Open day: ' + sheet.name);
    expect(words[1]).toMatch(/^27 November\. Evenness \d+ before, \d+ after\.$/);
    expect(words).toContain('2 changes');
    expect(words.some((one) => one.includes('Tracking: 0 → +300') && one.includes('none → −20'))).toBeTrue();
    expect(words.some((one) => one.includes('“A valley of falling stars”') && one.includes('+300'))).toBeTrue();
    expect(words.some((one) => /^\d+ findings$/.test(one))).toBeTrue();
    // Nothing lies below the page, or beside it.
    expect(page.heightPt).toBeGreaterThan(left!.yPt + sheet.heightPt);
    expect(page.widthPt).toBeGreaterThanOrEqual(right!.xPt + sheet.widthPt);
  });

  it('shows the sheet alone where it is new, and says so where nothing is open', () => {
    const page = proofPage({ sheetId: sheet.id, after: state(job), before: state({ ...job, sheets: [{ ...sheet, id: 'another' }] }), faces, date: '' });
    expect(page.ground.filter(({ kind }) => kind === 'group').length).toBe(1);
    const clean = proofPage({ sheetId: sheet.id, after: { ...state(job), check: { ...state(job).check, findings: [] } }, faces, date: '' });
    expect(clean.blocks.map(({ label }) => label)).toContain('No findings');
    expect(() => proofPage({ sheetId: 'none', after: state(job), faces, date: '' })).toThrowError(RangeError);
  });
});
