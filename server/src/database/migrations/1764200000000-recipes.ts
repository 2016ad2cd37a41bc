import type { MigrationInterface, QueryRunner } from 'typeorm';

export class Recipes1764200000000 implements MigrationInterface {
  readonly name = 'Recipes1764200000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TABLE "recipe" (
      "id" varchar PRIMARY KEY NOT NULL,
      "name" varchar NOT NULL COLLATE NOCASE,
      "settings" text NOT NULL
    )`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE "recipe"');
  }
}
