import { ChangeDetectionStrategy, Component, type OnDestroy, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import type { FaceEntry } from '@jentrix/core/api';
import { startPosition } from '@jentrix/core/face';
import { FOUND_KINDS, type FoundKind, isFaceKind, sayKind } from '@jentrix/core/advice';
import { type Job, changeFace, findBlock, resolveBlock, restyle, settleParked } from '@jentrix/core/job';
import { type BlockSetting, type LiveFeature, straightLines } from '@jentrix/core/setting';
import { type LengthUnit, fromPoints } from '@jentrix/core/units';
import { combineLatest, debounceTime, map, switchMap } from 'rxjs';
import { EngineService } from '../../../engine/engine.service';
import type { FaceProbe } from '../../../engine/protocol';
import { FaceText } from '../../../ui/face-text.directive';
import { type ValueChange, ValueField } from '../../../ui/value-field';
import { BenchStore } from '../../bench.store';
import { Instead } from '../../state/instead';
import { FindingsList } from '../findings-list';
import { showSigned, showValue, thickToThin } from '../../../ui/numbers';
import { ChoiceName } from '../../../ui/choice-name.pipe';

const NOTHING: FaceProbe = { features: [], alternates: [], namedInstances: [], unitsPerEm: 1000 };
/** Letters shown of the words in a candidate. */
const SHOWN = 22;

/** The Face pass: candidates in the user's words, the styles that exist, axes, features and alternates. */
@Component({
  selector: 'jx-face-deck',
  imports: [ChoiceName, FaceText, FindingsList, RouterLink, ValueField],
  templateUrl: './face-deck.html',
  styleUrl: './face-deck.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FaceDeck implements OnDestroy {
  protected readonly store = inject(BenchStore);
  private readonly engine = inject(EngineService);
  private readonly instead = inject(Instead);
  private readonly faces = this.engine.list;
  private readonly view = this.store.current.view;
  protected readonly query = signal('');
  protected readonly kinds = FOUND_KINDS;
  protected readonly kindWanted = signal<FoundKind | undefined>(undefined);
  protected readonly onlyLiked = signal(false);
  protected readonly sayKind = sayKind;
  /** The face that is looked at before it is taken, and what it would do to the lines. */
  protected readonly trial = signal<{ faceId: string; says: string } | undefined>(undefined);
  private trying = '';
  protected readonly print = showValue;
  protected readonly thickToThin = thickToThin;

  protected readonly block = this.store.current.block;
  protected readonly style = this.store.current.style;
  protected readonly face = computed(() => this.faces().items.find(({ id }) => id === this.style()?.faceId));
  /** The words that are set: those picked, or the block's. */
  protected readonly words = computed(() => {
    const block = this.block();
    const { selection } = this.view();
    if (!block) return '';
    return selection && selection.end > selection.start ? block.words.slice(selection.start, selection.end) : block.words;
  });
  protected readonly sample = computed(() => (this.words().trim().split('\n')[0] ?? '').slice(0, SHOWN) || 'Hamburgefons');
  /** The styles of the family that there are. */
  protected readonly styles = computed(() => this.faces().items.filter(({ family }) => family === this.face()?.family));
  /** One candidate a family, favourites first. */
  protected readonly candidates = computed(() => {
    const wanted = this.query().toLowerCase().split(/\s+/).filter(Boolean);
    const kind = this.kindWanted();
    const families = new Map<string, FaceEntry[]>();
    for (const face of this.faces().items) families.set(face.family, [...(families.get(face.family) ?? []), face]);
    const weight = this.face()?.anatomy.stem ?? 0.1;
    return [...families.values()]
      .map((faces) => {
        const own = faces.find(({ id }) => id === this.style()?.faceId);
        const near = [...faces].sort((a, b) => Math.abs(a.anatomy.stem - weight) - Math.abs(b.anatomy.stem - weight))[0];
        return { face: own ?? near, liked: faces.some(({ favourite }) => favourite), current: own !== undefined };
      })
      .flatMap(({ face, ...rest }) => (face ? [{ face, ...rest }] : []))
      .filter(({ face }) => wanted.every((word) => `${face.family} ${sayKind(face.anatomy)}`.toLowerCase().includes(word)))
      .filter(({ face, liked }) => (!this.onlyLiked() || liked) && (kind === undefined || isFaceKind(face.anatomy, kind)))
      .sort((a, b) => Number(b.liked) - Number(a.liked) || a.face.family.localeCompare(b.face.family));
  });
  /** Hand kerning that waits for another face. */
  protected readonly parked = computed(() =>
    (this.block()?.parked ?? []).map(({ faceId, hand }) => {
      const face = this.faces().items.find(({ id }) => id === faceId);
      return { faceId, count: hand.length, name: face ? `${face.family} ${face.style}` : faceId };
    }),
  );

  protected readonly probe = toSignal(
    combineLatest([this.store.job$, this.store.view$, this.engine.faces$]).pipe(
      debounceTime(40),
      map(() => ({ style: this.store.style, words: this.words() })),
      switchMap(({ style, words }) => (style && words.trim() ? this.engine.probe(style, words).catch(() => NOTHING) : Promise.resolve(NOTHING))),
    ),
    { initialValue: NOTHING },
  );
  protected readonly groups = computed(() => {
    const groups = new Map<string, LiveFeature[]>();
    for (const feature of this.probe().features) groups.set(feature.group, [...(groups.get(feature.group) ?? []), feature]);
    return [...groups].map(([name, features]) => ({ name, features }));
  });
  protected readonly css = computed(() => {
    const features = this.style()?.features ?? {};
    return (tag: string, on: boolean): string =>
      [...Object.entries({ ...features, [tag]: on ? 1 : 0 })].map(([name, value]) => `"${name}" ${value}`).join(', ');
  });

  protected fileOf(id: string): string {
    return id && `/api/faces/${encodeURIComponent(id)}/file`;
  }

  ngOnDestroy(): void {
    this.endTrial();
  }

  protected take(faceId: string): void {
    const { block } = this.store;
    this.endTrial();
    if (!block || faceId === this.style()?.faceId) return;
    this.store.beforeMuch('face');
    this.store.apply(this.changeTo(faceId, block.id));
  }

  /** The edit that changes the face: the same for trying it on. */
  private changeTo(faceId: string, blockId: string): (job: Job) => Job {
    const { range } = this.store;
    const axes = startPosition(this.faces().items.find(({ id }) => id === faceId)?.axes ?? [], this.store.style?.sizePt ?? 12);
    return (job) => restyle(changeFace(job, blockId, faceId, range), blockId, { axes }, range);
  }

  /** Shows the sheet in a face, and says what it does to widths and breaks; nothing is changed by it. */
  protected async tryOn(faceId: string): Promise<void> {
    const { block, job, sheetSetting } = this.store;
    if (!block || !job || !sheetSetting || this.trying === faceId) return;
    this.trying = faceId;
    const before = sheetSetting.blocks.get(block.id)?.setting;
    const changed = this.changeTo(faceId, block.id)(job);
    const tried = { ...resolveBlock(changed, sheetSetting.sheet.id, findBlock(changed, block.id) ?? block), id: 'face on trial' };
    const { settings } = await this.engine.tryOut([tried]).catch(() => ({ settings: [] as BlockSetting[] }));
    const [setting] = settings;
    // Another may be looked at by now, or the words be others.
    if (!setting || !before || this.trying !== faceId || this.store.job !== job) return;
    this.trial.set({ faceId, says: faceId === this.style()?.faceId ? '' : effectOf(before, setting, sheetSetting.sheet.unit) });
    this.instead.showWith(sheetSetting, { block: { ...tried, id: block.id }, setting: { ...setting, blockId: block.id } });
  }

  protected endTrial(): void {
    this.trying = '';
    this.trial.set(undefined);
    this.instead.end();
  }

  /** Walks the list by keys: each face is looked at, Enter takes it. */
  protected walk(event: Event, list: HTMLElement, by: 1 | -1): void {
    const all = [...list.querySelectorAll<HTMLElement>('.candidate')];
    const at = all.findIndex((one) => one === document.activeElement);
    const next = at < 0 ? (all.find((one) => one.classList.contains('current')) ?? all[0]) : all[at + by];
    event.preventDefault();
    event.stopPropagation();
    next?.focus();
    next?.scrollIntoView({ block: 'nearest' });
  }

  protected settle(faceId: string, use: boolean): void {
    const { block } = this.store;
    if (block) this.store.apply((job) => settleParked(job, block.id, faceId, use));
  }

  protected axisValue(tag: string): number {
    return this.style()?.axes[tag] ?? this.face()?.axes.find((axis) => axis.tag === tag)?.default ?? 0;
  }

  protected setAxis(tag: string, { value, gesture }: ValueChange): void {
    this.store.applyStyle({ axes: { ...this.style()?.axes, [tag]: value } }, gesture);
  }

  protected slide(tag: string, text: string): void {
    this.store.applyStyle({ axes: { ...this.style()?.axes, [tag]: Number(text) } }, `axis-${tag}`);
  }

  protected named(index: string): void {
    const found = this.probe().namedInstances[Number(index)];
    if (found) this.store.applyStyle({ axes: { ...found.values } });
  }

  protected toggle({ tag, on }: LiveFeature): void {
    this.store.applyStyle({ features: { ...this.style()?.features, [tag]: on ? 0 : 1 } });
  }

  /** Takes an alternate for the picked letter; the letter's own glyph takes all its features away. */
  protected alternate(tag: string, value: number): void {
    this.store.applyStyle({ features: tag === '' ? {} : { ...this.store.block?.style.features, [tag]: value } });
  }

  protected isTaken(tag: string, value: number): boolean {
    const features = this.style()?.features ?? {};
    return tag === '' ? this.probe().alternates.every((one) => one.tag === '' || features[one.tag] !== one.value) : features[tag] === value;
  }
}

/** The effect of another face on the lines of a block. */
function effectOf(before: BlockSetting, after: BlockSetting, unit: LengthUnit): string {
  const [was, is] = [before, after].map((setting) => {
    const lines = straightLines(setting);
    return { lines: lines.length, widest: fromPoints(Math.max(0, ...lines.map(({ widthPt }) => widthPt)), unit) };
  });
  if (!was || !is) return '';
  const width = was.widest > 0 ? Math.round((is.widest / was.widest - 1) * 100) : 0;
  const breaks = straightLines(before).some(({ end }, i) => straightLines(after)[i]?.end !== end) || was.lines !== is.lines;
  const lines = breaks ? (was.lines === is.lines ? 'different line breaks' : `${was.lines} → ${is.lines} lines`) : 'same line breaks';
  return `widest line ${showValue(was.widest, 0)} → ${showValue(is.widest, 0)} ${unit} (${showSigned(width, 0)} %), ${lines}`;
}
