import { deflateRawSync, inflateRawSync } from 'node:zlib';
import type { Pull } from '@jentrix/core/api';
import type { Use } from '@jentrix/core/job';
import { MOST_PULLS, putTogether } from '@jentrix/core/pulls';
import type { DataSource, Repository } from 'typeorm';
import { type RunStatement, atomically } from '../database/atomically';
import type { DrawingInput } from '../drawing/draw';
import { ProblemError, notFound } from '../http/problem';
import type { JobFiler } from '../filing/job-filer';
import type { JobsService, StoredJob } from '../jobs/jobs.service';
import type { Workshop } from '../pool/workshop';
import type { PreferencesService } from '../preferences/preferences.service';
import type { StoredPulls } from '../filing/file-with-pulls';
import { PullEntity, PullPartEntity, PullPieceEntity } from './pull.entity';
import { writePull } from '../filing/write-pull';
import { drawingTasks } from '../drawing/tasks';

/** A kept state with what a drawing of it is made from. */
export interface KeptJob {
  /** As a drawing takes it: the pull stands for the job, and never changes. */
  stored: StoredJob;
  uses: Use[];
}

/** Kept states of jobs. They live and die with their job, also while that lies in the trash. */
export class PullsService {
  private readonly rows: Repository<PullEntity>;
  private readonly parts: Repository<PullPartEntity>;

  constructor(
    private readonly dataSource: DataSource,
    private readonly jobs: JobsService,
    private readonly filer: JobFiler,
    private readonly workshop: Workshop,
    private readonly preferences: PreferencesService,
  ) {
    this.rows = dataSource.getRepository(PullEntity);
    this.parts = dataSource.getRepository(PullPartEntity);
  }

  /** The pulls of a job, the latest first. @throws ProblemError 404 */
  async list(jobId: string): Promise<Pull[]> {
    await this.jobs.mustBeThere(jobId);
    return (await this.rows.find({ where: { jobId }, order: { createdAt: 'DESC', id: 'ASC' } })).map(summary);
  }

  /**
   * Keeps the state in a request's body. What was kept automatically is not kept once more while it is the latest.
   * @throws ProblemError 404 for an unknown job; 409 where it has too many; 400, 422
   */
  async keep(jobId: string, body: Buffer): Promise<Pull> {
    const filed = await this.filer.pull(body);
    await this.jobs.mustBeThere(jobId);
    const root = deflateRawSync(filed.root);
    const latest = await this.rows.createQueryBuilder('pull').addSelect('pull.root').where({ jobId }).orderBy('pull.createdAt', 'DESC').getOne();
    if (filed.reason !== 'hand' && latest?.root.equals(root)) return summary(latest);
    const gone = await this.makeRoom(jobId);
    const createdAt = new Date().toISOString();
    const id = atomically(this.dataSource, (run) => {
      if (gone !== undefined) remove(run, jobId, gone);
      return writePull(run, jobId, createdAt, filed);
    });
    const { name, reason } = filed;
    return { id, name, reason, createdAt, evenness: null, findings: null };
  }

  /** All pulls of a job as they are stored, the earliest first, for a file that holds them. */
  async archive(jobId: string): Promise<StoredPulls> {
    const rows = await this.rows.createQueryBuilder('pull').addSelect('pull.root').where({ jobId }).orderBy('pull.createdAt', 'ASC').getMany();
    const parts = new Map<string, string[]>();
    for (const { pullId, key } of await this.parts.findBy({ jobId })) parts.set(pullId, [...(parts.get(pullId) ?? []), key]);
    const pieces = await this.dataSource.getRepository(PullPieceEntity).findBy({ jobId });
    return {
      pulls: rows.map(({ id, name, reason, createdAt, root }) => ({ name, reason, createdAt, root: root.toString('base64'), parts: parts.get(id) ?? [] })),
      pieces: pieces.map(({ key, bytes }) => [key, bytes.toString('base64')]),
    };
  }

  /** The faces, pictures and recipes that the pulls of a job name. */
  async usesOf(jobId: string): Promise<Use[]> {
    return (await this.rows.findBy({ jobId })).flatMap(({ uses }) => JSON.parse(uses) as Use[]);
  }

