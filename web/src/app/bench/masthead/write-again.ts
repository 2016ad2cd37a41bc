import type { Injector } from '@angular/core';
import { firstValueFrom } from 'rxjs';
import { BackupsApi } from '../../api/backups.api';
import { ToastService } from '../../ui/toasts';
import { SaveService } from '../save.service';

/** Has the server write its database again where the file is gone, and sends what waits. @throws ApiError */
export async function writeAgain(injector: Injector): Promise<void> {
  await firstValueFrom(injector.get(BackupsApi).writeAgain());
  await injector.get(SaveService).flush();
  injector.get(ToastService).say('Saving works again. No saved work was lost.');
}
