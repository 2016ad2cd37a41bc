import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { drawLine, fadedMarks } from '@jentrix/core/drawing';
import { type Edges, HANG_KINDS, type HangKind, USUAL_EDGES, updateBlock, withBlockSettings, withLineIndent } from '@jentrix/core/job';
import { type SetLine, straightLines } from '@jentrix/core/setting';
import { fromPoints, parseLength } from '@jentrix/core/units';
import { Drawing } from '../../../drawing/drawing';
import { showSigned, showValue } from '../../../ui/numbers';
import { PercentField } from '../../../ui/percent-field';
import { SizeDirective } from '../../../ui/size.directive';
import { type ValueChange, ValueField } from '../../../ui/value-field';
import { BenchStore } from '../../bench.store';
import { FadedMarks } from '../../state/faded-marks';
import { CentreLine } from '../centre-line';
import { FindingsList } from '../findings-list';

const KINDS: Readonly<Record<HangKind, string>> = {
  quotes: 'Quotes',
  points: 'Points',
  dashes: 'Dashes',
  bullets: 'Bullets',
  numbers: 'List numbers',
};
/** The least height of a row, in pixels: letters have to be large enough to judge. */
const LEAST_ROW = 34;
/** How far a picture reaches outside the edge, as a share of its width. */
const OUTSIDE = 0.3;

/** The Edges pass: both edges of every line enlarged with the true edge through, what hangs, and every line's offset. */
@Component({
  selector: 'jx-edges-deck',
  imports: [CentreLine, Drawing, FindingsList, PercentField, SizeDirective, ValueField],
  templateUrl: './edges-deck.html',
  styleUrl: './edges-deck.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class EdgesDeck {
  protected readonly store = inject(BenchStore);
  protected readonly marks = inject(FadedMarks);
  private readonly setting = this.store.current.setting;
  private readonly view = this.store.current.view;
  protected readonly size = signal({ width: 500, height: 200 });
  protected readonly kinds = HANG_KINDS;
  protected readonly nameOf = (kind: HangKind): string => KINDS[kind];

  protected readonly block = this.store.current.block;
  private readonly sheet = this.store.current.sheet;
  protected readonly unit = computed(() => this.sheet()?.unit ?? 'pt');
  protected readonly edges = computed(() => this.block()?.edges ?? null);

  private readonly shown = computed(() => this.setting()?.blocks.get(this.view().blockId ?? ''));
  private readonly lines = computed((): readonly SetLine[] => {
    const shown = this.shown();
    return shown ? straightLines(shown.setting) : [];
  });

  /** The height of a row, and of all of them: more lines than find room are scrolled. */
  protected readonly rowHeight = computed(() => Math.max(LEAST_ROW, Math.min(90, this.size().height / Math.max(1, this.lines().length))));

  /** Every line drawn at both edges, or at the middle where lines are centred. */
  protected readonly pictures = computed(() => {
    const shown = this.shown();
    const lines = this.lines();
    if (!shown || lines.length === 0) return [];
    const { block, setting } = shown;
    const faded = this.marks.faded();
    const { xPt, widthPt } = setting.frame;
    const centred = block.align === 'centre';
    const largest = Math.max(...lines.map(({ sizePt }) => sizePt));
    const scale = (this.rowHeight() * 0.86) / largest;
    const places = centred
      ? [{ name: 'middle', at: xPt + widthPt / 2 }]
      : [
          { name: 'Left edge', at: xPt },
          { name: 'Right edge', at: xPt + widthPt },
        ];
    const width = this.size().width / places.length - 16;
    return places.map(({ name, at }, p) => {
      const edge = centred ? width / 2 : p === 0 ? width * OUTSIDE : width * (1 - OUTSIDE);
      // A centred line has to be seen whole.
      const widest = Math.max(1, ...lines.map((line) => line.widthPt));
      const k = centred ? Math.min(scale, (width - 24) / widest) : scale;
      return {
        name,
        edge,
        width,
        rows: lines.map((line, i) => {
          const nodes = drawLine(line, { words: block.words, frame: setting.frame, colour: 'var(--jx-ink)' });
          const baseline = this.rowHeight() * i + this.rowHeight() * 0.78;
          return {
            nodes: faded ? fadedMarks(nodes) : nodes,
            baseline,
            transform: `translate(${edge - at * k} ${baseline - line.baselinePt * k}) scale(${k})`,
          };
        }),
      };
    });
  });

  /** Every line with how far it stands from where side bearings alone would have it, and what of that is by hand. */
  protected readonly offsets = computed(() => {
    const block = this.block();
    return this.lines().map((line) => ({
      at: line.start,
      words: (block?.words ?? '').slice(line.start, line.visibleEnd).slice(0, 14),
      offset: showSigned(fromPoints(line.offsetPt ?? 0, this.unit())),
      byPt: block?.lineIndents.find(({ at }) => at === line.start)?.byPt ?? 0,
    }));
  });
  protected readonly anyByHand = computed(() => (this.block()?.lineIndents.length ?? 0) > 0);

  protected set(edges: Edges | null, gesture?: string): void {
    const block = this.block();
    if (block && !block.locked) this.store.apply((job) => withBlockSettings(job, block.id, { edges }), gesture);
  }

  protected byEye(): void {
    this.set(this.edges() ? null : USUAL_EDGES);
  }

  protected hang(kind: HangKind, { value, gesture }: ValueChange): void {
    const edges = this.edges();
    if (edges) this.set({ ...edges, hang: { ...edges.hang, [kind]: value } }, gesture);
  }

  protected strength({ value, gesture }: ValueChange): void {
    const edges = this.edges();
    if (edges) this.set({ ...edges, optical: value }, gesture);
  }

  protected indent(at: number, { value, gesture }: ValueChange): void {
    const block = this.block();
    if (block && !block.locked) this.store.apply((job) => withLineIndent(job, block.id, at, value), gesture);
  }

  protected reset(): void {
    const block = this.block();
    if (block && !block.locked) this.store.apply((job) => updateBlock(job, block.id, (now) => ({ ...now, lineIndents: [] })));
  }

  protected readonly inUnit = (pt: number): string => showValue(fromPoints(pt, this.unit()));
  protected readonly parseUnit = (text: string): number => parseLength(text, this.unit());
}
