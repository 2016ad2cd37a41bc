import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import {
  type Arc,
  HOLDS,
  type Path,
  type PathKind,
  type PathPoint,
  type Ride,
  circleOf,
  isRide,
  newPath,
  riseOf,
  withBlockSettings,
  withRadius,
  withRise,
} from '@jentrix/core/job';
import { WordedError } from '@jentrix/core/base';
import { straightLines } from '@jentrix/core/setting';
import { fromPoints, parseLength, toPoints } from '@jentrix/core/units';
import { showValue } from '../../../ui/numbers';
import { type ValueChange, ValueField } from '../../../ui/value-field';
import { BenchStore } from '../../bench.store';
import { ChoiceName } from '../../../ui/choice-name.pipe';

/** A way for lines to run, with a small picture of it in a box of 30 by 18. */
interface Choice {
  kind: PathKind;
  name: string;
  picture: string;
}

const CHOICES: readonly Choice[] = [
  { kind: 'straight', name: 'Straight', picture: 'M2 12H28' },
  { kind: 'arc', name: 'Arc', picture: 'M2 15Q15 -3 28 15' },
  { kind: 'circle', name: 'Circle', picture: 'M15 2a7 7 0 1 1 0 14a7 7 0 1 1 0 -14' },
  { kind: 'wave', name: 'Wave', picture: 'M2 9C7 -1 11 -1 15 9S23 19 28 9' },
  { kind: 'drawn', name: 'Drawn', picture: 'M2 14C8 2 12 4 15 10S24 12 28 3' },
  { kind: 'stacked', name: 'Stacked', picture: 'M12 2h6v3h-6zM12 8h6v3h-6zM12 14h6v3h-6z' },
  { kind: 'quarter', name: 'Rotated 90°', picture: 'M15 2V16M11 12L15 16L19 12' },
];

/** A length of the path, as a field shows it. */
interface PathField {
  label: string;
  /** In points, or a plain number. */
  value: (path: Path) => number | undefined;
  change: (path: Path, value: number) => Path;
  /** `length` is shown in the sheet's unit. */
  unit: 'length' | '%' | '×';
  min?: number;
  max?: number;
}

const ride =
  (change: (path: Ride, value: number) => Ride) =>
  (path: Path, value: number): Path =>
    isRide(path) ? change(path, value) : path;
const ofArc =
  (change: (arc: Arc, value: number) => Arc) =>
  (path: Path, value: number): Path =>
    path.kind === 'arc' ? change(path, value) : path;

const FIELDS: readonly PathField[] = [
  { label: 'Rise', unit: 'length', min: -50_000, max: 50_000, value: (path) => (path.kind === 'arc' ? riseOf(path) : undefined), change: ofArc(withRise) },
  {
    label: 'Radius',
    unit: 'length',
    min: 1,
    max: 50_000,
    value: (path) => (path.kind === 'circle' ? path.radiusPt : path.kind === 'arc' ? circleOf(path)?.radiusPt : undefined),
    change: (path, value) => (path.kind === 'circle' ? { ...path, radiusPt: value } : path.kind === 'arc' ? withRadius(path, value) : path),
  },
  {
    label: 'Height',
    unit: 'length',
    min: -5000,
    max: 5000,
    value: (path) => (path.kind === 'wave' ? path.heightPt : undefined),
    change: (path, heightPt) => (path.kind === 'wave' ? { ...path, heightPt } : path),
  },
  {
    label: 'Waves',
    unit: '×',
    min: 0.25,
    max: 50,
    value: (path) => (path.kind === 'wave' ? path.waves : undefined),
    change: (path, waves) => (path.kind === 'wave' ? { ...path, waves } : path),
  },
  {
    label: 'Position',
    unit: '%',
    min: 0,
    max: 100,
    value: (path) => (isRide(path) ? path.atShare * 100 : undefined),
    change: ride((path, value) => ({ ...path, atShare: value / 100 })),
  },
  {
    label: 'Distance',
    unit: 'length',
    min: -5000,
    max: 5000,
    value: (path) => (isRide(path) ? path.distancePt : undefined),
    change: ride((path, distancePt) => ({ ...path, distancePt })),
  },
];

