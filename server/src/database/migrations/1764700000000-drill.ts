import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Exercises that were done. */
export class Drill1764700000000 implements MigrationInterface {
  readonly name = 'Drill1764700000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('CREATE TABLE "drill_result" ("id" varchar PRIMARY KEY NOT NULL, "at" varchar NOT NULL, "document" text NOT NULL)');
    await runner.query('CREATE INDEX "drill_result_at" ON "drill_result" ("at")');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE "drill_result"');
  }
}
