import { readFileSync, readdirSync } from 'node:fs';
import { checkJob } from '../findings';
import { readJobFile } from '../formats';
import { type Block, type Job, createJob, findBlock, restyle, withSilenced } from '../job';
import { type FaceSet, inkOf, setBlock } from '../setting';
import { headline, shippedFaces } from '../testing';
import { editWords } from '../wording';
import { type CutOptions, CUT_STEPS, firstCut, rememberReverted } from '.';

const DEMO = new URL('../../../demo/', import.meta.url);

describe('first cut', () => {
  let faces: FaceSet;
  beforeAll(async () => {
    const names = readdirSync(new URL('../../../faces/', import.meta.url)).flatMap((file) => (file.endsWith('.ttf') ? [file.slice(0, -4)] : []));
    faces = await shippedFaces(...names);
  });
  const demos = (): Job[] =>
    readdirSync(DEMO)
      .filter((file) => file.endsWith('.jentrix.json'))
      .map((file) => readJobFile(readFileSync(new URL(file, DEMO), 'utf8')));
  const jobOf = (...blocks: Block[]): Job => {
    const job = createJob('t', () => 's');
    return { ...job, sheets: job.sheets.map((sheet) => ({ ...sheet, blocks })) };
  };
  const cut = (block: Block, options?: CutOptions) => {
    const made = firstCut(jobOf(block), faces, options);
    return { ...made, block: findBlock(made.job, block.id)!, items: made.steps.flatMap(({ items }) => items) };
  };

  it('is never worse by its own measures, and doing it twice changes nothing', () => {
    expect(demos().length).toBeGreaterThan(3);
    for (const job of demos()) {
      for (const steps of [undefined, ['kerning'], ['tracking', 'leading']] as const) {
        const options = steps && { steps };
        const first = firstCut(job, faces, options);
        expect(first.after.findings).withContext(job.title).toBeLessThanOrEqual(first.before.findings);
        expect(first.after.evenness ?? 100)
          .withContext(job.title)
          .toBeGreaterThanOrEqual((first.before.evenness ?? 0) - 0.1);
        // What it says of the job is what checking says.
        const { findings, evenness } = checkJob(first.job, faces);
        expect(findings.filter(({ blockId, sheetId }) => blockId && sheetId === undefined).length).toBe(first.after.findings);
        expect(evenness).toBe(first.after.evenness);
        const second = firstCut(first.job, faces, options);
        expect(second.job).withContext(job.title).toBe(first.job);
        expect(second.steps.flatMap(({ items }) => items)).toEqual([]);
      }
    }
  });

  it('never makes a block end otherwise: no words cut off, no line more, however tight its frame', () => {
    const texts = ['LATE SHOW', 'WAVE AVATAR', 'TO WATCH YAWLS', 'NIGHT MARKET', 'The lantern walk', 'A FAIR OF TYPE'];
    for (const words of texts) {
      for (const sizePt of [20, 100]) {
        const wide = headline(words);
        const plain = { ...wide, style: { ...wide.style, sizePt } };
        const [line] = setBlock(plain, faces).lines;
        for (const spare of [0.02, sizePt / 100, sizePt / 20]) {
          for (const lead of [0.7, 1, 1.3]) {
            const frame = { ...plain.frame, widthPt: (line?.widthPt ?? 0) + spare, heightPt: 2 * sizePt * lead + spare };
            const block = { ...plain, words: `${words}\n${words}`, frame, grow: 'fixed' as const, leading: { kind: 'multiple' as const, factor: lead } };
            const was = setBlock(block, faces);
            const made = cut(block).block;
            const is = setBlock(made, faces);
            expect(is.lines.length).withContext(words).toBeLessThanOrEqual(was.lines.length);
            expect(is.cut && !was.cut)
              .withContext(words)
              .toBeFalse();
          }
        }
      }
    }
  });

  it('does the whole round on a raw headline, pass by pass', () => {
    const raw = headline('"Two Nights\nto  Watch"', { leading: { kind: 'auto' } });
    const { block, items, steps, before, after } = cut(raw);
    expect(steps.map(({ id }) => id)).toEqual(CUT_STEPS.map(({ id }) => id));
    expect(block.words).toBe('“Two Nights\nto Watch”');
    expect(block.style.kerning).toBe('weighed');
    expect(block.style.trackingMilliem).toBeLessThan(0);
    expect(block.leading).toEqual({ kind: 'multiple', factor: jasmine.any(Number) });
    expect(items.map(({ step }) => step)).toContain('leading');
    expect(after.findings).toBeLessThan(before.findings);
    for (const [i, { after: was }] of steps.entries()) if (steps[i + 1]) expect(steps[i + 1]!.before).toEqual(was);
  });

  it('keeps to the steps that are asked for, in the order of the craft', () => {
    const raw = headline('Two  Nights\nto Watch', { leading: { kind: 'auto' } });
    expect(cut(raw, { steps: ['leading', 'tracking'] }).steps.map(({ id }) => id)).toEqual(['tracking', 'leading']);
    const { block } = cut(raw, { steps: ['leading'] });
    expect({ ...block, leading: raw.leading }).toEqual(raw);
  });

  it('gives an item back, and goes on with the others', () => {
    const raw = headline('"Two Nights\nto  Watch"', { leading: { kind: 'auto' } });
    const all = cut(raw);
    for (const { id, step } of all.items) {
      const { block, items } = cut(raw, { without: [id] });
      expect(items.find((item) => item.id === id)?.kept).toBeFalse();
      expect(items.filter(({ kept }) => kept).length).toBe(all.items.length - 1);
      if (step === 'kerning') expect(block.style.kerning).toBe(raw.style.kerning);
      if (step === 'leading') expect(block.leading).toEqual(raw.leading);
    }
    const none = cut(raw, { without: all.items.map(({ id }) => id) });
    expect(none.block).toEqual(raw);
  });

  it('remembers what was given back, until the words or the face change, or it is kept again', () => {
    const raw = headline('"Two Nights\nto  Watch"', { leading: { kind: 'auto' } });
    const all = cut(raw).items.map(({ id, what }) => ({ id, what }));
    for (const { id, what } of all) {
      const made = cut(raw, { without: [id] });
      const after = rememberReverted(made);
      const again = firstCut(after, faces);
      expect(again.steps.flatMap(({ items }) => items).map((item) => [item.what, item.kept])).toEqual([[what, false]]);
      expect(again.job).toBe(after);
      const comesBack = (job: Job): boolean => firstCut(job, faces).steps.some(({ items }) => items.some((item) => item.what === what && item.kept));
      expect(comesBack(after)).withContext(what).toBeFalse();
      const block = findBlock(after, raw.id)!;
      const kept = firstCut(after, faces, { without: [] });
      expect(rememberReverted(kept)).not.toBe(kept.job);
      expect(findBlock(rememberReverted(kept), raw.id)!.intended).toEqual([]);
      if (what === 'kerning' || what === 'edges') {
        expect(comesBack(editWords(after, raw.id, [{ start: 1, end: 2, insert: 'H' }])))
          .withContext(what)
          .toBeTrue();
        expect(comesBack(restyle(after, raw.id, { faceId: 'source-sans-3-regular' })))
          .withContext(what)
          .toBeTrue();
        expect(comesBack(restyle(after, raw.id, { sizePt: block.style.sizePt + 1 })))
          .withContext(what)
          .toBeFalse();
      }
    }
    const none = cut(raw, { without: all.map(({ id }) => id) });
    const silent = rememberReverted(none);
    expect(findBlock(silent, raw.id)!.words).toBe(raw.words);
    expect(firstCut(silent, faces).job).toBe(silent);
  });

  it('leaves what somebody has stated, locked or silenced, and faces that are not here', () => {
    const raw = headline('Two Nights\nto Watch', { leading: { kind: 'pt', pt: 130 }, locked: false });
    const tracked = { ...raw, style: { ...raw.style, trackingMilliem: -7 } };
    const { block } = cut(tracked, { steps: ['tracking', 'leading'] });
    expect(block).toEqual(tracked);
    expect(cut({ ...raw, locked: true }).items).toEqual([]);
    const gone = jobOf({ ...raw, style: { ...raw.style, faceId: 'gone' } });
    expect(firstCut(gone, faces).job).toBe(gone);
    const spaced = headline('to  Watch');
    const intended = withSilenced(jobOf(spaced), spaced.id, 'double-space', 2, true);
    expect(findBlock(firstCut(intended, faces, { steps: ['words'] }).job, spaced.id)?.words).toBe('to  Watch');
  });

  it('kerns words in all styles of a block, and never lets ink stand out of its sheet or over other words', () => {
    const raw = headline('AVATAR');
    const mixed = findBlock(restyle(jobOf(raw), raw.id, { kerning: 'off', colour: '#ff0000' }, { start: 1, end: 3 }), raw.id)!;
    const { block } = cut(mixed, { steps: ['kerning'] });
    expect(block.style.kerning).toBe('weighed');
    expect(block.runs.every(({ style }) => style.kerning === undefined)).toBeTrue();
    expect(block.runs.map(({ style }) => style.colour)).toEqual(['#ff0000']);
    // Looser leading would push the last line over the words below.
    const small = headline('set quietly\nin two lines', { leading: { kind: 'auto' } });
    const upper = { ...small, style: { ...small.style, sizePt: 14 }, frame: { ...small.frame, xPt: 20, yPt: 20 } };
    const made = firstCut(jobOf(upper), faces, { steps: ['leading'] });
    expect(findBlock(made.job, upper.id)?.leading.kind).toBe('multiple');
    const below = { ...upper, id: 'below', words: 'below', locked: true, frame: { ...upper.frame, yPt: 20 + 14 * 1.2 * 2 - 3.5 } };
    const crowded = firstCut(jobOf(upper, below), faces, { steps: ['leading'] });
    expect(findBlock(crowded.job, upper.id)?.leading).toEqual(upper.leading);
  });

  it('keeps what stands below a block as far below it, unless it is held by the foot of the sheet, a guide or a lock', () => {
    const upper = headline('Two Nights\nto Watch', { id: 'upper', leading: { kind: 'auto' }, frame: { xPt: 60, yPt: 60, widthPt: 900, heightPt: 240 } });
    const set = inkOf(setBlock(upper, faces), faces)!;
    const small = (id: string, yPt: number, change: Partial<Block> = {}): Block => {
      const plain = headline(id, { id, frame: { xPt: 60, yPt, widthPt: 500, heightPt: 30 }, ...change });
      return { ...plain, style: { ...plain.style, sizePt: 20 } };
    };
    const whole = jobOf(
      upper,
      small('below', set.bottomPt + 20),
      small('locked', set.bottomPt + 60, { locked: true }),
      small('guided', 640),
      small('aside', set.bottomPt + 20, { frame: { xPt: 1400, yPt: set.bottomPt + 20, widthPt: 300, heightPt: 30 } }),
    );
    const job: Job = { ...whole, sheets: whole.sheets.map((sheet) => ({ ...sheet, guides: [{ axis: 'y', atPt: 640 }] })) };
    const made = firstCut(job, faces, { steps: ['leading'] });
    const now = (id: string): Block => findBlock(made.job, id)!;
    const byPt = inkOf(setBlock(now('upper'), faces), faces)!.bottomPt - set.bottomPt;
    expect(Math.abs(byPt)).toBeGreaterThan(5);
    expect(now('below').frame.yPt).toBeCloseTo(set.bottomPt + 20 + byPt, 6);
    for (const id of ['locked', 'guided', 'aside']) expect(now(id).frame).withContext(id).toEqual(findBlock(job, id)!.frame);
    // Twice, it changes nothing.
    expect(firstCut(made.job, faces, { steps: ['leading'] }).job).toBe(made.job);
    // Given back, nothing moves.
    expect(firstCut(job, faces, { steps: ['leading'], without: made.steps[0]!.items.map(({ id }) => id) }).job).toBe(job);
  });

  describe('beside a headline whose foot moves', () => {
    const upper = headline('Two Nights\nto Watch', { id: 'upper', leading: { kind: 'auto' }, frame: { xPt: 60, yPt: 60, widthPt: 900, heightPt: 240 } });
    let foot: number;
    let right: number;
    beforeAll(() => {
      ({ bottomPt: foot, rightPt: right } = inkOf(setBlock(upper, faces), faces)!);
    });
    const small = (frame: Partial<Block['frame']>, change: Partial<Block> = {}): Block => {
      const plain = headline('HIH', { id: 'other', frame: { xPt: 60, yPt: foot + 20, widthPt: 300, heightPt: 30, ...frame }, ...change });
      return { ...plain, style: { ...plain.style, sizePt: 20 } };
    };
    /** How far the other block is moved when the headline is led. */
    const movedBy = (other: Block, change: Partial<Job['sheets'][number]> = {}, headlined = upper): number => {
      const whole = jobOf(headlined, other);
      const job: Job = { ...whole, sheets: whole.sheets.map((sheet) => ({ ...sheet, ...change })) };
      const made = firstCut(job, faces, { steps: ['leading'] });
      expect(findBlock(made.job, 'upper')!.leading.kind).toBe('multiple');
      return findBlock(made.job, other.id)!.frame.yPt - other.frame.yPt;
    };
    /** A block whose ink begins at a height, or a place from the left. */
    const inkAt = (place: { topPt?: number; leftPt?: number }): Block => {
      const ink = inkOf(setBlock(small({}), faces), faces)!;
      const { xPt, yPt } = small({}).frame;
      return small({ xPt: xPt + (place.leftPt ?? ink.leftPt) - ink.leftPt, yPt: yPt + (place.topPt ?? ink.topPt) - ink.topPt });
    };

    it('moves what begins below its foot, under some of its width', () => {
      expect(movedBy(small({}))).toBeLessThan(-5);
      expect(movedBy(inkAt({ topPt: foot + 1 }))).toBeLessThan(-5);
      expect(movedBy(inkAt({ topPt: foot - 1 }))).toBe(0);
      expect(movedBy(inkAt({ leftPt: right - 1 }))).toBeLessThan(-5);
      expect(movedBy(inkAt({ leftPt: right + 1 }))).toBe(0);
      // Words left of the headline: the sheet begins before them.
      const ink = inkOf(setBlock(small({}), faces), faces)!;
      const shifted = { ...upper, frame: { ...upper.frame, xPt: 600 } };
      expect(movedBy(small({}), {}, shifted)).toBe(0);
      expect(ink.rightPt).toBeLessThan(600);
    });

    it('leaves all of it where the headline is turned', () => {
      expect(movedBy(small({}), {}, { ...upper, rotationDeg: 4 })).toBe(0);
    });

    it('leaves what stands on a guide, on the lower margin, at the foot of the sheet, or at the foot of its frame', () => {
      const at = small({ yPt: 700 });
      const ink = inkOf(setBlock(at, faces), faces)!;
      const none = { heightPt: 4000, guides: [] };
      expect(movedBy(at, none)).toBeLessThan(-5);
      for (const held of [ink.bottomPt, 700, at.frame.yPt + at.frame.heightPt]) {
        expect(movedBy(at, { ...none, guides: [{ axis: 'y', atPt: held + 0.9 }] })).toBe(0);
        expect(
          movedBy(at, {
            ...none,
            guides: [
              { axis: 'y', atPt: held + 1.1 },
              { axis: 'y', atPt: held - 1.1 },
            ],
          }),
        ).toBeLessThan(-5);
        expect(movedBy(at, { ...none, guides: [{ axis: 'x', atPt: held }] })).toBeLessThan(-5);
      }
      const margins = { topPt: 0, rightPt: 0, bottomPt: 100, leftPt: 0 };
      expect(movedBy(at, { heightPt: ink.bottomPt + 100, guides: [], margins })).toBe(0);
      expect(movedBy(at, { heightPt: ink.bottomPt + 120, guides: [], margins })).toBeLessThan(-5);
      expect(movedBy(at, { heightPt: ink.bottomPt, guides: [], margins })).toBe(0);
      expect(movedBy(small({ yPt: 700 }, { vertical: 'bottom' }), none)).toBe(0);
    });

    it('leaves all of it where that would lead some out of the sheet', () => {
      // Tight lines are led wider, so that the foot goes down.
      const tight: Block = { ...upper, leading: { kind: 'multiple', factor: 0.5 } };
      const low = inkOf(setBlock(tight, faces), faces)!.bottomPt;
      const at = (yPt: number): Block => small({ yPt });
      const wide = { heightPt: 4000, guides: [], margins: { topPt: 0, rightPt: 0, bottomPt: 0, leftPt: 0 } };
      const byPt = movedBy(at(low + 20), wide, tight);
      expect(byPt).toBeGreaterThan(5);
      const ink = inkOf(setBlock(at(low + 20), faces), faces)!;
      expect(movedBy(at(low + 20), { ...wide, heightPt: ink.bottomPt + byPt + 0.5 }, tight)).toBeCloseTo(byPt, 9);
      // It holds for all of what stands below: the one that could move stays as well.
      const whole = jobOf(tight, at(low + 20), { ...at(low + 60), id: 'lowest' });
      const sheets = whole.sheets.map((sheet) => ({ ...sheet, ...wide, heightPt: ink.bottomPt + 40 + byPt - 0.5 }));
      const made = firstCut({ ...whole, sheets }, faces, { steps: ['leading'] });
      for (const id of ['other', 'lowest']) expect(findBlock(made.job, id)!.frame).withContext(id).toEqual(findBlock(whole, id)!.frame);
    });
  });

  it('leaves what is silenced otherwise, and what was given back of steps that were not asked for', () => {
    const raw = { ...headline('"Two Nights\nto  Watch"', { leading: { kind: 'auto' } }), intended: [{ rule: 'gap-open', at: 3 }] };
    const ids = (made: Pick<ReturnType<typeof cut>, 'steps'>, step: string) =>
      made.steps.flatMap(({ items }) => items.flatMap((item) => (item.step === step ? [item.id] : [])));
    const marks = (job: Job) => findBlock(job, raw.id)!.intended.map(({ rule, at }) => [rule.replace(/\.[^.]*$/, ''), at]);
    const first = cut(raw, { steps: ['leading'] });
    const back = rememberReverted(cut(raw, { steps: ['leading'], without: ids(first, 'leading') }));
    expect(marks(back)).toEqual([
      ['gap-open', 3],
      ['cut.leading', 0],
    ]);
    // Remembered twice, the job is the same object.
    expect(rememberReverted(firstCut(back, faces, { steps: ['leading'] }))).toBe(back);
    const other = firstCut(back, faces, { steps: ['kerning'] });
    const both = rememberReverted(firstCut(back, faces, { steps: ['kerning'], without: ids(other, 'kerning') }));
    expect(marks(both)).toEqual([
      ['gap-open', 3],
      ['cut.leading', 0],
      ['cut.kerning', 0],
    ]);
    expect(marks(rememberReverted(firstCut(both, faces, { steps: ['kerning'], without: [] })))).toEqual([
      ['gap-open', 3],
      ['cut.leading', 0],
    ]);
    // Blocks that have nothing of it stay the same objects.
    const two = firstCut({ ...both, sheets: both.sheets.map((sheet) => ({ ...sheet, blocks: [...sheet.blocks, headline('Over', { id: 'over' })] })) }, faces, {
      steps: ['leading'],
    });
    expect(findBlock(rememberReverted(two), 'over')).toBe(findBlock(two.job, 'over'));
  });

  it('never lets ink leave its sheet by a side that it stood within', () => {
    // Marks that hang would stand left of the sheet.
    const quoted = headline('“HIH\nHIH', { frame: { xPt: 2, yPt: 20, widthPt: 500, heightPt: 100 } });
    expect(cut(quoted, { steps: ['edges'] }).block.edges).toBeNull();
    expect(cut({ ...quoted, frame: { ...quoted.frame, xPt: 60 } }, { steps: ['edges'] }).block.edges).not.toBeNull();
    // Lines that stand at the foot of their frame grow upwards.
    const low = headline('Two\nnights', { leading: { kind: 'auto' }, grow: 'fixed', vertical: 'bottom' });
    const small = { ...low, style: { ...low.style, sizePt: 14 } };
    const at = (yPt: number): Block => ({ ...small, frame: { xPt: 20, yPt, widthPt: 500, heightPt: 60 } });
    const ink = inkOf(setBlock(at(100), faces), faces)!;
    expect(cut(at(100), { steps: ['leading'] }).items.length).toBe(1);
    expect(cut(at(100 - ink.topPt + 0.2), { steps: ['leading'] }).items).toEqual([]);
  });

  it('says what it did with the first line of the words, on which sheet, and before and after of each step', () => {
    const raw = headline('"Two Nights\nto  Watch"', { leading: { kind: 'auto' } });
    const { items, steps } = cut(raw);
    const [sheet] = jobOf(raw).sheets;
    for (const item of items) expect(item).toEqual(jasmine.objectContaining({ words: '"Two Nights', sheet: sheet!.name, blockId: raw.id, kept: true }));
    for (const { id, items: own } of steps) for (const item of own) expect([item.step, item.id.startsWith(`${id} ${raw.id} `)]).toEqual([id, true]);
    expect(new Set(items.map(({ id }) => id)).size).toBe(items.length);
  });

  it('judges kerning by evenness and by all that is found, and steps of words and breaks by their own passes', () => {
    const judged = new Map(CUT_STEPS.map(({ id, judgedBy }) => [id, judgedBy]));
    expect([judged.get('kerning'), judged.get('tracking'), judged.get('leading')]).toEqual([undefined, undefined, undefined]);
    expect([judged.get('words'), judged.get('breaks'), judged.get('edges')]).toEqual([['words'], ['words', 'fit'], ['words', 'edges']]);
  });
});
