import { ChangeDetectionStrategy, Component, DestroyRef, computed, effect, inject, input } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { type BlockDrawing, drawGround } from '@jentrix/core/drawing';
import { type Job, type Reference, type Sheet, resolveSheet, withSheet } from '@jentrix/core/job';
import type { Point } from '@jentrix/core/placing';
import type { PictureLine } from '@jentrix/core/reading';
import { placeMatrix, placedByPairs } from '@jentrix/core/reference';
import { firstValueFrom, switchMap } from 'rxjs';
import { ApiService } from '../../api/api.service';
import { EngineService } from '../../engine/engine.service';
import { Drawing, svgTransform } from '../../drawing/drawing';
import { pressAndDrag } from '../../ui/press-and-drag';
import { BenchStore } from '../bench.store';
import { tryOutSheet } from '../deck/proof/try-out';
import type { ShownSheet } from '../state/instead';
import { Pulls } from '../state/pulls';
import { References } from '../state/references';

/** Between sheet and reference where they are beside each other, as a share of the sheet's width. */
const GAP = 0.06;

/** Before a sheet that has none any more is gone from here. */
const NONE: Reference = {
  of: { kind: 'sheet', jobId: null, pullId: null, sheetId: '' },
  xPt: 0,
  yPt: 0,
  scale: 1,
  turnDeg: 0,
  opacity: 1,
  side: 'under',
  locked: true,
};

