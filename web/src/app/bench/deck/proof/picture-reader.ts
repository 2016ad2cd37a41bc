import { Injectable, type OnDestroy, inject, signal } from '@angular/core';
import type { Block } from '@jentrix/core/job';
import type { PictureRead } from '@jentrix/core/reading';
import * as Comlink from 'comlink';
import { firstValueFrom } from 'rxjs';
import { EngineService } from '../../../engine/engine.service';
import { endsWithPage } from '../../../engine/ends-with-page';
import type { ReadingWorker } from '../../../engine/reading-protocol';

/** Most pixels that are read: beyond it nothing gets more exact, only slower. */
const MOST_PIXELS = 8_000_000;
/** An SVG is drawn with about so many pixels along its longer side. */
const SVG_SIDE = 2400;

/** Reads pictures in a worker, one at a time. */
@Injectable()
export class PictureReader implements OnDestroy {
  private readonly engine = inject(EngineService);
  private worker: Worker | undefined;
  private breakOff: (() => void) | undefined;
  /** How far reading has come, 0 to 1; undefined while nothing is read. */
  readonly progress = signal<number | undefined>(undefined);

  ngOnDestroy(): void {
    this.cancel();
  }

  /**
   * Reads a picture the server keeps. @param block as it is set; none where only lines are measured.
   * @returns undefined where it was broken off. @throws where the picture can't be fetched or drawn.
   */
  async read(
    { pictureId, widthPx, heightPx }: { pictureId: string; widthPx: number; heightPx: number },
    block: Block | undefined,
  ): Promise<{ read: PictureRead; perPixel: number } | undefined> {
    this.cancel();
    this.progress.set(0);
    try {
      const { standInId } = await firstValueFrom(this.engine.faces$);
      const { data, width, height, perPixel } = await pixelsAt(`/api/pictures/${encodeURIComponent(pictureId)}`, widthPx, heightPx);
      const worker = endsWithPage(new Worker(new URL('../../../engine/reading.worker', import.meta.url), { type: 'module' }));
      this.worker = worker;
      const failed = new Promise<never>((_, fail) => {
        worker.onerror = ({ message }) => fail(new Error(message || 'The reading worker has failed.'));
      });
      const ended = new Promise<undefined>((done) => (this.breakOff = () => done(undefined)));
      const remote = Comlink.wrap<ReadingWorker>(worker);
      const request = { rgba: data, width, height, block, origin: location.origin, standInId };
      const read = remote.read(
        Comlink.transfer(request, [data.buffer]),
        Comlink.proxy((share: number) => {
          if (this.worker === worker) this.progress.set(share);
        }),
      );
      const result = await Promise.race([read, failed, ended]);
      return result && { read: result, perPixel };
    } finally {
      this.cancel();
    }
  }

  /** Breaks reading off. */
  cancel(): void {
    this.worker?.terminate();
    this.worker = undefined;
    this.breakOff?.();
    this.breakOff = undefined;
    this.progress.set(undefined);
  }
}

interface Pixels {
  data: Uint8ClampedArray<ArrayBuffer>;
  width: number;
  height: number;
  /** Of the picture's own pixels in one of these. */
  perPixel: number;
}

/** A picture as pixels. @throws where it can't be fetched or drawn */
async function pixelsAt(address: string, widthPx: number, heightPx: number): Promise<Pixels> {
  const response = await fetch(address);
  if (!response.ok) throw new Error(`The picture can’t be loaded (${response.status})`);
  const blob = await response.blob();
  const url = URL.createObjectURL(blob);
  try {
    const image = new Image();
    image.src = url;
    await image.decode();
    return drawn(image, blob.type.startsWith('image/svg'), widthPx, heightPx);
  } finally {
    URL.revokeObjectURL(url);
  }
}

function drawn(image: HTMLImageElement, svg: boolean, widthPx: number, heightPx: number): Pixels {
  const larger = svg ? Math.max(1, SVG_SIDE / Math.max(widthPx, heightPx)) : 1;
  const perPixel = Math.min(larger, Math.sqrt(MOST_PIXELS / (widthPx * heightPx)));
  const [width, height] = [widthPx, heightPx].map((side) => Math.max(1, Math.round(side * perPixel))) as [number, number];
  const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error('No canvas');
  context.drawImage(image, 0, 0, width, height);
  return { data: context.getImageData(0, 0, width, height).data, width, height, perPixel };
}
