/** The `jentrix` command. What it does not need for every call is loaded when it is needed. */
import { parseArgs } from 'node:util';
import { WordedError } from '@jentrix/core/base';
import type { Output } from './command';
import { COMMANDS, type CommandTable } from './commands';
import { OPTIONS, type Values } from './options';
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

/** Names of options up to 1.0.0: scripts that were written then still run. */
const FORMER: Readonly<Record<string, string>> = {
  '--let-go': '--release',
  '--mend': '--fix',
  '--divide': '--hyphenate',
  '--take': '--apply',
  '--back': '--revert',
};

/** An option, by the name it has now. */
function current(argument: string): string {
  const [name = '', ...value] = argument.split('=');
  return [FORMER[name] ?? name, ...value].join('=');
}

/** `--tracking -20` is read as `--tracking=-20`. */
function joinNegatives(argv: readonly string[]): string[] {
  const joined: string[] = [];
  for (const argument of argv.map(current)) {
    const last = joined[joined.length - 1];
    if (last !== undefined && /^--[a-z]+$/.test(last) && /^-\d/.test(argument)) joined[joined.length - 1] = `${last}=${argument}`;
    else joined.push(argument);
  }
  return joined;
}

/** Optional settings of a command. */
export interface CommandOptions {
  output?: Output;
  commands?: CommandTable;
  /** The help text of a command or of all, where it was made before. */
  help?: (name: string | undefined) => string | undefined;
}

/**
 * @param argv what is written behind `jentrix`.
 * @returns the exit status: 0, 1 for severe findings, 2 for a mistake.
 */
export async function main(argv: readonly string[], { output = PROCESS, commands = COMMANDS, help }: CommandOptions = {}): Promise<number> {
  try {
    const { values, positionals } = parse(argv);
    const [name, ...files] = positionals;
    const load = name === undefined ? undefined : new Map(Object.entries(commands)).get(name);
    if (values.help || name === undefined) {
      const about = load && name;
      output.out(help?.(about) ?? (await (await import('./help')).helpText(commands, about)));
      return values.help ? 0 : 2;
    }
    if (!load) throw new UsageError(`There is no command “${name}”; there are ${Object.keys(commands).join(', ')}.`);
    const command = await load();
    const { isPackage } = await import('./is-package');
    if (command.opensPackages || !files.some(isPackage)) return await command.run(values, files, output);
    const { withUnpacked } = await import('./packages');
    return await withUnpacked(files, values.faces, async (unpacked, faces) => command.run({ ...values, faces }, unpacked, output));
  } catch (error) {
    if (!(error instanceof WordedError)) throw error;
    output.error(`jentrix: ${error.message}\n`);
    return 2;
  }
}
