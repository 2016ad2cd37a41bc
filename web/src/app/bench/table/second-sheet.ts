import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { type BlockDrawing, drawGround } from '@jentrix/core/drawing';
import { Drawing, svgTransform } from '../../drawing/drawing';
import { pressAndDrag } from '../../ui/press-and-drag';
import { Instead, type ShownSheet, type BesideMode } from '../state/instead';

/** Where a second sheet is seen on the table, in pixels. */
export interface SecondPlace {
  side: BesideMode;
  from: number;
  width: number;
  height: number;
  /** Of the sheet, as SVG writes it. */
  transform: string;
}

/** A second sheet on the table: beside the first, wiped over it, or overlaid on it in the other signal colour. */
@Component({
  selector: 'g[jxSecond]',
  imports: [Drawing],
  template: `
    <svg:clipPath id="jx-second">
      <svg:rect y="0" [attr.x]="place().from" [attr.width]="place().width - place().from" [attr.height]="place().height" />
    </svg:clipPath>
    <svg:filter id="jx-then">
      <svg:feFlood flood-color="var(--jx-tight)" />
      <svg:feComposite in2="SourceAlpha" operator="in" />
    </svg:filter>
    <svg:g [attr.clip-path]="over() ? null : 'url(#jx-second)'">
      @if (!over()) {
        <svg:rect class="table" [attr.x]="place().from" y="0" [attr.width]="place().width" [attr.height]="place().height" />
      }
      <svg:g [attr.transform]="place().transform">
        @if (!over()) {
          <svg:g [jxDrawing]="ground()"></svg:g>
          <svg:rect class="sheet" fill="none" [attr.width]="shown().sheet.widthPt" [attr.height]="shown().sheet.heightPt" />
        }
        <svg:g [class.tinted]="over()">
          @for (drawn of drawings(); track $index) {
            <svg:g [attr.transform]="drawn.turn" role="img" [attr.aria-label]="'In the pull: ' + drawn.words">
              <svg:g [jxDrawing]="drawn.nodes"></svg:g>
            </svg:g>
          }
        </svg:g>
      </svg:g>
    </svg:g>
    @if (!over()) {
      <svg:g class="parting" [attr.transform]="'translate(' + place().from + ' 0)'">
        <svg:line y1="0" [attr.y2]="place().height" />
        <svg:text x="-8" y="18" text-anchor="end">{{ instead.shown() ? 'Later pull' : 'Now' }}</svg:text>
        <svg:text x="8" y="18">Pull</svg:text>
        @if (place().side === 'wipe') {
          <svg:g
            data-handle
            role="slider"
            tabindex="0"
            aria-label="Edge of the wipe"
            aria-valuemin="0"
            aria-valuemax="100"
            [attr.aria-valuenow]="percent()"
            (pointerdown)="drag($event)"
            (keydown.arrowLeft)="nudge($event, -0.02)"
            (keydown.arrowRight)="nudge($event, 0.02)"
          >
            <svg:rect x="-8" y="0" width="16" [attr.height]="place().height" fill="transparent" />
            <svg:path [attr.transform]="'translate(0 ' + place().height / 2 + ')'" d="M-3 -7L-11 0L-3 7ZM3 -7L11 0L3 7Z" />
          </svg:g>
        }
      </svg:g>
    }
  `,
  styles: `
    :host(.then) {
      mix-blend-mode: multiply;
    }
    .tinted {
      filter: url('#jx-then');
    }
    .table {
      fill: var(--jx-table);
    }
    line {
      stroke: var(--jx-accent);
    }
    path {
      pointer-events: none;
    }
    .parting path {
      fill: var(--jx-accent);
    }
    text {
      font-size: 12px;
      fill: var(--jx-ink);
      stroke: var(--jx-table);
      stroke-width: 5px;
      paint-order: stroke;
      user-select: none;
    }
    [role='slider'] {
      cursor: ew-resize;
    }
  `,
  host: { '[attr.data-second]': 'place().side', '[class.then]': 'over()' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SecondSheet {
  readonly shown = input.required<ShownSheet>({ alias: 'jxSecond' });
  readonly place = input.required<SecondPlace>();
  /** Draws a block as it was set. */
  readonly draw = input.required<(one: ShownSheet['blocks'][number]) => BlockDrawing>();
  protected readonly instead = inject(Instead);

  /** Laid over the first: a group of its own would blend with nothing. */
  protected readonly over = computed(() => this.place().side === 'over');
  protected readonly ground = computed(() => drawGround(this.shown().sheet));
  protected readonly drawings = computed(() =>
    this.shown().blocks.map((one) => {
      const drawing = this.draw()(one);
      return { nodes: drawing.nodes, turn: svgTransform(drawing), words: one.block.words.replaceAll('\n', ' ') };
    }),
  );
  protected readonly percent = computed(() => Math.round(this.instead.wipe() * 100));

  /** Moves the edge of what is wiped. */
  protected drag(event: PointerEvent): void {
    event.preventDefault();
    event.stopPropagation();
    const handle = event.currentTarget as SVGElement;
    const { left, width } = (handle.ownerSVGElement ?? handle).getBoundingClientRect();
    pressAndDrag(handle, event, { move: ({ clientX }) => this.to((clientX - left) / width), end: () => undefined });
  }

  protected nudge(event: Event, by: number): void {
    event.preventDefault();
    event.stopPropagation();
    this.to(this.instead.wipe() + by);
  }

  private to(share: number): void {
    this.instead.wipe.set(Math.min(1, Math.max(0, share)));
  }
}
