import { ChangeDetectionStrategy, Component, type ElementRef, afterNextRender, computed, inject, viewChild } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { type Block, styleAt } from '@jentrix/core/job';
import type { Point } from '@jentrix/core/placing';
import type { SetLine } from '@jentrix/core/setting';
import { Drawing } from '../../drawing/drawing';
import { NotLoaded } from '../../ui/not-loaded';
import { SizeDirective } from '../../ui/size.directive';
import type { ShownSheet } from '../state/instead';
import { PlaceService } from '../state/place';
import { Camera } from './camera';
import { ColourPick } from './colour-pick';
import { FrameHandles } from './frame-handles';
import { LetterHandles } from './letter-handles';
import { LineHandles } from './line-handles';
import { ThreeLetters, WhiteBands } from './look-layers';
import { PathHandles } from './path-handles';
import { Pointing } from './pointing';
import { ReferenceLayer } from './reference-layer';
import { Scene } from './scene';
import { type SecondPlace, SecondSheet } from './second-sheet';
import { SheetGuides } from './sheet-guides';
import { SheetRow } from './sheet-row';
import { transformOfView } from './sheet-view';

/** The sheet, live: what is here is, point for point, what is handed over. */
@Component({
  selector: 'jx-table',
  imports: [
    ColourPick,
    Drawing,
    FrameHandles,
    LetterHandles,
    LineHandles,
    NotLoaded,
    PathHandles,
    ReferenceLayer,
    SecondSheet,
    SheetGuides,
    SheetRow,
    SizeDirective,
    ThreeLetters,
    WhiteBands,
  ],
  providers: [Scene, Camera, Pointing],
  templateUrl: './table.html',
  styleUrl: './table.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Table {
  protected readonly scene = inject(Scene);
  protected readonly camera = inject(Camera);
  protected readonly pointing = inject(Pointing);
  private readonly surface = viewChild.required<ElementRef<SVGSVGElement>>('surface');
  /** Screen pixels per point, as percent of true CSS size. */
  readonly percent = this.camera.percent;

  /** A second sheet and where it is seen. */
  protected readonly second = computed((): { shown: ShownSheet; place: SecondPlace } | undefined => {
    const second = this.scene.instead.second();
    if (!second) return undefined;
    const { side } = second;
    const { width, height } = this.camera.size();
    const from = side === 'beside' ? width / 2 : side === 'wipe' ? width * this.scene.instead.wipe() : 0;
    const { x, y, k } = this.camera.sheetView();
    const transform = transformOfView({ x: side === 'beside' ? x + width / 2 : x, y, k });
    return { shown: second.shown, place: { side, from, width, height, transform } };
  });
  /** The sheet through the eyes of the looks that are on: CSS of the whole surface. */
  protected readonly look = computed(() => {
    const blurPx = this.scene.looks.blurPt() * this.camera.sheetView().k;
    const filter = [this.scene.looks.filter(), blurPx > 0 ? `blur(${blurPx.toFixed(2)}px)` : null].filter(Boolean).join(' ');
    return {
      filter: filter || null,
      transform: this.scene.looks.transform(),
      white: this.scene.looks.on().has('white'),
      three: this.scene.looks.on().has('three'),
    };
  });
  constructor() {
    afterNextRender(() => {
      this.pointing.listenOn(this.surface().nativeElement);
      // Once the letters are there.
      requestIdleCallback(() => this.startZooming());
    });
    inject(PlaceService)
      .benchFocus$.pipe(takeUntilDestroyed())
      .subscribe(() => this.surface().nativeElement.focus({ preventScroll: true }));
  }

  protected startZooming(): void {
    void this.camera.startZooming(this.surface().nativeElement, (event) => this.pointing.isTaken(event));
  }

  /** Brings the whole sheet, or the current block, into view; see `Camera.zoomTo`. */
  zoomTo(what: 'sheet' | 'block', scale?: number): void {
    this.camera.zoomTo(what, scale);
  }

  /** Shows the sheet larger or smaller. */
  zoomBy(factor: number): void {
    this.camera.zoomBy(factor);
  }

  /** Where something was dropped on the sheet; undefined elsewhere. */
  placeUnder(event: MouseEvent): Point | undefined {
    return this.pointing.placeUnder(event);
  }

  /** The lines of a block as places between which leading is shown. */
  protected baselines(lines: readonly SetLine[]): { y: number; right: number }[] {
    return lines.map((line) => ({ y: line.baselinePt, right: line.leftPt + line.widthPt }));
  }

  protected label(block: Block): string {
    return `${block.words.replaceAll('\n', ' ')}, ${styleAt(block, 0).sizePt} pt`;
  }
}
