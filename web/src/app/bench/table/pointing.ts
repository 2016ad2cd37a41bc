import { Injectable, computed, inject, signal } from '@angular/core';
import { type Point, middleOf, turnedPoint } from '@jentrix/core/placing';
import { applyToPoint, gapsOf, setLettersOf } from '@jentrix/core/setting';
import { pressAndDrag } from '../../ui/press-and-drag';
import { BenchStore } from '../bench.store';
import { LetterPicks } from '../state/letter-picks';
import { PathStroke } from '../state/path-stroke';
import { Camera } from './camera';
import { letterAt, offsetAt, wordAt } from './line-place';
import { Scene } from './scene';
import { onSheet } from './sheet-view';

/** A drag shorter than this draws nothing. */
const LEAST_DRAWN_PX = 8;

const tenths = ({ xPt, yPt }: Point): Point => ({
  xPt: Math.round(xPt * 10) / 10,
  yPt: Math.round(yPt * 10) / 10,
});

/** What the pointer does on the sheet: it picks gaps, letters and blocks, writes among words, and draws. */
@Injectable()
export class Pointing {
  private readonly store = inject(BenchStore);
  private readonly scene = inject(Scene);
  private readonly camera = inject(Camera);
  private readonly picks = inject(LetterPicks);
  private readonly stroke = inject(PathStroke);
  private surface!: SVGSVGElement;
  /** The ends of what is being drawn. */
  readonly drawn = signal<{ from: Point; to: Point } | undefined>(undefined);
  readonly drawnFrame = computed(() => {
    const drawn = this.around() ?? (['block', 'box'].includes(this.scene.view().drawing ?? '') ? this.drawn() : undefined);
    if (!drawn) return undefined;
    const { from, to } = drawn;
    return { xPt: Math.min(from.xPt, to.xPt), yPt: Math.min(from.yPt, to.yPt), widthPt: Math.abs(to.xPt - from.xPt), heightPt: Math.abs(to.yPt - from.yPt) };
  });
  readonly drawnRule = computed(() => (['rule', 'turn'].includes(this.scene.view().drawing ?? '') ? this.drawn() : undefined));
  private dragFrom: number | undefined;
  /** The ends of what is drawn around letters to pick them. */
  private readonly around = signal<{ from: Point; to: Point } | undefined>(undefined);
  /** The click that ends a drag around letters is none. */
  private endsAround = false;

  /** Begins to listen to clicks. */
  listenOn(surface: SVGSVGElement): void {
    this.surface = surface;
    surface.addEventListener('click', (event) => this.pick(event));
    surface.addEventListener('dblclick', (event) => this.pickWord(event));
  }

  /** True where the pointer has something else to do than to move the sheet. */
  isTaken({ target }: Event): boolean {
    const onHandle = target instanceof Element && target.closest('[data-handle]') !== null;
    return onHandle || this.dragFrom !== undefined || this.around() !== undefined || this.scene.view().drawing !== undefined;
  }

  /** Where something was dropped on the sheet; undefined elsewhere. */
  placeUnder(event: MouseEvent): Point | undefined {
    return event.target instanceof Node && this.surface.contains(event.target) ? this.toSheet(event) : undefined;
  }

  /** A point of the window on the sheet, in points. */
  private toSheet({ clientX, clientY }: MouseEvent): Point {
    const { left, top } = this.surface.getBoundingClientRect();
    return onSheet(this.camera.sheetView(), [clientX - left, clientY - top]);
  }

