import type { MigrationInterface, QueryRunner } from 'typeorm';

export class Initial1764000000000 implements MigrationInterface {
  readonly name = 'Initial1764000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TABLE "job" (
      "id" varchar PRIMARY KEY NOT NULL,
      "title" varchar NOT NULL COLLATE NOCASE,
      "kind" varchar NOT NULL,
      "revision" integer NOT NULL,
      "sheetCount" integer NOT NULL,
      "aspect" float NOT NULL,
      "document" text NOT NULL,
      "createdAt" varchar NOT NULL,
      "updatedAt" varchar NOT NULL,
      "deletedAt" varchar
    )`);
    for (const column of ['updatedAt', 'createdAt', 'title', 'kind']) {
      await runner.query(`CREATE INDEX "job_deletedAt_${column}" ON "job" ("deletedAt", "${column}")`);
    }
    await runner.query(`CREATE TABLE "preferences" ("id" integer PRIMARY KEY NOT NULL, "document" text NOT NULL)`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE "preferences"');
    await runner.query('DROP TABLE "job"');
  }
}
