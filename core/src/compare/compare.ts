/** Two states of a job beside each other: everything that differs, in the words of the trade, and the edit that gives just that back. */
import {
  type Block,
  type Job,
  type PairRule,
  type Sheet,
  type StyleKey,
  changeFace,
  findBlock,
  graphemeBoundaries,
  removeBlock,
  removeSheet,
  restyle,
  sheetOf,
  styleName,
  updateBlock,
  withSheet,
} from '../job';
import { splicesBetween } from '../wording';
import { type LengthUnit, printSigned } from '../units';
import { type Aspect, BLOCK_ASPECTS, SHEET_ASPECTS, changedAspects, differ, printedValue } from './aspects';
import { carried, carriedOverrides, withOverrides, withPlain, withWordsOf } from './carried';
import { capitalised, inShort } from './in-short';

/** One thing that differs; plain data. */
export interface Change {
  /** Names it among the changes between the same two states. */
  id: string;
  /** Where it is; absent for the job as a whole. */
  sheetId?: string;
  sheet?: string;
  blockId?: string;
  /** The block's words in the later state, in short. */
  words?: string;
  /** The place in the later words it is about, a UTF-16 offset; absent for the whole block. */
  at?: number;
  /** The line that place is in, from 1; where the block is set and has several. */
  line?: number;
  /** The subject, such as `tracking` or `AV`. */
  what: string;
  from: string;
  to: string;
  /** All of it in one phrase: `Tracking: 50 → 0`, `Kerning of “AV”: none → −20`. */
  says: string;
}

/** A change with what undoes it in any later state of the job. */
interface Reversible extends Change {
  revert(job: Job): Job;
  /** Where it comes in turn: words last, since everything else is anchored in the later ones; sheets and blocks that come back before. */
  turn: 'things' | 'settings' | 'words';
}

export interface CompareOptions {
  /** How a face is called. */
  names?(faceId: string): string;
}

/** Everything that differs between two states of a job, sheet by sheet in the order of the later one. */
export const compareJobs = (before: Job, after: Job, options: CompareOptions = {}): Change[] =>
  reversible(before, after, options).map(({ revert: _back, turn: _turn, ...change }) => change);

const TURNS: readonly Reversible['turn'][] = ['things', 'settings', 'words'];

/**
 * Gives changes back, by their ids: the job is as it was before in just these. Ids that name none are passed over.
 * @param now the later state.
 */
export function revertChanges(before: Job, now: Job, ids: readonly string[]): Job {
  const wanted = new Set(ids);
  const chosen = reversible(before, now, {}).filter(({ id }) => wanted.has(id));
  return TURNS.flatMap((turn) => chosen.filter((change) => change.turn === turn)).reduce((job, change) => change.revert(job), now);
}

/** A change told by what it was and is. */
const told = (what: string, from: string, to: string): Pick<Change, 'what' | 'from' | 'to' | 'says'> => ({
  what,
  from,
  to,
  says: `${capitalised(what)}: ${from} → ${to}`,
});

function reversible(before: Job, after: Job, { names = (id) => id }: CompareOptions): Reversible[] {
  const earlier = new Map(before.sheets.map((sheet) => [sheet.id, sheet]));
  return [
    ...ofJob(before, after),
    ...after.sheets.flatMap((sheet) => {
      const was = earlier.get(sheet.id);
      return was ? ofSheet(before, after, was, sheet, names) : [sheetAdded(sheet)];
    }),
    ...before.sheets.flatMap((sheet, index) => (after.sheets.some(({ id }) => id === sheet.id) ? [] : [sheetGone(sheet, index)])),
  ];
}

function ofJob(before: Job, after: Job): Reversible[] {
  const found: Reversible[] = [];
  const setting = (id: 'title' | 'kind' | 'language', what: string): void => {
    if (before[id] === after[id]) return;
    found.push({
      id,
      ...told(what, before[id] ?? 'none', after[id] ?? 'none'),
      turn: 'settings',
      revert: (job) => ({ ...job, [id]: before[id] }),
    });
  };
  setting('title', 'title');
  setting('kind', 'kind of work');
  setting('language', 'language of the job');
  if (differ(orderIn(before.sheets, after.sheets), orderIn(after.sheets, before.sheets))) {
    found.push({
      id: 'sheets',
      ...{ what: 'order of sheets', from: '', to: '', says: 'Order of sheets changed' },
      turn: 'things',
      revert: (job) => ({ ...job, sheets: inOrder(job.sheets, before.sheets) }),
    });
  }
  return [...found, ...ofPairs(before.pairs, after.pairs)];
}

