import { Injectable, inject } from '@angular/core';
import { takeUntilDestroyed, toSignal } from '@angular/core/rxjs-interop';
import { type Block, type Sheet, resolveSheet } from '@jentrix/core/job';
import { type BlockSetting, type Box, type GapLedger, type GapWhite, type LineGap, type SetLine, straightLines } from '@jentrix/core/setting';
import { BehaviorSubject, distinctUntilChanged, map, merge, skip } from 'rxjs';
import { EngineService } from '../../engine/engine.service';
import type { SetRequest } from '../../engine/protocol';
import { PASS_NEEDS } from '../pass-needs';
import { JobHistory } from './job-history';
import { PlaceService } from './place';

/** A block as it was set: its lines count in these words and in no others. */
export interface SetBlock {
  readonly block: Block;
  readonly setting: BlockSetting;
  /** Its ink, not turned. */
  readonly ink: Box | undefined;
}

/** The line the gap caret stands in, with everything its gaps hold. */
export interface GapLine {
  block: Block;
  line: SetLine;
  ledgers: GapLedger[];
  /** The white at the caret, as a picture. */
  white: GapWhite | undefined;
}

/** The current sheet as set, with the blocks it was set from. A block's setting is kept until the engine has answered for its newer state. */
export interface SheetSetting {
  sheet: Sheet;
  blocks: ReadonlyMap<string, SetBlock>;
  gapLine: GapLine | undefined;
  /** The white between the lines of the current block, by ink, while the pass that is up asks for it. */
  lineGaps: readonly LineGap[];
}

/** The engine's settings of the sheet on the table. */
@Injectable()
export class SheetSettings {
  private readonly engine = inject(EngineService);
  private readonly history = inject(JobHistory);
  private readonly place = inject(PlaceService);
  private readonly needs = inject(PASS_NEEDS);

  private readonly subject = new BehaviorSubject<SheetSetting | undefined>(undefined);
  private readonly errorSubject = new BehaviorSubject<string | undefined>(undefined);
  /** The blocks the settings were made from, to know what has changed. */
  private readonly setBlocks = new Map<string, Block>();
  private setting = false;
  /** Counts the changes, so that one that came while the engine worked is seen. */
  private changes = 0;
  private waiting = false;
  private over = false;

  readonly setting$ = this.subject.asObservable();
  readonly current = toSignal(this.setting$, { requireSync: true });
  /** Why the engine could not set the sheet, while that holds. */
  readonly error$ = this.errorSubject.asObservable();
  readonly error = toSignal(this.error$, { requireSync: true });

  constructor() {
    const sheet$ = this.place.place$.pipe(
      map(({ sheetId }) => sheetId),
      distinctUntilChanged(),
      skip(1),
    );
    merge(sheet$, this.history.opened$)
      .pipe(takeUntilDestroyed())
      .subscribe(() => this.setBlocks.clear());
    // Faces that came or went: everything is set anew, and a missing face heals.
    this.engine.faces$.pipe(skip(1), takeUntilDestroyed()).subscribe(() => this.retry());
    merge(this.history.job$, this.place.place$)
      .pipe(takeUntilDestroyed())
      .subscribe({ next: () => this.soon(), complete: () => (this.over = true) });
  }

  get value(): SheetSetting | undefined {
    return this.subject.value;
  }

  /** The current sheet with pair rules resolved: what is set and measured. */
  get sheet(): Sheet | undefined {
    const { job } = this.history;
    const sheet = job?.sheets.find(({ id }) => id === this.place.value.sheetId);
    return job && sheet && resolveSheet(job, sheet);
  }

  /** Sets everything again, after the engine could not, or something it rests on has changed. */
  retry(): void {
    this.setBlocks.clear();
    this.soon();
  }

  /** Several changes of one turn are set together. */
  private soon(): void {
    if (this.waiting) return;
    this.waiting = true;
    queueMicrotask(() => {
      this.waiting = false;
      void this.set();
    });
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
      } while (done !== this.changes && !this.over);
      this.errorSubject.next(undefined);
    } catch (error) {
      this.errorSubject.next(error instanceof Error ? error.message : 'The sheet can’t be set.');
    } finally {
      this.setting = false;
    }
  }

  private async setOnce(): Promise<void> {
    const { sheet } = this;
    if (!sheet || this.over) return;
    const { blockId, gap } = this.place.value;
    const block = sheet.blocks.find(({ id }) => id === blockId);
    const request: SetRequest = { blocks: sheet.blocks.filter((candidate) => this.setBlocks.get(candidate.id) !== candidate) };
    if (gap && block) request.focus = gap;
    if (block && this.needs.get(this.place.value.pass)?.includes('line gaps')) request.lineGapsOf = block.id;
    const reply = await this.engine.set(request);
    const before = this.subject.value;
    const freshInks = new Map(reply.inks);
    const fresh = new Map(reply.settings.map((setting) => [setting.blockId, setting]));
    const blocks = new Map<string, SetBlock>();
    for (const candidate of sheet.blocks) {
      const { id } = candidate;
      const setting = fresh.get(id);
      const set = setting ? { block: candidate, setting, ink: freshInks.get(id) } : before?.blocks.get(id);
      if (set) blocks.set(id, set);
    }
    for (const candidate of request.blocks) this.setBlocks.set(candidate.id, candidate);
    const focused = blocks.get(gap?.blockId ?? '');
    const line = reply.focus && focused && straightLines(focused.setting)[reply.focus.lineIndex];
    const gapLine = reply.focus && focused && line ? { block: focused.block, line, ledgers: reply.focus.ledgers, white: reply.focus.white } : undefined;
    this.subject.next({ sheet, blocks, gapLine, lineGaps: reply.lineGaps ?? [] });
  }
}
