/** Larger end letters: what a block's setting for them makes of its styles, before anything is shaped. The block itself stays as it is. */
import { type Block, type Ends, type Style, type StyleChange, type WordRange, visibleLetters, restyleRanges, styledRanges } from '../job';

/** The origin of a larger end letter's scale, by the alignment of ends. */
const SCALED_FROM: Readonly<Record<Ends['align'], Style['scaleFrom']>> = { foot: 'baseline', middle: 'capitals', top: 'cap line' };

/** Letters that change, and how. */
interface EndChange extends WordRange {
  of: (style: Style) => Partial<Style>;
}

/**
 * A block as it is set: its end letters larger, and kerned by shape against their neighbours, which are of another size.
 * @param lines the lines it breaks into, whose ends are meant where its setting says so.
 */
export function withEnds(block: Block, lines: readonly WordRange[]): Block {
  const { ends, words } = block;
  if (!ends) return block;
  const changes: StyleChange[] = [];
  for (const { start, end, of } of lines.flatMap((line) => changesOn(words, line, ends)).sort((a, b) => a.start - b.start)) {
    if (start < (changes[changes.length - 1]?.end ?? 0)) continue;
    for (const range of styledRanges(block, start, end)) changes.push({ start: range.start, end: range.end, change: of(range.style) });
  }
  return restyleRanges(block, changes);
}

/** The style changes of end letters and of the letters before them. */
function changesOn(words: string, { start, end }: WordRange, { of, which, ratio, align }: Ends): EndChange[] {
  const letters = visibleLetters(words.slice(start, end)).map((letter) => ({ start: letter.start + start, end: letter.end + start }));
  const groups: WordRange[][] = [];
  for (const letter of letters) {
    const last = groups[groups.length - 1];
    const before = last?.[last.length - 1];
    // A blank between two letters parts words.
    if (last && before && (of === 'lines' || before.end === letter.start)) last.push(letter);
    else groups.push([letter]);
  }
  const larger = (style: Style): Partial<Style> => ({
    scaleX: style.scaleX * ratio,
    scaleY: style.scaleY * ratio,
    scaleFrom: SCALED_FROM[align],
    kerning: 'shape',
  });
  return groups.flatMap((group): EndChange[] => {
    const isLetter = (letter: WordRange): boolean => /^[\p{L}\p{N}]/u.test(words.slice(letter.start, letter.end));
    const first = which === 'last' ? -1 : group.findIndex(isLetter);
    const last = which === 'first' ? -1 : group.findLastIndex(isLetter);
    const ends = [...new Set([first, last])].filter((i) => i >= 0);
    return ends.flatMap((i): EndChange[] => {
      const [letter, before] = [group[i], group[i - 1]];
      if (!letter) return [];
      const neighbour = before?.end === letter.start && !ends.includes(i - 1);
      return [...(before && neighbour ? [{ ...before, of: (): Partial<Style> => ({ kerning: 'shape' }) }] : []), { ...letter, of: larger }];
    });
  });
}
