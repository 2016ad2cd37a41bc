import { Injectable, type OnDestroy, computed, effect, inject } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { type Job, type Sheet, resolveSheet } from '@jentrix/core/job';
import { straightLines } from '@jentrix/core/setting';
import { switchMap } from 'rxjs';
import { EngineService } from '../../../engine/engine.service';
import { instanceKey } from '../../../engine/protocol';
import { BenchStore } from '../../bench.store';
import { Instead, type RowSheet, type ShownSheet } from '../../state/instead';
import { ProofState } from './proof.state';
import { tryOutSheet } from './try-out';

/** Between two sheets, as a share of the wider one's width. */
const GAP = 0.06;

/** Puts the other sheets of the job in a row with the one that is worked on, at one scale, so that like can be compared with like. */
@Injectable()
export class Rows implements OnDestroy {
  private readonly state = inject(ProofState);
  private readonly store = inject(BenchStore);
  private readonly engine = inject(EngineService);
  private readonly instead = inject(Instead);
  private readonly job = this.store.current.job;
  private readonly setting = this.store.current.setting;

  private readonly wanted = computed(() => (this.state.row() === 'off' ? undefined : { job: this.job(), current: this.store.current.sheet() }));
  private readonly others = toSignal(
    toObservable(this.wanted).pipe(
      switchMap(async (wanted): Promise<readonly ShownSheet[]> => {
        if (!wanted?.job) return [];
        const { job, current } = wanted;
        return Promise.all(job.sheets.filter(({ id }) => current && id !== current.id).map((sheet) => this.set(job, sheet)));
      }),
    ),
    { initialValue: [] as readonly ShownSheet[] },
  );

  constructor() {
    effect(() => this.instead.row.set(this.state.row() === 'off' ? [] : this.placed()));
  }

  ngOnDestroy(): void {
    this.instead.row.set([]);
  }

  /** Sheets that were set, with the pair rules they were set by: what did not change is not set again at every key. */
  private readonly known = new WeakMap<Sheet, { pairs: Job['pairs']; shown: Promise<ShownSheet> }>();

  private set(job: Job, raw: Sheet): Promise<ShownSheet> {
    const known = this.known.get(raw);
    if (known?.pairs === job.pairs) return known.shown;
    const shown = tryOutSheet(this.engine, resolveSheet(job, raw));
    this.known.set(raw, { pairs: job.pairs, shown });
    return shown;
  }

  private placed(): RowSheet[] {
    const [job, setting] = [this.job(), this.setting()];
    if (!job || !setting) return [];
    const current: ShownSheet = { sheet: setting.sheet, blocks: [...setting.blocks.values()] };
    const byId = new Map([...this.others(), current].map((shown) => [shown.sheet.id, shown]));
    const all = job.sheets.flatMap(({ id }) => byId.get(id) ?? []);
    const gap = GAP * Math.max(...all.map(({ sheet }) => sheet.widthPt));
    const at = all.findIndex((shown) => shown === current);
    const width = (from: number, to: number): number => all.slice(from, to).reduce((sum, { sheet }) => sum + sheet.widthPt + gap, 0);
    const level = this.levelOf(current);
    return all.flatMap((shown, i): RowSheet[] => {
      if (shown === current) return [];
      return [{ shown, xPt: i < at ? -width(i, at) : width(at, i), yPt: level - this.levelOf(shown) }];
    });
  }

  /** The level of a sheet beside the others: its top, or the baseline or capitals of the first line of its largest type. */
  private levelOf({ blocks }: ShownSheet): number {
    const row = this.state.row();
    const lines = blocks.flatMap(({ setting }) => straightLines(setting).slice(0, 1));
    const [lead] = [...lines].sort((a, b) => b.sizePt - a.sizePt);
    if (row === 'top' || row === 'off' || !lead) return 0;
    if (row === 'baseline') return lead.baselinePt;
    const style = lead.runs[0]?.style;
    const drawing = style && this.engine.drawing(instanceKey(style));
    return drawing ? lead.baselinePt - (style.sizePt * drawing.metrics.capHeight) / drawing.unitsPerEm : lead.baselinePt;
  }
}
