import { type Block, type Job, USUAL_EDGES, createBlock, createJob, createSheet, findBlock, newFit, resolveBlock, updateBlock, withSilenced } from '../job';
import { type FaceSet, lineGapsOf, setBlock } from '../setting';
import { shippedFaces } from '../testing';
import { type JobFinding, acceptFinding, acceptFindings, checkJob, ledApart } from '.';

const FACES = ['source-sans-3-regular', 'playfair-display-bold', 'eb-garamond-italic'];
/** The rules that are about room. */
const ROOM = ['lines-meet', 'blocks-meet', 'words-cut', 'past-frame', 'past-sheet', 'past-margin'];

describe('lines that meet, and copy that doesn’t fit', () => {
  let faces: FaceSet;
  beforeAll(async () => (faces = await shippedFaces(...FACES)));

  const block = (
    id: string,
    words: string,
    [xPt, yPt, widthPt, heightPt]: readonly [number, number, number, number],
    change: Partial<Block> = {},
    sizePt = 40,
  ): Block => ({
    ...createBlock(id, words, { xPt, yPt, widthPt, heightPt }, { faceId: 'playfair-display-bold', sizePt }),
    ...change,
  });
  const jobOf = (...blocks: Block[]): Job => {
    const sheet = createSheet('s', 'Sheet', 600, 800, 'pt');
    return { ...createJob('t', () => 's'), sheets: [{ ...sheet, margins: { topPt: 50, rightPt: 50, bottomPt: 50, leftPt: 50 }, blocks }] };
  };
  const found = (job: Job): JobFinding[] => checkJob(job, faces).findings.filter(({ rule }) => ROOM.includes(rule));
  const rules = (job: Job): string[] => found(job).map(({ rule }) => rule);
  const settled = (job: Job): Job => found(job).reduce((next, finding) => acceptFinding(next, finding), job);
  const clearest = (one: Block): number => Math.min(...lineGapsOf(setBlock(one, faces), faces).map(({ clearPt }) => clearPt ?? Number.POSITIVE_INFINITY));

  it('says nothing of lines and blocks that stand clear', () => {
    expect(found(jobOf(block('a', 'Nights of\nfalling stars', [50, 60, 500, 100]), block('b', 'Below', [50, 300, 500, 60])))).toEqual([]);
  });

  describe('lines whose inks overlap', () => {
    for (const leading of [
      { kind: 'pt', pt: 20 },
      { kind: 'multiple', factor: 0.5 },
    ] as const)
      it(`are told once each, with the least ${leading.kind} of leading that parts them all`, () => {
        const one = block('a', 'Nights of\nfalling\nstars gay', [50, 80, 500, 100], { leading });
        const all = found(jobOf(one));
        expect(all.map(({ rule, at }) => [rule, at])).toEqual(
          jasmine.arrayWithExactContents([
            ['lines-meet', 10],
            ['lines-meet', 18],
          ]),
        );
        const [{ clearPt = 0 } = { clearPt: 0 }] = lineGapsOf(setBlock(one, faces), faces).filter(({ at }) => at === all[0]?.at);
        expect(all[0]?.message).toBe(`overlaps the line above by ${(-clearPt).toFixed(1)} pt`);
        const fixed = acceptFinding(jobOf(one), all[0] ?? {});
        const after = findBlock(fixed, 'a') ?? one;
        expect(after.leading.kind).toBe(leading.kind);
        expect(rules(fixed)).toEqual([]);
        expect(clearest(after)).toBeGreaterThanOrEqual(0.02 * 40 - 0.01);
        expect(clearest(after)).toBeLessThan(0.02 * 40 + 0.5);
      });

    it('become a multiple where leading was automatic', () => {
      const one = block('a', 'gypsy\nHALLS', [50, 80, 500, 100], { leading: { kind: 'auto', factor: 0.5 } });
      const after = findBlock(settled(jobOf(one)), 'a');
      expect(after?.leading.kind).toBe('multiple');
      expect(clearest(after ?? one)).toBeGreaterThan(0);
    });

    it('are told at touching, and silenced as meant', () => {
      const one = block('a', 'HALL\nHALL', [50, 80, 500, 100], { leading: { kind: 'pt', pt: 40 } });
      const [gap] = lineGapsOf(setBlock(one, faces), faces);
      const at = (pt: number): Job => jobOf({ ...one, leading: { kind: 'pt', pt } });
      const touch = 40 - (gap?.clearPt ?? 0);
      expect(found(at(touch - 1e-9)).map(({ message }) => message)).toEqual(['touches the line above']);
      expect(found(at(touch + 0.01))).toEqual([]);
      expect(rules(withSilenced(at(20), 'a', 'lines-meet', 5, true))).toEqual([]);
    });

    it('are told of a shifted letter alone where that is what meets', () => {
      const raised = block('a', 'Nights\nstars', [50, 80, 500, 100], { runs: [{ start: 7, end: 8, style: { baselineShiftMilliem: 900 } }] });
      const all = checkJob(jobOf(raised), faces).findings.map(({ rule }) => rule);
      expect(all).toContain('shift-meets-line');
      expect(all).not.toContain('lines-meet');
    });

    it('are offered nothing in a locked block', () => {
      const [finding] = found(jobOf(block('a', 'HALL\nHALL', [50, 80, 500, 100], { leading: { kind: 'pt', pt: 20 }, locked: true })));
      expect(finding?.rule).toBe('lines-meet');
      expect(finding?.proposal).toBeUndefined();
    });
  });

  describe('a fit', () => {
    /** 200/172 in three lines of unlike length. */
    const lockUp = (change: Partial<Block> = {}): Block =>
      block('a', 'NIGHTS\nOF FALLING\nSTARS', [50, 60, 500, 100], { leading: { kind: 'pt', pt: 86 }, ...change }, 100);
    const fitted = (one: Block, change: Parameters<typeof newFit>[0] = {}): Block =>
      resolveBlock(jobOf({ ...one, fit: newFit({ to: { kind: 'margins' }, ...change }) }), 's', {
        ...one,
        fit: newFit({ to: { kind: 'margins' }, ...change }),
      });

    it('that brings lines together comes with the leading that parts them', () => {
      const one = lockUp();
      expect(clearest(one)).toBeGreaterThan(0);
      expect(clearest(fitted(one))).toBeLessThan(0);
      const apart = ledApart(fitted(one), faces);
      const job = acceptFinding(jobOf({ ...one, fit: newFit({ to: { kind: 'margins' } }) }), { blockId: 'a', ...(apart ? { proposal: apart } : {}) });
      expect(findBlock(job, 'a')?.fit?.to).toEqual({ kind: 'margins' });
      // Lines of very different sizes are led each by its own.
      const led = findBlock(job, 'a');
      expect(led?.leading.kind).toBe('multiple');
      const factor = (led?.leading as { factor: number }).factor;
      expect(factor).toBeGreaterThanOrEqual(0.86);
      expect(clearest(resolveBlock(job, 's', led ?? one))).toBeGreaterThan(0);
      expect(rules(job).filter((rule) => rule === 'lines-meet')).toEqual([]);
    });

    it('evens the white of lines that are led apart, and gives up a height that is too little', () => {
      for (const change of [{ even: true }, { height: { kind: 'pt', pt: 120 } }] as const) {
        const one = lockUp();
        const job = jobOf({ ...one, fit: newFit({ to: { kind: 'margins' }, ...change }) });
        expect(rules(job)).toContain('lines-meet');
        const after = settled(job);
        expect(rules(after)).not.toContain('lines-meet');
        expect(findBlock(after, 'a')?.fit?.to).toEqual({ kind: 'margins' });
        expect(findBlock(after, 'a')?.fit?.even).toBe('even' in change);
        expect(findBlock(after, 'a')?.fit?.height).toBeNull();
      }
    });

    it('changes no leading where lines met before, or don’t meet', () => {
      expect(ledApart(fitted(lockUp({ leading: { kind: 'pt', pt: 40 } })), faces)).toBeUndefined();
      expect(ledApart(fitted(lockUp({ leading: { kind: 'pt', pt: 300 } })), faces)).toBeUndefined();
      expect(ledApart(fitted(lockUp({ words: 'ONE' })), faces)).toBeUndefined();
    });
  });

  describe('blocks whose inks overlap', () => {
    it('are told of the lower one, which moves by the least that clears both', () => {
      const job = jobOf(block('a', 'Nights', [50, 60, 500, 60]), block('b', 'falling', [50, 80, 500, 60]));
      const [finding, ...others] = found(job);
      expect(others).toEqual([]);
      expect([finding?.rule, finding?.blockId, finding?.message]).toEqual([
        'blocks-meet',
        'b',
        jasmine.stringMatching(/^overlaps “Nights”: move it [\d.]+ pt down$/),
      ]);
      const fixed = acceptFinding(job, finding ?? {});
      expect(rules(fixed)).toEqual([]);
      expect(findBlock(fixed, 'b')?.frame.xPt).toBe(50);
      // Half as far is not enough.
      const by = (findBlock(fixed, 'b')?.frame.yPt ?? 0) - 80;
      expect(rules(updateBlock(job, 'b', (now) => ({ ...now, frame: { ...now.frame, yPt: 80 + by / 2 } })))).toEqual(['blocks-meet']);
    });

    it('are judged by outlines, not by boxes', () => {
      // A dot inside the open counter of an L, and one upon its stem.
      const large = block('a', 'L', [100, 60, 300, 300], {}, 300);
      const setting = setBlock(large, faces);
      const foot = setting.lines[0]?.baselinePt ?? 0;
      const small = (xPt: number): Block => block('b', '.', [xPt, foot - 160, 60, 30], { grow: 'both' }, 30);
      expect(rules(jobOf(large, small(270)))).toEqual([]);
      expect(rules(jobOf(large, small(160)))).toEqual(['blocks-meet']);
    });

    it('are looked at as they are turned', () => {
      const flat = block('a', 'IIIIIIIIIIII', [100, 300, 400, 60], { align: 'centre' });
      const beside = (rotationDeg: number): Block => block('b', 'IIIIIIIIIIII', [100, 380, 400, 60], { rotationDeg, align: 'centre' });
      expect(rules(jobOf(flat, beside(0)))).toEqual([]);
      expect(rules(jobOf(flat, beside(90)))).toContain('blocks-meet');
    });

    it('move over nothing else, nor out of the sheet, and are offered nothing where both can’t be', () => {
      const [moved] = found(jobOf(block('a', 'Nights', [50, 715, 400, 60]), block('b', 'falling', [50, 735, 400, 60]))).filter(
        ({ rule }) => rule === 'blocks-meet',
      );
      expect(moved?.message).toContain(' up');
      const full = block('c', 'M\nM\nM\nM\nM\nM\nM\nM\nM\nM', [20, 20, 560, 760], {}, 60);
      const [stuck] = found(jobOf({ ...full, words: `${'MMMMMMM\n'.repeat(10)}M` }, block('b', 'falling stars gay', [50, 300, 500, 60]))).filter(
        ({ rule }) => rule === 'blocks-meet',
      );
      expect(stuck?.blockId).toBe('b');
      expect(stuck?.proposal).toBeUndefined();
      expect(stuck?.message).toBe('overlaps “MMMMMMM”');
    });

    it('are told once for a block that lies over several, and silenced with it', () => {
      const job = jobOf(
        block('a', 'Nights', [50, 60, 200, 60]),
        block('c', 'Nights', [250, 60, 200, 60]),
        block('b', 'falling nights stars', [50, 75, 500, 60]),
      );
      const [finding, ...others] = found(job);
      expect(others).toEqual([]);
      expect(finding?.message).toContain('“Nights” and 1 more');
      expect(rules(withSilenced(job, 'b', 'blocks-meet', 0, true))).toEqual([]);
      expect(rules(acceptFinding(job, finding ?? {}))).toEqual([]);
    });
  });

  describe('words', () => {
    const COPY = 'Bring something warm to sit on and a lamp with a red glass for the walk back';

    it('that a fixed frame cuts off are told where they end; little is made smaller, much gets a higher frame', () => {
      const high = setBlock(block('a', COPY, [50, 60, 300, 10]), faces).heightPt;
      const at = (share: number): Job => jobOf(block('a', COPY, [50, 60, 300, high * share], { grow: 'fixed' }));
      const [much] = found(at(0.5));
      expect([much?.rule, much?.severity]).toEqual(['words-cut', 'severe']);
      expect(
        COPY.slice(much?.at)
          .trim()
          .startsWith(much?.subject ?? '?'),
      ).toBe(true);
      expect(Object.keys(much?.proposal ?? {})).toEqual(['frame']);
      expect(rules(acceptFinding(at(0.5), much ?? {}))).toEqual([]);
      const [little] = found(at(0.97));
      expect(Object.keys(little?.proposal ?? {})).toEqual(['scale']);
      const fixed = acceptFinding(at(0.97), little ?? {});
      expect(rules(fixed)).toEqual([]);
      const after = findBlock(fixed, 'a');
      expect(after?.frame).toEqual(findBlock(at(0.97), 'a')?.frame);
      expect((after?.style.sizePt ?? 0) * 10).toBeCloseTo(Math.round((after?.style.sizePt ?? 0) * 10), 6);
    });

    it('wider than their frame get the largest size that fits', () => {
      const job = jobOf(block('a', 'Perseidenschauer', [50, 60, 200, 60]));
      const [finding, ...others] = found(job);
      expect(others).toEqual([]);
      expect([finding?.rule, finding?.at]).toEqual(['past-frame', 0]);
      const fixed = acceptFinding(job, finding ?? {});
      expect(rules(fixed)).toEqual([]);
      const size = findBlock(fixed, 'a')?.style.sizePt ?? 0;
      expect(finding?.message).toContain(`size 40 → ${size.toFixed(1).replace(/\.0$/, '')} pt`);
      expect(rules(updateBlock(fixed, 'a', (now) => ({ ...now, style: { ...now.style, sizePt: size + 1 } })))).toEqual(['past-frame']);
      // A frame that follows its words has nothing to stand out of.
      expect(rules(jobOf(block('a', 'Perseidenschauer', [50, 60, 200, 60], { grow: 'both' })))).toEqual([]);
    });

    for (const [side, at] of [
      ['left', [-30, 200]],
      ['right', [420, 200]],
      ['top', [100, -20]],
      ['bottom', [100, 770]],
    ] as const)
      it(`past the ${side} of the sheet are severe, and move inside its margins`, () => {
        const job = jobOf(block('a', 'Falling', [at[0], at[1], 300, 60], { align: side === 'right' ? 'right' : 'left' }));
        const [finding, ...others] = found(job);
        expect(others).toEqual([]);
        expect([finding?.rule, finding?.severity]).toEqual(['past-sheet', 'severe']);
        expect(finding?.message).toContain(`past the ${side} edge of the sheet`);
        expect(rules(acceptFinding(job, finding ?? {}))).toEqual([]);
      });

    it('wider than the sheet are made smaller and moved', () => {
      const job = jobOf(block('a', 'Falling stars over the valley', [50, 60, 500, 60], { grow: 'both' }, 60));
      const [finding] = found(job);
      expect(finding?.rule).toBe('past-sheet');
      expect(Object.keys(finding?.proposal ?? {})).toEqual(['scale', 'frame']);
      expect(rules(acceptFinding(job, finding ?? {}))).toEqual([]);
    });

    it('past a margin are worth a look; what hangs there, reaches below the baseline, or stands outside altogether, is not', () => {
      const past = jobOf(block('a', 'Falling', [20, 200, 400, 60]));
      expect(found(past).map(({ rule, severity }) => [rule, severity])).toEqual([['past-margin', 'notice']]);
      expect(rules(acceptFindings(past, found(past)))).toEqual([]);
      expect(rules(jobOf(block('a', '“Falling”', [50, 200, 500, 60], { edges: USUAL_EDGES })))).toEqual([]);
      const low = block('a', 'gypsy', [50, 700, 400, 60]);
      const baseline = setBlock(low, faces).lines[0]?.baselinePt ?? 0;
      expect(rules(jobOf({ ...low, frame: { ...low.frame, yPt: low.frame.yPt + 750 - baseline } }))).toEqual([]);
      expect(rules(jobOf(block('a', '12', [10, 300, 30, 20], {}, 12)))).toEqual([]);
    });

    it('are told as the page and the command count them: what is silenced counts nowhere', () => {
      const job = jobOf(block('a', 'Falling', [-30, 200, 300, 60]));
      expect(rules(withSilenced(job, 'a', 'past-sheet', 0, true))).toEqual([]);
    });
  });
});
