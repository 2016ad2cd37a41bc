import { Injectable, inject, signal } from '@angular/core';
import { firstValueFrom } from 'rxjs';
import { ApiService } from '../../api/api.service';
import { fileSize, save } from '../../ui/files';
import { ToastService } from '../../ui/toasts';
import { SaveService } from '../save.service';

/** Files made of the job by the server, into the browser's downloads. */
@Injectable()
export class HandOver {
  private readonly api = inject(ApiService);
  private readonly save = inject(SaveService);
  private readonly toasts = inject(ToastService);
  private readonly count = signal(0);
  /** How many files are being made. */
  readonly making = this.count.asReadonly();

  /** Hands over what is on the table: everything is saved first, so that the file and the screen are the same. @param path of what is made, below the job. */
  async make(path: string): Promise<void> {
    if (!(await this.save.flush())) {
      this.toasts.fail('The server doesn’t have your last edits yet, so nothing was handed over. Try again when it says “Saved”.');
      return;
    }
    this.count.update((n) => n + 1);
    await this.toasts.trying(async () => {
      const { name, bytes } = await firstValueFrom(this.api.madeFile(this.save.jobId, path));
      save(bytes, name);
      this.toasts.say(`Made “${name}”, ${fileSize(bytes.size)}: it is with your browser’s downloads.`);
    }, 'The file was not made.');
    this.count.update((n) => n - 1);
  }
}
