import type { MigrationInterface, QueryRunner } from 'typeorm';

export class FacesAndPictures1764100000000 implements MigrationInterface {
  readonly name = 'FacesAndPictures1764100000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TABLE "face" (
      "id" varchar PRIMARY KEY NOT NULL,
      "source" varchar NOT NULL,
      "entry" text NOT NULL,
      "digest" varchar,
      "bytes" blob,
      "addedAt" varchar NOT NULL
    )`);
    await runner.query(`CREATE UNIQUE INDEX "face_digest" ON "face" ("digest")`);
    await runner.query(`CREATE TABLE "favourite" ("faceId" varchar PRIMARY KEY NOT NULL)`);
    await runner.query(`CREATE TABLE "picture" (
      "id" varchar PRIMARY KEY NOT NULL,
      "type" varchar NOT NULL,
      "width" integer NOT NULL,
      "height" integer NOT NULL,
      "bytes" blob NOT NULL
    )`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE "picture"');
    await runner.query('DROP TABLE "favourite"');
    await runner.query('DROP TABLE "face"');
  }
}
