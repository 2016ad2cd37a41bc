import { Injectable, computed, inject } from '@angular/core';
import { type Block, type Reference, resolveBlock, updateBlock, withSheet } from '@jentrix/core/job';
import type { WordsReading } from '@jentrix/core/reading';
import {
  type Differences,
  type ReferenceLine,
  type ReferencePlace,
  TAKES,
  type Take,
  type TypeRead,
  referenceDifferences,
  fittedPlace,
  movedOntoReference,
  placedByPairs,
  readLinesOnSheet,
  setLinesOnSheet,
  takeReading,
  typeRead,
} from '@jentrix/core/reference';
import { type BlockSetting, setLettersOf } from '@jentrix/core/setting';
import { turnedPoint, middleOf } from '@jentrix/core/placing';
import { firstValueFrom } from 'rxjs';
import { ApiService } from '../../../api/api.service';
import { ToastService, messageOf } from '../../../ui/toasts';
import { BenchStore } from '../../bench.store';
import { References } from '../../state/references';
import { PictureReader } from './picture-reader';

/** The reference of the sheet: laid, read, and compared with the block that is worked on. */
@Injectable()
export class Matching {
  private readonly store = inject(BenchStore);
  private readonly references = inject(References);
  private readonly api = inject(ApiService);
  private readonly toasts = inject(ToastService);
  readonly reader = inject(PictureReader);
  private readonly setting = this.store.current.setting;

  readonly sheet = this.store.current.sheet;
  readonly reference = computed(() => this.sheet()?.reference ?? undefined);
  readonly block = this.store.current.block;
  /** The sheet that is the reference is not there any more. */
  readonly gone = computed(() => this.reference()?.of.kind === 'sheet' && this.references.shown() === null);

  /** The reading of the picture that lies there. */
  readonly found = computed(() => {
    const [found, reference] = [this.references.found(), this.reference()];
    return found && reference?.of.kind === 'picture' && reference.of.pictureId === found.pictureId ? found : undefined;
  });
  /** The words as they were read, while they are still those of the block. */
  readonly words = computed((): { block: Block; read: WordsReading; place: ReferencePlace } | undefined => {
    const [found, block, reference] = [this.found(), this.block(), this.reference()];
    const read = found?.read.words;
    if (!read || !block || !reference || found.blockId !== block.id || plain(found.words) !== plain(block.words)) return undefined;
    return { block, read, place: { ...reference, scale: reference.scale / found.perPixel } };
  });
  readonly type = computed((): TypeRead | undefined => {
    const words = this.words();
    return words && typeRead(words.read, words.place);
  });

  /** The lines that the block is compared with: read in the picture, or those of the same words on the other sheet. */
  private readonly lines = computed((): readonly ReferenceLine[] | undefined => {
    const words = this.words();
    if (words) return readLinesOnSheet(words.read, words.place);
    const [shown, block, reference] = [this.references.shown(), this.block(), this.reference()];
    if (!block || reference?.of.kind !== 'sheet' || shown?.sheet.id !== reference.of.sheetId) return undefined;
    const like =
      shown.blocks.find((one) => one.block.id === block.id && plain(one.block.words) === plain(block.words)) ??
      shown.blocks.find((one) => plain(one.block.words) === plain(block.words));
    return like && setLinesOnSheet(like.block, like.setting, reference);
  });
  private readonly set = computed((): { block: Block; setting: BlockSetting } | undefined => {
    const block = this.block();
    return block && this.setting()?.blocks.get(block.id);
  });
  /** How the block differs, as it is set now. */
  readonly differences = computed((): Differences | undefined => {
    const [lines, set] = [this.lines(), this.set()];
    return lines && set ? referenceDifferences(set.block, set.setting, lines) : undefined;
  });

  /** Lays a picture: sent to the server, fitted into the sheet, half transparent. */
  async layPicture(file: File): Promise<void> {
    await this.toasts.trying(async () => {
      const { id, width, height } = await firstValueFrom(this.api.keepPicture(file));
      this.lay({ kind: 'picture', pictureId: id, widthPx: width, heightPx: height }, { width, height });
    }, 'The picture could not be sent.');
  }

