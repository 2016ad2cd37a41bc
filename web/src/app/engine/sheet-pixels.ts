/** Sheets as pixels, from the very SVG that is handed over: what lies behind words, and what colour a point has. */
import type { Sheet } from '@jentrix/core/job';
import { middleOf } from '@jentrix/core/placing';
import type { BlockSetting, Box } from '@jentrix/core/setting';

/** A part of a sheet that is looked at: a box, seen as a block is turned. */
export interface SheetPart {
  box: Box;
  turn?: { degrees: number; frame: BlockSetting['frame'] };
}

export const wholeSheet = ({ widthPt, heightPt }: Sheet): SheetPart => ({ box: { leftPt: 0, topPt: 0, rightPt: widthPt, bottomPt: heightPt } });

/**
 * Draws parts of a sheet. Beyond the sheet's edges pixels are transparent.
 * @param svg the sheet as SVG, its pictures inside. @param longest pixels along the longer side of every part.
 * @throws where the browser can't draw the SVG.
 */
export async function pixelsOf(svg: string, sheet: Sheet, parts: readonly SheetPart[], longest: number): Promise<ImageData[]> {
  const url = URL.createObjectURL(new Blob([svg], { type: 'image/svg+xml' }));
  try {
    const image = new Image();
    image.src = url;
    await image.decode();
    return parts.map(({ box, turn }) => {
      const [width, height] = [box.rightPt - box.leftPt, box.bottomPt - box.topPt];
      const scale = longest / Math.max(width, height, 1e-6);
      const canvas = new OffscreenCanvas(Math.max(1, Math.round(width * scale)), Math.max(1, Math.round(height * scale)));
      const context = canvas.getContext('2d', { willReadFrequently: true });
      if (!context) throw new Error('No canvas');
      context.scale(scale, scale);
      context.translate(-box.leftPt, -box.topPt);
      if (turn && turn.degrees !== 0) {
        const { xPt, yPt } = middleOf(turn.frame);
        context.translate(xPt, yPt);
        context.rotate((-turn.degrees * Math.PI) / 180);
        context.translate(-xPt, -yPt);
      }
      context.drawImage(image, 0, 0, sheet.widthPt, sheet.heightPt);
      return context.getImageData(0, 0, canvas.width, canvas.height);
    });
  } finally {
    URL.revokeObjectURL(url);
  }
}

/** A file as a `data:` address, which an SVG can hold. */
export async function dataUrl(address: string): Promise<string> {
  const blob = await (await fetch(address)).blob();
  return new Promise((done, fail) => {
    const reader = new FileReader();
    reader.onload = () => done(reader.result as string);
    reader.onerror = () => fail(new Error('The picture can’t be read'));
    reader.readAsDataURL(blob);
  });
}
