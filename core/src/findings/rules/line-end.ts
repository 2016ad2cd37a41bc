/** Line ends that tear apart what belongs together: a short function word left behind, a figure from its unit, an initial from its name. */
import type { Splice } from '../../job';
import type { LineView, Rule } from '../rule';

/** Short words that lean on the next one, by language (articles, prepositions, conjunctions). */
const LEANING: Readonly<Record<string, ReadonlySet<string>>> = {
  en: new Set('a an and as at but by for from in into nor of on or per than the to via with'.split(' ')),
  de: new Set(
    'ab am an auf aus bei bis das dem den der des die ein eine einem einen einer für im in ins mit nach oder ohne um und vom von vor zu zum zur'.split(' '),
  ),
  fr: new Set('à au aux avec ce ces dans de des du en et la le les leur mon ou où par pour sa ses son sous sur un une'.split(' ')),
};

/** Lines from this size on are headlines, in points on the sheet: copy breaks where it must. */
const HEADLINE_PT = 24;
/** About what a word space takes, in em. */
const SPACE = 0.25;
const INITIAL = /^\p{Lu}\.$/u;
const FIGURE = /^\d[\d.,:]*$/;
/** Units and what else a figure is not parted from. */
const COUNTED = /^(?:%|‰|°C?|[kcm]?m|km\/h|[km]?g|[cm]?l|h|min|s|pt|px|am|pm|a\.m\.|p\.m\.|Uhr|€|£|\$|[MG]B|[kM]?Hz|[kM]?W)(?![\p{L}])/u;

/** Why a line should not end between two words; undefined where it may. */
function torn(last: string, next: string, language: string): string | undefined {
  if (LEANING[language]?.has(last.toLowerCase())) return 'short word left behind';
  if (FIGURE.test(last) && COUNTED.test(next)) return 'figure parted from its unit';
  if (INITIAL.test(last) && /^\p{Lu}/u.test(next)) return 'initial parted from its name';
  return undefined;
}

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
  need: 'W1',
  pass: 'words',
  name: 'Line ends that tear',
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
    const message = torn(last, next, (language ?? 'en').split('-', 1)[0] ?? 'en');
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
