/** The pairs of letters a job is spaced by, face by face, so that they can be used elsewhere. */
import { type Job, resolveSheet, styleAt } from '../job';
import { type FaceSet, ledgersOf, setSheet } from '../setting';

/** One pair of a face. */
export interface FacePair {
  left: string;
  right: string;
  /** The font's names for their glyphs. */
  leftGlyph: string;
  rightGlyph: string;
  /** All kerning between them, in 1/1000 em: what the font, the shapes and the hand give together. */
  milliem: number;
  /** The kerning of the font itself. */
  fontMilliem: number;
  /** How often they stand beside each other, and how often in other than this value. */
  count: number;
  others: number;
}

export interface PairsOfFace {
  faceId: string;
  family: string;
  style: string;
  unitsPerEm: number;
  /** By the left letter, then the right. */
  pairs: FacePair[];
}

/** The pairs of all words of a job, those with the word space too. Of a pair with several values the commonest counts, of equally common ones the smallest change. */
export function pairsOfJob(job: Job, faces: FaceSet): PairsOfFace[] {
  const found = new Map<string, Map<string, { pair: FacePair; values: Map<number, number> }>>();
  for (const raw of job.sheets) {
    const sheet = resolveSheet(job, raw);
    const settings = new Map(setSheet(sheet, faces).map((setting) => [setting.blockId, setting]));
    for (const block of sheet.blocks) {
      const setting = settings.get(block.id);
      for (const line of setting?.lines ?? []) {
        for (const { left, right, atSpace, totalMilliem, fontMilliem } of ledgersOf(block, line, faces)) {
          const [a, b] = [block.words.slice(left.start, left.end), block.words.slice(right.start, right.end)];
          const { faceId, axes } = styleAt(block, left.start);
          // Beside the word space what is kerned, by anybody, is a pair; other blanks have a width of their own.
          if (atSpace && ((totalMilliem === 0 && fontMilliem === 0) || ![a, b].includes(' '))) continue;
          if (faceId !== styleAt(block, right.start).faceId || Array.from(a).length !== 1 || Array.from(b).length !== 1) continue;
          const face = faces.get(faceId);
          const instance = face?.instance(axes);
          const [leftGlyph, rightGlyph] = [a, b].map((letter) => instance?.nominalGlyph(letter.codePointAt(0) ?? 0));
          if (!instance || leftGlyph === undefined || rightGlyph === undefined) continue;
          let own = found.get(faceId);
          if (!own) {
            own = new Map();
            found.set(faceId, own);
          }
          const key = `${a}${b}`;
          let entry = own.get(key);
          if (!entry)
            own.set(
              key,
              (entry = {
                pair: {
                  left: a,
                  right: b,
                  leftGlyph: instance.glyphName(leftGlyph),
                  rightGlyph: instance.glyphName(rightGlyph),
                  milliem: 0,
                  fontMilliem,
                  count: 0,
                  others: 0,
                },
                values: new Map(),
              }),
            );
          const value = Math.round(totalMilliem);
          entry.values.set(value, (entry.values.get(value) ?? 0) + 1);
        }
      }
    }
  }
  return [...found].flatMap(([faceId, entries]): PairsOfFace[] => {
    const face = faces.get(faceId);
    if (!face) return [];
    const pairs = [...entries.values()].map(({ pair, values }) => {
      const [[milliem, most] = [0, 0]] = [...values].sort(([a, m], [b, n]) => n - m || Math.abs(a) - Math.abs(b));
      const count = [...values.values()].reduce((sum, one) => sum + one, 0);
      return { ...pair, milliem, count, others: count - most };
    });
    pairs.sort((a, b) => a.left.localeCompare(b.left) || a.right.localeCompare(b.right));
    return [{ faceId, family: face.family, style: face.style, unitsPerEm: face.unitsPerEm, pairs }];
  });
}
