import { LiveAnnouncer } from '@angular/cdk/a11y';
import { Injectable, inject } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { debounceTime, distinctUntilChanged, map, pairwise, skip } from 'rxjs';
import { inLanguage } from '../../ui/numbers';
import { PASSES } from '../pass';
import { JobHistory, type Retraced } from './job-history';
import { PlaceService } from './place';
import { StepNames } from './step-names';

/** Edits that come faster are told together, in milliseconds. */
const PAUSE_MS = 250;

/** Tells screen readers what an edit changed and to what, and which pass is up. */
@Injectable()
export class Said {
  constructor() {
    const announcer = inject(LiveAnnouncer);
    const { faceName } = inject(StepNames);
    const place = inject(PlaceService);
    const history = inject(JobHistory);
    // Which step was taken back or made again is told instead of what it comes to.
    let retraced: Retraced | undefined;
    history.retraced$.pipe(takeUntilDestroyed()).subscribe((step) => (retraced = step));
    history.job$.pipe(debounceTime(PAUSE_MS), pairwise(), takeUntilDestroyed()).subscribe(([before, after]) => {
      if (!before || !after) return;
      // Loaded once something was done.
      void import('@jentrix/core/compare').then(
        ({ nameStep, sayChange }) => {
          const step = retraced?.after === after ? retraced : undefined;
          retraced = undefined;
          if (step) {
            const name = step.way === 'undo' ? nameStep(step.after, step.before, faceName) : nameStep(step.before, step.after, faceName);
            void announcer.announce(inLanguage(`${step.way === 'undo' ? 'Undone' : 'Redone'}: ${name}.`));
            return;
          }
          const said = sayChange(before, after, faceName);
          // A gap at the caret tells of itself, with its total.
          if (said && !(said.startsWith('Gap ') && place.value.gap)) void announcer.announce(inLanguage(said));
        },
        () => undefined,
      );
    });
    const passes = inject(PASSES);
    place.place$
      .pipe(
        map(({ pass }) => pass),
        distinctUntilChanged(),
        skip(1),
        takeUntilDestroyed(),
      )
      .subscribe((pass) => void announcer.announce(`${passes.find(({ id }) => id === pass)?.name ?? pass} pass.`));
  }
}
