/** A file that was brought to the shelf: what of its kind one expects. Loaded when the first comes. */
import type { Injector } from '@angular/core';
import { openJobFile } from '@jentrix/core/formats';
import { type Job, JobFormatError } from '@jentrix/core/job';
import { firstValueFrom } from 'rxjs';
import { ApiService } from '../api/api.service';
import { UserPreferences } from '../settings/user-preferences';
import { ToastService } from '../ui/toasts';
import { type FileKind, kindOf, unsupported } from './kinds';
import { onPicture } from './on-picture';
import { sayTaken, takeFont } from './take-font';

interface Shelf {
  injector: Injector;
  /** Puts a job there. @param fresh where it begins with its words. */
  shelve(job: Job, options: { fresh?: boolean; kept?: unknown }): Promise<void>;
  /** Goes to a job that is there. */
  go(id: string): Promise<unknown>;
}

const KINDS: Readonly<Record<FileKind, (file: File, shelf: Shelf) => Promise<void>>> = {
  job: async (file, { shelve }) => {
    const { job, kept } = openJobFile(await file.text());
    await shelve(job, { kept });
  },
  package: putFileOnShelf,
  svg: putFileOnShelf,
  words: putFileOnShelf,
  font: async (file, { injector }) => {
    const kept = await takeFont(file, injector);
    if (kept.length > 0) injector.get(ToastService).say(sayTaken(kept));
  },
  picture: async (file, { injector, shelve }) => {
    const picture = await firstValueFrom(injector.get(ApiService).keepPicture(file));
    await shelve(onPicture(picture, file.name, injector.get(UserPreferences).current), { fresh: true });
  },
};

async function putFileOnShelf(file: File, { injector, go }: Shelf): Promise<void> {
  const { id, notes } = await firstValueFrom(injector.get(ApiService).takeFile(file));
  for (const note of notes.slice(0, 3)) injector.get(ToastService).say(note);
  await go(id);
}

/** Takes a file in; one that can't be read is refused with its reason and changes nothing. */
export async function putOnShelf(file: File, shelf: Shelf): Promise<void> {
  const toasts = shelf.injector.get(ToastService);
  const kind = kindOf(file);
  if (kind === undefined) toasts.fail(unsupported(file));
  else
    await toasts.trying(async () => {
      try {
        await KINDS[kind](file, shelf);
      } catch (error) {
        if (!(error instanceof JobFormatError)) throw error;
        toasts.fail(`“${file.name}” was not opened. ${error.message}`);
      }
    }, `“${file.name}” was not opened.`);
}
