import { readFileSync } from 'node:fs';
import { readJobFile } from '../formats';
import { type Block, type Job, USUAL_EDGES, createBlock, createJob, findBlock, loosen, tighten, updateBlock } from '../job';
import { editWords } from '../wording';
import { firstCut } from '../refine';
import { type FaceSet, setBlock } from '../setting';
import { shippedFaces } from '../testing';
import { TRACKING_LIMITS, acceptFinding, checkJob, shortLastLineIn } from '.';

const FACES = ['source-sans-3-regular', 'source-sans-3-semibold', 'eb-garamond-regular', 'eb-garamond-italic', 'playfair-display-bold'];

describe('what is found in breaks and edges', () => {
  let faces: FaceSet;
  beforeAll(async () => (faces = await shippedFaces(...FACES)));

  const block = (words: string, widthPt: number, change: Partial<Block> = {}): Block => ({
    ...createBlock('b', words, { xPt: 40, yPt: 40, widthPt, heightPt: 100 }, { faceId: 'source-sans-3-regular', sizePt: 30 }),
    ...change,
  });
  const jobOf = (...blocks: Block[]): Job => {
    const job = createJob('t', () => 's');
    return { ...job, sheets: job.sheets.map((sheet) => ({ ...sheet, blocks })) };
  };
  const found = (job: Job, pass: string) => checkJob(job, faces).findings.filter((finding) => finding.pass === pass);
  const lines = (one: Block): string[] => setBlock(one, faces).lines.map(({ start, visibleEnd }) => one.words.slice(start, visibleEnd));
  /** A frame in which the last word of a line just doesn't fit. */
  const tight = (words: string, over: number, change: Partial<Block> = {}): Block => {
    const whole = setBlock(block(words, 10_000, change), faces).lines[0]?.widthPt ?? 0;
    return block(words, whole - over, change);
  };

  it('takes a short last line up by the least tightening, marks what was tightened, and gives it back', () => {
    const one = tight('Two nights to watch a valley of stars', 5);
    expect(lines(one).length).toBe(2);
    const [shortLastLines] = shortLastLineIn(one, setBlock(one, faces), faces, TRACKING_LIMITS);
    const [best] = shortLastLines?.fixes ?? [];
    expect(best?.kind).toBe('tighten');
    const job = jobOf(one);
    const fixed = acceptFinding(job, { blockId: 'b', proposal: best?.proposal ?? {} });
    const after = findBlock(fixed, 'b');
    if (!after) throw new Error('No block');
    expect(lines(after).length).toBe(1);
    const [range] = after.tightened;
    expect(after.tightened.length).toBe(1);
    expect(range?.milliem).toBeLessThan(0);
    // A little less would not do.
    const less = { ...after, tightened: after.tightened.map((own) => ({ ...own, milliem: own.milliem + 0.7 })) };
    expect(lines(less).length).toBe(2);
    expect(after.style).toBe(one.style);
    // It moves with its words.
    const edited = findBlock(editWords(fixed, 'b', [{ start: 0, end: 0, insert: 'All ' }]), 'b');
    expect(edited?.tightened[0]?.end).toBe((range?.end ?? 0) + 4);
    const back = findBlock(loosen(fixed, 'b', range), 'b');
    expect(back?.tightened).toEqual([]);
    expect(findBlock(loosen(job, 'b'), 'b')).toBe(one);
    expect(tighten(after, [{ start: 0, end: 3, milliem: -4 }]).tightened).toEqual([{ start: 0, end: 3, milliem: -4 }]);
  });

  it('tells what is cheapest first, whatever kind it is', () => {
    const firsts = new Set<string>();
    for (let over = 1; over < 120; over += 6) {
      for (const words of ['Two nights to watch a valley of stars', 'Lanterns along the whole harbour until ten']) {
        const one = tight(words, over);
        for (const { fixes } of shortLastLineIn(one, setBlock(one, faces), faces, TRACKING_LIMITS)) {
          const costs = fixes.map(({ cost }) => cost);
          expect(costs).toEqual([...costs].sort((a, b) => a - b));
          if (fixes[0]) firsts.add(fixes[0].kind);
        }
      }
    }
    expect(firsts.size).toBeGreaterThan(1);
  });

  it('never tightens past the limits, offers other ways then, and never moves what is not the block’s', () => {
    const one = tight('Two nights to watch a valley of stars', 60);
    const [shortLastLines] = shortLastLineIn(one, setBlock(one, faces), faces, { caution: -2, strong: -3, out: -4 });
    const kinds = shortLastLines?.fixes.map(({ kind }) => kind) ?? [];
    expect(kinds).not.toContain('tighten');
    expect(kinds).toContain('tie');
    expect(kinds).toContain('even');
    for (const fix of shortLastLines?.fixes ?? []) {
      const job = jobOf(one);
      const after = acceptFinding(job, { blockId: 'b', proposal: fix.proposal });
      expect(after.sheets[0]?.margins).toBe(job.sheets[0]?.margins);
      expect(findBlock(after, 'b')).toBeDefined();
      expect(found(after, 'fit').map(({ rule }) => rule)).not.toContain('stranded');
    }
  });

  it('speaks of headlines and list items, not of copy, stated breaks or long last words', () => {
    const rule = (one: Block): number => found(jobOf(one), 'fit').filter((finding) => finding.rule === 'stranded').length;
    expect(rule(tight('Two nights to watch a valley of stars', 5))).toBe(1);
    const small = { style: { ...block('', 1).style, sizePt: 12 } };
    expect(rule(tight('Two nights to watch a valley of stars', 2, small))).toBe(0);
    const list = { indentPt: 0, beforePt: 0, afterPt: 0, list: 'bullet' } as const;
    const item = tight('Two nights to watch a valley of stars', 2, { ...small, paragraph: list });
    expect(rule(item)).toBe(1);
    expect(rule(block('Two nights to watch\nstars', 500))).toBe(0);
    expect(rule(tight('Stars over thunderstormobservatories', 5))).toBe(0);
  });

  it('finds the pocket programme torn, and one round fixes it for good', () => {
    const job = readJobFile(readFileSync(new URL('../../../demo/5-pocket-programme.jentrix.json', import.meta.url), 'utf8'));
    const before = found(job, 'fit');
    expect(before.map(({ rule }) => rule)).toEqual(jasmine.arrayContaining(['stranded', 'wide-spaces']));
    const fixed = firstCut(job, faces, { steps: ['breaks'] }).job;
    expect(found(fixed, 'fit').length).toBeLessThan(before.length / 4);
    expect(firstCut(fixed, faces, { steps: ['breaks'] }).job).toBe(fixed);
    const hung = firstCut(job, faces, { steps: ['edges'] }).job;
    expect(hung.sheets.flatMap(({ blocks }) => blocks).every(({ edges }) => edges !== null)).toBeTrue();
    expect(found(hung, 'edges')).toEqual([]);
  });

  it('finds hyphens in a row, rivers, holes and wedges', () => {
    const hyphens = block('aaaaaaaaaaa\u00adbbbbbbbbbbb\u00adccccccccccc\u00addddddddddd', 190);
    expect(found(jobOf(hyphens), 'fit').map(({ rule }) => rule)).toContain('hyphens-in-row');
    const column = 'aaaa bbbbbb cccc '.repeat(6);
    const rivers = block(column.trim(), 275, { align: 'justified' });
    expect(found(jobOf(rivers), 'fit').map(({ rule }) => rule)).toContain('river');
    const hole = block(`${'a'.repeat(24)} ${'b'.repeat(8)} ${'c'.repeat(24)} ${'d'.repeat(24)} eeeee`, 340, {
      style: { ...block('', 1).style, sizePt: 26 },
    });
    expect(found(jobOf(hole), 'fit').map(({ subject }) => subject)).toContain('hole');
    const quiet = block('Two nights to watch a valley', 5000);
    expect(found(jobOf(quiet), 'fit')).toEqual([]);
  });

  it('finds edges out of line, between lines and between blocks, and nothing once they are aligned by eye', () => {
    const big = block('“Look\nHill', 800, { style: { ...block('', 1).style, sizePt: 120 } });
    const [uneven] = found(jobOf(big), 'edges');
    expect(uneven?.rule).toBe('uneven-edge');
    expect(found(acceptFinding(jobOf(big), uneven ?? {}), 'edges')).toEqual([]);
    const hill = { ...block('Hill', 800, { style: { ...block('', 1).style, sizePt: 160 } }), id: 'hill' };
    const small = { ...block('In the valley', 800), id: 'small', frame: { xPt: 40, yPt: 300, widthPt: 800, heightPt: 40 } };
    const pair = jobOf(hill, small);
    const [apart] = found(pair, 'edges');
    expect(apart?.rule).toBe('blocks-out-of-line');
    const aligned = updateBlock(
      updateBlock(pair, 'hill', (one) => ({ ...one, edges: USUAL_EDGES })),
      'small',
      (one) => ({ ...one, edges: USUAL_EDGES }),
    );
    expect(found(aligned, 'edges')).toEqual([]);
    // A headline whose letters differ by a hair is let be.
    expect(found(jobOf(block('Hill\nHome', 800)), 'edges')).toEqual([]);
  });

  it('finds lines that are centred on their marks, and blocks that nearly stand in the middle', () => {
    const job = jobOf(block('Tonight:', 800, { align: 'centre', frame: { xPt: 0, yPt: 40, widthPt: 595.3, heightPt: 50 } }));
    const width = job.sheets[0]?.widthPt ?? 0;
    const placed = (xPt: number): Job => updateBlock(job, 'b', (one) => ({ ...one, edges: null, frame: { ...one.frame, xPt, widthPt: width } }));
    expect(found(placed(0), 'edges').map(({ rule }) => rule)).toEqual(['centred-on-marks']);
    const [nearly] = found(placed(4), 'edges').filter(({ rule }) => rule === 'nearly-centred');
    const after = acceptFinding(placed(4), nearly ?? {});
    expect(findBlock(after, 'b')?.frame.xPt).toBeCloseTo(0, 6);
    expect(found(placed(60), 'edges').map(({ rule }) => rule)).not.toContain('nearly-centred');
  });
});
