import { ChangeDetectionStrategy, Component, type OnDestroy, computed, inject } from '@angular/core';
import { takeUntilDestroyed, toObservable, toSignal } from '@angular/core/rxjs-interop';
import { capitalised } from '@jentrix/core/compare';
import { type Proposal, acceptFinding } from '@jentrix/core/findings';
import { type Block, type Job, findBlock, resolveBlock } from '@jentrix/core/job';
import { type BlockSetting, type SetLine, ragOf, straightLines } from '@jentrix/core/setting';
import { combineLatest, debounceTime, map, skip, switchMap } from 'rxjs';
import { EngineService } from '../../../engine/engine.service';
import { Glyphs } from '../../../drawing/glyphs';
import { showValue } from '../../../ui/numbers';
import { BenchStore } from '../../bench.store';
import { Instead } from '../../state/instead';
import { FitState } from './fit.state';

/** A way the block's lines could end. */
interface Way {
  says: string;
  proposal: Proposal;
}

/** It set and drawn. */
interface BreaksPicture extends Way {
  /** The block it was set from: it is a way of these words only. */
  of: Block;
  /** The block as it would be. */
  tried: { block: Block; setting: BlockSetting };
  lines: readonly SetLine[];
  box: string;
  rag: string;
  now: boolean;
  /** Identifies what it looks like: of ways that come to the same, one is shown. */
  key: string;
}

/** Ways to break that may be worth a look, besides what takes up short last lines. */
function waysOf(block: Block): Way[] {
  const way = (says: string, breaking: Block['breaking'], more: Partial<Pick<Block, 'justify'>> = {}): Way => ({
    says,
    proposal: { settings: { breaking, ...more } },
  });
  if (block.align === 'justified') {
    return [
      way('Fill', { way: 'greedy', shape: 'even' }),
      way('Even spaces', { way: 'total', shape: 'even' }),
      way('Letters adjust too', { way: 'total', shape: 'even' }, { justify: { ...block.justify, lettersMilliem: 20, width: 0.02 } }),
    ];
  }
  return [
    way('Fill', { way: 'greedy', shape: 'even' }),
    way('Balanced', { way: 'even', shape: 'even' }),
    way('Widening', { way: 'even', shape: 'widening' }),
    way('Narrowing', { way: 'even', shape: 'narrowing' }),
  ];
}

