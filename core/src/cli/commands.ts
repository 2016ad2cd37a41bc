import type { Command } from './command';
import { breaks } from './commands/breaks';
import { check } from './commands/check';
import { compare } from './commands/compare';
import { draw } from './commands/draw';
import { edges } from './commands/edges';
import { drill } from './commands/drill';
import { ends } from './commands/ends';
import { exportSheets } from './commands/export';
import { fit } from './commands/fit';
import { gaps } from './commands/gaps';
import { importFile } from './commands/import';
import { outlines } from './commands/outlines';
import { pairs } from './commands/pairs';
import { path } from './commands/path';
import { proof } from './commands/proof';
import { read } from './commands/read';
import { refine } from './commands/refine';
import { report } from './commands/report';
import { sizes } from './commands/sizes';
import { taste } from './commands/taste';
import { turn } from './commands/turn';

/** All commands. A new one is a file of its own and a line here. */
export const COMMANDS: readonly Command[] = [
  gaps,
  refine,
  check,
  report,
  compare,
  draw,
  exportSheets,
  importFile,
  pairs,
  proof,
  fit,
  breaks,
  edges,
  read,
  path,
  turn,
  ends,
  outlines,
  sizes,
  taste,
  drill,
];
