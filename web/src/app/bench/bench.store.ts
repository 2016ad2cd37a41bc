import { Injectable, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { type Finding, type Inspection, acceptFinding, pairOf } from '@jentrix/core/findings';
import {
  type Block,
  type ColourPlace,
  type Frame,
  type Job,
  PLAIN_PARAGRAPH,
  type Sheet,
  type Style,
  type WordRange,
  type WordSpaceLink,
  addBlock,
  createBlock,
  duplicateBlocks,
  findBlock,
  graphemeBoundaries,
  resolveSheet,
  setHand,
  setIntended,
  setSheet,
  setStyle,
  setTracking,
  styleAt,
  withColour,
} from '@jentrix/core/job';
import type { BlockSetting, Box, GapLedger, GapWhite } from '@jentrix/core/setting';
import type { Point } from '@jentrix/core/placing';
import { limitsOf } from '@jentrix/core/preferences';
import { autoLeading } from '@jentrix/core/units';
import { evenness } from '@jentrix/core/spacing';
import { BehaviorSubject, type Observable, Subject, distinctUntilChanged, map, merge, skip } from 'rxjs';
import { EngineService } from '../engine/engine.service';
import type { GapRef, SetRequest } from '../engine/protocol';
import { PreferencesService } from '../ui/preferences.service';
import { type History, endGesture, record, redo, startHistory, undo } from './history';
import type { PassId } from './passes';

/** The line the gap caret stands in, with everything its gaps hold. */
export interface GapLine {
  block: Block;
  lineIndex: number;
  ledgers: GapLedger[];
  /** The white at the caret, as a picture. */
  white: GapWhite | undefined;
}

/** What measuring the current sheet has found. */
export interface SheetFindings {
  inspections: ReadonlyMap<string, Inspection>;
  /** Most visible first. */
  findings: readonly Finding[];
  intended: readonly Finding[];
  /** Of all gaps of the sheet: as they are, and with every proposal taken; 0 to 100. */
  evenness: number | undefined;
  evennessProposed: number | undefined;
}

const NOTHING_FOUND: SheetFindings = { inspections: new Map(), findings: [], intended: [], evenness: undefined, evennessProposed: undefined };

/** What the gap ribbon shows: the line, its three kerning sources, or three letters. */
export type RibbonView = 'line' | 'sources' | 'three';

/** The white of one gap, held to be laid into others. */
export interface WhiteGuide {
  pair: string;
  white: GapWhite;
  sizePt: number;
}

/** What a drag on the sheet can draw. */
export type Drawing = 'block' | 'rule';

/** Where the designer is: sheet, block, gap and pass. Not part of the job, not undone. */
export interface BenchView {
  sheetId: string;
  blockId: string | undefined;
  gap: GapRef | undefined;
  pass: PassId;
  ribbon: RibbonView;
  guide: WhiteGuide | undefined;
  /** More blocks that are moved, ordered and deleted together with the current one. */
  also: readonly string[];
  /** The letters that are picked in the current block's words; settings go to them. Empty where it is a caret. */
  selection: WordRange | undefined;
  /** True while the words are being edited: the sheet then shows the text caret and selection. */
  editing: boolean;
  /** What the next drag on the sheet draws: a new block, or a rule along the picture. */
  drawing: Drawing | undefined;
  /** True while word space keeps its proportion to letter space as tracking changes. */
  linked: boolean;
  /** What the next click on the sheet gives the colour under it to. */
  picking: ColourPlace | undefined;
  /** What the Words deck shows: the block's words, its colour and effects, or the sheet. */
  panel: 'words' | 'colour' | 'sheet';
}

/** The current sheet as set. A block's setting is kept until the engine has answered for its newer state. */
export interface SheetSetting {
  sheet: Sheet;
  settings: ReadonlyMap<string, BlockSetting>;
  /** The ink of blocks, not turned. */
  inks: ReadonlyMap<string, Box>;
  gapLine: GapLine | undefined;
}

/**
 * The one store of the bench. Data flows one way: input, a pure edit, a new job here, the engine, the settings here, the views.
 */
@Injectable()
export class BenchStore {
  private readonly engine = inject(EngineService);
  private readonly preferences = inject(PreferencesService);

  private readonly historySubject = new BehaviorSubject<History<Job> | undefined>(undefined);
  private readonly viewSubject = new BehaviorSubject<BenchView>({
    sheetId: '',
    blockId: undefined,
    gap: undefined,
    pass: 'kerning',
    ribbon: 'line',
    guide: undefined,
    also: [],
    selection: undefined,
    editing: false,
    drawing: undefined,
    linked: false,
    picking: undefined,
    panel: 'words',
  });
  private readonly settingSubject = new BehaviorSubject<SheetSetting | undefined>(undefined);
  private readonly findingsSubject = new BehaviorSubject<SheetFindings>(NOTHING_FOUND);
  private readonly errorSubject = new BehaviorSubject<string | undefined>(undefined);

  /** The blocks the settings were made from, to know what has changed. */
  private setBlocks = new Map<string, Block>();
  private setting = false;
  /** The blocks that were measured, to know which have changed since. */
  private measured = new Map<string, Block>();
  private measuring = false;
  /** Counts the changes, so that one that came while the engine worked is seen. */
  private changes = 0;

  readonly history$ = this.historySubject.asObservable();
  readonly job$: Observable<Job | undefined> = this.historySubject.pipe(
    map((history) => history?.present),
    distinctUntilChanged(),
  );
  readonly view$ = this.viewSubject.asObservable();
  readonly setting$ = this.settingSubject.asObservable();
  readonly findings$ = this.findingsSubject.asObservable();
  /** Why the engine could not set the sheet, while that holds. */
  readonly engineError$ = this.errorSubject.asObservable();

  private readonly moves = toSignal(merge(this.job$, this.view$).pipe(map(() => ({}))));
  /** What is worked on, as signals for the views: the sheet, the block, and the style of the picked letters or of the block. */
  readonly current = {
    sheet: computed(() => this.moves() && this.sheet),
    block: computed(() => this.moves() && this.block),
    style: computed(() => this.moves() && this.style),
  };

  get job(): Job | undefined {
    return this.historySubject.value?.present;
  }

  get view(): BenchView {
    return this.viewSubject.value;
  }

  get sheetSetting(): SheetSetting | undefined {
    return this.settingSubject.value;
  }

  get sheet(): Sheet | undefined {
    return this.job?.sheets.find(({ id }) => id === this.view.sheetId);
  }

  /** The current sheet with pair rules resolved: what is set and measured. */
  get resolvedSheet(): Sheet | undefined {
    const { job, sheet } = this;
    return job && sheet && resolveSheet(job, sheet);
  }

  get findings(): SheetFindings {
    return this.findingsSubject.value;
  }

  /** The block that is worked on. */
  get block(): Block | undefined {
    const { blockId } = this.view;
    return this.job && blockId !== undefined ? findBlock(this.job, blockId) : undefined;
  }

  /** Starts work on a job, with an empty history. */
  open(job: Job): void {
    this.setBlocks.clear();
    this.measured.clear();
    this.findingsSubject.next(NOTHING_FOUND);
    this.historySubject.next(startHistory(job));
    const sheet = job.sheets[0];
    this.viewSubject.next({ ...this.view, sheetId: sheet?.id ?? '', blockId: sheet?.blocks[0]?.id, gap: undefined });
    void this.set();
  }

  /**
   * Makes an edit.
   * @param edit pure; returning the same job means that nothing happened.
   * @param gesture edits that name the same gesture one after the other are one step of undo.
   */
  apply(edit: (job: Job) => Job, gesture?: string): void {
    const history = this.historySubject.value;
    if (!history) return;
    this.change(record(history, edit(history.present), gesture));
  }

  /** Ends the running gesture: the next edit can be undone by itself. */
  endGesture(): void {
    const history = this.historySubject.value;
    if (history) this.change(endGesture(history));
  }

  undo(): void {
    const history = this.historySubject.value;
    if (history) this.change(undo(history));
  }

  redo(): void {
    const history = this.historySubject.value;
    if (history) this.change(redo(history));
  }

  showSheet(sheetId: string): void {
    const sheet = this.job?.sheets.find(({ id }) => id === sheetId);
    if (!sheet || sheetId === this.view.sheetId) return;
    this.setBlocks.clear();
    this.look({ sheetId, blockId: sheet.blocks[0]?.id, gap: undefined, also: [], selection: undefined, editing: false });
  }

  /** Where words should be edited: asked for from the sheet, done by the copy column. */
  readonly editRequests$ = new Subject<{ blockId: string } & WordRange>();

  constructor() {
    // Faces that came or went: everything is set anew, and a missing face heals.
    this.engine.faces$.pipe(skip(1)).subscribe(() => this.retry());
    // Other limits: every rule is asked anew.
    this.preferences.preferences$
      .pipe(
        map((preferences) => JSON.stringify(limitsOf(preferences))),
        distinctUntilChanged(),
        skip(1),
      )
      .subscribe(() => this.retry());
  }

  /** Keeps word space in proportion to letter space from now on, or lets it stay. */
  linkWordSpace(linked: boolean): void {
    this.look({ linked });
  }

  /** How word space follows tracking in the current block. */
  get wordSpaceLink(): WordSpaceLink | undefined {
    const { linked, blockId = '' } = this.view;
    const ownMilliem = this.sheetSetting?.settings.get(blockId)?.wordSpaceMilliem;
    const letterMilliem = this.findings.inspections.get(blockId)?.letterMilliem;
    return !linked || letterMilliem === undefined || ownMilliem === undefined ? undefined : { ownMilliem, letterMilliem };
  }

  /** Tracks the picked letters, or the whole block. */
  track(trackingMilliem: number, gesture?: string): void {
    const { block, range, wordSpaceLink } = this;
    if (block) this.apply((job) => setTracking(job, block.id, trackingMilliem, range, wordSpaceLink), gesture);
  }

  /** The letters settings go to: those picked in the current block, or undefined for the whole block. */
  get range(): WordRange | undefined {
    const { selection } = this.view;
    return selection && selection.end > selection.start ? selection : undefined;
  }

  /** The style of the picked letters' first, or of the block. */
  get style(): Style | undefined {
    const { block, range } = this;
    return block && (range ? styleAt(block, range.start) : block.style);
  }

  /** Changes the style of the picked letters, or of the whole block. */
  applyStyle(change: Partial<Style>, gesture?: string): void {
    const { block, range } = this;
    if (block) this.apply((job) => setStyle(job, block.id, change, range), gesture);
  }

  /** Lets the next click on the sheet give its colour to a place of the style, or not after all. */
  pickColour(place: ColourPlace | undefined): void {
    this.look({ picking: place === this.view.picking ? undefined : place });
  }

  /** Gives a colour that was picked on the sheet to what it was picked for, as one step. */
  takeColour(colour: string): void {
    const { style, view } = this;
    if (style && view.picking) this.applyStyle(withColour(style, view.picking, colour));
    this.look({ picking: undefined });
  }

  /** The blocks that are moved and ordered together. */
  get picked(): string[] {
    const { blockId, also } = this.view;
    return blockId === undefined ? [] : [blockId, ...also];
  }

  /** Lets the next drag on the sheet draw a block or a rule; asked for again, not after all. */
  draw(drawing: Drawing | undefined): void {
    this.look({ drawing: drawing === this.view.drawing ? undefined : drawing, editing: false });
  }

  /** Puts new copy on the sheet in the settings used last, and begins editing its words. */
  addCopy(frame: Frame, words: string): void {
    const { sheet } = this;
    if (!sheet) return;
    const model = this.block ?? sheet.blocks[sheet.blocks.length - 1];
    const id = crypto.randomUUID();
    const block: Block = {
      ...createBlock(id, words, frame, model?.style),
      align: model?.align ?? 'left',
      leading: model?.leading ?? autoLeading(this.preferences.current.autoLeadingFactor),
      paragraph: model?.paragraph ?? PLAIN_PARAGRAPH,
    };
    this.apply((job) => addBlock(job, sheet.id, block));
    this.selectBlock(id);
    this.editWords(id, { start: 0, end: words.length });
  }

  /** Adds a rule to the sheet's guides, in points from its top left. */
  addRule(from: Point, to: Point): void {
    const { sheet } = this;
    if (sheet) this.apply((job) => setSheet(job, sheet.id, { guides: [...sheet.guides, { axis: 'rule', from, to }] }));
  }

  /** Copies the picked blocks; the copies are picked then. */
  duplicatePicked(): void {
    const { picked } = this;
    let ids: string[] = [];
    this.apply((job) => {
      const made = duplicateBlocks(job, picked, () => crypto.randomUUID());
      ids = made.ids;
      return made.job;
    });
    const [first, ...also] = ids;
    if (first !== undefined) this.look({ blockId: first, also, gap: undefined, selection: undefined });
  }

  /** Adds a block to those picked, or takes it from them. */
  pickAlso(blockId: string): void {
    const { blockId: current, also } = this.view;
    if (current === undefined) this.selectBlock(blockId);
    else if (current === blockId) {
      const [next, ...rest] = also;
      this.look({ blockId: next, also: rest, gap: undefined, selection: undefined });
    } else this.look({ also: also.includes(blockId) ? also.filter((id) => id !== blockId) : [...also, blockId] });
  }

  /** Takes where the text caret or selection is; no step of its own. */
  setSelection(blockId: string, selection: WordRange | undefined, editing: boolean): void {
    const { view } = this;
    if (view.blockId !== blockId && editing) this.selectBlock(blockId);
    if (this.view.blockId !== blockId) return;
    const { selection: before } = this.view;
    if (before?.start === selection?.start && before?.end === selection?.end && this.view.editing === editing) return;
    this.viewSubject.next({ ...this.view, selection, editing, gap: editing ? undefined : this.view.gap });
  }

  /** Asks for the words of a block to be edited, with a range picked. */
  editWords(blockId: string, range: WordRange): void {
    this.editRequests$.next({ blockId, ...range });
  }

  showPass(pass: PassId): void {
    this.look({ pass, panel: pass === this.view.pass ? 'words' : this.view.panel });
  }

  /** Shows one side of the Words deck. */
  showPanel(panel: BenchView['panel']): void {
    this.look({ pass: 'words', panel });
  }

  /** Works on a block, or on none. */
  selectBlock(blockId: string | undefined): void {
    this.look({ blockId, gap: undefined, also: [], selection: undefined, editing: false, drawing: undefined, picking: undefined });
  }

  /** Puts the gap caret before code unit `at` of a block, or takes it away. Letters that were picked are let go. */
  placeGap(gap: GapRef | undefined): void {
    const same = gap?.blockId === this.view.blockId;
    this.look(gap ? { blockId: gap.blockId, gap, editing: false, selection: undefined, ...(same ? {} : { also: [] }) } : { gap });
  }

  /** Every gap of the sheet in reading order, line by line and block by block. */
  allGaps(): GapRef[] {
    const current = this.sheetSetting;
    if (!current) return [];
    return current.sheet.blocks.flatMap((block) => {
      const lines = current.settings.get(block.id)?.lines ?? [];
      const boundaries = graphemeBoundaries(block.words);
      return lines.flatMap((line) => {
        const starts = new Set(line.runs.flatMap((run) => run.glyphs.map(({ cluster }) => cluster)));
        return boundaries.filter((at) => at > line.start && at < line.visibleEnd && starts.has(at)).map((at) => ({ blockId: block.id, at }));
      });
    });
  }

  /** Moves the caret to the next (1) or previous (-1) gap; from nowhere, to the first or last of the current block. */
  walk(step: 1 | -1): void {
    const gaps = this.allGaps();
    const { gap, blockId } = this.view;
    if (!gap) {
      const own = gaps.filter((candidate) => candidate.blockId === blockId);
      const from = own.length > 0 ? own : gaps;
      this.placeGap(step === 1 ? from[0] : from[from.length - 1]);
      return;
    }
    const index = gaps.findIndex(({ blockId: id, at }) => id === gap.blockId && at === gap.at);
    const next = index < 0 ? gaps.find(({ blockId: id, at }) => id === gap.blockId && at > gap.at) : gaps[index + step];
    if (next) this.placeGap(next);
  }

  /** Shows the ribbon in a view; asked for again, as a line. */
  showRibbon(ribbon: RibbonView): void {
    this.look({ pass: 'kerning', ribbon: this.view.pass === 'kerning' && this.view.ribbon === ribbon ? 'line' : ribbon });
  }

  /** Holds the white of the gap at the caret as a guide, or lets it go. */
  toggleGuide(): void {
    const gapLine = this.sheetSetting?.gapLine;
    const ledger = gapLine?.ledgers.find(({ at }) => at === this.view.gap?.at);
    if (this.view.guide || !gapLine?.white || !ledger) this.look({ guide: undefined });
    else this.look({ guide: { pair: pairOf(gapLine.block, ledger), white: gapLine.white, sizePt: ledger.sizePt } });
  }

  /** Goes to the next most visible finding of some rules, from the one the caret is at; round to the first. */
  nextFinding(rules: ReadonlySet<string>): void {
    const { gap, blockId } = this.view;
    const findings = this.findings.findings.filter(({ rule }) => rules.has(rule));
    const index = findings.findIndex((finding) => finding.blockId === (gap?.blockId ?? blockId) && finding.at === (gap?.at ?? 0));
    const next = findings[index + 1] ?? findings[0];
    if (next) this.goTo(next);
  }

  /** Brings a finding under the caret: its gap, or its block. */
  goTo({ blockId, at }: Pick<Finding, 'blockId' | 'at'>): void {
    if (at > 0) this.placeGap({ blockId, at });
    else this.selectBlock(blockId);
  }

  /** Takes what a finding proposes. */
  accept(finding: Finding): void {
    this.apply((job) => acceptFinding(job, finding));
  }

  /** Takes what all open findings of a rule propose, as one step. */
  acceptAll(rule: string): void {
    const all = this.findings.findings.filter((finding) => finding.rule === rule);
    this.apply((job) => all.reduce(acceptFinding, job));
  }

  /** Silences a finding as intended, or lets it speak again. */
  intend({ blockId, rule, at }: Finding, intended: boolean): void {
    this.apply((job) => setIntended(job, blockId, rule, at, intended));
  }

  /** Takes the proposal of the gap at the caret: the hand value that brings it to what its shapes propose. */
  takeProposal(): void {
    const { gap } = this.view;
    const ledger = this.sheetSetting?.gapLine?.ledgers.find(({ at }) => at === gap?.at);
    if (!gap || !ledger || ledger.atSpace) return;
    this.apply((job) => setHand(job, gap.blockId, gap.at, ledger.handMilliem - ledger.deviationMilliem));
  }

  private look(change: Partial<BenchView>): void {
    this.endGesture();
    this.viewSubject.next({ ...this.view, ...change });
    void this.set();
  }

  private change(next: History<Job>): void {
    if (next === this.historySubject.value) return;
    this.historySubject.next(next);
    this.keepViewValid();
    void this.set();
  }

  /** After undo or another version: a sheet, block or gap that is gone is let go. */
  private keepViewValid(): void {
    const { job, view } = this;
    if (!job) return;
    const sheet = job.sheets.find(({ id }) => id === view.sheetId) ?? job.sheets[0];
    const block = sheet?.blocks.find(({ id }) => id === view.blockId);
    const gap = view.gap && block?.id === view.gap.blockId && view.gap.at < block.words.length ? view.gap : undefined;
    const also = view.also.filter((id) => sheet?.blocks.some((candidate) => candidate.id === id));
    const length = block?.words.length ?? 0;
    const selection = view.selection && view.selection.end <= length ? view.selection : undefined;
    if (sheet?.id !== view.sheetId || block?.id !== view.blockId || gap !== view.gap || also.length !== view.also.length || selection !== view.selection) {
      this.viewSubject.next({ ...view, sheetId: sheet?.id ?? '', blockId: block?.id, gap, also, selection });
    }
  }

  /** Has the engine set what changed. While it works, later changes wait and are set together, so that it is never behind by more than one. */
  private async set(): Promise<void> {
    this.changes++;
    if (this.setting) return;
    this.setting = true;
    try {
      let done: number;
      do {
        done = this.changes;
        await this.setOnce();
      } while (done !== this.changes);
      this.errorSubject.next(undefined);
    } catch (error) {
      this.errorSubject.next(error instanceof Error ? error.message : 'The sheet can’t be set.');
    } finally {
      this.setting = false;
    }
  }

  private async setOnce(): Promise<void> {
    const { resolvedSheet: sheet, view } = this;
    if (!sheet) return;
    const block = sheet.blocks.find(({ id }) => id === view.blockId);
    const request: SetRequest = { blocks: sheet.blocks.filter((candidate) => this.setBlocks.get(candidate.id) !== candidate) };
    if (view.gap && block) request.focus = { block, at: view.gap.at };
    const reply = await this.engine.set(request);
    const before = this.settingSubject.value?.settings;
    const inksBefore = this.settingSubject.value?.inks;
    const freshInks = new Map(reply.inks);
    const inks = new Map<string, Box>();
    const fresh = new Map(reply.settings.map((setting) => [setting.blockId, setting]));
    const settings = new Map<string, BlockSetting>();
    for (const { id } of sheet.blocks) {
      const setting = fresh.get(id) ?? before?.get(id);
      if (setting) settings.set(id, setting);
      const ink = fresh.has(id) ? freshInks.get(id) : inksBefore?.get(id);
      if (ink) inks.set(id, ink);
    }
    for (const candidate of request.blocks) this.setBlocks.set(candidate.id, candidate);
    const gapLine = reply.focus && block ? { block, ...reply.focus } : undefined;
    this.settingSubject.next({ sheet, settings, inks, gapLine });
    void this.measure(sheet);
  }

  /** Has the engine measure what changed, after it was shown; a failure leaves the findings as they were. */
  private async measure(sheet: Sheet): Promise<void> {
    if (this.measuring) return;
    this.measuring = true;
    try {
      for (let current = sheet; ; current = this.settingSubject.value?.sheet ?? current) {
        const known = this.findings.inspections;
        const changed = current.blocks.filter((block) => this.measured.get(block.id) !== block || !known.has(block.id));
        if (changed.length === 0 && known.size === current.blocks.length) return;
        const fresh = new Map((await this.engine.inspect(changed)).map((inspection) => [inspection.blockId, inspection]));
        const inspections = new Map<string, Inspection>();
        for (const { id } of current.blocks) {
          const inspection = fresh.get(id) ?? known.get(id);
          if (inspection) inspections.set(id, inspection);
        }
        for (const block of changed) this.measured.set(block.id, block);
        this.findingsSubject.next(summarise(inspections));
      }
    } catch {
      // The setting itself tells when the engine fails.
    } finally {
      this.measuring = false;
    }
  }

  /** Sets everything again, after the engine could not. */
  retry(): void {
    this.setBlocks.clear();
    this.measured.clear();
    void this.set();
  }
}

function summarise(inspections: ReadonlyMap<string, Inspection>): SheetFindings {
  const all = [...inspections.values()];
  const ranked = (findings: Finding[]): Finding[] => findings.sort((a, b) => b.visiblePt - a.visiblePt || a.at - b.at);
  return {
    inspections,
    findings: ranked(all.flatMap(({ findings }) => findings)),
    intended: ranked(all.flatMap(({ intended }) => intended)),
    evenness: evenness(all.flatMap(({ deviations }) => deviations)),
    evennessProposed: evenness(all.flatMap(({ proposedDeviations }) => proposedDeviations)),
  };
}
