import { ChangeDetectionStrategy, Component, ElementRef, computed, inject, input } from '@angular/core';
import { type Block, type Path, type PathPoint, drawnThrough, findBlock, isRide, pathPlaces, withBlockSettings, withPlace } from '@jentrix/core/job';
import { type BlockSetting, type Curve, curveOf, nearestLength } from '@jentrix/core/setting';
import { pressAndDrag } from '../../ui/press-and-drag';
import { BenchStore } from '../bench.store';
import type { Gesture } from '../state/job-history';
import { PathStroke } from '../state/path-stroke';

/** The dragged place: one of the places that state the path, or where the words are held on it. */
type Grip = number | 'hold';

interface Drag {
  grip: Grip;
  /** Where the pointer took it, and where it stood, from the frame's top left. */
  from: PathPoint;
  stood: PathPoint;
  gesture: Gesture;
}

/** Straight pieces that a path is shown in. */
const PIECES = 160;

/** The path of a block on the sheet: its course, rings on the places that state it, and a wedge where its words are held. All can be dragged. */
@Component({
  selector: 'g[jxPath]',
  template: `
    @if (course(); as course) {
      <svg:path class="course" [attr.d]="course" />
    }
    @if (held(); as held) {
      <svg:g
        class="hold"
        data-handle="path"
        data-place="hold"
        [attr.transform]="at(held) + ' rotate(' + held.degrees + ')'"
        (pointerdown)="start($event, 'hold')"
      >
        <svg:title>Drag the words along the path</svg:title>
        <svg:circle class="reach" cy="16" r="12" />
        <svg:path d="M0 8L7 22H-7Z" />
      </svg:g>
    }
    @for (place of places(); track $index) {
      <svg:g class="place" data-handle="path" [attr.data-place]="$index" [attr.transform]="at(place)" (pointerdown)="start($event, $index)">
        <svg:title>Drag to bend the path</svg:title>
        <svg:circle class="reach" r="12" />
        <svg:circle r="5" />
      </svg:g>
    }
    @if (stroke(); as stroke) {
      <svg:path class="course stroke" [attr.d]="stroke.course" />
      @for (place of stroke.places; track $index) {
        <svg:circle class="dot" r="3.5" [attr.transform]="at(place)" />
      }
    }
  `,
  styleUrl: './path-handles.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { 'data-handle': 'path' },
})
export class PathHandles {
  private readonly store = inject(BenchStore);
  private readonly element = inject<ElementRef<SVGGElement>>(ElementRef);
  private readonly drawn = inject(PathStroke).places;
  readonly block = input.required<Block>();
  readonly setting = input.required<BlockSetting>();
  /** Pixels per point. */
  readonly scale = input.required<number>();
  private dragging: Drag | undefined;

  private readonly curve = computed((): Curve | undefined => {
    const { path } = this.block();
    return isRide(path) ? curveOf(path) : undefined;
  });

  protected readonly course = computed(() => {
    const curve = this.curve();
    return curve && this.courseOf(curve);
  });
  protected readonly places = computed(() => pathPlaces(this.block().path).map((place) => this.onSheet(place)));
  protected readonly held = computed(() => {
    const curve = this.curve();
    const { path } = this.block();
    if (!curve || !isRide(path)) return undefined;
    const { x, y, angle } = curve.at(path.atShare * curve.lengthPt);
    return { ...this.onSheet({ xPt: x, yPt: y }), degrees: (angle * 180) / Math.PI };
  });
  /** The stroke that is being drawn. */
  protected readonly stroke = computed(() => {
    const places = this.drawn();
    if (places.length === 0) return undefined;
    return { places: places.map((place) => this.onSheet(place)), course: places.length > 1 ? this.courseOf(curveOf(drawnThrough(places))) : '' };
  });

  private courseOf(curve: Curve): string {
    const points = Array.from({ length: PIECES + 1 }, (_, i) => {
      const { x, y } = curve.at((curve.lengthPt * i) / PIECES);
      const { xPt, yPt } = this.onSheet({ xPt: x, yPt: y });
      return `${xPt.toFixed(2)} ${yPt.toFixed(2)}`;
    });
    return `M${points.join('L')}`;
  }

  private onSheet({ xPt, yPt }: PathPoint): PathPoint {
    const { frame } = this.block();
    return { xPt: xPt + frame.xPt, yPt: yPt + frame.yPt };
  }

  /** Things that keep their size on screen, at a place on the sheet. */
  protected at({ xPt, yPt }: PathPoint): string {
    return `translate(${xPt} ${yPt}) scale(${1 / this.scale()})`;
  }

  protected start(event: PointerEvent, grip: Grip): void {
    if (event.button !== 0 || this.block().locked) return;
    event.stopPropagation();
    event.preventDefault();
    const { frame } = this.block();
    const stood = grip === 'hold' ? this.held() : this.places()[grip];
    if (!stood) return;
    const gesture = this.store.begin();
    this.dragging = { grip, from: this.point(event), stood: { xPt: stood.xPt - frame.xPt, yPt: stood.yPt - frame.yPt }, gesture };
    pressAndDrag(this.element.nativeElement, event, {
      move: (moved) => this.drag(moved),
      end: () => {
        gesture.end();
        this.dragging = undefined;
      },
    });
  }

  private drag(event: PointerEvent): void {
    const { dragging } = this;
    if (!dragging) return;
    const { grip, gesture, from, stood } = dragging;
    const { id } = this.block();
    const point = this.point(event);
    const to = { xPt: Math.round((stood.xPt + point.xPt - from.xPt) * 10) / 10, yPt: Math.round((stood.yPt + point.yPt - from.yPt) * 10) / 10 };
    gesture.apply((start) => {
      const path = findBlock(start, id)?.path;
      return path ? withBlockSettings(start, id, { path: grip === 'hold' ? heldNear(path, to) : withPlace(path, grip, to) }) : start;
    });
  }

  /** A point of the window on the sheet, in points, not turned with the block. */
  private point({ clientX, clientY }: PointerEvent): PathPoint {
    const { x, y } = new DOMPoint(clientX, clientY).matrixTransform(this.element.nativeElement.getScreenCTM()?.inverse());
    return { xPt: x, yPt: y };
  }
}

/** The path with its words held where it passes a point most nearly. */
function heldNear(path: Path, { xPt, yPt }: PathPoint): Path {
  if (!isRide(path)) return path;
  const curve = curveOf(path);
  return curve.lengthPt === 0 ? path : { ...path, atShare: nearestLength(curve, { x: xPt, y: yPt }) / curve.lengthPt };
}
