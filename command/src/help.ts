/** The help text, made from the tables of commands and options. */
import type { Command } from './command';
import { COMMANDS, type CommandTable } from './commands';
import { OPTIONS, type OptionName } from './options';

const WIDTH = 128;

/** Words in lines of a width, all but the first begun with blanks. */
function wrapped(words: string, indent: number): string {
  const lines: string[] = [];
  let line = '';
  for (const word of words.split(' ')) {
    if (line !== '' && indent + line.length + 1 + word.length > WIDTH) {
      lines.push(line);
      line = word;
    } else line = line === '' ? word : `${line} ${word}`;
  }
  return [...lines, line].join(`\n${' '.repeat(indent)}`);
}

function optionLine(name: OptionName): string {
  const option: { short?: string; value?: string; says: string; default?: string | boolean } = OPTIONS[name];
  const written = `${option.short ? `-${option.short}, ` : ''}--${name}${option.value ? ` ${option.value}` : ''}`;
  const usual = name === 'faces' ? ' (the shipped ones)' : typeof option.default === 'string' ? ` (${option.default})` : '';
  return `  ${written.padEnd(20)} ${option.says}${usual}`;
}

/** The help text of one command. */
function helpOfCommand({ name, usage, says, example, options }: Command): string {
  return `${usage.map((way) => `jentrix ${name} ${way}`).join('\n')}

${wrapped(says, 0)}

For example:
  jentrix ${name} ${example}

${options.map(optionLine).join('\n')}
`;
}

function helpOf(commands: readonly Command[]): string {
  const names = Object.keys(OPTIONS) as OptionName[];
  const taken = names.filter((name) => name === 'help' || commands.some(({ options }) => options.includes(name)));
  return `jentrix: measures and refines the spacing of letters.

${commands.flatMap(({ name, usage }) => usage.map((way) => `  jentrix ${name} ${way}`)).join('\n')}

${commands.map(({ name, says }) => `${name.padEnd(7)} ${wrapped(says, 8)}`).join('\n')}

${taken.map(optionLine).join('\n')}

jentrix COMMAND --help tells more of a command, with an example.

A package (.jentrix.zip) may stand wherever a job file may: its pictures and faces are used with it.
Values named Milliem are 1/1000 em of the letter left of the gap; values named Pt are points (1/72 in).
Exit status: 0 done, 1 severe findings, 2 a mistake in what was given, told on standard error.
`;
}

/** @param name a command of the table; all of them where none is named. */
export async function helpText(commands: CommandTable, name: string | undefined): Promise<string> {
  const one = name === undefined ? undefined : commands[name];
  return one ? helpOfCommand(await one()) : helpOf(await Promise.all(Object.values(commands).map((load) => load())));
}

/** All help texts: of each command by its name, and of all of them by an empty one. The build keeps them, so that telling them takes no time. */
export async function helpTexts(): Promise<Record<string, string>> {
  const names = [undefined, ...Object.keys(COMMANDS)];
  return Object.fromEntries(await Promise.all(names.map(async (name) => [name ?? '', await helpText(COMMANDS, name)] as const)));
}
