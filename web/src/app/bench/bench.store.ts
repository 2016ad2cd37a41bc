import { Injectable, computed, inject } from '@angular/core';
import { type Finding, acceptFinding, acceptFindings } from '@jentrix/core/findings';
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
  NEW_KERNING,
  createBlock,
  duplicateBlocks,
  findBlock,
  graphemeBoundaries,
  moveBlocks,
  withHand,
  withSilenced,
  withBlockSettings,
  withSheet,
  restyle,
  sheetOf,
  retrack,
  styleAt,
  withColour,
} from '@jentrix/core/job';
import { type Area, type Point, ruleAngle, areaOf, centreIn } from '@jentrix/core/placing';
import type { PullReason } from '@jentrix/core/pulls';
import type { Box } from '@jentrix/core/setting';
import { autoLeading } from '@jentrix/core/units';
import { Subject } from 'rxjs';
import type { GapRef } from '../engine/protocol';
import { UserPreferences } from '../settings/user-preferences';
import { type Gesture, JobHistory } from './state/job-history';
import { FadedMarks } from './state/faded-marks';
import { HandOver } from './state/hand-over';
import { Instead } from './state/instead';
import { Looks } from './state/looks';
import { Pulls } from './state/pulls';
import { FirstCutState } from './first-cut/first-cut.state';
import { LetterPicks } from './state/letter-picks';
import { OwnHand } from './state/own-hand';
import { PathStroke } from './state/path-stroke';
import { type DrawTool, type BenchPlace, PlaceService } from './state/place';
import { type Findings, SheetFindings } from './state/sheet-findings';
import { type SheetSetting, SheetSettings } from './state/sheet-settings';
import { StepNames } from './state/step-names';

/** The parts of the bench's state; each lives as long as the page that provides them. */
export const BENCH_STATE = [
  JobHistory,
  StepNames,
  PlaceService,
  SheetSettings,
  SheetFindings,
  FirstCutState,
  LetterPicks,
  OwnHand,
  PathStroke,
  FadedMarks,
  Instead,
  Looks,
  Pulls,
  HandOver,
];

const blockOf = (job: Job | undefined, { blockId }: BenchPlace): Block | undefined => (job && blockId !== undefined ? findBlock(job, blockId) : undefined);

const rangeOf = ({ selection }: BenchPlace): WordRange | undefined => (selection && selection.end > selection.start ? selection : undefined);

/**
 * The designer's actions at the bench, over the parts of its state. Data flows one way: input, a pure edit, a new job in the
 * history, the engine, the settings, the views.
 */
@Injectable()
export class BenchStore {
  private readonly history = inject(JobHistory);
  private readonly place = inject(PlaceService);
  private readonly settings = inject(SheetSettings);
  private readonly found = inject(SheetFindings);
  private readonly preferences = inject(UserPreferences);
  private readonly hand = inject(OwnHand);

  readonly history$ = this.history.history$;
  readonly job$ = this.history.job$;
  readonly view$ = this.place.place$;
  readonly setting$ = this.settings.setting$;
  readonly findings$ = this.found.findings$;
  readonly engineError$ = this.settings.error$;
  /** Where words should be edited: asked for from the sheet, done by the copy column. */
  readonly editRequests$ = new Subject<{ blockId: string } & WordRange>();

  /** The state as signals: what views read. Style is that of the picked letters, or of the block. */
  readonly current = {
    history: this.history.history,
    job: this.history.current,
    view: this.place.current,
    setting: this.settings.current,
    findings: this.found.current,
    engineError: this.settings.error,
    sheet: computed(() => this.history.current()?.sheets.find(({ id }) => id === this.place.current().sheetId)),
    block: computed(() => blockOf(this.history.current(), this.place.current())),
    style: computed((): Style | undefined => {
      const place = this.place.current();
      const [block, range] = [blockOf(this.history.current(), place), rangeOf(place)];
      return block && (range ? styleAt(block, range.start) : block.style);
    }),
  };

  get job(): Job | undefined {
    return this.history.job;
  }

  get view(): BenchPlace {
    return this.place.value;
  }

  get sheetSetting(): SheetSetting | undefined {
    return this.settings.value;
  }

  get sheet(): Sheet | undefined {
    return this.current.sheet();
  }

  /** The current sheet with pair rules resolved: what is set and measured. */
  get resolvedSheet(): Sheet | undefined {
    return this.settings.sheet;
  }

  get findings(): Findings {
    return this.found.value;
  }

  /** The block that is worked on. */
  get block(): Block | undefined {
    return this.current.block();
  }

  /** Starts work on a job, with an empty history. */
  open(job: Job): void {
    this.history.open(job);
  }

  /** Takes up what others made; see `JobHistory.rebase`. */
  rebase(job: Job, change: (state: Job) => Job): void {
    this.history.rebase(job, change);
  }

