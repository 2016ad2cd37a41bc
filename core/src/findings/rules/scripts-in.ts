/** Made superiors and inferiors, found in the styles of a block's letters. */
import { type Block, type Style, type WordRange, lettersIn, styleAt } from '../../job';

/** A letter with the style it has. */
export interface Letter extends WordRange {
  text: string;
  style: Style;
}

/** The letters of a block that show something, with their styles. */
export const lettersWithStyle = ({ words, ...block }: Block): Letter[] =>
  lettersIn(words).map((letter) => ({ ...letter, text: words.slice(letter.start, letter.end), style: styleAt({ words, ...block }, letter.start) }));

/** Made superiors and inferiors are smaller and stand higher or lower than their neighbours. */
export type Script = 'superior' | 'inferior';
const scriptOf = ({ scaleY, baselineShiftMilliem }: Style): Script | undefined =>
  scaleY >= LARGEST_SCRIPT || baselineShiftMilliem === 0 ? undefined : baselineShiftMilliem > 0 ? 'superior' : 'inferior';
const LARGEST_SCRIPT = 0.9;

/** Made superiors and inferiors of a block that stand together. */
export function scriptsIn(block: Block): (Letter & { kind: Script; beside: Style })[] {
  const letters = lettersWithStyle(block);
  const found: (Letter & { kind: Script; beside: Style })[] = [];
  letters.forEach((letter, i) => {
    const kind = scriptOf(letter.style);
    if (!kind) return;
    const last = found[found.length - 1];
    if (last?.end === letter.start && last.kind === kind && last.style.baselineShiftMilliem === letter.style.baselineShiftMilliem) {
      last.end = letter.end;
      last.text += letter.text;
      return;
    }
    const beside = [...letters.slice(0, i).reverse(), ...letters.slice(i + 1)].find(({ style }) => !scriptOf(style));
    found.push({ ...letter, kind, beside: beside?.style ?? block.style });
  });
  return found;
}
