import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Kept states of jobs, in pieces that they share, and what jobs measure; they go with their job. */
export class Pulls1764600000000 implements MigrationInterface {
  readonly name = 'Pulls1764600000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TABLE "pull" (
      "id" varchar PRIMARY KEY NOT NULL,
      "jobId" varchar NOT NULL,
      "name" varchar NOT NULL,
      "reason" varchar NOT NULL,
      "createdAt" varchar NOT NULL,
      "evenness" float,
      "findings" integer,
      "title" varchar NOT NULL,
      "uses" text NOT NULL,
      "root" blob NOT NULL
    )`);
    await runner.query('CREATE INDEX "pull_jobId_createdAt" ON "pull" ("jobId", "createdAt")');
    await runner.query(`CREATE TABLE "pull_piece" (
      "jobId" varchar NOT NULL,
      "key" varchar NOT NULL,
      "bytes" blob NOT NULL,
      CONSTRAINT "pull_piece_pk" PRIMARY KEY ("jobId", "key")
    )`);
    await runner.query(`CREATE TABLE "pull_part" (
      "pullId" varchar NOT NULL,
      "jobId" varchar NOT NULL,
      "key" varchar NOT NULL,
      CONSTRAINT "pull_part_pk" PRIMARY KEY ("pullId", "key")
    )`);
    await runner.query('CREATE INDEX "pull_part_jobId_key" ON "pull_part" ("jobId", "key")');
    await runner.query(`CREATE TABLE "job_measure" (
      "jobId" varchar PRIMARY KEY NOT NULL,
      "of" varchar NOT NULL,
      "evenness" float,
      "findings" integer NOT NULL
    )`);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of ['job_measure', 'pull_part', 'pull_piece', 'pull']) await runner.query(`DROP TABLE "${table}"`);
  }
}