  /** Makes an edit; see `JobHistory.apply`. */
  apply(edit: (job: Job) => Job, gesture?: string): void {
    this.history.apply(edit, gesture);
  }

  /** Begins a drag or another gesture; see `JobHistory.begin`. */
  begin(): Gesture {
    return this.history.begin();
  }

  /** Says that the next edit changes much at once: the job as it is now is kept. */
  beforeMuch(reason: PullReason): void {
    this.history.beforeMuch(reason);
  }

  endGesture(): void {
    this.history.endGesture();
  }

  undo(): void {
    this.history.undo();
  }

  redo(): void {
    this.history.redo();
  }

  /** Sets everything again, after the engine could not. */
  retry(): void {
    this.settings.retry();
  }

  showSheet(sheetId: string): void {
    const sheet = this.job?.sheets.find(({ id }) => id === sheetId);
    if (!sheet || sheetId === this.view.sheetId) return;
    this.place.go({ sheetId, blockId: sheet.blocks[0]?.id, gap: undefined, also: [], selection: undefined, editing: false });
  }

  /** Tracks the picked letters, or the whole block. @param link takes the word space along. */
  track(trackingMilliem: number, link?: WordSpaceLink, gesture?: string): void {
    const { block, range } = this;
    if (block) this.apply((job) => retrack(job, block.id, trackingMilliem, range, link), gesture);
  }

  /** The letters settings go to: those picked in the current block, or undefined for the whole block. */
  get range(): WordRange | undefined {
    return rangeOf(this.view);
  }

  /** The style of the picked letters' first, or of the block. */
  get style(): Style | undefined {
    return this.current.style();
  }

  /** Changes the style of the picked letters, or of the whole block. */
  applyStyle(change: Partial<Style>, gesture?: string): void {
    const { block, range } = this;
    if (block) this.apply((job) => restyle(job, block.id, change, range), gesture);
  }

  /** Lets the next click on the sheet give its colour to a place of the style, or not after all. */
  pickColour(place: ColourPlace | undefined): void {
    this.place.go({ picking: place === this.view.picking ? undefined : place });
  }

  /** Gives a colour that was picked on the sheet to what it was picked for, as one step. */
  takeColour(colour: string): void {
    const { style, view } = this;
    if (style && view.picking) this.applyStyle(withColour(style, view.picking, colour));
    this.place.go({ picking: undefined });
  }

  /** The blocks that are moved and ordered together. */
  get picked(): string[] {
    const { blockId, also } = this.view;
    return blockId === undefined ? [] : [blockId, ...also];
  }

  /** Lets the next drag on the sheet draw a block or a rule; asked for again, not after all. */
  draw(drawing: DrawTool | undefined): void {
    this.place.go({ drawing: drawing === this.view.drawing ? undefined : drawing, editing: false });
  }

  /** Puts new copy on the sheet in the settings used last, and begins editing its words. */
  addCopy(frame: Frame, words: string, change: (job: Job, blockId: string) => Job = (job) => job): void {
    const { sheet } = this;
    if (!sheet) return;
    const model = this.block ?? sheet.blocks[sheet.blocks.length - 1];
    const id = crypto.randomUUID();
    const block: Block = {
      ...createBlock(id, words, frame, model?.style ?? { kerning: NEW_KERNING }),
      align: model?.align ?? 'left',
      leading: model?.leading ?? autoLeading(this.preferences.current.autoLeadingFactor),
      paragraph: model?.paragraph ?? PLAIN_PARAGRAPH,
    };
    this.apply((job) => change(addBlock(job, sheet.id, block), id));
    this.selectBlock(id);
    this.editWords(id, { start: 0, end: words.length });
  }

  /** Adds a rule to the sheet's guides, in points from its top left. */
  addRule(from: Point, to: Point): void {
    const { sheet } = this;
    if (sheet) this.apply((job) => withSheet(job, sheet.id, { guides: [...sheet.guides, { axis: 'rule', from, to }] }));
  }

  /** Turns the current block so that its lines run along something on the picture, to a tenth of a degree. */
  turnAlong(from: Point, to: Point): void {
    const { block } = this;
    if (block && !block.locked) this.apply((job) => withBlockSettings(job, block.id, { rotationDeg: Math.round(ruleAngle({ from, to }) * 10) / 10 }));
  }

  /** Brings the picked blocks to where the ink of the current one stands in the middle of an area, across, up and down, or both. */
  centreIn(area: Area | Box, axis: 'x' | 'y' | 'both'): void {
    const { sheet, block, picked } = this;
    const ink = this.settings.value?.blocks.get(block?.id ?? '')?.ink;
    if (!sheet || !ink) return;
    const { xPt, yPt } = centreIn(ink, typeof area === 'string' ? areaOf(sheet, area) : area, axis);
    this.apply((job) => moveBlocks(job, picked, xPt, yPt));
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
    if (first !== undefined) this.place.go({ blockId: first, also, gap: undefined, selection: undefined });
  }

