import { HttpClient, HttpErrorResponse, HttpEventType, HttpResponse } from '@angular/common/http';
import { Injectable, inject } from '@angular/core';
import {
  type CataloguePage,
  type CatalogueQuery,
  type CollectionFont,
  type FaceEntry,
  type FaceList,
  type Followers,
  type JobMeasure,
  type JobPage,
  type JobQuery,
  type JobRecord,
  type Picture,
  type Pull,
  type Saved,
  type Trouble,
  cataloguePageSchema,
  collectionProblemSchema,
  faceEntrySchema,
  followersSchema,
  recipeListSchema,
  faceListSchema,
  jobMeasureSchema,
  jobPageSchema,
  jobRecordSchema,
  pictureSchema,
  problemSchema,
  pullListSchema,
  pullRecordSchema,
  pullSchema,
  savedSchema,
  staleProblemSchema,
  type ReadFile,
  hereEventSchema,
  jobEventSchema,
  readFileSchema,
  takenSchema,
} from '@jentrix/core/api';
import { WordedError } from '@jentrix/core/base';
import { type Job, type Recipe, type RecipeSettings, recipeSchema } from '@jentrix/core/job';
import { type Preferences, preferencesSchema } from '@jentrix/core/preferences';
import type { PullReason } from '@jentrix/core/pulls';
import { ownBrowser } from '../kept/tab';
import { Observable, catchError, filter, from, map, switchMap } from 'rxjs';
import type { z } from 'zod';

/** An answer that is not what was asked for; `message` is for people. */
export class ApiError extends WordedError {
  override readonly name = 'ApiError';

  constructor(
    /** `offline` when the server could not be reached at all, `failed` when it broke off or has too much to do: both may pass. */
    readonly kind: 'offline' | 'failed' | 'stale' | 'not-found' | 'refused' | 'collection',
    message: string,
    /** For `stale`: what the server holds. */
    readonly current?: JobRecord,
    /** The server's code of the problem. */
    readonly code?: string,
    /** For `collection`: the fonts of an uploaded file, of which one is to be chosen. */
    readonly fonts: readonly CollectionFont[] = [],
  ) {
    super(message);
  }
}

/** An event of a job: a revision that was written, or who else has it open. */
export type JobEvent = z.infer<typeof jobEventSchema> | z.infer<typeof hereEventSchema>;

/** How long after a stream of events was refused it is asked for again, in milliseconds. */
const REFUSED_MS = 15_000;

/** The service worker would forget what it keeps of an address that is written to, whether that came through or not. */
const PAST_CACHE = { 'ngsw-bypass': 'true' };

/** The server, typed; every answer is checked against the shared schemas. */
@Injectable({ providedIn: 'root' })
export class ApiService {
  private readonly http = inject(HttpClient);

  keepPicture(file: Blob): Observable<Picture> {
    return this.checked(pictureSchema, this.http.post('/api/pictures', file, { headers: UPLOAD }));
  }

  searchCatalogue(query: CatalogueQuery): Observable<CataloguePage> {
    return this.checked(cataloguePageSchema, this.http.get('/api/catalogue', { params: definedOnly(query) }));
  }

  /** Tells the simulated font service how to behave. */
  troubleCatalogue(trouble: Trouble): Observable<unknown> {
    return this.failing(this.http.put('/api/catalogue/trouble', trouble));
  }

  addFace(id: string): Observable<FaceEntry> {
    return this.checked(faceEntrySchema, this.http.post(`/api/catalogue/${encodeURIComponent(id)}/add`, {}));
  }

  /** @param font which font of a collection, from 0. */
  uploadFace(file: Blob, font?: number): Observable<FaceEntry> {
    return this.checked(faceEntrySchema, this.http.post('/api/faces', file, { headers: UPLOAD, params: definedOnly({ font }) }));
  }

  /** Takes a face out of the type case. @param standIn the face that jobs get in its place. */
  removeFace(id: string, standIn?: string): Observable<unknown> {
    return this.failing(this.http.delete(`/api/faces/${encodeURIComponent(id)}`, { params: standIn === undefined ? {} : { standIn } }));
  }

