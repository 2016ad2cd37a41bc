/** Finding faces by name and by what was measured of them. */
import type { Anatomy, FoundKind } from './anatomy';

/** The searchable part of a face: a name and an anatomy. */
export interface Searchable {
  family: string;
  style: string;
  anatomy: Anatomy;
  axes: readonly unknown[];
}

export interface FaceQuery {
  /** Words that all stand in family, style or kind, in any order. */
  q: string;
  kind?: FoundKind | undefined;
  condensed?: boolean | undefined;
  variable?: boolean | undefined;
  sort: 'family' | 'stem' | 'contrast' | 'width' | 'xHeight';
  order: 'asc' | 'desc';
}

/** Whether a face is of a kind people look for. */
export const isFaceKind = ({ kind, display }: Anatomy, wanted: FoundKind): boolean => (wanted === 'display' ? display : kind === wanted);

/** The kind of a face, in words. */
export const sayKind = ({ kind, condensed, display }: Anatomy): string => `${kind}${condensed ? ' condensed' : ''}${display ? ' display' : ''}`;

/** The faces that fit, sorted; equal ones by name. */
export function searchFaces<T extends Searchable>(faces: readonly T[], { q, kind, condensed, variable, sort, order }: FaceQuery): T[] {
  const words = q.toLowerCase().split(/\s+/).filter(Boolean);
  const found = faces.filter((face) => {
    const { anatomy } = face;
    if (kind !== undefined && !isFaceKind(anatomy, kind)) return false;
    if (condensed !== undefined && anatomy.condensed !== condensed) return false;
    if (variable !== undefined && face.axes.length > 0 !== variable) return false;
    if (words.length === 0) return true;
    const text = `${face.family} ${face.style} ${sayKind(anatomy)}${face.axes.length > 0 ? ' variable' : ''}`.toLowerCase();
    return words.every((word) => text.includes(word));
  });
  const sign = order === 'asc' ? 1 : -1;
  const byName = (a: T, b: T): number => a.family.localeCompare(b.family, 'en') || a.anatomy.stem - b.anatomy.stem || a.style.localeCompare(b.style, 'en');
  return found.sort((a, b) => (sort === 'family' ? sign * byName(a, b) : sign * (a.anatomy[sort] - b.anatomy[sort]) || byName(a, b)));
}
