/** What a job rests on: faces, pictures and recipes that it names. */
import type { Job } from './schema';
import { allBlocks } from './sheets';

export type UseKind = 'face' | 'picture' | 'recipe';

/** One thing a job names. */
export interface Use {
  kind: UseKind;
  id: string;
}

/** Everything a job names, each once: faces of styles, parked kerning and pair rules, pictures of backgrounds and references, recipes that blocks follow. */
export function usesOf(job: Job): Use[] {
  const blocks = allBlocks(job);
  const faces = [
    ...blocks.flatMap(({ style, runs, parked }) => [style.faceId, ...runs.flatMap((run) => run.style.faceId ?? []), ...parked.map(({ faceId }) => faceId)]),
    ...job.pairs.map(({ faceId }) => faceId),
  ];
  const pictures = job.sheets.flatMap(({ background, reference }) => [
    ...(background.kind === 'picture' ? [background.pictureId] : []),
    ...(reference?.of.kind === 'picture' ? [reference.of.pictureId] : []),
  ]);
  const recipes = blocks.flatMap(({ recipeId }) => recipeId ?? []);
  const uses = (kind: UseKind, ids: readonly string[]): Use[] => [...new Set(ids)].map((id) => ({ kind, id }));
  return [...uses('face', faces), ...uses('picture', pictures), ...uses('recipe', recipes)];
}