const keyOfRule = ({ left, right, faceId, scope }: PairRule): string => `pair ${left}${right} ${faceId} ${scope.kind === 'job' ? 'job' : scope.id}`;

function ofPairs(before: readonly PairRule[], after: readonly PairRule[]): Reversible[] {
  const [old, now] = [before, after].map((rules) => new Map(rules.map((rule) => [keyOfRule(rule), rule])));
  return [...new Set([...(old?.keys() ?? []), ...(now?.keys() ?? [])])].flatMap((id): Reversible[] => {
    const [was, is] = [old?.get(id), now?.get(id)];
    const rule = is ?? was;
    if (!rule || was?.milliem === is?.milliem) return [];
    const value = (one: PairRule | undefined): string => (one ? printSigned(one.milliem) : 'none');
    return [
      {
        id,
        ...told(`every ${rule.left}${rule.right}`, value(was), value(is)),
        turn: 'settings',
        revert: (job) => ({ ...job, pairs: [...job.pairs.filter((one) => keyOfRule(one) !== id), ...(was ? [was] : [])] }),
      },
    ];
  });
}

/** The ids of things that are in another list too, in their order. */
const orderIn = (things: readonly { id: string }[], others: readonly { id: string }[]): string[] => {
  const known = new Set(others.map(({ id }) => id));
  return things.map(({ id }) => id).filter((id) => known.has(id));
};

/** Things in the order they had; those that are new keep their places. */
function inOrder<T extends { id: string }>(things: readonly T[], before: readonly { id: string }[]): T[] {
  const rank = new Map(before.map(({ id }, i) => [id, i]));
  const known = things.filter(({ id }) => rank.has(id)).sort((a, b) => (rank.get(a.id) ?? 0) - (rank.get(b.id) ?? 0));
  return things.map((thing) => (rank.has(thing.id) ? (known.shift() ?? thing) : thing));
}

const ofWhole = (sheet: Sheet): Pick<Change, 'sheetId' | 'sheet'> => ({ sheetId: sheet.id, sheet: sheet.name });
const ofBlock = (sheet: Sheet, { id, words }: Block): Pick<Change, 'sheetId' | 'sheet' | 'blockId' | 'words'> => ({
  ...ofWhole(sheet),
  blockId: id,
  words: inShort(words),
});

const sheetAdded = (sheet: Sheet): Reversible => ({
  id: `added ${sheet.id}`,
  ...ofWhole(sheet),
  ...{ what: 'sheet', from: 'none', to: sheet.name, says: `Sheet added: “${sheet.name}”` },
  turn: 'things',
  revert: (job) => removeSheet(job, sheet.id),
});

const sheetGone = (sheet: Sheet, index: number): Reversible => ({
  id: `gone ${sheet.id}`,
  ...{ what: 'sheet', from: sheet.name, to: 'none', says: `Sheet deleted: “${sheet.name}”` },
  turn: 'things',
  revert: (job) => {
    if (job.sheets.some(({ id }) => id === sheet.id)) return job;
    // Blocks that are elsewhere by now stay there.
    const blocks = sheet.blocks.filter(({ id }) => !findBlock(job, id));
    return { ...job, sheets: job.sheets.toSpliced(Math.min(index, job.sheets.length), 0, { ...sheet, blocks }) };
  },
});

function ofSheet(before: Job, after: Job, was: Sheet, sheet: Sheet, names: (id: string) => string): Reversible[] {
  if (was === sheet) return [];
  const found = changedAspects(SHEET_ASPECTS, was, sheet).map((aspect): Reversible => ({
    id: `${sheet.id} ${aspect.id}`,
    ...ofWhole(sheet),
    ...toldAspect(aspect, was, sheet, sheet.unit),
    turn: 'settings',
    revert: (job) => withSheet(job, sheet.id, pick(was, aspect.keys)),
  }));
  if (differ(orderIn(was.blocks, sheet.blocks), orderIn(sheet.blocks, was.blocks))) {
    found.push({
      id: `${sheet.id} order`,
      ...ofWhole(sheet),
      ...{ what: 'order of blocks', from: '', to: '', says: 'Order of blocks changed' },
      turn: 'things',
      revert: (job) => ({ ...job, sheets: job.sheets.map((one) => (one.id === sheet.id ? { ...one, blocks: inOrder(one.blocks, was.blocks) } : one)) }),
    });
  }
  for (const block of sheet.blocks) {
    const old = findBlock(before, block.id);
    if (!old) found.push(blockAdded(sheet, block));
    else {
      const from = sheetOf(before, block.id);
      if (from && from.id !== sheet.id) found.push(blockMoved(sheet, from, block));
      found.push(...ofWords(sheet, old, block, names));
    }
  }
  was.blocks.forEach((block, index) => {
    if (!findBlock(after, block.id)) found.push(blockGone(sheet, block, index));
  });
  return found;
}

