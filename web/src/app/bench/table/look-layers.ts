import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { Block } from '@jentrix/core/job';
import { type BlockSetting, type SetLine, setLettersOf, straightLines } from '@jentrix/core/setting';
import { EngineService } from '../../engine/engine.service';
import { type GapRef, instanceKey } from '../../engine/protocol';
import { letterBoxOf } from './line-place';

/** A block as the table shows it. */
interface Shown {
  block: Block;
  setting: BlockSetting;
  turn: string | null;
}

/** The white between letters, as what is left of the height of the lines' capitals. */
@Component({
  selector: 'g[jxWhite]',
  template: `
    @for (band of bands(); track band.id) {
      <svg:g class="bands" [attr.transform]="band.turn">
        @for (line of band.lines; track $index) {
          <svg:rect [attr.x]="line.x" [attr.y]="line.y" [attr.width]="line.width" [attr.height]="line.height" />
        }
      </svg:g>
    }
  `,
  styles: `
    .bands {
      fill: #1f2528;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class WhiteBands {
  readonly blocks = input.required<readonly Shown[]>({ alias: 'jxWhite' });
  private readonly engine = inject(EngineService);

  protected readonly bands = computed(() =>
    this.blocks().map(({ setting, turn, block }) => ({
      turn,
      id: block.id,
      lines: straightLines(setting).map((line) => {
        const height = this.capitalsOf(line);
        return { x: line.leftPt, y: line.baselinePt - height, width: line.widthPt, height };
      }),
    })),
  );

  private capitalsOf({ runs }: SetLine): number {
    return runs.reduce((most, { style }) => {
      const { metrics, unitsPerEm } = this.engine.drawing(instanceKey(style)) ?? { metrics: { capHeight: 0 }, unitsPerEm: 1 };
      return Math.max(most, (style.sizePt * metrics.capHeight) / unitsPerEm);
    }, 0);
  }
}

/** All but three letters beside the gap caret is covered. */
@Component({
  selector: 'g[jxThree]',
  template: `
    @if (mask(); as mask) {
      <svg:path class="mask" fill-rule="evenodd" data-testid="three-letters" [attr.transform]="mask.turn" [attr.d]="mask.data" />
    }
  `,
  styles: `
    .mask {
      fill: var(--jx-table);
      fill-opacity: 0.97;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ThreeLetters {
  readonly blocks = input.required<readonly Shown[]>({ alias: 'jxThree' });
  readonly gap = input.required<GapRef | undefined>();
  /** The longer side of the sheet, in points. */
  readonly side = input.required<number>();

  protected readonly mask = computed(() => {
    const gap = this.gap();
    const shown = this.blocks().find(({ block }) => block.id === gap?.blockId);
    const line = gap && shown?.setting.lines.find(({ start, visibleEnd }) => gap.at > start && gap.at < visibleEnd);
    if (!line || !shown) return undefined;
    const letters = setLettersOf(line).filter(({ start, end }) => shown.block.words.slice(start, end).trim() !== '');
    const index = letters.findIndex(({ start }) => start >= gap.at);
    const near = letters.slice(Math.max(0, index - 1), index + 2);
    const [left, right] = [Math.min(...near.map(({ leftPt }) => leftPt)), Math.max(...near.map(({ rightPt }) => rightPt))];
    const { y, height } = letterBoxOf(line);
    const far = 4 * this.side();
    return { turn: shown.turn, data: `M${-far} ${-far}H${far}V${far}H${-far}ZM${left} ${y}V${y + height}H${right}V${y}Z` };
  });
}
