import { Injectable, computed, signal } from '@angular/core';
import { Subject } from 'rxjs';

/** A way to look at the sheet with fresh eyes. Adding one is a line in `LOOKS`, and what the table does for it where CSS does not. */
export interface ViewMode {
  id: 'blurred' | 'upside down' | 'mirrored' | 'reversed' | 'grey' | 'white' | 'three';
  name: string;
  key: string;
  /** Parts of the CSS properties of the sheet on the screen. */
  filter?: string;
  transform?: string;
}

export const LOOKS: readonly ViewMode[] = [
  { id: 'blurred', name: 'Blurred', key: '1' },
  { id: 'upside down', name: 'Upside down', key: '2', transform: 'rotate(180deg)' },
  { id: 'mirrored', name: 'Mirrored', key: '3', transform: 'scaleX(-1)' },
  { id: 'reversed', name: 'Inverted', key: '4', filter: 'invert(1)' },
  { id: 'grey', name: 'Grey', key: '5', filter: 'grayscale(1)' },
  { id: 'white', name: 'Counters and gaps', key: '6' },
  { id: 'three', name: 'Three letters', key: '7' },
];
export type LookId = ViewMode['id'];

/** The point spread of a good eye, as the deviation of a Gaussian in minutes of arc: its full width at half height is one minute, the finest detail that normal sight tells apart (20/20, ISO 8596). */
const EYE_ARCMIN = 1 / 2.355;
export const MM_PER_PT = 25.4 / 72;

/** How the sheet is looked at: never part of the job. */
@Injectable()
export class Looks {
  private readonly subject = signal<ReadonlySet<LookId>>(new Set());
  readonly on = this.subject.asReadonly();
  /** From how far the sheet is looked at in its real size, in millimetres. */
  readonly distanceMm = signal(3000);
  private readonly wanted = new Subject<number>();
  /** Pixels per point that the sheet is to be shown at. */
  readonly scale$ = this.wanted.asObservable();

  /** True while the sheet is only looked at: nothing on it can be taken hold of. */
  readonly onlyLooking = computed(() => [...this.on()].some((id) => id !== 'three'));
  readonly filter = computed(() => this.chosen('filter'));
  readonly transform = computed(() => this.chosen('transform'));

  /** How far the eye blurs a point of the sheet, as a deviation in points. */
  readonly blurPt = computed(() => (this.on().has('blurred') ? blurOf(this.distanceMm()) : 0));

  toggle(id: LookId): void {
    this.subject.update((on) => {
      const next = new Set(on);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  }

  clear(): void {
    this.subject.set(new Set());
  }

  /** Shows the sheet at a scale, in pixels per point. */
  show(scale: number): void {
    this.wanted.next(scale);
  }

  private chosen(property: 'filter' | 'transform'): string | null {
    const on = this.on();
    return LOOKS.flatMap((look) => (on.has(look.id) ? (look[property] ?? []) : [])).join(' ') || null;
  }
}

/** The blur of an eye at a distance, on the sheet: a deviation in points. */
export const blurOf = (distanceMm: number): number => (distanceMm * Math.tan(((EYE_ARCMIN / 60) * Math.PI) / 180)) / MM_PER_PT;