const blockAdded = (sheet: Sheet, block: Block): Reversible => ({
  id: `added ${block.id}`,
  ...ofBlock(sheet, block),
  ...{ what: 'block', from: 'none', to: inShort(block.words), says: `Block added: “${inShort(block.words)}”` },
  turn: 'things',
  revert: (job) => removeBlock(job, block.id),
});

const withBlock = (job: Job, sheetId: string, block: Block, index: number): Job => ({
  ...job,
  sheets: job.sheets.map((one) => (one.id === sheetId ? { ...one, blocks: one.blocks.toSpliced(Math.min(index, one.blocks.length), 0, block) } : one)),
});

const blockGone = (sheet: Sheet, block: Block, index: number): Reversible => ({
  id: `gone ${block.id}`,
  ...ofWhole(sheet),
  ...{ what: 'block', from: inShort(block.words), to: 'none', says: `Block deleted: “${inShort(block.words)}”` },
  turn: 'things',
  revert: (job) => (findBlock(job, block.id) ? job : withBlock(job, sheet.id, block, index)),
});

const blockMoved = (sheet: Sheet, from: Sheet, block: Block): Reversible => ({
  id: `moved ${block.id}`,
  ...ofBlock(sheet, block),
  ...told('sheet', from.name, sheet.name),
  turn: 'things',
  revert: (job) => {
    const now = findBlock(job, block.id);
    if (!now || !job.sheets.some(({ id }) => id === from.id)) return job;
    return withBlock(
      removeBlock(job, block.id),
      from.id,
      now,
      from.blocks.findIndex(({ id }) => id === block.id),
    );
  },
});

const pick = <T>(thing: T, keys: readonly (keyof T)[]): Partial<T> => Object.fromEntries(keys.map((key) => [key, thing[key]])) as Partial<T>;

function toldAspect<T>({ name, show, both, become }: Aspect<T>, was: T, is: T, unit: LengthUnit): Pick<Change, 'what' | 'from' | 'to' | 'says'> {
  const [from, to] = both?.(was, is) ?? [show(was, unit), show(is, unit)];
  const all = told(name, from, to);
  if (become) return { ...all, says: capitalised(become(was, is)) };
  // What is told in few words only can come out the same.
  return all.from === all.to ? { ...all, says: `${capitalised(name)} changed` } : all;
}

/** The differences of a block: its words, its style, single letters, gaps by hand, and all else. */
function ofWords(sheet: Sheet, old: Block, block: Block, names: (id: string) => string): Reversible[] {
  if (old === block) return [];
  const found: Reversible[] = [];
  const place = ofBlock(sheet, block);
  const id = (what: string): string => `${block.id} ${what}`;
  const edit = (change: (now: Block) => Block) => (job: Job) => updateBlock(job, block.id, change);
  const was = carried(old, block.words);
  if (old.words !== block.words) {
    const told = toldWords(old.words, block.words);
    found.push({ id: id('words'), ...place, ...told, turn: 'words', revert: edit((now) => withWordsOf(now, old)) });
  }
  for (const key of Object.keys(block.style) as StyleKey[]) {
    const [from, to] = [was.style[key], block.style[key]];
    if (differ(from, to)) {
      found.push({
        id: id(key),
        ...place,
        ...told(styleName(key), printedValue(key, from, names), printedValue(key, to, names)),
        turn: 'settings',
        revert: (job) => {
          // A face comes back with the hand kerning that it had; what was made for the other one waits for that.
          const back =
            key === 'faceId'
              ? updateBlock(changeFace(job, block.id, was.style.faceId), block.id, (now) => ({ ...now, hand: was.hand }))
              : restyle(job, block.id, { [key]: from });
          return updateBlock(back, block.id, (now) => withPlain(now, key, to, was.runs));
        },
      });
    }
    found.push(...ofLetters(was, block, key, names).map((change) => ({ ...place, ...change, id: id(`letters ${key}`) })));
  }
  found.push(...ofHand(was, block).map((change) => ({ ...place, ...change, id: id(change.id) })));
  for (const aspect of changedAspects(BLOCK_ASPECTS, was, block)) {
    found.push({
      id: id(aspect.id),
      ...place,
      ...toldAspect(aspect, was, block, sheet.unit),
      turn: 'settings',
      revert: edit((now) => ({ ...now, ...pick(was, aspect.keys) })),
    });
  }
  return found;
}

