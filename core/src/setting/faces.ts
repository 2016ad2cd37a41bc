import type { AxisValues, Face, FaceInstance } from '../face';
import type { Block } from '../job';

/** The choice of an instance: the face and the position in its design space. */
export interface FaceChoice {
  faceId: string;
  axes: AxisValues;
}

/** The opened faces a setting may use, and the one that stands in for those that are missing. */
export class FaceSet {
  private readonly faces = new Map<string, Face>();

  /** @param standInId the face used where a job names one that isn't here. */
  constructor(private readonly standInId: string) {}

  /** Adds an opened face; one already there under that identifier is closed. */
  add(id: string, face: Face): void {
    this.faces.get(id)?.dispose();
    this.faces.set(id, face);
  }

  /** How many faces are open. */
  get size(): number {
    return this.faces.size;
  }

  has(id: string): boolean {
    return this.faces.has(id);
  }

  /** The open faces by their identifiers, in the order they were opened in. */
  entries(): Iterable<readonly [string, Face]> {
    return this.faces.entries();
  }

  get(id: string): Face | undefined {
    return this.faces.get(id);
  }

  /**
   * The instance for a choice, or the stand-in's.
   * @throws Error when the stand-in itself is missing.
   */
  instance({ faceId, axes }: FaceChoice): FaceInstance {
    const face = this.faces.get(faceId) ?? this.faces.get(this.standInId);
    if (!face) throw new Error(`Neither the face “${faceId}” nor its substitute “${this.standInId}” is open`);
    return face.instance(axes);
  }
}

/** All faces a block names. */
export const facesOf = (block: Block): string[] => [...new Set([block.style.faceId, ...block.runs.flatMap(({ style }) => style.faceId ?? [])])];