  /** Lays a sheet of this job, as it is or as it was in a pull, or of another one. */
  laySheet(from: { jobId?: string; pullId?: string }, sheetId: string): void {
    this.lay({ kind: 'sheet', jobId: from.jobId ?? null, pullId: from.pullId ?? null, sheetId }, undefined);
  }

  private lay(of: Reference['of'], size: { width: number; height: number } | undefined): void {
    const sheet = this.sheet();
    if (!sheet) return;
    const place = size ? fittedPlace(size, sheet) : { xPt: 0, yPt: 0, scale: 1, turnDeg: 0 };
    const { opacity = 0.5, side = 'under' } = this.reference() ?? {};
    this.put({ of, ...place, opacity, side, locked: false });
  }

  change(change: Partial<Reference>, gesture?: string): void {
    const reference = this.reference();
    if (reference) this.put({ ...reference, ...change }, gesture);
  }

  takeAway(): void {
    this.references.pairing.set(undefined);
    this.put(null);
  }

  /** As large as fits, in the middle of the sheet. */
  fit(): void {
    const [reference, sheet, shown] = [this.reference(), this.sheet(), this.references.shown()];
    if (!reference || !sheet) return;
    const { of } = reference;
    const size = of.kind === 'picture' ? { width: of.widthPx, height: of.heightPx } : shown && { width: shown.sheet.widthPt, height: shown.sheet.heightPt };
    if (size) this.change(fittedPlace(size, sheet));
  }

  private put(reference: Reference | null, gesture?: string): void {
    const sheet = this.sheet();
    if (sheet) this.store.apply((job) => withSheet(job, sheet.id, { reference }), gesture);
  }

  endGesture(): void {
    this.store.endGesture();
  }

  /** Begins to pick places in pairs, or stops it. */
  pair(): void {
    this.references.pairing.update((points) => (points ? undefined : []));
  }

  /** Reads the picture, and looks for the words of the block that is worked on. */
  async read(): Promise<void> {
    const [reference, block, sheet, job] = [this.reference(), this.block(), this.sheet(), this.store.job];
    if (reference?.of.kind !== 'picture' || !sheet || !job) return;
    const { pictureId } = reference.of;
    try {
      const result = await this.reader.read(reference.of, block && resolveBlock(job, sheet.id, block));
      if (result) this.references.found.set({ pictureId, blockId: block?.id, words: block?.words ?? '', ...result });
    } catch (error) {
      this.toasts.fail(messageOf(error, 'The picture can’t be read right now.'));
    }
  }

  /** Gives the block what was read; with everything it also comes to stand where it stands in the picture, once it is set so. */
  take(takes: readonly Take[] = TAKES): void {
    const words = this.words();
    if (words) this.store.apply((job) => updateBlock(job, words.block.id, (block) => takeReading(block, words.read, words.place, takes)));
  }

  /** Moves the block so that its first letter stands where it stands in the picture. */
  moveOnto(): void {
    const [words, set] = [this.words(), this.set()];
    if (words && set) this.store.apply((job) => updateBlock(job, words.block.id, (block) => movedOntoReference(block, set.setting, words.read, words.place)));
  }

  /** Lays the reference so that its first line lies on that of the block: as long, and along it. */
  layOnBlock(): void {
    const [reference, lines, set] = [this.reference(), this.lines(), this.set()];
    const [line] = set?.setting.lines ?? [];
    const theirs = lines?.[0]?.letters;
    if (!reference || !set || !line || !theirs) return;
    const around = middleOf(set.setting.frame);
    const pairs = setLettersOf(line).flatMap((letter) => {
      const from = theirs.find(({ at }) => at === letter.start);
      return from ? [{ from, to: turnedPoint({ xPt: letter.leftPt, yPt: line.baselinePt }, around, set.block.rotationDeg) }] : [];
    });
    const [first, last] = [pairs[0], pairs[pairs.length - 1]];
    const placed = first && placedByPairs(reference, last === first ? [first] : [first, last]);
    if (placed) this.change(placed);
  }

  /** Goes to a place in the block. */
  show(at: number): void {
    const block = this.block();
    if (block) this.store.goTo({ blockId: block.id, at });
  }
}

/** Words, wherever their lines break. */
const plain = (words: string): string => words.replaceAll('\n', ' ');
