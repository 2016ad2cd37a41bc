import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import type { Backup } from '@jentrix/core/api';
import { NgbActiveModal, NgbModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { firstValueFrom } from 'rxjs';
import { BackupsApi } from '../api/backups.api';
import { ask } from '../ui/ask-dialog';
import { DialogHead } from '../ui/dialog-head';
import { fileSize, pickedFile } from '../ui/files';
import { ToastService, messageOf } from '../ui/toasts';

/** Why a copy was made, as people read it. */
const REASONS: Readonly<Record<Backup['reason'], string>> = {
  daily: 'Daily',
  'before-upgrade': 'Before an upgrade',
  'before-restore': 'Before a restore',
  'by-hand': 'Manual',
};

/** Copies of all data: looked at, downloaded, and put in place of what there is. Closes once something was restored. */
@Component({
  selector: 'jx-restore-dialog',
  imports: [DatePipe, DialogHead],
  template: `
    <jx-dialog-head i18n="@@restoreDialog.restoreABackup" titleId="restore-title">Restore a backup</jx-dialog-head>
    <div class="modal-body">
      <p i18n="@@restoreDialog.aBackupReplacesAllJobs" class="quiet">
        A backup replaces all jobs, faces, pictures and recipes. Jentrix backs up the current data first.
      </p>
      @if (error(); as message) {
        <p role="alert">{{ message }}</p>
      } @else if (backups(); as backups) {
        <ul class="backups">
          @for (backup of backups; track backup.name) {
            <li>
              <span>{{ backup.createdAt | date: 'd MMM yyyy, HH:mm' }}</span>
              <span class="quiet">{{ reasons[backup.reason] }}, {{ size(backup.bytes) }}</span>
              <a i18n="@@restoreDialog.download" class="btn btn-link btn-sm" [href]="api.address(backup.name)" download>Download</a>
              <button i18n="@@restoreDialog.restore" type="button" class="btn btn-outline-dark btn-sm" [disabled]="busy()" (click)="restore(backup)">
                Restore
              </button>
            </li>
          } @empty {
            <li i18n="@@restoreDialog.noBackupsYetJentrixMakes" class="quiet">No backups yet. Jentrix makes one every day.</li>
          }
        </ul>
      } @else {
        <p i18n="@@restoreDialog.lookingForBackups" class="quiet" role="status">Looking for backups…</p>
      }
    </div>
    <div class="modal-footer">
      <label class="btn btn-outline-dark">
        <span i18n="@@restoreDialog.restoreFromAFile">Restore from a file</span>
        <input #file type="file" class="visually-hidden" accept=".sqlite" [disabled]="busy()" (change)="restoreFile(file)" />
      </label>
      <button i18n="@@restoreDialog.close" type="button" class="btn btn-dark" ngbAutofocus (click)="modal.dismiss()">Close</button>
    </div>
  `,
  styles: `
    .backups {
      list-style: none;
      margin: 0;
      padding: 0;
    }
    li {
      display: grid;
      grid-template-columns: 150px 1fr auto auto;
      align-items: center;
      gap: 10px;
      padding: 4px 0;
      border-bottom: 1px solid var(--jx-rule);
      font-variant-numeric: tabular-nums;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RestoreDialog {
  protected readonly modal = inject(NgbActiveModal);
  protected readonly api = inject(BackupsApi);
  private readonly modals = inject(NgbModal);
  private readonly toasts = inject(ToastService);
  protected readonly backups = signal<readonly Backup[] | undefined>(undefined);
  protected readonly error = signal<string | undefined>(undefined);
  protected readonly busy = signal(false);
  protected readonly reasons = REASONS;
  protected readonly size = fileSize;

  constructor() {
    void firstValueFrom(this.api.list()).then(
      (all) => this.backups.set(all),
      (error: unknown) => this.error.set(messageOf(error, 'The backups can’t be loaded.')),
    );
  }

  protected restore({ name, createdAt }: Backup): Promise<void> {
    const when = new Date(createdAt).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' });
    return this.put(`the backup of ${when}`, () => firstValueFrom(this.api.restore(name)));
  }

  protected restoreFile(input: HTMLInputElement): Promise<void> {
    const file = pickedFile(input);
    return file ? this.put(`“${file.name}”`, () => firstValueFrom(this.api.restoreFile(file))) : Promise.resolve();
  }

  private async put(what: string, restore: () => Promise<unknown>): Promise<void> {
    const question = { title: `Restore ${what}?`, lines: ['This replaces all data. Jentrix makes a backup first, so you can return to it.'], yes: 'Restore' };
    if ((await ask(this.modals, question)) === undefined) return;
    this.busy.set(true);
    const done = await this.toasts.trying(restore, 'Nothing was restored.');
    this.busy.set(false);
    if (!done) return;
    this.toasts.say(`Restored ${what}.`);
    this.modal.close();
  }
}
