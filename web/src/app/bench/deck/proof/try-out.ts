import type { Sheet } from '@jentrix/core/job';
import type { EngineService } from '../../../engine/engine.service';
import type { ShownSheet } from '../../state/instead';

/** A sheet set to be looked at, under names of its own: the engine keeps what is on the table. @param sheet resolved. */
export async function tryOutSheet(engine: EngineService, sheet: Sheet): Promise<ShownSheet> {
  const { settings } = await engine.tryOut(sheet.blocks.map((block) => ({ ...block, id: `shown-${block.id}` }))).catch(() => ({ settings: [] }));
  return { sheet, blocks: sheet.blocks.flatMap((block, i) => (settings[i] ? [{ block, setting: settings[i] }] : [])) };
}
