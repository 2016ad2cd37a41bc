/** Space stage: kerning by shape, from proposals of core/spacing for the gaps of shaped runs. */
import type { FaceInstance, ShapedGlyph } from '../face';
import {
  type CharacterKind,
  BASE_LEVEL,
  NO_WORD,
  type ShapeProposal,
  type SignKind,
  type Standing,
  atStrength,
  characterAt,
  fontWordOf,
  kerningFrom,
  profileOf,
  proposeBesideSpace,
  proposeKerning,
  rhythmOf,
  signKindAt,
} from '../spacing';
import { keptBy, knownOf } from '../base';
import type { Style } from '../job';
import { isSpace, isWordSpace } from './blank';
import { type StyledFace, raisePt } from './shift';
import type { ShapedItem } from './shape';
import type { StyledRun } from './spans';

const NONE: ShapeProposal = { milliem: 0, offTargetMilliem: 0, wantedMilliem: 0, limit: 'reached', targetMilliem: 0, apartMilliem: undefined };
const MAX_PAIRS = 50_000;
/** Of letters that stand otherwise: how, can be any of many. */
const MAX_STANDINGS = 5_000;

/** Proposals at full strength for pairs of one instance at one size; measured once each. */
const level = new WeakMap<FaceInstance, Map<number, ShapeProposal>>();
/** The same for letters of two sizes, heights or turns, or of two faces, by the left one's and the right one's: a key changes one of many. */
const otherwise = new WeakMap<FaceInstance, WeakMap<FaceInstance, Map<string, ShapeProposal>>>();

/** A letter's glyph in its run. */
export interface RunGlyph {
  run: Pick<StyledRun, 'style' | 'instance'> & { item: Pick<ShapedItem, 'cursive' | 'words'> };
  glyphId: number;
  /** The letter of the words that it stands for. */
  cluster: number;
}

/** True for a figure that is asked to stand in columns (OpenType `tnum`). */
const isTabular = ({ run: { style } }: RunGlyph, sign: SignKind | undefined): boolean => sign === 'figure' && (style.features['tnum'] ?? 0) > 0;

/** How a letter in one style stands against the letter to its left: by size, and by how far both are raised. */
export const standing = (left: StyledFace, right: StyledFace): Standing => ({
  scale: (right.style.sizePt * right.style.scaleY) / (left.style.sizePt * left.style.scaleY),
  across: (right.style.sizePt * right.style.scaleX) / (left.style.sizePt * left.style.scaleX),
  shift: (raisePt(right) - raisePt(left)) / (left.style.sizePt * left.style.scaleY),
});

/**
 * The proposal for two neighbouring glyphs, at strength 1. Letters of different faces, sizes or heights are measured as they stand.
 * A glyph without ink gets none, and so do letters that strokes join and figures that stand in columns.
 */
export function proposalBetween(left: RunGlyph, right: RunGlyph): ShapeProposal {
  if (left.run.item.cursive && right.run.item.cursive) return NONE;
  const kinds = { left: characterAt(left.run.item.words, left.cluster), right: characterAt(right.run.item.words, right.cluster) };
  if (isTabular(left, kinds.left.sign) && isTabular(right, kinds.right.sign)) return NONE;
  const own = left.run.instance;
  const how = left.run.style === right.run.style ? BASE_LEVEL : standing(left.run, right.run);
  // A glyph may stand for a letter here and for a sign there.
  const pair = ((left.glyphId * 65536 + right.glyphId) * 3 + classOf(kinds.left)) * 3 + classOf(kinds.right);
  const { scale, across, shift } = how;
  if (own === right.run.instance && scale === 1 && across === 1 && shift === 0 && !isTurned(left) && !isTurned(right)) {
    const cache = knownOf(level, own, () => new Map<number, ShapeProposal>());
    return keptBy(cache, pair, MAX_PAIRS, () => measure(left, right, kinds, BASE_LEVEL));
  }
  const beside = knownOf(otherwise, own, () => new WeakMap<FaceInstance, Map<string, ShapeProposal>>());
  const cache = knownOf(beside, right.run.instance, () => new Map<string, ShapeProposal>());
  const key = `${pair} ${scale} ${across} ${shift} ${left.run.style.turnDeg} ${right.run.style.turnDeg}`;
  return keptBy(cache, key, MAX_STANDINGS, () => measure(left, right, kinds, how));
}

