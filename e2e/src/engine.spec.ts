/** The engine itself, as its worker answers: real faces, real setting, without a page. */
import { type Block, createBlock, createJob, createSheet, newFit, updateBlock } from '@jentrix/core/job';
import { JUDGING } from '@jentrix/core/findings';
import { NO_TASTE } from '@jentrix/core/taste';
import { fontBytes } from '@jentrix/core/testing';
import * as Comlink from 'comlink';
import type { Engine } from '../../web/src/app/engine/protocol';

const FACE = 'playfair-display-bold';
const frame = { xPt: 10, yPt: 10, widthPt: 900, heightPt: 100 };
const block = (id: string, words: string, faceId = FACE): Block => createBlock(id, words, frame, { faceId, sizePt: 60 });

type Heard = (event: { data: unknown; origin: string }) => void;

/** Begins the worker in this process, with the page's end of the line here too. */
async function begin(): Promise<Comlink.Remote<Engine>> {
  const ends: { worker?: Heard; page?: Heard } = {};
  const say = (end: 'worker' | 'page') => (data: unknown) => queueMicrotask(() => ends[end]?.({ data, origin: '' }));
  const hear = (end: 'worker' | 'page') => (_type: string, heard: unknown) => void (ends[end] = heard as Heard);
  Object.assign(globalThis, { addEventListener: hear('worker'), postMessage: say('page') });
  // By its address: its own kind of globals is none of this process’s.
  await import(new URL('../../web/src/app/engine/engine.worker.ts', import.meta.url).href);
  return Comlink.wrap<Engine>({ addEventListener: hear('page'), removeEventListener: () => undefined, postMessage: say('worker') });
}

