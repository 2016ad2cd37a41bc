// How a process that runs specs tells the one that started it of each: lines of JSON behind a mark, which are kept out of what is shown.
const MARK = '\u001fspec ';

/** @param spec its whole name, the seconds it took, and why it failed where it did. Nobody is told where nobody asked (JENTRIX_TOLD). */
export function tell({ spec, seconds, failure }) {
  if (process.env.JENTRIX_TOLD) process.stdout.write(`\n${MARK}${JSON.stringify({ spec, seconds, failure })}\n`);
}

/** The spec a line reports; undefined for any other line. */
export const toldIn = (line) => (line.startsWith(MARK) ? JSON.parse(line.slice(MARK.length)) : undefined);
