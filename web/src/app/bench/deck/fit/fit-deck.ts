import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { NgTemplateOutlet } from '@angular/common';
import { type Fit, type FitTarget, LEVER_NAMES, type LeverName, leversWith, loosen, newFit } from '@jentrix/core/job';
import { type LineFit, type SetLine, straightLines } from '@jentrix/core/setting';
import { type LengthUnit, fromPoints, parseLength } from '@jentrix/core/units';
import { showSigned, showValue } from '../../../ui/numbers';
import { PercentField } from '../../../ui/percent-field';
import { SizeDirective } from '../../../ui/size.directive';
import { type ValueChange, ValueField } from '../../../ui/value-field';
import { BenchStore } from '../../bench.store';
import { FindingsList } from '../findings-list';
import { BreaksPanel } from './breaks-panel';
import { BreaksPictures } from './breaks-pictures';
import { FitState } from './fit.state';
import { ChoiceName } from '../../../ui/choice-name.pipe';

type TargetChoice = 'none' | FitTarget['kind'];

/** The names of levers, as people read them. */
const LEVERS: Readonly<Record<LeverName, string>> = { size: 'Size', letters: 'Letter space', words: 'Word space', width: 'Letter width' };
const isFactor = (name: LeverName): boolean => name === 'size' || name === 'width';

/** A lever's value as people read it: percent, or 1/1000 em. */
const sayLever = (name: LeverName, value: number): string => (isFactor(name) ? `${showValue(value * 100, 1)} %` : showSigned(value));
/** The width of letters distorts their stems by as much. */
const sayFitApplied = (name: LeverName, value: number): string =>
  `${LEVERS[name]} ${sayLever(name, value)}${name === 'width' ? ` (stems ${showSigned((value - 1) * 100, 1)} %)` : ''}`;

interface Bar {
  words: string;
  /** Where the line's ink begins and ends, its advances, and the measure, as shares of the drawing's width. */
  ink: { from: number; width: number };
  room: { from: number; width: number };
  fit: LineFit | undefined;
  label: string;
  chosen: boolean;
}

