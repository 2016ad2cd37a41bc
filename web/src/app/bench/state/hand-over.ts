import { Injectable, computed, inject, signal } from '@angular/core';
import { type Observable, Subject, defaultIfEmpty, firstValueFrom, takeUntil } from 'rxjs';
import { ApiService, type MadeFile } from '../../api/api.service';
import { fileSize, save } from '../../ui/files';
import { ToastService } from '../../ui/toasts';
import { SaveService } from '../save.service';

const BEHIND = 'Nothing was handed over: your last edits are not saved yet. Try again when it says “Saved”.';

/** Files made of the job by the server, into the browser's downloads. */
@Injectable()
export class HandOver {
  private readonly api = inject(ApiService);
  private readonly save = inject(SaveService);
  private readonly toasts = inject(ToastService);
  private readonly count = signal(0);
  private readonly bytes = signal(0);
  private readonly cancelled$ = new Subject<void>();
  /** How many files are being made. */
  readonly making = this.count.asReadonly();
  /** How much of them has arrived; undefined while nothing has. */
  readonly arrived = computed(() => (this.bytes() > 0 ? fileSize(this.bytes()) : undefined));

  /**
   * Hands over what is on the table: everything is saved first, so that the file and the screen are the same.
   * @param path of what is made, below the job. @returns whether it was made
   */
  async make(path: string): Promise<boolean> {
    if (!(await this.save.flush())) {
      this.toasts.fail(BEHIND);
      return false;
    }
    this.count.update((n) => n + 1);
    let made = false;
    await this.toasts.trying(async () => {
      const file = await firstValueFrom(this.fetched(path).pipe(takeUntil(this.cancelled$), defaultIfEmpty(undefined)));
      if (!file) return;
      save(file.bytes, file.name);
      this.toasts.say(`Made “${file.name}”, ${fileSize(file.bytes.size)}. It is in your downloads.`);
      made = true;
    }, 'The file could not be made.');
    this.count.update((n) => n - 1);
    this.bytes.set(0);
    return made;
  }

  private fetched(path: string): Observable<MadeFile> {
    return this.api.madeFile(this.save.jobId, path, (bytes) => this.bytes.set(bytes));
  }

  /** Fetches a preview. */
  look(path: string): Observable<MadeFile> {
    return this.api.madeFile(this.save.jobId, path);
  }

  /** Has the server know the last edits. @returns whether it does */
  upToDate(): Promise<boolean> {
    return this.save.flush();
  }

  /** Gives up what is being made. */
  cancel(): void {
    this.cancelled$.next();
  }
}
