import { Injectable, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import type { FaceEntry, FaceList } from '@jentrix/core/api';
import type { DealRequest, Exercise } from '@jentrix/core/drill';
import type { JobCheck, Proposal } from '@jentrix/core/findings';
import type { inOtherSizes } from '@jentrix/core/sizes';
import type { Block, Job, Sheet, SheetPreset, Style, WordRange } from '@jentrix/core/job';
import { judgeOf } from '@jentrix/core/preferences';
import type { FirstCut } from '@jentrix/core/refine';
import type { SmallForm, SmallKind } from '@jentrix/core/superiors';
import type { BlockSetting } from '@jentrix/core/setting';
import type { GapOfJob, GivenWhite, WhiteTarget } from '@jentrix/core/same-white';
import * as Comlink from 'comlink';
import { BehaviorSubject, type Observable, firstValueFrom } from 'rxjs';
import { ApiService } from '../api/api.service';
import { UserPreferences } from '../settings/user-preferences';
import { takeWorker } from './early-worker';
import { putBack } from './same-lines';
import { dataUrl } from './sheet-pixels';
import type {
  Engine,
  FaceProbe,
  InspectReply,
  InspectRequest,
  InstanceDrawing,
  SetReply,
  SetRequest,
  ShortLastLineOfBlock,
  TrackingCurve,
  TrialReply,
} from './protocol';

/** The data to draw a face's glyphs; outlines arrive with the settings that need them. */
export interface FaceDrawing {
  unitsPerEm: number;
  metrics: InstanceDrawing['metrics'];
  outlines: Map<number, string>;
}

/** Errors after which WebAssembly is in no known state: traps, and shaping without an answer. */
const BROKEN = new Set(['RuntimeError', 'ShaperError']);

/** The page's side of the engine: starts the worker once, passes requests on, and keeps the outlines that came back. */
@Injectable({ providedIn: 'root' })
export class EngineService {
  private readonly api = inject(ApiService);
  private readonly preferences = inject(UserPreferences);
  private readonly drawings = new Map<string, FaceDrawing>();
  /** The blocks as the worker sent them last: it leaves out lines that have not changed since. */
  private readonly settings = new Map<string, BlockSetting>();
  private readonly faceList = new BehaviorSubject<FaceList>({ items: [], standInId: '' });
  /** The picture that was put into an SVG last. */
  private picture: { address: string; data: Promise<string> } | undefined;
  private worker: Worker | undefined;
  private starting: Promise<Comlink.Remote<Engine>> | undefined;

  /** The faces the server has. Empty until the engine was first asked for something. */
  readonly faces$: Observable<FaceList> = this.faceList;
  readonly list = toSignal(this.faces$, { requireSync: true });

  get faces(): readonly FaceEntry[] {
    return this.faceList.value.items;
  }

  /** Sets blocks. The drawings that the answer needs are in place when it resolves. */
  async set(request: SetRequest): Promise<SetReply> {
    const reply = await this.ask((engine) => engine.set(request, this.preferences.current.taste));
    this.keep(reply.instances);
    const settings = reply.settings.map((sent) => putBack(sent, this.settings.get(sent.blockId)));
    for (const setting of settings) this.settings.set(setting.blockId, setting);
    return { ...reply, settings };
  }

  /** Sets and measures blocks that are only tried. */
  async tryOut(blocks: Block[]): Promise<TrialReply> {
    const reply = await this.ask((engine) => engine.tryOut(blocks, judgeOf(this.preferences.current)));
    this.keep(reply.instances);
    return reply;
  }

  /** How often outlines have come: what was drawn without them is drawn anew. */
  outlinesCame = 0;

  private keep(instances: SetReply['instances']): void {
    if (instances.length > 0) this.outlinesCame++;
    for (const [key, { unitsPerEm, metrics, outlines }] of instances) {
      const drawing = this.drawings.get(key) ?? { unitsPerEm, metrics, outlines: new Map<number, string>() };
      for (const [glyphId, data] of outlines) drawing.outlines.set(glyphId, data);
      this.drawings.set(key, drawing);
    }
  }

  /** Measures blocks that were set, and asks every rule. */
  async inspect(request: InspectRequest): Promise<InspectReply> {
    const reply = await this.ask((engine) => engine.inspect(request, judgeOf(this.preferences.current)));
    // The worker has let the others go by now.
    const wanted = new Set(request.blockIds);
    for (const id of this.settings.keys()) if (!wanted.has(id)) this.settings.delete(id);
    return reply;
  }

  /** Recommended tracking for a style, over sizes and at its own. */
  async advise(style: Pick<Style, 'faceId' | 'axes' | 'sizePt'>, how: { capitals: boolean; lightOnDark: boolean }): Promise<TrackingCurve> {
    return this.ask((engine) => engine.advise(style, how));
  }

  /** A sheet as SVG with some of its blocks only, its picture inside; a picture that can't be read is left out. */
  async svg(sheet: Sheet, blockIds: readonly string[]): Promise<string> {
    const { background } = sheet;
    const pictures = new Map<string, string>();
    if (background.kind === 'picture') {
      const { pictureId, fit } = background;
      const address = `/api/pictures/${pictureId}?fit=${fit}`;
      if (this.picture?.address !== address) this.picture = { address, data: dataUrl(address) };
      const data = await this.picture.data.catch(() => undefined);
      if (data === undefined) this.picture = undefined;
      else pictures.set(pictureId, data);
    }
    return this.ask((engine) => engine.svg(sheet, blockIds, pictures));
  }

  /** The whole round by measure, without the items that are reverted. */
  async firstCut(job: Job, without: readonly string[] | undefined): Promise<FirstCut> {
    return this.ask((engine) => engine.firstCut(job, { without, judge: judgeOf(this.preferences.current) }));
  }

  /** The outlines of letters as the block was set last, as SVG path data. */
  async outlines(blockId: string, letters: readonly WordRange[]): Promise<string> {
    return this.ask((engine) => engine.outlines(blockId, letters));
  }

  /** The short last lines of blocks, each with what would take it up. */
  async shortLastLines(blocks: readonly Block[]): Promise<ShortLastLineOfBlock[]> {
    return this.ask((engine) => engine.shortLastLines(blocks, judgeOf(this.preferences.current)));
  }

  /** Everything that is found in a job, or in a part of it. */
  async check(job: Job): Promise<JobCheck> {
    return this.ask((engine) => engine.check(job, judgeOf(this.preferences.current)));
  }

  /** Gives the white of a gap to others. */
  async giveWhite(job: Job, from: GapOfJob & { whiteMilliem?: number | undefined }, to: WhiteTarget): Promise<GivenWhite | undefined> {
    return this.ask((engine) => engine.giveWhite(job, from, to));
  }

  /** Leading for a block whose fit would make lines meet. @param fitted the block with its fit, resolved. */
  async ledApart(fitted: Block): Promise<Proposal | undefined> {
    return this.ask((engine) => engine.ledApart(fitted));
  }

  /** A fitted block as it was set last, in the plain values it came to. */
  async letGo(blockId: string): Promise<Block | undefined> {
    return this.ask((engine) => engine.releaseFit(blockId));
  }

  /** The ways to set letters small: the font's own, and made ones. */
  async smallForms(style: Pick<Style, 'faceId' | 'axes' | 'features'>, text: string, kind: SmallKind): Promise<SmallForm[]> {
    const own = this.faces.find(({ id }) => id === style.faceId);
    const siblings = this.faces
      .filter(({ id, family, italic }) => family === own?.family && italic === own.italic && id !== own.id)
      .map(({ id, style: name, anatomy }) => ({ faceId: id, name, stem: anatomy.stem }));
    return this.ask((engine) => engine.smallForms(style, text, kind, siblings));
  }

  /** The design of a sheet in other sizes. */
  async sizes(job: Job, sheetId: string, sizes: readonly SheetPreset[]): Promise<ReturnType<typeof inOtherSizes>> {
    return this.ask((engine) => engine.sizes(job, sheetId, sizes));
  }

  /** Deals an exercise for the eye. @param plain a block with nothing adjusted, to set its words in. */
  async deal(plain: Block, request: DealRequest): Promise<Exercise> {
    return this.ask(async (engine): Promise<Exercise> => engine.deal(plain, request));
  }

  /** The abilities of a face for words. */
  async probe(style: Pick<Style, 'faceId' | 'axes' | 'features'>, words: string): Promise<FaceProbe> {
    return this.ask((engine) => engine.probe(style, words));
  }

  /** Lists the faces anew: some came or went. */
  async refreshFaces(): Promise<void> {
    const engine = await this.engine();
    const list = await firstValueFrom(this.api.listFaces());
    await engine.know(list.items.map(({ id }) => id));
    this.faceList.next(list);
  }

  /** How to draw an instance that a setting uses. */
  drawing(key: string): FaceDrawing | undefined {
    return this.drawings.get(key);
  }

  /** Resolves once the faces are listed and the worker answers; a failure can be tried again. */
  engine(): Promise<Comlink.Remote<Engine>> {
    this.starting ??= this.start().catch((error: unknown) => {
      this.starting = undefined;
      throw error;
    });
    return this.starting;
  }

  /** Asks the engine. A shaper that broke (its memory can't be trusted then) is thrown away, and the question put once more to a new one. */
  private async ask<T>(question: (engine: Comlink.Remote<Engine>) => Promise<T>): Promise<T> {
    try {
      return await question(await this.engine());
    } catch (error) {
      if (!(error instanceof Error) || !BROKEN.has(error.name)) throw error;
      this.worker?.terminate();
      this.starting = undefined;
      this.drawings.clear();
      this.outlinesCame++;
      this.settings.clear();
      return question(await this.engine());
    }
  }

  private async start(): Promise<Comlink.Remote<Engine>> {
    // The worker is loaded while the faces are asked for.
    const listing = firstValueFrom(this.api.listFaces());
    const worker = (this.worker = takeWorker());
    const engine = Comlink.wrap<Engine>(worker);
    const list = await listing.catch((error: unknown) => {
      worker.terminate();
      throw error;
    });
    await engine.start(
      location.origin,
      list.items.map(({ id }) => id),
      list.standInId,
    );
    this.faceList.next(list);
    return engine;
  }
}
