/** The things a job uses: faces, pictures and recipes that it names. */
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

/** A job that names other things: `nameOf` gives each its new name, and null to a recipe that blocks are to leave. */
export function renameUses(job: Job, nameOf: (use: Use) => string | null): Job {
  const named = (kind: UseKind, id: string): string => nameOf({ kind, id }) ?? id;
  const face = <T extends { faceId?: string | undefined }>(one: T): T => (one.faceId === undefined ? one : { ...one, faceId: named('face', one.faceId) });
  const picture = <T extends { pictureId: string }>(one: T): T => ({ ...one, pictureId: named('picture', one.pictureId) });
  return {
    ...job,
    pairs: job.pairs.map(face),
    sheets: job.sheets.map((sheet) => ({
      ...sheet,
      background: sheet.background.kind === 'picture' ? picture(sheet.background) : sheet.background,
      reference: sheet.reference?.of.kind === 'picture' ? { ...sheet.reference, of: picture(sheet.reference.of) } : sheet.reference,
      blocks: sheet.blocks.map((block) => ({
        ...block,
        style: face(block.style),
        runs: block.runs.map((run) => ({ ...run, style: face(run.style) })),
        parked: block.parked.map(face),
        recipeId: block.recipeId === null ? null : nameOf({ kind: 'recipe', id: block.recipeId }),
      })),
    })),
  };
}
