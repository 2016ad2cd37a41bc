import { ChangeDetectionStrategy, Component, type ElementRef, type OnDestroy, afterRenderEffect, inject, input, viewChild } from '@angular/core';
import { LineController, LineElement, LinearScale, LogarithmicScale, PointElement, ScatterController, Tooltip } from 'chart.js';
import type { TrackingCurve } from '../../../engine/protocol';
import { Chart } from '../../../ui/charts';
import { UserPreferences } from '../../../settings/user-preferences';
import { showSigned, showValue } from '../../../ui/numbers';

Chart.register(LineController, LineElement, LinearScale, LogarithmicScale, PointElement, ScatterController, Tooltip);

const TICKS = [8, 14, 24, 48, 96, 180];

/** Recommended tracking against size, with the block on it. */
@Component({
  selector: 'jx-tracking-curve',
  template: `
    <div><canvas #canvas role="img" [attr.aria-label]="label()"></canvas></div>
  `,
  styles: `
    :host {
      display: block;
      min-width: 0;
      min-height: 0;
      padding: 6px 8px;
      border-left: 1px solid var(--jx-rule);
    }
    div {
      position: relative;
      height: 100%;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TrackingCurveChart implements OnDestroy {
  readonly curve = input.required<TrackingCurve>();
  readonly sizePt = input.required<number>();
  readonly trackingMilliem = input.required<number>();
  readonly label = input('');
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private chart: Chart | undefined;
  /** Its colours are those of the page. */
  private readonly theme = inject(UserPreferences).preferences;

  constructor() {
    afterRenderEffect(() => this.draw());
  }

  ngOnDestroy(): void {
    this.chart?.destroy();
  }

  private draw(): void {
    const curve = this.curve().points.map(({ sizePt, milliem }) => ({ x: sizePt, y: milliem }));
    const block = [{ x: this.sizePt(), y: this.trackingMilliem() }];
    const style = getComputedStyle(this.canvas().nativeElement);
    const colour = (name: string): string => style.getPropertyValue(name).trim();
    this.theme();
    this.chart ??= this.make();
    this.chart.data.datasets = [
      { type: 'line', data: curve, borderColor: colour('--jx-on-target'), borderWidth: 1.5, pointRadius: 0, tension: 0.2 },
      { type: 'scatter', data: block, backgroundColor: colour('--jx-accent'), pointRadius: 5 },
    ] as never;
    for (const scale of Object.values(this.chart.options.scales ?? {})) {
      const { ticks, grid, title } = (scale ?? {}) as { ticks?: { color?: string }; grid?: { color?: string }; title?: { color?: string } };
      if (ticks) ticks.color = colour('--jx-quiet');
      if (title) title.color = colour('--jx-ink');
      if (grid) grid.color = colour('--jx-rule');
    }
    this.chart.update('none');
  }

  private make(): Chart {
    return new Chart(this.canvas().nativeElement, {
      type: 'scatter',
      data: { datasets: [] },
      options: {
        animation: false,
        maintainAspectRatio: false,
        scales: {
          x: {
            type: 'logarithmic',
            min: 6,
            max: 240,
            title: { display: true, text: 'Size, pt' },
            ticks: { autoSkip: false, maxRotation: 0, callback: (value) => String(value) },
            grid: {},
            afterBuildTicks: (axis) => (axis.ticks = TICKS.map((value) => ({ value }))),
          },
          y: { title: { display: true, text: 'Tracking, 1/1000 em' }, ticks: { callback: (value) => showValue(Number(value)) }, grid: {} },
        },
        plugins: { tooltip: { callbacks: { label: ({ parsed }) => `${showValue(parsed.x ?? 0)} pt: ${showSigned(parsed.y ?? 0)}` } } },
      },
    });
  }
}
