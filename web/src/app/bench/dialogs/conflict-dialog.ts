import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { type BlockDrawing, baseColour, drawBlock } from '@jentrix/core/drawing';
import { type Block, type Job, allBlocks, findBlock, resolveBlock, sameValue, sheetOf } from '@jentrix/core/job';
import type { Clash } from '@jentrix/core/merge';
import type { BlockSetting } from '@jentrix/core/setting';
import { NgbActiveModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { switchMap } from 'rxjs';
import { EngineService } from '../../engine/engine.service';
import { Drawing } from '../../drawing/drawing';
import type { SaveState } from '../save.service';

/** Two versions of one job: tells how they differ and lets the designer choose. Closes with `mine`, `theirs` or `both`. */
@Component({
  selector: 'jx-conflict-dialog',
  imports: [DatePipe, Drawing],
  template: `
    <div class="modal-header">
      <h2 class="modal-title fs-5" id="conflict-title">
        @if (theirs()) {
          Someone else changed this too
        } @else {
          This job is no longer on the shelf
        }
      </h2>
    </div>
    <div class="modal-body">
      @if (theirs(); as theirs) {
        <p i18n="@@conflictDialog.anotherWindowOrPersonSaved">
          Another window or person saved this job at {{ theirs.updatedAt | date: 'HH:mm:ss' }} and changed what you were editing. Choose which version to keep.
          All other changes stay, yours and theirs.
        </p>
        @if (kept() !== undefined) {
          <p class="quiet" role="status">
            {{ kept() ? 'Both versions are kept as pulls in Proof.' : 'The pulls can’t be kept right now. Jentrix tries again when you choose.' }}
          </p>
        }
        @if (pictures(); as pictures) {
          <div class="pictures">
            @for (picture of pictures; track picture.id) {
              @for (side of picture.sides; track side.name) {
                <figure>
                  <svg [attr.viewBox]="picture.box" [style.background]="picture.ground" role="img" [attr.aria-label]="side.name + ': ' + side.words">
                    <g [jxDrawing]="side.nodes"></g>
                  </svg>
                  <figcaption>{{ side.name }}</figcaption>
                </figure>
              }
            }
          </div>
        }
        <ul>
          @for (difference of differences(); track $index) {
            <li>{{ difference }}</li>
          }
        </ul>
      } @else {
        <p i18n="@@conflictDialog.someoneMovedItToThe">Someone moved it to the trash while you were editing. Your version is kept in this browser.</p>
      }
    </div>
    <div class="modal-footer">
      <button i18n="@@conflictDialog.saveMineAsCopy" type="button" class="btn btn-outline-dark" (click)="modal.close('both')">Save mine as copy</button>
      @if (theirs()) {
        <button i18n="@@conflictDialog.keepTheirs" type="button" class="btn btn-outline-dark" (click)="modal.close('theirs')">Keep theirs</button>
      }
      <button type="button" class="btn btn-dark" (click)="modal.close('mine')">{{ theirs() ? 'Keep mine' : 'Restore with my edits' }}</button>
    </div>
  `,
  styles: `
    .pictures {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 10px;
      margin-bottom: 14px;
    }
    figure {
      margin: 0;
      background: var(--jx-sheet);
      border: 1px solid var(--jx-rule);
      border-radius: 3px;
      padding: 8px;
    }
    svg {
      display: block;
      width: 100%;
      height: 110px;
    }
    figcaption {
      font-size: 12px;
      color: var(--jx-quiet);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ConflictDialog {
  protected readonly modal = inject(NgbActiveModal);
  private readonly engine = inject(EngineService);
  readonly state = signal<SaveState | undefined>(undefined);
  readonly mine = signal<Job | undefined>(undefined);
  /** Whether both are kept as pulls; undefined until that is known. */
  readonly kept = signal<boolean | undefined>(undefined);

  private readonly clashes = computed(() => {
    const state = this.state();
    return state?.kind === 'conflict' ? state.clashes : [];
  });
  protected readonly theirs = computed(() => {
    const state = this.state();
    return state?.kind === 'conflict' ? state.theirs : undefined;
  });
  /** The blocks that both have in another way, as they look in each. */
  protected readonly pictures = toSignal(
    toObservable(computed(() => ({ mine: this.mine(), theirs: this.theirs()?.job, clashes: this.clashes() }))).pipe(
      switchMap(async ({ mine, theirs, clashes }) => (mine && theirs ? sheetPicturesOf(mine, theirs, clashes, this.engine).catch(() => undefined) : undefined)),
    ),
  );
  protected readonly differences = computed(() => {
    const mine = this.mine();
    const theirs = this.theirs()?.job;
    return mine && theirs ? describeDifferences(mine, theirs, this.clashes()) : [];
  });
}

/** How many blocks are shown. */
const MOST_SHOWN = 2;

interface ComparedBlock {
  id: string;
  /** The area shown of both, at one scale. */
  box: string;
  /** The colour of the sheet under it. */
  ground: string;
  sides: { name: string; words: string; nodes: BlockDrawing['nodes'] }[];
}

/** Whether both changed a block, or may have. */
const concerns = (clashes: readonly Clash[], blockId: string): boolean =>
  clashes.length === 0 || clashes.some((clash) => clash.kind === 'block' && clash.id === blockId);

/** Blocks that both changed, set as each version has them. */
async function sheetPicturesOf(mine: Job, theirs: Job, clashes: readonly Clash[], engine: EngineService): Promise<ComparedBlock[]> {
  const found = allBlocks(mine).flatMap((own) => {
    const other = findBlock(theirs, own.id);
    const sheet = sheetOf(mine, own.id);
    if (!sheet || !other || !concerns(clashes, own.id) || sameValue(own, other)) return [];
    return [{ ground: baseColour(sheet.background), own: resolveBlock(mine, sheet.id, own), other: resolveBlock(theirs, sheet.id, other) }];
  });
  const shown = found.slice(0, MOST_SHOWN);
  const { settings } = await engine.tryOut(
    shown.flatMap(({ own, other }) => [
      { ...own, id: `mine-${own.id}` },
      { ...other, id: `theirs-${own.id}` },
    ]),
  );
  return shown.flatMap(({ own, other, ground }, i): ComparedBlock[] => {
    const [first, second] = [settings[2 * i], settings[2 * i + 1]];
    if (!first || !second) return [];
    const frames = [first.frame, second.frame];
    const [left, top] = [Math.min(...frames.map(({ xPt }) => xPt)), Math.min(...frames.map(({ yPt }) => yPt))];
    const width = Math.max(...frames.map(({ xPt, widthPt }) => xPt + widthPt)) - left;
    const height = Math.max(...frames.map(({ yPt, heightPt }) => yPt + heightPt)) - top;
    const side = (name: string, block: Block, setting: BlockSetting) => ({ name, words: block.words, nodes: drawBlock(block, setting).nodes });
    return [
      {
        id: own.id,
        ground,
        box: [left, top, Math.max(1, width), Math.max(1, height)].join(' '),
        sides: [side('Mine', own, first), side('Theirs', other, second)],
      },
    ];
  });
}

/** Says which blocks differ between two versions, by their first words. @param clashes what of it both changed; without any, all is told */
export function describeDifferences(mine: Job, theirs: Job, clashes: readonly Clash[] = []): string[] {
  const said: string[] = [];
  const titles = clashes.length === 0 || clashes.some((clash) => clash.kind === 'job' && clash.field === 'title');
  for (const clash of clashes) {
    if (clash.kind === 'job' && clash.field !== 'title') said.push(`Both changed the ${clash.field} of the job.`);
    if (clash.kind === 'sheet') said.push(`Both changed the sheet “${mine.sheets.find(({ id }) => id === clash.id)?.name ?? ''}”: ${clash.field}.`);
  }
  if (titles && mine.title !== theirs.title) said.push(`The title: mine “${mine.title}”, theirs “${theirs.title}”.`);
  const blocks = (job: Job) => new Map(job.sheets.flatMap((sheet) => sheet.blocks.map((block) => [block.id, block] as const)));
  const own = blocks(mine);
  const other = blocks(theirs);
  const name = (words: string): string => `“${words.split('\n')[0]?.slice(0, 40) ?? ''}”`;
  for (const [id, block] of own) {
    if (!concerns(clashes, id)) continue;
    const counterpart = other.get(id);
    if (!counterpart) said.push(`Only in mine: ${name(block.words)}.`);
    else if (!sameValue(block, counterpart)) {
      said.push(
        block.words === counterpart.words
          ? `Different settings: ${name(block.words)}.`
          : `Different words: mine ${name(block.words)}, theirs ${name(counterpart.words)}.`,
      );
    }
  }
  for (const [id, block] of other) if (!own.has(id) && concerns(clashes, id)) said.push(`Only in theirs: ${name(block.words)}.`);
  return said.length > 0 ? said : ['They differ only in sheets or order.'];
}
