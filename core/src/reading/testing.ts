/** Pictures of type with known numbers, and what scanners and screens do to them. For tests and benchmarks; Node only. */
import { Resvg } from '@resvg/resvg-js';
import sharp from 'sharp';
import { drawBlock } from '../drawing';
import { writeSvg } from '../formats';
import { type Block, createBlock } from '../job';
import { type FaceSet, inkOf, setBlock } from '../setting';
import { randomFrom } from '../testing';
import { type Grey, greyOf } from './raster';

export interface Spoiling {
  pixelsPerInch: number;
  turnDeg?: number;
  reversed?: boolean;
  /** Standard deviation in points. */
  blurPt?: number;
  /** Standard deviation in levels of 255. */
  noise?: number;
  /** By how much light falls off towards one corner, as a share. */
  shade?: number;
  /** Quality of JPEG, 1 to 100. */
  jpeg?: number;
  seed?: number;
}

/** A block of its own: words in a face, lines broken where the words say. */
export const blockFor = (
  words: string,
  faceId: string,
  settings: { sizePt: number; trackingMilliem?: number; leading?: number; align?: Block['align'] },
): Block => ({
  ...createBlock(
    'sample',
    words,
    { xPt: 0, yPt: 0, widthPt: 20_000, heightPt: 10 },
    { faceId, sizePt: settings.sizePt, trackingMilliem: settings.trackingMilliem ?? 0 },
  ),
  leading: { kind: 'multiple', factor: settings.leading ?? 1.2 },
  align: settings.align ?? 'left',
  grow: 'both',
});

/** A picture of a block as SVG: its ink with paper around. @returns the SVG and its size in pixels. */
export function svgOf(
  block: Block,
  faces: FaceSet,
  { pixelsPerInch, turnDeg = 0, reversed = false }: Spoiling,
): { svg: string; width: number; height: number } {
  const [paper, colour] = reversed ? ['#181818', '#f4f4f4'] : ['#f8f8f8', '#141414'];
  const inked = { ...block, style: { ...block.style, colour } };
  const setting = setBlock(inked, faces);
  const ink = inkOf(setting, faces);
  if (!ink) throw new Error('There is no ink.');
  const margin = block.style.sizePt * 0.7;
  // Whole pixels, so that a point is as many of them as is said.
  const [width, height] = [ink.rightPt - ink.leftPt, ink.bottomPt - ink.topPt].map((pt) => Math.ceil(((pt + 2 * margin) * pixelsPerInch) / 72)) as [
    number,
    number,
  ];
  const [widthPt, heightPt] = [(width * 72) / pixelsPerInch, (height * 72) / pixelsPerInch];
  const drawn = drawBlock(inked, setting);
  const sheet = {
    ...{ widthPt, heightPt, unit: 'pt' as const, name: 'sample' },
    ground: [{ kind: 'rectangle' as const, box: { leftPt: -widthPt, topPt: -heightPt, rightPt: 2 * widthPt, bottomPt: 2 * heightPt }, fill: paper }],
    blocks: [
      {
        ...drawn,
        nodes: [{ kind: 'group' as const, nodes: drawn.nodes, move: { xPt: margin - ink.leftPt, yPt: margin - ink.topPt } }],
        turn: { degrees: turnDeg, xPt: widthPt / 2, yPt: heightPt / 2 },
      },
    ],
  };
  return { svg: writeSvg(sheet, faces, { letters: 'outlines', pixels: { width, height } }), width, height };
}

/** A spoilt picture of a block, in grey. */
export async function pictureOf(block: Block, faces: FaceSet, spoiling: Spoiling): Promise<Grey> {
  const { svg } = svgOf(block, faces, spoiling);
  return spoilt(svg, spoiling);
}

/** A picture as PNG. */
export const pngOf = ({ width, height, values }: Grey): Promise<Buffer> =>
  sharp(values, { raw: { width, height, channels: 1 } })
    .png()
    .toBuffer();

/** An SVG as a spoilt picture, in grey. */
export async function spoilt(svg: string, { pixelsPerInch, blurPt = 0, noise = 0, shade = 0, jpeg, seed = 1 }: Spoiling): Promise<Grey> {
  const image = new Resvg(svg, { font: { loadSystemFonts: false } }).render();
  const { width, height } = image;
  const grey = greyOf(new Uint8Array(image.pixels), width, height);
  let bytes: Uint8Array = Uint8Array.from(grey.values);
  const raw = { raw: { width, height, channels: 1 as const } };
  const sigma = (blurPt * pixelsPerInch) / 72;
  if (sigma > 0.3) bytes = await sharp(bytes, raw).blur(sigma).extractChannel(0).raw().toBuffer();
  const random = randomFrom(seed);
  for (let y = 0, i = 0; y < height; y++) {
    for (let x = 0; x < width; x++, i++) {
      const light = 1 - shade * Math.min(1, ((x / width) ** 2 + (y / height) ** 2) / 2 + 0.2 * (x / width));
      // Normal enough: the sum of four uniform numbers.
      const grain = noise === 0 ? 0 : (random() + random() + random() + random() - 2) * Math.sqrt(3) * noise;
      bytes[i] = Math.max(0, Math.min(255, Math.round((bytes[i] ?? 0) * light + grain)));
    }
  }
  if (jpeg !== undefined)
    bytes = await sharp(await sharp(bytes, raw).jpeg({ quality: jpeg }).toBuffer())
      .extractChannel(0)
      .raw()
      .toBuffer();
  return { width, height, values: new Uint8Array(bytes) };
}
