/** Finding rules. */
import type { Block, Job, Sheet } from '../job';
import { ARM_MM } from '../advice/reading-distance';
import type { BlockSetting, FaceSet, GapLedger, SetLine } from '../setting';
import { NO_TASTE, type Taste } from '../taste';
import { type Finding, type Found, type PassId, byVisibility } from './finding';

/** How far copy can be tightened unseen, until it shows, until it is wrong: each at or below the one before, in 1/1000 em. */
export interface TrackingLimits {
  caution: number;
  strong: number;
  out: number;
}

/** Where tracking begins to show unless somebody says otherwise. */
export const TRACKING_LIMITS: TrackingLimits = { caution: -15, strong: -30, out: -50 };

/** Who judges: by which limits of tightening, and with which hand of their own. */
export interface Judge {
  limits: TrackingLimits;
  taste: Taste;
}

/** The limits and hand that findings are judged by, and the reading distance. */
export interface Judging extends Judge {
  /** In millimetres. */
  distanceMm: number;
}

/** At arm's length, by the usual limits, of nobody in particular. */
export const JUDGING: Judging = { limits: TRACKING_LIMITS, distanceMm: ARM_MM, taste: NO_TASTE };

/** One block as rules look at it. */
export interface BlockView extends Judging {
  block: Block;
  setting: BlockSetting;
  /** The ledgers of all gaps, line by line. */
  lines: readonly (readonly GapLedger[])[];
  /** The faces that are open. */
  faces: FaceSet;
}

/** A gap, a line, with the block it is in; a sheet with its blocks; the job as a document. */
export interface GapView extends BlockView {
  gap: GapLedger;
}
export interface LineView extends BlockView {
  line: SetLine;
  gaps: readonly GapLedger[];
}
export interface SheetView {
  sheet: Sheet;
  blocks: readonly BlockView[];
}
export interface JobView {
  job: Job;
}

interface Views {
  gap: GapView;
  line: LineView;
  block: BlockView;
  sheet: SheetView;
  job: JobView;
}

interface RuleLookingAt<Scope extends keyof Views> {
  id: string;
  /** The pass whose count it adds to. */
  pass: PassId;
  name: string;
  looksAt: Scope;
  look(view: Views[Scope]): readonly Found[];
}

/** A rule: adding one is a file of its own and a line in the table of `rules.ts`. */
export type Rule = { [Scope in keyof Views]: RuleLookingAt<Scope> }[keyof Views];

/** The part of a rule that its findings carry: who shows findings needs no rules. */
const saidOf = ({ id, pass, name }: Rule): Pick<Finding, 'rule' | 'pass' | 'name'> => ({ rule: id, pass, name });

/** The finding for a rule that failed: its name, so that nobody takes its silence for praise. */
export const failed = (rule: Pick<Rule, 'id' | 'pass' | 'name'>, error: unknown): Finding => ({
  ...{ rule: rule.id, pass: rule.pass, name: rule.name },
  ...{ at: 0, severity: 'notice', visiblePt: 0, failed: true, subject: rule.name },
  message: `not checked: ${error instanceof Error ? error.message : String(error)}`,
});

/** Asks one rule. Where it throws, what it found so far stays, and that it failed is a finding of its own. */
function asked(rule: Rule, of: Pick<Finding, 'blockId' | 'sheetId'>, ask: (add: (found: readonly Found[]) => void) => void): Finding[] {
  const all: Finding[] = [];
  const said = saidOf(rule);
  try {
    ask((found) => {
      for (const one of found) all.push({ ...said, ...of, ...one });
    });
  } catch (error) {
    all.push({ ...failed(rule, error), ...of });
  }
  return all;
}

/** Asks the rules that look at a block, at its lines and at its gaps. Most visible first. */
export function judgeBlock(rules: readonly Rule[], view: BlockView): Finding[] {
  const { block, setting, lines, faces, limits, taste, distanceMm } = view;
  // Member by member: there are thousands of gaps, and spreading took longer than most rules look.
  const gapViews = lines.flatMap((gaps) => gaps.map((gap): GapView => ({ block, setting, lines, faces, limits, taste, distanceMm, gap })));
  const found = rules.flatMap((rule) =>
    asked(rule, { blockId: block.id }, (add) => {
      switch (rule.looksAt) {
        case 'gap':
          for (const gap of gapViews) add(rule.look(gap));
          break;
        case 'line':
          setting.lines.forEach((line, i) => add(rule.look({ ...view, line, gaps: lines[i] ?? [] })));
          break;
        case 'block':
          add(rule.look(view));
          break;
        default:
      }
    }),
  );
  return found.sort(byVisibility);
}

/** Asks the rules that look at a sheet as a whole. */
export function judgeSheet(rules: readonly Rule[], view: SheetView): Finding[] {
  const { id } = view.sheet;
  return rules.flatMap((rule) => (rule.looksAt === 'sheet' ? asked(rule, { sheetId: id }, (add) => add(rule.look(view))) : [])).sort(byVisibility);
}

/** Asks the rules that look at the job as a document. */
export function judgeJob(rules: readonly Rule[], view: JobView): Finding[] {
  return rules.flatMap((rule) => (rule.looksAt === 'job' ? asked(rule, {}, (add) => add(rule.look(view))) : [])).sort(byVisibility);
}
