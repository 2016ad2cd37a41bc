import { createHash } from 'node:crypto';
import type { JobMeasure } from '@jentrix/core/api';
import { judgeOf } from '@jentrix/core/preferences';
import type { DataSource, Repository } from 'typeorm';
import type { ExportsService } from '../exports/exports.service';
import type { JobsService } from '../jobs/jobs.service';
import type { Workshop } from '../pool/workshop';
import type { PreferencesService } from '../preferences/preferences.service';
import { JobMeasureEntity } from './job-measure.entity';

/** The measures of jobs. */
export class MeasuresService {
  private readonly rows: Repository<JobMeasureEntity>;

  constructor(
    dataSource: DataSource,
    private readonly jobs: JobsService,
    private readonly exports: ExportsService,
    private readonly workshop: Workshop,
    private readonly preferences: PreferencesService,
  ) {
    this.rows = dataSource.getRepository(JobMeasureEntity);
  }

  /** @throws ProblemError 404; 422 where the job can’t be read */
  async measure(jobId: string): Promise<JobMeasure> {
    const stored = await this.jobs.stored(jobId);
    const preferences = await this.preferences.read();
    const materials = await this.exports.materials(stored.document, await this.jobs.usesOf(jobId));
    const judged = JSON.stringify([judgeOf(preferences), materials.faces]);
    const of = `${stored.revision} ${createHash('sha256').update(judged).digest('base64url').slice(0, 22)}`;
    const known = await this.rows.findOneBy({ jobId });
    if (known?.of === of) return { evenness: known.evenness, findings: known.findings };
    const measure = await this.workshop.run('measureJob', { ...materials, preferences });
    await this.rows.upsert({ jobId, of, ...measure }, ['jobId']);
    return measure;
  }
}