  likeFace(id: string, favourite: boolean): Observable<unknown> {
    return this.failing(this.http.put(`/api/faces/${encodeURIComponent(id)}/favourite`, { favourite }));
  }

  listRecipes(): Observable<Recipe[]> {
    return this.checked(recipeListSchema, this.http.get('/api/recipes')).pipe(map(({ items }) => items));
  }

  createRecipe(name: string, settings: RecipeSettings): Observable<Recipe> {
    return this.checked(recipeSchema, this.http.post('/api/recipes', { name, settings }));
  }

  /** @param exceptJob a job that is not changed on the server, because the page changes it itself. */
  changeRecipe(id: string, name: string, settings: RecipeSettings, exceptJob?: string): Observable<unknown> {
    return this.failing(this.http.put(`/api/recipes/${encodeURIComponent(id)}`, { name, settings }, { params: exceptJob ? { exceptJob } : {} }));
  }

  followersOfRecipe(id: string): Observable<Followers> {
    return this.checked(followersSchema, this.http.get(`/api/recipes/${encodeURIComponent(id)}/followers`));
  }

  removeRecipe(id: string): Observable<unknown> {
    return this.failing(this.http.delete(`/api/recipes/${encodeURIComponent(id)}`));
  }

  listJobs(query: JobQuery): Observable<JobPage> {
    return this.checked(jobPageSchema, this.http.get('/api/jobs', { params: query as Record<string, string | number> }));
  }

  /** @param kept the pulls its file held, as they were there. */
  createJob(job: Job, kept?: unknown): Observable<JobRecord> {
    return this.checked(jobRecordSchema, this.http.post('/api/jobs', kept === undefined ? { job } : { job, kept }));
  }

  /** Puts a file of another kind on the shelf as a job. @param file whose name tells its kind */
  takeFile(file: File): Observable<z.infer<typeof takenSchema>> {
    return this.checked(takenSchema, this.http.post('/api/intake', file, { headers: UPLOAD, params: { name: file.name } }));
  }

  /** Reads a file of another kind as a job that is not kept. @param sheet that its blocks are to stand on, in points */
  readFile(file: File, { widthPt, heightPt }: { widthPt: number; heightPt: number }): Observable<ReadFile> {
    return this.checked(readFileSchema, this.http.post('/api/intake/read', file, { headers: UPLOAD, params: { name: file.name, widthPt, heightPt } }));
  }

  /** @param fresh asks the server itself, past what the service worker has kept. */
  readJob(id: string, fresh = false): Observable<JobRecord> {
    return this.checked(jobRecordSchema, this.http.get(`/api/jobs/${id}`, fresh ? { headers: PAST_CACHE } : {}));
  }

  /**
   * The events of a job: its revisions as they are written, the current one first, and who else has it open; nothing while the page is
   * out of sight, for which browsers have only a few connections, and on while the server is away.
   * @param window that others are told of
   */
  eventsOf(id: string, window: string): Observable<JobEvent> {
    return new Observable((heard) => {
      let source: EventSource | undefined;
      let again: ReturnType<typeof setTimeout> | undefined;
      const query = new URLSearchParams({ 'ngsw-bypass': 'true', window, browser: ownBrowser() }).toString();
      const follow = (): void => {
        clearTimeout(again);
        const closed = source === undefined || source.readyState === EventSource.CLOSED;
        if (document.hidden === closed) return;
        source?.close();
        source = document.hidden ? undefined : new EventSource(`/api/jobs/${encodeURIComponent(id)}/events?${query}`);
        source?.addEventListener('message', ({ data }: MessageEvent<string>) => heard.next(jobEventSchema.parse(JSON.parse(data))));
        source?.addEventListener('here', ({ data }: MessageEvent<string>) => heard.next(hereEventSchema.parse(JSON.parse(data))));
        // A stream that was refused is asked for later: browsers give it up.
        source?.addEventListener('error', () => {
          clearTimeout(again);
          again = setTimeout(follow, REFUSED_MS);
        });
      };
      follow();
      document.addEventListener('visibilitychange', follow);
      return () => {
        clearTimeout(again);
        document.removeEventListener('visibilitychange', follow);
        source?.close();
      };
    });
  }

