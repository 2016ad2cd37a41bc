import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { pairOf } from '@jentrix/core/findings';
import type { GapLedger, GapWhite, SetLine } from '@jentrix/core/setting';
import { Glyphs } from '../../../drawing/glyphs';
import { SizeDirective } from '../../../ui/size.directive';
import type { GapLine } from '../../state/sheet-settings';
import type { WhiteGuide } from './kerning.state';
import { lettersOnly } from '../line-of-view';
import { showSigned } from '../../../ui/numbers';

const PADDING = 24;
/** Height kept below the letters for bars and values, in pixels. */
const BELOW = 94;
/** Where the zero line of the bars stands, above the ribbon's lower edge, and how long a bar may be. */
const ZERO = 46;
const LONGEST_BAR = 28;
/** The bars of a line reach their full length at this deviation at least, in 1/1000 em, so that small ones look small. */
const LEAST_FULL = 60;
/** Past this, bars are cut: one odd gap should not flatten all others. */
const MOST_FULL = 150;
/** Letters are never shown smaller than this in the ribbon, in pixels per em: a long line runs past the edges instead. */
const SMALLEST_EM = 64;
/** Values closer to each other than this are left out unless they say something. */
const ROOM_FOR_VALUE = 26;
/** Deviations smaller than this are not worth a number, in 1/1000 em. */
const SAID = 3;

/**
 * The current line enlarged. Under every gap a bar and a number: how much more (up, plus) or less (down, minus) it holds than it
 * should, in 1/1000 em. Taking the proposal takes all of it back.
 */
