import { DestroyRef, type Injector } from '@angular/core';
import { type Job, sameValue } from '@jentrix/core/job';
import { mergerOf } from '@jentrix/core/merge';
import { debounceTime, filter, fromEvent, merge } from 'rxjs';
import { keepSteps, stepsOf } from '../kept/kept-steps';
import { JobHistory } from './state/job-history';

/** Steps are written when nothing was done for so long, in milliseconds: sooner than the job is sent. And when the page is left. */
const PAUSE_MS = 250;

/**
 * Gives a job that was opened the steps of the last visit to it, and keeps them from then on.
 * @param job as it was opened: what is otherwise in it than it was left is in every step
 */
export async function restoreSteps(jobId: string, job: Job, injector: Injector): Promise<void> {
  const history = injector.get(JobHistory);
  const steps = await stepsOf(jobId);
  if (!history.rests(job)) return;
  if (steps) {
    const merger = mergerOf(steps.present, job, { withinBlocks: true, prefer: 'theirs' });
    const brought = (states: readonly Job[]): Job[] => (sameValue(steps.present, job) ? [...states] : states.map((state) => merger(state).job));
    history.remember(job, { past: brought(steps.past), future: brought(steps.future) });
  }
  let kept = history.steps;
  const keep = (): void => {
    const now = history.steps;
    if (!now || now === kept || !history.rests(job)) return;
    kept = now;
    // Without storage they last as long as the page.
    keepSteps(jobId, now).catch(() => undefined);
  };
  const left$ = merge(fromEvent(document, 'visibilitychange').pipe(filter(() => document.hidden)), fromEvent(window, 'pagehide'));
  const subscription = merge(history.history$.pipe(debounceTime(PAUSE_MS)), left$).subscribe(keep);
  subscription.add(history.opened$.subscribe(() => subscription.unsubscribe()));
  injector.get(DestroyRef).onDestroy(() => {
    keep();
    subscription.unsubscribe();
  });
}
