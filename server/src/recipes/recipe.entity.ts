import { Column, Entity, PrimaryColumn } from 'typeorm';

/** Named settings. */
@Entity('recipe')
export class RecipeEntity {
  @PrimaryColumn({ type: 'varchar' })
  id!: string;

  @Column({ type: 'varchar', collation: 'NOCASE' })
  name!: string;

  /** `RecipeSettings` as JSON. */
  @Column({ type: 'text' })
  settings!: string;
}
