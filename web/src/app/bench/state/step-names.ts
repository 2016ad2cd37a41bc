import { Injectable, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { debounceTime } from 'rxjs';
import { EngineService } from '../../engine/engine.service';
import { inLanguage } from '../../ui/numbers';
import { JobHistory } from './job-history';

/** Steps that come faster are named together, in milliseconds. */
const PAUSE_MS = 200;

/** The names of the next undo and redo: “tracking −10”. Empty where there is nothing, or until it is known. */
@Injectable()
export class StepNames {
  private readonly engine = inject(EngineService);
  private readonly history = inject(JobHistory);
  private readonly names = signal({ undo: '', redo: '' });
  readonly value = this.names.asReadonly();

  constructor() {
    this.history.history$.pipe(debounceTime(PAUSE_MS), takeUntilDestroyed()).subscribe(() => void this.name());
  }

  /** How a face is called. */
  readonly faceName = (id: string): string => {
    const face = this.engine.faces.find((one) => one.id === id);
    return face ? `${face.family} ${face.style}` : id;
  };

  private async name(): Promise<void> {
    const { steps } = this.history;
    if (!steps) return;
    const { past, present, future } = steps;
    const [before, after] = [past[past.length - 1], future[0]];
    const compare = before || after ? await import('@jentrix/core/compare').catch(() => undefined) : undefined;
    if (this.history.steps !== steps) return;
    const nameOf = (from: typeof before, to: typeof after): string => (compare && from && to ? inLanguage(compare.nameStep(from, to, this.faceName)) : '');
    this.names.set({ undo: nameOf(before, present), redo: nameOf(present, after) });
  }
}
