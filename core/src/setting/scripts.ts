/** Where one writing system ends and the next begins, so that each stretch is shaped by its own rules (UAX #24). */

/** True for text of which every letter is Latin: by far the most, and answered in one look. */
const LATIN_AND_COMMON = /^[\p{Script=Latin}\p{Script=Common}\p{Script=Inherited}]*$/u;

const SCRIPTS = [
  ['Latn', /\p{Script=Latin}/u],
  ['Cyrl', /\p{Script=Cyrillic}/u],
  ['Grek', /\p{Script=Greek}/u],
  ['Hebr', /\p{Script=Hebrew}/u],
  ['Arab', /\p{Script=Arabic}/u],
  ['Syrc', /\p{Script=Syriac}/u],
  ['Nkoo', /\p{Script=Nko}/u],
  ['Mand', /\p{Script=Mandaic}/u],
  ['Rohg', /\p{Script=Hanifi_Rohingya}/u],
  ['Adlm', /\p{Script=Adlam}/u],
  ['Mong', /\p{Script=Mongolian}/u],
  ['Phag', /\p{Script=Phags_Pa}/u],
  ['Armn', /\p{Script=Armenian}/u],
  ['Geor', /\p{Script=Georgian}/u],
  ['Deva', /\p{Script=Devanagari}/u],
  ['Beng', /\p{Script=Bengali}/u],
  ['Taml', /\p{Script=Tamil}/u],
  ['Thai', /\p{Script=Thai}/u],
  ['Hang', /\p{Script=Hangul}/u],
  ['Hira', /\p{Script=Hiragana}/u],
  ['Kana', /\p{Script=Katakana}/u],
  ['Hani', /\p{Script=Han}/u],
] as const;

/** Scripts whose letters are joined by strokes: moving them apart tears them (CSS Text 3, "cursive scripts"). */
const CURSIVE: ReadonlySet<string> = new Set(['Arab', 'Syrc', 'Nkoo', 'Mand', 'Rohg', 'Adlm', 'Mong', 'Phag']);

export const isCursive = (script: string | undefined): boolean => script !== undefined && CURSIVE.has(script);

/** True for words in which letters are joined by strokes. */
export const hasCursive = (text: string): boolean => !LATIN_AND_COMMON.test(text) && scriptRanges(text, 0, text.length).some(({ script }) => isCursive(script));

/** A stretch in one script; `script` is absent where HarfBuzz should guess. */
export interface ScriptRange {
  start: number;
  end: number;
  script?: string;
}

/** Cuts `text.slice(start, end)` where the script changes; marks, figures and punctuation stay with what precedes them. */
export function scriptRanges(text: string, start: number, end: number): ScriptRange[] {
  if (LATIN_AND_COMMON.test(text)) return [{ start, end }];
  const ranges: ScriptRange[] = [];
  let open: ScriptRange = { start, end };
  for (let at = start; at < end;) {
    const character = String.fromCodePoint(text.codePointAt(at) ?? 0);
    const script = SCRIPTS.find(([, pattern]) => pattern.test(character))?.[0];
    if (script && open.script && script !== open.script) {
      ranges.push({ ...open, end: at });
      open = { start: at, end, script };
    } else if (script) {
      open.script = script;
    }
    at += character.length;
  }
  ranges.push(open);
  return ranges;
}