  /** The automatic pull that gives way to a new one, where there are as many as can be. @throws ProblemError 409 */
  private async makeRoom(jobId: string): Promise<string | undefined> {
    if ((await this.rows.countBy({ jobId })) < MOST_PULLS) return undefined;
    const oldest = await this.rows
      .createQueryBuilder('pull')
      .where({ jobId })
      .andWhere("pull.reason <> 'hand' AND pull.name = ''")
      .orderBy('pull.createdAt', 'ASC')
      .getOne();
    if (oldest) return oldest.id;
    throw new ProblemError(
      409,
      'too-many-pulls',
      'No room for another pull',
      `The job has ${MOST_PULLS} pulls that were kept manually or named. Delete some first.`,
    );
  }

  /** @throws ProblemError 404 */
  async rename(jobId: string, id: string, name: string): Promise<Pull> {
    const { affected } = await this.rows.update({ jobId, id }, { name });
    if (affected !== 1) throw notFound('pull');
    return summary(await this.find(jobId, id));
  }

  /** @throws ProblemError 404 */
  delete(jobId: string, id: string): void {
    if (!atomically(this.dataSource, (run) => remove(run, jobId, id))) throw notFound('pull');
  }

  /** A pull with the job as it was, brought up to date. @throws ProblemError 404; 422 where it can’t be read */
  async read(jobId: string, id: string): Promise<{ pull: Pull; document: string }> {
    const row = await this.find(jobId, id);
    const { document } = await this.filer.stored(await this.documentOf(row));
    return { pull: summary(row), document };
  }

  /** The material to draw a pull. @throws ProblemError 404 */
  async kept(jobId: string, id: string): Promise<KeptJob> {
    const row = await this.find(jobId, id);
    const { title, createdAt } = row;
    return { stored: { id, revision: 1, updatedAt: createdAt, title, document: await this.documentOf(row) }, uses: JSON.parse(row.uses) as Use[] };
  }

  /**
   * A pull with what it measures, worked out when it is first asked for.
   * @param materials what measuring takes besides the job. @throws ProblemError 404; 422 where it can’t be read
   */
  async measured(jobId: string, id: string, materials: Omit<DrawingInput, 'out'>): Promise<Pull> {
    const row = await this.find(jobId, id);
    if (row.findings !== null) return summary(row);
    const measure = await this.workshop.run(drawingTasks.measureJob, { ...materials, preferences: await this.preferences.read() });
    await this.rows.update({ jobId, id }, measure);
    return { ...summary(row), ...measure };
  }

  private async documentOf({ id, jobId }: PullEntity): Promise<string> {
    const row = await this.rows.createQueryBuilder('pull').addSelect('pull.root').where({ id }).getOneOrFail();
    const pieces = await this.parts
      .createQueryBuilder('part')
      .innerJoin(PullPieceEntity, 'piece', 'piece.jobId = part.jobId AND piece.key = part.key')
      .where('part.pullId = :id AND part.jobId = :jobId', { id, jobId })
      .select(['part.key AS key', 'piece.bytes AS bytes'])
      .getRawMany<{ key: string; bytes: Buffer }>();
    try {
      return putTogether({ root: inflated(row.root), pieces: new Map(pieces.map(({ key, bytes }) => [key, inflated(bytes)])) });
    } catch (error) {
      const why = error instanceof Error ? error.message : String(error);
      throw new ProblemError(422, 'damaged-pull', 'The pull can’t be read', `It is damaged: ${why} The job and its other pulls are safe.`);
    }
  }

  private async find(jobId: string, id: string): Promise<PullEntity> {
    const row = await this.rows.findOneBy({ jobId, id });
    if (!row) throw notFound('pull');
    return row;
  }
}

const inflated = (bytes: Buffer): string => inflateRawSync(bytes).toString('utf8');

const summary = ({ id, name, reason, createdAt, evenness, findings }: PullEntity): Pull => ({ id, name, reason, createdAt, evenness, findings });

/** Deletes a pull, and the pieces that no other one has. @returns false where there is none */
function remove(run: RunStatement, jobId: string, id: string): boolean {
  if (run('DELETE FROM "pull" WHERE "jobId" = ? AND "id" = ?', jobId, id) !== 1) return false;
  run('DELETE FROM "pull_part" WHERE "pullId" = ?', id);
  run('DELETE FROM "pull_piece" WHERE "jobId" = ? AND "key" NOT IN (SELECT "key" FROM "pull_part" WHERE "jobId" = ?)', jobId, jobId);
  return true;
}
