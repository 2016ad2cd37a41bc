import { Column, Entity, PrimaryColumn } from 'typeorm';

/** The one row of preferences, as JSON. */
@Entity('preferences')
export class PreferencesEntity {
  @PrimaryColumn({ type: 'integer' })
  id!: number;

  @Column({ type: 'text' })
  document!: string;
}