describe('the engine', () => {
  let engine: Comlink.Remote<Engine>;
  beforeAll(async () => (engine = await begin()));
  /** Faces that were asked for, in turn. */
  let asked: string[];
  let away: Set<string>;
  const set = (blocks: Block[], more: object = {}) => engine.set({ blocks, ...more }, NO_TASTE);

  beforeEach(async () => {
    asked = [];
    away = new Set();
    spyOn(globalThis, 'fetch').and.callFake((address) => {
      const [, id = ''] = /\/api\/faces\/(.+)\/file$/.exec(address as string) ?? [];
      asked.push(id);
      return Promise.resolve(away.has(id) ? new Response('', { status: 503 }) : new Response(Uint8Array.from(fontBytes(id))));
    });
    await engine.start('http://page', ['source-sans-3-regular', FACE, 'eb-garamond-regular'], 'source-sans-3-regular');
  });

  it('begins with the face that stands in, and opens each other once, when it is wanted', async () => {
    expect(asked).toEqual(['source-sans-3-regular']);
    await set([block('a', 'AVATAR')]);
    await set([block('a', 'AVATARS'), block('b', 'Two')]);
    expect(asked).toEqual(['source-sans-3-regular', FACE]);
    // Nobody has that face: it isn't asked for.
    const { settings } = await set([block('c', 'Vega', 'gone')]);
    expect(asked.length).toBe(2);
    expect(settings[0]?.missingFaces).toEqual(['gone']);
  });

  it('sends what the page can’t draw yet, once', async () => {
    const first = await set([block('a', 'AVATAR')]);
    expect(first.settings.map(({ blockId }) => blockId)).toEqual(['a']);
    const [[, ink] = []] = first.inks;
    expect(ink!.rightPt - ink!.leftPt).toBeGreaterThan(100);
    const [[key, drawing] = []] = first.instances;
    expect(key).toBe(FACE);
    // A, V, T and R.
    expect(drawing?.outlines.length).toBe(4);
    expect(drawing?.outlines.every(([, data]) => /^M[^NaN]*Z$/.test(data))).toBeTrue();
    expect((await set([block('a', 'VATARA')])).instances).toEqual([]);
    const more = await set([block('a', 'VATARAN')]);
    expect(more.instances.map(([, { outlines }]) => outlines.length)).toEqual([1]);
  });

  it('leaves out lines that stand as the page has them', async () => {
    const two = block('a', 'AVATAR\nTwo nights');
    const whole = JSON.stringify((await set([two])).settings).length;
    expect(JSON.stringify((await set([{ ...two }])).settings).length).toBeLessThan(whole / 2);
    const edited = JSON.stringify((await set([{ ...two, words: 'AVATAR\nTwo night' }])).settings).length;
    expect(edited).toBeLessThan(whole);
    // Begun anew, the page has nothing.
    await engine.start('http://page', [FACE], FACE);
    const again = await set([two]);
    expect(JSON.stringify(again.settings).length).toBe(whole);
    expect(again.instances.length).toBe(1);
  });

  it('answers for the gap that is in hand, and for the white between lines', async () => {
    const two = block('a', 'AVATAR\nTwo');
    const { focus, lineGaps } = await set([two], { focus: { blockId: 'a', at: 1 }, lineGapsOf: 'a' });
    expect([focus?.lineIndex, focus?.ledgers.length]).toEqual([0, 5]);
    expect(focus?.ledgers[0]).toEqual(jasmine.objectContaining({ at: 1, left: { start: 0, end: 1 }, right: { start: 1, end: 2 } }));
    expect(focus?.white).toBeDefined();
    expect(lineGaps?.length).toBe(1);
    expect((await set([two], { focus: { blockId: 'a', at: 8 } })).focus?.lineIndex).toBe(1);
    // No gap: the end of a line, and a block that isn't there.
    expect((await set([two], { focus: { blockId: 'a', at: 6 } })).focus).toBeUndefined();
    expect((await set([two], { focus: { blockId: 'gone', at: 1 } })).focus).toBeUndefined();
  });

  it('asks again for a face that could not be had', async () => {
    away.add('eb-garamond-regular');
    const { settings, instances } = await set([block('a', 'Vega', 'eb-garamond-regular')]);
    expect(settings[0]?.missingFaces).toEqual(['eb-garamond-regular']);
    // What stands in is drawn, but not remembered as drawn.
    expect(instances[0]?.[1].outlines.length).toBe(4);
    away.clear();
    const real = await set([block('a', 'Vega', 'eb-garamond-regular')]);
    expect(real.settings[0]?.missingFaces).toEqual([]);
    expect(real.instances[0]?.[1].outlines.length).toBe(4);
    expect(asked.filter((id) => id === 'eb-garamond-regular').length).toBe(2);
  });

  it('takes up faces that came since', async () => {
    await engine.know(['source-sans-3-regular', 'eb-garamond-italic']);
    expect((await set([block('a', 'Vega', 'eb-garamond-italic')])).settings[0]?.missingFaces).toEqual([]);
    expect((await engine.probe(block('a', 'x', 'eb-garamond-italic').style, 'fi')).unitsPerEm).toBe(1000);
  });

  it('inspects blocks as they were set last, and forgets those that are on no sheet', async () => {
    const sheet = createSheet('s', 'Sheet', 1000, 500, 'pt');
    await set([block('a', 'to  Watch'), block('b', 'Two')]);
    const { blocks } = await engine.inspect({ kind: 'poster', sheet, blockIds: ['a', 'b'], changed: ['a', 'gone'] }, JUDGING);
    expect(blocks.map(({ blockId }) => blockId)).toEqual(['a']);
    expect(blocks[0]?.findings.map(({ rule }) => rule)).toContain('double-space');
    expect(await engine.outlines('b', [{ start: 0, end: 1 }])).toMatch(/^M/);
    await engine.inspect({ kind: 'poster', sheet, blockIds: ['a'], changed: [] }, JUDGING);
    expect(await engine.outlines('b', [{ start: 0, end: 1 }])).toBe('');
    expect(await engine.releaseFit('b')).toBeUndefined();
    expect((await engine.releaseFit('a'))?.words).toBe('to  Watch');
  });

  it('parts lines that a fit would bring together, and gives the white of a gap to others', async () => {
    const lines = { ...block('a', 'NIGHTS\nOF FALLING STARS'), leading: { kind: 'pt', pt: 30 } } as const;
    const fitted = { ...lines, style: { ...lines.style, sizePt: 30 }, fit: newFit({ to: { kind: 'pt', pt: 900 } }) };
    const proposal = await engine.ledApart(fitted);
    expect(proposal?.settings?.leading).toEqual({ kind: 'multiple', factor: jasmine.any(Number) });
    expect(await engine.ledApart({ ...fitted, leading: { kind: 'pt', pt: 500 } })).toBeUndefined();
    const job = { ...createJob('t', () => 's'), sheets: [{ ...createSheet('s', 'Sheet', 1000, 500, 'pt'), blocks: [block('a', 'VAVA')] }] };
    const given = await engine.giveWhite(job, { blockId: 'a', at: 1 }, { kind: 'pair', in: { kind: 'job' } });
    expect(given?.hand.map(({ blockId, at }) => `${blockId}${at}`)).toEqual(['a3']);
    expect(await engine.giveWhite(job, { blockId: 'b', at: 1 }, { kind: 'alike' })).toBeUndefined();
  });

  it('tries blocks out without keeping anything of them', async () => {
    const { settings, inspections, instances } = await engine.tryOut([block('t', 'to  Watch')], JUDGING);
    expect([settings.length, inspections[0]?.blockId, instances.length]).toEqual([1, 't', 1]);
    expect(await engine.outlines('t', [{ start: 0, end: 1 }])).toBe('');
  });

  it('does for a whole job what core does: checks, cuts, sizes, draws', async () => {
    const plain = createJob('Job', () => 's');
    const job = { ...plain, sheets: [{ ...plain.sheets[0]!, id: 'one', blocks: [block('a', 'to  Watch')] }] };
    expect((await engine.check(job, JUDGING)).findings.map(({ rule }) => rule)).toContain('double-space');
    const cut = await engine.firstCut(job, { steps: ['words'] });
    expect(cut.job.sheets[0]?.blocks[0]?.words).toBe('to Watch');
    const sizes = await engine.sizes(job, 'one', [{ id: 'x', name: 'Square', widthPt: 400, heightPt: 400, unit: 'pt' } as never]);
    expect(sizes.sheetIds.length).toBe(1);
    const svg = await engine.svg(updateBlock(job, 'a', (one) => ({ ...one, words: 'A' })).sheets[0]!, ['a'], new Map());
    expect(svg).toContain('<path');
    expect(await engine.svg(job.sheets[0]!, [], new Map())).not.toContain('<path');
    const curve = await engine.advise({ faceId: FACE, axes: {}, sizePt: 120 }, { capitals: false, lightOnDark: false });
    const next = curve.points.findIndex(({ sizePt }) => sizePt > 120);
    expect(curve.recommended).toBeLessThanOrEqual(Math.ceil(curve.points[next - 1]!.milliem));
    expect(curve.recommended).toBeGreaterThanOrEqual(Math.floor(curve.points[next]!.milliem));
    expect(curve.reasons).toContain('larger than');
    expect(await engine.shortLastLines([block('a', 'Vega', 'gone')], JUDGING)).toEqual([]);
  });
});
