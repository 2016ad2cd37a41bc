import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, signal } from '@angular/core';
import { PICKS, type ShiftKey, type ShiftNumber, type Style, type WordRange, resetLetters, restyleLetters, shiftedLetters, styleAt } from '@jentrix/core/job';
import { type SetLetter, type SetLine, setLettersOf, straightLines } from '@jentrix/core/setting';
import { parseMilliem } from '@jentrix/core/units';
import { EngineService } from '../../../engine/engine.service';
import { instanceKey } from '../../../engine/protocol';
import { ColourField } from '../../../ui/colour-field';
import { Glyphs } from '../../../drawing/glyphs';
import { showSigned, showValue } from '../../../ui/numbers';
import { UserPreferences } from '../../../settings/user-preferences';
import { pressAndDrag } from '../../../ui/press-and-drag';
import { SizeDirective } from '../../../ui/size.directive';
import { ToastService } from '../../../ui/toasts';
import { type ValueChange, ValueField } from '../../../ui/value-field';
import { BenchStore } from '../../bench.store';
import { LetterPicks } from '../../state/letter-picks';
import { FindingsList } from '../findings-list';
import { EndsPanel } from './ends-panel';
import { PathPanel } from './path-panel';
import { SmallForms } from './small-forms';
import { ChoiceName } from '../../../ui/choice-name.pipe';

/** Room around the letters of the strip, in pixels; on the left the heights are named. */
const ROOM = 28;
const NAMES = 52;
/** Two names of lines stand at least this far apart. */
const NAME_HIGH = 12;
/** A line's height in the strip, in its type size: above its baseline, and in all. */
const OVER = 1.05;
const HIGH = 1.5;

/** A value of the picked letters as a field shows it. */
interface ShiftField {
  key: ShiftNumber;
  /** A second property that gets the same value. */
  also?: ShiftNumber;
  label: string;
  unit: string;
  /** The shown value for 1 of the property's own unit. */
  times: number;
  fine: number;
  coarse: number;
  min: number;
  max: number;
}

