import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import type { SetLine } from '@jentrix/core/setting';
import { printSigned } from '@jentrix/core/units';
import { Glyphs } from '../../../ui/glyphs';
import { SizeDirective } from '../../../ui/size.directive';
import type { GapLine } from '../../bench.store';

const PADDING = 24;
/** Height kept below the letters for the values, in pixels. */
const VALUES = 50;
/** Letters are never shown smaller than this in the ribbon, in pixels per em: a long line runs past the edges instead. */
const SMALLEST_EM = 64;
/** Values closer to each other than this are left out unless they say something. */
const ROOM_FOR_VALUE = 26;

/** The current line enlarged, with a mark and the values under every gap. */
@Component({
  selector: 'jx-gap-ribbon',
  imports: [Glyphs, SizeDirective],
  template: `
    <svg (jxSize)="size.set($event)" role="group" aria-label="Gap ribbon" i18n-aria-label>
      <svg:g [attr.transform]="'translate(' + place().x + ' 0)'">
        @for (gap of gaps(); track gap.at) {
          <svg:g class="gap" [class.current]="gap.current" [attr.data-gap]="gap.at" (click)="pick.emit(gap.at)">
            <svg:rect [attr.x]="gap.from" y="0" [attr.width]="gap.to - gap.from" [attr.height]="size().height">
              <svg:title>{{ gap.title }}</svg:title>
            </svg:rect>
          </svg:g>
        }
        <svg:line class="baseline" [attr.x1]="-place().x" [attr.x2]="size().width - place().x" [attr.y1]="place().baseline" [attr.y2]="place().baseline" />
        <svg:g class="letters" [attr.transform]="letters()">
          <svg:g [jxGlyphs]="line()" colour="#1f2528"></svg:g>
        </svg:g>
        @for (gap of gaps(); track gap.at) {
          <svg:g class="mark" [class.current]="gap.current" [class.by-hand]="gap.byHand">
            <svg:line [attr.x1]="gap.x" [attr.x2]="gap.x" [attr.y1]="gap.current ? 4 : place().baseline + 10" [attr.y2]="place().baseline + 18" />
            @if (gap.shown) {
              <svg:text [attr.x]="gap.x" [attr.y]="place().baseline + 32">{{ gap.total }}</svg:text>
            }
            @if (gap.byHand) {
              <svg:circle [attr.cx]="gap.x" [attr.cy]="place().baseline + 40" r="2.5" />
            }
          </svg:g>
        }
      </svg:g>
    </svg>
  `,
  styleUrl: './gap-ribbon.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class GapRibbon {
  readonly line = input.required<SetLine>();
  readonly gapLine = input.required<GapLine>();
  /** The gap the caret stands in. */
  readonly at = input<number>();
  readonly pick = output<number>();
  protected readonly size = signal({ width: 600, height: 200 });

  /** Scale in pixels per point, and where the line begins. */
  protected readonly place = computed(() => {
    const { widthPt, sizePt, leftPt } = this.line();
    const { width, height } = this.size();
    const fitting = Math.min((width - 2 * PADDING) / Math.max(1, widthPt), (height - VALUES) / (sizePt * 1.06));
    const scale = Math.max(fitting, SMALLEST_EM / sizePt);
    const baseline = (height - VALUES) * 0.78 + 4;
    const lineWidth = widthPt * scale;
    let x = (width - lineWidth) / 2;
    if (lineWidth > width - 2 * PADDING) {
      const gap = this.gapLine().ledgers.find(({ at }) => at === this.at());
      const wanted = width / 2 - ((gap?.xPt ?? leftPt) - leftPt) * scale;
      x = Math.min(PADDING, Math.max(width - PADDING - lineWidth, wanted));
    }
    return { scale, baseline, x };
  });

  protected readonly letters = computed(() => {
    const { scale, baseline } = this.place();
    const { leftPt, baselinePt } = this.line();
    return `translate(${-leftPt * scale} ${baseline - baselinePt * scale}) scale(${scale})`;
  });

  protected readonly gaps = computed(() => {
    const { scale } = this.place();
    const { leftPt, widthPt } = this.line();
    const { ledgers } = this.gapLine();
    const xs = ledgers.map(({ xPt }) => (xPt - leftPt) * scale);
    const words = this.gapLine().block.words;
    return ledgers.map((ledger, i) => {
      const x = xs[i] ?? 0;
      const before = xs[i - 1] ?? 0;
      const after = xs[i + 1] ?? widthPt * scale;
      const byHand = ledger.handMilliem !== 0;
      const current = ledger.at === this.at();
      const room = Math.min(x - before, after - x) >= ROOM_FOR_VALUE;
      return {
        at: ledger.at,
        x,
        from: (before + x) / 2,
        to: (x + after) / 2,
        total: printSigned(ledger.totalMilliem),
        shown: current || room || byHand,
        byHand,
        current,
        title: `${words.slice(ledger.left.start, ledger.left.end)} ${words.slice(ledger.right.start, ledger.right.end)}: ${printSigned(ledger.totalMilliem)}`,
      };
    });
  });
}
