/** Reverted changes of a first cut, which stay reverted until the words or the face change: kept among what they have silenced in the block. */
import { type Block, REVERTED_PREFIX, type Job, findBlock, updateBlock } from '../job';
import { facesOf } from '../setting';
import type { FirstCut } from './first-cut';

/** Names a change of a block as its words and faces are now, as a rule that can be silenced. */
const markOf = (block: Block, step: string, what: string): string => `${REVERTED_PREFIX}${step}.${digest(JSON.stringify([what, block.words, facesOf(block)]))}`;

/** A short name for a text (FNV-1a, 32 bits): of two texts in one block's life hardly two have the same. */
function digest(text: string): string {
  let hash = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193);
  return (hash >>> 0).toString(36);
}

/** True for a change that was reverted while the block had the words and faces it has now. */
export const isReverted = (block: Block, step: string, what: string): boolean => {
  const mark = block.intended.some(({ rule }) => rule.startsWith(REVERTED_PREFIX)) ? markOf(block, step, what) : undefined;
  return mark !== undefined && block.intended.some(({ rule }) => rule === mark);
};

/** The job a first cut has made, in which what was reverted of its steps is remembered, and nothing else of them. */
export function rememberReverted({ job, steps }: Pick<FirstCut, 'job' | 'steps'>): Job {
  const asked = steps.map(({ id }) => `${REVERTED_PREFIX}${id}.`);
  const isAsked = ({ rule }: Block['intended'][number]): boolean => asked.some((begins) => rule.startsWith(begins));
  const back = steps.flatMap(({ items }) => items.filter(({ kept }) => !kept));
  return job.sheets
    .flatMap(({ blocks }) => blocks)
    .reduce((next, { id }) => {
      const block = findBlock(next, id);
      const marks = block ? back.filter(({ blockId }) => blockId === id).map(({ step, what }) => markOf(block, step, what)) : [];
      const known = block?.intended.filter(isAsked).map(({ rule }) => rule) ?? [];
      if (!block || (known.length === marks.length && marks.every((mark) => known.includes(mark)))) return next;
      const others = block.intended.filter((one) => !isAsked(one));
      return updateBlock(next, id, (one) => ({ ...one, intended: [...others, ...marks.map((rule) => ({ rule, at: 0 }))] }));
    }, job);
}
