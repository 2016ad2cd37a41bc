import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { type Background, SHEET_PRESETS, type Sheet, withSheet } from '@jentrix/core/job';
import { LENGTH_UNITS, UnitError, fromPoints, parseLength, splitQuantity, toPoints } from '@jentrix/core/units';
import { firstValueFrom } from 'rxjs';
import { ApiService } from '../../../api/api.service';
import { ColourField } from '../../../ui/colour-field';
import { takeFile } from '../../../ui/files';
import { ToastService } from '../../../ui/toasts';
import { type ValueChange, ValueField } from '../../../ui/value-field';
import { BenchStore } from '../../bench.store';
import { showValue } from '../../../ui/numbers';

type Margin = keyof Sheet['margins'];

/** The sheet itself: size, margins, guides, title-safe area, background. */
@Component({
  selector: 'jx-sheet-panel',
  imports: [ColourField, ValueField],
  templateUrl: './sheet-panel.html',
  styleUrl: './sheet-panel.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SheetPanel {
  private readonly store = inject(BenchStore);
  private readonly api = inject(ApiService);
  private readonly toasts = inject(ToastService);
  protected readonly presets = SHEET_PRESETS;
  protected readonly units = LENGTH_UNITS;
  protected readonly margins: readonly { key: Margin; label: string }[] = [
    { key: 'topPt', label: 'top' },
    { key: 'rightPt', label: 'right' },
    { key: 'bottomPt', label: 'bottom' },
    { key: 'leftPt', label: 'left' },
  ];
  protected readonly sheet = this.store.current.sheet;

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

  protected size(key: 'widthPt' | 'heightPt', { value, gesture }: ValueChange): void {
    this.change({ [key]: toPoints(value, this.sheet()?.unit ?? 'pt') }, gesture);
  }

  protected margin(key: Margin, { value, gesture }: ValueChange): void {
    const sheet = this.sheet();
    if (sheet) this.change({ margins: { ...sheet.margins, [key]: toPoints(value, sheet.unit) } }, gesture);
  }

  protected take(name: string): void {
    const preset = this.presets.find((candidate) => candidate.name === name);
    if (preset) this.change({ widthPt: toPoints(preset.width, preset.unit), heightPt: toPoints(preset.height, preset.unit), unit: preset.unit });
  }

  protected unit(name: string): void {
    const unit = this.units.find((candidate) => candidate === name);
    if (unit) this.change({ unit });
  }

  protected turnRound(): void {
    const sheet = this.sheet();
    if (sheet) this.change({ widthPt: sheet.heightPt, heightPt: sheet.widthPt });
  }

  protected addGuide(axis: 'x' | 'y'): void {
    const sheet = this.sheet();
    if (sheet) this.change({ guides: [...sheet.guides, { axis, atPt: (axis === 'x' ? sheet.widthPt : sheet.heightPt) / 3 }] });
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
    const file = takeFile(field);
    if (!file) return;
    await this.toasts.trying(async () => {
      const { id } = await firstValueFrom(this.api.keepPicture(file));
      const background = this.sheet()?.background;
      const colour = !background ? '#ffffff' : background.kind === 'gradient' ? background.from : background.colour;
      this.change({ background: { kind: 'picture', pictureId: id, fit: 'cover', colour } });
    }, 'The picture could not be sent.');
  }
}
