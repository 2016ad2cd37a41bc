import { edgeShape } from '../edges';
import type { HangKind } from '../job';
import { headline, randomFrom, shippedFaces } from '../testing';
import type { SetLine } from './block-setting';
import type { FaceSet } from './faces';
import { setBlock } from './set-block';

/** Words with the kinds of the marks before them, in their order, and behind them, the outermost first. */
const WORDS: readonly { words: string; before: HangKind[]; behind: HangKind[] }[] = [
  { words: 'TOAVOT', before: [], behind: [] },
  { words: '“Wave', before: ['quotes'], behind: [] },
  { words: '«“Yes”.', before: ['quotes', 'quotes'], behind: ['points', 'quotes'] },
  { words: '— Ovation —', before: ['bullets', 'bullets'], behind: ['dashes'] },
  { words: 'join-', before: [], behind: ['dashes'] },
  { words: 'VAT…', before: [], behind: ['points'] },
  { words: '.Af', before: ['points'], behind: [] },
  { words: 'W“', before: [], behind: ['quotes'] },
  { words: '“”', before: [], behind: [] },
  { words: 'Ǻt,', before: [], behind: ['points'] },
];

interface Seen {
  cluster: number;
  left: number;
  right: number;
  inkLeft: number;
  inkRight: number;
}

describe('the edges of a line', () => {
  let faces: FaceSet;
  beforeAll(async () => (faces = await shippedFaces('playfair-display-bold', 'playfair-display-italic', 'eb-garamond-italic')));

  /** Letters where they are drawn, from their glyphs' places on the sheet and the shapes of their sides. */
  function seenOn(line: SetLine, optical: number): Seen[] {
    const glyphs = line.runs.flatMap(({ glyphs: own, style, xScale }) => own.map((glyph) => ({ ...glyph, style, xScale })));
    const seen = new Map<number, Seen>();
    glyphs.forEach(({ cluster, glyphId, xPt, offsetPt, style, xScale }, i) => {
      const instance = faces.instance(style);
      const em = xScale * instance.unitsPerEm;
      const advance = instance.advance(glyphId) * xScale;
      const [left, right] = [edgeShape(instance, glyphId, 'left'), edgeShape(instance, glyphId, 'right')];
      const room = xPt - offsetPt;
      // Tracking and kerning stand between letters: the room of a letter ends with its advance.
      const ends = room + advance;
      const mix = (from: number, to: number): number => from * (1 - optical) + to * optical;
      const one = {
        cluster,
        left: left ? mix(room, xPt + left.bearing * em) + optical * left.past * em : room,
        right: right ? mix(ends, xPt + advance - right.bearing * em) - optical * right.past * em : ends,
        inkLeft: left ? xPt + left.ink * em : room,
        inkRight: right ? xPt + advance - right.ink * em : ends,
      };
      const known = seen.get(cluster);
      if (!known || i === 0) seen.set(cluster, one);
      else {
        if (one.inkLeft < known.inkLeft) Object.assign(known, { inkLeft: one.inkLeft, left: one.left });
        if (one.inkRight > known.inkRight) Object.assign(known, { inkRight: one.inkRight, right: one.right });
      }
    });
    return [...seen.values()].sort((a, b) => a.left - b.left);
  }

  it('are where letters are seen, marks outside by their shares, whatever the face, tracking and amounts', () => {
    const random = randomFrom(7);
    const of = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
    for (let i = 0; i < 300; i++) {
      const { words, before, behind } = of(WORDS);
      const hang = { quotes: random(), points: random(), dashes: random(), bullets: random(), numbers: random() };
      const optical = of([0, 0.4, 1]);
      const style = { faceId: of(['playfair-display-bold', 'playfair-display-italic', 'eb-garamond-italic']), sizePt: 20 + random() * 60 };
      const plain = headline(words, { edges: { hang, optical }, align: of(['left', 'right', 'centre'] as const) });
      const block = {
        ...plain,
        style: { ...plain.style, ...style, trackingMilliem: of([0, 60]), kerning: of(['off', 'shape'] as const), scaleX: of([1, 0.8]) },
      };
      const [line] = setBlock(block, faces).lines;
      if (!line?.edges) throw new Error('a line without edges');
      const letters = seenOn(line, optical);
      const inner = letters.slice(before.length, letters.length - behind.length);
      let left = Math.min(...inner.map((one) => one.left));
      let right = Math.max(...inner.map((one) => one.right));
      // Each mark reaches past its neighbour on the inside; that much, less its share, is within the edge.
      let inside = left;
      [...before].reverse().forEach((kind, k) => {
        const mark = letters[before.length - 1 - k]?.left ?? 0;
        left += Math.min(0, mark - inside) * (1 - hang[kind]);
        inside = mark;
      });
      inside = right;
      [...behind].reverse().forEach((kind, k) => {
        const mark = letters[letters.length - behind.length + k]?.right ?? 0;
        right += Math.max(0, mark - inside) * (1 - hang[kind]);
        inside = mark;
      });
      const says = `${words} ${optical} ${JSON.stringify(style)}`;
      expect(line.edges.leftPt).withContext(says).toBeCloseTo(left, 6);
      expect(line.edges.rightPt).withContext(says).toBeCloseTo(right, 6);
      // Left and right lines meet the frame with these edges; a centred one is centred by the ink of its letters and dashes.
      const { xPt, widthPt } = setBlock(block, faces).frame;
      const dashed = letters.slice(0, before.length).some(({ cluster }) => /[-—]/.test(words.charAt(cluster))) ? letters : letters.slice(before.length);
      const kept = behind.includes('dashes') ? dashed : dashed.slice(0, dashed.length - behind.length);
      if (block.align === 'left') expect(line.edges.leftPt).withContext(says).toBeCloseTo(xPt, 6);
      else if (block.align === 'right')
        expect(line.edges.rightPt)
          .withContext(says)
          .toBeCloseTo(xPt + widthPt, 6);
      else
        expect((Math.min(...kept.map((one) => one.inkLeft)) + Math.max(...kept.map((one) => one.inkRight))) / 2)
          .withContext(says)
          .toBeCloseTo(xPt + widthPt / 2, 6);
    }
  });
});
