/** Faces for words that say only what they are: bold, italic. */
export interface Posed {
  bold: boolean;
  italic: boolean;
}

/** The facts of a face that a choice needs. */
export interface PosedFace {
  family: string;
  posture: { weight: number; italic: boolean };
}

/** Faces to choose from, by what they are called. */
export interface PosedFaces {
  get(id: string): PosedFace | undefined;
  entries(): Iterable<readonly [string, PosedFace]>;
}

/** The face of the same family (or else of any) that is nearest to a weight and a slope. */
export function faceLike(faces: PosedFaces, likeId: string, { bold, italic }: Posed): string {
  const like = faces.get(likeId);
  const wanted = bold ? 700 : 400;
  let best = { id: likeId, far: Number.POSITIVE_INFINITY };
  for (const [id, { family, posture }] of faces.entries()) {
    const far = Math.abs(posture.weight - wanted) / 100 + (posture.italic === italic ? 0 : 10) + (family === like?.family ? 0 : 100);
    if (far < best.far) best = { id, far };
  }
  return best.id;
}
