import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import {
  ALIGNMENTS,
  type BlockSettings,
  type Frame,
  type Growth,
  type LetterCase,
  type Paragraph,
  type Style,
  VERTICALS,
  orderBlock,
  pasteSettings,
  withBlockSettings,
  resizeFrame,
} from '@jentrix/core/job';
import { ruleAngle } from '@jentrix/core/placing';
import { hierarchyOf, straightLines } from '@jentrix/core/setting';
import { UnitError, fromPoints, parseLength, parseMilliem, splitQuantity, toPoints } from '@jentrix/core/units';
import { NgbDropdownModule } from '@ng-bootstrap/ng-bootstrap/dropdown';
import { LanguageField } from '../../../ui/language-field';
import { MenuFocus } from '../../../ui/menu-focus.directive';
import { type ValueChange, ValueField } from '../../../ui/value-field';
import { BenchStore } from '../../bench.store';
import { CentreLine } from '../centre-line';
import { WordsState } from './words.state';
import { FindingsList } from '../findings-list';
import { ColourPanel } from './colour-panel';
import { RecipeLine } from './recipe-line';
import { SheetPanel } from './sheet-panel';
import { showSigned, showValue } from '../../../ui/numbers';
import { ChoiceName } from '../../../ui/choice-name.pipe';

const NO_FRAME: Frame = { xPt: 0, yPt: 0, widthPt: 1, heightPt: 1 };

