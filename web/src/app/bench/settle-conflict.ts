/** Two people changed the same: loaded when that happens. */
import type { Injector } from '@angular/core';
import { Router } from '@angular/router';
import { NgbModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { ToastService, messageOf } from '../ui/toasts';
import { BenchStore } from './bench.store';
import type { ConflictDialog } from './dialogs/conflict-dialog';
import { openDialog } from './dialogs/dialogs';
import { SaveService } from './save.service';
import { Pulls } from './state/pulls';

/** The message for a failed choice. */
const FAILED = 'That failed. Your version is kept in this browser.';

/** Shows both versions and carries out what is chosen, after both were kept as pulls. Asks again where nothing came of it, or somebody was quicker once more. */
export async function settleConflict(injector: Injector): Promise<void> {
  try {
    while (!(await settledConflict(injector)));
  } catch (error) {
    injector.get(ToastService).fail(messageOf(error, FAILED));
  }
}

/** @returns false where it is to be asked again */
async function settledConflict(injector: Injector): Promise<boolean> {
  const [save, store, toasts, pulls] = [injector.get(SaveService), injector.get(BenchStore), injector.get(ToastService), injector.get(Pulls)];
  const dialog = await openDialog(injector.get(NgbModal), 'conflict', { backdrop: 'static', keyboard: false, ariaLabelledBy: 'conflict-title' });
  const component = dialog.componentInstance as ConflictDialog;
  const { state, mine } = save;
  component.state.set(state);
  component.mine.set(mine);
  // Whatever is chosen, neither is lost.
  const keep = (): Promise<boolean> => (state.kind === 'conflict' && mine ? pulls.keepBoth(mine, state.theirs.job) : Promise.resolve(true));
  const kept = keep();
  void kept.then((done) => component.kept.set(done));
  const choice = (await dialog.result) as 'mine' | 'theirs' | 'both';
  if (!(await kept) && !(await keep())) {
    toasts.fail('The pulls could not be kept, so nothing was chosen. Your version is in this browser.');
    return false;
  }
  if (choice === 'mine') await save.keepMine();
  if (choice === 'theirs') {
    const edit = await save.takeTheirs();
    if (edit) store.apply(edit);
    toasts.say('Kept their version. Undo restores yours.', { label: 'Undo', run: () => store.undo() });
  }
  if (choice === 'both') {
    const title = `${mine?.title ?? ''} (mine)`;
    const made = await save.keepBoth(title);
    if (made) await injector.get(Router).navigate(['/jobs', made]);
    toasts.say(`Saved yours as a new job: “${title}”.`);
  }
  return choice === 'both' || save.state.kind !== 'conflict';
}
