import { Injectable, type OnDestroy, computed, effect, inject, signal, untracked } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { STARTER_WORDS, type Sheet } from '@jentrix/core/job';
import { middleOf, turnedPoint } from '@jentrix/core/placing';
import { letterRoomOf } from '@jentrix/core/setting';
import { BenchStore } from '../bench.store';
import { Scene } from './scene';
import { type TableView, onTable, scaledView, transformOfView } from './sheet-view';
import type { Zooming } from './zooming';

const PADDING_PX = 28;
/** Type shown smaller than this when a sheet appears is brought nearer, in pixels per em. */
const READABLE_PX = 36;

/** Which part of the sheet is in view, and how large. In pixels of the table. */
@Injectable()
export class Camera implements OnDestroy {
  private readonly store = inject(BenchStore);
  private readonly scene = inject(Scene);
  readonly size = signal({ width: 0, height: 0 });
  readonly sheetView = signal<TableView>({ x: 0, y: 0, k: 1 });
  readonly transform = computed(() => transformOfView(this.sheetView()));
  /** Screen pixels per point, as percent of true CSS size. */
  readonly percent = computed(() => Math.round(this.sheetView().k * 0.75 * 100));
  private zooming: Zooming | undefined;
  /** True once the page has been left. */
  private left = false;
  /** The sheet that was brought into view; another one is fitted when it appears. */
  private fitted: { id: string; widthPt: number; heightPt: number } | undefined;
  private follows: 'sheet' | 'block' | undefined = 'sheet';

  constructor() {
    this.scene.looks.scale$.pipe(takeUntilDestroyed()).subscribe((k) => this.zoomTo('sheet', k));
    // What is gone to is brought into view, once it is set.
    effect(() => {
      const { gap, blockId } = this.scene.view();
      const place = this.scene.caret()?.at ?? this.scene.current()?.block.id;
      untracked(() => {
        const name = `${blockId ?? ''} ${gap?.at ?? ''}`;
        if (place === undefined || name === this.gone || (gap && !this.scene.caret())) return;
        this.gone = name;
        this.bringIntoView();
      });
    });
    // Two sheets beside each other have half the room each.
    effect(() => {
      if (this.scene.row()) untracked(() => this.zoomTo('sheet'));
    });
    effect(() => {
      this.scene.half();
      untracked(() => this.follows && this.fitted !== undefined && this.zoomTo(this.follows));
    });
    effect(() => {
      const sheet = this.scene.sheet();
      const { width } = this.size();
      if (sheet && width > 0) untracked(() => this.fitWhenNew(sheet));
    });
  }

  ngOnDestroy(): void {
    this.left = true;
    this.zooming?.stop();
  }

  /** The sheet, with those that stand in a row with it. */
  private whole(own: Sheet): { x: number; y: number; width: number; height: number } {
    const all = [{ sheet: own, xPt: 0, yPt: 0 }, ...this.scene.instead.row().map(({ shown: { sheet }, xPt, yPt }) => ({ sheet, xPt, yPt }))];
    const [x, y] = [Math.min(...all.map(({ xPt }) => xPt)), Math.min(...all.map(({ yPt }) => yPt))];
    const right = Math.max(...all.map(({ sheet, xPt }) => xPt + sheet.widthPt));
    const bottom = Math.max(...all.map(({ sheet, yPt }) => yPt + sheet.heightPt));
    return { x, y, width: right - x, height: bottom - y };
  }

  /** The room a sheet has on the table. */
  room(): { width: number; height: number } {
    const { width, height } = this.size();
    return { width: this.scene.half() ? width / 2 : width, height };
  }

  /** Brings the whole sheet, or the current block, into view. @param scale in pixels per point; as large as there is room where it is absent. */
  zoomTo(what: 'sheet' | 'block', scale?: number): void {
    const sheet = this.scene.sheet();
    if (!sheet || this.size().width === 0) return;
    const box = what === 'block' && this.boxOfBlock();
    const target = box || this.whole(sheet);
    const { width, height } = this.room();
    const padding = what === 'block' ? PADDING_PX * 1.5 : PADDING_PX;
    const k = scale ?? Math.max(0.01, Math.min((width - 2 * padding) / target.width, (height - 2 * padding) / target.height));
    this.show({ x: width / 2 - k * (target.x + target.width / 2), y: height / 2 - k * (target.y + target.height / 2), k });
    this.follows = scale === undefined ? what : undefined;
  }

  /** The last thing brought into view. */
  private gone = '';

