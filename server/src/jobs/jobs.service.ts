import { EventEmitter } from 'node:events';
import { randomUUID } from 'node:crypto';
import type { JobPage, JobSummary, jobQuerySchema } from '@jentrix/core/api';
import type { Job, Sheet, Use, UseKind } from '@jentrix/core/job';
import { type DataSource, IsNull, Not, type Repository } from 'typeorm';
import type { z } from 'zod';
import { type RunStatement, atomically } from '../database/atomically';
import { ProblemError, notFound } from '../http/problem';
import { type Filed, type JobChange, file } from '../filing/filing';
import type { FiledWithPulls } from '../filing/file-with-pulls';
import { writePull } from '../filing/write-pull';
import type { JobFiler } from '../filing/job-filer';
import { JobUseEntity } from './job-use.entity';
import { JobEntity } from './job.entity';

/** Tables whose rows live as long as their job. */
const LIVE_WITH_IT = ['job_use', 'job_measure', 'pull', 'pull_part', 'pull_piece'];

/** A job as it is stored: the document is its JSON. */
export interface StoredJob {
  id: string;
  revision: number;
  updatedAt: string;
  title: string;
  document: string;
}

/** A job as it would be after a change. */
interface ChangedJob {
  id: string;
  revision: number;
  filed: Filed;
}

/** Jobs in the database. Every write counts the revision up; a write based on an older one is refused with the current. */
export class JobsService {
  private readonly rows: Repository<JobEntity>;
  private readonly useRows: Repository<JobUseEntity>;
  /** Tells whoever listens to a job of its new revisions. */
  private readonly written = new EventEmitter().setMaxListeners(0);

  constructor(
    private readonly dataSource: DataSource,
    private readonly filer: JobFiler,
  ) {
    this.rows = dataSource.getRepository(JobEntity);
    this.useRows = dataSource.getRepository(JobUseEntity);
  }

  /** @param hear told of every new revision of a job. @returns what ends that */
  listen(id: string, hear: (revision: number) => void): () => void {
    this.written.on(id, hear);
    return () => void this.written.off(id, hear);
  }

  /** Tells whoever listens that any job may have changed. */
  async tellOfAll(): Promise<void> {
    for (const id of this.written.eventNames()) {
      const row = await this.rows.findOneBy({ id: String(id) });
      if (row) this.written.emit(id, row.revision);
    }
  }

  async list(query: z.output<typeof jobQuerySchema>): Promise<JobPage> {
    const { page, pageSize, sort, order, q, trash } = query;
    const builder = this.rows
      .createQueryBuilder('job')
      .where(trash === 'true' ? 'job.deletedAt IS NOT NULL' : 'job.deletedAt IS NULL')
      .orderBy(`job.${sort}`, order === 'asc' ? 'ASC' : 'DESC')
      .addOrderBy('job.id', 'ASC')
      .offset((page - 1) * pageSize)
      .limit(pageSize);
    const words = q.trim();
    if (words) builder.andWhere("job.title LIKE :like ESCAPE '\\'", { like: `%${words.replace(/[\\%_]/g, '\\$&')}%` });
    const [items, total] = await builder.getManyAndCount();
    return { items: items.map(summary), total, page, pageSize };
  }

  /** Puts a job on the shelf. */
  create(job: Job): StoredJob {
    return this.insert(file(job));
  }

  /** Puts the job of a request's body on the shelf, and the pulls that came with it. @throws ProblemError 400, 422 */
  async createFrom(body: Buffer): Promise<StoredJob> {
    return this.createFiled(await this.filer.newBody(body));
  }

  /** Puts a job on the shelf, and the pulls that came with it. */
  createFiled({ pulls, ...filed }: FiledWithPulls): StoredJob {
    return this.insert(filed, (run, id) => {
      for (const pull of pulls) writePull(run, id, pull.createdAt, pull);
    });
  }

  /** A job that is not in the trash, as it was stored. @throws ProblemError 404 */
  stored(id: string): Promise<StoredJob> {
    return this.find(id, { deletedAt: IsNull() });
  }

  /** @throws ProblemError 404 where there is no such job, or it is in the trash */
  async mustBeThere(id: string): Promise<void> {
    if (!(await this.rows.existsBy({ id, deletedAt: IsNull() }))) throw notFound('job');
  }

