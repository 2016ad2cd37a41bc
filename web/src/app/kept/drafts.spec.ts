import { TestBed } from '@angular/core/testing';
import { createJob } from '@jentrix/core/job';
import { openDB } from 'idb';
import { DraftStore } from './drafts';

describe('drafts', () => {
  const job = createJob('Draft', () => crypto.randomUUID());
  const draft = (jobId: string, basedOn: number) => ({ jobId, basedOn, base: job, job, attempts: [] });

  it('keeps the newest state of a job and gives it back until it is dropped', async () => {
    const drafts = TestBed.inject(DraftStore);
    await drafts.keep(draft('one', 3));
    await drafts.keep({ ...draft('one', 4), job: { ...job, title: 'Newer' } });
    expect(await drafts.adopt('one')).toEqual(jasmine.objectContaining({ basedOn: 4, job: { ...job, title: 'Newer' } }));
    expect(await drafts.adopt('two')).toBeUndefined();
    await drafts.drop('one');
    expect(await drafts.adopt('one')).toBeUndefined();
  });

  it('begins to write in the turn of the edit, and never lets an older state win', async () => {
    const drafts = TestBed.inject(DraftStore);
    await drafts.drop('quick');
    const put = spyOn(IDBObjectStore.prototype, 'put').and.callThrough();
    const writes = [1, 2, 3].map((n) => drafts.keep({ ...draft('quick', n), job: { ...job, title: `Edit ${n}` } }));
    expect(put).toHaveBeenCalledTimes(3);
    await Promise.all(writes);
    expect((await drafts.adopt('quick'))?.job.title).toBe('Edit 3');
    await drafts.drop('quick');
  });

  it('lists what no bench looks after', async () => {
    const drafts = TestBed.inject(DraftStore);
    await drafts.keep(draft('here', 1));
    await drafts.keep({ ...draft('there', 1), attempts: [job] });
    drafts.claim('here');
    expect((await drafts.unsent()).map(({ jobId, attempts }) => [jobId, attempts.length])).toEqual([['there', 1]]);
    drafts.claim(undefined);
    await drafts.drop('here');
    await drafts.drop('there');
  });

  it('adopts what a closed window left, leaves what an open one holds, and drops what can’t be read', async () => {
    const drafts = TestBed.inject(DraftStore);
    await drafts.drop('none');
    const database = await openDB('jentrix');
    await database.put('drafts', { jobId: 'left', tabId: 'closed', basedOn: 1, job, savedAt: 1 });
    expect((await drafts.adopt('left'))?.job).toEqual(job);
    await drafts.drop('left');

    await database.put('drafts', { jobId: 'held', tabId: 'open', basedOn: 1, job, savedAt: 1 });
    let release: () => void = () => undefined;
    await new Promise<void>((held) => {
      void navigator.locks.request('jentrix-tab-open', () => {
        held();
        return new Promise<void>((done) => (release = done));
      });
    });
    expect(await drafts.adopt('held')).toBeUndefined();
    release();

    await database.put('drafts', { jobId: 'bent', tabId: 'closed', basedOn: 1, job: { format: 'bent' }, savedAt: 1 });
    expect(await drafts.adopt('bent')).toBeUndefined();
    expect(await database.getAllFromIndex('drafts', 'jobId', 'bent')).toEqual([]);
    await database.delete('drafts', ['held', 'open']);
    database.close();
  });
});
