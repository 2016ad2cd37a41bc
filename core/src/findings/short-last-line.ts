/** Stranded words: last lines of one short word, and what would take them up, ranked by what it costs. */
import { leastRoom, leastTightening } from '../fitting';
import { type Block, type Tightened, type WordRange, tighten } from '../job';
import { type BlockSetting, type FaceSet, type ParagraphRoom, type SetLine, breakableAt, isHardBreak, setBlock, straightLines } from '../setting';
import { printSigned, printValue } from '../units';
import type { Proposal } from './proposals';
import type { TrackingLimits } from './rule';

/** One thing that could be done. */
export interface LineFix {
  kind: 'tighten' | 'tie' | 'even' | 'smaller' | 'wider';
  /** As people read it: what changes, where, by how much. */
  says: string;
  /** The lower, the less it is seen: 1 begins to show. */
  cost: number;
  proposal: Proposal;
}

/** A last line that stands alone. */
export interface ShortLastLine extends WordRange {
  words: string;
  widthPt: number;
  sizePt: number;
  /** Cheapest first; empty where nothing helps. */
  fixes: LineFix[];
}

/** Headlines from this size on, in points; lists at any size. Copy ends as it must. */
const HEADLINE_PT = 24;
/** A single word shorter than this share of its measure is too short, and so is any last line shorter than the second. */
const ALONE = 0.5;
const SHORT = 0.2;
/** A paragraph of more lines is copy. */
const MOST_LINES = 12;
/** Frames are made wider, and sizes smaller, by no more than this share. */
const MOST_WIDER = 0.15;
const MOST_SMALLER = 0.1;
/** Tightened lines are set anew and may miss their width slightly: each further try tightens by this much more, in 1/1000 em. */
const SPARE_TRIES = 4;
const SPARE_MILLIEM = 0.3;

/** The short last lines of a block, without what would fix them. */
export function shortLastLines(block: Block, setting: BlockSetting): SetLine[] {
  const { style, paragraph, grow } = block;
  if (grow === 'both' || setting.straight || (style.sizePt < HEADLINE_PT && paragraph.list === 'none')) return [];
  return setting.lines.filter((line, i) => {
    const above = setting.lines[i - 1];
    if ((setting.lines[i - MOST_LINES]?.end ?? 0) > paragraphOf(block.words, line.start)) return false;
    const ends = line.end >= block.words.length || isHardBreak(block.words.charAt(line.end));
    // Where the line above was broken by hand, this one is a paragraph of its own.
    if (!above || !ends || above.end !== line.start) return false;
    const shown = block.words.slice(line.start, line.visibleEnd).trim();
    if (shown === '') return false;
    const measure = setting.frame.widthPt;
    return line.widthPt < SHORT * measure || (!/\s/.test(shown) && line.widthPt < ALONE * measure);
  });
}

/** The short last lines of a block with their fixes. */
export function shortLastLineIn(block: Block, setting: BlockSetting, faces: FaceSet, limits: TrackingLimits): ShortLastLine[] {
  return shortLastLines(block, setting).map((line): ShortLastLine => {
    const { start, visibleEnd, widthPt, sizePt } = line;
    const { count } = lastLineOf(block, setting, start);
    const paragraph = breakableAt(block, faces, start);
    const room = roomForLess(paragraph, count);
    const fixes = [
      tightened(block, line, faces, { limits, count, paragraph }),
      tied(block, line, faces, count),
      even(block, line, faces),
      ...(room ? [smaller(block, line, faces, room), wider(block, line, faces, room)] : []),
    ];
    return {
      start,
      end: visibleEnd,
      words: block.words.slice(start, visibleEnd),
      widthPt,
      sizePt,
      fixes: fixes.filter((fix) => fix !== undefined).sort((a, b) => a.cost - b.cost),
    };
  });
}

/** How many lines a paragraph has as set, and its last line. */
function lastLineOf(block: Block, setting: BlockSetting, at: number): { count: number; short: boolean } {
  const lines = straightLines(setting);
  const own = lines.filter((line) => paragraphOf(block.words, line.start) === paragraphOf(block.words, at));
  return { count: own.length, short: shortLastLines(block, setting).some(({ start }) => paragraphOf(block.words, start) === paragraphOf(block.words, at)) };
}

const ending = (block: Block, faces: FaceSet, at: number): { count: number; short: boolean } => lastLineOf(block, setBlock(block, faces), at);

/** Where the paragraph of an offset begins. */
function paragraphOf(words: string, at: number): number {
  let start = at;
  while (start > 0 && !isHardBreak(words.charAt(start - 1))) start--;
  return start;
}

