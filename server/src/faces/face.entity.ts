import { Column, Entity, Index, PrimaryColumn } from 'typeorm';

/** A face that was put into the type case: from the catalogue (its file stays there) or uploaded (its file is among the large ones). */
@Entity('face')
@Index('face_digest', ['digest'], { unique: true })
export class FaceEntity {
  @PrimaryColumn({ type: 'varchar' })
  id!: string;

  @Column({ type: 'varchar' })
  source!: 'catalogue' | 'upload';

  /** The entry as JSON, for lists. */
  @Column({ type: 'text' })
  entry!: string;

  /** SHA-256 of an uploaded file: the same file is kept once. */
  @Column({ type: 'varchar', nullable: true })
  digest!: string | null;

  @Column({ type: 'varchar' })
  addedAt!: string;
}

/** A face somebody likes; of any source. */
@Entity('favourite')
export class FavouriteEntity {
  @PrimaryColumn({ type: 'varchar' })
  faceId!: string;
}
