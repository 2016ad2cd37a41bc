import { Column, Entity, Index, PrimaryColumn } from 'typeorm';

/** Named settings. */
@Entity('recipe')
@Index('recipe_name', ['name'], { unique: true })
export class RecipeEntity {
  @PrimaryColumn({ type: 'varchar' })
  id!: string;

  @Column({ type: 'varchar', collation: 'NOCASE' })
  name!: string;

  /** `RecipeSettings` as JSON. */
  @Column({ type: 'text' })
  settings!: string;
}
