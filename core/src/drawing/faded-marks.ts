/** A drawing with its punctuation faded: the true shape of words. For looking only. */
import type { DrawingNode, GlyphNode } from './drawing';

/** How opaque marks are then. */
const FADED = 0.12;
const isMark = ({ shows }: GlyphNode): boolean => /^[\p{P}\p{S}]+$/u.test(shows);

/** The same nodes, marks of letters in groups of their own. */
export const fadedMarks = (nodes: readonly DrawingNode[]): DrawingNode[] =>
  nodes.flatMap((node): DrawingNode[] => {
    if (node.kind === 'group') return [{ ...node, nodes: fadedMarks(node.nodes) }];
    if (node.kind !== 'letters' || !node.glyphs.some(isMark)) return [node];
    const marks = node.glyphs.filter(isMark);
    return [
      { ...node, glyphs: node.glyphs.filter((glyph) => !isMark(glyph)) },
      { kind: 'group', opacity: FADED, nodes: [{ ...node, glyphs: marks, rules: [] }] },
    ];
  });
