import { Injectable, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { type PathPoint, drawnThrough, findBlock, withBlockSettings } from '@jentrix/core/job';
import { JobHistory } from './job-history';
import { PlaceService } from './place';

/** Clicks that lie nearer to each other, in points, are one: a double click ends a path. */
const SAME = 0.5;

/** A path that is being drawn for the words of the current block: the places clicked so far, from its frame's top left. */
@Injectable()
export class PathStroke {
  private readonly history = inject(JobHistory);
  private readonly place = inject(PlaceService);
  readonly places = signal<readonly PathPoint[]>([]);

  constructor() {
    this.place.place$.pipe(takeUntilDestroyed()).subscribe(({ drawing }) => drawing !== 'path' && this.places().length > 0 && this.places.set([]));
  }

  add(to: PathPoint): void {
    const last = this.places().at(-1);
    if (last && Math.hypot(to.xPt - last.xPt, to.yPt - last.yPt) < SAME) return;
    this.places.update((places) => [...places, to]);
  }

  /** Puts the words on what was drawn, as one step; fewer than two places draw nothing. */
  finish(): void {
    const places = this.places();
    const { blockId } = this.place.value;
    const block = this.history.job && blockId !== undefined ? findBlock(this.history.job, blockId) : undefined;
    this.place.go({ drawing: undefined });
    if (!block || places.length < 2) return;
    const path = drawnThrough(places, block.path);
    this.history.apply((job) => withBlockSettings(job, block.id, { path }));
  }
}
