import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import { createJob } from '@jentrix/core/job';
import { firstValueFrom } from 'rxjs';
import { ApiError, ApiService } from './api.service';

describe('api', () => {
  let api: ApiService;
  let http: HttpTestingController;
  let n = 0;
  const job = createJob('Poster', () => `id${n++}`);
  const record = { id: 'j1', revision: 3, job, createdAt: '2026-11-01T10:00:00.000Z', updatedAt: '2026-11-01T10:00:00.000Z', trashedAt: null };

  beforeEach(() => {
    TestBed.configureTestingModule({ providers: [provideHttpClient(), provideHttpClientTesting()] });
    api = TestBed.inject(ApiService);
    http = TestBed.inject(HttpTestingController);
  });
  afterEach(() => http.verify());

  /** The error of a request. */
  const failing = async (request: Promise<unknown>): Promise<ApiError> =>
    request.then(
      () => {
        throw new Error('It did not fail');
      },
      (error: unknown) => {
        if (error instanceof ApiError) return error;
        throw error;
      },
    );

  it('says which revision a change was made on', async () => {
    const reply = firstValueFrom(api.replaceJob('j1', 2, job));
    const found = http.expectOne('/api/jobs/j1');
    expect([found.request.method, found.request.headers.get('If-Match')]).toEqual(['PUT', '"2"']);
    found.flush(record);
    expect((await reply).revision).toBe(3);
  });

  it('gives what the server holds where a change came too late', async () => {
    const error = failing(firstValueFrom(api.replaceJob('j1', 2, job)));
    http.expectOne('/api/jobs/j1').flush({ type: 'stale', title: 'Stale', status: 412, current: record }, { status: 412, statusText: 'Precondition Failed' });
    expect([(await error).kind, (await error).current?.revision]).toEqual(['stale', 3]);
  });

  it('tells a server that is away from one that refuses', async () => {
    const away = failing(firstValueFrom(api.listFaces()));
    http.expectOne('/api/faces').error(new ProgressEvent('error'));
    expect((await away).kind).toBe('offline');
    const gone = failing(firstValueFrom(api.readJob('j2')));
    http
      .expectOne('/api/jobs/j2')
      .flush({ type: 'not-found', title: 'Not found', status: 404, detail: 'There is no such job.' }, { status: 404, statusText: 'Not Found' });
    expect([(await gone).kind, (await gone).message]).toEqual(['not-found', 'There is no such job.']);
    const broken = failing(firstValueFrom(api.readJob('j3')));
    http.expectOne('/api/jobs/j3').flush('<html>', { status: 500, statusText: 'Error' });
    expect([(await broken).kind, (await broken).message]).toEqual(['failed', 'The server answered with 500.']);
  });

  it('gives a made file with the name the server gives it, and the words of one that was refused', async () => {
    const made = firstValueFrom(api.madeFile('j1', 'sheets/a/png?scale=2'));
    const headers = { 'content-disposition': `attachment; filename="per.png"; filename*=UTF-8''pers%C3%A9ides%402x.png` };
    http.expectOne('/api/jobs/j1/sheets/a/png?scale=2').flush(new Blob(['abc']), { headers });
    expect([(await made).name, (await made).bytes.size]).toEqual(['perséides@2x.png', 3]);
    const plain = firstValueFrom(api.madeFile('j1', 'file'));
    http.expectOne('/api/jobs/j1/file').flush(new Blob(['{}']), { headers: { 'content-disposition': 'attachment; filename="perseids.jentrix.json"' } });
    expect((await plain).name).toBe('perseids.jentrix.json');
    const refused = failing(firstValueFrom(api.madeFile('j1', 'sheets.zip')));
    const problem = new Blob([JSON.stringify({ type: 'too-much', title: 'No', status: 422, detail: 'It takes more than 10 seconds.' })]);
    http.expectOne('/api/jobs/j1/sheets.zip').flush(problem, { status: 422, statusText: 'Unprocessable' });
    expect([(await refused).kind, (await refused).message]).toEqual(['refused', 'It takes more than 10 seconds.']);
  });

  it('takes no answer that is not what was asked for', async () => {
    const error = failing(firstValueFrom(api.readPreferences()));
    http.expectOne('/api/preferences').flush({ fineMilliem: 'two' });
    expect([(await error).kind, (await error).message]).toEqual(['refused', 'The server’s answer can’t be understood.']);
  });

  it('asks only for what is said', async () => {
    const page = firstValueFrom(api.searchCatalogue({ q: 'sl', kind: undefined, sort: 'family', order: 'asc', page: 1 } as never));
    const found = http.expectOne(({ url }) => url === '/api/catalogue');
    expect(found.request.params.keys().sort()).toEqual(['order', 'page', 'q', 'sort']);
    found.flush({ items: [], total: 0, page: 1, pageSize: 24 });
    await page.catch(() => undefined);
  });
});
