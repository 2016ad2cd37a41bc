import { TestBed } from '@angular/core/testing';
import { type Job, createBlock, createJob, restyle, retitle } from '@jentrix/core/job';
import { ApiService } from '../api/api.service';
import { DraftStore } from '../kept/drafts';
import { KeptJobs } from '../kept/kept-jobs';
import { FakeDrafts, FakeKept, FakeServer } from './fake-server';
import { type Came, SaveService } from './save.service';
import { UnsentService } from '../offline/unsent.service';

const base = createJob('Start', () => crypto.randomUUID());

describe('saving', () => {
  let api: FakeServer;
  let drafts: FakeDrafts;
  let kept: FakeKept;
  let save: SaveService;
  const titled = (title: string): Job => retitle(base, title);
  const settled = () => new Promise((resolve) => setTimeout(resolve, 0));

  beforeEach(() => {
    api = new FakeServer(base);
    drafts = new FakeDrafts();
    TestBed.configureTestingModule({
      providers: [
        SaveService,
        { provide: ApiService, useValue: api },
        { provide: DraftStore, useValue: drafts },
        { provide: KeptJobs, useValue: (kept = new FakeKept()) },
        { provide: UnsentService, useValue: { look: () => Promise.resolve() } },
      ],
    });
    save = TestBed.inject(SaveService);
  });
  afterEach(() => save.close());

  it('sends the last of several edits, once', async () => {
    await save.open('j');
    save.update(titled('a'));
    save.update(titled('b'));
    expect(save.state.kind).toBe('saving');
    expect(await save.flush()).toBeTrue();
    expect(api.record.job.title).toBe('b');
    expect(api.writes).toBe(1);
    expect(drafts.draft).toBeUndefined();
  });

  it('keeps edits in the browser while the server is away, and sends them later', async () => {
    await save.open('j');
    api.away = true;
    save.update(titled('kept'));
    expect(await save.flush()).toBeFalse();
    expect(save.state.kind).toBe('offline');
    save.update(titled('kept too'));
    await settled();
    expect(drafts.draft?.job.title).toBe('kept too');
    api.away = false;
    expect(await save.flush()).toBeTrue();
    expect(api.record.job.title).toBe('kept too');
  });

  it('takes up a draft made on the current revision, and sends it', async () => {
    drafts.draft = { jobId: 'j', tabId: 't', basedOn: 1, base: null, job: titled('draft'), attempts: [], savedAt: 0 };
    expect((await save.open('j')).title).toBe('draft');
    await settled();
    await settled();
    expect(api.record.job.title).toBe('draft');
  });

  it('asks when a draft was made on an older revision', async () => {
    drafts.draft = { jobId: 'j', tabId: 't', basedOn: 1, base: null, job: titled('draft'), attempts: [], savedAt: 0 };
    api.record = { ...api.record, revision: 4, job: titled('theirs') };
    expect((await save.open('j')).title).toBe('draft');
    expect(save.state.kind).toBe('conflict');
    expect(api.record.job.title).toBe('theirs');
    await save.keepMine();
    expect(api.record).toEqual(jasmine.objectContaining({ revision: 5, job: titled('draft') }));
  });

  it('holds a conflict until one version is chosen', async () => {
    await save.open('j');
    api.record = { ...api.record, revision: 2, job: titled('theirs') };
    save.update(titled('mine'));
    expect(await save.flush()).toBeFalse();
    expect(save.state.kind).toBe('conflict');
    save.update(titled('mine, further'));
    expect(await save.flush()).toBeFalse();
    const taken = (await save.takeTheirs())!(titled('mine, further'));
    expect(taken.title).toBe('theirs');
    save.update(taken);
    await save.flush();
    expect(save.state.kind).toBe('saved');
    expect(api.record.revision).toBe(2);
    save.update(titled('after'));
    expect(await save.flush()).toBeTrue();
    expect(api.record.revision).toBe(3);
  });

  it('keeps both versions of a conflict', async () => {
    await save.open('j');
    api.record = { ...api.record, revision: 2, job: titled('theirs') };
    save.update(titled('mine'));
    await save.flush();
    expect(await save.keepBoth('mine (copy)')).toBe('copy');
    expect(api.record.job.title).toBe('theirs');
  });

  it('puts a job back that was trashed meanwhile', async () => {
    await save.open('j');
    api.gone = true;
    save.update(titled('mine'));
    await save.flush();
    expect(save.state.kind).toBe('gone');
    await save.keepMine();
    expect(save.state.kind).toBe('saved');
    expect(api.record.job.title).toBe('mine');
  });

  it('takes a write whose answer was lost for its own, and goes on from there', async () => {
    await save.open('j');
    api.losing = 1;
    save.update(titled('first'));
    expect(await save.flush()).toBeFalse();
    save.update(titled('second'));
    await save.flush();
    await save.flush();
    expect(save.state.kind).not.toBe('conflict');
    await new Promise((resolve) => setTimeout(resolve, 10));
    expect(save.state.kind).toBe('saved');
    expect(api.record).toEqual(jasmine.objectContaining({ revision: 3, job: titled('second') }));
  });

  it('knows a lost answer after the window was closed too', async () => {
    drafts.draft = { jobId: 'j', tabId: 't', basedOn: 1, base: null, job: titled('later'), attempts: [titled('sent')], savedAt: 0 };
    api.record = { ...api.record, revision: 2, job: titled('sent') };
    await save.open('j');
    expect(save.state.kind).not.toBe('conflict');
    await settled();
    await settled();
    expect(api.record).toEqual(jasmine.objectContaining({ revision: 3, job: titled('later') }));
  });

  it('asks a server that broke off again', async () => {
    await save.open('j');
    api.failing = 2;
    save.update(titled('once more'));
    await save.flush();
    expect(api.failing).toBe(0);
    expect(save.state.kind).toBe('saving');
    await save.flush();
    expect(api.record.job.title).toBe('once more');
    api.failing = 9;
    save.update(titled('never'));
    for (let i = 0; i < 4; i++) await save.flush();
    expect(save.state.kind).toBe('refused');
  });

  describe('while others write', () => {
    const block = (id: string) => createBlock(id, id, { xPt: 0, yPt: 0, widthPt: 100, heightPt: 20 });
    const two: Job = { ...base, sheets: [{ ...base.sheets[0]!, blocks: [block('a'), block('b')] }] };
    const tracked = (job: Job, id: string, milliem: number): Job => restyle(job, id, { trackingMilliem: milliem });
    const trackings = (job: Job): number[] => job.sheets[0]!.blocks.map(({ style }) => style.trackingMilliem);
    const theirs = (job: Job): void => api.written(job);
    let came: Came[];
    const until = async (test: () => boolean): Promise<void> => {
      for (let i = 0; i < 200 && !test(); i++) await new Promise((done) => setTimeout(done, 5));
      expect(test()).withContext(String(test)).toBeTrue();
    };
    beforeEach(async () => {
      api.record = { ...api.record, job: two };
      came = [];
      save.came$.subscribe((one) => came.push(one));
      await save.open('j');
    });

    it('takes up what they saved, without a write of its own', async () => {
      theirs(tracked(two, 'b', 30));
      await until(() => came.length === 1);
      expect([trackings(came[0]!.job), came[0]!.job.sheets[0]!.blocks[0] === two.sheets[0]!.blocks[0]]).toEqual([[0, 30], true]);
      save.update(came[0]!.job);
      expect([save.state.kind, api.writes]).toEqual(['saved', 0]);
      // Each earlier state has it too.
      expect(trackings(came[0]!.merge(tracked(two, 'a', 5)).job)).toEqual([5, 30]);
    });

    it('puts edits of different blocks together, whoever is told first', async () => {
      save.update(tracked(two, 'a', 20));
      theirs(tracked(two, 'b', 30));
      await until(() => came.length === 1);
      expect(trackings(came[0]!.job)).toEqual([20, 30]);
      await until(() => save.state.kind === 'saved');
      expect([trackings(api.record.job), api.record.revision, api.writes]).toEqual([[20, 30], 3, 1]);

      // The write is refused before anything was heard.
      api.record = { ...api.record, revision: 4, job: tracked(api.record.job, 'b', 40) };
      save.update(tracked(came[0]!.job, 'a', 25));
      await save.flush();
      await until(() => save.state.kind === 'saved');
      expect([trackings(api.record.job), api.record.revision]).toEqual([[25, 40], 5]);
    });

    it('asks where both changed one block; mine then goes on with what else they changed', async () => {
      save.update(tracked(two, 'a', 20));
      theirs(tracked(tracked(two, 'a', 7), 'b', 30));
      await until(() => save.state.kind === 'conflict');
      expect([came.length, api.writes]).toEqual([0, 0]);
      await save.keepMine();
      await until(() => save.state.kind === 'saved');
      expect([trackings(api.record.job), trackings(came[0]!.job)]).toEqual([
        [20, 30],
        [20, 30],
      ]);
    });

    it('takes theirs where both changed one block, and keeps what else was changed here', async () => {
      save.update(tracked(tracked(two, 'a', 20), 'b', 5));
      theirs(tracked(two, 'a', 7));
      await until(() => save.state.kind === 'conflict');
      const take = await save.takeTheirs();
      const taken = take!(came[0]!.job);
      expect(trackings(taken)).toEqual([7, 5]);
      // What was edited while the answer came stays.
      expect(trackings(take!(tracked(came[0]!.job, 'b', 6)))).toEqual([7, 6]);
      // Mine is the step before, on the bench.
      expect(trackings(came[0]!.job)).toEqual([20, 5]);
      save.update(taken);
      await save.flush();
      expect(trackings(api.record.job)).toEqual([7, 5]);
    });

    it('takes back nothing of theirs with earlier states, in the same block either', async () => {
      save.update(tracked(two, 'a', 20));
      await save.flush();
      theirs(restyle(api.record.job, 'a', { sizePt: 99 }));
      await until(() => came.length === 1);
      const before = came[0]!.merge(two).job.sheets[0]!.blocks[0]!.style;
      expect([before.trackingMilliem, before.sizePt]).toEqual([0, 99]);
    });

    it('goes on from a write whose answer was lost, though somebody else wrote since and it was edited on', async () => {
      api.losing = 1;
      save.update(tracked(two, 'a', 10));
      await save.flush();
      api.record = { ...api.record, revision: 3, job: tracked(api.record.job, 'b', 30) };
      save.update(tracked(two, 'a', 20));
      await save.flush();
      await until(() => save.state.kind === 'saved');
      expect([trackings(api.record.job), came.length]).toEqual([[20, 30], 1]);
    });

    describe('and this window was closed', () => {
      const closed = (job: Job, attempts: readonly Job[] = []): void => {
        save.close();
        drafts.draft = { jobId: 'j', tabId: 't', basedOn: 1, base: two, job, attempts, savedAt: 0 };
      };

      it('puts what was left unsent together with edits of other blocks, on opening', async () => {
        closed(tracked(two, 'a', 20));
        api.written(tracked(two, 'b', 30));
        expect(trackings(await save.open('j'))).toEqual([20, 30]);
        await until(() => save.state.kind === 'saved');
        expect(trackings(api.record.job)).toEqual([20, 30]);
      });

      it('asks where both changed one block; mine then keeps what else they changed', async () => {
        closed(tracked(two, 'a', 20));
        api.written(tracked(tracked(two, 'a', 7), 'b', 30));
        expect(trackings(await save.open('j'))).toEqual([20, 0]);
        expect(save.state).toEqual(jasmine.objectContaining({ kind: 'conflict', clashes: [{ kind: 'block', id: 'a' }] }));
        await save.keepMine();
        await until(() => save.state.kind === 'saved');
        expect(trackings(api.record.job)).toEqual([20, 30]);
      });

      it('knows its own write whose answer was lost among what others wrote since', async () => {
        closed(tracked(two, 'a', 25), [tracked(two, 'a', 20)]);
        api.written(tracked(tracked(two, 'a', 20), 'b', 30));
        expect(trackings(await save.open('j'))).toEqual([25, 30]);
        await until(() => save.state.kind === 'saved');
        expect(trackings(api.record.job)).toEqual([25, 30]);
      });
    });

    it('opens the job as it was saved last where the server is away', async () => {
      save.update(tracked(two, 'a', 20));
      await save.flush();
      expect(kept.record).toEqual({ id: 'j', revision: 2, updatedAt: '', job: tracked(two, 'a', 20) });
      save.close();
      api.away = true;
      expect(trackings(await save.open('j'))).toEqual([20, 0]);
    });

    it('hears nothing any more once it is closed', async () => {
      save.close();
      theirs(tracked(two, 'b', 30));
      await settled();
      expect([came.length, api.events.observed]).toEqual([0, false]);
    });
  });
});