/** The Fit pass: lines against the measure they are to fill, what each lever would take; ways to break; short last lines. */
@Component({
  selector: 'jx-fit-deck',
  imports: [ChoiceName, BreaksPanel, BreaksPictures, FindingsList, NgTemplateOutlet, PercentField, SizeDirective, ValueField],
  templateUrl: './fit-deck.html',
  styleUrl: './fit-deck.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FitDeck {
  protected readonly store = inject(BenchStore);
  protected readonly state = inject(FitState);
  private readonly setting = this.store.current.setting;
  private readonly view = this.store.current.view;
  protected readonly size = signal({ width: 500, height: 160 });
  protected readonly tab = signal<'measure' | 'breaks'>('measure');
  protected readonly tabs = ['measure', 'breaks'] as const;
  protected readonly levers = LEVER_NAMES;
  protected readonly nameOf = (name: LeverName): string => LEVERS[name];
  protected readonly say = sayLever;
  protected readonly isFactor = isFactor;
  protected readonly limits = ['least', 'most'] as const;

  protected readonly block = this.store.current.block;
  private readonly sheet = this.store.current.sheet;
  protected readonly unit = computed((): LengthUnit => this.sheet()?.unit ?? 'pt');
  protected readonly fit = computed(() => this.block()?.fit ?? null);
  protected readonly target = computed((): TargetChoice => this.fit()?.to?.kind ?? 'none');

  /** Upright guides of the sheet, from left to right, in points. */
  private readonly guides = computed(() => (this.sheet()?.guides ?? []).flatMap((guide) => (guide.axis === 'x' ? [guide.atPt] : [])).sort((a, b) => a - b));
  /** The other blocks of the sheet that a width can be taken from. */
  protected readonly others = computed(() =>
    (this.sheet()?.blocks ?? [])
      .filter(({ id, words }) => id !== this.block()?.id && words.trim() !== '')
      .map(({ id, words }) => ({ id, words: words.replaceAll('\n', ' ').slice(0, 24) })),
  );
  /** Whose width the lines can have: other blocks, and their lines where they have several. */
  protected readonly widths = computed(() =>
    this.others().flatMap(({ id, words }) => {
      const setting = this.setting()?.blocks.get(id);
      const lines = setting ? straightLines(setting.setting) : [];
      const ofLines =
        lines.length < 2
          ? []
          : lines.map(({ start, visibleEnd }, line) => ({
              id,
              line,
              words: `Line ${line + 1}: ${setting?.block.words.slice(start, visibleEnd).slice(0, 24) ?? ''}`,
            }));
      return [{ id, line: null, words }, ...ofLines].map((one) => ({ ...one, value: `${id}:${one.line ?? 'all'}` }));
    }),
  );
  protected readonly width = computed(() => {
    const to = this.fit()?.to;
    return to?.kind === 'block' ? `${to.id}:${to.line ?? 'all'}` : undefined;
  });
  protected readonly choices = computed((): { kind: TargetChoice; says: string }[] => [
    { kind: 'none', says: 'Not fitted' },
    { kind: 'frame', says: 'To the frame' },
    { kind: 'margins', says: 'To the margins' },
    ...(this.guides().length > 1 ? [{ kind: 'between' as const, says: 'Between the guides' }] : []),
    { kind: 'pt', says: 'To a width' },
    ...(this.others().length > 0 ? [{ kind: 'block' as const, says: 'To another block' }] : []),
  ]);

  private readonly lines = computed((): readonly SetLine[] => {
    const setting = this.setting()?.blocks.get(this.view().blockId ?? '')?.setting;
    return setting ? straightLines(setting) : [];
  });

  /** Lines as bars: what they measure against, their advances, and their ink where that is known. */
  protected readonly bars = computed((): { bars: Bar[]; measure: { from: number; width: number } } => {
    const lines = this.lines();
    const { block } = this;
    const frame = block()?.frame;
    const first = lines.find(({ fit }) => fit);
    const targetPt = first?.fit?.targetPt ?? frame?.widthPt ?? 1;
    const starts = lines.map((line) => line.edges?.leftPt ?? line.leftPt);
    const left = Math.min(frame?.xPt ?? 0, ...starts);
    const right = Math.max((frame?.xPt ?? 0) + (frame?.widthPt ?? 1), ...lines.map((line) => line.leftPt + line.widthPt));
    const all = Math.max(1, right - left);
    const from = first?.edges?.leftPt ?? frame?.xPt ?? 0;
    const unit = this.unit();
    const chosen = this.fit()?.lines ?? 'all';
    return {
      measure: { from: (from - left) / all, width: targetPt / all },
      bars: lines.map((line, i): Bar => {
        const edges = line.edges ?? { leftPt: line.leftPt, rightPt: line.leftPt + line.widthPt };
        return {
          words: (block()?.words ?? '').slice(line.start, line.visibleEnd),
          room: { from: (line.leftPt - left) / all, width: line.widthPt / all },
          ink: { from: (edges.leftPt - left) / all, width: (edges.rightPt - edges.leftPt) / all },
          fit: line.fit,
          label: this.labelOf(line, unit),
          chosen: chosen === 'all' || chosen.includes(i),
        };
      }),
    };
  });

  private labelOf({ fit, edges, widthPt }: SetLine, unit: LengthUnit): string {
    const width = `${showValue(fromPoints(edges ? edges.rightPt - edges.leftPt : widthPt, unit))} ${unit}`;
    if (!fit) return width;
    const { values, missingPt } = fit;
    const taken = LEVER_NAMES.filter((name) => values[name] !== (isFactor(name) ? 1 : 0)).map((name) => sayFitApplied(name, values[name]));
    const lacking = Math.abs(missingPt) < 0.005 ? '' : ` · ${showValue(fromPoints(Math.abs(missingPt), unit))} ${unit} ${missingPt > 0 ? 'short' : 'too wide'}`;
    return `${taken.join(', ') || width}${lacking}`;
  }

  /** The value of each lever that works alone, over all fitted lines. */
  protected readonly alone = computed(() => {
    const fits = this.lines().flatMap(({ fit }) => (fit ? [fit] : []));
    return Object.fromEntries(
      LEVER_NAMES.map((name) => {
        const asked = fits.flatMap((fit) => fit.alone[name] ?? []);
        if (asked.length === 0) return [name, { says: '–', beyond: false }];
        const values = asked.map(({ value }) => value);
        const [least, most] = [Math.min(...values), Math.max(...values)];
        const says = least === most ? sayLever(name, least) : `${sayLever(name, least)} to ${sayLever(name, most)}`;
        return [name, { says, beyond: asked.some(({ beyond }) => beyond !== undefined) }];
      }),
    ) as Record<LeverName, { says: string; beyond: boolean }>;
  });

  protected readonly waysToCompare: readonly { even: Fit['even']; name: string; says: string }[] = [
    { even: true, name: 'Auto', says: 'Flat edges for capitals and figures, otherwise ink' },
    { even: 'flat', name: 'Flat', says: 'By flat edges: from baseline to cap line' },
    { even: 'ink', name: 'Ink', says: 'By the mean space between inks' },
  ];

  protected readonly missingHeight = computed(() => {
    const missing = this.setting()?.blocks.get(this.view().blockId ?? '')?.setting.missingHeightPt ?? 0;
    return Math.abs(missing) < 0.005
      ? ''
      : `${showValue(fromPoints(Math.abs(missing), this.unit()))} ${this.unit()} ${missing > 0 ? 'too low' : 'too high'}: lines can’t move closer`;
  });

  protected toTarget(kind: TargetChoice): void {
    if (kind === 'none') {
      void this.state.letGo();
      return;
    }
    const to = this.targetOf(kind);
    if (to) void this.state.fit({ ...(this.fit() ?? newFit()), to });
  }

  private targetOf(kind: FitTarget['kind']): FitTarget | undefined {
    const guides = this.guides();
    const [other] = this.others();
    switch (kind) {
      case 'pt':
        return { kind, pt: Math.max(1, Math.round((this.block()?.frame.widthPt ?? 100) * 100) / 100) };
      case 'between':
        return { kind, leftPt: guides[0] ?? 0, rightPt: guides[guides.length - 1] ?? 0 };
      case 'block':
        return other && { kind, id: other.id, line: null };
      default:
        return { kind };
    }
  }

  protected change(change: Partial<Fit>, gesture?: string): void {
    const fit = this.fit();
    if (fit) void this.state.fit({ ...fit, ...change }, gesture);
  }

  protected toWidth({ value, gesture }: ValueChange): void {
    this.change({ to: { kind: 'pt', pt: Math.max(1, value) } }, gesture);
  }

  protected toHeight({ value, gesture }: ValueChange): void {
    this.change({ height: { kind: 'pt', pt: Math.max(1, value) } }, gesture);
  }

  /** @param value a block and one of its lines, or all of it: as `widths` has it. */
  protected toOther(value: string): void {
    const other = this.widths().find((one) => one.value === value);
    if (other) this.change({ to: { kind: 'block', id: other.id, line: other.line } });
  }

  /** A line of the fit, or no longer. */
  protected toggleLine(index: number): void {
    const fit = this.fit();
    if (!fit) return;
    const all = this.lines().map((_, i) => i);
    const now = fit.lines === 'all' ? all : fit.lines;
    const next = now.includes(index) ? now.filter((one) => one !== index) : [...now, index].sort((a, b) => a - b);
    if (next.length > 0) this.change({ lines: next.length === all.length ? 'all' : next });
  }

  /** Changes a lever's share or one of its limits. */
  protected setLever(name: LeverName, what: 'share' | 'least' | 'most', { value, gesture }: ValueChange): void {
    const fit = this.fit();
    if (fit) this.change({ by: { ...fit.by, [name]: { ...fit.by[name], [what]: value } } }, gesture);
  }

  /** One lever alone, within the limits that it has. */
  protected only(name: LeverName): void {
    const fit = this.fit();
    if (!fit) return;
    const shares = leversWith({ [name]: 1 });
    const by = Object.fromEntries(LEVER_NAMES.map((one) => [one, { ...fit.by[one], share: shares[one].share }])) as Fit['by'];
    this.change({ by });
  }

  protected readonly parse = (text: string): number => parseLength(text);
  protected readonly print = (value: number): string => showValue(value);
  protected readonly inUnit = (pt: number): string => showValue(fromPoints(pt, this.unit()));
  protected readonly parseUnit = (text: string): number => parseLength(text, this.unit());

  /** The tightened lines of this block, which can be reset. */
  protected readonly tightened = computed(() => {
    const block = this.block();
    return (block?.tightened ?? []).map((one) => ({ ...one, words: block?.words.slice(one.start, one.end) ?? '', by: showSigned(one.milliem) }));
  });

  protected giveBack(range: { start: number; end: number }): void {
    const block = this.block();
    if (block) this.store.apply((job) => loosen(job, block.id, range));
  }
}