/** The Words pass: frame, case and paragraphs of the block, or the sheet itself; and the ends of the lines as a rag profile. */
@Component({
  selector: 'jx-words-deck',
  imports: [ChoiceName, CentreLine, ColourPanel, FindingsList, LanguageField, MenuFocus, NgbDropdownModule, RecipeLine, SheetPanel, ValueField],
  templateUrl: './words-deck.html',
  styleUrl: './words-deck.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class WordsDeck {
  protected readonly store = inject(BenchStore);
  private readonly view = this.store.current.view;
  private readonly setting = this.store.current.setting;
  private readonly found = this.store.current.findings;
  protected readonly alignments = ALIGNMENTS;
  protected readonly verticals = VERTICALS;
  protected readonly lists: readonly Paragraph['list'][] = ['none', 'bullet', 'number'];
  protected readonly cases: readonly { id: LetterCase; name: string }[] = [
    { id: 'typed', name: 'As typed' },
    { id: 'capitals', name: 'Capitals' },
    { id: 'title', name: 'Title case' },
    { id: 'small', name: 'Small capitals' },
  ];
  protected readonly growths: readonly { id: Growth; name: string; says: string }[] = [
    { id: 'both', name: 'Fits lines', says: 'As wide as the longest line; lines break where you press Enter' },
    { id: 'down', name: 'Fits height', says: 'Lines break at the frame’s width' },
    { id: 'fixed', name: 'Fixed size', says: 'Words that don’t fit end in an ellipsis; none are lost' },
  ];
  protected readonly orders = [
    { to: 'front' as const, name: 'Bring to front' },
    { to: 'forward' as const, name: 'Bring forward' },
    { to: 'backward' as const, name: 'Send backward' },
    { to: 'back' as const, name: 'Send to back' },
  ];
  protected readonly frameFields: readonly { key: keyof Frame; label: string; min: number }[] = [
    { key: 'xPt', label: 'From left', min: -50_000 },
    { key: 'yPt', label: 'From top', min: -50_000 },
    { key: 'widthPt', label: 'Width', min: 1 },
    { key: 'heightPt', label: 'Height', min: 1 },
  ];
  protected readonly paragraphFields: readonly { key: 'indentPt' | 'beforePt' | 'afterPt'; label: string; min: number }[] = [
    { key: 'indentPt', label: 'First-line indent', min: -5000 },
    { key: 'beforePt', label: 'Space before', min: 0 },
    { key: 'afterPt', label: 'Space after', min: 0 },
  ];
  protected readonly words = inject(WordsState);
  protected readonly kept = this.words.kept;
  protected readonly panel = this.words.panel;
  protected readonly block = this.store.current.block;
  protected readonly current = this.store.current.style;
  protected readonly frame = computed(() => this.setting()?.blocks.get(this.block()?.id ?? '')?.setting.frame ?? this.block()?.frame ?? NO_FRAME);
  /** The angle of the rule drawn last, which the block can be turned to. */
  protected readonly ruleAngle = computed(() => {
    const rule = this.store.current.sheet()?.guides.findLast((guide) => guide.axis === 'rule');
    return rule && Math.round(ruleAngle(rule) * 10) / 10;
  });
  protected readonly unit = computed(() => this.store.current.sheet()?.unit ?? 'pt');
  protected readonly goesTo = computed(() => {
    const block = this.block();
    const { selection } = this.view();
    if (!block || !selection || selection.end <= selection.start) return '';
    return `Applies to “${block.words.slice(selection.start, Math.min(selection.end, selection.start + 24)).replaceAll('\n', ' ')}”`;
  });
  protected readonly scaleFields: readonly { key: 'scaleX' | 'scaleY'; label: string }[] = [
    { key: 'scaleX', label: 'Horizontal scale' },
    { key: 'scaleY', label: 'Vertical scale' },
  ];
  /** Mistyped marks and bad line ends on the sheet. */
  protected readonly toFix = computed(() => this.found().findings.filter(({ pass }) => pass === 'words').length);
  protected readonly shows = signal<'rag' | 'sizes' | 'fix'>('rag');
  protected readonly print = (value: number): string => showValue(value);
  protected readonly parsePercent = (text: string): number => {
    const { value, unit } = splitQuantity(text);
    if (unit !== '' && unit !== '%') throw new UnitError('A percentage is needed here.');
    return value;
  };
  /** The distortion of strokes by scaling. */
  protected readonly distortion = computed(() => {
    const { scaleX, scaleY } = this.current() ?? { scaleX: 1, scaleY: 1 };
    const share = Math.round((scaleX / scaleY - 1) * 100);
    if (share === 0) return '';
    return share > 0 ? `stems ${share} % heavier than drawn` : `stems ${-share} % lighter than drawn`;
  });
  protected readonly hierarchy = computed(() => hierarchyOf(this.store.current.sheet()?.blocks ?? []));
  protected readonly rag = computed(() => {
    const { block, setting } = this.setting()?.blocks.get(this.block()?.id ?? '') ?? {};
    const lines = setting ? straightLines(setting) : [];
    const { xPt, widthPt: measure } = this.frame();
    const unit = this.unit();
    return lines.map((line) => ({
      words: block?.words.slice(line.start, line.visibleEnd) ?? '',
      start: ((line.leftPt - xPt) / measure) * 100,
      share: (line.widthPt / measure) * 100,
      over: line.widthPt > measure + 0.01,
      width: `${showValue(fromPoints(line.widthPt, unit), 1)} ${unit}`,
    }));
  });

  protected shown(pt: number): number {
    return fromPoints(pt, this.unit());
  }

  protected readonly parseFrame = (text: string): number => fromPoints(parseLength(text, this.unit()), this.unit());
  protected readonly signed = (value: number): string => showSigned(value);
  /** A shift as typed: in 1/1000 em, or a length at the current size. */
  protected readonly parseShift = computed(() => {
    const sizePt = this.current()?.sizePt ?? 1;
    return (text: string): number => parseMilliem(text, sizePt);
  });
  protected readonly printFrame = (value: number): string => showValue(value, 1);
  protected readonly parseDegrees = (text: string): number => {
    const { value, unit } = splitQuantity(text.replace(/°$/, ''));
    if (unit !== '' && unit !== 'deg') throw new UnitError('Degrees are needed here.');
    return value;
  };

  protected setFrame(key: keyof Frame, { value, gesture }: ValueChange): void {
    const block = this.block();
    const stated = { ...this.frame(), [key]: toPoints(value, this.unit()) };
    if (block) this.store.apply((job) => resizeFrame(job, block.id, stated), gesture);
  }

  protected style(change: Partial<Style>, gesture?: string): void {
    this.store.applyStyle(change, gesture);
  }

  protected change(change: Partial<BlockSettings>, gesture?: string): void {
    const block = this.block();
    if (block) this.store.apply((job) => withBlockSettings(job, block.id, change), gesture);
  }

  protected paragraph(change: Partial<Paragraph>, gesture?: string): void {
    const block = this.block();
    if (block) this.change({ paragraph: { ...block.paragraph, ...change } }, gesture);
  }

  protected setParagraph(key: 'indentPt' | 'beforePt' | 'afterPt', { value, gesture }: ValueChange): void {
    this.paragraph({ [key]: value }, gesture);
  }

  protected setScale(key: 'scaleX' | 'scaleY', { value, gesture }: ValueChange): void {
    this.style({ [key]: value / 100 }, gesture);
  }

  protected reorder(to: 'front' | 'back' | 'forward' | 'backward'): void {
    const block = this.block();
    if (block) this.store.apply((job) => orderBlock(job, block.id, to));
  }

  protected copySettings(): void {
    this.kept.set(this.block());
  }

  protected pasteSettings(): void {
    const from = this.kept();
    const { picked } = this.store;
    if (from) this.store.apply((job) => picked.reduce((next, id) => pasteSettings(next, id, from), job));
  }
}
