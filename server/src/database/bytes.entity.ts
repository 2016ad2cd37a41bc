import { Column, Entity, PrimaryColumn } from 'typeorm';

/** A part of a large file: a megabyte is written and read in a few milliseconds, so that no file holds up other requests. */
@Entity('bytes')
export class BytesEntity {
  /** The kind and id of its owner: `face-…`, `picture-…`. */
  @PrimaryColumn({ type: 'varchar', primaryKeyConstraintName: 'bytes_pk' })
  owner!: string;

  /** Counts from 0. */
  @PrimaryColumn({ type: 'integer', primaryKeyConstraintName: 'bytes_pk' })
  part!: number;

  @Column({ type: 'blob' })
  bytes!: Buffer;
}