@Component({
  selector: 'jx-gap-ribbon',
  imports: [Glyphs, SizeDirective],
  template: `
    <svg (jxSize)="size.set($event)" role="group" aria-label="Gap ribbon">
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
          @if (ghost(); as ghost) {
            <svg:g class="ghost" data-testid="ghost" [class.tight]="ghost.tight" [attr.transform]="'translate(' + ghost.byPt + ' 0)'">
              <svg:g [jxGlyphs]="ghost.line" [colour]="ghost.tight ? '#e3b49d' : '#a9cbd1'"></svg:g>
            </svg:g>
          }
          <svg:g [jxGlyphs]="shown()" colour="var(--jx-ink)"></svg:g>
          @if (guideShape(); as shape) {
            <svg:path class="guide" data-testid="guide" [attr.d]="shape" />
          }
        </svg:g>
        <svg:line class="zero" [attr.x1]="-place().x" [attr.x2]="size().width - place().x" [attr.y1]="zero()" [attr.y2]="zero()" />
        @for (gap of gaps(); track gap.at) {
          <svg:g class="mark" [class.current]="gap.current" [class.by-hand]="gap.byHand" [class.open]="gap.deviation > 0" [class.tight]="gap.deviation < 0">
            @if (gap.current) {
              <svg:line class="caret" [attr.x1]="gap.x" [attr.x2]="gap.x" y1="4" [attr.y2]="zero() - 30" />
            }
            <svg:rect class="bar" [attr.x]="gap.x - 7" width="14" [attr.y]="gap.bar.y" [attr.height]="gap.bar.height" />
            @if (gap.shown) {
              <svg:text [attr.x]="gap.x" [attr.y]="size().height - 6">{{ gap.says }}</svg:text>
            }
            @if (gap.byHand) {
              <svg:circle [attr.cx]="gap.x" [attr.cy]="size().height - 22" r="2.5"><svg:title>Manual kerning</svg:title></svg:circle>
            }
          </svg:g>
        }
      </svg:g>
      <svg:text class="axis" x="6" [attr.y]="zero() - 4">Open</svg:text>
      <svg:text class="axis" x="6" [attr.y]="zero() + 12">Tight</svg:text>
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
  /** Shows only the two letters of the gap and one beside them. */
  readonly three = input(false);
  /** The white of another gap, laid into this one. */
  readonly guide = input<WhiteGuide>();
  readonly pick = output<number>();
  protected readonly size = signal({ width: 600, height: 200 });

  protected readonly zero = computed(() => this.size().height - ZERO);
  private readonly ledger = computed(() => this.gapLine().ledgers.find(({ at }) => at === this.at()));

  /** The ledgers of the gaps that are shown: all, or with three letters those beside the gap. */
  private readonly ledgers = computed(() => {
    const { ledgers } = this.gapLine();
    const index = ledgers.findIndex(({ at }) => at === this.at());
    if (!this.three() || index < 0) return ledgers;
    const next = ledgers[index + 1];
    return next && !next.atSpace ? ledgers.slice(index, index + 2) : ledgers.slice(Math.max(0, index - 1), index + 1);
  });

  /** The line as it is shown. */
  protected readonly shown = computed(() => {
    const ledgers = this.ledgers();
    if (ledgers.length === this.gapLine().ledgers.length) return this.line();
    return lettersOnly(this.line(), new Set(ledgers.flatMap(({ left, right }) => [left.start, right.start])));
  });

  /** Scale in pixels per point, and where the line begins. */
  protected readonly place = computed(() => {
    const { widthPt, sizePt, leftPt } = this.shown();
    const { width, height } = this.size();
    const fitting = Math.min((width - 2 * PADDING) / Math.max(1, widthPt), (height - BELOW) / (sizePt * 1.06));
    const scale = Math.max(fitting, Math.min(SMALLEST_EM / sizePt, (height - BELOW) / (sizePt * 1.06)));
    const baseline = (height - BELOW) * 0.8 + 2;
    const lineWidth = widthPt * scale;
    let x = (width - lineWidth) / 2;
    if (lineWidth > width - 2 * PADDING) {
      const wanted = width / 2 - ((this.ledger()?.xPt ?? leftPt) - leftPt) * scale;
      x = Math.min(PADDING, Math.max(width - PADDING - lineWidth, wanted));
    }
    return { scale, baseline, x };
  });

  protected readonly letters = computed(() => {
    const { scale, baseline } = this.place();
    const { leftPt, baselinePt } = this.shown();
    return `translate(${-leftPt * scale} ${baseline - baselinePt * scale}) scale(${scale})`;
  });

  /** The right letter where the proposal would put it. */
  protected readonly ghost = computed(() => {
    const ledger = this.ledger();
    if (!ledger || ledger.atSpace || Math.abs(ledger.deviationMilliem) < 1) return undefined;
    return {
      line: lettersOnly(this.line(), new Set([ledger.right.start])),
      byPt: (-ledger.deviationMilliem * ledger.sizePt) / 1000,
      tight: ledger.deviationMilliem < 0,
    };
  });

  /** The held white overlaid on the white of the current gap, both centred, at its own size. */
  protected readonly guideShape = computed(() => {
    const guide = this.guide();
    const ledger = this.ledger();
    const white = this.gapLine().white;
    if (!guide || !ledger || !white) return undefined;
    const scale = ledger.sizePt / guide.sizePt;
    const shift = ledger.xPt + gapMiddle(white) - gapMiddle(guide.white) * scale;
    return shapeOf(guide.white, scale, shift, this.line().baselinePt);
  });

  protected readonly gaps = computed(() => {
    const { scale } = this.place();
    const { leftPt, widthPt } = this.shown();
    const ledgers = this.ledgers();
    const xs = ledgers.map(({ xPt }) => (xPt - leftPt) * scale);
    const zero = this.zero();
    const full = Math.min(MOST_FULL, Math.max(LEAST_FULL, ...ledgers.map(({ deviationMilliem }) => Math.abs(deviationMilliem))));
    const lengthOf = (milliem: number): number => Math.max(-1, Math.min(1, milliem / full)) * LONGEST_BAR || 0;
    return ledgers.map((ledger, i) => {
      const x = xs[i] ?? 0;
      const before = xs[i - 1] ?? 0;
      const after = xs[i + 1] ?? widthPt * scale;
      const byHand = ledger.handMilliem !== 0;
      const current = ledger.at === this.at();
      const room = Math.min(x - before, after - x) >= ROOM_FOR_VALUE;
      const { deviationMilliem: deviation, atSpace } = ledger;
      return {
        at: ledger.at,
        x,
        from: (before + x) / 2,
        to: (x + after) / 2,
        says: showSigned(deviation),
        shown: current || (!atSpace && Math.abs(deviation) >= SAID && (room || Math.abs(deviation) >= 12)),
        deviation,
        byHand,
        current,
        bar: { y: zero - Math.max(0, lengthOf(deviation)), height: atSpace ? 0 : Math.max(1, Math.abs(lengthOf(deviation))) },
        title: this.titleOf(ledger),
      };
    });
  });

  private titleOf(ledger: GapLedger): string {
    const pair = pairOf(this.gapLine().block, ledger);
    if (ledger.atSpace) return `${pair}: ${showSigned(ledger.totalMilliem)}`;
    return `${pair}: total ${showSigned(ledger.totalMilliem)}; target ${showSigned(ledger.shouldMilliem)}`;
  }
}

/** The middle of a white, by area, in points from the gap's place. */
function gapMiddle({ edges }: GapWhite): number {
  const known = edges.filter((edge) => edge !== undefined);
  return known.reduce((sum, { left, right }) => sum + (left + right) / 2, 0) / Math.max(1, known.length);
}

/** Path data of a white. @param x where its gap's place lies, @param baseline in points on the sheet. */
function shapeOf({ topPt, stepPt, edges }: GapWhite, scale: number, x: number, baseline: number): string {
  const rows = edges.flatMap((edge, i) => (edge ? [{ ...edge, y: baseline + (topPt + (i + 0.5) * stepPt) * scale }] : []));
  const points = [
    ...rows.map(({ right, y }) => `${(x + right * scale).toFixed(2)} ${y.toFixed(2)}`),
    ...rows.reverse().map(({ left, y }) => `${(x + left * scale).toFixed(2)} ${y.toFixed(2)}`),
  ];
  return points.length > 0 ? `M${points.join('L')}Z` : '';
}
