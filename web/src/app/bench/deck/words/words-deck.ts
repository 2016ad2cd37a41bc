import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { type Frame, setAlign, setFrame, setStyle } from '@jentrix/core/job';
import { ALIGNMENTS, type Align, fromPoints, parseLength, printValue, toPoints } from '@jentrix/core/units';
import { EngineService } from '../../../engine/engine.service';
import { type ValueChange, ValueField } from '../../../ui/value-field';
import { BenchStore } from '../../bench.store';

/** The Words pass: face, size, align and frame, and the ends of the lines as a rag profile. */
@Component({
  selector: 'jx-words-deck',
  imports: [ValueField],
  templateUrl: './words-deck.html',
  styleUrl: './words-deck.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class WordsDeck {
  protected readonly store = inject(BenchStore);
  private readonly view = toSignal(this.store.view$, { requireSync: true });
  private readonly job = toSignal(this.store.job$);
  private readonly setting = toSignal(this.store.setting$);
  protected readonly faces = toSignal(inject(EngineService).faces$, { requireSync: true });
  protected readonly alignments = ALIGNMENTS;
  protected readonly frameFields: readonly { key: keyof Frame; label: string; min: number }[] = [
    { key: 'xPt', label: $localize`from left`, min: -50_000 },
    { key: 'yPt', label: $localize`from top`, min: -50_000 },
    { key: 'widthPt', label: $localize`width`, min: 1 },
    { key: 'heightPt', label: $localize`height`, min: 1 },
  ];

  protected readonly block = computed(() => {
    this.job();
    this.view();
    return this.store.block;
  });
  protected readonly unit = computed(() => {
    this.job();
    this.view();
    return this.store.sheet?.unit ?? 'pt';
  });
  protected readonly families = computed(() => [...new Set(this.faces().items.map(({ family }) => family))]);
  protected readonly rag = computed(() => {
    const block = this.block();
    const lines = (block && this.setting()?.settings.get(block.id)?.lines) ?? [];
    const measure = block?.frame.widthPt ?? 1;
    const unit = this.unit();
    return lines.map((line) => ({
      words: block?.words.slice(line.start, line.visibleEnd) ?? '',
      start: ((line.leftPt - (block?.frame.xPt ?? 0)) / measure) * 100,
      share: (line.widthPt / measure) * 100,
      over: line.widthPt > measure + 0.01,
      width: `${printValue(fromPoints(line.widthPt, unit), 1)} ${unit}`,
    }));
  });

  protected facesOf(family: string) {
    return this.faces().items.filter((face) => face.family === family);
  }

  protected shown(pt: number): number {
    return fromPoints(pt, this.unit());
  }

  protected readonly parseFrame = (text: string): number => fromPoints(parseLength(text, this.unit()), this.unit());
  protected readonly printFrame = (value: number): string => printValue(value, 1);

  protected setFrame(key: keyof Frame, { value, gesture }: ValueChange): void {
    const block = this.block();
    if (block) this.store.apply((job) => setFrame(job, block.id, { [key]: toPoints(value, this.unit()) }), gesture);
  }

  protected setSize({ value, gesture }: ValueChange): void {
    const block = this.block();
    if (block) this.store.apply((job) => setStyle(job, block.id, { sizePt: value }), gesture);
  }

  protected setFace(faceId: string): void {
    const block = this.block();
    if (block) this.store.apply((job) => setStyle(job, block.id, { faceId }));
  }

  protected setColour(colour: string): void {
    const block = this.block();
    if (block) this.store.apply((job) => setStyle(job, block.id, { colour }), `colour-${block.id}`);
  }

  protected align(align: Align): void {
    const block = this.block();
    if (block) this.store.apply((job) => setAlign(job, block.id, align));
  }
}
