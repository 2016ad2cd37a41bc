/** Words that lean on the next: a line that ends between two such words tears them apart. */

/** Short words that lean on the next one, by language (articles, prepositions, conjunctions). */
const LEANING: Readonly<Record<string, ReadonlySet<string>>> = {
  en: new Set('a an and as at but by for from in into nor of on or per than the to via with'.split(' ')),
  de: new Set(
    'ab am an auf aus bei bis das dem den der des die ein eine einem einen einer für im in ins mit nach oder ohne um und vom von vor zu zum zur'.split(' '),
  ),
  fr: new Set('à au aux avec ce ces dans de des du en et la le les leur mon ou où par pour sa ses son sous sur un une'.split(' ')),
};

const INITIAL = /^\p{Lu}\.$/u;
const FIGURE = /^\d[\d.,:]*$/;
/** Units and what else a figure is not parted from. */
const COUNTED = /^(?:%|‰|°C?|[kcm]?m|km\/h|[km]?g|[cm]?l|h|min|s|pt|px|am|pm|a\.m\.|p\.m\.|Uhr|€|£|\$|[MG]B|[kM]?Hz|[kM]?W)(?![\p{L}])/u;

/** Why a line should not end between two words; undefined where it may. @param language BCP 47; English where nothing was said. */
export function tornApart(last: string, next: string, language: string | null | undefined): string | undefined {
  if (LEANING[(language ?? 'en').split('-', 1)[0] ?? 'en']?.has(last.toLowerCase())) return 'short word at the line end';
  if (FIGURE.test(last) && COUNTED.test(next)) return 'figure separated from its unit';
  if (INITIAL.test(last) && /^\p{Lu}/u.test(next)) return 'initial separated from its name';
  return undefined;
}

/** Why a line should not end at an offset of a text; undefined where it may. */
export function tornAt(text: string, at: number, language: string | null | undefined): string | undefined {
  const last = /\S+(?=\s*$)/.exec(text.slice(Math.max(0, at - 40), at))?.[0];
  const next = /^\S+/.exec(text.slice(at, at + 40))?.[0];
  return last === undefined || next === undefined || !/\s/.test(text.charAt(at - 1)) ? undefined : tornApart(last, next, language);
}
