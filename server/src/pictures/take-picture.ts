/** Taking pictures in: what the processes do that look at what was uploaded. */
import { createHash } from 'node:crypto';
import { readFileSync, writeFileSync } from 'node:fs';
import { Resvg } from '@resvg/resvg-js';
import { imageSize } from 'image-size';
import { ProblemError } from '../http/problem';
import { PictureError, safeSvg } from './safe-svg';
import { checkCost } from './svg-cost';

/** Most pixels of a picture. */
const MAX_PIXELS = 60_000_000;
/** Longest SVG that is kept, in characters. */
const MAX_KEPT = 16_000_000;
/** A drawing is tried out at this many pixels, and may take so many milliseconds of the processor's time for it. */
const TRIAL_PIXELS = 1_000_000;
const TRIAL_MS = 2_000;

const TYPES: Readonly<Record<string, string>> = { png: 'image/png', jpg: 'image/jpeg', webp: 'image/webp', svg: 'image/svg+xml' };
const WITHOUT_FONTS = { font: { loadSystemFonts: false } } as const;

const refuse = (detail: string): ProblemError => new ProblemError(422, 'bad-picture', 'The picture can’t be used', detail);

export interface TakenPicture {
  type: string;
  width: number;
  height: number;
}

/**
 * Looks at a picture: PNG, JPEG, WebP, or SVG, which is written anew from what it draws.
 * @param path the file as it came. @param out where what is kept goes.
 * @returns what it is, and the SHA-256 of what is kept
 * @throws ProblemError 422 for anything else, or one that is too large or costs too much
 */
export function takePicture({ path, out }: { path: string; out: string }): TakenPicture & { digest: string } {
  const bytes = readFileSync(path);
  const { type, width, height } = look(bytes);
  if (!(width * height <= MAX_PIXELS)) throw refuse(`It has ${width} × ${height} pixels; at most ${MAX_PIXELS / 1e6} million are kept.`);
  const kept = type === 'image/svg+xml' ? Buffer.from(redraw(bytes.toString('utf8'), width, height)) : bytes;
  writeFileSync(out, kept);
  return { type, width, height, digest: createHash('sha256').update(kept).digest('hex') };
}

function look(bytes: Buffer): TakenPicture {
  let size: ReturnType<typeof imageSize>;
  try {
    size = imageSize(bytes);
  } catch {
    throw refuse('It is not a PNG, JPEG, WebP or SVG picture, or it is damaged.');
  }
  const type = TYPES[size.type ?? ''];
  if (!type) throw refuse(`Pictures of the kind “${size.type ?? 'unknown'}” are not taken; use PNG, JPEG, WebP or SVG.`);
  if (!(size.width > 0 && size.height > 0)) throw refuse('It has no size.');
  return { type, width: Math.max(1, Math.round(size.width)), height: Math.max(1, Math.round(size.height)) };
}

/** An SVG as its drawing only, tried out: what the renderer can't draw within reason is refused here and not met at the hand-over. */
function redraw(text: string, width: number, height: number): string {
  try {
    const drawn = new Resvg(safeSvg(text), WITHOUT_FONTS).toString();
    if (drawn.length > MAX_KEPT) throw new PictureError('Drawn out it is larger than a picture should be.');
    checkCost(drawn);
    const scale = Math.min(1, Math.sqrt(TRIAL_PIXELS / (width * height)));
    const before = process.cpuUsage();
    new Resvg(drawn, { ...WITHOUT_FONTS, fitTo: { mode: 'width', value: Math.max(1, Math.round(width * scale)) } }).render();
    const { user, system } = process.cpuUsage(before);
    if ((user + system) / 1000 > TRIAL_MS) throw new PictureError('It takes too long to draw.');
    return drawn;
  } catch (error) {
    throw refuse(error instanceof PictureError ? error.message : `The SVG can’t be read: ${error instanceof Error ? error.message : String(error)}`);
  }
}