  /** A job that is not in the trash, checked and brought up to date. @throws ProblemError 404; 422 where it can’t be read */
  async read(id: string): Promise<StoredJob> {
    const stored = await this.stored(id);
    return { ...stored, document: (await this.filer.stored(stored.document)).document };
  }

  /** Like `stored`, but jobs in the trash too: their thumbnails are shown. @throws ProblemError 404 */
  peek(id: string): Promise<StoredJob> {
    return this.find(id, {});
  }

  /** The title and the sheets' names of a stored job. @throws ProblemError 422 */
  async outline({ document }: StoredJob): Promise<{ title: string; sheets: Pick<Sheet, 'id' | 'name'>[] }> {
    const { title, sheets } = await this.filer.stored(document);
    return { title, sheets };
  }

  /** The faces, pictures and recipes a job names. */
  async usesOf(id: string): Promise<Use[]> {
    return (await this.useRows.findBy({ jobId: id })).map(({ kind, thingId }) => ({ kind, id: thingId }));
  }

  /** The jobs that use something, those in the trash too, by title. */
  async using(kind: UseKind, thingId: string): Promise<{ id: string; title: string }[]> {
    return this.rows
      .createQueryBuilder('job')
      .innerJoin(JobUseEntity, 'use', 'use.jobId = job.id AND use.kind = :kind AND use.thingId = :thingId', { kind, thingId })
      .orderBy('job.title')
      .getMany();
  }

  /** The stored jobs that use something. */
  async storedUsing(kind: UseKind, thingId: string): Promise<StoredJob[]> {
    const stored: StoredJob[] = [];
    for (const { id } of await this.using(kind, thingId)) stored.push(await this.peek(id));
    return stored;
  }

  /**
   * Changes every job that uses something, and carries out what belongs to it, all or nothing. Where a job is written by somebody
   * else meanwhile, all is worked out again.
   * @param exceptId a job left as it is. @param also further writes of the same transaction.
   * @returns how many jobs changed. @throws ProblemError 409 where others write all the time
   */
  async changeUsers(kind: UseKind, thingId: string, change: JobChange, also: (run: RunStatement) => void, exceptId?: string): Promise<number> {
    for (let attempt = 0; attempt < 5; attempt++) {
      const changes: ChangedJob[] = [];
      for (const { id, revision, document } of await this.storedUsing(kind, thingId)) {
        if (id === exceptId) continue;
        const filed = await this.filer.stored(document, change);
        if (filed.document !== document) changes.push({ id, revision, filed });
      }
      const updatedAt = new Date().toISOString();
      try {
        atomically(this.dataSource, (run) => {
          for (const { id, revision, filed } of changes) if (!write(run, id, revision, filed, updatedAt)) throw new Overtaken();
          also(run);
        });
        for (const { id, revision } of changes) this.written.emit(id, revision + 1);
        return changes.length;
      } catch (error) {
        if (!(error instanceof Overtaken)) throw error;
      }
    }
    throw new ProblemError(409, 'busy', 'The jobs are busy', 'Someone is saving these jobs right now. Nothing was changed; try again in a moment.');
  }

  /**
   * Replaces a job. Compare and write are one statement, so of two writers based on one revision exactly one succeeds. A write that
   * says what is there already, because the answer to it was lost, is taken for done.
   * @throws ProblemError 412 with the current revision and document when `basedOn` is not the current revision; 404; 400, 422
   */
  async replace(id: string, basedOn: number, body: Buffer): Promise<StoredJob> {
    const filed = await this.filer.body(body);
    const updatedAt = new Date().toISOString();
    if (atomically(this.dataSource, (run) => write(run, id, basedOn, filed, updatedAt, 'AND "deletedAt" IS NULL'))) {
      this.written.emit(id, basedOn + 1);
      return { id, revision: basedOn + 1, updatedAt, title: filed.title, document: filed.document };
    }
    const current = await this.read(id);
    if (current.revision > basedOn && current.document === filed.document) return current;
    throw new StaleError(current, basedOn);
  }

  async duplicate(id: string): Promise<StoredJob> {
    return this.createCopy((await this.stored(id)).document);
  }

