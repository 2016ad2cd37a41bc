/** Letters that the face does not have, with an open face that has them. */
import { graphemeBoundaries } from '../../job';
import type { FaceSet } from '../../setting';
import type { Rule } from '../rule';

/** How many letters are named. */
const MOST_NAMED = 12;

/** The glyph that stands for what a font lacks (OpenType, `.notdef`). */
const NOTDEF = 0;

export const missingLetters: Rule = {
  id: 'missing-letters',
  pass: 'face',
  name: 'Letters missing from the face',
  looksAt: 'block',
  look: ({ block, setting, faces }) => {
    const places = new Set<number>();
    for (const { runs } of setting.lines) for (const { glyphs } of runs) for (const { glyphId, cluster } of glyphs) if (glyphId === NOTDEF) places.add(cluster);
    if (places.size === 0) return [];
    const starts = [0, ...graphemeBoundaries(block.words)];
    const all = starts.map((start, i) => ({ start, end: starts[i + 1] ?? block.words.length }));
    const letters = all.filter(({ start, end }) => [...places].some((at) => at >= start && at < end));
    const [first] = letters;
    if (!first) return [];
    const named = [...new Set(letters.map(({ start, end }) => block.words.slice(start, end)))];
    const other = faceWith(named.join(''), faces);
    const { sizePt } = block.style;
    return [
      {
        at: first.start,
        severity: 'severe',
        visiblePt: sizePt,
        subject: named.slice(0, MOST_NAMED).join(' ') + (named.length > MOST_NAMED ? ' …' : ''),
        message: other ? `not in this face; ${other.name} has ${named.length === 1 ? 'it' : 'them'}` : 'not in this face or any other face of the job',
        ...(other ? { proposal: { ranges: letters.map(({ start, end }) => ({ start, end, style: { faceId: other.id } })) } } : {}),
      },
    ];
  },
};

/** The first open face that has every letter of a text. */
function faceWith(text: string, faces: FaceSet): { id: string; name: string } | undefined {
  const codes = Array.from(text.normalize('NFC'), (letter) => letter.codePointAt(0) ?? 0);
  for (const [id, face] of faces.entries()) {
    const instance = face.instance();
    if (codes.every((code) => (instance.nominalGlyph(code) ?? 0) !== 0)) return { id, name: `${face.family} ${face.style}` };
  }
  return undefined;
}