/** The ways to break the block's lines as small pictures, each with its rag and what it costs; one click takes one. */
@Component({
  selector: 'jx-breaks-pictures',
  imports: [Glyphs],
  template: `
    @for (picture of pictures(); track picture.key) {
      <button
        type="button"
        class="way"
        [attr.aria-pressed]="picture.now"
        [disabled]="locked()"
        (click)="take(picture)"
        (pointerenter)="tryOn(picture)"
        (focus)="tryOn(picture)"
        (pointerleave)="instead.end()"
        (blur)="instead.end()"
      >
        <svg [attr.viewBox]="picture.box" aria-hidden="true" preserveAspectRatio="xMinYMid meet">
          @for (line of picture.lines; track $index) {
            <svg:g [jxGlyphs]="line" colour="var(--jx-ink)"></svg:g>
          }
        </svg>
        <span class="says">{{ picture.says }}</span>
        <span class="quiet">{{ picture.rag }}</span>
      </button>
    } @empty {
      <p i18n="@@breaksPictures.theseLineBreaksAreManual" class="quiet">These line breaks are manual.</p>
    }
  `,
  styles: `
    :host {
      display: flex;
      flex-wrap: wrap;
      align-content: flex-start;
      gap: 10px;
      padding: 10px 14px;
      min-width: 0;
      overflow-y: auto;
    }
    .way {
      display: flex;
      flex-direction: column;
      width: 168px;
      padding: 6px 8px;
      text-align: left;
      background: var(--jx-sheet);
      border: 1px solid var(--jx-rule);
      border-radius: 3px;
    }
    .way:hover {
      border-color: var(--jx-accent);
    }
    .way[aria-pressed='true'] {
      outline: 2px solid var(--jx-accent);
    }
    svg {
      width: 100%;
      height: 84px;
    }
    .says {
      font-size: 12px;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .quiet {
      font-size: 12px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BreaksPictures implements OnDestroy {
  protected readonly instead = inject(Instead);
  private readonly store = inject(BenchStore);
  private readonly engine = inject(EngineService);
  private readonly state = inject(FitState);
  protected readonly locked = computed(() => this.store.current.block()?.locked ?? true);

  protected readonly pictures = toSignal(
    combineLatest([this.store.setting$, this.store.view$, toObservable(this.state.shortLastLines)]).pipe(
      map(([, , shortLastLines]) => ({ block: this.store.block, job: this.store.job, sheetId: this.store.view.sheetId, shortLastLines })),
      debounceTime(60),
      switchMap(async ({ block, job, sheetId, shortLastLines }): Promise<BreaksPicture[]> => {
        if (!block || !job) return [];
        const fixes = shortLastLines.flatMap((one) => one.fixes.map((fix): Way => ({ says: capitalised(fix.says), proposal: fix.proposal })));
        // What takes a short last line up is looked at first, beside how it is now.
        const [first, ...others] = waysOf(block);
        const ways = [...(first ? [first] : []), ...fixes, ...others];
        const tried = ways.map(({ proposal }, i) => resolvedAs(job, sheetId, block, proposal, i));
        const { settings } = await this.engine.tryOut(tried).catch(() => ({ settings: [] as BlockSetting[] }));
        const now = this.store.sheetSetting?.blocks.get(block.id)?.setting;
        const nowKey = now && keyOf(now);
        const seen = new Set<string>();
        return settings.flatMap((setting, i): BreaksPicture[] => {
          const [one, asBlock] = [ways[i], tried[i]];
          const key = keyOf(setting);
          if (!one || !asBlock || seen.has(key)) return [];
          seen.add(key);
          return [
            {
              ...one,
              of: block,
              tried: { block: { ...asBlock, id: block.id }, setting },
              key,
              lines: straightLines(setting),
              box: boxOf(setting),
              rag: sayRag(asBlock, setting),
              now: key === nowKey,
            },
          ];
        });
      }),
    ),
    { initialValue: [] },
  );

  constructor() {
    this.store.job$.pipe(skip(1), takeUntilDestroyed()).subscribe(() => this.instead.end());
  }

  ngOnDestroy(): void {
    this.instead.end();
  }

  /** Shows the sheet with the block broken so. */
  protected tryOn({ tried, of }: BreaksPicture): void {
    const { sheetSetting, block } = this.store;
    if (!sheetSetting || block !== of) return;
    this.instead.showWith(sheetSetting, tried);
  }

  protected take({ proposal, of }: BreaksPicture): void {
    this.instead.end();
    const { block } = this.store;
    if (block && block === of) this.store.apply((job) => acceptFinding(job, { blockId: block.id, proposal }));
  }
}

/** A block with a proposal carried out, as it would be set, under a name of its own. */
function resolvedAs(job: Job, sheetId: string, block: Block, proposal: Proposal, index: number): Block {
  const next = acceptFinding(job, { blockId: block.id, proposal });
  return { ...resolveBlock(next, sheetId, findBlock(next, block.id) ?? block), id: `way-${index}` };
}

/** The visible ends and fullness of lines. */
const keyOf = (setting: BlockSetting): string =>
  straightLines(setting)
    .map(({ start, visibleEnd, widthPt, sizePt }) => [start, visibleEnd, widthPt.toFixed(2), sizePt].join(' '))
    .join('|');

function boxOf({ frame, ...setting }: BlockSetting): string {
  const lines = straightLines(setting);
  const [first, last] = [lines[0], lines[lines.length - 1]];
  const left = Math.min(frame.xPt, ...lines.map(({ leftPt }) => leftPt));
  const right = Math.max(frame.xPt + frame.widthPt, ...lines.map(({ leftPt, widthPt }) => leftPt + widthPt));
  const top = (first?.baselinePt ?? 0) - (first?.sizePt ?? 0);
  const bottom = (last?.baselinePt ?? 0) + (last?.sizePt ?? 0) * 0.3;
  return [left, top, right - left, Math.max(1, bottom - top)].join(' ');
}

/** Its lines, and how uneven they or their spaces are. */
function sayRag(block: Block, setting: BlockSetting): string {
  const { lines, spread, widest, narrowest } = ragOf(block, setting);
  const count = `${lines} ${lines === 1 ? 'line' : 'lines'}`;
  if (block.align === 'justified') return `${count}, spaces ${showValue(narrowest * 100, 0)}–${showValue(widest * 100, 0)} %`;
  return `${count}, rag ${showValue(spread * 100, 0)} %`;
}
