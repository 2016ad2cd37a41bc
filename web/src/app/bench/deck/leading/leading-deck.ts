import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, signal } from '@angular/core';
import { relead, withLineLeading, updateBlock } from '@jentrix/core/job';
import { ledByRules, movedOntoRules } from '@jentrix/core/placing';
import { type EvenBy, evenOut, evenedBy, straightLines, whiteBy } from '@jentrix/core/setting';
import { autoFactorOf, autoLeading, type Leading, UnitError, leadingPoints, printLeading } from '@jentrix/core/units';
import { typedLeading } from '@jentrix/core/units/typed';
import { EngineService } from '../../../engine/engine.service';
import { instanceKey } from '../../../engine/protocol';
import { Glyphs } from '../../../drawing/glyphs';
import { UserPreferences } from '../../../settings/user-preferences';
import { SizeDirective } from '../../../ui/size.directive';
import { type ValueChange, ValueField } from '../../../ui/value-field';
import { BenchStore } from '../../bench.store';
import { showValue } from '../../../ui/numbers';
import { FindingsList } from '../findings-list';

/** Where the drawing of the lines begins, in pixels from the left. */
const LEFT = 24;
const RIGHT = 190;

/** The Leading pass: the ladder of baselines and x-heights with the distance of every line gap. */
@Component({
  selector: 'jx-leading-deck',
  imports: [FindingsList, Glyphs, SizeDirective, ValueField],
  templateUrl: './leading-deck.html',
  styleUrl: './leading-deck.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LeadingDeck {
  protected readonly store = inject(BenchStore);
  private readonly engine = inject(EngineService);
  protected readonly preferences = inject(UserPreferences).preferences;
  private readonly setting = this.store.current.setting;
  private readonly view = this.store.current.view;
  protected readonly drawing = computed(() => this.view().drawing);
  protected readonly size = signal({ width: 600, height: 200 });
  protected readonly kinds: readonly { kind: Leading['kind']; label: string }[] = [
    { kind: 'pt', label: 'Points' },
    { kind: 'multiple', label: 'Multiple' },
    { kind: 'auto', label: 'Auto' },
  ];

  protected readonly block = this.store.current.block;
  private readonly sheet = this.store.current.sheet;
  protected readonly points = computed(() => {
    const block = this.block();
    return block ? leadingPoints(block.leading, block.style.sizePt) : 0;
  });
  /** Leading against size, in words. */
  protected readonly ratio = computed(() => {
    const size = this.block()?.style.sizePt ?? 1;
    const share = this.points() / size;
    return Math.abs(share - 1) < 0.0005 ? 'set solid' : `${showValue(share * 100, 1)} %`;
  });
  /** The field shows points, or percent for a multiple. */
  protected readonly percent = computed(() => this.block()?.leading.kind === 'multiple');
  protected readonly fieldValue = computed(() => (this.percent() ? (this.points() / (this.block()?.style.sizePt ?? 1)) * 100 : this.points()));
  protected readonly parse = (text: string): number => {
    const block = this.block();
    if (!block) throw new UnitError('Pick a block first.');
    const leading = typedLeading(text, block.leading.kind, this.preferences().autoLeadingFactor);
    const sameKind = leading.kind === block.leading.kind || (leading.kind === 'pt' && block.leading.kind === 'auto');
    if (!sameKind) {
      this.store.apply((job) => relead(job, block.id, leading));
      return this.fieldValue();
    }
    return leading.kind === 'multiple' ? leading.factor * 100 : leadingPoints(leading, block.style.sizePt);
  };

  /** The chosen measure of white between lines, for these words alone: other words are asked for what they are. */
  private readonly chosenBy = linkedSignal<string | undefined, EvenBy | undefined>({ source: () => this.view().blockId, computation: () => undefined });
  protected readonly by = computed(() => this.chosenBy() ?? evenedBy(this.gaps()));
  protected readonly waysToCompare: readonly { id: EvenBy; name: string; says: string }[] = [
    { id: 'flat', name: 'Flat edges', says: 'From baseline to cap line: for lines of capitals and figures' },
    { id: 'ink', name: 'Ink', says: 'By the mean space between inks: for lines with small letters' },
  ];
  protected readonly flatToo = computed(() => this.gaps().some(({ flatPt }) => flatPt !== undefined));

  protected compareBy(by: EvenBy): void {
    this.chosenBy.set(by);
  }

  /** The white between the lines of the block. */
  private readonly gaps = computed(() => this.setting()?.lineGaps ?? []);
  /** How uneven the white between the lines is: largest over smallest, in points. */
  protected readonly spread = computed(() => {
    const whites = this.gaps().map((gap) => whiteBy(gap, this.by()));
    return whites.length < 2 ? undefined : `${showValue(Math.min(...whites), 1)} – ${showValue(Math.max(...whites), 1)} pt`;
  });
  protected readonly own = computed(() => {
    const block = this.block();
    return this.gaps().map(({ at }, i) => ({ at, label: `${i + 1} → ${i + 2}`, byPt: block?.lineLeading.find((line) => line.at === at)?.byPt ?? 0 }));
  });

  protected readonly ladder = computed(() => {
    const gaps = this.gaps();
    const { block, setting } = this.setting()?.blocks.get(this.view().blockId ?? '') ?? {};
    const lines = setting ? straightLines(setting) : [];
    const { width, height } = this.size();
    const first = lines[0];
    const last = lines[lines.length - 1];
    if (!first || !last) return undefined;
    const top = first.baselinePt - first.sizePt * 0.8;
    const bottom = last.baselinePt + last.sizePt * 0.28;
    const left = Math.min(...lines.map((line) => line.leftPt));
    const right = Math.max(...lines.map((line) => line.leftPt + line.widthPt));
    const scale = Math.min((height - 12) / (bottom - top), (width - LEFT - RIGHT) / Math.max(1, right - left));
    const y = (pt: number): number => 6 + (pt - top) * scale;
    const rungs = lines.map((line, i) => {
      const style = line.runs[0]?.style ?? block?.style;
      const drawing = style && this.engine.drawing(instanceKey(style));
      const xHeight = drawing ? (drawing.metrics.xHeight / drawing.unitsPerEm) * line.sizePt : line.sizePt / 2;
      const above = lines[i - 1];
      return {
        line,
        baseline: y(line.baselinePt),
        xHeight: y(line.baselinePt - xHeight),
        distance: above && {
          y: (y(above.baselinePt) + y(line.baselinePt)) / 2 + 4,
          from: y(above.baselinePt),
          label: `${showValue(line.baselinePt - above.baselinePt)} pt`,
          ...clearance(gaps[i - 1]?.clearPt),
        },
      };
    });
    return { rungs, transform: `translate(${LEFT - left * scale} ${6 - top * scale}) scale(${scale})`, end: LEFT + (right - left) * scale };
  });

  protected setOwn(at: number, { value, gesture }: ValueChange): void {
    const block = this.block();
    if (block) this.store.apply((job) => withLineLeading(job, block.id, at, value), gesture);
  }

  /** Makes the white between all lines the same: one step. */
  protected even(): void {
    const block = this.block();
    const [gaps, by] = [this.gaps(), this.by()];
    if (block) this.store.apply((job) => updateBlock(job, block.id, (now) => ({ ...now, lineLeading: evenOut(now, gaps, by) })));
  }

  protected clearOwn(): void {
    const block = this.block();
    if (block) this.store.apply((job) => updateBlock(job, block.id, (now) => ({ ...now, lineLeading: [] })));
  }

  /** The two rules that were drawn last, the earlier first: what two baselines can meet. */
  protected readonly rules = computed(() => (this.sheet()?.guides.filter((guide) => guide.axis === 'rule') ?? []).slice(-2));

  /** Has the first two baselines run along the two rules: one step. */
  protected async meetRules(): Promise<void> {
    const block = this.block();
    const [first, second] = this.rules();
    const led = block && first && second && ledByRules(block, first, second);
    if (!led) return;
    const { settings } = await this.engine.tryOut([{ ...led, id: `${led.id}-on-rules` }]);
    const [setting] = settings;
    if (setting) this.store.apply((job) => updateBlock(job, led.id, (now) => (now === block ? movedOntoRules(led, setting, first, second) : now)));
  }

  protected choose(kind: Leading['kind']): void {
    const block = this.block();
    const { autoLeadingFactor } = this.preferences();
    if (!block) return;
    const now = block.leading;
    if (now.kind === kind && (now.kind !== 'auto' || autoFactorOf(now) === autoLeadingFactor)) return;
    const factor = Math.round((this.points() / block.style.sizePt) * 10000) / 10000;
    const leading: Leading =
      kind === 'auto' ? autoLeading(autoLeadingFactor) : kind === 'pt' ? { kind, pt: Math.round(this.points() * 100) / 100 } : { kind, factor };
    this.store.apply((job) => relead(job, block.id, leading));
  }

  protected set({ value, gesture }: ValueChange): void {
    const block = this.block();
    if (!block) return;
    const leading: Leading = this.percent() ? { kind: 'multiple', factor: value / 100 } : { kind: 'pt', pt: value };
    this.store.apply((job) => relead(job, block.id, leading), gesture);
  }

  protected readonly print = showValue;
  /** A note on automatic leading here. */
  protected readonly autoNote = computed(() => {
    const leading = this.block()?.leading;
    return leading?.kind === 'auto' ? `${showValue(autoFactorOf(leading) * 100, 1)} %` : undefined;
  });
  protected readonly printed = computed(() => printLeading(this.block()?.leading ?? { kind: 'auto' }));
}

/** The smallest clear distance between two lines, in words. */
function clearance(clearPt: number | undefined): { clear: string; touching: boolean } {
  if (clearPt === undefined) return { clear: '', touching: false };
  return clearPt > 0 ? { clear: `${showValue(clearPt, 1)} pt clear space`, touching: false } : { clear: 'lines touch', touching: true };
}
