/** Font files that come with Jentrix, with what they measure, so that nobody waits while they are read. */
import { readFileSync, writeFileSync } from 'node:fs';
import { catalogueEntrySchema } from '@jentrix/core/api';
import * as z from 'zod';

const listedSchema = z.array(catalogueEntrySchema.omit({ atHand: true }).extend({ file: z.string() }));
export type Listed = z.infer<typeof listedSchema>[number];

/** The list of an index. @param index a file that lists the font files beside it. @throws Error where it can't be read or is no such list */
export const readListed = (index: string): Listed[] => listedSchema.parse(JSON.parse(readFileSync(index, 'utf8')));

/** Writes a list, an entry a line. */
export const writeListed = (index: string, listed: readonly Listed[]): void =>
  writeFileSync(index, `[\n${listed.map((entry) => `  ${JSON.stringify(entry)}`).join(',\n')}\n]\n`);
