import type { Command } from './command';

/** Commands by name: each is loaded once it is wanted. */
export type CommandTable = Readonly<Record<string, () => Promise<Command>>>;

/** All commands. A new one is a file of its own and a line here. */
export const COMMANDS: CommandTable = {
  gaps: async () => (await import('./commands/gaps')).gaps,
  tracking: async () => (await import('./commands/tracking')).tracking,
  white: async () => (await import('./commands/white')).white,
  refine: async () => (await import('./commands/refine')).refine,
  check: async () => (await import('./commands/check')).check,
  report: async () => (await import('./commands/report')).report,
  compare: async () => (await import('./commands/compare')).compare,
  draw: async () => (await import('./commands/draw')).draw,
  export: async () => (await import('./commands/export')).exportSheets,
  import: async () => (await import('./commands/import')).importFile,
  pairs: async () => (await import('./commands/pairs')).pairs,
  proof: async () => (await import('./commands/proof')).proof,
  fit: async () => (await import('./commands/fit')).fit,
  breaks: async () => (await import('./commands/breaks')).breaks,
  edges: async () => (await import('./commands/edges')).edges,
  read: async () => (await import('./commands/read')).read,
  path: async () => (await import('./commands/path')).path,
  turn: async () => (await import('./commands/turn')).turn,
  ends: async () => (await import('./commands/ends')).ends,
  outlines: async () => (await import('./commands/outlines')).outlines,
  sizes: async () => (await import('./commands/sizes')).sizes,
  taste: async () => (await import('./commands/taste')).taste,
  drill: async () => (await import('./commands/drill')).drill,
};
