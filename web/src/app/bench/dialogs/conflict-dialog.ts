import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type { Job } from '@jentrix/core/job';
import { NgbActiveModal } from '@ng-bootstrap/ng-bootstrap/modal';
import type { SaveState } from '../save.service';

/** Two versions of one job: tells how they differ and lets the designer choose. Closes with `mine`, `theirs` or `both`. */
@Component({
  selector: 'jx-conflict-dialog',
  imports: [DatePipe],
  template: `
    <div class="modal-header">
      <h2 class="modal-title fs-5" id="conflict-title">
        @if (theirs()) {
          This job was changed elsewhere
        } @else {
          This job was taken off the shelf
        }
      </h2>
    </div>
    <div class="modal-body">
      @if (theirs(); as theirs) {
        <p>
          Another window or person saved it at {{ theirs.updatedAt | date: 'HH:mm:ss' }} while you were editing. Both versions are safe; choose which goes on.
        </p>
        <ul>
          @for (difference of differences(); track $index) {
            <li>{{ difference }}</li>
          }
        </ul>
      } @else {
        <p>Someone moved it to the trash while you were editing. Your version is kept in this browser.</p>
      }
    </div>
    <div class="modal-footer">
      <button type="button" class="btn btn-outline-dark" (click)="modal.close('both')">Keep mine as a job of its own</button>
      @if (theirs()) {
        <button type="button" class="btn btn-outline-dark" (click)="modal.close('theirs')">Take theirs</button>
      }
      <button type="button" class="btn btn-dark" (click)="modal.close('mine')">{{ theirs() ? 'Keep mine' : 'Put it back with my edits' }}</button>
    </div>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ConflictDialog {
  protected readonly modal = inject(NgbActiveModal);
  readonly state = signal<SaveState | undefined>(undefined);
  readonly mine = signal<Job | undefined>(undefined);

  protected readonly theirs = computed(() => {
    const state = this.state();
    return state?.kind === 'conflict' ? state.theirs : undefined;
  });
  protected readonly differences = computed(() => {
    const mine = this.mine();
    const theirs = this.theirs()?.job;
    return mine && theirs ? describeDifferences(mine, theirs) : [];
  });
}

/** Says which blocks differ between two versions, by their first words. */
export function describeDifferences(mine: Job, theirs: Job): string[] {
  const said: string[] = [];
  if (mine.title !== theirs.title) said.push(`The title: mine “${mine.title}”, theirs “${theirs.title}”.`);
  const blocks = (job: Job) => new Map(job.sheets.flatMap((sheet) => sheet.blocks.map((block) => [block.id, block] as const)));
  const own = blocks(mine);
  const other = blocks(theirs);
  const name = (words: string): string => `“${words.split('\n')[0]?.slice(0, 40) ?? ''}”`;
  for (const [id, block] of own) {
    const counterpart = other.get(id);
    if (!counterpart) said.push(`Only in mine: ${name(block.words)}.`);
    else if (JSON.stringify(block) !== JSON.stringify(counterpart)) {
      said.push(
        block.words === counterpart.words
          ? `Set differently: ${name(block.words)}.`
          : `Words differ: mine ${name(block.words)}, theirs ${name(counterpart.words)}.`,
      );
    }
  }
  for (const [id, block] of other) if (!own.has(id)) said.push(`Only in theirs: ${name(block.words)}.`);
  return said.length > 0 ? said : ['They differ in sheets or order only.'];
}
