/** What the page and the engine worker say to each other. Plain data only. */
import type { FaceMetrics } from '@jentrix/core/face';
import type { Inspection } from '@jentrix/core/findings';
import type { Block, Style } from '@jentrix/core/job';
import type { BlockSetting, GapLedger, GapWhite } from '@jentrix/core/setting';

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
  focus?: { block: Block; at: number };
}

/** What the page has to know of an instance to draw it. */
export interface InstanceDrawing {
  unitsPerEm: number;
  metrics: FaceMetrics;
  /** Path data in font units with y down, by glyph; only glyphs that were not sent before. */
  outlines: [glyphId: number, data: string][];
}

export interface SetReply {
  settings: BlockSetting[];
  instances: [key: string, drawing: InstanceDrawing][];
  focus?: { lineIndex: number; ledgers: GapLedger[]; white: GapWhite | undefined };
}

/** The worker's methods. */
export interface Engine {
  /** Tells the engine which faces exist and which stands in for others. */
  start(origin: string, faceIds: string[], standInId: string): Promise<void>;
  set(request: SetRequest): Promise<SetReply>;
  /** Measures every gap of blocks and asks every rule. */
  inspect(blocks: Block[]): Promise<Inspection[]>;
}
