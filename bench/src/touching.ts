/** Pairs that the font's own kerning keeps apart and kerning by shape doesn't: every pair of letters, figures and marks of the shipped faces. */
import { readFileSync } from 'node:fs';
import { type FaceInstance, flatten } from '@jentrix/core/face';
import { profileOf, proposeKerning, rhythmOf } from '@jentrix/core/spacing';
import { openShipped } from '@jentrix/core/testing';
import { printTable } from './table';

/** Printable ASCII, letters with marks that stand out at their sides, and the quotes and dashes of headlines. */
const CHARACTERS = [...Array.from({ length: 0x7e - 0x20 }, (_, i) => String.fromCodePoint(0x21 + i)), ...'ÀÄÅÉÎÏÖÚÝĆČĎŁŘŠŤŽàäåéîïöúýćčďěíľłřšťžß‘’“”„«»–—…¡¿'];
/** Inks nearer than this are too near, in em. */
const NEAR = 0.01;
/** Only pairs whose boxes come this near are measured, in em; and no proposal closes more than `MOST_CLOSED`. */
const SUSPECT = 0.02;
const MOST_CLOSED = 0.2;
const PIECES = 6;

/** Straight pieces of an outline: x0, y0, x1, y1 in em. */
const segmentsOf = (instance: FaceInstance, glyphId: number): number[][] => {
  const segments: number[][] = [];
  const em = instance.unitsPerEm;
  flatten(instance.outline(glyphId), PIECES, (x0, y0, x1, y1) => segments.push([x0 / em, y0 / em, x1 / em, y1 / em]));
  return segments;
};

const toSegment = (px: number, py: number, [x0 = 0, y0 = 0, x1 = 0, y1 = 0]: readonly number[]): number => {
  const [dx, dy] = [x1 - x0, y1 - y0];
  const length = dx * dx + dy * dy;
  const t = length === 0 ? 0 : Math.max(0, Math.min(1, ((px - x0) * dx + (py - y0) * dy) / length));
  return Math.hypot(px - x0 - t * dx, py - y0 - t * dy);
};

const turn = (ax: number, ay: number, bx: number, by: number, cx: number, cy: number): number => Math.sign((bx - ax) * (cy - ay) - (by - ay) * (cx - ax));

/** The distance of two outlines, the right one moved by `offset`; 0 where they cross, `SUSPECT` where they are farther. Exact but for the flattening of curves. */
export function outlineDistance(left: readonly (readonly number[])[], right: readonly (readonly number[])[], offset: number): number {
  let nearest = SUSPECT;
  const ends = Math.max(...left.map(([x0 = 0, , x1 = 0]) => Math.max(x0, x1)));
  const begins = Math.min(...right.map(([x0 = 0, , x1 = 0]) => Math.min(x0, x1))) + offset;
  const facing = right.filter(([x0 = 0, , x1 = 0]) => Math.min(x0, x1) + offset < ends + nearest);
  for (const one of left) {
    const [ax = 0, ay = 0, bx = 0, by = 0] = one;
    if (Math.max(ax, bx) < begins - nearest) continue;
    for (const still of facing) {
      const [x0 = 0, cy = 0, x1 = 0, dy = 0] = still;
      const [cx, dx] = [x0 + offset, x1 + offset];
      const acrossGap = Math.max(Math.min(cx, dx) - Math.max(ax, bx), Math.min(ax, bx) - Math.max(cx, dx));
      const uprightGap = Math.max(Math.min(cy, dy) - Math.max(ay, by), Math.min(ay, by) - Math.max(cy, dy));
      if (acrossGap >= nearest || uprightGap >= nearest) continue;
      const crossing = turn(ax, ay, bx, by, cx, cy) !== turn(ax, ay, bx, by, dx, dy) && turn(cx, cy, dx, dy, ax, ay) !== turn(cx, cy, dx, dy, bx, by);
      if (crossing) return 0;
      const moved = [cx, cy, dx, dy];
      nearest = Math.min(nearest, toSegment(ax, ay, moved), toSegment(bx, by, moved), toSegment(cx, cy, one), toSegment(dx, dy, one));
    }
  }
  return nearest;
}

export async function benchTouching(): Promise<void> {
  const ids = (JSON.parse(readFileSync(new URL('../../faces/faces.json', import.meta.url), 'utf8')) as { id: string }[]).map(({ id }) => id);
  const rows: string[][] = [['', 'pairs', 'measured', 'overlapping', `nearer than ${NEAR} em`, 'for instance']];
  const total = [0, 0, 0, 0];
  for (const id of ids) {
    const instance = (await openShipped(id)).instance();
    const rhythm = rhythmOf(instance);
    const letters = CHARACTERS.flatMap((character) => {
      const glyphId = instance.nominalGlyph(character.codePointAt(0) ?? 0);
      const profile = glyphId === undefined ? undefined : profileOf(instance, glyphId);
      return glyphId !== undefined && profile ? [{ character, glyphId, profile, segments: segmentsOf(instance, glyphId) }] : [];
    });
    let [pairs, measured, overlapping, near] = [0, 0, 0, 0];
    const examples: string[] = [];
    for (const left of letters) {
      for (const right of letters) {
        pairs++;
        const bare = left.profile.advance - left.profile.inkRight + right.profile.inkLeft;
        if (bare > MOST_CLOSED + SUSPECT) continue;
        const { milliem } = proposeKerning({ profile: left.profile, rhythm }, { profile: right.profile, rhythm });
        if (bare + milliem / 1000 > SUSPECT) continue;
        const shaped = instance.shape(left.character + right.character, 0, 2);
        const [first, second] = shaped;
        if (shaped.length !== 2 || first?.glyphId !== left.glyphId || second?.glyphId !== right.glyphId) continue;
        measured++;
        const advance = left.profile.advance;
        const byShape = outlineDistance(left.segments, right.segments, advance + milliem / 1000);
        if (byShape >= NEAR) continue;
        const byFont = outlineDistance(left.segments, right.segments, (first.xAdvance + second.xOffset) / instance.unitsPerEm);
        if (byFont < NEAR) continue;
        near++;
        if (byShape === 0) overlapping++;
        if (examples.length < 6) examples.push(`${left.character}${right.character} ${milliem}`);
      }
    }
    [pairs, measured, overlapping, near].forEach((count, i) => (total[i] = (total[i] ?? 0) + count));
    rows.push([id, ...[pairs, measured, overlapping, near].map(String), examples.join(' ')]);
  }
  rows.push(['all', ...total.map(String), '']);
  printTable('Inks that the font keeps apart, as kerning by shape leaves them', rows);
}
