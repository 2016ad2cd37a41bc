import { Column, Entity, Index, PrimaryColumn } from 'typeorm';

/** An exercise that was done. */
@Entity('drill_result')
@Index('drill_result_at', ['at'])
export class DrillResultEntity {
  @PrimaryColumn({ type: 'varchar' })
  id!: string;

  /** When it was done. */
  @Column({ type: 'varchar' })
  at!: string;

  /** `DrillResult` as JSON. */
  @Column({ type: 'text' })
  document!: string;
}
