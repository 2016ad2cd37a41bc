import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { applyBrief, readBrief, writeBrief } from '@jentrix/core/job';
import { NgbActiveModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { EngineService } from '../../engine/engine.service';
import type { BenchStore } from '../bench.store';
import { UserPreferences } from '../../settings/user-preferences';
import { DialogHead } from '../../ui/dialog-head';

/** A written brief beside the blocks of the sheet: what conforms, what does not, and one press that makes it so. */
@Component({
  selector: 'jx-brief-dialog',
  imports: [DialogHead],
  template: `
    <jx-dialog-head i18n="@@briefDialog.briefForThisSheet" titleId="brief-title">Brief for this sheet</jx-dialog-head>
    <div class="modal-body">
      <p i18n="@@briefDialog.oneLinePerBlockIn" class="quiet">
        One line per block, in order, such as “Source Sans Semibold 34/36 +15 centre caps”. An empty line leaves its block as it is.
      </p>
      <textarea
        i18n-aria-label="@@briefDialog.brief"
        #text
        ngbAutofocus
        class="form-control"
        rows="6"
        spellcheck="false"
        aria-label="Brief"
        [value]="brief()"
        (input)="brief.set(text.value)"
      ></textarea>
      <ul>
        @for (line of lines(); track $index) {
          <li [class.wrong]="line.error" [class.conforms]="line.text.trim() && !line.error && line.differences.length === 0">
            <b>{{ wordsOf(line.blockId) }}</b>
            @if (line.error) {
              <span>{{ line.error }}</span>
            } @else if (!line.blockId && line.text.trim()) {
              <span i18n="@@briefDialog.noBlockForThisLine">no block for this line</span>
            } @else if (line.differences.length > 0) {
              <span>
                @for (difference of line.differences; track difference.what) {
                  <span i18n="@@briefDialog.briefSays" class="difference">{{ difference.what }}: {{ difference.has }}, brief says {{ difference.wanted }}</span>
                }
              </span>
            } @else if (line.text.trim()) {
              <span i18n="@@briefDialog.matchesTheBrief">Matches the brief</span>
            }
          </li>
        }
      </ul>
    </div>
    <div class="modal-footer">
      <button i18n="@@briefDialog.writeBriefFromSheet" type="button" class="btn btn-link me-auto" (click)="write()">Write brief from sheet</button>
      <button i18n="@@briefDialog.close" type="button" class="btn btn-link" (click)="modal.close()">Close</button>
      <button i18n="@@briefDialog.applyBrief" type="button" class="btn btn-dark" [disabled]="!differs()" (click)="apply()">Apply brief</button>
    </div>
  `,
  styles: `
    ul {
      list-style: none;
      margin: 10px 0 0;
      padding: 0;
    }
    li {
      display: grid;
      grid-template-columns: 180px 1fr;
      gap: 12px;
      border-bottom: 1px dotted var(--jx-rule);
      padding: 4px 0;
    }
    b {
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .difference {
      display: block;
    }
    .wrong span {
      color: var(--jx-tight);
    }
    .conforms span {
      color: var(--jx-open);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BriefDialog {
  protected readonly modal = inject(NgbActiveModal);
  private readonly faces = inject(EngineService).list;
  private readonly preferences = inject(UserPreferences);
  readonly store = signal<BenchStore | undefined>(undefined);
  protected readonly brief = signal('');
  private readonly changes = signal(0);
  private readonly blocks = computed(() => {
    this.changes();
    return this.store()?.sheet?.blocks ?? [];
  });
  protected readonly lines = computed(() =>
    this.brief().trim() ? readBrief(this.brief(), this.blocks(), this.faces().items, this.preferences.current.autoLeadingFactor) : [],
  );
  protected readonly differs = computed(() => this.lines().some(({ differences }) => differences.length > 0));

  protected wordsOf(blockId: string | undefined): string {
    return (
      this.blocks()
        .find(({ id }) => id === blockId)
        ?.words.replaceAll('\n', ' ') ?? '–'
    );
  }

  protected write(): void {
    this.brief.set(writeBrief(this.blocks(), this.faces().items));
  }

  protected apply(): void {
    const lines = this.lines();
    this.store()?.beforeMuch('brief');
    this.store()?.apply((job) => applyBrief(job, lines));
    this.changes.update((count) => count + 1);
  }
}
