/** Pictures as PDF takes them. */
import { Resvg } from '@resvg/resvg-js';
import type { DrawingNode, Page, PictureNode } from '../../drawing';
import { escapeXml } from '../../formats';
import type { PlaceablePicture } from './painter';

/**
 * The pictures of a page by their identifiers; those that are not at hand are left out.
 * @param pictures as `data:` addresses. @param ppi resolution at which drawn pictures are made.
 */
export async function placeable(page: Page, pictures: ReadonlyMap<string, string>, ppi: number): Promise<Map<string, PlaceablePicture>> {
  const made = new Map<string, PlaceablePicture>();
  for (const node of picturesIn(page.ground)) {
    const href = pictures.get(node.pictureId);
    if (href !== undefined && !made.has(node.pictureId)) made.set(node.pictureId, await placeableOf(href, node, ppi));
  }
  return made;
}

const picturesIn = (nodes: readonly DrawingNode[]): PictureNode[] =>
  nodes.flatMap((node) => (node.kind === 'picture' ? [node] : node.kind === 'group' ? picturesIn(node.nodes) : []));

async function placeableOf(href: string, { box }: PictureNode, ppi: number): Promise<PlaceablePicture> {
  if (href.startsWith('data:image/svg+xml')) return drawn(href, box.rightPt - box.leftPt, box.bottomPt - box.topPt, ppi);
  const { default: sharp } = await import('sharp');
  const bytes = Buffer.from(href.slice(href.indexOf(',') + 1), 'base64');
  const image = sharp(bytes);
  const { width, height, format, space } = await image.metadata();
  // A JPEG goes in as it is; all else is written anew without what readers stumble over: interlacing, palettes, 16 bits.
  if (format === 'jpeg' && space === 'srgb') return { bytes, width, height };
  return { bytes: await image.toColourspace('srgb').png({ palette: false, progressive: false }).toBuffer(), width, height };
}

/** Pixels of an SVG that fills a box. */
function drawn(href: string, widthPt: number, heightPt: number, ppi: number): PlaceablePicture {
  const size = `width="${widthPt}" height="${heightPt}"`;
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" ${size}><image ${size} href="${escapeXml(href)}"/></svg>`;
  const longest = Math.max(widthPt, heightPt);
  const scale = Math.min(ppi / 72, LONGEST_PX / longest);
  const image = new Resvg(svg, { font: { loadSystemFonts: false }, fitTo: { mode: 'zoom', value: scale } }).render();
  return { bytes: image.asPng(), width: image.width, height: image.height, fills: true };
}

/** Longer pictures than this are made at a coarser resolution. */
const LONGEST_PX = 6000;
