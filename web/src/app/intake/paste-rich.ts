/** Words that were copied elsewhere, with what they look like there. Loaded when the first are pasted. */
import type { Injector } from '@angular/core';
import { type Job, type Style, findBlock, restyle, styleAt } from '@jentrix/core/job';
import { type Passage, pastePassage } from '@jentrix/core/wording';
import { faceLike, isRich, passageOf, readHtml } from '@jentrix/core/rich-text';
import { EngineService } from '../engine/engine.service';
import { ToastService } from '../ui/toasts';
import type { OpenJob } from './onto-bench';

/** HTML as a passage among words of a style: bold and italic in their own family, sizes and colours as they were. */
export function passageFrom(html: string, base: Style, injector: Injector): { passage: Passage; rich: boolean } {
  const faces = new Map(injector.get(EngineService).faces.map(({ id, family, weight, italic }) => [id, { family, posture: { weight, italic } }]));
  const paragraphs = readHtml(html);
  const own = faces.get(base.faceId)?.posture;
  // Words that are not bold or slanted where they come from are set as those around them.
  const faceFor = ({ bold, italic }: { bold: boolean; italic: boolean }): string =>
    bold || italic ? faceLike(faces, base.faceId, { bold: bold || (own?.weight ?? 400) >= 600, italic: italic || (own?.italic ?? false) }) : base.faceId;
  return { passage: passageOf(paragraphs, base, faceFor), rich: isRich(paragraphs) };
}

/** Puts HTML in the place of part of a block's words. @returns where the pasted words end; undefined where the block is gone */
export function pasteRich(
  html: string,
  { blockId, start, end }: { blockId: string; start: number; end: number },
  store: Pick<OpenJob, 'job' | 'apply'>,
  injector: Injector,
): number | undefined {
  const block = store.job && findBlock(store.job, blockId);
  if (!block) return undefined;
  const base = styleAt(block, start);
  const { passage, rich } = passageFrom(html, base, injector);
  store.apply((job) => pastePassage(job, blockId, start, end, passage));
  const pasted = { start, end: start + passage.words.length };
  const wordsOnly = (): void => store.apply((job: Job) => restyle(job, blockId, base, pasted));
  if (rich) injector.get(ToastService).say('Pasted with formatting.', { label: 'Text only', run: wordsOnly });
  return pasted.end;
}
