import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { baseColour } from '@jentrix/core/drawing';
import { graphemeBoundaries, nudgeSpace, styleAt } from '@jentrix/core/job';
import { limitsOf } from '@jentrix/core/preferences';
import { type SetLine, hasCursive } from '@jentrix/core/setting';
import { inCapitals, isLightOnDark } from '@jentrix/core/advice';
import { fromPoints, parseMilliem } from '@jentrix/core/units';
import { combineLatest, debounceTime, filter, map, switchMap } from 'rxjs';
import { EngineService } from '../../../engine/engine.service';
import type { TrialReply } from '../../../engine/protocol';
import { Glyphs } from '../../../drawing/glyphs';
import { UserPreferences } from '../../../settings/user-preferences';
import { SizeDirective } from '../../../ui/size.directive';
import { type ValueChange, ValueField } from '../../../ui/value-field';
import { BenchStore } from '../../bench.store';
import { TrackingState } from './tracking.state';
import { FindingsList } from '../findings-list';
import { TrackingCurveChart } from './tracking-curve';
import { lineOfView, loneLine } from '../line-of-view';
import { showSigned, showValue } from '../../../ui/numbers';

interface Trial {
  trackingMilliem: number;
  line: SetLine;
  /** The pairs that touch at this tracking, a few of them named. */
  touching: string;
}

/** When the engine fails, the setting itself tells. */
const NOTHING_TRIED: Pick<TrialReply, 'settings' | 'inspections'> = { settings: [], inspections: [] };
const PRESETS = [-30, -15, 0, 20, 60];

/** The Tracking pass: the line at three trackings, letter space and word space. */
@Component({
  selector: 'jx-tracking-deck',
  imports: [FindingsList, Glyphs, SizeDirective, TrackingCurveChart, ValueField],
  templateUrl: './tracking-deck.html',
  styleUrl: './tracking-deck.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TrackingDeck {
  protected readonly store = inject(BenchStore);
  private readonly engine = inject(EngineService);
  private readonly preferences$ = inject(UserPreferences).preferences$;
  protected readonly preferences = inject(UserPreferences).preferences;
  protected readonly size = signal({ width: 600, height: 200 });
  protected readonly signed = showSigned;
  protected readonly print = showValue;
  protected readonly presets = PRESETS;
  /** Word space keeps its proportion to letter space while tracking changes. */
  protected readonly tracking = inject(TrackingState);
  protected readonly linked = this.tracking.linked;

  protected readonly block = this.store.current.block;
  /** True where the words have letters that can't be tracked. */
  protected readonly cursive = computed(() => hasCursive(this.block()?.words ?? ''));
  protected readonly style = this.store.current.style;
  /** The current line's width in the sheet's unit. */
  protected readonly width = computed(() => {
    const current = lineOfView(this.store);
    const unit = this.store.current.sheet()?.unit ?? 'pt';
    return current && `${showValue(fromPoints(current.line.widthPt, unit))} ${unit}`;
  });

  /** The line's width as it would be untracked. */
  protected readonly widths = computed(() => {
    const current = lineOfView(this.store);
    const unit = this.store.current.sheet()?.unit ?? 'pt';
    if (!current) return undefined;
    const { block, line } = current;
    // Tracking stands after every letter but the last of the line, each in its own style.
    const trackedPt = graphemeBoundaries(block.words.slice(line.start, line.visibleEnd)).reduce((sum, at) => {
      const { trackingMilliem, sizePt, scaleX } = styleAt(block, line.start + at - 1);
      return sum + (trackingMilliem * sizePt * scaleX) / 1000;
    }, 0);
    return { before: `${showValue(fromPoints(line.widthPt - trackedPt, unit))} ${unit}` };
  });
  /** Where the tracking stands against the limits. */
  protected readonly level = computed(() => {
    const { caution, strong, out } = limitsOf(this.preferences());
    const tracking = this.style()?.trackingMilliem ?? 0;
    if (tracking >= caution) return tracking < 0 ? 'invisible' : '–';
    return tracking >= strong ? 'careful' : tracking >= out ? 'visible' : 'too tight';
  });
  /** The advice for size and face. */
  protected readonly curve = toSignal(
    combineLatest([this.store.job$, this.store.view$]).pipe(
      map(() => ({ style: this.store.style, block: this.store.block, ground: this.store.sheet?.background })),
      debounceTime(30),
      switchMap(({ style, block, ground }) => {
        if (!style || !block || !ground) return Promise.resolve(undefined);
        const capitals = inCapitals(block.words, style.case);
        return this.engine.advise(style, { capitals, lightOnDark: isLightOnDark(style.colour, baseColour(ground)) }).catch(() => undefined);
      }),
    ),
  );

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
        const { settings, inspections } = await this.engine.tryOut(blocks).catch(() => NOTHING_TRIED);
        return settings.flatMap(({ lines: [line] }, i) => {
          const pairs = [...new Set((inspections[i]?.findings ?? []).filter(({ rule }) => rule === 'touching').map(({ subject }) => subject))];
          const touching = pairs.length === 0 ? '' : `Touching: ${pairs.slice(0, 3).join(' ')}${pairs.length > 3 ? ' …' : ''}`;
          return line ? [{ trackingMilliem: blocks[i]?.style.trackingMilliem ?? 0, line, touching }] : [];
        });
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
    const scale = Math.min((width - 150) / widest, (rowHeight - 6) / (sizePt * 1.05));
    return trials.map(({ trackingMilliem, line, touching }, i) => {
      const baseline = rowHeight * i + rowHeight / 2 + sizePt * scale * 0.34;
      return {
        trackingMilliem,
        line,
        baseline,
        label: showSigned(trackingMilliem),
        touching,
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

  /** Tracks the picked letters, or the block, and takes the word space along where they are linked. */
  protected track(value: number, gesture?: string): void {
    this.store.track(value, this.tracking.wordSpaceLink, gesture);
  }

  protected set(key: 'trackingMilliem' | 'wordSpaceMilliem', { value, gesture }: ValueChange): void {
    if (key === 'trackingMilliem') this.track(value, gesture);
    else this.store.applyStyle({ [key]: value }, gesture);
  }
}
