import type { MigrationInterface, QueryRunner } from 'typeorm';

const PART = 1024 ** 2;

/** Files of faces and pictures lie in parts of a megabyte, in a table of their own. */
export class Bytes1764500000000 implements MigrationInterface {
  readonly name = 'Bytes1764500000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TABLE "bytes" (
      "owner" varchar NOT NULL,
      "part" integer NOT NULL,
      "bytes" blob NOT NULL,
      CONSTRAINT "bytes_pk" PRIMARY KEY ("owner", "part")
    )`);
    for (const table of ['face', 'picture']) {
      await runner.query(
        `WITH RECURSIVE "piece" ("id", "part", "left") AS (
           SELECT "id", 0, length("bytes") FROM "${table}" WHERE "bytes" IS NOT NULL
           UNION ALL SELECT "id", "part" + 1, "left" - ${PART} FROM "piece" WHERE "left" > ${PART}
         )
         INSERT INTO "bytes" SELECT '${table}-' || "piece"."id", "piece"."part", substr("${table}"."bytes", "piece"."part" * ${PART} + 1, ${PART})
         FROM "piece" JOIN "${table}" ON "${table}"."id" = "piece"."id"`,
      );
      await runner.query(`ALTER TABLE "${table}" DROP COLUMN "bytes"`);
    }
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of ['face', 'picture']) await runner.query(`ALTER TABLE "${table}" ADD COLUMN "bytes" blob`);
    for (const { owner } of (await runner.query('SELECT DISTINCT "owner" FROM "bytes"')) as { owner: string }[]) {
      const parts = (await runner.query('SELECT "bytes" FROM "bytes" WHERE "owner" = ? ORDER BY "part"', [owner])) as { bytes: Buffer }[];
      const [, table, id] = /^(face|picture)-(.*)$/.exec(owner) ?? [];
      await runner.query(`UPDATE "${table}" SET "bytes" = ? WHERE "id" = ?`, [Buffer.concat(parts.map(({ bytes }) => bytes)), id]);
    }
    await runner.query('DROP TABLE "bytes"');
  }
}
