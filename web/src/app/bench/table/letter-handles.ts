import { ChangeDetectionStrategy, Component, ElementRef, computed, inject, input, signal } from '@angular/core';
import { type Block, type WordRange, findBlock, nudgeLetters, styleAt } from '@jentrix/core/job';
import { type BlockSetting, applyToPoint, setLettersOf } from '@jentrix/core/setting';
import { EngineService } from '../../engine/engine.service';
import { instanceKey } from '../../engine/protocol';
import { showSigned } from '../../ui/numbers';
import { pressAndDrag } from '../../ui/press-and-drag';
import { BenchStore } from '../bench.store';
import type { Gesture } from '../state/job-history';
import { LetterPicks } from '../state/letter-picks';

interface Point {
  x: number;
  y: number;
}

interface Drag {
  kind: 'move' | 'turn';
  from: Point;
  /** Where the handles stood, and how the line ran there. */
  grip: Point & { angle: number };
  gesture: Gesture;
}

const SNAP_PX = 6;
const TURN_STEP = 15;
/** Turns that come so near to a step of 15 degrees, in degrees, take it. */
const TURN_SNAP = 2.5;

/**
 * The handles of picked letters: a dot moves them along and across their line, an arc turns them. They meet the baseline, the
 * x-height and the cap line with their feet, and steps of 15 degrees; Ctrl moves freely. What a drag does is told beside it.
 */
@Component({
  selector: 'g[jxLetters]',
  template: `
    @if (grip(); as grip) {
      <svg:g [attr.transform]="'translate(' + grip.x + ' ' + grip.y + ') scale(' + 1 / scale() + ')'">
        <svg:g
          class="turn"
          [attr.transform]="'rotate(' + (grip.angle * 180) / pi + ')'"
          data-handle="letters"
          data-testid="turn-letters"
          (pointerdown)="start($event, 'turn')"
        >
          <svg:title>Drag to rotate the picked letters; snaps to 15°, Ctrl: no snapping</svg:title>
          <svg:path class="reach" [attr.d]="arc" />
          <svg:path [attr.d]="arc" />
        </svg:g>
        <svg:g class="dot" data-handle="letters" data-testid="move-letters" (pointerdown)="start($event, 'move')">
          <svg:title>Drag to move the picked letters; snaps to baseline, x-height and cap line, Ctrl: no snapping</svg:title>
          <svg:circle class="reach" r="12" />
          <svg:circle r="5.5" />
        </svg:g>
        @if (says(); as text) {
          <svg:g class="says">
            <svg:rect x="16" y="10" [attr.width]="text.length * 6.4 + 14" height="20" rx="3" />
            <svg:text x="23" y="24">{{ text }}</svg:text>
          </svg:g>
        }
      </svg:g>
    }
  `,
  styleUrl: './letter-handles.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { 'data-handle': 'letters' },
})
export class LetterHandles {
  private readonly store = inject(BenchStore);
  private readonly engine = inject(EngineService);
  private readonly element = inject<ElementRef<SVGGElement>>(ElementRef);
  private readonly picks = inject(LetterPicks).picked;
  readonly block = input.required<Block>();
  readonly setting = input.required<BlockSetting>();
  /** Pixels per point. */
  readonly scale = input.required<number>();
  protected readonly says = signal('');
  private dragging: Drag | undefined;

  protected readonly pi = Math.PI;
  /** A quarter of a circle over the dot, 22 pixels away, with heads. */
  protected readonly arc = 'M-18 -16A24 24 0 0 1 18 -16M18 -16l-7 0M18 -16l1 -7M-18 -16l7 0M-18 -16l-1 -7';

  /** The letter that was picked first, where it stands: under its foot the handles are shown. */
  protected readonly grip = computed(() => {
    const [first] = this.picks();
    if (!first) return undefined;
    for (const line of this.setting().lines) {
      const letter = setLettersOf(line).find(({ start, end }) => start <= first.start && end > first.start);
      if (!letter) continue;
      const foot = { x: (letter.leftPt + letter.rightPt) / 2, y: line.baselinePt };
      const { shift } = letter;
      // How the line itself runs there: without the letter's own turn.
      const own = (styleAt(this.block(), first.start).turnDeg * Math.PI) / 180;
      return { ...(shift ? applyToPoint(shift, foot) : foot), angle: shift ? Math.atan2(shift.b, shift.a) - own : 0 };
    }
    return undefined;
  });

