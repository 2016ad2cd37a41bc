/** The dialogs of the bench, loaded when they are first wanted or when there is time. */
import type { Type } from '@angular/core';
import type { NgbModal, NgbModalOptions, NgbModalRef } from '@ng-bootstrap/ng-bootstrap/modal';

const DIALOGS = {
  keys: async () => (await import('./keys-dialog')).KeysDialog,
  brief: async () => (await import('./brief-dialog')).BriefDialog,
  conflict: async () => (await import('./conflict-dialog')).ConflictDialog,
  'hand over': async () => (await import('./hand-over-dialog')).HandOverDialog,
  sizes: async () => (await import('./sizes-dialog')).SizesDialog,
  preferences: async () => (await import('../../settings/preferences-dialog')).PreferencesDialog,
} satisfies Record<string, () => Promise<Type<unknown>>>;

export type DialogName = keyof typeof DIALOGS;

/** Opens a dialog. @throws where it can't be loaded: the server is away, and it was not there before. */
export async function openDialog(modal: NgbModal, name: DialogName, options: NgbModalOptions): Promise<NgbModalRef> {
  return modal.open(await DIALOGS[name](), options);
}

/** Said where a dialog can't be loaded. */
export const AWAY = 'That can’t be opened: the server can’t be reached.';

/** Has all dialogs at hand, so that they open without the server too. */
export const preloadDialogs = (): Promise<unknown> => Promise.allSettled(Object.values(DIALOGS).map((load) => load()));
