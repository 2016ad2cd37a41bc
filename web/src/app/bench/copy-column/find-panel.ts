import { ChangeDetectionStrategy, Component, type ElementRef, afterNextRender, computed, inject, output, signal, viewChild } from '@angular/core';
import { sheetOf } from '@jentrix/core/job';
import { type TextMatch, findText, replaceMatches } from '@jentrix/core/wording';
import { BenchStore } from '../bench.store';
import { PlaceService } from '../state/place';

/** Finds words over the whole job and replaces them; the spacing work around them stays. */
@Component({
  selector: 'jx-find-panel',
  template: `
    <form (submit)="$event.preventDefault(); next(1)">
      <input
        i18n-aria-label="@@findPanel.find"
        i18n-placeholder="@@findPanel.findInThisJob"
        #text
        class="form-control form-control-sm"
        aria-label="Find"
        placeholder="Find in this job"
        [value]="query()"
        (input)="look(text.value)"
        (keydown.escape)="$event.preventDefault(); close()"
      />
      <span class="quiet" role="status">{{ said() }}</span>
      <input
        i18n-aria-label="@@findPanel.replaceWith"
        i18n-placeholder="@@findPanel.replaceWith"
        #insert
        class="form-control form-control-sm"
        aria-label="Replace with"
        placeholder="Replace with"
        [value]="replacement()"
        (input)="replacement.set(insert.value)"
        (keydown.escape)="$event.preventDefault(); close()"
      />
      <div class="buttons">
        <label>
          <input type="checkbox" [checked]="matchCase()" (change)="matchCase.set(!matchCase())" />
          Match case
        </label>
        <button i18n="@@findPanel.next" type="submit" class="btn btn-link btn-sm" [disabled]="matches().length === 0">Next</button>
        <button i18n="@@findPanel.replace" type="button" class="btn btn-link btn-sm" [disabled]="matches().length === 0" (click)="replace(false)">
          Replace
        </button>
        <button i18n="@@findPanel.all" type="button" class="btn btn-link btn-sm" [disabled]="matches().length === 0" (click)="replace(true)">All</button>
        <button i18n="@@findPanel.close" type="button" class="btn btn-link btn-sm" (click)="close()">Close</button>
      </div>
    </form>
  `,
  styles: `
    :host {
      display: block;
      padding: 10px 12px;
      border-bottom: 1px solid var(--jx-rule);
      background: var(--jx-ground);
    }
    form {
      display: grid;
      gap: 4px;
    }
    .buttons {
      display: flex;
      gap: 10px;
      align-items: center;
      font-size: 12px;
    }
    .btn-sm {
      padding: 0;
      font-size: 12px;
    }
    label {
      margin-right: auto;
      display: inline-flex;
      gap: 4px;
    }
    .quiet {
      font-size: 12px;
      min-height: 16px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FindPanel {
  private readonly store = inject(BenchStore);
  private readonly job = this.store.current.job;
  private readonly field = viewChild.required<ElementRef<HTMLInputElement>>('text');
  private readonly place = inject(PlaceService);
  private readonly from = document.activeElement;
  readonly closed = output();
  protected readonly query = signal('');
  protected readonly replacement = signal('');
  protected readonly matchCase = signal(false);
  private readonly index = signal(-1);
  protected readonly matches = computed(() => {
    const job = this.job();
    return job ? findText(job, this.query(), this.matchCase()) : [];
  });
  protected readonly said = computed(() => {
    if (this.query() === '') return '';
    const count = this.matches().length;
    if (count === 0) return 'No matches';
    return this.index() >= 0 ? `${Math.min(this.index() + 1, count)} of ${count}` : `${count} found`;
  });

  constructor() {
    afterNextRender(() => {
      const { range, block } = this.store;
      if (range && block) this.query.set(block.words.slice(range.start, range.end));
      this.field().nativeElement.focus();
    });
  }

  /** The focus goes back to where finding was asked for. */
  protected close(): void {
    this.closed.emit();
    const from = this.from;
    if (from instanceof HTMLElement && from.isConnected && from !== document.body) from.focus();
    else this.place.focusBench();
  }

  protected look(text: string): void {
    this.query.set(text);
    this.index.set(-1);
  }

  protected next(step: 1): void {
    const matches = this.matches();
    if (matches.length === 0) return;
    this.index.set((this.index() + step) % matches.length);
    this.show(matches[this.index()]);
  }

  protected replace(all: boolean): void {
    const matches = this.matches();
    const one = matches[Math.max(0, this.index())];
    const insert = this.replacement();
    this.store.apply((job) => replaceMatches(job, all || !one ? matches : [one], insert));
    if (!all) this.show(this.matches()[Math.max(0, this.index())]);
  }

  private show(match: TextMatch | undefined): void {
    const job = this.store.job;
    if (!match || !job) return;
    const sheet = sheetOf(job, match.blockId);
    if (sheet) this.store.showSheet(sheet.id);
    this.store.selectBlock(match.blockId);
    this.store.setSelection(match.blockId, { start: match.start, end: match.end }, false);
  }
}
