import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { type Change, compareJobs, revertChanges, onLines } from '@jentrix/core/compare';
import { EngineService } from '../../../engine/engine.service';
import { inLanguage } from '../../../ui/numbers';
import { BenchStore } from '../../bench.store';
import { Comparison } from './comparison';
import { ProofState } from './proof.state';

/** The differences of one sheet, or of the job as a whole. */
interface Group {
  name: string;
  changes: Change[];
}

/** Everything that differs between two states, in the words of the trade: each can be shown, and reverted alone. */
@Component({
  selector: 'jx-changes-list',
  template: `
    @if (comparison.from()) {
      <header>
        <b data-testid="changes">{{ changes().length }} {{ changes().length === 1 ? 'change' : 'changes' }}</b>
        @if (givable() && changes().length > 0) {
          <button i18n="@@changesList.revertAll" type="button" class="btn btn-link btn-sm" (click)="back(changes())">Revert all</button>
        }
      </header>
      @for (group of groups(); track group.name) {
        <h2 class="quiet">{{ group.name }}</h2>
        @for (change of group.changes; track change.id) {
          <div class="change" data-testid="change">
            <button i18n-title="@@changesList.showItOnTheSheet" type="button" class="row" title="Show it on the sheet" (click)="show(change)">
              <span>{{ said(change) }}</span>
              @if (change.words) {
                <span class="quiet words">{{ change.words }}</span>
              }
            </button>
            @if (givable()) {
              <button
                i18n="@@changesList.revert"
                type="button"
                class="btn btn-link btn-sm"
                [attr.aria-label]="'Revert: ' + change.says"
                (click)="back([change])"
              >
                Revert
              </button>
            }
          </div>
        }
      } @empty {
        <p i18n="@@changesList.noDifferences" class="quiet">No differences.</p>
      }
    } @else {
      <p i18n="@@changesList.chooseAPullOnThe" class="quiet">Choose a pull on the left. Changes since then are listed here; revert any of them.</p>
    }
  `,
  styles: `
    :host {
      display: block;
      overflow-y: auto;
      padding: 6px 14px;
    }
    header {
      display: flex;
      justify-content: space-between;
      align-items: baseline;
    }
    h2 {
      margin: 6px 0 2px;
      font-size: 12px;
      font-weight: 400;
    }
    .change {
      display: flex;
      align-items: baseline;
      border-bottom: 1px dotted var(--jx-rule);
    }
    .change .btn {
      flex: none;
      opacity: 0.75;
    }
    .change:hover .btn,
    .change .btn:focus-visible {
      opacity: 1;
    }
    .row {
      display: flex;
      flex: 1;
      gap: 12px;
      justify-content: space-between;
      min-width: 0;
      padding: 3px 0;
      border: 0;
      background: transparent;
      color: inherit;
      text-align: left;
    }
    .words {
      overflow: hidden;
      flex: 0 0 36%;
      text-overflow: ellipsis;
      white-space: nowrap;
      font-size: 12px;
      text-align: right;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ChangesList {
  protected readonly comparison = inject(Comparison);
  private readonly state = inject(ProofState);
  private readonly store = inject(BenchStore);
  private readonly engine = inject(EngineService);
  private readonly setting = this.store.current.setting;
  private readonly faces = this.engine.list;

  private readonly told = computed((): Change[] => {
    const [from, to] = [this.comparison.from(), this.comparison.to()];
    const { items } = this.faces();
    const names = (id: string): string => {
      const face = items.find((one) => one.id === id);
      return face ? `${face.family} ${face.style}` : id;
    };
    return from && to ? compareJobs(from, to, { names }) : [];
  });
  protected readonly changes = computed((): Change[] => {
    const now = this.givable() ? this.setting() : undefined;
    return now ? onLines(this.told(), (blockId) => now.blocks.get(blockId)?.setting.lines) : this.told();
  });
  protected readonly groups = computed((): Group[] => {
    const groups = new Map<string, Change[]>();
    for (const change of this.changes()) {
      const name = change.sheet ?? 'The job';
      groups.set(name, [...(groups.get(name) ?? []), change]);
    }
    return [...groups].map(([name, changes]) => ({ name, changes }));
  });
  /** The later state is the job itself, so that something can be reverted. */
  protected readonly givable = computed(() => this.state.toId() === undefined);

  protected readonly said = ({ says }: Change): string => inLanguage(says.charAt(0).toUpperCase() + says.slice(1));

  protected show({ sheetId, blockId, at }: Change): void {
    if (blockId !== undefined) this.store.goTo({ blockId, at: at ?? 0 });
    else if (sheetId !== undefined) this.store.showSheet(sheetId);
  }

  protected back(changes: readonly Change[]): void {
    const from = this.comparison.from();
    if (!from) return;
    this.store.apply((job) =>
      revertChanges(
        from,
        job,
        changes.map(({ id }) => id),
      ),
    );
  }
}
