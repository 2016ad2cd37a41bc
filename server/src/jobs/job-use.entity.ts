import type { UseKind } from '@jentrix/core/job';
import { Entity, Index, PrimaryColumn } from 'typeorm';

/** That a job names a face, a picture or a recipe. */
@Entity('job_use')
@Index('job_use_kind_thingId', ['kind', 'thingId'])
export class JobUseEntity {
  @PrimaryColumn({ type: 'varchar', primaryKeyConstraintName: 'job_use_pk' })
  jobId!: string;

  @PrimaryColumn({ type: 'varchar', primaryKeyConstraintName: 'job_use_pk' })
  kind!: UseKind;

  @PrimaryColumn({ type: 'varchar', primaryKeyConstraintName: 'job_use_pk' })
  thingId!: string;
}
