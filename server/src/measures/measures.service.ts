import { createHash } from 'node:crypto';
import type { JobMeasure, Pull } from '@jentrix/core/api';
import { judgeOf } from '@jentrix/core/preferences';
import type { DataSource, Repository } from 'typeorm';
import { drawingTasks } from '../drawing/tasks';
import type { ExportsService } from '../exports/exports.service';
import type { JobsService } from '../jobs/jobs.service';
import type { Workshop } from '../pool/workshop';
import type { PreferencesService } from '../preferences/preferences.service';
import type { PullsService } from '../pulls/pulls.service';
import { JobMeasureEntity } from './job-measure.entity';

/** Where measures come from. */
export interface MeasuresParts {
  dataSource: DataSource;
  jobs: JobsService;
  pulls: PullsService;
  exports: ExportsService;
  workshop: Workshop;
  preferences: PreferencesService;
}

/** The measures of jobs and pulls. */
export class MeasuresService {
  private readonly rows: Repository<JobMeasureEntity>;

  constructor(private readonly parts: MeasuresParts) {
    this.rows = parts.dataSource.getRepository(JobMeasureEntity);
  }

  /** @throws ProblemError 404; 422 where the job can’t be read */
  async measure(jobId: string): Promise<JobMeasure> {
    const { jobs, exports, workshop } = this.parts;
    const stored = await jobs.stored(jobId);
    const preferences = await this.parts.preferences.read();
    const materials = await exports.materials(stored.document, await jobs.usesOf(jobId));
    const judged = JSON.stringify([judgeOf(preferences), materials.faces]);
    const of = `${stored.revision} ${createHash('sha256').update(judged).digest('base64url').slice(0, 22)}`;
    const known = await this.rows.findOneBy({ jobId });
    if (known?.of === of) return { evenness: known.evenness, findings: known.findings };
    const measure = await workshop.run(drawingTasks.measureJob, { ...materials, preferences });
    await this.rows.upsert({ jobId, of, ...measure }, ['jobId']);
    return measure;
  }

  /** @throws ProblemError 404; 422 where the pull can’t be read */
  async measurePull(jobId: string, id: string): Promise<Pull> {
    const { pulls, exports } = this.parts;
    const { stored, uses } = await pulls.kept(jobId, id);
    return pulls.measured(jobId, id, await exports.materials(stored.document, uses));
  }
}
