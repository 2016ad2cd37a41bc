import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Which jobs use a face, a picture or a recipe, as a table with an index; read out of the jobs that are there. */
export class Uses1764300000000 implements MigrationInterface {
  readonly name = 'Uses1764300000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TABLE "job_use" (
      "jobId" varchar NOT NULL,
      "kind" varchar NOT NULL,
      "thingId" varchar NOT NULL,
      CONSTRAINT "job_use_pk" PRIMARY KEY ("jobId", "kind", "thingId")
    )`);
    await runner.query(`CREATE INDEX "job_use_kind_thingId" ON "job_use" ("kind", "thingId")`);
    for (const kind of ['face', 'picture', 'recipe']) {
      await runner.query(
        `INSERT OR IGNORE INTO "job_use" SELECT "job"."id", '${kind}', "leaf"."value"
         FROM (SELECT "id", "document" FROM "job" WHERE json_valid("document")) "job", json_tree("job"."document") "leaf"
         WHERE "leaf"."key" = '${kind}Id' AND "leaf"."type" = 'text'`,
      );
    }
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE "job_use"');
  }
}