  /** Adds a block to those picked, or takes it from them. */
  pickAlso(blockId: string): void {
    const { blockId: current, also } = this.view;
    if (current === undefined) this.selectBlock(blockId);
    else if (current === blockId) {
      const [next, ...rest] = also;
      this.place.go({ blockId: next, also: rest, gap: undefined, selection: undefined });
    } else this.place.go({ also: also.includes(blockId) ? also.filter((id) => id !== blockId) : [...also, blockId] });
  }

  /** Takes where the text caret or selection is; no step of its own. */
  setSelection(blockId: string, selection: WordRange | undefined, editing: boolean): void {
    const { view } = this;
    if (view.blockId !== blockId && editing) this.selectBlock(blockId);
    if (this.view.blockId !== blockId) return;
    const { selection: before } = this.view;
    if (before?.start === selection?.start && before?.end === selection?.end && this.view.editing === editing) return;
    this.place.keep({ selection, editing, gap: editing ? undefined : this.view.gap });
  }

  /** Asks for the words of a block to be edited, with a range picked. */
  editWords(blockId: string, range: WordRange): void {
    this.editRequests$.next({ blockId, ...range });
  }

  showPass(pass: string): void {
    this.place.showPass(pass);
  }

  /** Works on a block, or on none. */
  selectBlock(blockId: string | undefined): void {
    this.place.go({ blockId, gap: undefined, also: [], selection: undefined, editing: false, drawing: undefined, picking: undefined });
  }

  /** Puts the gap caret before code unit `at` of a block, or takes it away. Letters that were picked are unpicked. */
  placeGap(gap: GapRef | undefined): void {
    const same = gap?.blockId === this.view.blockId;
    this.place.go(gap ? { blockId: gap.blockId, gap, editing: false, selection: undefined, ...(same ? {} : { also: [] }) } : { gap });
  }

  /** Every gap of the sheet in reading order, line by line and block by block. */
  allGaps(): GapRef[] {
    const current = this.sheetSetting;
    if (!current) return [];
    return [...current.blocks.values()].flatMap(({ block, setting: { lines } }) => {
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

  /** Goes to the next most visible finding of some rules, from the one the caret is at; round to the first. */
  nextFinding(findings: readonly Finding[]): void {
    const { gap, blockId } = this.view;
    const index = findings.findIndex((finding) => finding.blockId === (gap?.blockId ?? blockId) && finding.at === (gap?.at ?? 0));
    const next = findings[index + 1] ?? findings[0];
    if (next) this.goTo(next);
  }

  /** Brings a finding under the caret: its gap, or its block. */
  goTo({ blockId, at }: Pick<Finding, 'blockId' | 'at'>): void {
    const sheet = this.job && blockId !== undefined ? sheetOf(this.job, blockId) : undefined;
    if (sheet && sheet.id !== this.view.sheetId) this.showSheet(sheet.id);
    if (at > 0 && blockId !== undefined) this.placeGap({ blockId, at });
    else this.selectBlock(blockId);
  }

  /** Takes what a finding proposes, if it still holds. */
  accept(finding: Finding): void {
    this.found.whenFresh(({ findings }) => {
      const same = findings.find(
        ({ rule, blockId, at, subject }) => rule === finding.rule && blockId === finding.blockId && at === finding.at && subject === finding.subject,
      );
      if (!same) return;
      this.apply((job) => acceptFinding(job, same));
      this.hand.judged(same.judged, true);
    });
  }

  /** Takes what all open findings of a rule propose, as one step. */
  acceptAll(rule: string): void {
    this.acceptWhere((finding) => finding.rule === rule);
  }

  /** Takes what all open findings of a pass propose on this sheet, as one step. */
  acceptPass(pass: string): void {
    this.acceptWhere((finding) => finding.pass === pass);
  }

  private acceptWhere(test: (finding: Finding) => boolean): void {
    this.found.whenFresh(({ findings }) => {
      const all = findings.filter((finding) => finding.proposal && test(finding));
      if (all.length === 0) return;
      this.history.beforeMuch('mend');
      this.apply((job) => acceptFindings(job, all));
    });
  }

  /** Silences a finding as intended, or lets it speak again. */
  intend({ blockId, rule, at, judged }: Finding, intended: boolean): void {
    if (blockId === undefined) return;
    this.apply((job) => withSilenced(job, blockId, rule, at, intended));
    if (intended) this.hand.judged(judged, false);
  }

  /** Takes the proposal of the gap at the caret: the hand value that brings it to what its shapes propose. */
  takeProposal(): void {
    const { gap } = this.view;
    const ledger = this.sheetSetting?.gapLine?.ledgers.find(({ at }) => at === gap?.at);
    if (!gap || !ledger || ledger.atSpace) return;
    this.apply((job) => withHand(job, gap.blockId, gap.at, ledger.handMilliem - ledger.deviationMilliem));
  }
}
