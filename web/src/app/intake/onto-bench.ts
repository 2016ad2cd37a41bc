/** Files that are dropped on the bench or pasted there: each does what one would expect of its kind. Loaded when the first comes. */
import type { Injector } from '@angular/core';
import { Router } from '@angular/router';
import {
  type Block,
  type Job,
  JobFormatError,
  LIMITS,
  type Sheet,
  addSheet,
  allBlocks,
  bringBlocks,
  changeFace,
  pictureOn,
  restyle,
  withSheet,
} from '@jentrix/core/job';
import { pastePassage } from '@jentrix/core/wording';
import { startPosition } from '@jentrix/core/face';
import type { Point } from '@jentrix/core/placing';
import { firstValueFrom } from 'rxjs';
import { ApiService } from '../api/api.service';
import { type FileKind, isSvgText, kindOf, unsupported } from './kinds';
import { sayTaken, takeFont } from './take-font';
import { AllRecipes } from '../settings/all-recipes';
import { ToastService } from '../ui/toasts';
import { passageFrom } from './paste-rich';

/** The job that is open, as far as imports need it. */
export interface OpenJob {
  readonly job: Job | undefined;
  readonly sheet: Sheet | undefined;
  readonly block: Block | undefined;
  apply(edit: (job: Job) => Job): void;
  showSheet(id: string): void;
  selectBlock(id: string): void;
  undo(): void;
}

/** The input of an import. */
interface Brought {
  file: File;
  /** Where it was dropped on the sheet; undefined elsewhere, and for what was pasted. */
  at: Point | undefined;
  sheet: Sheet;
  store: OpenJob;
  api: ApiService;
  toasts: ToastService;
  injector: Injector;
}

/** A file on the shelf, and a way to it. */
const onTheShelf =
  (put: (brought: Brought) => Promise<{ id: string }>) =>
  async (brought: Brought): Promise<void> => {
    const { id } = await put(brought);
    const open = (): unknown => brought.injector.get(Router).navigate(['/jobs', id]);
    brought.toasts.say(`“${brought.file.name}” is a job on the shelf.`, { label: 'Open it', run: open });
  };

/** Its words as blocks: on this sheet, or as a sheet of its own where it has one. */
async function takeWords({ file, at, sheet, store, api, toasts, injector }: Brought, asSheet: boolean): Promise<void> {
  const { job, notes } = await firstValueFrom(api.readFile(file, sheet));
  const [read] = job.sheets;
  const { job: own } = store;
  if (!read || !own) return;
  if (read.blocks.length === 0 && read.background.kind === 'picture') {
    const { pictureId } = read.background;
    store.apply((now) => withSheet(now, sheet.id, { background: pictureOn(sheet.background, pictureId) }));
    return;
  }
  if (
    sheet.blocks.length + read.blocks.length > LIMITS.blocks ||
    allBlocks(own).length + read.blocks.length > LIMITS.allBlocks ||
    own.sheets.length >= LIMITS.sheets
  )
    throw new JobFormatError('This job can’t hold that many more blocks.');
  const added = asSheet ? { ...read, id: crypto.randomUUID(), name: file.name.replace(/\.[^.]+$/, '').slice(0, 200) } : undefined;
  store.apply((now) => (added ? addSheet(now, added, sheet.id) : bringBlocks(now, sheet.id, read.blocks, at?.yPt)));
  if (added) store.showSheet(added.id);
  else if (read.blocks[0]) store.selectBlock(read.blocks[0].id);
  void injector
    .get(AllRecipes)
    .refresh()
    .catch(() => undefined);
  const what = added ? 'is a sheet of this job' : read.blocks.length === 1 ? 'is a block on this sheet' : `is ${read.blocks.length} blocks on this sheet`;
  toasts.say([`“${file.name}” ${what}.`, ...notes.slice(0, 2)].join(' '), { label: 'Undo', run: () => store.undo() });
}

const KINDS: Readonly<Record<FileKind, (brought: Brought) => Promise<void>>> = {
  job: onTheShelf(async ({ file, api }) => {
    const { openJobFile } = await import('@jentrix/core/formats');
    const { job, kept } = openJobFile(await file.text());
    return firstValueFrom(api.createJob(job, kept));
  }),
  package: onTheShelf(({ file, api }) => firstValueFrom(api.takeFile(file))),
  font: async ({ file, store, toasts, injector }) => {
    const kept = await takeFont(file, injector);
    const [face] = kept;
    const { block } = store;
    if (!face) return;
    const set = (): void =>
      block && store.apply((job) => restyle(changeFace(job, block.id, face.id), block.id, { axes: startPosition(face.axes, block.style.sizePt) }));
    toasts.say(sayTaken(kept), block && !block.locked ? { label: 'Set the block in it', run: set } : undefined);
  },
  picture: async ({ file, sheet, store, api, toasts }) => {
    const { id } = await firstValueFrom(api.keepPicture(file));
    store.apply((job) => withSheet(job, sheet.id, { background: pictureOn(sheet.background, id) }));
    toasts.say(`“${file.name}” is now the background of this sheet.`, { label: 'Undo', run: () => store.undo() });
  },
  svg: (brought) => takeWords(brought, true),
  words: (brought) => takeWords(brought, false),
};

/** @param at where they were dropped on the sheet. */
export async function bringIn(files: readonly File[], at: Point | undefined, store: OpenJob, injector: Injector): Promise<void> {
  const [api, toasts] = [injector.get(ApiService), injector.get(ToastService)];
  for (const file of files) {
    const { sheet } = store;
    const kind = kindOf(file);
    if (!sheet) return;
    if (!kind) toasts.fail(unsupported(file));
    else await toasts.trying(() => KINDS[kind]({ file, at, sheet, store, api, toasts, injector }), `“${file.name}” was not imported.`);
  }
}

/** A paste outside of fields. */
export interface Pasted {
  files: readonly File[];
  html: string;
  text: string;
}

/** @param add makes a block of words, and changes it in the same step. */
export async function paste(
  { files, html, text }: Pasted,
  add: (words: string, change: (job: Job, id: string) => Job) => void,
  store: OpenJob,
  injector: Injector,
): Promise<void> {
  const svg = files.length === 0 && isSvgText(text) ? [new File([text], 'Pasted.svg')] : [];
  if (files.length + svg.length > 0) return bringIn([...files, ...svg], undefined, store, injector);
  const base = store.block?.style ?? store.sheet?.blocks.at(-1)?.style;
  const { passage } = html !== '' && base ? passageFrom(html, base, injector) : { passage: undefined };
  const words = passage?.words ?? text.replace(/\r\n?/g, '\n').trim();
  if (words.trim() !== '') add(words, (job, id) => (passage ? pastePassage(job, id, 0, words.length, passage) : job));
}