/** How the lines of the block run: straight, on a path, or upright. */
@Component({
  selector: 'jx-path-panel',
  imports: [ChoiceName, ValueField],
  template: `
    @if (path(); as path) {
      <div i18n-aria-label="@@pathPanel.path" class="ways" role="group" aria-label="Path">
        @for (one of choices; track one.kind) {
          <button type="button" [title]="one.name" [attr.aria-label]="one.name" [attr.aria-pressed]="path.kind === one.kind" (click)="choose(one.kind)">
            <svg viewBox="0 0 30 18" aria-hidden="true"><path [attr.d]="one.picture" /></svg>
          </button>
        }
      </div>
      @if (beyond()) {
        <p i18n="@@pathPanel.theWordsAreLongerThan" class="beyond" role="status">The words are longer than the path.</p>
      }
      @for (field of fields(); track field.label) {
        <jx-value
          [label]="field.label"
          [unit]="field.shownUnit"
          [value]="field.shown"
          [min]="field.least"
          [max]="field.most"
          [print]="print"
          [parse]="field.parse"
          (changed)="change(field.of, $event)"
        />
      }
      @if (riding(); as riding) {
        <div class="row">
          <div i18n-aria-label="@@pathPanel.anchor" class="choice" role="group" aria-label="Anchor">
            @for (hold of holds; track hold) {
              <button type="button" [attr.aria-pressed]="riding.hold === hold" (click)="give({ hold })">{{ hold | choiceName }}</button>
            }
          </div>
        </div>
        <div class="checks">
          <label>
            <input type="checkbox" [checked]="riding.side === 'below'" (change)="give({ side: riding.side === 'below' ? 'above' : 'below' })" />
            Below
          </label>
          <label>
            <input type="checkbox" [checked]="riding.letters === 'upright'" (change)="give({ letters: riding.letters === 'upright' ? 'turned' : 'upright' })" />
            Upright
          </label>
          <label i18n-title="@@pathPanel.adjustsGapsToLookAs" title="Adjusts gaps to look as even as on a straight line">
            <input type="checkbox" [checked]="riding.kerned" (change)="give({ kerned: !riding.kerned })" />
            Even gaps
          </label>
          @if (path.kind === 'circle') {
            <label>
              <input type="checkbox" [checked]="path.inside" (change)="set({ ...path, inside: !path.inside })" />
              Heads inwards
            </label>
          }
        </div>
      }
      @if (path.kind === 'drawn') {
        <div class="row">
          <button type="button" class="btn btn-outline-dark btn-sm" [attr.aria-pressed]="drawing()" (click)="store.draw('path')">
            {{ drawing() ? 'Click points, Enter to finish' : 'Draw on sheet' }}
          </button>
          <label class="btn btn-link btn-sm">
            From SVG
            <input type="file" class="visually-hidden" accept=".svg,image/svg+xml" (change)="read($event)" />
          </label>
        </div>
        @if (failed(); as message) {
          <p class="beyond" role="alert">{{ message }}</p>
        }
      }
      @if (path.kind === 'stacked') {
        <div class="row">
          <span i18n="@@pathPanel.nextColumn">Next column</span>
          <div i18n-aria-label="@@pathPanel.nextColumn" class="choice" role="group" aria-label="Next column">
            <button
              i18n="@@pathPanel.right"
              type="button"
              [attr.aria-pressed]="path.columns === 'rightwards'"
              (click)="set({ kind: 'stacked', columns: 'rightwards' })"
            >
              Right
            </button>
            <button
              i18n="@@pathPanel.left"
              type="button"
              [attr.aria-pressed]="path.columns === 'leftwards'"
              (click)="set({ kind: 'stacked', columns: 'leftwards' })"
            >
              Left
            </button>
          </div>
        </div>
      }
      @if (path.kind === 'quarter') {
        <div class="row">
          <div i18n-aria-label="@@pathPanel.rotateLines" class="choice" role="group" aria-label="Rotate lines">
            <button
              i18n="@@pathPanel.clockwise"
              type="button"
              [attr.aria-pressed]="path.turn === 'clockwise'"
              (click)="set({ kind: 'quarter', turn: 'clockwise' })"
            >
              Clockwise
            </button>
            <button
              i18n="@@pathPanel.anticlockwise"
              type="button"
              [attr.aria-pressed]="path.turn === 'anticlockwise'"
              (click)="set({ kind: 'quarter', turn: 'anticlockwise' })"
            >
              Anticlockwise
            </button>
          </div>
        </div>
      }
    }
  `,
  styleUrl: './path-panel.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PathPanel {
  protected readonly store = inject(BenchStore);
  private readonly view = this.store.current.view;
  private readonly setting = this.store.current.setting;
  private readonly block = this.store.current.block;
  protected readonly choices = CHOICES;
  protected readonly holds = HOLDS;
  protected readonly failed = signal('');

  protected readonly path = computed(() => this.block()?.path);
  protected readonly riding = computed(() => {
    const path = this.path();
    return path && isRide(path) ? path : undefined;
  });
  protected readonly drawing = computed(() => this.view().drawing === 'path');
  private readonly set$ = computed(() => this.setting()?.blocks.get(this.block()?.id ?? ''));
  protected readonly beyond = computed(() => this.set$()?.setting.beyondPath ?? false);
  private readonly unit = computed(() => this.store.current.sheet()?.unit ?? 'pt');

  protected readonly fields = computed(() => {
    const path = this.path();
    const unit = this.unit();
    if (!path) return [];
    return FIELDS.flatMap((of) => {
      const value = of.value(path);
      if (value === undefined) return [];
      const long = of.unit === 'length';
      const shown = (pt: number): number => (long ? fromPoints(pt, unit) : pt);
      return [
        {
          of,
          label: of.label,
          shownUnit: long ? unit : of.unit,
          shown: shown(value),
          least: of.min === undefined ? Number.NEGATIVE_INFINITY : shown(of.min),
          most: of.max === undefined ? Number.POSITIVE_INFINITY : shown(of.max),
          parse: long ? (text: string): number => fromPoints(parseLength(text, unit), unit) : (text: string): number => parseLength(text.replace(/[%×]/g, '')),
        },
      ];
    });
  });

  protected readonly print = (value: number): string => showValue(value, 2);

  /** Has the lines run another way; what was said of how words stand on a path is kept. */
  protected choose(kind: PathKind): void {
    const block = this.block();
    const set = this.set$();
    if (!block || block.path.kind === kind) return;
    const first = set && straightLines(set.setting)[0];
    this.set(newPath(kind, set?.setting.frame ?? block.frame, first ? first.baselinePt - block.frame.yPt : block.style.sizePt, block.path));
  }

  protected change({ unit, change }: PathField, { value, gesture }: ValueChange): void {
    const path = this.path();
    if (path) this.set(change(path, unit === 'length' ? toPoints(value, this.unit()) : value), gesture);
  }

  protected give(change: Partial<Pick<Ride, 'hold' | 'side' | 'letters' | 'kerned'>>): void {
    const path = this.riding();
    if (path) this.set({ ...path, ...change });
  }

  protected set(path: Path, gesture?: string): void {
    const block = this.block();
    if (block) this.store.apply((job) => withBlockSettings(job, block.id, { path }), gesture);
  }

  /** A path from an SVG file takes the place of the drawn one, beginning where that began. */
  protected async read(event: Event): Promise<void> {
    const { target } = event;
    const file = target instanceof HTMLInputElement ? target.files?.[0] : undefined;
    const block = this.block();
    if (!file || !block) return;
    // Read with a package that nothing else here needs.
    const { readPath } = await import('@jentrix/core/svg-text/path-data');
    try {
      const read = readPath(await file.text());
      const before = block.path.kind === 'drawn' ? block.path : undefined;
      const start = before?.start ?? read.start;
      const moved = (place: PathPoint): PathPoint => ({
        xPt: place.xPt + start.xPt - read.start.xPt,
        yPt: place.yPt + start.yPt - read.start.yPt,
      });
      this.failed.set('');
      this.set({ ...(before ?? read), start, curves: read.curves.map(({ from, to, end }) => ({ from: moved(from), to: moved(to), end: moved(end) })) });
    } catch (error) {
      this.failed.set(error instanceof WordedError ? error.message : 'The file can’t be read.');
    }
    if (target instanceof HTMLInputElement) target.value = '';
  }
}
