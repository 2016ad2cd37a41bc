import { DatePipe } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  type ElementRef,
  type OnDestroy,
  afterRenderEffect,
  computed,
  inject,
  input,
  output,
  viewChild,
} from '@angular/core';
import type { Progress } from '@jentrix/core/drill/kept';
import { BarController, BarElement, CategoryScale, type ChartData, LineController, LineElement, LinearScale, PointElement, Tooltip } from 'chart.js';
import { Chart } from '../ui/charts';
import { UserPreferences } from '../settings/user-preferences';

Chart.register(BarController, BarElement, CategoryScale, LinearScale, LineController, LineElement, PointElement, Tooltip);

/** Kinds of pairs and weeks that are shown. */
const MOST_PAIRS = 8;
const MOST_WEEKS = 12;

/** The progress of an eye: by kind of pair, over weeks, streaks; and what to practise next. */
@Component({
  selector: 'jx-progress',
  imports: [DatePipe],
  template: `
    <section class="advice">
      <h2 i18n="@@progressPanel.next">Next</h2>
      <p data-testid="advice">{{ progress().advice.says }}</p>
      <button i18n="@@progressPanel.practiseThis" type="button" class="btn btn-outline-dark btn-sm" (click)="practise.emit(progress().advice.next)">
        Practise this
      </button>
    </section>
    <section>
      <h2 i18n="@@progressPanel.byKindOfPair">By kind of pair</h2>
      @if (pairs().length > 0) {
        <p i18n="@@progressPanel.11000EmTooTight" class="quiet">1/1000 em too tight or too open in your last words</p>
      } @else {
        <p i18n="@@progressPanel.placeAFewWordsTo" class="quiet">Place a few words to see which gaps you leave too open or too tight.</p>
      }
      <div class="chart" [style.height.px]="pairs().length * 20 + 24" [hidden]="pairs().length === 0">
        <canvas #byPair role="img" [attr.aria-label]="pairsLabel()"></canvas>
      </div>
    </section>
    <section>
      <h2 i18n="@@progressPanel.overWeeks">Over weeks</h2>
      @if (progress().weeks.length === 0) {
        <p i18n="@@progressPanel.noWeeklyScoresYet" class="quiet">No weekly scores yet.</p>
      }
      <div class="chart weeks" [hidden]="progress().weeks.length === 0"><canvas #byWeek role="img" [attr.aria-label]="weeksLabel()"></canvas></div>
    </section>
    <dl class="figures">
      <div>
        <dt i18n="@@progressPanel.exercises">Exercises</dt>
        <dd>{{ progress().count }}</dd>
      </div>
      <div>
        <dt i18n="@@progressPanel.bestStreak" i18n-title="@@progressPanel.answersOf80OrMore" title="Answers of 80 or more in a row">Best streak</dt>
        <dd data-testid="streak">{{ progress().streak.best }}</dd>
      </div>
      <div>
        <dt i18n="@@progressPanel.currentStreak">Current streak</dt>
        <dd>{{ progress().streak.now }}</dd>
      </div>
      @for (one of otherEyes(); track one.kind) {
        <div>
          <dt [title]="'Chance would score ' + one.chance">{{ one.name }}</dt>
          <dd>{{ one.score }}</dd>
        </div>
      }
    </dl>
    @if (lastWeek(); as week) {
      <p i18n="@@progressPanel.lastPractisedInTheWeek" class="visually-hidden">Last practised in the week of {{ week | date: 'd MMMM y' }}.</p>
    }
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      gap: 12px;
      min-height: 0;
      overflow-y: auto;
      padding: 12px 14px;
      border-left: 1px solid var(--jx-rule);
      background: var(--jx-paper);
    }
    h2 {
      margin: 0 0 2px;
      font-size: 13px;
      font-weight: 600;
    }
    p {
      margin: 0 0 4px;
    }
    .advice {
      padding: 8px 10px;
      border-left: 3px solid var(--jx-accent);
      background: var(--jx-sheet);
    }
    .chart {
      position: relative;
    }
    .weeks {
      height: 120px;
    }
    .figures {
      margin: 0;
    }
    .figures div {
      display: flex;
      justify-content: space-between;
      padding: 2px 0;
      border-top: 1px dotted var(--jx-rule);
    }
    dt {
      font-weight: 400;
    }
    dd {
      margin: 0;
      font-weight: 600;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ProgressPanel implements OnDestroy {
  readonly progress = input.required<Progress>();
  readonly practise = output<Progress['advice']['next']>();

  private readonly byPair = viewChild.required<ElementRef<HTMLCanvasElement>>('byPair');
  private readonly byWeek = viewChild.required<ElementRef<HTMLCanvasElement>>('byWeek');
  private readonly theme = inject(UserPreferences).preferences;
  private readonly charts = new Map<HTMLCanvasElement, Chart>();

  protected readonly pairs = computed(() => this.progress().pairs.slice(0, MOST_PAIRS));
  protected readonly weeks = computed(() => this.progress().weeks.slice(-MOST_WEEKS));
  protected readonly lastWeek = computed(() => this.progress().weeks.at(-1)?.monday);
  protected readonly otherEyes = computed(() =>
    this.progress()
      .exercises.filter(({ count }) => count > 0)
      .map(({ kind, score, chance }) => ({ kind, name: NAMES[kind], score: Math.round(score), chance: Math.round(chance) })),
  );
  protected readonly pairsLabel = computed(() =>
    this.pairs()
      .map(({ pair, bias }) => `${pair}: ${Math.abs(bias)} too ${bias < 0 ? 'tight' : 'open'}`)
      .join('. '),
  );
  protected readonly weeksLabel = computed(() =>
    this.weeks()
      .map(({ monday, score, count }) => `Week of ${monday}: ${Math.round(score)} in ${count} exercises`)
      .join('. '),
  );

  constructor() {
    afterRenderEffect(() => {
      this.theme();
      const style = getComputedStyle(this.byPair().nativeElement);
      const colour = (name: string): string => style.getPropertyValue(name).trim();
      const pairs = this.pairs();
      this.show(this.byPair().nativeElement, 'y', {
        labels: pairs.map(({ pair }) => pair),
        datasets: [
          { data: pairs.map(({ bias }) => bias), backgroundColor: pairs.map(({ bias }) => colour(bias < 0 ? '--jx-tight' : '--jx-open')), barPercentage: 0.8 },
        ],
      });
      const weeks = this.weeks();
      this.show(this.byWeek().nativeElement, 'x', {
        labels: weeks.map(({ monday }) => monday.slice(5)),
        datasets: [
          { type: 'line', data: weeks.map(({ score }) => score), borderColor: colour('--jx-accent'), backgroundColor: colour('--jx-accent'), pointRadius: 3 },
        ],
      });
    });
  }

  ngOnDestroy(): void {
    for (const chart of this.charts.values()) chart.destroy();
  }

  private show(canvas: HTMLCanvasElement, indexAxis: 'x' | 'y', data: ChartData): void {
    let chart = this.charts.get(canvas);
    if (!chart) {
      chart = new Chart(canvas, {
        type: 'bar',
        data: { labels: [], datasets: [] },
        options: {
          animation: false,
          maintainAspectRatio: false,
          indexAxis,
          scales:
            indexAxis === 'y'
              ? { x: { suggestedMin: -10, suggestedMax: 10, grid: {}, ticks: {} }, y: { grid: { display: false }, ticks: {} } }
              : { x: { grid: { display: false }, ticks: {} }, y: { min: 0, max: 100, grid: {}, ticks: { stepSize: 25 } } },
        },
      });
      this.charts.set(canvas, chart);
    }
    chart.data = data;
    const style = getComputedStyle(canvas);
    for (const scale of Object.values(chart.options.scales ?? {})) {
      if (scale?.ticks) scale.ticks.color = style.getPropertyValue('--jx-quiet').trim();
      if (scale?.grid) Object.assign(scale.grid, { color: style.getPropertyValue('--jx-rule').trim() });
    }
    chart.update('none');
  }
}

const NAMES: Readonly<Record<Progress['exercises'][number]['kind'], string>> = {
  place: 'Place the letters',
  even: 'Which is more even',
  wrong: 'Which gap is wrong',
  leading: 'Match the leading',
  touch: 'Find what touches',
};
