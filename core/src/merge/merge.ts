/**
 * The merge of two people's changes to a job: each block, each field of a sheet and of the job is taken from whoever changed it.
 * Where both changed the same they clash, and somebody has to choose. Pure functions.
 */
import { type Block, type Job, type Sheet, sameValue, spliceWords } from '../job';
import { carriedSplices, splicesBetween } from '../wording';

/** A conflict. */
export type Clash = { kind: 'block'; id: string } | { kind: 'sheet'; id: string; field: string } | { kind: 'job'; field: string };

export interface Merged {
  /** Where they clash it has what is mine. */
  job: Job;
  clashes: Clash[];
}

/** Chooses between two values of one thing, each undefined where it is not there: undefined where it is not there. @returns what goes on */
type Choose<T> = (was: T | undefined, mine: T | undefined, theirs: T | undefined) => T | undefined;

export interface MergeOptions {
  /** The side that wins where both changed the same; mine unless stated. */
  prefer?: 'mine' | 'theirs';
  /** A block that both changed is put together setting by setting, so that only one setting changed twice is a clash. */
  withinBlocks?: boolean;
}

/** The job of a base as others have changed it, to be put together with any state that came from the same base. */
export function mergerOf(base: Job, theirs: Job, { prefer = 'mine', withinBlocks = false }: MergeOptions = {}): (mine: Job) => Merged {
  const known = new Map<object, boolean>();
  /** Whether they left something as it was: asked for many states. */
  const untouched = <T>(was: T | undefined, now: T | undefined): boolean => {
    if (typeof now !== 'object' || now === null) return sameValue(was, now);
    let answer = known.get(now);
    if (answer === undefined) known.set(now, (answer = sameValue(was, now)));
    return answer;
  };
  return (mine) => {
    const clashes: Clash[] = [];
    const either =
      <T>(clash: () => Clash): Choose<T> =>
      (was, own, other) => {
        if (untouched(was, other) || sameValue(own, other)) return own;
        if (sameValue(was, own)) return other;
        clashes.push(clash());
        // What one took away and the other worked on stays.
        return prefer === 'mine' ? (own ?? other) : (other ?? own);
      };
    const block =
      (id: string): Choose<Block> =>
      (was, own, other) => {
        const whole = either<Block>(() => ({ kind: 'block', id }));
        if (!withinBlocks || !was || !own || !other || untouched(was, other) || sameValue(was, own)) return whole(was, own, other);
        return blockWithin(
          was,
          own,
          other,
          either<unknown>(() => ({ kind: 'block', id })),
        );
      };
    const sheet =
      (id: string): Choose<Sheet> =>
      (was, own, other) => {
        if (!was || !own || !other) return either<Sheet>(() => ({ kind: 'sheet', id, field: 'sheet' }))(was, own, other);
        if (untouched(was, other)) return own;
        const blocks = mergeList(was.blocks, own.blocks, other.blocks, block);
        const rest = fields(was, own, other, (field) => (field === 'blocks' ? KEEP : either(() => ({ kind: 'sheet', id, field }))));
        return rest === own && blocks === own.blocks ? own : { ...rest, blocks: [...blocks] };
      };
    const sheets = mergeList(base.sheets, mine.sheets, theirs.sheets, sheet);
    const rest = fields(base, mine, theirs, (field) => (field === 'sheets' ? KEEP : either(() => ({ kind: 'job', field }))));
    return { job: rest === mine && sheets === mine.sheets ? mine : { ...rest, sheets: [...sheets] }, clashes };
  };
}

/** Put together elsewhere: stays as it is. */
const KEEP = <T>(_was: T | undefined, own: T | undefined): T | undefined => own;

/** Takes theirs, whatever mine is. */
const THEIRS = <T>(_was: T | undefined, _own: T | undefined, other: T | undefined): T | undefined => other;

/** Settings anchored to places in the words: taken as one where the edits of two people can't be told apart in them. */
const IN_WORDS = ['words', 'runs', 'hand', 'parked', 'intended', 'lineLeading', 'lineIndents', 'tightened'] as const satisfies readonly (keyof Block)[];
/** Lists of one value a place. */
const BY_PLACE: ReadonlySet<string> = new Set<keyof Block>(['hand', 'lineLeading', 'lineIndents']);

