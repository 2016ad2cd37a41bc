import { adviseLeading } from '../advice';
import { inspectView, viewOf } from '../findings';
import { type Block, type Job, type Sheet, NEW_KERNING, createJob, createSheet, findBlock, newPath } from '../job';
import { type FaceSet, inkOf, setBlock } from '../setting';
import { headline, shippedFaces } from '../testing';
import { type KerningSource, CUT_STEPS } from '.';
import type { StepChange } from './step';

/** Each step by itself. */
describe('a step of the first cut', () => {
  let faces: FaceSet;
  beforeAll(async () => {
    faces = await shippedFaces('playfair-display-bold', 'source-sans-3-regular');
  });
  const jobOf = (block: Block, ground = '#ffffff'): Job => {
    const job = createJob('t', () => 's');
    return { ...job, sheets: [{ ...createSheet('s', 'Sheet', 2000, 1000, 'pt'), background: { kind: 'colour', colour: ground }, blocks: [block] }] };
  };
  const proposed = (
    step: string,
    block: Block,
    { strength = 1, ground = '#ffffff', kerning = NEW_KERNING }: { strength?: number; ground?: string; kerning?: KerningSource } = {},
  ): readonly StepChange[] => {
    const setting = setBlock(block, faces);
    const view = viewOf(block, setting, faces);
    const { findings } = inspectView(view, faces);
    const { propose } = CUT_STEPS.find(({ id }) => id === step)!;
    return propose({ ...view, sheet: jobOf(block, ground).sheets[0]!, findings, kerning, kerningStrength: strength });
  };
  const told = (changes: readonly StepChange[]) => changes.map(({ what, from, to, places }) => [what, from, to, places]);
  const after = (step: string, block: Block, at = 0): Block => findBlock(proposed(step, block)[at]!.edit(jobOf(block)), block.id)!;
  const sized = (words: string, sizePt: number, change: Partial<Block['style']> = {}, more: Partial<Block> = {}): Block => {
    const plain = headline(words, more);
    return { ...plain, style: { ...plain.style, sizePt, ...change } };
  };

  it('fixes what is mistyped, each rule one change with all its places', () => {
    const raw = headline('"Two"  nights  and "one"');
    const changes = proposed('words', raw);
    expect(told(changes).map(([what, , , places]) => [what, places])).toEqual(
      jasmine.arrayWithExactContents([
        ['Double spaces', 2],
        ['Straight quotes and apostrophes', 4],
      ]),
    );
    const spaces = changes.findIndex(({ what }) => what === 'Double spaces');
    expect(after('words', raw, spaces).words).toBe('"Two" nights and "one"');
    expect(after('words', raw, 1 - spaces).words).toBe('“Two”  nights  and “one”');
    expect(changes.map(({ from, to }) => from + to)).toEqual(['', '']);
    expect(proposed('words', headline('Two nights'))).toEqual([]);
    // What other passes find is theirs.
    expect(proposed('words', sized('AVATAR To', 100, { kerning: 'off' }))).toEqual([]);
  });

  it('tracks a block that nobody tracked, by its size, and says from what to what', () => {
    const large = sized('Two nights', 200);
    const [change] = proposed('tracking', large);
    expect([change?.what, change?.from, change?.places]).toEqual(['tracking', '0', 1]);
    expect(change?.to).toMatch(/^−\d/);
    expect(after('tracking', large).style.trackingMilliem).toBeLessThan(-3);
    // Never tighter than goes unseen.
    expect(after('tracking', sized('Two nights', 900)).style.trackingMilliem).toBeGreaterThanOrEqual(-15);
    const small = proposed('tracking', sized('Two nights', 6));
    expect(small[0]?.to).toMatch(/^\+\d/);
    // Somebody’s own tracking stays, and words joined by strokes are nobody’s business.
    expect(proposed('tracking', sized('Two nights', 200, { trackingMilliem: -7 }))).toEqual([]);
    expect(proposed('tracking', sized('سلام', 200))).toEqual([]);
    // Tracking that is found wrong is nobody’s wish.
    const [wrong] = proposed('tracking', sized('Two nights', 60, { trackingMilliem: -70 }));
    expect([wrong?.from, Number(wrong?.to.replace('−', '-')) >= -15]).toEqual(['−70', true]);
    // As it would be tracked already, or nearly: nothing.
    const advised = after('tracking', large);
    expect(proposed('tracking', advised)).toEqual([]);
    const { trackingMilliem } = after('tracking', sized('Two nights', 60, { trackingMilliem: -70 })).style;
    expect(proposed('tracking', sized('Two nights', 60, { trackingMilliem: trackingMilliem + 1 }))).toEqual([]);
    // Light letters on a dark ground open.
    const [onDark] = proposed('tracking', sized('Two nights', 12, { colour: '#ffffff' }), { ground: '#000000' });
    const [onLight] = proposed('tracking', sized('Two nights', 12, { colour: '#000000' }));
    expect(Number(onDark?.to)).toBeGreaterThan(Number(onLight?.to ?? 0));
  });

  it('leads lines that are led automatically, or whose inks meet, and no others', () => {
    const auto = sized('Two nights\nto watch', 100, {}, { leading: { kind: 'auto' } });
    const [change] = proposed('leading', auto);
    expect([change?.what, change?.from, change?.places]).toEqual(['leading', 'auto, 120 %', 1]);
    expect(change?.to).toMatch(/^\d+ %$/);
    const { leading } = after('leading', auto);
    expect(leading.kind === 'multiple' && leading.factor).toBeCloseTo(Number(change!.to.slice(0, -2)) / 100, 2);
    // By what the ink of all lines reaches above and below their baselines.
    const reach = auto.words.split('\n').map((words) => {
      const setting = setBlock({ ...auto, words }, faces);
      const [ink, line] = [inkOf(setting, faces)!, setting.lines[0]!];
      return { up: (line.baselinePt - ink.topPt) / 100, down: (ink.bottomPt - line.baselinePt) / 100 };
    });
    const factor = adviseLeading({ up: Math.max(...reach.map(({ up }) => up)), down: Math.max(...reach.map(({ down }) => down)) }, 100);
    expect(leading.kind === 'multiple' && leading.factor).toBeCloseTo(factor, 9);
    expect(proposed('leading', { ...auto, words: 'Two nights' })).toEqual([]);
    expect(proposed('leading', { ...auto, leading: { kind: 'multiple', factor: 1.1 } })).toEqual([]);
    const meeting = sized('gypsy\nHill', 100, {}, { leading: { kind: 'multiple', factor: 0.6 } });
    const [apart] = proposed('leading', meeting);
    expect(apart?.from).toBe('60 %');
    expect(Number(apart!.to.slice(0, -2))).toBeGreaterThan(60);
    // As it would be led already: nothing.
    expect(proposed('leading', { ...auto, leading })).toEqual([]);
  });

  it('kerns as it is asked to, whatever letters were kerned by, at the strength that is asked for', () => {
    const plain = headline('AVATAR');
    expect(told(proposed('kerning', plain))).toEqual([['kerning', 'font', 'weighed', 1]]);
    expect(told(proposed('kerning', plain, { strength: 0.5 }))).toEqual([['kerning', 'font', 'weighed, 50 %', 1]]);
    expect(told(proposed('kerning', { ...plain, style: { ...plain.style, kerning: 'off' } }))).toEqual([['kerning', 'none', 'weighed', 1]]);
    const shaped = { ...plain, style: { ...plain.style, kerning: 'weighed' as const } };
    expect(proposed('kerning', shaped)).toEqual([]);
    expect(told(proposed('kerning', shaped, { strength: 0.5 }))).toEqual([['kerning', 'weighed', 'weighed, 50 %', 1]]);
    const mixed = { ...shaped, runs: [{ start: 1, end: 3, style: { kerning: 'off' as const } }] };
    expect(proposed('kerning', mixed).length).toBe(1);
    expect(after('kerning', mixed).runs).toEqual([]);
    expect(after('kerning', plain).style).toEqual(jasmine.objectContaining({ kerning: 'weighed', kerningStrength: 1 }));
    expect(told(proposed('kerning', shaped, { kerning: 'shape' }))).toEqual([['kerning', 'weighed', 'by shape', 1]]);
    expect(told(proposed('kerning', shaped, { kerning: 'font' }))).toEqual([['kerning', 'weighed', 'font', 1]]);
    expect(proposed('kerning', sized('سلام', 100))).toEqual([]);
    expect(after('kerning', headline('')).style.kerning).toBe('weighed');
  });

  it('aligns edges by what is seen, unless somebody has, or there is nothing to align', () => {
    const two = headline('Two\nnights');
    expect(told(proposed('edges', two))).toEqual([['edges', 'metric', 'optical', 2]]);
    const aligned = after('edges', two);
    expect(aligned.edges).not.toBeNull();
    expect(proposed('edges', aligned)).toEqual([]);
    expect(proposed('edges', headline('  '))).toEqual([]);
    // One line that shares its edge with nothing keeps the place of its ink; on a margin it is aligned.
    const alone = { ...headline('Over'), frame: { xPt: 333, yPt: 100, widthPt: 900, heightPt: 200 } };
    expect(proposed('edges', alone)).toEqual([]);
    const { leftPt } = jobOf(alone).sheets[0]!.margins;
    expect(proposed('edges', { ...alone, frame: { ...alone.frame, xPt: leftPt } }).length).toBe(1);
    expect(proposed('edges', { ...alone, words: 'Over\nall' }).length).toBe(1);
    expect(proposed('edges', { ...two, path: newPath('arc', two.frame, 100) })).toEqual([]);
  });

  it('aligns one line whose edge something shares: a margin, an upright guide, other words', () => {
    const sheet = createSheet('s', 'Sheet', 2000, 1000, 'pt');
    const margins = { topPt: 40, rightPt: 50, bottomPt: 60, leftPt: 70 };
    const one = (xPt: number, align: Block['align'] = 'left'): Block => headline('Over', { align, frame: { xPt, yPt: 100, widthPt: 400, heightPt: 200 } });
    const isAligned = (block: Block, change: Partial<Sheet> = {}): boolean => {
      const view = viewOf(block, setBlock(block, faces), faces);
      const { propose } = CUT_STEPS.find(({ id }) => id === 'edges')!;
      return propose({ ...view, sheet: { ...sheet, margins, blocks: [block], ...change }, findings: [], kerning: NEW_KERNING, kerningStrength: 1 }).length > 0;
    };
    expect(isAligned(one(333))).toBeFalse();
    for (const [xPt, align] of [
      [70, 'left'],
      [70.4, 'left'],
      [1950 - 400, 'right'],
    ] as const)
      expect(isAligned(one(xPt, align)))
        .withContext(`${xPt}`)
        .toBeTrue();
    for (const [xPt, align] of [
      [70.6, 'left'],
      [70, 'right'],
      [1950 - 400, 'left'],
      [1950, 'right'],
      [2050 - 400, 'right'],
    ] as const)
      expect(isAligned(one(xPt, align)))
        .withContext(`${xPt} ${align}`)
        .toBeFalse();
    expect(isAligned(one(333), { guides: [{ axis: 'x', atPt: 333 }] })).toBeTrue();
    expect(isAligned(one(333), { guides: [{ axis: 'y', atPt: 333 }] })).toBeFalse();
    // Centred words stand on no edge, but their lines are centred on their letters.
    expect(isAligned(one(333, 'centre'))).toBeTrue();
    const other = (xPt: number, widthPt: number): Block => headline('under', { id: 'other', frame: { xPt, yPt: 500, widthPt, heightPt: 100 } });
    for (const [xPt, widthPt, shared] of [
      [333, 90, true],
      [233, 100, true],
      [433, 100, false],
      [340, 90, false],
    ] as const)
      expect(isAligned(one(333), { blocks: [one(333), other(xPt, widthPt)] }))
        .withContext(`${xPt}`)
        .toBe(shared);
  });

  it('takes short last lines up, by what is found', () => {
    const line = setBlock(sized('Two nights to watch a valley of', 48), faces).lines[0]!;
    const torn = sized('Two nights to watch a valley of stars', 48, {}, { frame: { xPt: 0, yPt: 0, widthPt: line.widthPt + 20, heightPt: 200 }, grow: 'down' });
    expect(setBlock(torn, faces).lines.length).toBe(2);
    const changes = proposed('breaks', torn);
    expect(changes.length).toBeGreaterThan(0);
    for (const { what, from, to, places } of changes) {
      expect(what).toMatch(/^[A-Z][^:]*: ./);
      expect([from, to, places]).toEqual(['', '', 1]);
    }
    expect(after('breaks', torn)).not.toEqual(torn);
    expect(proposed('breaks', headline('Two nights'))).toEqual([]);
  });
});