/** The words around the first place where words differ, as they were and as they are. */
function toldWords(before: string, after: string): Pick<Change, 'at' | 'what' | 'from' | 'to' | 'says'> {
  const splices = splicesBetween(before, after);
  const { start, end, insert } = splices[splices.length - 1] ?? { start: 0, end: 0, insert: '' };
  const from = before.slice(0, start).search(/\S*$/u);
  const behind = /^\S*/u.exec(before.slice(end))?.[0].length ?? 0;
  const quoted = (words: string): string => (words.trim() === '' ? 'none' : `“${inShort(words)}”`);
  const [was, is] = [quoted(before.slice(from, end + behind)), quoted(after.slice(from, start + insert.length + behind))];
  // What does not show: blanks that keep words together, and places where words may be divided.
  if (was !== 'none' && shownAs(was) === shownAs(is)) {
    const tied = is.length === was.length && /[\u00a0\u202f]/.test(is) && !/[\u00a0\u202f]/.test(was);
    const says = tied ? `Kept together: ${was}` : is.length > was.length ? `Hyphenation added: ${was}` : `Released: ${shownAs(was)}`;
    return { at: from, what: 'words', from: was, to: is, says };
  }
  const more = splices.length > 1 ? ` and ${splices.length - 1} more` : '';
  return { at: from, what: 'words', from: was, to: is, says: `Words: ${was} → ${is}${more}` };
}

const shownAs = (words: string): string => words.replace(/[\u00a0\u202f]/g, ' ').replaceAll('\u00ad', '');

/** Letters that have a value of their own for a property. */
function ofLetters(was: Block, block: Block, key: StyleKey, names: (id: string) => string): Reversible[] {
  const plain = block.style[key];
  const [old, now] = [was, block].map(({ runs }) => carriedOverrides(runs, key).filter(({ value }) => differ(value, plain)));
  if (!old || !now || !differ(old, now)) return [];
  const first = now.find((one) => !old.some((other) => !differ(one, other))) ?? old.find((one) => !now.some((other) => !differ(one, other)));
  const { start, end } = first ?? { start: 0, end: 0 };
  const value = (list: typeof old): string => {
    const own = list.find((one) => one.start < end && one.end > start);
    return printedValue(key, own ? own.value : list === old ? was.style[key] : plain, names);
  };
  return [
    {
      id: '',
      at: start,
      ...told(`${styleName(key)} of “${inShort(block.words.slice(start, end))}”`, value(old), value(now)),
      turn: 'settings',
      revert: (job) => updateBlock(job, block.id, (one) => withOverrides(one, key, carriedOverrides(was.runs, key))),
    },
  ];
}

/** Gaps by hand, each for itself. */
function ofHand(was: Block, block: Block): Reversible[] {
  const [old, now] = [was, block].map(({ hand }) => new Map(hand.map(({ at, milliem }) => [at, milliem])));
  if (!old || !now || !differ(was.hand, block.hand)) return [];
  const boundaries = [0, ...graphemeBoundaries(block.words), block.words.length];
  const places = [...new Set([...old.keys(), ...now.keys()])].filter((at) => old.get(at) !== now.get(at)).sort((a, b) => a - b);
  let b = 0;
  return places.map((at): Reversible => {
    while (b < boundaries.length && (boundaries[b] ?? 0) < at) b++;
    const pair = block.words.slice(boundaries[b - 1] ?? 0, boundaries[b + 1] ?? block.words.length).replaceAll('\n', ' ');
    const [from, to] = [old.get(at), now.get(at)];
    const value = (milliem: number | undefined): string => (milliem === undefined ? 'none' : printSigned(milliem));
    return {
      id: `hand ${at}`,
      at,
      ...{ ...told(`kerning of “${pair}”`, value(from), value(to)), what: pair },
      turn: 'settings',
      revert: (job) =>
        updateBlock(job, block.id, (one) => {
          const others = one.hand.filter((kern) => kern.at !== at);
          return { ...one, hand: from === undefined ? others : [...others, { at, milliem: from }].sort((p, q) => p.at - q.at) };
        }),
    };
  });
}
