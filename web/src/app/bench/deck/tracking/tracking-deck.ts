import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { nudgeSpace } from '@jentrix/core/job';
import type { SetLine } from '@jentrix/core/setting';
import { fromPoints, parseMilliem, printSigned, printValue } from '@jentrix/core/units';
import { combineLatest, filter, map, switchMap } from 'rxjs';
import { EngineService } from '../../../engine/engine.service';
import { Glyphs } from '../../../ui/glyphs';
import { PreferencesService } from '../../../ui/preferences.service';
import { SizeDirective } from '../../../ui/size.directive';
import { type ValueChange, ValueField } from '../../../ui/value-field';
import { BenchStore } from '../../bench.store';
import { FindingsList } from '../findings-list';
import { lineOfView, loneLine } from '../line-of-view';

interface Trial {
  trackingMilliem: number;
  line: SetLine;
}

/** The Tracking pass: the line at three trackings, letter space and word space. */
@Component({
  selector: 'jx-tracking-deck',
  imports: [FindingsList, Glyphs, SizeDirective, ValueField],
  templateUrl: './tracking-deck.html',
  styleUrl: './tracking-deck.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TrackingDeck {
  protected readonly store = inject(BenchStore);
  private readonly engine = inject(EngineService);
  private readonly preferences$ = inject(PreferencesService).preferences$;
  protected readonly preferences = toSignal(this.preferences$, { requireSync: true });
  private readonly view = toSignal(this.store.view$, { requireSync: true });
  private readonly job = toSignal(this.store.job$);
  private readonly setting = toSignal(this.store.setting$);
  protected readonly size = signal({ width: 600, height: 200 });
  protected readonly signed = printSigned;

  protected readonly block = computed(() => {
    this.job();
    this.view();
    return this.store.block;
  });
  /** The style of the picked letters, or of the block. */
  protected readonly style = computed(() => {
    this.job();
    this.view();
    return this.store.style;
  });
  /** The current line's width in the sheet's unit. */
  protected readonly width = computed(() => {
    this.setting();
    this.view();
    const current = lineOfView(this.store);
    const unit = this.store.sheet?.unit ?? 'pt';
    return current && `${printValue(fromPoints(current.line.widthPt, unit))} ${unit}`;
  });

  /** The line a coarse step tighter, as it is, and a coarse step looser. */
  protected readonly trials = toSignal(
    combineLatest([this.store.setting$, this.store.view$, this.preferences$]).pipe(
      map(([, , { coarseMilliem }]) => ({ current: lineOfView(this.store), coarseMilliem })),
      filter(({ current }) => current !== undefined && current.line.visibleEnd > current.line.start),
      switchMap(async ({ current, coarseMilliem }): Promise<Trial[]> => {
        if (!current) return [];
        const blocks = [-coarseMilliem, 0, coarseMilliem].map((by, i) =>
          nudgeSpace(loneLine(current.block, current.line, `trial-${i}`), 'trackingMilliem', by),
        );
        const { settings } = await this.engine.set({ blocks });
        return settings.flatMap(({ lines: [line] }, i) => (line ? [{ trackingMilliem: blocks[i]?.style.trackingMilliem ?? 0, line }] : []));
      }),
    ),
    { initialValue: [] },
  );

  protected readonly rows = computed(() => {
    const { width, height } = this.size();
    const trials = this.trials();
    const widest = Math.max(1, ...trials.map(({ line }) => line.widthPt));
    const sizePt = Math.max(1, ...trials.map(({ line }) => line.sizePt));
    const rowHeight = height / 3;
    const scale = Math.min((width - 90) / widest, (rowHeight - 6) / (sizePt * 1.05));
    return trials.map(({ trackingMilliem, line }, i) => {
      const baseline = rowHeight * i + rowHeight / 2 + sizePt * scale * 0.34;
      return {
        trackingMilliem,
        line,
        baseline,
        label: printSigned(trackingMilliem),
        end: 70 + line.widthPt * scale,
        now: i === 1,
        transform: `translate(${70 - line.leftPt * scale} ${baseline - line.baselinePt * scale}) scale(${scale})`,
      };
    });
  });

  protected readonly parse = computed(() => {
    const sizePt = this.block()?.style.sizePt ?? 12;
    return (text: string): number => parseMilliem(text, sizePt);
  });

  protected set(key: 'trackingMilliem' | 'wordSpaceMilliem', { value, gesture }: ValueChange): void {
    this.store.applyStyle({ [key]: value }, gesture);
  }

  protected take(trackingMilliem: number): void {
    this.store.applyStyle({ trackingMilliem });
  }
}