/** The lines before tightened, as few and as little as can be, so that the word comes up. */
function tightened(
  block: Block,
  line: SetLine,
  faces: FaceSet,
  known: { limits: TrackingLimits; count: number; paragraph: ParagraphRoom },
): LineFix | undefined {
  const { limits } = known;
  const from = paragraphOf(block.words, line.start);
  const plain = { ...block, tightened: block.tightened.filter(({ start, end }) => end <= from || start >= line.end) };
  // What was tightened there before is taken off first.
  const untouched = plain.tightened.length === block.tightened.length;
  const count = untouched ? known.count : ending(plain, faces, from).count;
  const most = block.style.trackingMilliem - limits.out;
  if (count < 2 || most <= 0) return undefined;
  const paragraph = untouched ? known.paragraph : breakableAt(plain, faces, from);
  const lines = leastTightening(paragraph, { first: paragraph.first, others: paragraph.others }, count - 1, most);
  if (!lines) return undefined;
  // Letters at the ends of lines may stand otherwise once they are tightened: a little more is tried until it holds.
  for (let spare = 0; spare < SPARE_TRIES; spare++) {
    const ranges = lines.flatMap(({ from: first, to, milliem }): Tightened[] => {
      const [start = 0, end = 0] = [paragraph.places[first], paragraph.places[to]];
      const by = Math.round((milliem - spare * SPARE_MILLIEM) * 10) / 10;
      return milliem === 0 || -by > most ? [] : [{ start, end: Math.max(start + 1, trimmed(block.words, start, end)), milliem: by }];
    });
    if (ranges.length === 0) return undefined;
    if (ending(tighten(plain, ranges), faces, from).count >= count) continue;
    const by = ranges.map(({ milliem }) => milliem);
    const amount = Math.max(...by.map((milliem) => -milliem));
    return {
      kind: 'tighten',
      says: ranges.map(({ start, end, milliem }) => `track “${shortened(block.words.slice(start, end))}” by ${printSigned(milliem)}/1000 em`).join(', '),
      cost: amount / Math.max(1, -limits.caution) + 0.2 * (ranges.length - 1),
      proposal: { tighten: ranges },
    };
  }
  return undefined;
}

function trimmed(words: string, start: number, end: number): number {
  let at = end;
  while (at > start && /\s/.test(words.charAt(at - 1))) at--;
  return at;
}

const shortened = (words: string): string => (words.length > 24 ? `${words.slice(0, 11)} … ${words.slice(-10)}` : words);

/** The word before goes down with it: a no-break space between them. */
function tied(block: Block, line: SetLine, faces: FaceSet, count: number): LineFix | undefined {
  const at = line.start - 1;
  if (block.words.charAt(at) !== ' ') return undefined;
  const words = `${block.words.slice(0, at)}\u00a0${block.words.slice(at + 1)}`;
  const after = ending({ ...block, words }, faces, line.start);
  if (after.short || after.count > count) return undefined;
  const last = /\S+$/.exec(block.words.slice(0, at))?.[0] ?? '';
  return { kind: 'tie', says: `bring “${last}” down`, cost: 0.8, proposal: { words: [{ start: at, end: at + 1, insert: '\u00a0' }] } };
}

/** All lines of the block broken evenly. */
function even(block: Block, line: SetLine, faces: FaceSet): LineFix | undefined {
  if (block.breaking.way === 'even' || block.align === 'justified') return undefined;
  const breaking = { way: 'even', shape: 'even' } as const;
  if (ending({ ...block, breaking }, faces, line.start).short) return undefined;
  return { kind: 'even', says: 'balance the lines', cost: 0.9, proposal: { settings: { breaking } } };
}

/** The least room in which a paragraph takes one line less, the room it has, and what of the frame is that of list marks, in points. */
interface LessRoom {
  room: number;
  frame: number;
  hangPt: number;
}

function roomForLess(paragraph: ParagraphRoom, count: number): LessRoom | undefined {
  const room = count < 2 ? Number.POSITIVE_INFINITY : leastRoom(paragraph, paragraph.others - paragraph.first, count - 1);
  return Number.isFinite(room) ? { room, frame: paragraph.others, hangPt: paragraph.hangPt } : undefined;
}

function wider(block: Block, line: SetLine, faces: FaceSet, asked: LessRoom): LineFix | undefined {
  if (asked.room > asked.frame * (1 + MOST_WIDER)) return undefined;
  const widthPt = Math.ceil((asked.room + asked.hangPt) * 100) / 100;
  const frame = { widthPt };
  if (ending({ ...block, frame: { ...block.frame, ...frame } }, faces, line.start).short) return undefined;
  return {
    kind: 'wider',
    says: `make the frame ${printValue(widthPt - block.frame.widthPt)} pt wider`,
    cost: 1.4 + asked.room / asked.frame - 1,
    proposal: { frame },
  };
}

function smaller(block: Block, line: SetLine, faces: FaceSet, asked: LessRoom): LineFix | undefined {
  if (asked.room < asked.frame) return undefined;
  const { sizePt } = block.style;
  const size = Math.floor(((sizePt * asked.frame) / asked.room) * 10) / 10;
  if (size < sizePt * (1 - MOST_SMALLER)) return undefined;
  const by = size / sizePt;
  const ranges = block.runs.flatMap(({ start, end, style }) => (style.sizePt === undefined ? [] : [{ start, end, style: { sizePt: style.sizePt * by } }]));
  const scaled = {
    ...block,
    style: { ...block.style, sizePt: size },
    runs: block.runs.map((run) => (run.style.sizePt === undefined ? run : { ...run, style: { ...run.style, sizePt: run.style.sizePt * by } })),
  };
  if (ending(scaled, faces, line.start).short) return undefined;
  return { kind: 'smaller', says: `set it at ${printValue(size)} pt`, cost: 1 + (1 - by) * 10, proposal: { style: { sizePt: size }, ranges } };
}
