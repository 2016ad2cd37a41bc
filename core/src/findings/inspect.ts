/** Inspecting: measuring every gap of a block and asking every rule. */
import type { Block, Sheet } from '../job';
import { type BlockSetting, type FaceSet, type GapLedger, type SetLine, ledgersOf } from '../setting';
import { type Deviation, evenness, letterSpaceOf } from '../spacing';
import { amountsOf } from '../taste';
import { type Finding, isSilenced } from './finding';
import { type BlockView, JUDGING, type Judging, type Rule, failed, judgeBlock, judgeSheet } from './rule';
import { FINDING_RULES } from './rules';

/** The measures of a block; plain data. */
export interface Inspection {
  blockId: string;
  /** 0 to 100; undefined where there are too few pairs that can be judged. */
  evenness: number | undefined;
  /** The evenness with every gap as proposed. */
  evennessProposed: number | undefined;
  lineEvenness: (number | undefined)[];
  /** The distance the block's face puts between its letters, in 1/1000 em: what word space can be kept in proportion to. */
  letterMilliem: number;
  /** How every pair inside words stands to what it should hold: what evenness of more than one block is made of. */
  deviations: Deviation[];
  /** The same with every proposal taken. */
  proposedDeviations: Deviation[];
  /** Most visible first; what the designer has silenced is in `intended`. */
  findings: Finding[];
  intended: Finding[];
}

const deviations = (gaps: readonly GapLedger[]): Deviation[] => gaps.flatMap(({ evennessPart }) => evennessPart ?? []);
const proposed = (gaps: readonly GapLedger[]): Deviation[] =>
  gaps.flatMap(({ evennessPart: part, deviationMilliem }) => (part ? [{ ...part, off: part.off - deviationMilliem }] : []));

/** Measures a block as set. */
export const inspectBlock = (block: Block, setting: BlockSetting, faces: FaceSet, judging = JUDGING): Inspection =>
  inspectView(viewOf(block, setting, faces, judging), faces);

/** A block with its gaps measured. */
export const viewOf = (block: Block, setting: BlockSetting, faces: FaceSet, judging = JUDGING): BlockView => ({
  ...judging,
  block,
  setting,
  lines: setting.lines.map((line) => ledgersOf(block, line, faces, judging.taste)),
  faces,
});

/**
 * Measures blocks again and again: lines that nothing has touched since the last time keep what was measured of them, so that one
 * kerning key measures one line. Faces are taken to stay the same; `forget` after they change.
 */
export class Inspector {
  private readonly known = new Map<string, Map<string, GapLedger[]>>();
  /** The blocks as they were inspected last. */
  private readonly views = new Map<string, BlockView>();
  /** The hand that gaps were measured for. */
  private taste: string | undefined;
  /** How many lines were measured so far. */
  measured = 0;

  constructor(
    private readonly faces: () => FaceSet,
    private readonly rules = FINDING_RULES,
  ) {}

  /** Where a block can't be measured, that is what is found in it. */
  inspect(block: Block, setting: BlockSetting, judging = JUDGING): Inspection {
    try {
      return this.measure(block, setting, judging);
    } catch (error) {
      this.views.delete(block.id);
      return unmeasured(block, error);
    }
  }

  private measure(block: Block, setting: BlockSetting, judging: Judging): Inspection {
    this.follow(judging);
    const before = this.known.get(block.id);
    const after = new Map<string, GapLedger[]>();
    const lines = setting.lines.map((line) => {
      const key = lineKey(block, line);
      let ledgers = before?.get(key) ?? after.get(key);
      if (!ledgers) {
        ledgers = ledgersOf(block, line, this.faces(), judging.taste);
        this.measured++;
      }
      after.set(key, ledgers);
      return ledgers;
    });
    this.known.set(block.id, after);
    const view = { ...judging, block, setting, lines, faces: this.faces() };
    this.views.set(block.id, view);
    return inspectView(view, this.faces(), this.rules);
  }

  /**
   * The findings of rules on a sheet as a whole, whose blocks have been inspected.
   * @param blockIds in the sheet's order; other blocks are forgotten.
   */
  inspectSheet(sheet: Omit<Sheet, 'blocks'>, blockIds: readonly string[]): Finding[] {
    const wanted = new Set(blockIds);
    for (const id of this.views.keys()) if (!wanted.has(id)) this.views.delete(id);
    const blocks = blockIds.flatMap((id) => this.views.get(id) ?? []);
    return judgeSheet(this.rules, { sheet: { ...sheet, blocks: blocks.map(({ block }) => block) }, blocks });
  }

  /** Gaps that were measured for another hand are measured anew. */
  private follow({ taste }: Judging): void {
    const said = JSON.stringify(amountsOf(taste));
    if (this.taste !== undefined && said !== this.taste) this.known.clear();
    this.taste = said;
  }

  forget(): void {
    this.known.clear();
    this.views.clear();
  }
}

/** The finding for a block that can't be measured. */
const MEASURING = { id: 'measuring', pass: 'kerning' as const, name: 'Measuring' };

const unmeasured = (block: Block, error: unknown): Inspection => ({
  ...{ blockId: block.id, evenness: undefined, evennessProposed: undefined, lineEvenness: [], letterMilliem: 0 },
  ...{ deviations: [], proposedDeviations: [], intended: [] },
  findings: [{ ...failed(MEASURING, error), blockId: block.id }],
});

/** Everything the ledgers of a line depend on, but the faces. */
function lineKey({ words, style, runs, hand, language, ends, tightened }: Block, { start, visibleEnd, leftPt, widthPt, fit }: SetLine): string {
  const inside = hand.filter(({ at }) => at >= start && at <= visibleEnd);
  const own = runs.filter((run) => run.start < visibleEnd && run.end > start);
  // Shaping sees a few letters beyond the line's ends.
  return JSON.stringify([
    start,
    leftPt,
    words.slice(Math.max(0, start - 16), visibleEnd + 16),
    visibleEnd,
    style,
    own,
    inside,
    language,
    ends,
    tightened,
    widthPt,
    fit?.values,
  ]);
}

/** Asks rules about a block whose gaps are measured. */
export function inspectView(view: BlockView, faces: FaceSet, rules: readonly Rule[] = FINDING_RULES): Inspection {
  const { block, lines } = view;
  const gaps = lines.flat();
  const all = judgeBlock(rules, view);
  const silenced = (finding: Finding): boolean => isSilenced(block, finding);
  return {
    blockId: block.id,
    evenness: evenness(deviations(gaps)),
    deviations: deviations(gaps),
    proposedDeviations: proposed(gaps),
    evennessProposed: evenness(proposed(gaps)),
    lineEvenness: lines.map((line) => evenness(deviations(line))),
    letterMilliem: letterSpaceOf(faces.instance(block.style)),
    findings: all.filter((finding) => !silenced(finding)),
    intended: all.filter(silenced),
  };
}
