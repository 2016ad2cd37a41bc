import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { type CatalogueEntry, type Trouble, type catalogueQuerySchema, troubleSchema } from '@jentrix/core/api';
import { searchFaces } from '@jentrix/core/advice';
import type * as z from 'zod';
import { type Listed, readListed } from '../listed';
import { ProblemError } from '../../http/problem';

/**
 * A simulated font service: the shipped catalogue behind the manners of a remote one. It can be told to be slow or to fail, so
 * that how the page bears it can be seen.
 */
export class CatalogueService {
  private readonly listed: readonly Listed[];
  private readonly byId: ReadonlyMap<string, Listed>;
  private trouble: Trouble = troubleSchema.parse({});

  /** @param folder holds `catalogue.json` and the files it names. */
  constructor(private readonly folder: string) {
    const index = join(folder, 'catalogue.json');
    this.listed = existsSync(index) ? readListed(index) : [];
    this.byId = new Map(this.listed.map((entry) => [entry.id, entry]));
  }

  setTrouble(trouble: Trouble): void {
    this.trouble = trouble;
  }

  /** The wait of a simulated network. @throws ProblemError 503 while it is told to fail */
  async reach(): Promise<void> {
    if (this.trouble.delayMs > 0) await wait(this.trouble.delayMs);
    if (this.trouble.failing) throw new ProblemError(503, 'catalogue-away', 'The catalogue can’t be reached', 'Your faces still work. Try again later.');
  }

  /** One page of what fits. @param atHand identifiers of the faces that are in the type case. */
  search(query: z.output<typeof catalogueQuerySchema>, atHand: ReadonlySet<string>): { items: CatalogueEntry[]; total: number } {
    const { page, pageSize, condensed, variable, ...rest } = query;
    const flag = (value: 'true' | 'false' | undefined): boolean | undefined => (value === undefined ? undefined : value === 'true');
    const found = searchFaces(this.listed, { ...rest, condensed: flag(condensed), variable: flag(variable) });
    const items = found.slice((page - 1) * pageSize, page * pageSize).map(({ file: _file, ...entry }) => ({ ...entry, atHand: atHand.has(entry.id) }));
    return { items, total: found.length };
  }

  entry(id: string): Listed | undefined {
    return this.byId.get(id);
  }

  /** The path of a face's file. */
  file(id: string): string | undefined {
    const entry = this.byId.get(id);
    return entry && join(this.folder, entry.file);
  }
}
