/** Line ends that tear apart what belongs together: a short function word left behind, a figure from its unit, an initial from its name. */
import type { Splice } from '../../job';
import { tornApart } from '../../setting';
import type { LineView, Rule } from '../rule';

/** Lines from this size on are headlines, in points on the sheet: copy breaks where it must. */
const HEADLINE_PT = 24;
/** About what a word space takes, in em. */
const SPACE = 0.25;
/** True where the line below has room for the word that begins at an offset: a break that makes one line more is no better. */
function fitsBelow({ block, setting, line }: LineView, wordStart: number): boolean {
  const below = setting.lines.find(({ start }) => start >= line.end);
  const first = line.runs.flatMap(({ glyphs }) => glyphs).find(({ cluster }) => cluster >= wordStart);
  if (block.grow === 'both' || !below || !first) return true;
  // With the word goes the space before it.
  const moved = line.leftPt + line.widthPt - first.xPt + SPACE * block.style.sizePt;
  return below.widthPt + moved <= setting.frame.widthPt;
}

export const lineEnd: Rule = {
  id: 'line-end',
  pass: 'words',
  name: 'Bad breaks',
  looksAt: 'line',
  look: (view) => {
    const { block, line } = view;
    const { words, language, style } = block;
    const shown = words.slice(line.start, line.visibleEnd);
    const space = shown.lastIndexOf(' ');
    const behind = words.slice(line.end).replace(/^\n/, '');
    const next = /^\S+/.exec(behind)?.[0];
    // A line of one word has nothing to give away.
    if (style.sizePt < HEADLINE_PT || space < 0 || next === undefined) return [];
    const last = shown.slice(space + 1);
    const message = tornApart(last, next, language);
    if (message === undefined) return [];
    const wordStart = line.start + space + 1;
    if (!fitsBelow(view, wordStart)) return [];
    const broken = words.charAt(line.end) === '\n';
    // A break by hand moves before the word; where the line broke by itself, both stay together.
    const splice: Splice = broken
      ? { start: wordStart - 1, end: line.end + 1, insert: `\n${last} ` }
      : { start: line.visibleEnd, end: line.end, insert: '\u00a0' };
    return [{ at: wordStart, severity: 'notice', visiblePt: style.sizePt * 0.1, subject: `${last} ${next}`, message, proposal: { words: [splice] } }];
  },
};
