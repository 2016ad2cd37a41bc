/** Short headlines in faces that a model has not learned from, gap by gap: what the font holds, and what the shapes propose. */
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Face, type FaceInstance } from '@jentrix/core/face';
import { type ShapeModel, inkDistance, BASE_LEVEL, proposeBesideSpace, proposeKerning } from '@jentrix/core/spacing';
import { root } from '@jentrix/e2e/harness';
import type { Samples } from './data';
import { designerKerning, sidesOf } from './families';
import { foldsOf } from './folds';
import type { TrainingPool } from './pool';
import { shapeModelOf } from './train';

export const KINDS = { roman: ['400-normal'], bold: ['700-normal'], italic: ['400-italic', '700-italic'] } as const;
export type Kind = keyof typeof KINDS;

export const HEADLINES = [
  'Two Nights to Watch',
  'A Valley of Falling Stars',
  'TWO NIGHTS TO WATCH',
  'FALLING STARS',
  'Yonder Valley',
  'Very Fresh',
  'Tonight, Vega.',
  'Warm Toast',
  'LATVIA',
  'Bring a Blanket',
  'The Dark Is Kind',
  'Wave Tower',
  'YESTERDAY',
  'AVATAR',
  'Kites over Fjord',
  'Quiet Rooms',
  'Young Type, New Work',
  'Typography for Everyone',
];
/** A gap of a headline, in 1/1000 em. */
export interface Gap {
  font: number;
  shape: number;
  /** The kerning the shapes ask for, before small answers become zero. */
  asked: number;
  atSpace: boolean;
  /** The distance of its inks at a kerning, in em. */
  distance: (milliem: number) => number;
}

/** The gaps of a text; beside a word space too. */
export function gapsOf(instance: FaceInstance, text: string, model: ShapeModel): Gap[] {
  const side = sidesOf(instance);
  return [...text].slice(1).flatMap((right, i): Gap[] => {
    const left = text.charAt(i);
    const [a, b] = [side(left), side(right)];
    const font = designerKerning(instance, left, right);
    if (left === ' ' || right === ' ') {
      const shape = left === ' ' ? b && proposeBesideSpace(b, 'right', model) : a && proposeBesideSpace(a, 'left', model);
      return shape === undefined ? [] : [{ font, shape, asked: shape, atSpace: true, distance: () => Number.POSITIVE_INFINITY }];
    }
    if (!a || !b) return [];
    const pair = { left: a.profile, right: b.profile, facing: { left: a.profile.right, right: b.profile.left }, standing: BASE_LEVEL };
    const { milliem: shape, wantedMilliem: asked } = proposeKerning(a, b, undefined, model);
    return [{ font, shape, asked, atSpace: false, distance: (milliem) => inkDistance(pair, milliem / 1000) }];
  });
}

/** Goes through the faces of every fold. @param samples of all families. */
export async function forHeldFaces(
  samples: readonly Samples[],
  pool: TrainingPool,
  visit: (face: Face, model: ShapeModel, kind: Kind, fold: number) => void,
): Promise<void> {
  for (const [fold, { held, model: learnt }] of (await foldsOf(samples, pool)).entries()) {
    const model = shapeModelOf(learnt);
    for (const kind of Object.keys(KINDS) as Kind[]) {
      for (const family of held) {
        for (const style of KINDS[kind]) {
          const file = join(root, `node_modules/@fontsource/${family}/files/${family}-latin-${style}.woff`);
          if (!existsSync(file)) continue;
          const face = await Face.open(new Uint8Array(readFileSync(file)));
          visit(face, model, kind, fold);
          face.dispose();
        }
      }
    }
  }
}
