/**
 * First cut: the whole round by measure. Each step proposes, each proposal is carried out only where the block is not worse for it by
 * its own measures, and the round is gone through again until nothing is left to do: doing it twice changes nothing.
 */
import { type BlockView, type Finding, type Inspection, JUDGING, type Judge, type Severity, inspectView, judgingOf, viewOf } from '../findings';
import { type Block, type Job, NEW_KERNING, type Sheet, findBlock, resolveSheet, updateBlock } from '../job';
import { type BlockSetting, type Box, type FaceSet, clipped, facesOf, inkOf, setBlock } from '../setting';
import { evenness } from '../spacing';
import { isReverted } from './reverted';
import type { StepChange, KerningSource, CutStep } from './step';
import { CUT_STEPS } from './steps';

/** The measures of words. */
export interface CutMeasure {
  /** 0 to 100; undefined where there are too few pairs. */
  evenness: number | undefined;
  findings: number;
}

/** One thing that was done, or that was reverted; plain data. */
export interface CutItem {
  /** Names it in `without`. */
  id: string;
  step: string;
  sheet: string;
  blockId: string;
  words: string;
  what: string;
  from: string;
  to: string;
  places: number;
  kept: boolean;
}

/** A step with the measures before and after its first turn. */
export interface CutStepReport {
  id: string;
  name: string;
  before: CutMeasure;
  after: CutMeasure;
  items: CutItem[];
}

export interface FirstCut {
  job: Job;
  before: CutMeasure;
  after: CutMeasure;
  steps: CutStepReport[];
}

export interface CutOptions {
  /** Steps to carry out, in the order of the craft whatever theirs is; all where absent. */
  steps?: readonly string[];
  /** Items that are reverted, by id; where absent, those that were reverted of an earlier one, while words and faces are the same. */
  without?: readonly string[] | undefined;
  /** The kerning source of the words; weighed where absent. */
  kerning?: KerningSource;
  kerningStrength?: number;
  judge?: Judge;
}

/** A round that ends elsewhere each time is broken off after so many. */
const MOST_ROUNDS = 6;
/** The cost of a finding by severity, where a block must not get worse. */
const COSTS: Readonly<Record<Severity, number>> = { notice: 1, fault: 3, severe: 9 };
/** Evenness may fall, and ink may overlap or stand out, by no more than rounding does. */
const ROUNDING = 0.05;

/** A block on its sheet. */
interface BlockPlace {
  sheet: Sheet;
  block: Block;
}

interface Measured {
  view: BlockView;
  setting: BlockSetting;
  inspection: Inspection;
  ink: Box | undefined;
}

/** Blocks that are measured once: edits leave what they don't change as it is. */
class Bench {
  private readonly known = new WeakMap<Block, Measured>();

  constructor(
    private readonly job: Pick<Job, 'kind'>,
    private readonly faces: FaceSet,
    private readonly judge: Judge,
  ) {}

  has = (block: Block): boolean => facesOf(block).every((id) => this.faces.has(id));

  measure(sheet: Sheet, block: Block): Measured {
    let measured = this.known.get(block);
    if (!measured) {
      const setting = setBlock(block, this.faces);
      const view = viewOf(block, setting, this.faces, judgingOf(this.job, sheet, this.judge));
      measured = { view, setting, inspection: inspectView(view, this.faces), ink: inkOf(setting, this.faces) };
      this.known.set(block, measured);
    }
    return measured;
  }

  /** All words of a job together. */
  whole(job: Job): CutMeasure {
    const inspections = job.sheets.flatMap((sheet) =>
      resolveSheet(job, sheet)
        .blocks.filter(this.has)
        .map((block) => this.measure(sheet, block).inspection),
    );
    return {
      evenness: evenness(inspections.flatMap(({ deviations }) => deviations)),
      findings: inspections.reduce((sum, { findings }) => sum + findings.length, 0),
    };
  }

  /** How far a block's ink stands out of its sheet, and how far it lies over that of others, in points. */
  crowding(sheet: Sheet, block: Block): { out: number; over: number } {
    const { ink } = this.measure(sheet, block);
    if (!ink) return { out: 0, over: 0 };
    const out = Math.max(0, -ink.leftPt) + Math.max(0, -ink.topPt) + Math.max(0, ink.rightPt - sheet.widthPt) + Math.max(0, ink.bottomPt - sheet.heightPt);
    const others = sheet.blocks.filter((other) => other.id !== block.id && this.has(other));
    const over = others.reduce((sum, other) => {
      const theirs = this.measure(sheet, other).ink;
      const shared = theirs && clipped(ink, theirs);
      return sum + (shared ? Math.min(shared.rightPt - shared.leftPt, shared.bottomPt - shared.topPt) : 0);
    }, 0);
    return { out, over };
  }

  /**
   * The job with what stands below a block as far below it as before, where its foot has moved: on the same sheet, beside no part of it, and not
   * held by the foot of the sheet, a guide or a lock. Where that would lead words out of the sheet, all stays.
   */
  withDistances({ sheet, block }: BlockPlace, edited: Job): Job {
    const after = placeOf(edited, sheet.id, block.id);
    const [was, is] = [this.measure(sheet, block).ink, after && this.measure(after.sheet, after.block).ink];
    if (!was || !is || block.rotationDeg !== 0) return edited;
    const byPt = is.bottomPt - was.bottomPt;
    if (Math.abs(byPt) <= ROUNDING) return edited;
    const below = sheet.blocks.flatMap((other) => {
      const ink = other.id !== block.id && !other.locked && this.has(other) ? this.measure(sheet, other).ink : undefined;
      return ink && ink.topPt >= was.bottomPt - ROUNDING && ink.leftPt < was.rightPt && ink.rightPt > was.leftPt ? [{ other, ink }] : [];
    });
    const moved = below.filter(({ other, ink }) => !isHeld(sheet, other, ink));
    if (moved.some(({ ink }) => ink.bottomPt <= sheet.heightPt && ink.bottomPt + byPt > sheet.heightPt)) return edited;
    return moved.reduce((job, { other }) => updateBlock(job, other.id, (one) => ({ ...one, frame: { ...one.frame, yPt: one.frame.yPt + byPt } })), edited);
  }

