import { ChangeDetectionStrategy, Component, type ElementRef, type OnDestroy, afterRenderEffect, computed, inject, signal, viewChild } from '@angular/core';
import { ChoiceName } from '../../../ui/choice-name.pipe';
import { BarController, BarElement, CategoryScale, LinearScale, Tooltip } from 'chart.js';
import { Chart } from '../../../ui/charts';
import { UserPreferences } from '../../../settings/user-preferences';
import { showValue } from '../../../ui/numbers';
import { BenchStore } from '../../bench.store';
import { Comparison } from './comparison';
import { type WholeJob, evennessOf } from './whole-job';

Chart.register(BarController, BarElement, CategoryScale, LinearScale, Tooltip);

const WHAT = ['evenness', 'findings', 'widths'] as const;

/** The measures of two states: evenness and findings sheet by sheet, widths block by block on this sheet. */
@Component({
  selector: 'jx-measures-chart',
  imports: [ChoiceName],
  template: `
    <div i18n-aria-label="@@measuresChart.measure" class="choice" role="group" aria-label="Measure">
      @for (one of whats; track one) {
        <button type="button" [attr.aria-pressed]="what() === one" (click)="what.set(one)">{{ one | choiceName }}</button>
      }
    </div>
    <p class="figures" data-testid="measures">
      @if (totals(); as totals) {
        <span i18n="@@measuresChart.before" class="before">Before</span>
        <span i18n="@@measuresChart.after" class="after">After</span>
        <span>
          Evenness {{ totals.before.evenness }} →
          <b>{{ totals.after.evenness }}</b>
        </span>
        <span>
          Findings {{ totals.before.findings }} →
          <b>{{ totals.after.findings }}</b>
        </span>
      }
    </p>
    <div class="chart" [hidden]="!rows()"><canvas #canvas role="img" [attr.aria-label]="label()"></canvas></div>
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      min-width: 0;
      min-height: 0;
      padding: 6px 10px;
      border-left: 1px solid var(--jx-rule);
    }
    .figures {
      display: flex;
      gap: 12px;
      min-height: 20px;
      margin: 4px 0 0;
      font-size: 12px;
    }
    .before::before,
    .after::before {
      content: '';
      display: inline-block;
      width: 9px;
      height: 9px;
      margin-right: 4px;
      background: var(--jx-tight);
    }
    .after::before {
      background: var(--jx-open);
    }
    .chart {
      position: relative;
      flex: 1;
      min-height: 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MeasuresChart implements OnDestroy {
  private readonly state = inject(Comparison);
  private readonly store = inject(BenchStore);
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly theme = inject(UserPreferences).preferences;
  private chart: Chart<'bar'> | undefined;

  protected readonly whats = WHAT;
  protected readonly what = signal<(typeof WHAT)[number]>('evenness');
  private readonly both = computed(() => {
    const [before, after] = [this.state.measures.from(), this.state.measures.to()];
    return before && after && this.state.from() ? { before, after } : undefined;
  });
  protected readonly totals = computed(() => {
    const both = this.both();
    const said = (whole: WholeJob) => {
      const even = evennessOf(whole);
      return { evenness: even === undefined ? '–' : showValue(even, 0), findings: whole.findings.length };
    };
    return both && { before: said(both.before), after: said(both.after) };
  });
  protected readonly rows = computed(() => {
    const both = this.both();
    if (!both) return undefined;
    const rows = this.what() === 'widths' ? this.widths(both) : this.sheets(both, this.what() === 'evenness');
    return rows.length > 0 ? rows : undefined;
  });
  protected readonly label = computed(() => {
    const rows = this.rows() ?? [];
    return `${this.what()} before and after. ${rows.map(({ name, before, after }) => `${name}: ${showValue(before ?? 0)}, ${showValue(after ?? 0)}`).join('. ')}`;
  });

  constructor() {
    afterRenderEffect(() => this.draw());
  }

  ngOnDestroy(): void {
    this.chart?.destroy();
  }

  private sheets({ before, after }: { before: WholeJob; after: WholeJob }, even: boolean): ChartRow[] {
    const valueOf = ({ sheets, findings }: WholeJob, id: string): number | null => {
      const one = sheets.find(({ sheet }) => sheet.id === id);
      if (!one) return null;
      return even ? (one.check.evenness ?? null) : findings.filter(({ sheetId }) => sheetId === id).length;
    };
    return after.sheets.map(({ sheet }) => ({ name: sheet.name, before: valueOf(before, sheet.id), after: valueOf(after, sheet.id) }));
  }

  private widths({ before, after }: { before: WholeJob; after: WholeJob }): ChartRow[] {
    const widthOf = ({ sheets }: WholeJob, id: string): number | null => {
      const block = sheets.flatMap(({ check }) => check.blocks).find(({ blockId }) => blockId === id);
      return block ? Math.round(block.widthPt * 10) / 10 : null;
    };
    return (this.store.current.sheet()?.blocks ?? []).map(({ id, words }) => ({
      name: words.replaceAll('\n', ' ').slice(0, 14),
      before: widthOf(before, id),
      after: widthOf(after, id),
    }));
  }

  private draw(): void {
    const rows = this.rows() ?? [];
    const style = getComputedStyle(this.canvas().nativeElement);
    const colour = (name: string): string => style.getPropertyValue(name).trim();
    this.theme();
    this.chart ??= new Chart(this.canvas().nativeElement, {
      type: 'bar',
      data: { labels: [], datasets: [] },
      options: {
        animation: false,
        maintainAspectRatio: false,
        indexAxis: 'y',
        scales: { x: { beginAtZero: true, grid: {}, ticks: {} }, y: { grid: { display: false }, ticks: {} } },
      },
    });
    this.chart.data.labels = rows.map(({ name }) => name);
    this.chart.data.datasets = [
      { label: 'before', data: rows.map(({ before }) => before), backgroundColor: colour('--jx-tight'), barPercentage: 0.9 },
      { label: 'after', data: rows.map(({ after }) => after), backgroundColor: colour('--jx-open'), barPercentage: 0.9 },
    ];
    for (const scale of Object.values(this.chart.options.scales ?? {})) {
      if (scale?.ticks) scale.ticks.color = colour('--jx-quiet');
      if (scale?.grid) Object.assign(scale.grid, { color: colour('--jx-rule') });
    }
    this.chart.update('none');
  }
}

interface ChartRow {
  name: string;
  before: number | null;
  after: number | null;
}
