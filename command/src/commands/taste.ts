/** `jentrix taste`: what a designer's decisions about proposals say of their hand. */
import { writeFileSync } from 'node:fs';
import * as z from 'zod';
import { LEAST_DECISIONS, NO_TASTE, decided, decisionsOf, tasteLines } from '@jentrix/core/taste';
import { type Command, tasteIn, glyphText } from '../command';
import { UsageError } from '../usage-error';

const decisionsSchema = z.array(z.looseObject({ kind: z.string().min(1).max(40), proposedMilliem: z.number(), chosenMilliem: z.number() })).max(100_000);

export const taste: Command = {
  name: 'taste',
  usage: ['DECISIONS.json [-o TASTE.json] [--taste KNOWN.json] [--json]'],
  says:
    'What decisions say of a designer’s hand: a list of {"kind", "proposedMilliem", "chosenMilliem"}, as gaps --json names kind and plainMilliem. Prints how much ' +
    'more or less than proposed is taken, kind by kind, and with -o keeps it for gaps --taste and check --taste.',
  example: 'decisions.json -o taste.json',
  options: ['output', 'taste', 'json'],
  run(values, [path, more], { out }) {
    if (path === undefined || more !== undefined) throw new UsageError('One file of decisions is needed.');
    let read: unknown;
    try {
      read = JSON.parse(glyphText(path));
    } catch (error) {
      if (error instanceof UsageError) throw error;
      throw new UsageError(`“${path}” is not JSON.`);
    }
    const decisions = decisionsSchema.safeParse(read);
    if (!decisions.success) throw new UsageError(`“${path}”: ${z.prettifyError(decisions.error).split('\n', 1)[0] ?? 'no list of decisions'}`);
    const learned = decisions.data.reduce(decided, tasteIn(values.taste) ?? NO_TASTE);
    if (values.output !== undefined) writeFileSync(values.output, `${JSON.stringify(learned, null, 2)}\n`);
    const lines = tasteLines(learned);
    if (values.json) out(`${JSON.stringify(lines, null, 2)}\n`);
    else {
      for (const { kind, decisions: count, percent } of lines)
        out(
          `${kind.padEnd(24)}${String(count).padStart(6)}  ${percent === 0 ? 'as proposed' : `${Math.abs(percent)} % ${percent > 0 ? 'more' : 'less'} than proposed`}\n`,
        );
      const all = decisionsOf(learned);
      out(`${all} decisions${all < LEAST_DECISIONS ? `: nothing counts before ${LEAST_DECISIONS}` : ''}\n`);
    }
    return 0;
  },
};