  /** Replaces a job. @param basedOn the revision the change was made on. */
  replaceJob(id: string, basedOn: number, job: Job): Observable<Saved> {
    const headers = { ...PAST_CACHE, 'If-Match': `"${basedOn}"`, 'content-type': 'application/json' };
    const text = JSON.stringify({ job });
    const put = (body: string | Blob) =>
      this.http.put(`/api/jobs/${id}`, body, { headers: body === text ? headers : { ...headers, 'content-encoding': 'gzip' } });
    // What can't be packed goes as it is.
    const packing = async (): Promise<string | Blob> => import('./packed').then(({ packed }) => packed(text)).catch(() => text);
    return this.checked(savedSchema, text.length < PACKED_FROM ? put(text) : from(packing()).pipe(switchMap(put)));
  }

  /** The measures of a job as the server has it. */
  measureJob(id: string): Observable<JobMeasure> {
    return this.checked(jobMeasureSchema, this.http.get(`/api/jobs/${encodeURIComponent(id)}/measure`));
  }

  duplicateJob(id: string): Observable<JobRecord> {
    return this.checked(jobRecordSchema, this.http.post(`/api/jobs/${id}/duplicate`, {}));
  }

  trashJob(id: string): Observable<unknown> {
    return this.failing(this.http.delete(`/api/jobs/${id}`));
  }

  restoreJob(id: string): Observable<unknown> {
    return this.failing(this.http.post(`/api/jobs/${id}/restore`, {}));
  }

  purgeJob(id: string): Observable<unknown> {
    return this.failing(this.http.delete(`/api/jobs/${id}/forever`));
  }

  /** The kept states of a job, the latest first. */
  listPulls(jobId: string): Observable<Pull[]> {
    return this.checked(pullListSchema, this.http.get(pullsAddress(jobId))).pipe(map(({ items }) => items));
  }

  keepPull(jobId: string, job: Job, reason: PullReason, name = ''): Observable<Pull> {
    return this.checked(pullSchema, this.http.post(pullsAddress(jobId), { job, reason, name }));
  }

  /** A pull with the job as it was. */
  readPull(jobId: string, id: string): Observable<z.infer<typeof pullRecordSchema>> {
    return this.checked(pullRecordSchema, this.http.get(pullsAddress(jobId, id)));
  }

  renamePull(jobId: string, id: string, name: string): Observable<Pull> {
    return this.checked(pullSchema, this.http.patch(pullsAddress(jobId, id), { name }));
  }

  deletePull(jobId: string, id: string): Observable<unknown> {
    return this.failing(this.http.delete(pullsAddress(jobId, id)));
  }

  /** A pull with what it measures. */
  measurePull(jobId: string, id: string): Observable<Pull> {
    return this.checked(pullSchema, this.http.get(`${pullsAddress(jobId, id)}/measure`));
  }

  /** Puts a pull on the shelf as a job of its own. */
  openPull(jobId: string, id: string): Observable<JobRecord> {
    return this.checked(jobRecordSchema, this.http.post(`${pullsAddress(jobId, id)}/job`, {}));
  }

  /**
   * A file made from a job.
   * @param path of what is made, such as `file` or `sheets.zip`. @param arrived told how many bytes are there so far
   */
  madeFile(id: string, path: string, arrived: (bytes: number) => void = () => undefined): Observable<MadeFile> {
    const request = this.http.get(`/api/jobs/${encodeURIComponent(id)}/${path}`, { observe: 'events', reportProgress: true, responseType: 'blob' });
    return request.pipe(
      filter((event) => {
        if (event.type === HttpEventType.DownloadProgress) arrived(event.loaded);
        return event instanceof HttpResponse;
      }),
      catchError((error: unknown) =>
        from(withReadBody(error)).pipe(
          map((read) => {
            throw toApiError(read);
          }),
        ),
      ),
      map(({ body, headers }) => ({ bytes: body ?? new Blob(), name: fileNameOf(headers.get('content-disposition')) })),
    );
  }