/** A sheet's reference: a picture, or another sheet. Looked at, moved while its panel is up, and never handed over. */
@Component({
  selector: 'g[jxReference]',
  imports: [Drawing],
  template: `
    <svg:g
      class="reference"
      [class.movable]="movable()"
      [attr.transform]="transform()"
      [attr.opacity]="reference().opacity"
      [attr.data-handle]="movable() ? '' : null"
      data-testid="reference"
      (pointerdown)="drag($event)"
    >
      @if (picture(); as picture) {
        <svg:image [attr.href]="picture.href" [attr.width]="picture.width" [attr.height]="picture.height" preserveAspectRatio="none" />
      }
      @if (state.shown(); as shown) {
        @if (reference().side !== 'over') {
          <svg:g [jxDrawing]="groundOf(shown)"></svg:g>
        }
        <svg:rect fill="transparent" [attr.width]="shown.sheet.widthPt" [attr.height]="shown.sheet.heightPt" />
        @for (set of shown.blocks; track set.block.id) {
          <svg:g [attr.transform]="turnOf(set)"><svg:g [jxDrawing]="draw()(set).nodes"></svg:g></svg:g>
        }
      }
    </svg:g>
    @if (state.active()) {
      <svg:g class="found" [attr.transform]="foundTransform()" data-testid="found-lines">
        @for (line of lines(); track $index) {
          <svg:path [attr.d]="line.base" />
          <svg:path class="height" [attr.d]="line.heights" />
        }
      </svg:g>
    }
    @if (state.pairing(); as points) {
      <svg:g class="pairs">
        <svg:rect
          data-handle
          data-testid="pairing"
          [attr.x]="-9 * sheet().widthPt"
          [attr.y]="-9 * sheet().heightPt"
          [attr.width]="19 * sheet().widthPt"
          [attr.height]="19 * sheet().heightPt"
          fill="transparent"
          (pointerdown)="pick($event)"
        />
        @for (point of points; track $index) {
          <svg:g [attr.transform]="'translate(' + (point.xPt + ($even ? offset() : 0)) + ' ' + point.yPt + ') scale(' + 1 / scale() + ')'">
            <svg:circle r="6" />
            <svg:text x="10" y="4">{{ $index + 1 }}</svg:text>
          </svg:g>
        }
      </svg:g>
    }
  `,
  styles: `
    .reference {
      pointer-events: none;
    }
    .movable {
      pointer-events: all;
      cursor: move;
    }
    .found {
      pointer-events: none;
    }
    path,
    circle {
      fill: none;
      stroke: var(--jx-open);
      stroke-width: 1.5px;
      vector-effect: non-scaling-stroke;
    }
    .height {
      stroke-dasharray: 4 3;
      stroke-width: 1px;
    }
    .pairs rect {
      cursor: crosshair;
    }
    text {
      font-size: 12px;
      fill: var(--jx-open);
      stroke: var(--jx-sheet);
      stroke-width: 4px;
      paint-order: stroke;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ReferenceLayer {
  /** A sheet that has a reference. */
  readonly sheet = input.required<Sheet>({ alias: 'jxReference' });
  protected readonly reference = computed(() => this.sheet().reference ?? NONE);
  /** Pixels of the screen per point. */
  readonly scale = input.required<number>();
  /** Draws a block as it was set. */
  readonly draw = input.required<(one: ShownSheet['blocks'][number]) => BlockDrawing>();
  protected readonly state = inject(References);
  private readonly store = inject(BenchStore);
  private readonly engine = inject(EngineService);
  private readonly api = inject(ApiService);
  private readonly pulls = inject(Pulls);

  protected readonly movable = computed(() => this.state.active() && !this.reference().locked && !this.state.pairing());
  /** How far to the right of its place it is shown. */
  protected readonly offset = computed(() => (this.reference().side === 'beside' ? this.sheet().widthPt * (1 + GAP) : 0));
  protected readonly transform = computed(() => {
    const { a, b, c, d, e, f } = placeMatrix(this.reference());
    return `matrix(${a} ${b} ${c} ${d} ${e + this.offset()} ${f})`;
  });
  protected readonly picture = computed(() => {
    const { of } = this.reference();
    return of.kind === 'picture' ? { href: `/api/pictures/${encodeURIComponent(of.pictureId)}`, width: of.widthPx, height: of.heightPx } : undefined;
  });

  private readonly found = computed(() => {
    const [found, { of }] = [this.state.found(), this.reference()];
    return found && of.kind === 'picture' && found.pictureId === of.pictureId ? found : undefined;
  });
  protected readonly foundTransform = computed(() => `${this.transform()} scale(${1 / (this.found()?.perPixel ?? 1)})`);
  protected readonly lines = computed(() => (this.found()?.read.picture?.lines ?? []).map(drawnLine));

  private readonly job = this.store.current.job;
  private readonly wanted = computed(
    () => {
      const { of } = this.reference();
      if (of.kind !== 'sheet') return undefined;
      const job = of.jobId === null && of.pullId === null ? this.job() : undefined;
      return { ...of, job, sheet: job?.sheets.find(({ id }) => id === of.sheetId) };
    },
    // Another edit of this sheet is none of that one.
    {
      equal: (a, b) =>
        a?.jobId === b?.jobId && a?.pullId === b?.pullId && a?.sheetId === b?.sheetId && a?.sheet === b?.sheet && a?.job?.pairs === b?.job?.pairs,
    },
  );

  constructor() {
    const shown = toSignal(toObservable(this.wanted).pipe(switchMap(async (wanted) => (wanted ? await this.set(wanted) : undefined))));
    effect(() => this.state.shown.set(shown()));
    // What is set for one sheet is none of another's.
    inject(DestroyRef).onDestroy(() => this.state.shown.set(undefined));
  }

  /** @returns null where the sheet is not there any more. */
  private async set(wanted: { jobId: string | null; pullId: string | null; sheetId: string; job: Job | undefined }): Promise<ShownSheet | null> {
    const { jobId, pullId, sheetId } = wanted;
    const fetched =
      jobId !== null ? firstValueFrom(this.api.readJob(jobId)).then((record) => record.job) : pullId !== null ? this.pulls.job(pullId) : undefined;
    const job = wanted.job ?? (await fetched?.catch(() => undefined));
    const sheet = job?.sheets.find(({ id }) => id === sheetId);
    return job && sheet ? tryOutSheet(this.engine, resolveSheet(job, sheet)) : null;
  }

  protected readonly groundOf = ({ sheet }: ShownSheet) => drawGround(sheet);
  protected turnOf(set: ShownSheet['blocks'][number]): string | null {
    return svgTransform(this.draw()(set));
  }

  /** Where a pointer is, in points of the sheet. @param offset how far what it points at is shown to the right of its place */
  private pointOf(event: PointerEvent, group: SVGGElement, offset: number): Point {
    const matrix = group.getScreenCTM()?.inverse();
    const { x, y } = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix);
    return { xPt: x - offset, yPt: y };
  }

  protected drag(event: PointerEvent): void {
    if (!this.movable() || event.button !== 0) return;
    event.preventDefault();
    event.stopPropagation();
    const group = (event.currentTarget as SVGGElement).parentNode as SVGGElement;
    const offset = this.offset();
    const from = this.pointOf(event, group, offset);
    const gesture = this.store.begin();
    const { id } = this.sheet();
    pressAndDrag(event.currentTarget as SVGGElement, event, {
      move: (moved) =>
        gesture.apply((start) => {
          const reference = start.sheets.find((sheet) => sheet.id === id)?.reference;
          const placed = reference && placedByPairs(reference, [{ from, to: this.pointOf(moved, group, offset) }]);
          return placed ? withSheet(start, id, { reference: placed }) : start;
        }),
      end: () => gesture.end(),
    });
  }

  /** Picks the next of four places: two on the reference, each followed by where it belongs. */
  protected pick(event: PointerEvent): void {
    event.preventDefault();
    event.stopPropagation();
    const group = (event.currentTarget as SVGElement).parentNode as SVGGElement;
    const picked = this.state.pairing() ?? [];
    // Where something belongs is on the sheet itself.
    const points = [...picked, this.pointOf(event, group, picked.length % 2 === 0 ? this.offset() : 0)];
    const [a, toA, b, toB] = points;
    if (a && toA && b && toB) {
      this.state.pairing.set(undefined);
      this.place(
        placedByPairs(this.reference(), [
          { from: a, to: toA },
          { from: b, to: toB },
        ]),
      );
    } else this.state.pairing.set(points);
  }

  private place(place: Reference | undefined): void {
    if (place) this.store.apply((job) => withSheet(job, this.sheet().id, { reference: place }));
  }
}

/** Baseline and heights of a line, as path data. */
function drawnLine({ from, to, xHeight, capHeight }: PictureLine): { base: string; heights: string } {
  const [dx, dy] = [to.x - from.x, to.y - from.y];
  const length = Math.hypot(dx, dy) || 1;
  // Up, seen along the line.
  const [ux, uy] = [dy / length, -dx / length];
  const at = (height: number): string => `M${from.x + ux * height} ${from.y + uy * height}L${to.x + ux * height} ${to.y + uy * height}`;
  return { base: at(0), heights: [capHeight, ...(xHeight === undefined ? [] : [xHeight])].map(at).join('') };
}
