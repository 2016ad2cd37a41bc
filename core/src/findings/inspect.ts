/** Inspecting: measuring every gap of a block and asking every rule. */
import type { Block } from '../job';
import { type BlockSetting, type FaceSet, type GapLedger, type SetLine, ledgersOf } from '../setting';
import { evenness, letterSpaceOf } from '../spacing';
import { type Finding, TRACKING_LIMITS, type TrackingLimits } from './finding';
import { RULES } from './rules';

/** What is known of a block after measuring it; plain data. */
export interface Inspection {
  blockId: string;
  /** 0 to 100; undefined where there are too few pairs. */
  evenness: number | undefined;
  /** What it would be with every gap as proposed. */
  evennessProposed: number | undefined;
  lineEvenness: (number | undefined)[];
  /** The distance the block's face puts between its letters, in 1/1000 em: what word space can be kept in proportion to. */
  letterMilliem: number;
  /** Kerning minus wanted kerning of every pair inside words, in 1/1000 em: what evenness of more than one block is made of. */
  deviations: number[];
  /** The same with every proposal taken. */
  proposedDeviations: number[];
  /** Most visible first; what the designer has silenced is in `intended`. */
  findings: Finding[];
  intended: Finding[];
}

const deviations = (gaps: readonly GapLedger[]): number[] => gaps.filter(({ atSpace }) => !atSpace).map((gap) => gap.totalMilliem - gap.wantedMilliem);
const proposed = (gaps: readonly GapLedger[]): number[] => gaps.filter(({ atSpace }) => !atSpace).map((gap) => gap.shapeMilliem - gap.wantedMilliem);

/** Measures a block as set. */
export function inspectBlock(block: Block, setting: BlockSetting, faces: FaceSet, limits = TRACKING_LIMITS): Inspection {
  const lines = setting.lines.map((line) => ledgersOf(block, line, faces));
  return judge(block, setting, lines, limits, faces);
}

/**
 * Measures blocks again and again: lines that nothing has touched since the last time keep what was measured of them, so that one
 * kerning key measures one line. Faces are taken to stay the same; `forget` after they change.
 */
export class Inspector {
  private readonly known = new Map<string, Map<string, GapLedger[]>>();
  /** How many lines were measured so far. */
  measured = 0;

  constructor(private readonly faces: () => FaceSet) {}

  inspect(block: Block, setting: BlockSetting, limits = TRACKING_LIMITS): Inspection {
    const before = this.known.get(block.id);
    const after = new Map<string, GapLedger[]>();
    const lines = setting.lines.map((line) => {
      const key = lineKey(block, line);
      let ledgers = before?.get(key) ?? after.get(key);
      if (!ledgers) {
        ledgers = ledgersOf(block, line, this.faces());
        this.measured++;
      }
      after.set(key, ledgers);
      return ledgers;
    });
    this.known.set(block.id, after);
    return judge(block, setting, lines, limits, this.faces());
  }

  forget(): void {
    this.known.clear();
  }
}

/** Everything the ledgers of a line depend on, but the faces. */
function lineKey({ words, style, runs, hand }: Block, { start, visibleEnd, leftPt }: SetLine): string {
  const inside = hand.filter(({ at }) => at >= start && at <= visibleEnd);
  const own = runs.filter((run) => run.start < visibleEnd && run.end > start);
  // Shaping sees a few letters beyond the line's ends.
  return JSON.stringify([start, leftPt, words.slice(Math.max(0, start - 16), visibleEnd + 16), visibleEnd, style, own, inside]);
}

function judge(block: Block, setting: BlockSetting, lines: readonly (readonly GapLedger[])[], limits: TrackingLimits, faces: FaceSet): Inspection {
  const gaps = lines.flat();
  const all = RULES.flatMap(({ id, need, look }) =>
    look({ block, setting, lines, limits }).map((found): Finding => ({ rule: id, need, blockId: block.id, ...found })),
  );
  all.sort((a, b) => b.visiblePt - a.visiblePt || a.at - b.at);
  const silenced = ({ rule, at }: Finding): boolean => block.intended.some((known) => known.rule === rule && known.at === at);
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