  listFaces(): Observable<FaceList> {
    return this.checked(faceListSchema, this.http.get('/api/faces'));
  }

  readPreferences(): Observable<Preferences> {
    return this.checked(preferencesSchema, this.http.get('/api/preferences'));
  }

  writePreferences(preferences: Preferences): Observable<Preferences> {
    return this.checked(preferencesSchema, this.http.put('/api/preferences', preferences, { headers: PAST_CACHE }));
  }

  /** An answer, checked. */
  checked<T extends z.ZodType>(schema: T, request: Observable<unknown>): Observable<z.output<T>> {
    return this.failing(request.pipe(map((body) => schema.parse(body))));
  }

  /** A request whose answer nobody reads. */
  failing<T>(request: Observable<T>): Observable<T> {
    return request.pipe(
      catchError((error: unknown) => {
        throw toApiError(error);
      }),
    );
  }
}

/** The address of a job's pulls, or of one of them. */
export const pullsAddress = (jobId: string, id?: string): string =>
  `/api/jobs/${encodeURIComponent(jobId)}/pulls${id === undefined ? '' : `/${encodeURIComponent(id)}`}`;

/** Texts from this length on are packed before they are sent. */
const PACKED_FROM = 32 * 1024;

/** Files go as they are. */
const UPLOAD = { 'content-type': 'application/octet-stream' };

function definedOnly(query: object): Record<string, string> {
  return Object.fromEntries(Object.entries(query).flatMap(([key, value]) => (value === undefined || value === '' ? [] : [[key, String(value)]])));
}

/** A file as the server names it. */
export interface MadeFile {
  name: string;
  bytes: Blob;
}

/** The file name of a content disposition, in its full form where it has one (RFC 6266, section 4.3). */
function fileNameOf(disposition: string | null): string {
  const full = /filename\*=UTF-8''([^;]+)/i.exec(disposition ?? '')?.[1];
  return full === undefined ? (/filename="?([^";]+)"?/i.exec(disposition ?? '')?.[1] ?? 'file') : decodeURIComponent(full);
}

/** A refused request for a file has its problem as a file. */
async function withReadBody(error: unknown): Promise<unknown> {
  if (!(error instanceof HttpErrorResponse) || !(error.error instanceof Blob)) return error;
  const text = await error.error.text();
  let body: unknown = text;
  try {
    body = JSON.parse(text);
  } catch {
    // No problem in JSON: the status says what there is to say.
  }
  return new HttpErrorResponse({ status: error.status, error: body });
}

function toApiError(error: unknown): ApiError {
  if (!(error instanceof HttpErrorResponse)) return new ApiError('refused', 'The server’s answer can’t be understood.');
  const problem = problemSchema.safeParse(error.error);
  if (error.status === 0 || error.status === 502 || error.status === 503 || error.status === 504) {
    // The server is there, and says why it keeps nothing.
    if (problem.success && problem.data.detail) return new ApiError('offline', problem.data.detail, undefined, problem.data.type.split('/').at(-1));
    return new ApiError('offline', 'The server can’t be reached.');
  }
  if (error.status === 412) {
    const stale = staleProblemSchema.safeParse(error.error);
    if (stale.success) return new ApiError('stale', 'The job was changed elsewhere.', stale.data.current);
  }
  const collection = collectionProblemSchema.safeParse(error.error);
  if (collection.success) return new ApiError('collection', collection.data.detail ?? collection.data.title, undefined, undefined, collection.data.fonts);
  const message = problem.success ? (problem.data.detail ?? problem.data.title) : `The server answered with ${error.status}.`;
  const passing = error.status >= 500 || error.status === 429;
  return new ApiError(error.status === 404 ? 'not-found' : passing ? 'failed' : 'refused', message);
}
