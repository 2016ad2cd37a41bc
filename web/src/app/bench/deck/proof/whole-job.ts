import { Injectable, inject } from '@angular/core';
import { JOB_RULES, type JobCheck, type JobFinding, byVisibility, isSilenced, judgeJob } from '@jentrix/core/findings';
import { type Job, type Sheet, findBlock, sheetOf } from '@jentrix/core/job';
import { judgeOf } from '@jentrix/core/preferences';
import { evenness } from '@jentrix/core/spacing';
import { EngineService } from '../../../engine/engine.service';
import { UserPreferences } from '../../../settings/user-preferences';

/** The measures of a whole job, sheet by sheet. */
export interface WholeJob {
  /** In the order of the sheets, the most visible of a sheet first. */
  findings: readonly JobFinding[];
  sheets: readonly { sheet: Sheet; check: JobCheck }[];
}

/** Checks whole jobs, one sheet after the other so that keys come in between; what did not change is not checked again. */
@Injectable()
export class WholeJobs {
  private readonly engine = inject(EngineService);
  private readonly preferences = inject(UserPreferences);
  private readonly known = new WeakMap<Sheet, { by: string; pairs: Job['pairs']; check: Promise<JobCheck> }>();

  async check(job: Job): Promise<WholeJob> {
    const sheets: { sheet: Sheet; check: JobCheck }[] = [];
    const findings: JobFinding[] = [];
    const ofJob = judgeJob(JOB_RULES, { job }).flatMap((finding): JobFinding[] => {
      const block = finding.blockId === undefined ? undefined : findBlock(job, finding.blockId);
      const sheet = block && sheetOf(job, block.id);
      if (block && isSilenced(block, finding)) return [];
      return [{ ...finding, ...(sheet ? { sheetId: sheet.id } : {}), sheet: sheet?.name ?? '', words: block?.words.replaceAll('\n', ' ') ?? '' }];
    });
    for (const sheet of job.sheets) {
      const check = await this.ofSheet(job, sheet);
      sheets.push({ sheet, check });
      const own = check.findings.filter(({ rule }) => !JOB_RULES.some(({ id }) => id === rule));
      const more = ofJob.filter(({ sheetId }) => sheetId === sheet.id);
      findings.push(...[...own.map((finding) => ({ ...finding, sheetId: sheet.id })), ...more].sort(byVisibility));
    }
    findings.push(...ofJob.filter(({ sheetId }) => sheetId === undefined));
    return { findings, sheets };
  }

  private ofSheet(job: Job, sheet: Sheet): Promise<JobCheck> {
    const { pairs } = job;
    const by = JSON.stringify([judgeOf(this.preferences.current), job.kind, job.language]);
    const known = this.known.get(sheet);
    if (known?.by === by && known.pairs === pairs) return known.check;
    const check = this.engine.check({ ...job, sheets: [sheet] });
    check.catch(() => this.known.delete(sheet));
    this.known.set(sheet, { by, pairs, check });
    return check;
  }
}

/** Evenness of all sheets together, by the letters' gaps of their blocks; 0 to 100, undefined where there is nothing to measure. */
export function evennessOf({ sheets }: WholeJob): number | undefined {
  const all = sheets.flatMap(({ check }) => check.deviations);
  return evenness(all);
}
