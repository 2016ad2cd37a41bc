import type { PullReason } from '@jentrix/core/pulls';
import { Column, Entity, Index, PrimaryColumn } from 'typeorm';

/** A kept state of a job. What it is made of lies in pieces, which pulls of the job share. */
@Entity('pull')
@Index('pull_jobId_createdAt', ['jobId', 'createdAt'])
export class PullEntity {
  @PrimaryColumn({ type: 'varchar' })
  id!: string;

  @Column({ type: 'varchar' })
  jobId!: string;

  @Column({ type: 'varchar' })
  name!: string;

  @Column({ type: 'varchar' })
  reason!: PullReason;

  /** ISO 8601, UTC. */
  @Column({ type: 'varchar' })
  createdAt!: string;

  /** 0 to 100; null where it was not measured, or where there are too few pairs. */
  @Column({ type: 'float', nullable: true })
  evenness!: number | null;

  @Column({ type: 'integer', nullable: true })
  findings!: number | null;

  /** The job's title. */
  @Column({ type: 'varchar' })
  title!: string;

  /** The faces and pictures it names, as JSON. */
  @Column({ type: 'text' })
  uses!: string;

  /** The job without what lies in pieces, as deflated JSON. */
  @Column({ type: 'blob', select: false })
  root!: Buffer;
}

/** Part of one or more pulls of a job, as deflated JSON under a key of its contents. */
@Entity('pull_piece')
export class PullPieceEntity {
  @PrimaryColumn({ type: 'varchar' })
  jobId!: string;

  @PrimaryColumn({ type: 'varchar' })
  key!: string;

  @Column({ type: 'blob' })
  bytes!: Buffer;
}

/** Which pieces a pull is made of. */
@Entity('pull_part')
@Index('pull_part_jobId_key', ['jobId', 'key'])
export class PullPartEntity {
  @PrimaryColumn({ type: 'varchar' })
  pullId!: string;

  @PrimaryColumn({ type: 'varchar' })
  key!: string;

  @Column({ type: 'varchar' })
  jobId!: string;
}
