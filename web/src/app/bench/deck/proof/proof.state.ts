import { Injectable, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Subject } from 'rxjs';
import { Pulls } from '../../state/pulls';
import type { BesideMode } from '../../state/instead';

export const PROOF_TABS = ['compare', 'reference', 'view', 'findings'] as const;
export type ProofTab = (typeof PROOF_TABS)[number];

/** Nothing in a row, or what of the sheets stands level: their tops, or baselines or capitals of their largest type. */
export type SheetChanges = 'off' | 'top' | 'baseline' | 'capitals';

/** Commands of keys in the Proof pass: the pull in place until the key is released, the next or the last thing that is open, reading along. */
export type ProofCommand = 'hold' | 'next' | 'previous' | 'read';

/** The choices of the Proof pass. What follows from it is worked out by its deck, while that is there. */
@Injectable()
export class ProofState {
  private readonly pulls = inject(Pulls);
  private readonly asked = new Subject<ProofCommand>();

  readonly tab = signal<ProofTab>('compare');
  /** How the pull is shown beside the job; `place` while the key is held only. */
  readonly side = signal<BesideMode | 'place'>('place');
  /** The pull that is compared with, and what with: another pull, or the job as it is now where undefined. */
  readonly fromId = signal<string | undefined>(undefined);
  readonly toId = signal<string | undefined>(undefined);
  /** How all sheets of the job stand in a row. */
  readonly row = signal<SheetChanges>('off');
  readonly asked$ = this.asked.asObservable();

  constructor() {
    // A pull that was deleted, or of another job, is compared with no longer.
    this.pulls.pulls$.pipe(takeUntilDestroyed()).subscribe((pulls) => {
      for (const chosen of [this.fromId, this.toId]) if (chosen() !== undefined && !pulls?.some(({ id }) => id === chosen())) chosen.set(undefined);
    });
  }

  ask(command: ProofCommand): void {
    this.asked.next(command);
  }

  /** Chooses what is compared with; chosen again, nothing is. */
  compareWith(id: string): void {
    this.fromId.update((now) => (now === id ? undefined : id));
    if (this.toId() === id) this.toId.set(undefined);
    this.tab.set('compare');
  }

  /** Keeps a pull of the job as it is, and compares with it from now on where nothing else is compared. */
  async keep(): Promise<void> {
    const kept = await this.pulls.keep();
    if (kept && this.pulls.value && this.fromId() === undefined) this.fromId.set(kept.id);
  }
}
