import type { MigrationInterface, QueryRunner } from 'typeorm';

interface Named {
  id: string;
  name: string;
}

/** Names of recipes are unique; where two had one, the later is told apart by a number. */
export class RecipeNames1764400000000 implements MigrationInterface {
  readonly name = 'RecipeNames1764400000000';

  async up(runner: QueryRunner): Promise<void> {
    const taken = new Set<string>();
    for (const { id, name } of (await runner.query('SELECT "id", "name" FROM "recipe" ORDER BY rowid')) as Named[]) {
      let free = name;
      for (let n = 2; taken.has(free.toLowerCase()); n++) free = `${name.slice(0, 74)} (${n})`;
      taken.add(free.toLowerCase());
      if (free !== name) await runner.query('UPDATE "recipe" SET "name" = ? WHERE "id" = ?', [free, id]);
    }
    await runner.query('CREATE UNIQUE INDEX "recipe_name" ON "recipe" ("name")');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP INDEX "recipe_name"');
  }
}
