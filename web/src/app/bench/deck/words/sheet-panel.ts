import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import {
  type Background,
  JOB_KINDS,
  SHEET_PRESETS,
  type Sheet,
  pictureOn,
  presetOf,
  resizeSheet,
  retitle,
  withKind,
  withLanguage,
  withSheet,
} from '@jentrix/core/job';
import { movedGuide } from '@jentrix/core/placing';
import { LENGTH_UNITS, UnitError, fromPoints, parseLength, splitQuantity, toPoints } from '@jentrix/core/units';
import { LanguageField } from '../../../ui/language-field';
import { NgIcon, provideIcons } from '@ng-icons/core';
import { bootstrapX } from '@ng-icons/bootstrap-icons';
import { firstValueFrom } from 'rxjs';
import { ApiService } from '../../../api/api.service';
import { CommitField } from '../../../ui/commit-field.directive';
import { ColourField } from '../../../ui/colour-field';
import { pickedFile } from '../../../ui/files';
import { ToastService } from '../../../ui/toasts';
import { type ValueChange, ValueField } from '../../../ui/value-field';
import { BenchStore } from '../../bench.store';
import { showValue } from '../../../ui/numbers';
import { sizeLabel } from '../../../ui/size-picture';
import { ChoiceName } from '../../../ui/choice-name.pipe';

type Margin = keyof Sheet['margins'];

/** The sheet itself: size, margins, guides, title-safe area, background. */
@Component({
  selector: 'jx-sheet-panel',
  imports: [ChoiceName, ColourField, CommitField, LanguageField, NgIcon, ValueField],
  providers: [provideIcons({ bootstrapX })],
  templateUrl: './sheet-panel.html',
  styleUrl: './sheet-panel.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SheetPanel {
  private readonly store = inject(BenchStore);
  private readonly api = inject(ApiService);
  private readonly toasts = inject(ToastService);
  protected readonly presets = SHEET_PRESETS;
  protected readonly labelOf = sizeLabel;
  protected readonly units = LENGTH_UNITS;
  protected readonly margins: readonly { key: Margin; label: string }[] = [
    { key: 'topPt', label: 'Top' },
    { key: 'rightPt', label: 'Right' },
    { key: 'bottomPt', label: 'Bottom' },
    { key: 'leftPt', label: 'Left' },
  ];
  protected readonly sheet = this.store.current.sheet;
  protected readonly job = this.store.current.job;
  protected readonly kinds = JOB_KINDS;
  /** The common size that the sheet has, by name. */
  protected readonly common = computed(() => {
    const sheet = this.sheet();
    return sheet && presetOf(sheet)?.name;
  });

  protected shown(pt: number): number {
    return fromPoints(pt, this.sheet()?.unit ?? 'pt');
  }
  protected readonly parse = (text: string): number => fromPoints(parseLength(text, this.sheet()?.unit ?? 'pt'), this.sheet()?.unit ?? 'pt');
  protected readonly print = (value: number): string => showValue(value, 1);
  protected readonly parsePercent = (text: string): number => {
    const { value, unit } = splitQuantity(text);
    if (unit !== '' && unit !== '%') throw new UnitError('A percentage is needed here.');
    return value;
  };

  protected change(change: Partial<Omit<Sheet, 'id' | 'blocks'>>, gesture?: string): void {
    const sheet = this.sheet();
    if (sheet) this.store.apply((job) => withSheet(job, sheet.id, change), gesture);
  }

  protected rename(title: string): void {
    this.store.apply((job) => retitle(job, title));
  }

  protected nameless(): void {
    this.toasts.fail('A job needs a name: the old one stays.');
  }

  protected setKind(name: string): void {
    const kind = this.kinds.find((candidate) => candidate === name);
    if (kind) this.store.apply((job) => withKind(job, kind));
  }

  protected setLanguage(language: string | null): void {
    this.store.apply((job) => withLanguage(job, language));
  }

  /** Gives the sheet another size; blocks that keep to its margins go along. */
  private resize(size: Partial<Pick<Sheet, 'widthPt' | 'heightPt' | 'unit'>>, gesture?: string): void {
    const sheet = this.sheet();
    if (!sheet) return;
    const { id, widthPt, heightPt } = sheet;
    this.store.apply((job) => resizeSheet(job, id, { widthPt, heightPt, ...size }), gesture);
  }

  protected size(key: 'widthPt' | 'heightPt', { value, gesture }: ValueChange): void {
    this.resize({ [key]: toPoints(value, this.sheet()?.unit ?? 'pt') }, gesture);
  }

  protected margin(key: Margin, { value, gesture }: ValueChange): void {
    const sheet = this.sheet();
    if (sheet) this.change({ margins: { ...sheet.margins, [key]: toPoints(value, sheet.unit) } }, gesture);
  }

  protected take(name: string): void {
    const preset = this.presets.find((candidate) => candidate.name === name);
    if (preset) this.resize({ widthPt: toPoints(preset.width, preset.unit), heightPt: toPoints(preset.height, preset.unit), unit: preset.unit });
  }

  protected unit(name: string): void {
    const unit = this.units.find((candidate) => candidate === name);
    if (unit) this.change({ unit });
  }

  protected turnRound(): void {
    const sheet = this.sheet();
    if (sheet) this.resize({ widthPt: sheet.heightPt, heightPt: sheet.widthPt });
  }

  protected addGuide(axis: 'x' | 'y'): void {
    const sheet = this.sheet();
    if (sheet) this.change({ guides: [...sheet.guides, { axis, atPt: (axis === 'x' ? sheet.widthPt : sheet.heightPt) / 3 }] });
  }

  /** Puts a guide at another place; a rule goes up or down whole. */
  protected moveGuide(index: number, { value, gesture }: ValueChange): void {
    const sheet = this.sheet();
    const guide = sheet?.guides[index];
    if (!sheet || !guide) return;
    const atPt = toPoints(value, sheet.unit);
    const moved = guide.axis === 'rule' ? movedGuide(guide, 'whole', guide.from, { ...guide.from, yPt: atPt }) : { ...guide, atPt };
    this.change({ guides: sheet.guides.with(index, moved) }, gesture);
  }

  protected removeGuide(index: number): void {
    const sheet = this.sheet();
    if (sheet) this.change({ guides: sheet.guides.toSpliced(index, 1) });
  }

  protected drawRule(): void {
    this.store.draw('rule');
  }

  protected ground(kind: Background['kind']): void {
    const background = this.sheet()?.background;
    if (!background || background.kind === kind) return;
    const colour = background.kind === 'gradient' ? background.from : background.colour;
    if (kind === 'colour') this.change({ background: { kind, colour } });
    if (kind === 'gradient') this.change({ background: { kind, from: colour, to: '#4b3f9e', angleDeg: 180 } });
  }

  protected paint(change: Partial<Record<'colour' | 'from' | 'to', string>> & { angleDeg?: number; fit?: 'cover' | 'contain' }, gesture?: string): void {
    const background = this.sheet()?.background;
    if (background) this.change({ background: { ...background, ...change } }, gesture ?? `ground-${this.sheet()?.id ?? ''}`);
  }

  protected endGesture(): void {
    this.store.endGesture();
  }

  /** Sends a picture to the server and puts it under the words; what is refused says why and changes nothing. */
  protected async picture(field: HTMLInputElement): Promise<void> {
    const file = pickedFile(field);
    if (!file) return;
    await this.toasts.trying(async () => {
      const { id } = await firstValueFrom(this.api.keepPicture(file));
      const background = this.sheet()?.background;
      if (background) this.change({ background: pictureOn(background, id) });
    }, 'The picture could not be sent.');
  }
}
