import { LiveAnnouncer } from '@angular/cdk/a11y';
import { Injectable, inject } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { debounceTime, distinctUntilChanged, map, pairwise, skip } from 'rxjs';
import { EngineService } from '../../engine/engine.service';
import { inLanguage } from '../../ui/numbers';
import { PASSES } from '../pass';
import { JobHistory } from './job-history';
import { PlaceService } from './place';

/** Edits that come faster are told together, in milliseconds. */
const PAUSE_MS = 250;

/** Tells screen readers what an edit changed and to what, and which pass is up. */
@Injectable()
export class Said {
  constructor() {
    const announcer = inject(LiveAnnouncer);
    const engine = inject(EngineService);
    const place = inject(PlaceService);
    const history = inject(JobHistory);
    const nameOf = (id: string): string => {
      const face = engine.faces.find((one) => one.id === id);
      return face ? `${face.family} ${face.style}` : id;
    };
    history.job$.pipe(debounceTime(PAUSE_MS), pairwise(), takeUntilDestroyed()).subscribe(([before, after]) => {
      if (!before || !after) return;
      // Loaded once something was done.
      void import('@jentrix/core/compare').then(
        ({ sayChange }) => {
          const said = sayChange(before, after, nameOf);
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
