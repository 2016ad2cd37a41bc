import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, type OnDestroy, computed, inject, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { REFERENCE_SIDES, type ReferenceSide } from '@jentrix/core/job';
import type { NoReading } from '@jentrix/core/reading';
import type { Take } from '@jentrix/core/reference';
import { type JobSummary } from '@jentrix/core/api';
import { firstValueFrom, map, switchMap } from 'rxjs';
import { ApiService } from '../../../api/api.service';
import { pickedFile } from '../../../ui/files';
import { showSigned, showValue } from '../../../ui/numbers';
import { ValueField, type ValueChange } from '../../../ui/value-field';
import { BenchStore } from '../../bench.store';
import { References } from '../../state/references';
import { SaveService } from '../../save.service';
import { Pulls } from '../../state/pulls';
import { Matching } from './matching';
import { pullName } from './pull-name';
import { ChoiceName } from '../../../ui/choice-name.pipe';

const SIDES: Readonly<Record<ReferenceSide, string>> = {
  under: 'Between background and words',
  over: 'Over the words',
  beside: 'Beside the sheet',
};

const REASONS: Readonly<Record<NoReading, string>> = {
  'no type': 'No type found in this picture.',
  'other words': 'These words were not found. Choose the block with the words of the picture, and a face like it.',
};

const PAIR_STEPS = ['a point on the reference', 'its place on the sheet', 'a second point on the reference', 'its place on the sheet'];

/** Differences smaller than this can’t be seen, in points and 1/1000 em. */
const [SMALL_PT, SMALL_MILLIEM] = [0.05, 1.5];

/** The letter at a place. */
const letter = (words: string, at: number): string => String.fromCodePoint(words.codePointAt(at) ?? 32);

/** A value that was read, as the panel tells it. */
interface Told {
  take: Take;
  name: string;
  value: string;
  error: string;
}