  protected start(event: PointerEvent, kind: Drag['kind']): void {
    const grip = this.grip();
    if (event.button !== 0 || !grip) return;
    event.stopPropagation();
    event.preventDefault();
    const gesture = this.store.begin();
    this.dragging = { kind, from: this.point(event), grip, gesture };
    pressAndDrag(this.element.nativeElement, event, {
      move: (moved) => this.drag(moved),
      end: () => {
        gesture.end();
        this.dragging = undefined;
        this.says.set('');
      },
    });
  }

  private drag(event: PointerEvent): void {
    const { dragging } = this;
    const picks = this.picks();
    const [first] = picks;
    const { id } = this.block();
    const before = dragging?.gesture.start && findBlock(dragging.gesture.start, id);
    if (!dragging || !first || !before) return;
    const centre = dragging.grip;
    const to = this.point(event);
    const style = styleAt(before, first.start);
    if (dragging.kind === 'turn') {
      const directionOf = ({ x, y }: Point): number => Math.atan2(y - centre.y, x - centre.x);
      let turn = style.turnDeg + ((directionOf(to) - directionOf(dragging.from)) * 180) / Math.PI;
      turn = ((turn + 540) % 360) - 180;
      const step = Math.round(turn / TURN_STEP) * TURN_STEP;
      turn = !event.ctrlKey && Math.abs(turn - step) < TURN_SNAP ? step : Math.round(turn * 10) / 10;
      this.says.set(`${showSigned(turn, 1)}°`);
      this.give(dragging, picks, [['turnDeg', turn - style.turnDeg]]);
      return;
    }
    const { angle } = dragging.grip;
    const [dx, dy] = [to.x - dragging.from.x, to.y - dragging.from.y];
    // Along the line and up from it.
    const [along, up] = [dx * Math.cos(angle) + dy * Math.sin(angle), dx * Math.sin(angle) - dy * Math.cos(angle)];
    const milliem = 1000 / style.sizePt;
    let raised = style.baselineShiftMilliem + up * milliem;
    const moved = Math.round(style.moveMilliem + along * milliem);
    let met = '';
    if (!event.ctrlKey) {
      const near = (SNAP_PX / this.scale()) * milliem;
      const found = this.heights(style).find(({ at }) => Math.abs(at - raised) < near);
      if (found) [raised, met] = [found.at, ` · ${found.name}`];
    }
    raised = Math.round(raised);
    const across = !event.ctrlKey && Math.abs(moved) * style.sizePt < 1000 * (SNAP_PX / this.scale()) ? 0 : moved;
    this.says.set(`${showSigned(across)}, ${showSigned(raised)}${met}`);
    this.give(dragging, picks, [
      ['moveMilliem', across - style.moveMilliem],
      ['baselineShiftMilliem', raised - style.baselineShiftMilliem],
    ]);
  }

  /** The heights over the baseline that a foot meets, in 1/1000 em of a letter. */
  private heights(style: ReturnType<typeof styleAt>): readonly { name: string; at: number }[] {
    const drawing = this.engine.drawing(instanceKey(style));
    const share = 1000 / (drawing?.unitsPerEm ?? 1000);
    const { xHeight, capHeight } = drawing?.metrics ?? { xHeight: 500, capHeight: 700 };
    const rise = style.scaleY;
    return [
      { name: 'Baseline', at: 0 },
      { name: 'x-height', at: Math.round(xHeight * share) },
      { name: 'Cap line', at: Math.round(capHeight * share) },
      { name: 'Top at x-height', at: Math.round(xHeight * share * (1 - rise)) },
      { name: 'Top at cap line', at: Math.round(capHeight * share * (1 - rise)) },
    ];
  }

  private give(
    { gesture }: Drag,
    picks: readonly WordRange[],
    changes: readonly (readonly ['moveMilliem' | 'baselineShiftMilliem' | 'turnDeg', number])[],
  ): void {
    const { id } = this.block();
    gesture.apply((start) => changes.reduce((next, [key, by]) => (by === 0 ? next : nudgeLetters(next, id, picks, key, by)), start));
  }

  /** A point of the window on the sheet, in points, not turned with the block. */
  private point({ clientX, clientY }: PointerEvent): Point {
    const { x, y } = new DOMPoint(clientX, clientY).matrixTransform(this.element.nativeElement.getScreenCTM()?.inverse());
    return { x, y };
  }
}
