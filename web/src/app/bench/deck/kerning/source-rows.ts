import { ChangeDetectionStrategy, Component, computed, inject, output, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { type Style, restyle } from '@jentrix/core/job';
import type { SetLine } from '@jentrix/core/setting';
import { filter, map, switchMap } from 'rxjs';
import { EngineService } from '../../../engine/engine.service';
import { Glyphs } from '../../../drawing/glyphs';
import { SizeDirective } from '../../../ui/size.directive';
import { BenchStore } from '../../bench.store';
import { lineOfView, loneLine } from '../line-of-view';

/** Where kerning can start from, in the words people read. */
export const SOURCE_CHOICES: readonly { id: Style['kerning']; name: string }[] = [
  { id: 'font', name: 'Font' },
  { id: 'weighed', name: 'Weighed' },
  { id: 'shape', name: 'By shape' },
  { id: 'off', name: 'None' },
];

interface SourceRow {
  id: Style['kerning'];
  name: string;
  line: SetLine;
  evenness: number | undefined;
}

/** The current line kerned from each source and not at all, one under the other; a click takes one. */
@Component({
  selector: 'jx-source-rows',
  imports: [Glyphs, SizeDirective],
  template: `
    <svg (jxSize)="size.set($event)" role="group" aria-label="The line with each kerning">
      @for (row of placed(); track row.id) {
        <svg:g class="source" [class.now]="row.id === kerning()" [attr.data-source]="row.id" (click)="take.emit(row.id)">
          <svg:rect x="0" [attr.y]="row.top" [attr.width]="size().width" [attr.height]="row.height" />
          <svg:text x="12" [attr.y]="row.baseline - 8">{{ row.name }}</svg:text>
          <svg:text class="small" x="12" [attr.y]="row.baseline + 8">{{ row.says }}</svg:text>
          <svg:g [attr.transform]="row.transform"><svg:g [jxGlyphs]="row.line" colour="var(--jx-ink)"></svg:g></svg:g>
          <svg:line [attr.x1]="row.end" [attr.x2]="row.end" [attr.y1]="row.baseline - 16" [attr.y2]="row.baseline + 4" />
        </svg:g>
      }
    </svg>
  `,
  styles: `
    :host {
      display: block;
      min-width: 0;
      min-height: 0;
      overflow: hidden;
    }
    svg {
      display: block;
      width: 100%;
      height: 100%;
    }
    .source {
      cursor: pointer;
    }
    rect {
      fill: transparent;
    }
    .source:hover rect {
      fill: color-mix(in srgb, var(--jx-ink) 5%, transparent);
    }
    .now rect {
      fill: rgb(75 63 158 / 8%);
    }
    text {
      fill: var(--jx-ink);
    }
    .small {
      fill: var(--jx-quiet);
      font-size: 11px;
    }
    .now text:first-of-type {
      font-weight: 600;
    }
    line {
      stroke: var(--jx-on-target);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SourceRows {
  private readonly store = inject(BenchStore);
  private readonly engine = inject(EngineService);
  readonly take = output<Style['kerning']>();
  protected readonly size = signal({ width: 600, height: 200 });
  protected readonly kerning = computed(() => this.store.current.block()?.style.kerning);

  private readonly rows = toSignal(
    this.store.setting$.pipe(
      map(() => lineOfView(this.store)),
      filter((current) => current !== undefined && current.line.visibleEnd > current.line.start),
      switchMap(async (current): Promise<SourceRow[]> => {
        if (!current) return [];
        const lone = loneLine(current.block, current.line, 'source');
        const blocks = SOURCE_CHOICES.map(({ id: kerning }) => ({
          ...lone,
          id: `source-${kerning}`,
          style: { ...lone.style, kerning },
          runs: lone.runs.map((run) => ({ ...run, style: { ...run.style, kerning } })),
        }));
        const { settings, inspections } = await this.engine.tryOut(blocks).catch(() => ({ settings: [], inspections: [] }));
        return SOURCE_CHOICES.flatMap(({ id, name }, i) => {
          const line = settings[i]?.lines[0];
          return line ? [{ id, name, line, evenness: inspections[i]?.evenness }] : [];
        });
      }),
    ),
    { initialValue: [] },
  );

  protected readonly placed = computed(() => {
    const { width, height } = this.size();
    const rows = this.rows();
    const widest = Math.max(1, ...rows.map(({ line }) => line.widthPt));
    const sizePt = Math.max(1, ...rows.map(({ line }) => line.sizePt));
    const rowHeight = height / Math.max(1, rows.length);
    const scale = Math.min((width - 110) / widest, (rowHeight - 6) / (sizePt * 1.05));
    return rows.map((row, i) => {
      const baseline = rowHeight * i + rowHeight / 2 + sizePt * scale * 0.34;
      return {
        ...row,
        top: rowHeight * i,
        height: rowHeight,
        baseline,
        says: row.evenness === undefined ? '' : `evenness ${row.evenness.toFixed(0)}`,
        end: 92 + row.line.widthPt * scale,
        transform: `translate(${92 - row.line.leftPt * scale} ${baseline - row.line.baselinePt * scale}) scale(${scale})`,
      };
    });
  });
}

/** Takes kerning from a source: of the picked letters, or of the whole block, its runs included. */
export function startFrom(store: BenchStore, kerning: Style['kerning']): void {
  const { block, range } = store;
  if (!block) return;
  const { length } = block.words;
  store.apply((job) => {
    if (range) return restyle(job, block.id, { kerning }, range);
    const next = restyle(job, block.id, { kerning });
    return length > 0 ? restyle(next, block.id, { kerning }, { start: 0, end: length }) : next;
  });
}
