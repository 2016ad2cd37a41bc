/** Made superiors and inferiors, found in the styles of a block's letters. */
import { type Block, type Style, type WordRange, visibleLetters, styleAt } from '../../job';

/** A letter with the style it has. */
export interface StyledLetter extends WordRange {
  text: string;
  style: Style;
}

/** Answers that several rules need of one block. */
const known = new WeakMap<Block, readonly StyledLetter[]>();

/** The letters of a block that show something, with their styles. */
export function lettersWithStyle(block: Block): readonly StyledLetter[] {
  let letters = known.get(block);
  if (!letters) {
    letters = visibleLetters(block.words).map(({ start, end }) => ({ start, end, text: block.words.slice(start, end), style: styleAt(block, start) }));
    known.set(block, letters);
  }
  return letters;
}

/** Made superiors and inferiors are smaller and stand higher or lower than their neighbours. */
export type Script = 'superior' | 'inferior';
const scriptOf = ({ scaleY, baselineShiftMilliem }: Style): Script | undefined =>
  scaleY >= LARGEST_SCRIPT || baselineShiftMilliem === 0 ? undefined : baselineShiftMilliem > 0 ? 'superior' : 'inferior';
const LARGEST_SCRIPT = 0.9;

/** Letters that are small together, with the style of the plain letter beside them: before them, or else behind. */
export interface ScriptLetters extends StyledLetter {
  kind: Script;
  beside: Style;
}

const knownScripts = new WeakMap<Block, readonly ScriptLetters[]>();

/** Made superiors and inferiors of a block. */
export function scriptsIn(block: Block): readonly ScriptLetters[] {
  let scripts = knownScripts.get(block);
  if (!scripts) knownScripts.set(block, (scripts = findScripts(block)));
  return scripts;
}

function findScripts(block: Block): ScriptLetters[] {
  const found: ScriptLetters[] = [];
  let plain: Style | undefined;
  /** Those before which no plain letter stands. */
  const early: ScriptLetters[] = [];
  for (const letter of lettersWithStyle(block)) {
    const kind = scriptOf(letter.style);
    const last = found[found.length - 1];
    if (!kind) {
      plain = letter.style;
      for (const one of early.splice(0)) one.beside = plain;
    } else if (last?.end === letter.start && last.kind === kind && last.style.baselineShiftMilliem === letter.style.baselineShiftMilliem) {
      last.end = letter.end;
      last.text += letter.text;
    } else {
      const script = { ...letter, kind, beside: plain ?? block.style };
      found.push(script);
      if (!plain) early.push(script);
    }
  }
  return found;
}
