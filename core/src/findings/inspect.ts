/** Inspecting: measuring every gap of a block and asking every rule. */
import type { Block } from '../job';
import { type BlockSetting, type FaceSet, type GapLedger, ledgersOf } from '../setting';
import { evenness } from '../spacing';
import type { Finding } from './finding';
import { RULES } from './rules';

/** What is known of a block after measuring it; plain data. */
export interface Inspection {
  blockId: string;
  /** 0 to 100; undefined where there are too few pairs. */
  evenness: number | undefined;
  /** What it would be with every gap as proposed. */
  evennessProposed: number | undefined;
  lineEvenness: (number | undefined)[];
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
export function inspectBlock(block: Block, setting: BlockSetting, faces: FaceSet): Inspection {
  const lines = setting.lines.map((line) => ledgersOf(block, line, faces));
  const gaps = lines.flat();
  const all = RULES.flatMap(({ id, need, look }) => look({ block, setting, lines }).map((found): Finding => ({ rule: id, need, blockId: block.id, ...found })));
  all.sort((a, b) => b.visiblePt - a.visiblePt || a.at - b.at);
  const silenced = ({ rule, at }: Finding): boolean => block.intended.some((known) => known.rule === rule && known.at === at);
  return {
    blockId: block.id,
    evenness: evenness(deviations(gaps)),
    deviations: deviations(gaps),
    proposedDeviations: proposed(gaps),
    evennessProposed: evenness(proposed(gaps)),
    lineEvenness: lines.map((line) => evenness(deviations(line))),
    findings: all.filter((finding) => !silenced(finding)),
    intended: all.filter(silenced),
  };
}
