import { Injectable, inject } from '@angular/core';
import { takeUntilDestroyed, toSignal } from '@angular/core/rxjs-interop';
import { type Finding, type Inspection, JOB_RULES, byVisibility, isSilenced, judgeJob } from '@jentrix/core/findings';
import { type Block, type Sheet, findBlock } from '@jentrix/core/job';
import { limitsOf } from '@jentrix/core/preferences';
import { amountsOf } from '@jentrix/core/taste';
import { evenness } from '@jentrix/core/spacing';
import { BehaviorSubject, distinctUntilChanged, filter, map, merge, skip, take, takeUntil } from 'rxjs';
import { EngineService } from '../../engine/engine.service';
import { UserPreferences } from '../../settings/user-preferences';
import { JobHistory } from './job-history';
import { SheetSettings } from './sheet-settings';

/** The measures of the current sheet. */
export interface Findings {
  inspections: ReadonlyMap<string, Inspection>;
  /** Most visible first: of its blocks, of the sheet as a whole, and of the job. */
  findings: readonly Finding[];
  intended: readonly Finding[];
  /** Of all gaps of the sheet: as they are, and with every proposal taken; 0 to 100. */
  evenness: number | undefined;
  evennessProposed: number | undefined;
  /** Why the sheet could not be measured as it stands now: what is listed is older, or nothing. */
  failed: string | undefined;
}

/** Browsers' words for a script that can't be had. */
const LOADING = /import|fetch/i;

const NOTHING_FOUND: Findings = { inspections: new Map(), findings: [], intended: [], evenness: undefined, evennessProposed: undefined, failed: undefined };

@Injectable()
export class SheetFindings {
  private readonly engine = inject(EngineService);
  private readonly preferences = inject(UserPreferences);
  private readonly history = inject(JobHistory);
  private readonly settings = inject(SheetSettings);

  private readonly subject = new BehaviorSubject<Findings>(NOTHING_FOUND);
  /** The blocks that were measured, to know which have changed since. */
  private readonly measured = new Map<string, Block>();
  private measuring = false;
  /** The first letters are shown before anything is looked for in them. */
  private readonly idle = new Promise<void>((done) => requestIdleCallback(() => done(), { timeout: 1000 }));

  readonly findings$ = this.subject.asObservable();
  readonly current = toSignal(this.findings$, { requireSync: true });

  constructor() {
    this.history.opened$.pipe(takeUntilDestroyed()).subscribe(() => {
      this.measured.clear();
      this.subject.next(NOTHING_FOUND);
    });
    // Other limits, another hand or other faces: every rule is asked anew.
    const judge$ = this.preferences.preferences$.pipe(
      map((preferences) => JSON.stringify([limitsOf(preferences), amountsOf(preferences.taste)])),
      distinctUntilChanged(),
      skip(1),
    );
    merge(judge$, this.engine.faces$.pipe(skip(1)))
      .pipe(takeUntilDestroyed())
      .subscribe(() => {
        this.measured.clear();
        this.settings.retry();
      });
    this.settings.setting$.pipe(takeUntilDestroyed()).subscribe((setting) => setting && void this.measure(setting.sheet));
  }

  get value(): Findings {
    return this.subject.value;
  }

  /** True when what is found is of the sheet as it now stands. */
  private get fresh(): boolean {
    const blocks = this.settings.sheet?.blocks;
    const { inspections } = this.value;
    return blocks?.length === inspections.size && blocks.every((block) => inspections.has(block.id) && this.measured.get(block.id) === block);
  }

  /** Hands over what is found in the sheet as it now stands: at once, or when that has been measured. What was found in earlier words fixes no later ones. */
  whenFresh(use: (findings: Findings) => void): void {
    merge(this.findings$, this.settings.setting$)
      .pipe(
        filter(() => this.fresh),
        take(1),
        takeUntil(this.history.opened$),
      )
      .subscribe(() => use(this.value));
  }

  /** Measures again what could not be measured. */
  again(): void {
    const { sheet } = this.settings;
    if (sheet) void this.measure(sheet);
  }

  /** Has the engine measure what changed, after it was shown; a failure leaves the findings as they were, and is told. */
  private async measure(sheet: Sheet): Promise<void> {
    if (this.measuring) return;
    this.measuring = true;
    try {
      await this.idle;
      for (let current = sheet; ; current = this.settings.value?.sheet ?? current) {
        const known = this.value.inspections;
        const { blocks, ...rest } = current;
        const changed = blocks.filter((block) => this.measured.get(block.id) !== block || !known.has(block.id));
        if (changed.length === 0 && known.size === blocks.length) return;
        const { job } = this.history;
        const found = await this.engine.inspect({
          kind: job?.kind ?? 'other',
          sheet: rest,
          blockIds: blocks.map(({ id }) => id),
          changed: changed.map(({ id }) => id),
        });
        const fresh = new Map(found.blocks.map((inspection) => [inspection.blockId, inspection]));
        const inspections = new Map<string, Inspection>();
        for (const { id } of blocks) {
          const inspection = fresh.get(id) ?? known.get(id);
          if (inspection) inspections.set(id, inspection);
        }
        for (const block of changed) this.measured.set(block.id, block);
        const ofJob = job ? judgeJob(JOB_RULES, { job }) : [];
        const silenced = (finding: Finding): boolean => {
          const block = job && finding.blockId !== undefined ? findBlock(job, finding.blockId) : undefined;
          return block !== undefined && isSilenced(block, finding);
        };
        const further = [...found.sheet, ...ofJob];
        this.subject.next(
          summarise(
            inspections,
            further.filter((finding) => !silenced(finding)),
            further.filter((finding) => silenced(finding)),
          ),
        );
      }
    } catch (error) {
      const why = error instanceof Error ? error.message : String(error);
      const message = LOADING.test(why) ? 'The findings can’t be loaded: the server can’t be reached.' : `The sheet could not be measured: ${why}`;
      this.subject.next({ ...this.value, failed: message });
    } finally {
      this.measuring = false;
    }
  }
}

function summarise(inspections: ReadonlyMap<string, Inspection>, further: readonly Finding[], silenced: readonly Finding[]): Findings {
  const all = [...inspections.values()];
  return {
    inspections,
    findings: [...all.flatMap(({ findings }) => findings), ...further].sort(byVisibility),
    intended: [...all.flatMap(({ intended }) => intended), ...silenced].sort(byVisibility),
    evenness: evenness(all.flatMap(({ deviations }) => deviations)),
    evennessProposed: evenness(all.flatMap(({ proposedDeviations }) => proposedDeviations)),
    failed: undefined,
  };
}
