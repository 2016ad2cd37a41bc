import { Column, Entity, PrimaryColumn } from 'typeorm';

/** The last measures of a job. */
@Entity('job_measure')
export class JobMeasureEntity {
  @PrimaryColumn({ type: 'varchar' })
  jobId!: string;

  /** Of what it was measured: the job's revision, and the preferences it was judged by. */
  @Column({ type: 'varchar' })
  of!: string;

  @Column({ type: 'float', nullable: true })
  evenness!: number | null;

  @Column({ type: 'integer' })
  findings!: number;
}
