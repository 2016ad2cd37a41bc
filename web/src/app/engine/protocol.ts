/** The messages between page and engine worker. Plain data only. */
import type { DealRequest, Exercise } from '@jentrix/core/drill';
import type { AxisValues, FaceMetrics } from '@jentrix/core/face';
import type { Finding, Inspection, JobCheck, Judge, Proposal, ShortLastLine } from '@jentrix/core/findings';
import type { inOtherSizes } from '@jentrix/core/sizes';
import type { Block, Job, JobKind, Sheet, SheetPreset, Style, WordRange } from '@jentrix/core/job';
import type { CutOptions, FirstCut } from '@jentrix/core/refine';
import type { Sibling, SmallForm, SmallKind } from '@jentrix/core/superiors';
import type { Taste } from '@jentrix/core/taste';
import type { SentSetting } from './same-lines';
import type { Alternate, BlockSetting, Box, GapLedger, GapWhite, LineGap, LiveFeature } from '@jentrix/core/setting';
import type { GapOfJob, GivenWhite, WhiteTarget } from '@jentrix/core/same-white';

/** Identifies a face at an axis position: outlines and metrics are kept under it. */
export const instanceKey = ({ faceId, axes }: Pick<Style, 'faceId' | 'axes'>): string => {
  const position = Object.entries(axes).map(([tag, value]) => `${tag}=${value}`);
  return position.length === 0 ? faceId : `${faceId}?${position.join('&')}`;
};

/** A gap somewhere in the job. */
export interface GapRef {
  blockId: string;
  at: number;
}

export interface SetRequest {
  /** Blocks to set, each once, pair rules resolved. */
  blocks: Block[];
  /** Also answer with the ledgers of the line that holds this gap. */
  focus?: GapRef;
  /** Also answer with the white between the lines of this block, by ink. */
  lineGapsOf?: string;
}

/** A request to inspect a sheet whose blocks were set. */
export interface InspectRequest {
  /** The kind of job: it says from where its sheets are read. */
  kind: JobKind;
  /** The sheet without its blocks, and which those are, in its order. */
  sheet: Omit<Sheet, 'blocks'>;
  blockIds: readonly string[];
  /** The blocks to measure, as they were set last. */
  changed: readonly string[];
}

export interface InspectReply {
  blocks: Inspection[];
  /** The findings of the sheet as a whole. */
  sheet: Finding[];
}

/** The data to draw an instance. */
export interface InstanceDrawing {
  unitsPerEm: number;
  metrics: FaceMetrics;
  /** Path data in font units with y down, by glyph; only glyphs that were not sent before. */
  outlines: [glyphId: number, data: string][];
}

/** The reply to setting blocks, as it is sent. */
export type SentReply = Omit<SetReply, 'settings'> & { settings: SentSetting[] };

export interface SetReply {
  settings: BlockSetting[];
  /** The ink of every block, not turned; none where it has none. */
  inks: [blockId: string, ink: Box | undefined][];
  instances: [key: string, drawing: InstanceDrawing][];
  focus?: { lineIndex: number; ledgers: GapLedger[]; white: GapWhite | undefined };
  lineGaps?: LineGap[];
}

/** Blocks that are only tried, set and measured. */
export interface TrialReply {
  settings: BlockSetting[];
  inspections: Inspection[];
  instances: SetReply['instances'];
}

/** The abilities of a face for some words. */
export interface FaceProbe {
  features: LiveFeature[];
  /** Filled for a single letter: its glyphs, with path data in font units, y down. */
  alternates: (Alternate & { data: string; advance: number })[];
  namedInstances: { name: string; values: AxisValues }[];
  unitsPerEm: number;
}

/** Recommended tracking of a face over the sizes, in 1/1000 em. */
export interface TrackingCurve {
  points: { sizePt: number; milliem: number }[];
  recommended: number;
  /** Why, in one line. */
  reasons: string;
  suitsPt: number;
}

/** A short last line with the block it is in. */
export type ShortLastLineOfBlock = ShortLastLine & { blockId: string };

/** The worker's methods. */
export interface Engine {
  /** Tells the engine which faces exist and which stands in for others. */
  start(origin: string, faceIds: string[], standInId: string): Promise<void>;
  /** @param taste the hand of the designer, by which ledgers say what a gap should hold. */
  set(request: SetRequest, taste: Taste): Promise<SentReply>;
  /** Measures every gap of blocks that were set, and asks every rule. */
  inspect(request: InspectRequest, judge: Judge): Promise<InspectReply>;
  /** Sets and measures blocks that are only tried: nothing of them is kept. */
  tryOut(blocks: Block[], judge: Judge): Promise<TrialReply>;
  /** Takes up faces that came since, or that went. */
  know(faceIds: string[]): Promise<void>;
  /** Recommended tracking for a style, over sizes and at its own. */
  advise(style: Pick<Style, 'faceId' | 'axes' | 'sizePt'>, how: { capitals: boolean; lightOnDark: boolean }): Promise<TrackingCurve>;
  /**
   * The sheet as SVG with some of its blocks only, in the sheet's order.
   * @param pictures as `data:` addresses.
   */
  svg(sheet: Sheet, blockIds: readonly string[], pictures: ReadonlyMap<string, string>): Promise<string>;
  /** The whole round by measure; blocks whose faces can't be had are left as they are. */
  firstCut(job: Job, options: CutOptions): Promise<FirstCut>;
  /** Letters of a block that was set, as SVG path data where they stand on their sheet. */
  outlines(blockId: string, letters: readonly WordRange[]): Promise<string>;
  /** The ways to set letters small in a style's face. */
  smallForms(style: Pick<Style, 'faceId' | 'axes' | 'features'>, text: string, kind: SmallKind, family: readonly Sibling[]): Promise<SmallForm[]>;
  /** The short last lines of blocks, each with what would take it up; blocks whose faces can’t be had have none. */
  shortLastLines(blocks: readonly Block[], judge: Judge): Promise<ShortLastLineOfBlock[]>;
  /** Everything that is found in a job; blocks whose faces can’t be had are passed over. */
  check(job: Job, judge: Judge): Promise<JobCheck>;
  /** A fitted block that was set, in the plain values it came to. */
  releaseFit(blockId: string): Promise<Block | undefined>;
  /** Gives the white of a gap to others: see `giveWhite` of setting. */
  giveWhite(job: Job, from: GapOfJob & { whiteMilliem?: number | undefined }, to: WhiteTarget): Promise<GivenWhite | undefined>;
  /** Leading for lines that a fit would make meet. @param fitted the block with its fit, resolved. */
  ledApart(fitted: Block): Promise<Proposal | undefined>;
  /** The design of a sheet in other sizes. */
  sizes(job: Job, sheetId: string, sizes: readonly SheetPreset[]): Promise<ReturnType<typeof inOtherSizes>>;
  /** Deals an exercise for the eye. */
  deal(plain: Block, request: DealRequest): Promise<Exercise>;
  /** The abilities of a face for words at its axis position. */
  probe(style: Pick<Style, 'faceId' | 'axes' | 'features'>, words: string): Promise<FaceProbe>;
}
