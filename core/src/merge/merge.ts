/**
 * What two people made of one job, put together: each block, each field of a sheet and of the job is taken from whoever changed it.
 * Where both changed the same they clash, and somebody has to choose. Pure functions.
 */
import type { Block, Job, Sheet } from '../job';

/** What both changed: a block, a field of a sheet, or one of the job; by the identifier of the block or sheet. */
export type Clash = { kind: 'block'; id: string } | { kind: 'sheet'; id: string; field: string } | { kind: 'job'; field: string };

export interface Merged {
  /** Where they clash it has what is mine. */
  job: Job;
  clashes: Clash[];
}

/** Equal in what they say; what is shared is not looked into. */
const same = (one: unknown, other: unknown): boolean => one === other || JSON.stringify(one) === JSON.stringify(other);

/** What became of one thing: undefined where it is not there. @returns what goes on */
type Choose<T> = (was: T | undefined, mine: T | undefined, theirs: T | undefined) => T | undefined;

/** The job of a base as others have changed it, to be put together with any state that came from the same base. */
export function mergerOf(base: Job, theirs: Job): (mine: Job) => Merged {
  const known = new Map<object, boolean>();
  /** Whether they left something as it was: asked for many states. */
  const untouched = <T>(was: T | undefined, now: T | undefined): boolean => {
    if (typeof now !== 'object' || now === null) return same(was, now);
    let answer = known.get(now);
    if (answer === undefined) known.set(now, (answer = same(was, now)));
    return answer;
  };
  return (mine) => {
    const clashes: Clash[] = [];
    const either =
      <T>(clash: () => Clash): Choose<T> =>
      (was, own, other) => {
        if (untouched(was, other) || same(own, other)) return own;
        if (same(was, own)) return other;
        clashes.push(clash());
        // What one took away and the other worked on stays.
        return own ?? other;
      };
    const fields = <T extends object>(was: T, own: T, other: T, apart: keyof T, clash: (field: string) => Clash): T => {
      const keys = [...new Set([...Object.keys(own), ...Object.keys(other)])].filter((key) => key !== apart) as (keyof T & string)[];
      const changed = keys.flatMap((key) => {
        const chosen = either<T[typeof key]>(() => clash(key))(was[key], own[key], other[key]);
        return chosen === own[key] ? [] : [[key, chosen] as const];
      });
      return changed.length === 0 ? own : { ...own, ...Object.fromEntries(changed) };
    };
    const block = (id: string): Choose<Block> => either(() => ({ kind: 'block', id }));
    const sheet =
      (id: string): Choose<Sheet> =>
      (was, own, other) => {
        if (!was || !own || !other) return either<Sheet>(() => ({ kind: 'sheet', id, field: 'sheet' }))(was, own, other);
        if (untouched(was, other)) return own;
        const blocks = list(was.blocks, own.blocks, other.blocks, block);
        const rest = fields(was, own, other, 'blocks', (field) => ({ kind: 'sheet', id, field }));
        return rest === own && blocks === own.blocks ? own : { ...rest, blocks: [...blocks] };
      };
    const sheets = list(base.sheets, mine.sheets, theirs.sheets, sheet);
    const rest = fields(base, mine, theirs, 'sheets', (field) => ({ kind: 'job', field }));
    return { job: rest === mine && sheets === mine.sheets ? mine : { ...rest, sheets: [...sheets] }, clashes };
  };
}

/** Things with names, each chosen by itself, in the order of whoever changed the order. */
function list<T extends { id: string }>(was: readonly T[], mine: readonly T[], theirs: readonly T[], choose: (id: string) => Choose<T>): readonly T[] {
  const [before, own, other] = [was, mine, theirs].map((all) => new Map(all.map((one) => [one.id, one]))) as [Map<string, T>, Map<string, T>, Map<string, T>];
  const chosen = new Map<string, T>();
  for (const id of new Set([...own.keys(), ...other.keys()])) {
    const one = choose(id)(before.get(id), own.get(id), other.get(id));
    if (one) chosen.set(id, one);
  }
  const found = ordered(was, mine, theirs).flatMap((id) => chosen.get(id) ?? []);
  return found.length === mine.length && found.every((one, i) => one === mine[i]) ? mine : found;
}

/** All names, as the one who moved things has them; what only the other has stands behind what it stands behind there. */
function ordered(was: readonly { id: string }[], mine: readonly { id: string }[], theirs: readonly { id: string }[]): string[] {
  const kept = (of: readonly { id: string }[], among: ReadonlySet<string>): string => of.filter(({ id }) => among.has(id)).map(({ id }) => id).join('\n'); // prettier-ignore
  const [ownIds, oldIds] = [new Set(mine.map(({ id }) => id)), new Set(was.map(({ id }) => id))];
  const moved = kept(mine, oldIds) !== kept(was, ownIds);
  const [first, second] = moved ? [mine, theirs] : [theirs, mine];
  const order = first.map(({ id }) => id);
  second.forEach(({ id }, i) => {
    if (order.includes(id)) return;
    const behind = second.slice(0, i).findLast((one) => order.includes(one.id));
    order.splice(behind ? order.indexOf(behind.id) + 1 : 0, 0, id);
  });
  return order;
}
