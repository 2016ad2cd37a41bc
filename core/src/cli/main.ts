/** The `jentrix` command. */
import { parseArgs } from 'node:util';
import { WordedError } from '../errors';
import { type Command, OPTIONS, type Output, type Values } from './command';
import { COMMANDS } from './commands';
import { helpOf, helpOfCommand } from './help';
import { withUnpacked } from './packages';
import { UsageError } from './usage-error';

const PROCESS: Output = { out: (text) => void process.stdout.write(text), error: (text) => void process.stderr.write(text) };

/** @throws UsageError */
function parse(argv: readonly string[]): { values: Values; positionals: string[] } {
  try {
    const { values, positionals } = parseArgs({ args: joinNegatives(argv), options: OPTIONS, allowPositionals: true });
    return { values: values as Values, positionals };
  } catch (error) {
    throw new UsageError(error instanceof Error ? error.message : String(error));
  }
}

/** `--tracking -20` is read as `--tracking=-20`. */
function joinNegatives(argv: readonly string[]): string[] {
  const joined: string[] = [];
  for (const argument of argv) {
    const last = joined[joined.length - 1];
    if (last !== undefined && /^--[a-z]+$/.test(last) && /^-\d/.test(argument)) joined[joined.length - 1] = `${last}=${argument}`;
    else joined.push(argument);
  }
  return joined;
}

/**
 * @param argv what is written behind `jentrix`. @param commands the table of commands.
 * @returns the exit status: 0, 1 for severe findings, 2 for a mistake.
 */
export async function main(argv: readonly string[], output: Output = PROCESS, commands: readonly Command[] = COMMANDS): Promise<number> {
  try {
    const { values, positionals } = parse(argv);
    const [name, ...files] = positionals;
    if (values.help || name === undefined) {
      const asked = commands.find((one) => one.name === name);
      output.out(asked ? helpOfCommand(asked) : helpOf(commands));
      return values.help ? 0 : 2;
    }
    const command = commands.find((one) => one.name === name);
    if (!command) throw new UsageError(`There is no command “${name}”; there are ${commands.map((one) => one.name).join(', ')}.`);
    if (command.opensPackages) return await command.run(values, files, output);
    return await withUnpacked(files, values.faces, async (unpacked, faces) => command.run({ ...values, faces }, unpacked, output));
  } catch (error) {
    if (!(error instanceof WordedError)) throw error;
    output.error(`jentrix: ${error.message}\n`);
    return 2;
  }
}