/** The reference of the sheet: what it is and where it lies, what was read in it, and how the block differs from it. */
@Component({
  selector: 'jx-reference-panel',
  imports: [ChoiceName, DatePipe, ValueField],
  template: `
    <section i18n-aria-label="@@referencePanel.reference" class="lay" aria-label="Reference">
      <div class="buttons">
        <label class="btn btn-outline-dark btn-sm">
          Picture …
          <input #file class="visually-hidden" type="file" accept="image/png,image/jpeg,image/webp,image/svg+xml" (change)="picture(file)" />
        </label>
        <select
          i18n-aria-label="@@referencePanel.jobTheSheetIsOf"
          #jobs
          class="form-select form-select-sm"
          aria-label="Job the sheet is of"
          (change)="from.set(jobs.value)"
        >
          <option i18n="@@referencePanel.thisJob" value="" [selected]="from() === ''">This job</option>
          @for (pull of pulls(); track pull.id) {
            <option [value]="'pull:' + pull.id" [selected]="from() === 'pull:' + pull.id">
              {{ nameOf(pull) }}, {{ pull.createdAt | date: 'd MMM, HH:mm' }}
            </option>
          }
          @for (job of otherJobs(); track job.id) {
            <option [value]="'job:' + job.id" [selected]="from() === 'job:' + job.id">{{ job.title }}</option>
          }
        </select>
        <select
          i18n-aria-label="@@referencePanel.sheetAsReference"
          #sheets
          class="form-select form-select-sm"
          aria-label="Sheet as reference"
          (change)="laySheet(sheets.value); sheets.value = ''"
        >
          <option i18n="@@referencePanel.sheet" value="">Sheet …</option>
          @for (sheet of sheetsOfJob(); track sheet.id) {
            <option [value]="sheet.id">{{ sheet.name }}</option>
          }
        </select>
      </div>
      @if (matching.reference(); as reference) {
        <div i18n-aria-label="@@referencePanel.position" class="choice" role="group" aria-label="Position">
          @for (side of sides; track side) {
            <button type="button" [attr.aria-pressed]="reference.side === side" [title]="says[side]" (click)="matching.change({ side })">
              {{ side | choiceName }}
            </button>
          }
        </div>
        <label class="opacity">
          Opacity
          <input
            i18n-aria-label="@@referencePanel.opacityOfTheReference"
            type="range"
            min="5"
            max="100"
            aria-label="Opacity of the reference"
            [value]="reference.opacity * 100"
            (input)="matching.change({ opacity: +$any($event.target).value / 100 }, 'reference-opacity')"
            (change)="matching.endGesture()"
          />
        </label>
        <div class="fields">
          <jx-value label="x" unit="pt" [value]="reference.xPt" [min]="-50000" [max]="50000" (changed)="value('xPt', $event)" />
          <jx-value label="y" unit="pt" [value]="reference.yPt" [min]="-50000" [max]="50000" (changed)="value('yPt', $event)" />
          <jx-value
            i18n-label="@@referencePanel.scale"
            label="Scale"
            unit="%"
            [value]="reference.scale * 100"
            [min]="0.1"
            [max]="100000"
            (changed)="value('scale', $event, 100)"
          />
          <jx-value
            i18n-label="@@referencePanel.rotate"
            label="Rotate"
            unit="°"
            [value]="reference.turnDeg"
            [min]="-360"
            [max]="360"
            (changed)="value('turnDeg', $event)"
          />
        </div>
        <div class="buttons">
          <button
            i18n-title="@@referencePanel.clickAPointOnThe"
            type="button"
            class="btn btn-outline-dark btn-sm"
            [attr.aria-pressed]="references.pairing() !== undefined"
            [disabled]="reference.locked"
            title="Click a point on the reference, then its place on the sheet; do both twice"
            (click)="matching.pair()"
          >
            {{ references.pairing() ? 'Stop' : 'Align by two points' }}
          </button>
          <button
            i18n="@@referencePanel.fit"
            i18n-title="@@referencePanel.centresItLevelAsLarge"
            type="button"
            class="btn btn-link btn-sm"
            (click)="matching.fit()"
            title="Centres it, level, as large as the sheet"
          >
            Fit
          </button>
          <button type="button" class="btn btn-link btn-sm" [attr.aria-pressed]="reference.locked" (click)="matching.change({ locked: !reference.locked })">
            {{ reference.locked ? 'Locked' : 'Lock' }}
          </button>
          <button i18n="@@referencePanel.remove" type="button" class="btn btn-link btn-sm" (click)="matching.takeAway()">Remove</button>
        </div>
        @if (step(); as step) {
          <p i18n="@@referencePanel.click" role="status">Click {{ step }}.</p>
        } @else if (matching.gone()) {
          <p i18n="@@referencePanel.thatSheetNoLongerExists" class="quiet">That sheet no longer exists.</p>
        } @else {
          <p i18n="@@referencePanel.itIsNeverExported" class="quiet">
            {{ reference.locked ? 'Its position is locked.' : 'Drag it on the table.' }} It is never exported.
          </p>
        }
      } @else {
        <p i18n="@@referencePanel.matchAScanASample" class="quiet">
          Match a scan, a sample or another sheet: under, over or beside this one. References are never exported.
        </p>
      }
    </section>
    <section i18n-aria-label="@@referencePanel.readingOfTheReference" class="read" aria-label="Reading of the reference">
      @if (matching.reference()?.of?.kind === 'picture') {
        <div class="buttons">
          @if (progress() === undefined) {
            <button type="button" class="btn btn-outline-dark btn-sm" (click)="matching.read()">{{ matching.found() ? 'Read again' : 'Read' }}</button>
            <span class="quiet">{{ block() ? 'Looks for “' + inShort() + '”' : 'Choose a block to match.' }}</span>
          } @else {
            <progress i18n-aria-label="@@referencePanel.reading" max="1" aria-label="Reading" [value]="progress()"></progress>
            <button i18n="@@referencePanel.cancel" type="button" class="btn btn-link btn-sm" (click)="matching.reader.cancel()">Cancel</button>
          }
        </div>
        @if (matching.found(); as found) {
          @if (found.read.picture; as picture) {
            <p i18n="@@referencePanel.rotatedCertain" data-testid="picture-read">
              {{ picture.lines.length === 1 ? '1 line' : picture.lines.length + ' lines' }}, {{ show(picture.angleDeg, 2) }}° rotated,
              {{ picture.reversed ? 'light on dark' : 'dark on light' }}{{ heights() }}; {{ sure() }} % certain
            </p>
          }
          @if (found.read.why; as why) {
            <p role="status">{{ reasons[why] }}</p>
          } @else if (!matching.words() && found.words) {
            <p i18n="@@referencePanel.thisReadingIsOfOther" class="quiet">This reading is of other words.</p>
          }
          @if (told().length > 0) {
            <table>
              @for (one of told(); track one.take) {
                <tr data-testid="read-value">
                  <th scope="row">{{ one.name }}</th>
                  <td>{{ one.value }}</td>
                  <td class="quiet">{{ one.error }}</td>
                  <td>
                    <button
                      i18n="@@referencePanel.apply"
                      type="button"
                      class="btn btn-link btn-sm"
                      [attr.aria-label]="'Apply ' + one.name.toLowerCase()"
                      (click)="matching.take([one.take])"
                    >
                      Apply
                    </button>
                  </td>
                </tr>
              }
            </table>
            <div class="buttons">
              <button i18n="@@referencePanel.applyAll" type="button" class="btn btn-outline-dark btn-sm" (click)="matching.take()">Apply all</button>
              <button i18n="@@referencePanel.moveBlockOntoIt" type="button" class="btn btn-link btn-sm" (click)="matching.moveOnto()">
                Move block onto it
              </button>
              <button i18n="@@referencePanel.moveOntoBlock" type="button" class="btn btn-link btn-sm" (click)="matching.layOnBlock()">Move onto block</button>
            </div>
            <p i18n="@@referencePanel.alikeIsOneStandardDeviation" class="quiet">{{ likeness() }} % alike; ± is one standard deviation.</p>
          }
        } @else {
          <p i18n="@@referencePanel.measuresLinesAngleAndHeights" class="quiet">
            Measures lines, angle and heights. With the block’s words in its face: size, tracking and leading too.
          </p>
        }
      } @else if (matching.reference()) {
        <p i18n="@@referencePanel.aSheetNeedsNoReading" class="quiet">A sheet needs no reading: see the differences on the right.</p>
        @if (matching.differences()) {
          <button i18n="@@referencePanel.moveOntoBlock" type="button" class="btn btn-link btn-sm" (click)="matching.layOnBlock()">Move onto block</button>
        }
      }
    </section>
    <section i18n-aria-label="@@referencePanel.differencesFromTheReference" class="differ" aria-label="Differences from the reference">
      @if (matching.differences(); as differences) {
        <table data-testid="differences">
          <tr>
            <th i18n="@@referencePanel.line" scope="col">Line</th>
            <th i18n="@@referencePanel.start" scope="col">Start</th>
            <th i18n="@@referencePanel.width" scope="col">Width</th>
            <th i18n="@@referencePanel.baseline" scope="col">Baseline</th>
          </tr>
          @for (line of differences.lines; track line.line) {
            <tr data-testid="line-difference">
              <td>
                <button type="button" class="btn btn-link btn-sm" (click)="matching.show(line.start)">{{ line.line + 1 }}</button>
              </td>
              @for (value of [line.startPt, line.widthPt, line.baselinePt]; track $index) {
                <td [class.quiet]="small(value)">{{ points(value) }}</td>
              }
            </tr>
          }
        </table>
        @if (differences.brokenElsewhere > 0) {
          <p i18n="@@referencePanel.linesBreakDifferentlyInThe" class="quiet">{{ differences.brokenElsewhere }} lines break differently in the reference.</p>
        }
        <h2 i18n="@@referencePanel.gapDifferencesIn11000" class="quiet">Gap differences, in 1/1000 em</h2>
        <div class="gaps">
          @for (gap of gaps(); track gap.at) {
            <button type="button" class="btn btn-outline-dark btn-sm" data-testid="gap-difference" (click)="matching.show(gap.at)">
              {{ gap.pair }}
              <b>{{ gap.by }}</b>
            </button>
          } @empty {
            <span i18n="@@referencePanel.none" class="quiet">None</span>
          }
        </div>
      } @else if (matching.reference()) {
        <p i18n="@@referencePanel.readTheReferenceToSee" class="quiet">Read the reference to see how far the lines of the block are off.</p>
      }
    </section>
  `,
  styles: `
    :host {
      --columns: 320px minmax(0, 1fr) minmax(0, 1fr);
    }
    section {
      overflow: hidden auto;
      padding: 8px 14px;
      border-right: 1px solid var(--jx-rule);
    }
    .differ {
      border: 0;
    }
    .buttons {
      display: flex;
      flex-wrap: wrap;
      gap: 6px;
      align-items: center;
      margin-bottom: 6px;
    }
    .lay select {
      width: auto;
      max-width: 92px;
    }
    .choice {
      margin-bottom: 4px;
    }
    .opacity {
      display: grid;
      grid-template-columns: auto 1fr;
      gap: 8px;
      align-items: center;
    }
    .fields {
      display: grid;
      grid-template-columns: 1fr 1fr;
      column-gap: 8px;
      margin: 2px 0 6px;
    }
    .fields jx-value {
      grid-template-columns: minmax(34px, auto) minmax(0, 1fr) 18px;
    }
    p {
      margin: 4px 0;
      font-size: 12px;
    }
    h2 {
      margin: 8px 0 4px;
      font-size: 12px;
      font-weight: 400;
    }
    table {
      width: 100%;
    }
    th {
      font-weight: 400;
      text-align: left;
    }
    .differ th:not(:first-child),
    .differ td:not(:first-child) {
      text-align: right;
      font-variant-numeric: tabular-nums;
    }
    .differ th {
      color: var(--jx-quiet);
      font-size: 12px;
    }
    .gaps {
      display: flex;
      flex-wrap: wrap;
      gap: 4px;
    }
    progress {
      flex: 1;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ReferencePanel implements OnDestroy {
  protected readonly matching = inject(Matching);
  protected readonly references = inject(References);
  private readonly store = inject(BenchStore);
  private readonly api = inject(ApiService);
  private readonly save = inject(SaveService);
  protected readonly sides = REFERENCE_SIDES;
  protected readonly says = SIDES;
  protected readonly reasons = REASONS;
  protected readonly progress = this.matching.reader.progress;
  protected readonly block = this.matching.block;
  protected readonly inShort = computed(() => {
    const words = this.block()?.words.replaceAll('\n', ' ') ?? '';
    return words.length > 34 ? `${words.slice(0, 32)} …` : words;
  });

  /** The job whose sheets are offered, or the pull of this one; empty for this one as it is. */
  protected readonly from = signal('');
  private readonly kept = inject(Pulls);
  protected readonly pulls = this.kept.pulls;
  protected readonly nameOf = pullName;
  private readonly chosen = computed(() => {
    const [, kind, id] = /^(pull|job):(.+)$/.exec(this.from()) ?? [];
    return id === undefined ? undefined : kind === 'pull' ? { pullId: id } : { jobId: id };
  });
  private readonly job = this.store.current.job;
  protected readonly otherJobs = toSignal(
    this.api.listJobs({ page: 1, pageSize: 50 }).pipe(map(({ items }): readonly JobSummary[] => items.filter(({ id }) => id !== this.save.jobId))),
    { initialValue: [] },
  );
  private readonly otherJob = toSignal(
    toObservable(this.chosen).pipe(
      switchMap(async (chosen) => {
        if (!chosen) return undefined;
        const job =
          'jobId' in chosen && chosen.jobId !== undefined
            ? firstValueFrom(this.api.readJob(chosen.jobId)).then((record) => record.job)
            : this.kept.job(chosen.pullId);
        return job.catch(() => undefined);
      }),
    ),
  );
  protected readonly sheetsOfJob = computed(() => {
    const [own, other] = [this.job(), this.otherJob()];
    return !this.chosen() ? (own?.sheets.filter(({ id }) => id !== this.matching.sheet()?.id) ?? []) : (other?.sheets ?? []);
  });

  constructor() {
    this.references.active.set(true);
    if (this.kept.value === undefined) void this.kept.load();
  }

  ngOnDestroy(): void {
    this.references.active.set(false);
    this.references.pairing.set(undefined);
  }

  protected readonly step = computed(() => PAIR_STEPS[this.references.pairing()?.length ?? -1]);
  protected readonly show = showValue;
  protected readonly points = (value: number): string => (this.small(value) ? '0' : showSigned(value, 2));
  protected readonly small = (value: number): boolean => Math.abs(value) < SMALL_PT;
  protected readonly likeness = computed(() => showValue((this.matching.words()?.read.likeness ?? 0) * 100, 1));

  /** How far the letters of all lines agree, in percent. */
  protected readonly sure = computed(() => {
    const lines = this.matching.found()?.read.picture?.lines ?? [];
    const all = lines.reduce((sum, { letters }) => sum + letters, 0);
    return Math.round((lines.reduce((sum, line) => sum + line.sure * line.letters, 0) / Math.max(1, all)) * 100);
  });

  /** The heights of the first line, in points of the sheet. */
  protected readonly heights = computed(() => {
    const [found, reference] = [this.matching.found(), this.matching.reference()];
    const [line] = found?.read.picture?.lines ?? [];
    if (!found || !line || !reference) return '';
    const pt = (value: number): string => `${showValue((value * reference.scale) / found.perPixel, 1)} pt`;
    const { pitch } = found.read.picture ?? {};
    const x = line.xHeight === undefined ? '' : `; x-height ${pt(line.xHeight)}, capitals ${pt(line.capHeight)}`;
    return `${x || `; letters ${pt(line.capHeight)}`}${pitch === undefined ? '' : `; lines ${pt(pitch)} apart`}`;
  });

  protected readonly told = computed((): Told[] => {
    const [type, words] = [this.matching.type(), this.matching.words()];
    if (!type || !words) return [];
    const inPoints = words.block.leading.kind === 'pt';
    return [
      { take: 'size', name: 'Size', value: `${showValue(type.sizePt, 2)} pt`, error: `± ${showValue(type.sizeErrorPt, 2)}` },
      ...(type.trackingMilliem === undefined
        ? []
        : [{ take: 'tracking' as const, name: 'Tracking', value: showSigned(type.trackingMilliem, 1), error: `± ${showValue(type.trackingErrorMilliem, 1)}` }]),
      ...(type.leadingPt === undefined || type.leadingFactor === undefined
        ? []
        : [
            {
              take: 'leading' as const,
              name: 'Leading',
              value: inPoints ? `${showValue(type.leadingPt, 2)} pt` : `${showValue(type.leadingFactor, 3)} ×`,
              error: `± ${showValue(inPoints ? type.leadingErrorFactor * type.sizePt : type.leadingErrorFactor, 3)}`,
            },
          ]),
      { take: 'angle', name: 'Angle', value: `${showValue(type.angleDeg, 2)}°`, error: `± ${showValue(type.angleErrorDeg, 2)}` },
      { take: 'lines', name: 'Line ends', value: words.read.lines.length === 1 ? '1 line' : `${words.read.lines.length} lines`, error: '' },
    ];
  });

  /** The gaps that differ by more than reading is off by, the largest first. */
  protected readonly gaps = computed(() => {
    const [differences, block] = [this.matching.differences(), this.block()];
    if (!differences || !block) return [];
    return differences.lines
      .flatMap(({ gaps }) => gaps)
      .filter(({ milliem, errorMilliem }) => Math.abs(milliem) > Math.max(SMALL_MILLIEM, 2 * errorMilliem))
      .sort((a, b) => Math.abs(b.milliem) - Math.abs(a.milliem))
      .slice(0, 24)
      .map(({ from, at, milliem }) => ({
        at,
        pair: `${letter(block.words, from)}${/\s/u.test(block.words.slice(from, at)) ? ' ' : ''}${letter(block.words, at)}`,
        by: showSigned(milliem, 0),
      }));
  });

  protected picture(field: HTMLInputElement): void {
    const file = pickedFile(field);
    if (file) void this.matching.layPicture(file);
  }

  protected laySheet(sheetId: string): void {
    if (sheetId !== '') this.matching.laySheet(this.chosen() ?? {}, sheetId);
  }

  protected value(key: 'xPt' | 'yPt' | 'scale' | 'turnDeg', { value, gesture }: ValueChange, per = 1): void {
    this.matching.change({ [key]: value / per }, gesture);
  }
}
