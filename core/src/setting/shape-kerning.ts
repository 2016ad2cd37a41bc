/** Kerning by shape inside a setting: proposals of core/spacing for the gaps of shaped runs. */
import type { FaceInstance, ShapedGlyph } from '../face';
import { type ShapeProposal, profileOf, proposeKerning, rhythmOf } from '../spacing';
import type { ShapedRun } from './shaping';

const NONE: ShapeProposal = { milliem: 0, offTargetMilliem: 0, wantedMilliem: 0, limit: 'reached', targetMilliem: 0 };
const MAX_PAIRS = 50_000;

/** Proposals at full strength for pairs of one instance at one size; measured once each. */
const caches = new WeakMap<FaceInstance, Map<number, ShapeProposal>>();

/**
 * The proposal for two neighbouring glyphs, at strength 1. Letters of different faces or sizes are measured as they stand.
 * A glyph without ink gets none.
 */
export function proposalBetween(left: { run: ShapedRun; glyphId: number }, right: { run: ShapedRun; glyphId: number }): ShapeProposal {
  const scale = right.run.style.sizePt / left.run.style.sizePt;
  const own = left.run.instance;
  const other = right.run.instance;
  if (own !== other || scale !== 1) return measure(own, left.glyphId, other, right.glyphId, scale);
  let cache = caches.get(own);
  if (!cache) {
    cache = new Map<number, ShapeProposal>();
    caches.set(own, cache);
  }
  const key = left.glyphId * 65536 + right.glyphId;
  let proposal = cache.get(key);
  if (!proposal) {
    proposal = measure(own, left.glyphId, own, right.glyphId, 1);
    if (cache.size >= MAX_PAIRS) cache.clear();
    cache.set(key, proposal);
  }
  return proposal;
}

function measure(left: FaceInstance, leftId: number, right: FaceInstance, rightId: number, scale: number): ShapeProposal {
  const a = profileOf(left, leftId);
  const b = profileOf(right, rightId);
  if (!a || !b) return NONE;
  return proposeKerning({ profile: a, rhythm: rhythmOf(left) }, { profile: b, rhythm: rhythmOf(right) }, { scale, shift: 0 });
}

/** The glyph that carries a letter: the widest of its cluster, so that marks don't stand for their base. */
export function baseGlyph(glyphs: readonly ShapedGlyph[], index: number): number {
  const cluster = glyphs[index]?.cluster;
  let base = index;
  for (const step of [-1, 1]) {
    for (let i = index + step; glyphs[i]?.cluster === cluster && cluster !== undefined; i += step) {
      if ((glyphs[i]?.xAdvance ?? 0) > (glyphs[base]?.xAdvance ?? 0)) base = i;
    }
  }
  return glyphs[base]?.glyphId ?? 0;
}

/** Writes the kerning after every glyph of a line's runs whose style is kerned by shape. */
export function kernByShape(runs: readonly ShapedRun[]): void {
  for (let r = 0; r < runs.length; r++) {
    const run = runs[r];
    if (run?.style.kerning !== 'shape') continue;
    const { glyphs, style } = run;
    run.kerns = glyphs.map((glyph, i) => {
      const sameRun = glyphs[i + 1];
      const next = sameRun ? { run, index: i + 1 } : { run: runs[r + 1], index: 0 };
      const cluster = next.run?.glyphs[next.index]?.cluster;
      if (!next.run || cluster === undefined || cluster === glyph.cluster) return 0;
      const { milliem } = proposalBetween({ run, glyphId: baseGlyph(glyphs, i) }, { run: next.run, glyphId: baseGlyph(next.run.glyphs, next.index) });
      return Math.round(milliem * style.kerningStrength * 10);
    });
  }
}