/** The members of a thing, each chosen by itself. */
function fields<T extends object>(was: T, own: T, other: T, choose: (key: string) => Choose<unknown>): T {
  const [before, mine, theirs] = [was, own, other] as Record<string, unknown>[] as [Members, Members, Members];
  const changed = [...new Set([...Object.keys(mine), ...Object.keys(theirs)])].flatMap((key) => {
    const chosen = choose(key)(before[key], mine[key], theirs[key]);
    return chosen === mine[key] ? [] : [[key, chosen] as const];
  });
  return changed.length === 0 ? own : { ...own, ...Object.fromEntries(changed) };
}
type Members = Record<string, unknown>;

/** A block that both changed, setting by setting. */
function blockWithin(was: Block, own: Block, other: Block, choose: Choose<unknown>): Block {
  const [before, mine, theirs] = inOneText(was, own, other);
  const sameWords = mine.words === theirs.words;
  return fields(before, mine, theirs, (key) => {
    if (!sameWords && (IN_WORDS as readonly string[]).includes(key)) return THEIRS;
    if (key === 'style' || key === 'frame') return (one, two, three) => fields(one as object, two as object, three as object, () => choose);
    if (BY_PLACE.has(key)) return (one, two, three) => byPlace(one as Placed[], two as Placed[], three as Placed[], choose as Choose<Placed>);
    return choose;
  });
}

/** Three states of a block, each with both people's edits of its words: what stands at places in them is then at the same places in all. */
function inOneText(was: Block, own: Block, other: Block): readonly [Block, Block, Block] {
  const [ownEdits, otherEdits] = [splicesBetween(was.words, own.words), splicesBetween(was.words, other.words)];
  if (ownEdits.length === 0 && otherEdits.length === 0) return [was, own, other];
  const ownOnTheirs = carriedSplices(ownEdits, was.words, other.words);
  const mine = carriedSplices(otherEdits, was.words, own.words).reduce(spliceWords, own);
  return [ownOnTheirs.reduce(spliceWords, otherEdits.reduce(spliceWords, was)), mine, ownOnTheirs.reduce(spliceWords, other)];
}

interface Placed {
  at: number;
}

/** Values at places, each chosen by itself. */
function byPlace(was: readonly Placed[], own: readonly Placed[], other: readonly Placed[], choose: Choose<Placed>): readonly Placed[] {
  const [before, mine, theirs] = [was, own, other].map((all) => new Map(all.map((one) => [one.at, one]))) as [
    Map<number, Placed>,
    Map<number, Placed>,
    Map<number, Placed>,
  ];
  const places = [...new Set([...mine.keys(), ...theirs.keys()])].sort((a, b) => a - b);
  const found = places.flatMap((at) => choose(before.get(at), mine.get(at), theirs.get(at)) ?? []);
  return found.length === own.length && found.every((one, i) => one === own[i]) ? own : found;
}

/**
 * The state that others started from, of those they may have started from: the one their job differs least from. A write whose answer was
 * lost may have been taken, so that theirs rests on it and not on what the server was last heard to have.
 * @param base the job last known to be on the server: taken where nothing is nearer. @param sent writes that were never answered
 */
export function startedFrom(base: Job, sent: readonly Job[], theirs: Job): Job {
  let [nearest, least] = [base, differences(base, theirs)];
  for (const job of sent) {
    const count = differences(job, theirs);
    if (count < least) [nearest, least] = [job, count];
  }
  return nearest;
}

/** How many blocks, fields of sheets and fields of the job differ. */
function differences(one: Job, other: Job): number {
  const things = (job: Job): Map<string, unknown> => {
    const all: [string, unknown][] = Object.entries(job).filter(([key]) => key !== 'sheets');
    for (const sheet of job.sheets) {
      for (const [key, value] of Object.entries(sheet)) if (key !== 'blocks') all.push([`${sheet.id} ${key}`, value]);
      all.push([`${sheet.id} order`, sheet.blocks.map(({ id }) => id)]);
      for (const block of sheet.blocks) all.push([`block ${block.id}`, block]);
    }
    return new Map(all);
  };
  const [first, second] = [things(one), things(other)];
  return [...new Set([...first.keys(), ...second.keys()])].filter((key) => !sameValue(first.get(key), second.get(key))).length;
}

/** Things with names, each chosen by itself, in the order of whoever changed the order. */
function mergeList<T extends { id: string }>(was: readonly T[], mine: readonly T[], theirs: readonly T[], choose: (id: string) => Choose<T>): readonly T[] {
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
  const kept = (of: readonly { id: string }[], among: ReadonlySet<string>): string =>
    of
      .filter(({ id }) => among.has(id))
      .map(({ id }) => id)
      .join('\n');
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