  /** True where a block is worse for a step, by its own measures. */
  isWorse({ judgedBy }: CutStep, { asked }: StepChange, before: BlockPlace, after: BlockPlace): boolean {
    const [was, is] = [before, after].map(({ sheet, block }) => this.measure(sheet, block)) as [Measured, Measured];
    const counted = ({ inspection: { findings } }: Measured): Finding[] => (judgedBy ? findings.filter(({ pass }) => judgedBy.includes(pass)) : findings);
    if (costOf(counted(is)) > costOf(counted(was))) return true;
    if (!judgedBy && !asked && (is.inspection.evenness ?? 100) < (was.inspection.evenness ?? 0) - ROUNDING) return true;
    if (is.setting.cut && !was.setting.cut) return true;
    if (is.setting.lines.length > was.setting.lines.length) return true;
    const [stood, stands] = [this.crowding(before.sheet, before.block), this.crowding(after.sheet, after.block)];
    return stands.out > stood.out + ROUNDING || stands.over > stood.over + ROUNDING;
  }
}

/** Feet nearer than this to what they stand on stand on it, in points. */
const ON = 1;

/** True for words whose foot, or baseline, stands on the lower margin of their sheet or on a guide. */
function isHeld({ heightPt, margins, guides }: Sheet, { frame, vertical }: Block, { bottomPt }: Box): boolean {
  const lines = [heightPt - margins.bottomPt, heightPt, ...guides.flatMap((guide) => (guide.axis === 'y' ? [guide.atPt] : []))];
  return (
    vertical === 'bottom' ||
    lines.some((at) => Math.abs(at - bottomPt) < ON || Math.abs(at - frame.yPt) < ON || Math.abs(at - (frame.yPt + frame.heightPt)) < ON)
  );
}

const costOf = (findings: readonly Finding[]): number => findings.reduce((sum, { severity }) => sum + COSTS[severity], 0);

/** A block as it is set, with its sheet; undefined where it is gone. */
function placeOf(job: Job, sheetId: string, blockId: string): BlockPlace | undefined {
  const raw = job.sheets.find(({ id }) => id === sheetId);
  const sheet = raw && resolveSheet(job, raw);
  const block = sheet?.blocks.find(({ id }) => id === blockId);
  return sheet && block && { sheet, block };
}

/** Goes through the round. Locked blocks, and blocks whose faces are not here, are left as they are. */
export function firstCut(job: Job, faces: FaceSet, options: CutOptions = {}): FirstCut {
  const { kerning = NEW_KERNING, kerningStrength = 1, judge = JUDGING } = options;
  const bench = new Bench(job, faces, judge);
  const without = options.without && new Set(options.without);
  const isBack = (id: string, blockId: string, step: string, what: string): boolean => {
    const block = without ? undefined : findBlock(job, blockId);
    return without?.has(id) ?? (block !== undefined && isReverted(block, step, what));
  };
  const steps = CUT_STEPS.filter(({ id }) => options.steps?.includes(id) ?? true);
  const before = bench.whole(job);
  const cuts = steps.map(({ id, name }): CutStepReport => ({ id, name, before, after: before, items: [] }));
  let now = job;
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const began = now;
    steps.forEach((step, i) => {
      const cut = cuts[i];
      if (!cut) return;
      if (round === 0) cut.before = bench.whole(now);
      for (const sheet of job.sheets) {
        for (const { id: blockId } of sheet.blocks) {
          const tried = new Set<string>();
          // A change may move what the others of its step are about: they are asked for anew after each.
          for (;;) {
            const place = placeOf(now, sheet.id, blockId);
            if (!place || place.block.locked || !bench.has(place.block)) break;
            const { view: seen, inspection } = bench.measure(place.sheet, place.block);
            const view = { ...seen, sheet: place.sheet, findings: inspection.findings, kerning, kerningStrength };
            const change = step.propose(view).find(({ what }) => !tried.has(what));
            if (!change) break;
            tried.add(change.what);
            const edited = change.edit(now);
            const next = edited === now ? now : bench.withDistances(place, edited);
            const reached = placeOf(next, sheet.id, blockId);
            if (next === now || !reached || bench.isWorse(step, change, place, reached)) continue;
            const id = `${step.id} ${blockId} ${change.what}`;
            const kept = !isBack(id, blockId, step.id, change.what);
            const { what, from, to, places } = change;
            const known = cut.items.find((item) => item.id === id);
            if (known && kept) {
              known.to = to;
              known.places += places;
            } else if (!known) {
              cut.items.push({
                id,
                step: step.id,
                sheet: sheet.name,
                blockId,
                words: firstLine(findBlock(job, blockId)?.words ?? ''),
                what,
                from,
                to,
                places,
                kept,
              });
            }
            if (kept) now = next;
          }
        }
      }
      if (round === 0) cut.after = bench.whole(now);
    });
    if (now === began) break;
  }
  return { job: now, before, after: bench.whole(now), steps: cuts };
}

const firstLine = (words: string): string => words.split('\n', 1)[0] ?? '';
