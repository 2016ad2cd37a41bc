/** A step of the first cut: a pass of the craft, carried out by measure. */
import type { BlockView, Finding } from '../findings';
import type { Job, Sheet, Style } from '../job';

/** The kerning sources the first cut can use. */
export const KERNING_SOURCES = ['weighed', 'shape', 'font'] as const satisfies readonly Style['kerning'][];
export type KerningSource = (typeof KERNING_SOURCES)[number];

/** A block as a step looks at it. */
export interface StepView extends BlockView {
  /** The sheet it stands on. */
  sheet: Sheet;
  /** Its findings. */
  findings: readonly Finding[];
  /** The kerning source of the words. */
  kerning: KerningSource;
  /** How much of what the shapes propose counts, 0 to 2. */
  kerningStrength: number;
}

/** One thing that a step would do to a block. */
export interface StepChange {
  /** The part of the block it is about; one of a kind in its step and block. */
  what: string;
  /** Before and after, as people read them; empty where there is nothing to compare. */
  from: string;
  to: string;
  /** How many places it changes. */
  places: number;
  /** True where somebody asked for exactly this: it is carried out even if evenness falls. */
  asked?: boolean;
  edit(job: Job): Job;
}

/** A step: adding one is a definition of its own and a line in the table of `steps.ts`. */
export interface CutStep {
  id: string;
  /** The pass it belongs to, as people read it. */
  name: string;
  /** The passes whose findings alone say whether words are worse for it, where it moves letters that later steps, or nobody, will space again. */
  judgedBy?: readonly string[];
  /** Proposes changes to a block as it stands now; nothing where that is as it should be. */
  propose(view: StepView): readonly StepChange[];
}
