/// <reference lib="webworker" />
import type { Exercise } from '@jentrix/core/drill';
import type { Inspector, JobCheck, Judge, Proposal } from '@jentrix/core/findings';
import type { SmallForm } from '@jentrix/core/superiors';
import type { Taste } from '@jentrix/core/taste';
import { FONT_UNITS, Face, loadHarfBuzz, pathData } from '@jentrix/core/face';
import type { Block } from '@jentrix/core/job';
import type { inOtherSizes } from '@jentrix/core/sizes';
import type { FirstCut } from '@jentrix/core/refine';
import {
  type BlockSetting,
  FaceSet,
  alternatesOf,
  facesOf,
  inkOf,
  ledgersOf,
  releaseFit,
  lineGapsOf as gapsBetweenLines,
  liveFeatures,
  setBlock,
  whiteOfGap,
} from '@jentrix/core/setting';
import type { GivenWhite } from '@jentrix/core/same-white';
import * as Comlink from 'comlink';
import { leaveOut, withKnownLines } from './leave-out';
import { shareEqual } from './share-equal';
import {
  type Engine,
  type FaceProbe,
  type InspectReply,
  type InspectRequest,
  type InstanceDrawing,
  type SentReply,
  type SetRequest,
  type ShortLastLineOfBlock,
  type TrackingCurve,
  type TrialReply,
  instanceKey,
} from './protocol';

// HarfBuzz has a top-level await: a static import would lose the first messages, so it is loaded here and awaited in each method.
const ready = loadHarfBuzz();

/** Sizes that a tracking curve is drawn through, in points: from 6 to 240, eight to a doubling. */
const CURVE_SIZES = Array.from({ length: 44 }, (_, i) => (i === 43 ? 240 : 6 * 2 ** (i / 8)));

let origin = '';
let known = new Set<string>();
let faces = new FaceSet('');
let inspector: Inspector | undefined;

// Loaded by those who want them: the first letters wait for none of these.
const findings = () => import('@jentrix/core/findings');
const superiors = () => import('@jentrix/core/superiors');
const advice = () => import('@jentrix/core/advice');
const formats = () => import('./outlined');

/** The blocks as they were set last. */
const kept = new Map<string, { block: Block; setting: BlockSetting }>();
/** The settings the page was sent last: lines that are still like that need not be sent again. */
const delivered = new Map<string, BlockSetting>();
const loading = new Map<string, Promise<void>>();
/** Glyphs whose outlines the page has, by instance. */
const sent = new Map<string, Set<number>>();

/** Opens a face once. A failure is forgotten, so that the next setting tries again. */
function load(id: string): Promise<void> {
  let promise = loading.get(id);
  if (!promise) {
    promise = (async () => {
      const response = await fetch(`${origin}/api/faces/${id}/file`);
      if (!response.ok) throw new Error(`The face “${id}” can’t be loaded (${response.status})`);
      faces.add(id, await Face.open(new Uint8Array(await response.arrayBuffer())));
      inspector?.forget();
    })();
    promise.catch(() => loading.delete(id));
    loading.set(id, promise);
  }
  return promise;
}

async function loadFor(blocks: readonly Block[]): Promise<void> {
  const needed = new Set(blocks.flatMap(facesOf));
  const wanted = [...needed].filter((id) => known.has(id) && !faces.has(id));
  if (wanted.length > 0) await Promise.allSettled(wanted.map(load));
}

/** The parts of the settings that the page can’t draw yet. */
function newDrawings(settings: readonly BlockSetting[]): [string, InstanceDrawing][] {
  const drawings = new Map<string, InstanceDrawing>();
  for (const run of settings.flatMap(({ lines }) => lines.flatMap(({ runs, mark }) => (mark ? [mark, ...runs] : runs)))) {
    const key = instanceKey(run.style);
    const instance = faces.instance(run.style);
    // A stand-in's glyphs are not remembered as sent: the real face may arrive.
    const had = faces.has(run.style.faceId) ? entry(sent, key, () => new Set<number>()) : new Set<number>();
    for (const { glyphId } of run.glyphs) {
      if (had.has(glyphId)) continue;
      had.add(glyphId);
      const drawing = entry(drawings, key, () => ({ unitsPerEm: instance.unitsPerEm, metrics: instance.metrics, outlines: [] }));
      drawing.outlines.push([glyphId, pathData(instance.outline(glyphId), FONT_UNITS, 2)]);
    }
  }
  return [...drawings];
}

