import { Injectable, computed, inject, signal } from '@angular/core';
import type { JobFinding, Severity } from '@jentrix/core/findings';
import { BenchStore } from '../../bench.store';
import { Comparison } from './comparison';
import { ProofState } from './proof.state';

/** Walks everything that is still open in the job, across its sheets. */
@Injectable()
export class OpenWalk {
  private readonly store = inject(BenchStore);
  private readonly proof = inject(ProofState);
  private readonly comparison = inject(Comparison);

  /** Only findings of this pass, and this severe; all where undefined. */
  readonly pass = signal<string | undefined>(undefined);
  readonly severity = signal<Severity | undefined>(undefined);
  readonly findings = computed((): readonly JobFinding[] => {
    const [pass, severity] = [this.pass(), this.severity()];
    return (this.comparison.open()?.findings ?? []).filter(
      (one) => (pass === undefined || one.pass === pass) && (severity === undefined || one.severity === severity),
    );
  });
  private readonly at = signal<JobFinding | undefined>(undefined);
  /** The finding that was gone to last, as it is now; none where it was fixed. */
  readonly current = computed(() => {
    const at = this.at();
    return at && this.findings().find((one) => isSame(one, at));
  });

  /** Goes to the next finding, or the one before; round at the ends. From one that was fixed, to what came behind it. */
  step(by: 1 | -1): void {
    this.proof.tab.set('findings');
    const all = this.findings();
    const current = this.current();
    const index = current ? all.indexOf(current) + by : this.behind(by);
    const next = all[(index + all.length) % Math.max(1, all.length)];
    if (next) this.go(next);
  }

  go(finding: JobFinding): void {
    this.at.set(finding);
    this.index = this.findings().indexOf(finding);
    if (finding.blockId === undefined && finding.sheetId !== undefined) this.store.showSheet(finding.sheetId);
    else this.store.goTo(finding);
  }

  /** Takes what a finding proposes. */
  take(finding: JobFinding): void {
    this.go(finding);
    this.store.accept(finding);
  }

  /** Where the walk stood when its finding went. */
  private index = -1;
  private behind(by: 1 | -1): number {
    if (this.at() === undefined) return by === 1 ? 0 : -1;
    return by === 1 ? Math.max(0, this.index) : this.index - 1;
  }
}

const isSame = (a: JobFinding, b: JobFinding): boolean =>
  a.rule === b.rule && a.blockId === b.blockId && a.sheetId === b.sheetId && a.at === b.at && a.subject === b.subject;