/** The Shift pass: the letter strip, and the values of the letters that are picked on it. */
@Component({
  selector: 'jx-shift-deck',
  imports: [ChoiceName, ColourField, EndsPanel, FindingsList, Glyphs, PathPanel, SizeDirective, SmallForms, ValueField],
  templateUrl: './shift-deck.html',
  styleUrl: './shift-deck.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ShiftDeck {
  protected readonly store = inject(BenchStore);
  protected readonly letters = inject(LetterPicks);
  private readonly engine = inject(EngineService);
  private readonly toasts = inject(ToastService);
  private readonly preferences = inject(UserPreferences).preferences;
  private readonly setting = this.store.current.setting;
  private readonly view = this.store.current.view;
  protected readonly picks = this.letters.picked;
  protected readonly block = this.store.current.block;
  protected readonly kinds = PICKS;
  /** The origins of scaled letters. */
  protected readonly origins: readonly { value: Style['scaleFrom']; name: string }[] = [
    { value: 'baseline', name: 'Baseline' },
    { value: 'x-height', name: 'Mid x-height' },
    { value: 'capitals', name: 'Mid cap height' },
    { value: 'cap line', name: 'Cap line' },
  ];
  protected readonly size = signal({ width: 600, height: 200 });
  /** The panels of the Shift deck: the picked letters, how the lines run, or the ends of words. Picking letters brings those up. */
  protected readonly sides = ['place', 'look', 'path', 'ends'] as const;
  protected readonly shownSide = linkedSignal<boolean, (typeof this.sides)[number]>({
    source: () => this.picks().length > 0,
    computation: (picked, before) => (!before || (picked && !['place', 'look'].includes(before.value)) ? 'place' : before.value),
  });

  /** The block as it is set, letters and words of one state. */
  private readonly set = computed(() => this.setting()?.blocks.get(this.view().blockId ?? ''));
  protected readonly lines = computed(() => {
    const set = this.set();
    return set ? straightLines(set.setting).filter(({ start, visibleEnd }) => visibleEnd > start) : [];
  });
  /** Which line the strip shows: that of the first picked letter, until another is asked for. */
  protected readonly lineIndex = linkedSignal(() => {
    const [first] = this.picks();
    const found = this.lines().findIndex(({ start, end }) => first !== undefined && first.start >= start && first.start < end);
    return Math.max(0, found);
  });
  private readonly line = computed((): SetLine | undefined => this.lines()[this.lineIndex()] ?? this.lines()[0]);

  protected readonly strip = computed(() => {
    const line = this.line();
    const block = this.set()?.block;
    if (!line || !block) return undefined;
    const { width, height } = this.size();
    const scale = Math.min((width - NAMES - ROOM) / Math.max(1, line.widthPt), (height - ROOM) / (line.sizePt * HIGH));
    const left = Math.max(NAMES, (width - line.widthPt * scale) / 2);
    const top = (height - line.sizePt * HIGH * scale) / 2;
    const x = (pt: number): number => left + (pt - line.leftPt) * scale;
    const y = (pt: number): number => top + (pt - line.baselinePt + line.sizePt * OVER) * scale;
    const drawing = this.engine.drawing(instanceKey(block.style));
    const heights = drawing?.metrics ?? { xHeight: 500, capHeight: 700 };
    const share = block.style.sizePt / (drawing?.unitsPerEm ?? 1000);
    const places = setLettersOf(line);
    const picked = new Set(this.picks().map(({ start }) => start));
    const [base, low, high] = [0, heights.xHeight, heights.capHeight].map((up) => y(line.baselinePt - up * share)) as [number, number, number];
    return {
      line,
      transform: `translate(${x(0)} ${y(0)}) scale(${scale})`,
      guides: [
        { name: 'Caps', y: high },
        // Where letters are small its name would lie over the others.
        { name: Math.min(low - high, base - low) < NAME_HIGH ? '' : 'x', y: low },
        { name: 'Baseline', y: base },
      ],
      boxes: places.map((place) => this.boxOf(place, block.words, { x, scale, picked: picked.has(place.start) })),
      ghosts: ghostsOf(line),
      end: width,
    };
  });

  private boxOf(place: SetLetter, words: string, { x, scale, picked }: { x: (pt: number) => number; scale: number; picked: boolean }) {
    return { at: place.start, letter: words.slice(place.start, place.end), x: x(place.leftPt), width: (place.rightPt - place.leftPt) * scale, picked };
  }

  /** The style of the first picked letter. */
  protected readonly style = computed((): Style | undefined => {
    const block = this.block();
    const [first] = this.picks();
    return block && first && first.end <= block.words.length ? styleAt(block, first.start) : undefined;
  });

  protected readonly fields = computed((): readonly ShiftField[] => {
    const { fineMilliem: fine, coarseMilliem: coarse } = this.preferences();
    const milliem = { unit: '1/1000 em', times: 1, fine, coarse, min: -5000, max: 5000 };
    const percent = { unit: '%', times: 100, fine: 1, coarse: 10, min: 10, max: 1000 };
    return [
      { key: 'baselineShiftMilliem', label: 'Raise', ...milliem },
      { key: 'moveMilliem', label: 'Move', ...milliem },
      { key: 'turnDeg', label: 'Rotate', unit: '°', times: 1, fine: 1, coarse: 15, min: -360, max: 360 },
      { key: 'scaleY', also: 'scaleX', label: 'Size', ...percent },
      { key: 'scaleX', label: 'Width', ...percent },
      { key: 'scaleY', label: 'Height', ...percent },
    ];
  });

  /** The picked letters, in words. */
  protected readonly said = computed(() => {
    const words = this.block()?.words ?? '';
    const picks = this.picks();
    if (picks.length === 0) return 'Nothing picked';
    const shown = picks.slice(0, 8).map(({ start, end }) => words.slice(start, end));
    return `${picks.length} picked: ${shown.join(' ')}${picks.length > shown.length ? ' …' : ''}`;
  });
  protected readonly shifted = computed(() => {
    const block = this.block();
    return block ? shiftedLetters(block) : [];
  });

  protected valueOf(style: Style, { key, times }: ShiftField): number {
    return style[key] * times;
  }

  protected readonly print = (value: number): string => showValue(value, 1);
  protected readonly printSigned = (value: number): string => showSigned(value, 1);
  protected parse({ unit }: Pick<ShiftField, 'unit'>): (text: string) => number {
    const sizePt = this.style()?.sizePt ?? 12;
    return unit === '1/1000 em' ? (text) => parseMilliem(text, sizePt) : (text) => parseMilliem(text.replace(/[%°]/g, ''), 1);
  }

  protected change({ key, also, times }: ShiftField, { value, gesture }: ValueChange): void {
    const given = Math.round((value / times) * 1e6) / 1e6;
    this.give({ [key]: given, ...(also ? { [also]: given } : {}) }, gesture);
  }

  protected give(change: Partial<Style>, gesture?: string): void {
    const block = this.block();
    const picks = this.picks();
    if (block && picks.length > 0) this.store.apply((job) => restyleLetters(job, block.id, picks, change), gesture);
  }

  /** Puts the outlines of the picked letters, as they stand on the sheet, on the clipboard. */
  protected async copyOutlines(): Promise<void> {
    const block = this.block();
    if (!block) return;
    await this.toasts.trying(async () => {
      await navigator.clipboard.writeText(await this.engine.outlines(block.id, this.picks()));
      this.toasts.say(`Copied the outlines of ${this.picks().length} ${this.picks().length === 1 ? 'letter' : 'letters'}.`);
    }, 'This browser can’t copy the outlines.');
  }

  /** The faces of the family of the picked letters. */
  protected readonly family = computed(() => {
    const own = this.engine.faces.find(({ id }) => id === this.style()?.faceId);
    return own ? this.engine.faces.filter(({ family }) => family === own.family) : [];
  });
  /** Their weight axis, where the face has one. */
  protected readonly weight = computed(() => this.engine.faces.find(({ id }) => id === this.style()?.faceId)?.axes.find(({ tag }) => tag === 'wght'));

  protected setFace(faceId: string | undefined): void {
    if (faceId !== undefined) this.give({ faceId });
  }

  /** An outline so wide; none at 0. */
  protected setOutline(milliem: number, gesture: string): void {
    const before = this.style()?.outline;
    this.give({ outline: milliem === 0 ? null : { colour: this.style()?.colour ?? '#1f2528', join: 'miter', ...before, milliem } }, gesture);
  }

  /** Takes one kind of shift, or all, from the picked letters; from all of the block where none is picked. */
  protected reset(keys?: readonly ShiftKey[]): void {
    const block = this.block();
    if (!block) return;
    const letters: readonly WordRange[] = this.picks().length > 0 ? this.picks() : this.shifted();
    this.store.apply((job) => resetLetters(job, block.id, letters, keys));
  }

  /** A press picks a letter; with Shift all from the last, with Ctrl one more; a drag picks all it passes. */
  protected press(event: PointerEvent): void {
    const strip = event.currentTarget;
    if (event.button !== 0 || !(strip instanceof Element)) return;
    const under = ({ clientX }: PointerEvent): number | undefined => {
      const at = clientX - strip.getBoundingClientRect().left;
      return this.strip()?.boxes.find(({ x, width }) => at >= x && at < x + width)?.at;
    };
    const first = under(event);
    if (first === undefined) {
      this.letters.clear();
      return;
    }
    event.preventDefault();
    this.letters.pick(first, event.shiftKey ? 'through' : event.ctrlKey || event.metaKey ? 'also' : 'alone');
    let last = first;
    pressAndDrag(strip, event, {
      move: (moved) => {
        const at = under(moved);
        if (at === undefined || at === last) return;
        last = at;
        this.letters.pick(at, 'through');
      },
      end: () => undefined,
    });
  }
}

/** The letters of a line that are shifted, where they would stand without it. */
function ghostsOf(line: SetLine): SetLine | undefined {
  const runs = line.runs
    .map((run) => ({ ...run, rules: [], glyphs: run.glyphs.filter(({ shift }) => shift).map(({ shift: _shift, ...glyph }) => glyph) }))
    .filter(({ glyphs }) => glyphs.length > 0);
  return runs.length > 0 ? { ...line, runs } : undefined;
}
