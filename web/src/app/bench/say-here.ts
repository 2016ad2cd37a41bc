import { DestroyRef, type Injector } from '@angular/core';
import { combineLatest, debounceTime, distinctUntilChanged, filter, fromEvent, map, startWith } from 'rxjs';
import { ownBrowser } from '../kept/tab';
import { SaveService } from './save.service';
import { JobHistory } from './state/job-history';
import { PlaceService } from './state/place';

/** Places that follow each other faster are told once, in milliseconds. */
const PAUSE_MS = 400;
/** So often it is said again, in milliseconds: who says nothing for long has left. */
const AGAIN_MS = 45_000;

/** Tells the server which block this window is at, and when it leaves, so that others who have the job open see it. */
export function sayHere(jobId: string, injector: Injector): void {
  const save = injector.get(SaveService);
  const place = injector.get(PlaceService);
  const address = `/api/jobs/${encodeURIComponent(jobId)}/here`;
  const body = (state: 'shown' | 'hidden' | 'left'): Blob =>
    new Blob([JSON.stringify({ window: save.window, browser: ownBrowser(), blockId: place.value.blockId ?? null, state })], { type: 'application/json' });
  // A beacon goes out even while the page goes. Whether it arrives is of no weight: it is said again.
  const say = (state: 'shown' | 'hidden' | 'left'): void => void navigator.sendBeacon(address, body(state));
  const seen = (): 'shown' | 'hidden' => (document.hidden ? 'hidden' : 'shown');
  const block$ = place.place$.pipe(
    map(({ blockId }) => blockId),
    distinctUntilChanged(),
    debounceTime(PAUSE_MS),
  );
  const hidden$ = fromEvent(document, 'visibilitychange').pipe(startWith(undefined));
  // A page that goes is hidden after it has left, and may come back as it was.
  let left = false;
  const told = (): void => {
    if (!left) say(seen());
  };
  const subscription = combineLatest([block$, hidden$]).subscribe(told);
  const timer = setInterval(told, AGAIN_MS);
  const leave = (): void => {
    left = true;
    say('left');
  };
  const back = (): void => {
    left = false;
    told();
  };
  addEventListener('pagehide', leave);
  subscription.add(
    fromEvent<PageTransitionEvent>(window, 'pageshow')
      .pipe(filter(({ persisted }) => persisted))
      .subscribe(back),
  );
  const end = (): void => {
    clearInterval(timer);
    removeEventListener('pagehide', leave);
    if (!subscription.closed) leave();
    subscription.unsubscribe();
  };
  subscription.add(injector.get(JobHistory).opened$.subscribe(end));
  injector.get(DestroyRef).onDestroy(end);
}