const isTurned = ({ run }: RunGlyph): boolean => run.style.turnDeg !== 0;

/** The class by which proposals tell characters of one glyph apart. */
const classOf = ({ sign, accented }: CharacterKind): number => (sign ? 1 : accented ? 2 : 0);

interface Kinds {
  left: CharacterKind;
  right: CharacterKind;
}

function measure(left: RunGlyph, right: RunGlyph, kinds: Kinds, how: Standing): ShapeProposal {
  const a = profileOf(left.run.instance, left.glyphId, left.run.style.turnDeg);
  const b = profileOf(right.run.instance, right.glyphId, right.run.style.turnDeg);
  if (!a || !b) return NONE;
  return proposeKerning(
    { profile: a, rhythm: rhythmOf(left.run.instance), ...kinds.left },
    { profile: b, rhythm: rhythmOf(right.run.instance), ...kinds.right },
    how,
  );
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

/** True for a style whose kerning is measured here, while the font's own isn't applied. */
export const isMeasured = ({ kerning }: Style): boolean => kerning === 'shape' || kerning === 'weighed';

/** The proposal for two neighbouring glyphs at a strength, beside a word space too; in 1/1000 em. */
export function shapedKern(words: string, left: RunGlyph, right: RunGlyph, strength: number): number {
  const [after, before] = [isSpace(words.charAt(left.cluster)), isSpace(words.charAt(right.cluster))];
  if (!after && !before) return atStrength(proposalBetween(left, right), strength);
  if (after && before) return 0;
  const [letter, blank, place] = after ? ([right, left, 'right'] as const) : ([left, right, 'left'] as const);
  return isWordSpace(words.charAt(blank.cluster)) ? strength * besideSpace(letter, place) : 0;
}

const spaces = new WeakMap<FaceInstance, Map<number, number>>();

/** The proposal for a letter beside a word space, at full strength, in 1/1000 em. */
function besideSpace({ run, glyphId, cluster }: RunGlyph, place: 'left' | 'right'): number {
  const { instance, item, style } = run;
  if (item.cursive || signKindAt(item.words, cluster) || style.turnDeg !== 0) return 0;
  const known = knownOf(spaces, instance, () => new Map<number, number>());
  return keptBy(known, glyphId * 2 + (place === 'left' ? 0 : 1), MAX_PAIRS, () => {
    const profile = profileOf(instance, glyphId);
    return profile ? proposeBesideSpace({ profile, rhythm: rhythmOf(instance) }, place) : 0;
  });
}

/**
 * Kerning by shape, or weighed, after every glyph of a run, in tenths of 1/1000 em.
 * @param runs a line's, in the order they stand in: the last letter is kerned with the next run's first.
 */
export function kernsOf(words: string, runs: readonly StyledRun[], index: number): number[] {
  const run = runs[index];
  if (!run) return [];
  const { glyphs, style, instance } = run;
  return glyphs.map((glyph, i) => {
    const inside = glyphs[i + 1];
    const next = inside ? run : runs[index + 1];
    const at = inside ? i + 1 : 0;
    const cluster = next?.glyphs[at]?.cluster;
    if (!next || cluster === undefined || cluster === glyph.cluster) return 0;
    const shape = shapedKern(
      words,
      { run, glyphId: baseGlyph(glyphs, i), cluster: glyph.cluster },
      { run: next, glyphId: baseGlyph(next.glyphs, at), cluster },
      style.kerningStrength,
    );
    const comparable = glyph.fontKern !== undefined && next.item === run.item;
    return Math.round(
      10 *
        kerningFrom[style.kerning]({
          font: comparable ? ((glyph.fontKern ?? 0) * 1000) / instance.unitsPerEm : 0,
          word: comparable && style.kerning === 'weighed' ? fontWordOf(instance.face, run.item.script) : NO_WORD,
          shape,
          atSpace: isSpace(words.charAt(glyph.cluster)) || isSpace(words.charAt(cluster)),
        }),
    );
  });
}