function entry<K, V>(map: Map<K, V>, key: K, make: () => V): V {
  let value = map.get(key);
  if (value === undefined) {
    value = make();
    map.set(key, value);
  }
  return value;
}

const engine: Engine = {
  async start(from, faceIds, standInId) {
    await ready;
    origin = from;
    known = new Set(faceIds);
    faces = new FaceSet(standInId);
    kept.clear();
    delivered.clear();
    sent.clear();
    loading.clear();
    await load(standInId);
  },

  async set({ blocks, focus, lineGapsOf }: SetRequest, taste: Taste): Promise<SentReply> {
    await ready;
    await loadFor(blocks);
    for (const sent of blocks) {
      const before = kept.get(sent.id);
      const block = shareEqual(before?.block, sent);
      kept.set(block.id, { block, setting: withKnownLines(setBlock(block, faces), before?.setting) });
    }
    const settings = blocks.flatMap(({ id }) => kept.get(id)?.setting ?? []);
    const inks: SentReply['inks'] = settings.map((setting) => [setting.blockId, inkOf(setting, faces)]);
    const reply: Omit<SentReply, 'settings'> = { inks, instances: newDrawings(settings) };
    const focused = focus && kept.get(focus.blockId);
    if (focus && focused) {
      const { block, setting } = focused;
      const lineIndex = setting.lines.findIndex((line) => line.start < focus.at && focus.at < line.visibleEnd);
      const line = setting.lines[lineIndex];
      if (line) {
        const ledgers = ledgersOf(block, line, faces, taste);
        const ledger = ledgers.find(({ at }) => at === focus.at);
        reply.focus = { lineIndex, ledgers, white: ledger && whiteOfGap(block, line, ledger, faces) };
      }
    }
    const between = lineGapsOf === undefined ? undefined : kept.get(lineGapsOf);
    if (between) reply.lineGaps = gapsBetweenLines(between.setting, faces);
    const told = settings.map((setting) => leaveOut(setting, delivered.get(setting.blockId)));
    // Only now is nothing left that could fail.
    for (const setting of settings) delivered.set(setting.blockId, setting);
    return { ...reply, settings: told };
  },

  async tryOut(blocks: Block[], judge: Judge): Promise<TrialReply> {
    await ready;
    await loadFor(blocks);
    const { JUDGING, inspectBlock } = await findings();
    const settings = blocks.map((block) => setBlock(block, faces));
    const inspections = blocks.flatMap((block, i) => {
      const setting = settings[i];
      return setting ? [inspectBlock(block, setting, faces, { ...JUDGING, ...judge })] : [];
    });
    return { settings, inspections, instances: newDrawings(settings) };
  },

  async know(faceIds): Promise<void> {
    await ready;
    for (const id of known) if (!faceIds.includes(id)) loading.delete(id);
    known = new Set(faceIds);
  },

  async probe(style, words): Promise<FaceProbe> {
    await ready;
    if (known.has(style.faceId) && !faces.has(style.faceId)) await load(style.faceId);
    const instance = faces.instance(style);
    const letters = [...new Intl.Segmenter('und', { granularity: 'grapheme' }).segment(words)];
    const alternates = letters.length === 1 ? alternatesOf(instance, words) : [];
    return {
      features: liveFeatures(instance, words, style.features),
      alternates: alternates.map((one) => ({
        ...one,
        data: pathData(instance.outline(one.glyphId), FONT_UNITS, 1),
        advance: instance.advance(one.glyphId),
      })),
      namedInstances: instance.face.namedInstances,
      unitsPerEm: instance.unitsPerEm,
    };
  },

  async outlines(blockId, letters): Promise<string> {
    await ready;
    const block = kept.get(blockId);
    if (!block) return '';
    const { letterOutlines } = await formats();
    return letterOutlines(block.block, block.setting, letters, faces);
  },

  async shortLastLines(blocks, { limits }): Promise<ShortLastLineOfBlock[]> {
    await ready;
    await loadFor(blocks);
    const { shortLastLineIn } = await findings();
    return blocks
      .filter((block) => facesOf(block).every((id) => faces.has(id)))
      .flatMap((block) => shortLastLineIn(block, setBlock(block, faces), faces, limits).map((one) => ({ ...one, blockId: block.id })));
  },

  async check(job, judge): Promise<JobCheck> {
    await ready;
    await loadFor(job.sheets.flatMap(({ blocks }) => blocks));
    const { checkJob } = await findings();
    return checkJob(job, faces, { judge });
  },

  async giveWhite(job, from, to): Promise<GivenWhite | undefined> {
    await ready;
    await loadFor(job.sheets.flatMap(({ blocks }) => blocks));
    const { giveWhite } = await import('@jentrix/core/same-white');
    return giveWhite(job, from, to, faces);
  },

  async ledApart(fitted): Promise<Proposal | undefined> {
    await ready;
    await loadFor([fitted]);
    const { ledApart } = await findings();
    return ledApart(fitted, faces);
  },

  async releaseFit(blockId): Promise<Block | undefined> {
    await ready;
    const one = kept.get(blockId);
    return one && releaseFit(one.block, faces);
  },

  async smallForms(style, text, kind, family): Promise<SmallForm[]> {
    await ready;
    if (known.has(style.faceId) && !faces.has(style.faceId)) await load(style.faceId);
    const { smallForms } = await superiors();
    return smallForms(faces.instance(style), text, kind, style, family);
  },

  async advise(style, how): Promise<TrackingCurve> {
    await ready;
    if (known.has(style.faceId) && !faces.has(style.faceId)) await load(style.faceId);
    const { adviseTracking } = await advice();
    const curve = adviseTracking(faces.instance(style), how);
    return {
      points: CURVE_SIZES.map((sizePt) => ({ sizePt, milliem: curve.at(sizePt) })),
      recommended: Math.round(curve.at(style.sizePt)) || 0,
      reasons: curve.reasonsAt(style.sizePt),
      suitsPt: curve.suitsPt,
    };
  },

  async deal(plain, request): Promise<Exercise> {
    await ready;
    const wanted = request.own ? [request.own.faceId] : request.faces.map(({ id }) => id);
    await Promise.allSettled(wanted.filter((id) => known.has(id) && !faces.has(id)).map(load));
    const { dealFrom } = await import('@jentrix/core/drill/dealing');
    return dealFrom(plain, request, faces);
  },

  async sizes(job, sheetId, sizes): Promise<ReturnType<typeof inOtherSizes>> {
    await ready;
    await loadFor(job.sheets.find(({ id }) => id === sheetId)?.blocks ?? []);
    const { inOtherSizes } = await import('@jentrix/core/sizes');
    return inOtherSizes(job, sheetId, sizes, faces, () => crypto.randomUUID());
  },

  async firstCut(job, options): Promise<FirstCut> {
    await ready;
    await loadFor(job.sheets.flatMap(({ blocks }) => blocks));
    // Loaded by those who want it: the first letters don't wait for it.
    const { firstCut, rememberReverted: rememberGivenBack } = await import('@jentrix/core/refine');
    const cut = firstCut(job, faces, options);
    return { ...cut, job: rememberGivenBack(cut) };
  },

  async svg(sheet, blockIds, pictures): Promise<string> {
    await ready;
    const blocks = sheet.blocks.filter(({ id }) => blockIds.includes(id));
    await loadFor(blocks);
    const settings = blocks.map((block) => setBlock(block, faces));
    const { drawSheet, writeSvg } = await formats();
    return writeSvg(drawSheet(sheet, settings), faces, { letters: 'outlines', pictures });
  },

  async inspect({ kind, sheet, blockIds, changed }: InspectRequest, judge: Judge): Promise<InspectReply> {
    await ready;
    const { Inspector, judgingOf } = await findings();
    // The first letters are there: what may be wanted next is at hand then even when the server is not.
    void Promise.allSettled([superiors(), advice(), formats()]);
    const asked = (inspector ??= new Inspector(() => faces));
    // What is on no sheet was only tried.
    const wanted = new Set(blockIds);
    for (const id of kept.keys()) {
      if (wanted.has(id)) continue;
      kept.delete(id);
      delivered.delete(id);
    }
    const blocks = changed.flatMap((id) => {
      const one = kept.get(id);
      return one ? [asked.inspect(one.block, one.setting, judgingOf({ kind }, sheet, judge))] : [];
    });
    return { blocks, sheet: asked.inspectSheet(sheet, blockIds) };
  },
};

Comlink.expose(engine);
