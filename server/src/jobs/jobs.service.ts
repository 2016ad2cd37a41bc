import { randomUUID } from 'node:crypto';
import type { JobPage, JobRecord, JobSummary, jobQuerySchema } from '@jentrix/core/api';
import { readJob } from '@jentrix/core/formats';
import type { Job } from '@jentrix/core/job';
import { type DataSource, IsNull, Not, type Repository } from 'typeorm';
import type { z } from 'zod';
import { ProblemError, notFound } from '../http/problem';
import { JobEntity } from './job.entity';

/** Jobs in the database. Every write counts the revision up; a write based on an older one is refused with the current. */
export class JobsService {
  private readonly rows: Repository<JobEntity>;

  constructor(dataSource: DataSource) {
    this.rows = dataSource.getRepository(JobEntity);
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

  async create(job: Job): Promise<JobRecord> {
    const now = new Date().toISOString();
    const row = this.rows.create({ id: randomUUID(), revision: 1, createdAt: now, updatedAt: now, deletedAt: null, ...columns(job) });
    await this.rows.insert(row);
    return record(row, job);
  }

  /** A job that is not in the trash. @throws ProblemError 404 */
  async read(id: string): Promise<JobRecord> {
    const row = await this.find(id);
    return record(row, readJob(JSON.parse(row.document)));
  }

  /** The jobs whose document holds a text, those in the trash too. */
  async holding(text: string): Promise<{ id: string; title: string; revision: number; job: Job }[]> {
    const rows = await this.rows
      .createQueryBuilder('job')
      .addSelect('job.document')
      .where("job.document LIKE :like ESCAPE '\\'", { like: `%${text.replace(/[\\%_]/g, '\\$&')}%` })
      .getMany();
    return rows.map(({ id, title, revision, document }) => ({ id, title, revision, job: readJob(JSON.parse(document)) }));
  }

  /** Rewrites every job whose document holds a text, one left out if wanted. @returns how many changed */
  async rewrite(text: string, change: (job: Job) => Job, exceptId?: string): Promise<number> {
    let changed = 0;
    for (const { id, revision, job } of await this.holding(text)) {
      const next = id === exceptId ? job : change(job);
      if (next === job) continue;
      await this.rows.update({ id, revision }, { ...columns(next), revision: revision + 1, updatedAt: new Date().toISOString() });
      changed++;
    }
    return changed;
  }

  /**
   * Replaces a job. Compare and write are one statement, so of two writers based on one revision exactly one succeeds.
   * @throws ProblemError 412 with the current record when `basedOn` is not the current revision; 404
   */
  async replace(id: string, basedOn: number, job: Job): Promise<JobRecord> {
    const updatedAt = new Date().toISOString();
    const { affected } = await this.rows.update({ id, revision: basedOn, deletedAt: IsNull() }, { ...columns(job), revision: basedOn + 1, updatedAt });
    if (affected !== 1) {
      const current = await this.read(id);
      throw new ProblemError(412, 'stale-revision', 'Changed elsewhere', `The job is at revision ${current.revision}; the write was based on ${basedOn}.`, {
        current,
      });
    }
    return { id, revision: basedOn + 1, updatedAt, job };
  }

  async duplicate(id: string): Promise<JobRecord> {
    const { job } = await this.read(id);
    return this.create({ ...job, title: `${job.title} copy`.slice(0, 200) });
  }

  async trash(id: string): Promise<void> {
    const { affected } = await this.rows.update({ id, deletedAt: IsNull() }, { deletedAt: new Date().toISOString() });
    if (affected !== 1) throw notFound('job');
  }

  async restore(id: string): Promise<JobSummary> {
    const { affected } = await this.rows.update({ id, deletedAt: Not(IsNull()) }, { deletedAt: null });
    if (affected !== 1) throw notFound('job in the trash');
    return summary(await this.find(id));
  }

  /** Deletes a job that lies in the trash, for good. */
  async purge(id: string): Promise<void> {
    const { affected } = await this.rows.delete({ id, deletedAt: Not(IsNull()) });
    if (affected !== 1) throw notFound('job in the trash');
  }

  async isEmpty(): Promise<boolean> {
    return !(await this.rows.exists());
  }

  /** Like `read`, but jobs in the trash too: their thumbnails are shown. */
  async peek(id: string): Promise<JobRecord> {
    const row = await this.rows.createQueryBuilder('job').addSelect('job.document').where({ id }).getOne();
    if (!row) throw notFound('job');
    return record(row, readJob(JSON.parse(row.document)));
  }

  private async find(id: string): Promise<JobEntity> {
    const row = await this.rows.createQueryBuilder('job').addSelect('job.document').where({ id, deletedAt: IsNull() }).getOne();
    if (!row) throw notFound('job');
    return row;
  }
}

function columns(job: Job): Pick<JobEntity, 'title' | 'kind' | 'sheetCount' | 'aspect' | 'document'> {
  const first = job.sheets[0];
  return {
    title: job.title,
    kind: job.kind,
    sheetCount: job.sheets.length,
    aspect: first ? first.widthPt / first.heightPt : 1,
    document: JSON.stringify(job),
  };
}

function summary({ id, title, kind, revision, sheetCount, aspect, createdAt, updatedAt, deletedAt }: JobEntity): JobSummary {
  return { id, title, kind, revision, sheetCount, aspect, createdAt, updatedAt, deletedAt };
}

function record({ id, revision, updatedAt }: JobEntity, job: Job): JobRecord {
  return { id, revision, updatedAt, job };
}
