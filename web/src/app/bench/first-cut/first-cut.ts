import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import type { CutItem, CutStepReport, CutMeasure } from '@jentrix/core/refine';
import { showValue } from '../../ui/numbers';
import { BenchStore } from '../bench.store';
import { FirstCutState } from './first-cut.state';

/** The changes of the first cut, pass by pass, each to keep or revert. */
@Component({
  selector: 'jx-first-cut',
  templateUrl: './first-cut.html',
  styleUrl: './first-cut.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FirstCutPanel {
  protected readonly store = inject(BenchStore);
  protected readonly state = inject(FirstCutState);
  protected readonly cut = this.state.cut;
  protected readonly all = computed(() => this.cut()?.steps.flatMap(({ items }) => items) ?? []);
  protected readonly kept = computed(() => this.all().filter(({ kept }) => kept).length);
  private readonly sheets = computed(() => new Set(this.all().map(({ sheet }) => sheet)).size);

  protected evenness({ evenness }: CutMeasure): string {
    return evenness === undefined ? '–' : showValue(evenness, 0);
  }

  /** A change of a block, in words. */
  protected change({ to, from, places }: CutItem): string {
    return to === '' ? `${places} ${places === 1 ? 'place' : 'places'}` : `${from} → ${to}`;
  }

  /** Which block: its first words, with the sheet where the job has more than one. */
  protected where({ words, sheet }: CutItem): string {
    return this.sheets() > 1 ? `${words} · ${sheet}` : words;
  }

  protected ids = ({ items }: CutStepReport): string[] => items.map(({ id }) => id);
  protected keptIn = ({ items }: CutStepReport): number => items.filter(({ kept }) => kept).length;

  protected show({ blockId }: CutItem): void {
    const sheet = this.store.job?.sheets.find(({ blocks }) => blocks.some(({ id }) => id === blockId));
    if (sheet) this.store.showSheet(sheet.id);
    this.store.selectBlock(blockId);
  }

  protected giveBack(): void {
    void this.state.give(
      this.all().map(({ id }) => id),
      false,
    );
  }
}
