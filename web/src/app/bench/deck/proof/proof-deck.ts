import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { NgbDropdownModule } from '@ng-bootstrap/ng-bootstrap/dropdown';
import { MenuFocus } from '../../../ui/menu-focus.directive';
import { BenchStore } from '../../bench.store';
import { HandOver } from '../../state/hand-over';
import { Looks } from '../../state/looks';
import { BESIDE_MODES } from '../../state/instead';
import { ChangesList } from './changes-list';
import { Comparison } from './comparison';
import { LooksPanel } from './looks-panel';
import { MeasuresChart } from './measures-chart';
import { OpenList } from './open-list';
import { PROOF_TABS, ProofState } from './proof.state';
import { PullsStrip } from './pulls-strip';
import { OpenWalk } from './open-walk';
import { ReadingCaret } from './reading-caret';
import { Matching } from './matching';
import { PictureReader } from './picture-reader';
import { ReferencePanel } from './reference-panel';
import { Rows } from './rows';
import { Screen } from './screen';
import { WholeJobs } from './whole-job';
import { ChoiceName } from '../../../ui/choice-name.pipe';

/** The wall: kept pulls and what has changed since, ways of looking, and what is still open. */
@Component({
  selector: 'jx-proof-deck',
  providers: [WholeJobs, Comparison, OpenWalk, ReadingCaret, Screen, Rows, PictureReader, Matching],
  imports: [ChoiceName, ChangesList, LooksPanel, MeasuresChart, MenuFocus, NgbDropdownModule, OpenList, PullsStrip, ReferencePanel],
  template: `
    <div class="deck-head">
      <div class="choice" role="group" aria-label="Proof panel">
        @for (name of tabs; track name) {
          <button type="button" [attr.aria-pressed]="state.tab() === name" (click)="state.tab.set(name)">
            {{ name | choiceName }}
            @if (name === 'findings' && count(); as n) {
              <span class="count">{{ n }}</span>
            }
          </button>
        }
      </div>
      @if (state.tab() === 'compare') {
        <div class="choice" role="group" aria-label="Compare view">
          @for (side of sides; track side.id) {
            <button
              type="button"
              [attr.aria-pressed]="state.side() === side.id"
              [disabled]="!comparison.from()"
              [title]="side.says"
              (click)="state.side.set(side.id)"
            >
              {{ side.name }}
            </button>
          }
        </div>
      }
      @if (looks.on().size > 0) {
        <button type="button" class="btn btn-link btn-sm" (click)="looks.clear()">
          Plain view
          <kbd>8</kbd>
        </button>
      }
      <span class="hints quiet">
        @if (state.tab() === 'findings') {
          <span>
            <kbd>\\</kbd>
            <kbd>N</kbd>
            Next finding
          </span>
        } @else {
          <span>
            <kbd>Space</kbd>
            Hold: swap in the pull
          </span>
        }
      </span>
      <div class="acts">
        @if (several()) {
          <div ngbDropdown container="body">
            <button type="button" class="btn btn-link btn-sm" ngbDropdownToggle [disabled]="handOver.making() > 0" [title]="onPages">{{ sending() }}</button>
            <div ngbDropdownMenu>
              <button type="button" ngbDropdownItem (click)="send()">This sheet</button>
              <button type="button" ngbDropdownItem (click)="sendAll()">All sheets, ZIP</button>
            </div>
          </div>
        } @else {
          <button type="button" class="btn btn-link btn-sm" [disabled]="handOver.making() > 0" [title]="onPages" (click)="send()">{{ sending() }}</button>
        }
        <button type="button" class="btn btn-outline-dark btn-sm keep" (click)="state.keep()">
          Keep a pull
          <kbd>*</kbd>
        </button>
      </div>
    </div>
    @switch (state.tab()) {
      @case ('compare') {
        <div class="deck-body compared">
          <jx-pulls-strip />
          <jx-changes-list />
          <jx-measures-chart />
        </div>
      }
      @case ('reference') {
        <jx-reference-panel class="deck-body" />
      }
      @case ('view') {
        <jx-looks-panel class="deck-body" />
      }
      @case ('findings') {
        <jx-open-list class="deck-body" />
      }
    }
  `,
  styles: `
    :host {
      display: contents;
    }
    .compared {
      --columns: 250px minmax(0, 1fr) 330px;
    }
    .acts {
      display: flex;
      flex: none;
      align-items: center;
      gap: 8px;
    }
    /* The masthead keeps one too. */
    @media (max-width: 1180px) {
      .keep {
        display: none;
      }
    }
    .count {
      margin-left: 4px;
      color: var(--jx-tight);
      font-weight: 600;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ProofDeck {
  protected readonly state = inject(ProofState);
  protected readonly comparison = inject(Comparison);
  protected readonly looks = inject(Looks);
  protected readonly tabs = PROOF_TABS;
  protected readonly sides = [
    { id: 'place' as const, name: 'Swap', says: 'Hold Space to see the pull in place' },
    ...BESIDE_MODES.map((id) => ({ id, name: NAMES[id].name, says: NAMES[id].says })),
  ];
  protected readonly handOver = inject(HandOver);
  private readonly store = inject(BenchStore);
  private readonly walk = inject(OpenWalk);
  private readonly reading = inject(ReadingCaret);
  /** At work from here on. */
  protected readonly rows = inject(Rows);

  constructor() {
    this.state.asked$.pipe(takeUntilDestroyed()).subscribe((command) => {
      if (command === 'hold') this.comparison.hold();
      else if (command === 'read') this.reading.toggle();
      else this.walk.step(command === 'next' ? 1 : -1);
    });
  }

  protected readonly onPages = 'A page with the sheet, the pull, the changes and the findings';
  protected readonly sending = computed(() => (this.handOver.making() > 0 ? 'Making …' : 'Proof sheet'));

  /** A proof of this sheet, beside the pull that is compared with. */
  protected send(): Promise<boolean> {
    return this.handOver.make(`sheets/${encodeURIComponent(this.store.view.sheetId)}/proof.png${this.beside()}`);
  }

  protected sendAll(): Promise<boolean> {
    return this.handOver.make(`proofs.zip${this.beside()}`);
  }

  private beside(): string {
    const pull = this.state.fromId();
    return pull === undefined ? '' : `?pull=${encodeURIComponent(pull)}`;
  }

  private readonly job = this.store.current.job;
  protected readonly several = computed(() => (this.job()?.sheets.length ?? 0) > 1);
  protected readonly count = computed(() => this.comparison.open()?.findings.length);
}

const NAMES = {
  beside: { name: 'Side by side', says: 'Both next to each other, at the same place and size' },
  wipe: { name: 'Wipe', says: 'Drag the edge; the pull is right of it' },
  over: { name: 'Overlay', says: 'Both on top of each other in two colours' },
};
