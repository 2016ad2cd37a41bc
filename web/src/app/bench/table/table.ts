import {
  ChangeDetectionStrategy,
  Component,
  type ElementRef,
  type OnDestroy,
  afterNextRender,
  computed,
  effect,
  inject,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { type Block, STARTER_WORDS, type Sheet, styleAt, type WordRange } from '@jentrix/core/job';
import { type BlockDrawing, drawBlock, drawGround, fadedMarks } from '@jentrix/core/drawing';
import { type Point, areaOf, middleOf, turnedPoint } from '@jentrix/core/placing';
import { type BlockSetting, type Matrix, type SetLine, applyToPoint, gapsOf, setLettersOf, lineUnder, letterRoomOf, stretchesOf } from '@jentrix/core/setting';
import { Drawing, svgTransform } from '../../drawing/drawing';
import { NotLoaded } from '../../ui/not-loaded';
import { pressAndDrag } from '../../ui/press-and-drag';
import { SizeDirective } from '../../ui/size.directive';
import { BenchStore } from '../bench.store';
import { PASSES } from '../pass';
import { FadedMarks } from '../state/faded-marks';
import { Instead, type ShownSheet } from '../state/instead';
import { Looks } from '../state/looks';
import { LetterPicks } from '../state/letter-picks';
import { PathStroke } from '../state/path-stroke';
import { PlaceService } from '../state/place';
import { ColourPick } from './colour-pick';
import { FrameHandles } from './frame-handles';
import { LetterHandles } from './letter-handles';
import { LineHandles } from './line-handles';
import { letterBoxOf, linePlaceOf } from './line-place';
import { ThreeLetters, WhiteBands } from './look-layers';
import { PathHandles } from './path-handles';
import { ReferenceLayer } from './reference-layer';
import { type SecondPlace, SecondSheet } from './second-sheet';
import { SheetGuides } from './sheet-guides';
import { SheetRow } from './sheet-row';
import { type TableView, onSheet, onTable, scaledView, transformOfView } from './sheet-view';
import type { Zooming } from './zooming';

const PADDING_PX = 28;
/** Type shown smaller than this when a sheet appears is brought nearer, in pixels per em. */
const READABLE_PX = 36;
/** A drag shorter than this draws nothing. */
const LEAST_DRAWN_PX = 8;

const tenths = ({ xPt, yPt }: Point): Point => ({
  xPt: Math.round(xPt * 10) / 10,
  yPt: Math.round(yPt * 10) / 10,
});

interface ShownBlock {
  block: Block;
  setting: BlockSetting;
  lines: readonly SetLine[];
  drawing: BlockDrawing;
  /** The turn of the block as an SVG transform. */
  turn: string | null;
}

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
  templateUrl: './table.html',
  styleUrl: './table.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Table implements OnDestroy {
  protected readonly store = inject(BenchStore);
  protected readonly setting = this.store.current.setting;
  protected readonly view = this.store.current.view;
  private readonly passes = inject(PASSES);
  /** The overlay of the current pass. */
  protected readonly overlay = computed(() => this.passes.find(({ id }) => id === this.view().pass)?.overlay ?? []);

  private readonly surface = viewChild.required<ElementRef<SVGSVGElement>>('surface');
  private readonly size = signal({ width: 0, height: 0 });
  protected readonly sheetView = signal<TableView>({ x: 0, y: 0, k: 1 });
  protected readonly transform = computed(() => transformOfView(this.sheetView()));
  private zooming: Zooming | undefined;
  /** True once the page has been left. */
  private left = false;
  /** The sheet that was brought into view; another one is fitted when it appears. */
  private fitted: { id: string; widthPt: number; heightPt: number } | undefined;
  /** The ends of what is being drawn. */
  private readonly drawn = signal<{ from: Point; to: Point } | undefined>(undefined);
  protected readonly drawnFrame = computed(() => {
    const drawn = this.around() ?? (['block', 'box'].includes(this.view().drawing ?? '') ? this.drawn() : undefined);
    if (!drawn) return undefined;
    const { from, to } = drawn;
    return { xPt: Math.min(from.xPt, to.xPt), yPt: Math.min(from.yPt, to.yPt), widthPt: Math.abs(to.xPt - from.xPt), heightPt: Math.abs(to.yPt - from.yPt) };
  });
  protected readonly drawnRule = computed(() => (['rule', 'turn'].includes(this.view().drawing ?? '') ? this.drawn() : undefined));
  private dragFrom: number | undefined;
  /** The ends of what is drawn around letters to pick them. */
  private readonly around = signal<{ from: Point; to: Point } | undefined>(undefined);
  /** The click that ends a drag around letters is none. */
  private endsAround = false;
  private follows: 'sheet' | 'block' | undefined = 'sheet';

  private readonly fadedMarks = inject(FadedMarks);
  private readonly picks = inject(LetterPicks);
  private readonly stroke = inject(PathStroke);
  private readonly letterPicks = this.picks.picked;

  protected readonly sheet = this.store.current.sheet;
  /** Screen pixels per point, as percent of true CSS size. */
  readonly percent = computed(() => Math.round(this.sheetView().k * 0.75 * 100));
  protected readonly blocks = computed(() => this.drawAll([...(this.setting()?.blocks.values() ?? [])]));
  private readonly instead = inject(Instead);
  private readonly looks = inject(Looks);
  /** The sheet that is seen: the sheet that is worked on, or one that is shown instead of it. */
  protected readonly seen = computed(() => {
    const [instead, sheet] = [this.instead.shown(), this.sheet()];
    if (instead) return { sheet: instead.sheet, ground: drawGround(instead.sheet), blocks: this.drawAll(instead.blocks), instead: true };
    return sheet && { sheet, ground: this.ground(), blocks: this.blocks(), instead: false };
  });
  /** A second sheet and where it is seen. */
  protected readonly second = computed((): { shown: ShownSheet; place: SecondPlace } | undefined => {
    const second = this.instead.second();
    if (!second) return undefined;
    const { side } = second;
    const { width, height } = this.size();
    const from = side === 'beside' ? width / 2 : side === 'wipe' ? width * this.instead.wipe() : 0;
    const { x, y, k } = this.sheetView();
    const transform = transformOfView({ x: side === 'beside' ? x + width / 2 : x, y, k });
    return { shown: second.shown, place: { side, from, width, height, transform } };
  });
  /** True while nothing on the sheet can be taken hold of. */
  protected readonly onlyShown = computed(() => this.seen()?.instead === true || this.second() !== undefined || this.looks.onlyLooking());
  /** The sheet through the eyes of the looks that are on: CSS of the whole surface. */
  protected readonly look = computed(() => {
    const blurPx = this.looks.blurPt() * this.sheetView().k;
    const filter = [this.looks.filter(), blurPx > 0 ? `blur(${blurPx.toFixed(2)}px)` : null].filter(Boolean).join(' ');
    return { filter: filter || null, transform: this.looks.transform(), white: this.looks.on().has('white'), three: this.looks.on().has('three') };
  });
  /** Where the current block's lines are aligned to, while that is shown. */
  protected readonly trueEdges = computed(() => {
    const shown = this.overlay().includes('true edges') ? this.current() : undefined;
    if (!shown || shown.setting.straight) return undefined;
    const { xPt, yPt, widthPt, heightPt } = shown.setting.frame;
    const middle = shown.block.align === 'centre';
    return { turn: shown.turn, at: middle ? [xPt + widthPt / 2] : [xPt, xPt + widthPt], top: yPt - heightPt * 0.1, bottom: yPt + heightPt * 1.1 };
  });
  /** The blocks that are worked on together. */
  protected readonly picked = computed(() => {
    const { blockId, also } = this.view();
    return this.blocks().filter(({ block }) => block.id === blockId || also.includes(block.id));
  });
  private readonly ground = computed(() => {
    const sheet = this.sheet();
    return sheet ? drawGround(sheet) : [];
  });
  protected readonly margins = computed(() => {
    const sheet = this.sheet();
    return sheet && areaOf(sheet, 'margins');
  });
  protected readonly safe = computed(() => {
    const sheet = this.sheet();
    return sheet && sheet.safeShare > 0 ? areaOf(sheet, 'safe') : undefined;
  });
  /** The text caret or the picked letters, as boxes on the sheet. */
  protected readonly selection = computed(() => {
    const { selection, blockId } = this.view();
    const shown = this.blocks().find(({ block }) => block.id === blockId);
    if (!selection || !shown) return undefined;
    const { start, end } = selection;
    const caret = start === end;
    const boxes = shown.lines.flatMap((line, i) => {
      const last = i === shown.lines.length - 1;
      const inside = caret
        ? start >= line.start && (start < line.end || (last && start <= line.end) || start === line.visibleEnd)
        : start < line.end && end > line.start;
      if (!inside) return [];
      if (caret) return [{ ...letterBoxOf(line), x: linePlaceOf(line, start), width: 0, shift: shiftAt(line, start) }];
      return boxesOn(line, { start, end });
    });
    return { caret, boxes: caret ? boxes.slice(-1) : boxes, turn: shown.turn };
  });
  /** The letters that are picked apart, as boxes on the sheet. */
  protected readonly letters = computed(() => {
    const picks = this.overlay().includes('letters') ? this.letterPicks() : [];
    const shown = this.current();
    if (picks.length === 0 || !shown) return undefined;
    const boxes = shown.lines.flatMap((line) => picks.flatMap((letter) => (letter.start < line.end && letter.end > line.start ? boxesOn(line, letter) : [])));
    return { boxes, turn: shown.turn };
  });
  protected readonly current = computed(() => this.blocks().find(({ block }) => block.id === this.view().blockId));

  /** Where the gap caret stands on the sheet, in points. */
  protected readonly caret = computed(() => {
    const { gap } = this.view();
    const shown = this.blocks().find(({ block }) => block.id === gap?.blockId);
    for (const line of shown?.lines ?? []) {
      const place = gap && gap.at > line.start && gap.at < line.visibleEnd ? gapsOf(line).find(({ at }) => at === gap.at) : undefined;
      if (!place) continue;
      const [top, bottom] = [line.baselinePt - line.sizePt * 0.82, line.baselinePt + line.sizePt * 0.24];
      return { at: place.at, turn: shown?.turn ?? null, shift: shiftAt(line, place.at), x: place.xPt, top, bottom };
    }
    return undefined;
  });

  /** Drawings of the settings that are shown: a block that did not change is not drawn anew. */
  private readonly drawings = new WeakMap<BlockSetting, { block: Block; drawing: BlockDrawing }>();

  protected readonly drawingOf = ({ block, setting }: ShownSheet['blocks'][number]): BlockDrawing => {
    const known = this.drawings.get(setting);
    if (known?.block === block) return known.drawing;
    const drawing = drawBlock(block, setting);
    this.drawings.set(setting, { block, drawing });
    return drawing;
  };

  private drawAll(blocks: ShownSheet['blocks']): ShownBlock[] {
    const faded = this.fadedMarks.faded();
    return blocks.map(({ block, setting }) => {
      const own = this.drawingOf({ block, setting });
      const drawing = faded ? { ...own, nodes: fadedMarks(own.nodes) } : own;
      return { block, setting, lines: setting.lines, drawing, turn: svgTransform(drawing) };
    });
  }

  constructor() {
    afterNextRender(() => {
      const surface = this.surface().nativeElement;
      surface.addEventListener('click', (event) => this.pick(event));
      surface.addEventListener('dblclick', (event) => this.pickWord(event));
      // Once the letters are there.
      requestIdleCallback(() => void this.startZooming());
    });
    inject(PlaceService)
      .benchFocus$.pipe(takeUntilDestroyed())
      .subscribe(() => this.surface().nativeElement.focus({ preventScroll: true }));
    this.looks.scale$.pipe(takeUntilDestroyed()).subscribe((k) => this.zoomTo('sheet', k));
    // What is gone to is brought into view, once it is set.
    effect(() => {
      const { gap, blockId } = this.view();
      const place = this.caret()?.at ?? this.current()?.block.id;
      untracked(() => {
        const name = `${blockId ?? ''} ${gap?.at ?? ''}`;
        if (place === undefined || name === this.gone || (gap && !this.caret())) return;
        this.gone = name;
        this.bringIntoView();
      });
    });
    // Two sheets beside each other have half the room each.
    effect(() => {
      if (this.row()) untracked(() => this.zoomTo('sheet'));
    });
    effect(() => {
      this.half();
      untracked(() => this.follows && this.fitted !== undefined && this.zoomTo(this.follows));
    });
    effect(() => {
      const sheet = this.sheet();
      const { width } = this.size();
      if (sheet && width > 0) untracked(() => this.fitWhenNew(sheet));
    });
  }

  ngOnDestroy(): void {
    this.left = true;
    this.zooming?.stop();
  }

  protected readonly row = computed(() => this.instead.row().length > 0);
  /** The sheet, with those that stand in a row with it. */
  private whole(own: Sheet): { x: number; y: number; width: number; height: number } {
    const all = [{ sheet: own, xPt: 0, yPt: 0 }, ...this.instead.row().map(({ shown: { sheet }, xPt, yPt }) => ({ sheet, xPt, yPt }))];
    const [x, y] = [Math.min(...all.map(({ xPt }) => xPt)), Math.min(...all.map(({ yPt }) => yPt))];
    const right = Math.max(...all.map(({ sheet, xPt }) => xPt + sheet.widthPt));
    const bottom = Math.max(...all.map(({ sheet, yPt }) => yPt + sheet.heightPt));
    return { x, y, width: right - x, height: bottom - y };
  }

  private readonly half = computed(() => this.instead.second()?.side === 'beside');
  /** The room a sheet has on the table. */
  private room(): { width: number; height: number } {
    const { width, height } = this.size();
    return { width: this.half() ? width / 2 : width, height };
  }

  /** Brings the whole sheet, or the current block, into view. @param scale in pixels per point; as large as there is room where it is absent. */
  zoomTo(what: 'sheet' | 'block', scale?: number): void {
    const sheet = this.sheet();
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
    const [shown, caret] = [this.current(), this.caret()];
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

  protected resized(size: { width: number; height: number }): void {
    if (size.width === 0 || size.height === 0) return;
    this.size.set(size);
    if (this.follows && this.fitted !== undefined) this.zoomTo(this.follows);
  }

  /** Where something was let go over the sheet; undefined elsewhere. */
  placeUnder(event: MouseEvent): Point | undefined {
    return event.target instanceof Node && this.surface().nativeElement.contains(event.target) ? this.toSheet(event) : undefined;
  }

  /** A point of the window on the sheet, in points. */
  private toSheet({ clientX, clientY }: MouseEvent): Point {
    const { left, top } = this.surface().nativeElement.getBoundingClientRect();
    return onSheet(this.sheetView(), [clientX - left, clientY - top]);
  }

  /** The uppermost line under a point, seen as its block is turned. */
  private lineAt(point: Point): { block: Block; line: SetLine; lines: readonly SetLine[]; xPt: number } | undefined {
    for (const { block, lines, setting } of [...this.blocks()].reverse()) {
      const { xPt, yPt } = turnedPoint(point, middleOf(setting.frame), -block.rotationDeg);
      const under = lineUnder(setting, { xPt, yPt });
      if (under) return { block, lines, ...under };
    }
    return undefined;
  }

  private frameAt(point: Point): Block | undefined {
    return [...this.blocks()].reverse().find(({ block, setting: { frame } }) => {
      const { xPt, yPt } = turnedPoint(point, middleOf(frame), -block.rotationDeg);
      return xPt >= frame.xPt && xPt <= frame.xPt + frame.widthPt && yPt >= frame.yPt && yPt <= frame.yPt + frame.heightPt;
    })?.block;
  }

  /** Picks the letters of the current block whose middles lie in a box on the sheet. */
  private pickAround({ xPt, yPt, widthPt, heightPt }: { xPt: number; yPt: number; widthPt: number; heightPt: number }): void {
    const current = this.current();
    if (!current) return;
    const { block, setting, lines } = current;
    const inside = lines.flatMap((line) =>
      setLettersOf(line).filter(({ leftPt, rightPt, sizePt, shift }) => {
        const flat = { x: (leftPt + rightPt) / 2, y: line.baselinePt - sizePt / 4 };
        const { x, y } = shift ? applyToPoint(shift, flat) : flat;
        const there = turnedPoint({ xPt: x, yPt: y }, middleOf(setting.frame), block.rotationDeg);
        return there.xPt >= xPt && there.xPt <= xPt + widthPt && there.yPt >= yPt && there.yPt <= yPt + heightPt;
      }),
    );
    this.picks.pickAll(inside.map(({ start, end }) => ({ start, end })));
  }

  /** A click puts the caret into the nearest gap of the line under it; beside all lines it picks the block, or nothing. */
  private pick(event: MouseEvent): void {
    if (this.endsAround) {
      this.endsAround = false;
      return;
    }
    // The end of a drag is no click on the sheet.
    if (this.onlyShown()) return;
    if (this.view().editing || this.view().drawing || (event.target instanceof Element && event.target.closest('[data-handle]'))) return;
    const point = this.toSheet(event);
    const found = this.lineAt(point);
    if (found && this.overlay().includes('letters')) {
      const again = found.block.id === this.view().blockId;
      if (!again) this.store.selectBlock(found.block.id);
      this.picks.pick(letterAt(found.line, found.xPt), !again ? 'alone' : event.shiftKey ? 'through' : event.ctrlKey || event.metaKey ? 'also' : 'alone');
      return;
    }
    if (event.shiftKey) {
      const block = found?.block ?? this.frameAt(point);
      if (block) this.store.pickAlso(block.id);
      return;
    }
    if (!found) {
      this.store.selectBlock(this.frameAt(point)?.id);
      return;
    }
    const nearest = gapsOf(found.line).reduce<{ at: number; away: number } | undefined>((best, { at, xPt }) => {
      const away = Math.abs(xPt - found.xPt);
      return !best || away < best.away ? { at, away } : best;
    }, undefined);
    if (nearest) this.store.placeGap({ blockId: found.block.id, at: nearest.at });
    else this.store.selectBlock(found.block.id);
  }

  /** Two clicks pick a word and begin editing there. */
  private pickWord(event: MouseEvent): void {
    if (this.view().drawing === 'path') {
      this.stroke.finish();
      return;
    }
    const found = this.onlyShown() ? undefined : this.lineAt(this.toSheet(event));
    if (found) this.store.editWords(found.block.id, wordAt(found.block.words, offsetAt(found.line, found.xPt)));
  }

  /** While words are edited, pressing and dragging over them places the text caret and picks letters, as in a text. */
  protected press(event: PointerEvent): void {
    if (this.view().drawing && event.button === 0) {
      event.preventDefault();
      event.stopPropagation();
      if (this.view().drawing === 'path') {
        this.addPlace(this.toSheet(event));
        return;
      }
      this.follow(event);
      const from = this.toSheet(event);
      this.drawn.set({ from, to: from });
      return;
    }
    if (this.overlay().includes('letters') && event.shiftKey && event.button === 0 && !this.view().editing) {
      const from = this.toSheet(event);
      this.around.set({ from, to: from });
      this.follow(event);
      return;
    }
    if (!this.view().editing || event.button !== 0) return;
    const found = this.lineAt(this.toSheet(event));
    if (found?.block.id !== this.view().blockId || !found) return;
    // Keeps the words focused, and the sheet from being dragged.
    event.preventDefault();
    event.stopPropagation();
    const from = offsetAt(found.line, found.xPt);
    if (event.detail >= 3) this.store.editWords(found.block.id, { start: found.line.start, end: found.line.visibleEnd });
    else this.store.editWords(found.block.id, { start: event.shiftKey ? (this.view().selection?.start ?? from) : from, end: from });
    this.dragFrom = from;
    this.follow(event);
  }

  /** Goes on with the path that is drawn for the words of the block. */
  private addPlace(point: Point): void {
    const current = this.current();
    if (!current) return;
    const { block, setting } = current;
    const { xPt, yPt } = turnedPoint(point, middleOf(setting.frame), -block.rotationDeg);
    this.stroke.add({ xPt: xPt - block.frame.xPt, yPt: yPt - block.frame.yPt });
  }

  private follow(event: PointerEvent): void {
    pressAndDrag(this.surface().nativeElement, event, { move: (moved) => this.drag(moved), end: () => this.release() });
  }

  private drag(event: PointerEvent): void {
    const [drawn, around] = [this.drawn(), this.around()];
    if (around) this.around.set({ ...around, to: this.toSheet(event) });
    if (drawn) this.drawn.set({ ...drawn, to: this.endOf(drawn.from, event) });
    if (this.dragFrom === undefined) return;
    const found = this.lineAt(this.toSheet(event));
    if (found?.block.id !== this.view().blockId || !found) return;
    const to = offsetAt(found.line, found.xPt);
    if (to !== this.dragFrom) this.store.editWords(found.block.id, { start: Math.min(to, this.dragFrom), end: Math.max(to, this.dragFrom) });
  }

  private release(): void {
    this.dragFrom = undefined;
    const frame = this.drawnFrame();
    const rule = this.drawnRule();
    this.drawn.set(undefined);
    const { k } = this.sheetView();
    if (this.around()) {
      this.around.set(undefined);
      this.endsAround = frame !== undefined && Math.max(frame.widthPt, frame.heightPt) * k >= LEAST_DRAWN_PX;
      if (frame && this.endsAround) this.pickAround(frame);
      return;
    }
    if (rule && Math.hypot(rule.to.xPt - rule.from.xPt, rule.to.yPt - rule.from.yPt) * k >= LEAST_DRAWN_PX) {
      const turns = this.view().drawing === 'turn';
      this.store.draw(undefined);
      if (turns) this.store.turnAlong(rule.from, rule.to);
      else this.store.addRule(tenths(rule.from), tenths(rule.to));
    }
    if (!frame || frame.widthPt * k < LEAST_DRAWN_PX) return;
    const boxed = this.view().drawing === 'box';
    this.store.draw(undefined);
    if (boxed) {
      const { xPt, yPt, widthPt, heightPt } = frame;
      this.store.centreIn({ leftPt: xPt, topPt: yPt, rightPt: xPt + widthPt, bottomPt: yPt + heightPt }, 'both');
      return;
    }
    this.store.addCopy({ ...frame, heightPt: Math.max(1, frame.heightPt) }, 'New copy');
  }

  /** Where what is drawn ends: a rule with Shift runs level or upright. */
  private endOf(from: Point, event: PointerEvent): Point {
    const to = this.toSheet(event);
    if (['block', 'box'].includes(this.view().drawing ?? '') || !event.shiftKey) return to;
    const level = Math.abs(to.xPt - from.xPt) >= Math.abs(to.yPt - from.yPt);
    return level ? { xPt: to.xPt, yPt: from.yPt } : { xPt: from.xPt, yPt: to.yPt };
  }

  /** The lines of a block as places between which leading is shown. */
  protected baselines(lines: readonly SetLine[]): { y: number; right: number }[] {
    return lines.map((line) => ({ y: line.baselinePt, right: line.leftPt + line.widthPt }));
  }

  protected label(block: Block): string {
    return `${block.words.replaceAll('\n', ' ')}, ${styleAt(block, 0).sizePt} pt`;
  }

  private boxOfBlock(): { x: number; y: number; width: number; height: number } | undefined {
    const current = this.current();
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

  protected async startZooming(): Promise<void> {
    if (this.isZoomable()) return;
    // Where the server is away it is tried again with the next pointer.
    const loaded = await import('./zooming').catch(() => undefined);
    if (!loaded || this.isZoomable() || this.left) return;
    this.zooming = loaded.startZooming(this.surface().nativeElement, {
      view: this.sheetView(),
      room: () => this.room(),
      isTaken: ({ target }) => {
        const onHandle = target instanceof Element && target.closest('[data-handle]') !== null;
        return onHandle || this.dragFrom !== undefined || this.around() !== undefined || this.view().drawing !== undefined;
      },
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
    if (this.row() || blocks.every(({ words }) => words === STARTER_WORDS)) return;
    // A tall sheet in a wide window leaves its letters too small to judge: the block that is worked on comes first.
    const size = this.store.block?.style.sizePt ?? 0;
    if (size > 0 && size * this.sheetView().k < READABLE_PX) this.zoomTo('block');
  }
}

/** How letters are shifted, as SVG writes it. */
/** The letters of a line that stand for a range of the words, as boxes where their shifts have taken them. */
const boxesOn = (line: SetLine, range: WordRange) =>
  stretchesOf(line, range).map(({ leftPt, rightPt, shift }) => ({ ...letterBoxOf(line), x: leftPt, width: rightPt - leftPt, shift: shiftOf(shift) }));

/** The letter of a line at a place along it. */
const letterAt = (line: SetLine, xPt: number): number => {
  const letters = setLettersOf(line);
  return (letters.find(({ leftPt, rightPt }) => xPt >= leftPt && xPt < rightPt) ?? letters[letters.length - 1])?.start ?? line.start;
};

const shiftOf = (shift: Matrix | undefined): string | null => (shift ? `matrix(${shift.a} ${shift.b} ${shift.c} ${shift.d} ${shift.e} ${shift.f})` : null);

/** How the letter that begins at a place of the words is shifted, or the last one before it. */
const shiftAt = (line: SetLine, at: number): string | null => shiftOf(setLettersOf(line).findLast(({ start }) => start <= at)?.shift);

/** The place in the words nearest to a point of a line. */
function offsetAt(line: SetLine, xPt: number): number {
  const places = [{ at: line.start, xPt: line.leftPt }, ...gapsOf(line), { at: line.visibleEnd, xPt: line.leftPt + line.widthPt }];
  return places.reduce((best, place) => (Math.abs(place.xPt - xPt) < Math.abs(best.xPt - xPt) ? place : best)).at;
}

const words = new Intl.Segmenter('und', { granularity: 'word' });

function wordAt(text: string, at: number): { start: number; end: number } {
  const found = words.segment(text).containing(Math.min(at, Math.max(0, text.length - 1)));
  return found ? { start: found.index, end: found.index + found.segment.length } : { start: at, end: at };
}