  /** Moves the sheet as little as brings the gap, or a block of which nothing is seen, into view. */
  private bringIntoView(): void {
    const [shown, caret] = [this.scene.current(), this.scene.caret()];
    const first = shown?.lines[0];
    if (!shown || !first || this.size().width === 0) return;
    const at = caret ? { xPt: caret.x, yPt: (caret.top + caret.bottom) / 2 } : { xPt: first.leftPt, yPt: first.baselinePt };
    const view = this.sheetView();
    const [x, y] = onTable(view, turnedPoint(at, middleOf(shown.setting.frame), shown.block.rotationDeg));
    const { width, height } = this.room();
    const box = caret ? undefined : this.boxOfBlock();
    const [left, top] = box ? onTable(view, { xPt: box.x, yPt: box.y }) : [0, 0];
    const [right, bottom] = box ? onTable(view, { xPt: box.x + box.width, yPt: box.y + box.height }) : [0, 0];
    if (box && left < width && right > 0 && top < height && bottom > 0) return;
    const missing = (value: number, room: number): number => Math.max(0, PADDING_PX - value) - Math.max(0, value - (room - PADDING_PX));
    const [byX, byY] = [missing(x, width), missing(y, height)];
    if (byX !== 0 || byY !== 0) this.show({ ...view, x: view.x + byX, y: view.y + byY });
  }

  /** Shows the sheet larger or smaller. */
  zoomBy(factor: number): void {
    const { width, height } = this.room();
    this.show(scaledView(this.sheetView(), factor, [width / 2, height / 2]));
  }

  resized(size: { width: number; height: number }): void {
    if (size.width === 0 || size.height === 0) return;
    this.size.set(size);
    if (this.follows && this.fitted !== undefined) this.zoomTo(this.follows);
  }

  private boxOfBlock(): { x: number; y: number; width: number; height: number } | undefined {
    const current = this.scene.current();
    const frame = current?.setting.frame ?? this.store.block?.frame;
    if (!frame) return undefined;
    const first = current?.lines[0];
    const last = current?.lines[current.lines.length - 1];
    const room = current?.setting.straight && letterRoomOf(current.lines);
    if (room) return { x: room.leftPt, y: room.topPt, width: room.rightPt - room.leftPt, height: room.bottomPt - room.topPt };
    if (!current || !first || !last) return { x: frame.xPt, y: frame.yPt, width: frame.widthPt, height: frame.heightPt };
    const left = Math.min(...current.lines.map((line) => line.leftPt));
    const right = Math.max(...current.lines.map((line) => line.leftPt + line.widthPt));
    const top = first.baselinePt - first.sizePt * 0.8;
    return { x: left, y: top, width: Math.max(1, right - left), height: last.baselinePt + last.sizePt * 0.25 - top };
  }

  /** Brings a view up, whether it can be zoomed by hand already or not. */
  private show(view: TableView): void {
    if (this.zooming) this.zooming.show(view);
    else this.sheetView.set(view);
  }

  private readonly isZoomable = (): boolean => this.zooming !== undefined;

  /** Lets the sheet be moved and zoomed by hand. @param isTaken true where the pointer does something else */
  async startZooming(surface: SVGSVGElement, isTaken: (event: Event) => boolean): Promise<void> {
    if (this.isZoomable()) return;
    // Where the server is away it is tried again with the next pointer.
    const loaded = await import('./zooming').catch(() => undefined);
    if (!loaded || this.isZoomable() || this.left) return;
    this.zooming = loaded.startZooming(surface, {
      view: this.sheetView(),
      room: () => this.room(),
      isTaken,
      shown: (view, byHand) => {
        if (byHand) this.follows = undefined;
        this.sheetView.set(view);
      },
    });
  }

  private fitWhenNew({ id, widthPt, heightPt, blocks }: Sheet): void {
    const fitted = this.fitted;
    if (this.size().width === 0) return;
    this.fitted = { id, widthPt, heightPt };
    if (fitted?.id === id) {
      // Another size is another picture: the whole of it is shown.
      if (fitted.widthPt !== widthPt || fitted.heightPt !== heightPt) this.zoomTo('sheet');
      return;
    }
    this.zoomTo('sheet');
    // A sheet that still waits for its words is looked at as a whole.
    if (this.scene.row() || blocks.every(({ words }) => words === STARTER_WORDS)) return;
    // A tall sheet in a wide window leaves its letters too small to judge: the block that is worked on comes first.
    const size = this.store.block?.style.sizePt ?? 0;
    if (size > 0 && size * this.sheetView().k < READABLE_PX) this.zoomTo('block');
  }
}