  /** Puts a stored job on the shelf once more, as a copy. @throws ProblemError 422 */
  async createCopy(document: string): Promise<StoredJob> {
    return this.insert(await this.filer.stored(document, { kind: 'copy' }));
  }

  async trash(id: string): Promise<void> {
    const { affected } = await this.rows.update({ id, deletedAt: IsNull() }, { deletedAt: new Date().toISOString() });
    if (affected !== 1) throw notFound('job');
  }

  async restore(id: string): Promise<JobSummary> {
    const { affected } = await this.rows.update({ id, deletedAt: Not(IsNull()) }, { deletedAt: null });
    const row = affected === 1 ? await this.rows.findOneBy({ id }) : null;
    if (!row) throw notFound('job in the trash');
    return summary(row);
  }

  /** Deletes a job that lies in the trash, for good. */
  purge(id: string): void {
    const gone = atomically(this.dataSource, (run) => {
      const changes = run('DELETE FROM "job" WHERE "id" = ? AND "deletedAt" IS NOT NULL', id);
      if (changes === 1) for (const table of LIVE_WITH_IT) run(`DELETE FROM "${table}" WHERE "jobId" = ?`, id);
      return changes === 1;
    });
    if (!gone) throw notFound('job in the trash');
  }

  async isEmpty(): Promise<boolean> {
    return !(await this.rows.exists());
  }

  private insert(filed: Filed, also: (run: RunStatement, id: string) => void = () => undefined): StoredJob {
    const { document, title, kind, sheetCount, aspect, uses } = filed;
    const id = randomUUID();
    const now = new Date().toISOString();
    atomically(this.dataSource, (run) => {
      run(
        `INSERT INTO "job" ("id", "title", "kind", "revision", "sheetCount", "aspect", "document", "createdAt", "updatedAt", "deletedAt")
         VALUES (?, ?, ?, 1, ?, ?, ?, ?, ?, NULL)`,
        id,
        title,
        kind,
        sheetCount,
        aspect,
        document,
        now,
        now,
      );
      writeUses(run, id, uses);
      also(run, id);
    });
    return { id, revision: 1, updatedAt: now, title, document };
  }

  private async find(id: string, where: object): Promise<StoredJob> {
    const row = await this.rows
      .createQueryBuilder('job')
      .addSelect('job.document')
      .where({ id, ...where })
      .getOne();
    if (!row) throw notFound('job');
    return { id, revision: row.revision, updatedAt: row.updatedAt, title: row.title, document: row.document };
  }
}

/** A write that was based on an older revision, with what is current. */
export class StaleError extends ProblemError {
  constructor(
    readonly current: StoredJob,
    basedOn: number,
  ) {
    super(412, 'stale-revision', 'Changed elsewhere', `The job is at revision ${current.revision}; the write was based on ${basedOn}.`);
  }
}

class Overtaken extends Error {}

/** Writes a job at a revision. @returns false where it is at another */
function write(
  run: RunStatement,
  id: string,
  revision: number,
  { document, title, kind, sheetCount, aspect, uses }: Filed,
  updatedAt: string,
  where = '',
): boolean {
  const changes = run(
    `UPDATE "job" SET "title" = ?, "kind" = ?, "sheetCount" = ?, "aspect" = ?, "document" = ?, "revision" = "revision" + 1, "updatedAt" = ?
     WHERE "id" = ? AND "revision" = ? ${where}`,
    title,
    kind,
    sheetCount,
    aspect,
    document,
    updatedAt,
    id,
    revision,
  );
  if (changes !== 1) return false;
  run('DELETE FROM "job_use" WHERE "jobId" = ?', id);
  writeUses(run, id, uses);
  return true;
}

function writeUses(run: RunStatement, jobId: string, uses: readonly Use[]): void {
  for (const { kind, id } of uses) run('INSERT INTO "job_use" ("jobId", "kind", "thingId") VALUES (?, ?, ?)', jobId, kind, id);
}

function summary({ id, title, kind, revision, sheetCount, aspect, createdAt, updatedAt, deletedAt }: JobEntity): JobSummary {
  return { id, title, kind, revision, sheetCount, aspect, createdAt, updatedAt, deletedAt };
}
