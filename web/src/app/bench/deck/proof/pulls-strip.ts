import { DatePipe, DecimalPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, effect, inject, untracked } from '@angular/core';
import { Router } from '@angular/router';
import type { Pull } from '@jentrix/core/api';
import { NgbDropdownModule } from '@ng-bootstrap/ng-bootstrap/dropdown';
import { pullsAddress } from '../../../api/api.service';
import { CommitField } from '../../../ui/commit-field.directive';
import { MenuFocus } from '../../../ui/menu-focus.directive';
import { ToastService } from '../../../ui/toasts';
import { BenchStore } from '../../bench.store';
import { SaveService } from '../../save.service';
import { HandOver } from '../../state/hand-over';
import { Pulls } from '../../state/pulls';
import { ProofState } from './proof.state';
import { pullName } from './pull-name';

/** Kept states of the job as a strip: one is chosen to compare with. */
@Component({
  selector: 'jx-pulls-strip',
  imports: [CommitField, DatePipe, DecimalPipe, MenuFocus, NgbDropdownModule],
  template: `
    @for (pull of pulls(); track pull.id) {
      <div class="pull" [class.chosen]="state.fromId() === pull.id" [class.later]="state.toId() === pull.id" data-testid="pull">
        <button type="button" class="pick" [attr.aria-pressed]="state.fromId() === pull.id" (click)="state.compareWith(pull.id)">
          <img [src]="picture(pull)" alt="" loading="lazy" />
          <span class="name">{{ nameOf(pull) }}</span>
          <span class="quiet">{{ pull.createdAt | date: 'd MMM, HH:mm' }}</span>
          @if (pull.findings !== null) {
            <span i18n="@@pullsStrip.evenFindings" class="quiet">
              {{ pull.evenness === null ? '–' : (pull.evenness | number: '1.0-0') }} even, {{ pull.findings }} findings
            </span>
          } @else {
            <span i18n="@@pullsStrip.measuring" class="quiet">Measuring …</span>
          }
        </button>
        <div ngbDropdown container="body" class="more">
          <button type="button" class="btn btn-link btn-sm" ngbDropdownToggle [attr.aria-label]="'More about ' + nameOf(pull)">…</button>
          <div ngbDropdownMenu class="menu">
            <div class="px-3 py-1">
              <input
                i18n-placeholder="@@pullsStrip.name"
                i18n-aria-label="@@pullsStrip.nameOfThePull"
                class="form-control form-control-sm"
                maxlength="80"
                placeholder="Name"
                aria-label="Name of the pull"
                [jxCommit]="pull.name"
                (committed)="store.rename(pull.id, $event)"
              />
            </div>
            <button i18n="@@pullsStrip.restore" type="button" ngbDropdownItem (click)="restore(pull)">Restore</button>
            <button
              type="button"
              ngbDropdownItem
              [disabled]="state.fromId() === pull.id"
              (click)="state.toId.set(state.toId() === pull.id ? undefined : pull.id)"
            >
              {{ state.toId() === pull.id ? 'Compare with the current state' : 'Compare with this pull' }}
            </button>
            <button i18n="@@pullsStrip.openAsNewJob" type="button" ngbDropdownItem (click)="open(pull)">Open as new job</button>
            <div class="dropdown-divider"></div>
            <button i18n="@@pullsStrip.delete" type="button" ngbDropdownItem (click)="store.delete(pull, nameOf(pull))">Delete</button>
          </div>
        </div>
      </div>
    } @empty {
      @if (pulls()) {
        <p class="quiet">
          No pulls yet. Keep one with
          <kbd>*</kbd>
          . Jentrix keeps one before a first cut, a face change, a brief or Fix all.
        </p>
      } @else {
        <p class="quiet">
          Loading pulls …
          <button i18n="@@pullsStrip.tryAgain" type="button" class="btn btn-link btn-sm" (click)="store.load()">Try again</button>
        </p>
      }
    }
    @if (pulls()?.length) {
      <button
        i18n="@@pullsStrip.jobFileWithPulls"
        i18n-title="@@pullsStrip.theJobAndItsPulls"
        type="button"
        class="btn btn-link btn-sm"
        title="The job and its pulls in one file; opens on any shelf"
        (click)="handOver.make('file?pulls=true')"
      >
        Job file with pulls
      </button>
    }
  `,
  styles: `
    :host {
      display: block;
      overflow-y: auto;
      padding: 6px 8px;
      border-right: 1px solid var(--jx-rule);
    }
    .pull {
      position: relative;
      margin-bottom: 4px;
      border: 1px solid transparent;
      border-radius: 3px;
    }
    .pull:hover {
      border-color: var(--jx-rule);
    }
    .pick {
      display: grid;
      grid-template-columns: 46px minmax(0, 1fr);
      column-gap: 8px;
      width: 100%;
      padding: 4px 26px 4px 4px;
      border: 0;
      background: transparent;
      color: inherit;
      text-align: left;
      font-size: 12px;
      line-height: 1.35;
    }
    img {
      grid-row: 1 / span 3;
      width: 46px;
      height: 50px;
      object-fit: contain;
      background: var(--jx-table);
    }
    .name {
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
      font-size: 13px;
    }
    .chosen {
      border-color: var(--jx-tight);
      background: var(--jx-sheet);
    }
    .later {
      border-color: var(--jx-open);
    }
    .more {
      position: absolute;
      top: 0;
      right: 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PullsStrip {
  protected readonly store = inject(Pulls);
  protected readonly handOver = inject(HandOver);
  protected readonly state = inject(ProofState);
  private readonly bench = inject(BenchStore);
  private readonly save = inject(SaveService);
  private readonly toasts = inject(ToastService);
  private readonly router = inject(Router);
  protected readonly pulls = this.store.pulls;

  constructor() {
    // Another job has others.
    effect(() => {
      if (this.pulls() === undefined) untracked(() => void this.store.load());
    });
  }

  protected readonly nameOf = pullName;

  protected picture({ id }: Pull): string {
    return `${pullsAddress(this.save.jobId, id)}/thumbnail.png`;
  }

  protected async restore(pull: Pull): Promise<void> {
    await this.toasts.trying(async () => {
      const job = await this.store.job(pull.id);
      this.bench.apply(() => job);
      this.toasts.say(`Restored “${this.nameOf(pull)}”.`, { label: 'Undo', run: () => this.bench.undo() });
    }, 'The pull can’t be loaded right now.');
  }

  protected async open(pull: Pull): Promise<void> {
    const made = await this.store.openAsJob(pull.id);
    if (made !== undefined) await this.router.navigate(['/jobs', made]);
  }
}
