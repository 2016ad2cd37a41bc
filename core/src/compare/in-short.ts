/** Words on one line, cut with an ellipsis where they are longer than so many letters. */
export function inShort(words: string, most = 40): string {
  const line = words.replaceAll('\n', ' ').trim();
  return line.length > most ? `${line.slice(0, most - 1).trimEnd()}…` : line;
}

/** A phrase that begins a line. */
export const capitalised = (phrase: string): string => `${phrase.charAt(0).toUpperCase()}${phrase.slice(1)}`;
