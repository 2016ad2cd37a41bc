import type { Injector } from '@angular/core';
import type { FaceEntry } from '@jentrix/core/api';
import { NgbModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { firstValueFrom } from 'rxjs';
import { ApiError, ApiService } from '../api/api.service';
import { EngineService } from '../engine/engine.service';
import { CollectionDialog } from './collection-dialog';

/** Takes a font file into the type case; of a collection the fonts that are chosen. @returns what is there now. @throws ApiError */
export async function takeFont(file: File, injector: Injector): Promise<FaceEntry[]> {
  const [api, engine] = [injector.get(ApiService), injector.get(EngineService)];
  const kept: FaceEntry[] = [];
  try {
    kept.push(await firstValueFrom(api.uploadFace(file)));
  } catch (error) {
    if (!(error instanceof ApiError) || error.kind !== 'collection') throw error;
    const dialog = injector.get(NgbModal).open(CollectionDialog, { ariaLabelledBy: 'collection-title', scrollable: true });
    const component = dialog.componentInstance as CollectionDialog;
    component.name.set(file.name);
    component.fonts.set(error.fonts);
    const chosen = await (dialog.result as Promise<readonly number[]>).catch(() => []);
    // What is in by then stays, also where a later one is refused.
    for (const font of chosen) kept.push(await firstValueFrom(api.uploadFace(file, font)).finally(() => engine.refreshFaces()));
  }
  if (kept.length > 0) await engine.refreshFaces();
  return kept;
}

/** The message for fonts that came. */
export const sayTaken = ([first, ...more]: readonly FaceEntry[]): string =>
  !first
    ? ''
    : more.length === 0
      ? `${first.family} ${first.style} is in your type case.`
      : `${more.length + 1} faces of ${first.family} are in your type case.`;
