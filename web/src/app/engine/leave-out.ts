import type { BlockSetting, PlacedGlyph, PlacedRun, SetLine } from '@jentrix/core/setting';
import equal from 'fast-deep-equal';
import type { SentLine, SentSetting } from './same-lines';

/**
 * A setting whose lines are the very ones of an earlier setting of the block where they say the same: what is known of a line is found
 * by the line itself, and what was sent of it need not be sent again.
 */
export function withKnownLines(setting: BlockSetting, before: BlockSetting | undefined): BlockSetting {
  if (!before) return setting;
  const { lines, straight } = setting;
  return { ...setting, lines: known(lines, before.lines), ...(straight ? { straight: known(straight, before.straight) } : {}) };
}

/** A setting with the lines left out that the page has. @param before what it was sent last of the block. */
export function leaveOut({ lines, straight, ...rest }: BlockSetting, before: BlockSetting | undefined): SentSetting {
  return { ...rest, lines: told(lines, before?.lines), ...(straight ? { straight: told(straight, before?.straight) } : {}) };
}

const told = (lines: readonly SetLine[], before: readonly SetLine[] | undefined): SentLine[] => lines.map((line, i) => (line === before?.[i] ? i : line));

const known = (lines: readonly SetLine[], before: readonly SetLine[] | undefined): SetLine[] =>
  lines.map((line, i) => {
    const earlier = before?.[i];
    return earlier && sameLine(line, earlier) ? earlier : line;
  });

function sameLine({ runs, ...a }: SetLine, { runs: others, ...b }: SetLine): boolean {
  return equal(a, b) && same(runs, others, sameRun);
}

function sameRun(a: PlacedRun, b: PlacedRun): boolean {
  return RUN.every((member) => a[member] === b[member] || equal(a[member], b[member])) && same(a.glyphs, b.glyphs, sameGlyph);
}

/** Thousands of glyphs are compared at every key, so they are compared member by member, and not as any objects. */
function sameGlyph(a: PlacedGlyph, b: PlacedGlyph): boolean {
  if (a === b) return true;
  for (const member of GLYPH) if (a[member] !== b[member]) return false;
  return a.shift === b.shift || equal(a.shift, b.shift);
}

/** The members of a type, each of which has to be named: one that comes later is not forgotten. */
const membersOf = <T>(all: Readonly<Record<keyof T, true>>) => Object.keys(all) as (keyof T)[];
const RUN = membersOf<Omit<PlacedRun, 'glyphs'>>({ start: true, end: true, style: true, scale: true, xScale: true, rules: true });
const GLYPH = membersOf<Omit<PlacedGlyph, 'shift'>>({ glyphId: true, cluster: true, xPt: true, yPt: true, offsetPt: true });

function same<T>(all: readonly T[], others: readonly T[], are: (a: T, b: T) => boolean): boolean {
  if (all.length !== others.length) return false;
  for (let i = 0; i < all.length; i++) if (!are(all[i] as T, others[i] as T)) return false;
  return true;
}