  /** Picks the letters of the current block whose middles lie in a box on the sheet. */
  private pickAround({ xPt, yPt, widthPt, heightPt }: { xPt: number; yPt: number; widthPt: number; heightPt: number }): void {
    const current = this.scene.current();
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
  pick(event: MouseEvent): void {
    if (this.endsAround) {
      this.endsAround = false;
      return;
    }
    // The end of a drag is no click on the sheet.
    if (this.scene.onlyShown()) return;
    if (this.scene.view().editing || this.scene.view().drawing || (event.target instanceof Element && event.target.closest('[data-handle]'))) return;
    const point = this.toSheet(event);
    const found = this.scene.lineAt(point);
    if (found && this.scene.overlay().includes('letters')) {
      const again = found.block.id === this.scene.view().blockId;
      if (!again) this.store.selectBlock(found.block.id);
      this.picks.pick(letterAt(found.line, found.xPt), !again ? 'alone' : event.shiftKey ? 'through' : event.ctrlKey || event.metaKey ? 'also' : 'alone');
      return;
    }
    if (event.shiftKey) {
      const block = found?.block ?? this.scene.frameAt(point);
      if (block) this.store.pickAlso(block.id);
      return;
    }
    if (!found) {
      this.store.selectBlock(this.scene.frameAt(point)?.id);
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
  pickWord(event: MouseEvent): void {
    if (this.scene.view().drawing === 'path') {
      this.stroke.finish();
      return;
    }
    const found = this.scene.onlyShown() ? undefined : this.scene.lineAt(this.toSheet(event));
    if (found) this.store.editWords(found.block.id, wordAt(found.block.words, offsetAt(found.line, found.xPt)));
  }

  /** While words are edited, pressing and dragging over them places the text caret and picks letters, as in a text. */
  press(event: PointerEvent): void {
    if (this.scene.view().drawing && event.button === 0) {
      event.preventDefault();
      event.stopPropagation();
      if (this.scene.view().drawing === 'path') {
        this.addPlace(this.toSheet(event));
        return;
      }
      this.follow(event);
      const from = this.toSheet(event);
      this.drawn.set({ from, to: from });
      return;
    }
    if (this.scene.overlay().includes('letters') && event.shiftKey && event.button === 0 && !this.scene.view().editing) {
      const from = this.toSheet(event);
      this.around.set({ from, to: from });
      this.follow(event);
      return;
    }
    if (!this.scene.view().editing || event.button !== 0) return;
    const found = this.scene.lineAt(this.toSheet(event));
    if (found?.block.id !== this.scene.view().blockId || !found) return;
    // Keeps the words focused, and the sheet from being dragged.
    event.preventDefault();
    event.stopPropagation();
    const from = offsetAt(found.line, found.xPt);
    if (event.detail >= 3) this.store.editWords(found.block.id, { start: found.line.start, end: found.line.visibleEnd });
    else this.store.editWords(found.block.id, { start: event.shiftKey ? (this.scene.view().selection?.start ?? from) : from, end: from });
    this.dragFrom = from;
    this.follow(event);
  }

  /** Goes on with the path that is drawn for the words of the block. */
  private addPlace(point: Point): void {
    const current = this.scene.current();
    if (!current) return;
    const { block, setting } = current;
    const { xPt, yPt } = turnedPoint(point, middleOf(setting.frame), -block.rotationDeg);
    this.stroke.add({ xPt: xPt - block.frame.xPt, yPt: yPt - block.frame.yPt });
  }

  private follow(event: PointerEvent): void {
    pressAndDrag(this.surface, event, { move: (moved) => this.drag(moved), end: () => this.release() });
  }

  private drag(event: PointerEvent): void {
    const [drawn, around] = [this.drawn(), this.around()];
    if (around) this.around.set({ ...around, to: this.toSheet(event) });
    if (drawn) this.drawn.set({ ...drawn, to: this.endOf(drawn.from, event) });
    if (this.dragFrom === undefined) return;
    const found = this.scene.lineAt(this.toSheet(event));
    if (found?.block.id !== this.scene.view().blockId || !found) return;
    const to = offsetAt(found.line, found.xPt);
    if (to !== this.dragFrom) this.store.editWords(found.block.id, { start: Math.min(to, this.dragFrom), end: Math.max(to, this.dragFrom) });
  }

  private release(): void {
    this.dragFrom = undefined;
    const frame = this.drawnFrame();
    const rule = this.drawnRule();
    this.drawn.set(undefined);
    const { k } = this.camera.sheetView();
    if (this.around()) {
      this.around.set(undefined);
      this.endsAround = frame !== undefined && Math.max(frame.widthPt, frame.heightPt) * k >= LEAST_DRAWN_PX;
      if (frame && this.endsAround) this.pickAround(frame);
      return;
    }
    if (rule && Math.hypot(rule.to.xPt - rule.from.xPt, rule.to.yPt - rule.from.yPt) * k >= LEAST_DRAWN_PX) {
      const turns = this.scene.view().drawing === 'turn';
      this.store.draw(undefined);
      if (turns) this.store.turnAlong(rule.from, rule.to);
      else this.store.addRule(tenths(rule.from), tenths(rule.to));
    }
    if (!frame || frame.widthPt * k < LEAST_DRAWN_PX) return;
    const boxed = this.scene.view().drawing === 'box';
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
    if (['block', 'box'].includes(this.scene.view().drawing ?? '') || !event.shiftKey) return to;
    const level = Math.abs(to.xPt - from.xPt) >= Math.abs(to.yPt - from.yPt);
    return level ? { xPt: to.xPt, yPt: from.yPt } : { xPt: from.xPt, yPt: to.yPt };
  }
}
