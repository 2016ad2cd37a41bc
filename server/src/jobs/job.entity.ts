import type { JobKind } from '@jentrix/core/job';
import { Column, Entity, Index, PrimaryColumn } from 'typeorm';

/** A job on the shelf. The document is the job as JSON; the columns beside it are what lists are made from. */
@Entity('job')
@Index('job_deletedAt_updatedAt', ['deletedAt', 'updatedAt'])
@Index('job_deletedAt_createdAt', ['deletedAt', 'createdAt'])
@Index('job_deletedAt_title', ['deletedAt', 'title'])
@Index('job_deletedAt_kind', ['deletedAt', 'kind'])
export class JobEntity {
  @PrimaryColumn({ type: 'varchar' })
  id!: string;

  @Column({ type: 'varchar', collation: 'NOCASE' })
  title!: string;

  @Column({ type: 'varchar' })
  kind!: JobKind;

  /** Counts the writes, from 1. */
  @Column({ type: 'integer' })
  revision!: number;

  @Column({ type: 'integer' })
  sheetCount!: number;

  /** Width over height of the first sheet. */
  @Column({ type: 'float' })
  aspect!: number;

  @Column({ type: 'text', select: false })
  document!: string;

  /** ISO 8601, UTC; so are the others. */
  @Column({ type: 'varchar' })
  createdAt!: string;

  @Column({ type: 'varchar' })
  updatedAt!: string;

  /** Set while the job lies in the trash. */
  @Column({ type: 'varchar', nullable: true })
  deletedAt!: string | null;
}
