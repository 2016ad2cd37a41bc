/**
 * Documents stored outside a job file that grow over the years: each kind carries a version and is brought up to date when it is read,
 * as jobs are. What was written before versions were written is version 1.
 */
import type * as z from 'zod';
import { WordedError } from '../base';

type Loose = Readonly<Record<string, unknown>>;

export interface StoredKind<Schema extends z.ZodType> {
  /** As people are told. */
  name: string;
  /** The version that is written now. */
  version: number;
  schema: Schema;
  /** Brings what an older version wrote up to date; the schema judges the result. */
  upgrade(value: Loose, from: number): Loose;
}

/** Something stored that can't be read. */
export class StoredError extends WordedError {
  override readonly name = 'StoredError';

  constructor(
    message: string,
    /** `newer`: a later Jentrix wrote it. */
    readonly code: 'newer' | 'damaged',
  ) {
    super(message);
  }
}

/** A value as it is stored, with its version. */
export const toStored = <Schema extends z.ZodType>({ version }: StoredKind<Schema>, value: z.output<Schema>): Loose => ({ version, ...(value as Loose) });

/** @throws StoredError */
export function fromStored<Schema extends z.ZodType>(kind: StoredKind<Schema>, stored: unknown): z.output<Schema> {
  if (typeof stored !== 'object' || stored === null || Array.isArray(stored)) throw new StoredError(`The ${kind.name} is damaged.`, 'damaged');
  const { version = 1, ...value } = stored as Loose;
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 1) throw new StoredError(`The ${kind.name} states no version.`, 'damaged');
  if (version > kind.version) {
    throw new StoredError(`The ${kind.name} was written by a newer Jentrix (${version}; this one reads up to ${kind.version}).`, 'newer');
  }
  const read = kind.schema.safeParse(version < kind.version ? kind.upgrade(value, version) : value);
  if (read.success) return read.data;
  const [issue] = read.error.issues;
  throw new StoredError(`The ${kind.name} is damaged at “${issue?.path.join('.') ?? ''}”: ${issue?.message ?? ''}`, 'damaged');
}
