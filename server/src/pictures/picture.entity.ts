import { Column, Entity, PrimaryColumn } from 'typeorm';

/** A picture for backgrounds, whose file is among the large ones; the same content is kept once. */
@Entity('picture')
export class PictureEntity {
  /** The first 32 hexadecimal digits of the content's SHA-256. */
  @PrimaryColumn({ type: 'varchar' })
  id!: string;

  /** Media type. */
  @Column({ type: 'varchar' })
  type!: string;

  @Column({ type: 'integer' })
  width!: number;

  @Column({ type: 'integer' })
  height!: number;
}
