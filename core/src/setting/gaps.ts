/** Gaps: what stands between two neighbouring letters of a line, and why. */
import { type Block, type Style, type WordRange, handAt } from '../job';
import { NO_TASTE, type PairKind, amountOf, pairKind } from '../taste';
import {
  BAND,
  BANDS,
  DEEPEST,
  type GlyphProfile,
  bandHeight,
  type ProposalLimit,
  type GlyphSide,
  type SideKind,
  NO_WORD,
  type Deviation,
  LEAST_DISTANCE,
  certainty,
  deviationOf,
  fontWordOf,
  inkDistance,
  kerningFrom,
  rhythmOf,
  facedSide,
  profileOf,
  sideShape,
  weighed,
  whiteBetween,
} from '../spacing';
import { milliemToPoints, roundMilliem } from '../units';
import { isSpace } from './blank';
import { withEnds } from './ends';
import type { SetLine } from './block-setting';
import type { FaceSet } from './faces';
import type { Surroundings } from './itemise';
import { paragraphAt } from './paragraphs';
import { inVisualOrder } from './reorder';
import { type KerningMode, type ShapedItem, shapeItems } from './shape';
import { baseGlyph, proposalBetween, shapedKern, standing } from './shape-kerning';
import { movePt, raisePt } from './shift';
import { type StyledRun, runsOf } from './spans';

/** A place between two letters of a line. */
export interface GapPlace {
  /** Offset in the words: the anchor of a hand value. */
  at: number;
  /** Where the letter on the right begins, in points from the sheet's left. */
  xPt: number;
}

/** The gaps of a line from left to right. A ligature counts as one letter. */
export function gapsOf(line: SetLine): GapPlace[] {
  const gaps: GapPlace[] = [];
  let previous: number | undefined;
  for (const run of line.runs) {
    for (const glyph of run.glyphs) {
      if (previous !== undefined && glyph.cluster !== previous) gaps.push({ at: Math.max(glyph.cluster, previous), xPt: glyph.xPt - glyph.offsetPt });
      previous = glyph.cluster;
    }
  }
  return gaps;
}

/** A block as one of its lines is set. */
const dressedOn = (block: Block, { start, visibleEnd }: SetLine): Block => (block.ends ? withEnds(block, [{ start, end: visibleEnd }]) : block);

/** Everything a gap holds. Values in 1/1000 em refer to the size of the letter on the left. */
export interface GapLedger extends GapPlace {
  /** The letters on both sides, in visual order, as offsets into the words. */
  left: { start: number; end: number };
  right: { start: number; end: number };
  /** Where the style takes kerning from. */
  source: Style['kerning'];
  /** The font's own kerning for this pair, whether or not it is applied. */
  fontMilliem: number;
  /** The proposal of the measured shapes, at the style's strength, whether or not it is applied. */
  shapeMilliem: number;
  /** Both weighed, each as far as it can be trusted, whether or not it is applied. */
  weighedMilliem: number;
  /** Its part in evenness: how far it is from what font and shapes together ask, whatever it is kerned from. Undefined where it isn't scored. */
  evennessPart: Deviation | undefined;
  handMilliem: number;
  /** The source's kerning plus manual kerning. */
  totalMilliem: number;
  /**
   * The measured white of the gap as set, kerning and tracking included, and what the face's rhythm wants there at this
   * tracking, in 1/1000 em (power mean of docs/spacing.md); 0 beside a space.
   */
  whiteMilliem: number;
  targetMilliem: number;
  /** Why the shapes' proposal does not go all the way to the face's own target. */
  limit: ProposalLimit;
  /** The facing sides; undefined for a letter without ink. */
  shapes: { left: SideKind | undefined; right: SideKind | undefined };
  /** The kind of pair; undefined where one has no ink. */
  pair: PairKind | undefined;
  /**
   * The target of the gap, whoever judges: what the shapes propose where they are the style's source, else the weighted mean of that
   * and of what the font's designer gave the pair.
   */
  plainMilliem: number;
  /** The same as the designer's own hand has it. */
  shouldMilliem: number;
  /** How far font and shapes agree on it: 1 where they do, or only one of them is asked, towards 0 the farther they are apart. */
  certainty: number;
  /** How far the gap is from that: positive is too open, negative too tight. A proposal takes all of it back. */
  deviationMilliem: number;
  /** True where the two inks may touch: strokes join the letters, or the face joins its letters and these touch as they are. */
  joined: boolean;
  /** Smallest distance between the two inks as set, in points; negative where they overlap, undefined beside a space. */
  distancePt: number | undefined;
  totalPt: number;
  trackingMilliem: number;
  /** Size of the letter on the left, in points. */
  sizePt: number;
  /** True where one side is a word space. */
  atSpace: boolean;
}

/** The ledgers of all gaps of a line. Shapes the line twice, with and without the font's kerning. @param taste the designer's own hand. */
export function ledgersOf(block: Block, line: SetLine, faces: FaceSet, taste = NO_TASTE): GapLedger[] {
  const surroundings = { block: dressedOn(block, line), paragraph: paragraphAt(block.words, line.start), faces };
  const range = { start: line.start, end: line.visibleEnd };
  const kerned = letterPositions(surroundings, range, 'with');
  const bare = letterPositions(surroundings, range, 'without');
  const places = gapsOf(line);
  const ledgers: GapLedger[] = [];
  for (let i = 0; i + 1 < kerned.length; i++) {
    const [left, right, bareLeft, bareRight] = [kerned[i], kerned[i + 1], bare[i], bare[i + 1]];
    const place = places[i];
    if (!left || !right || !place) continue;
    const comparable = left.shaped.item === right.shaped.item && bareLeft?.cluster === left.cluster && bareRight?.cluster === right.cluster;
    const fontUnits = comparable ? right.x - left.x - (bareRight.x - bareLeft.x) : 0;
    const { style, unitsPerEm } = left;
    const fontMilliem = roundMilliem((fontUnits * 1000) / unitsPerEm);
    const pairOfGlyphs = [
      { run: left.shaped, glyphId: left.base, cluster: left.cluster },
      { run: right.shaped, glyphId: right.base, cluster: right.cluster },
    ] as const;
    const proposal = proposalBetween(...pairOfGlyphs);
    const profiles = { left: profileOfLetter(left), right: profileOfLetter(right) };
    const atSpace = isSpace(block.words.charAt(left.cluster)) || isSpace(block.words.charAt(right.cluster));
    const shapeMilliem = roundMilliem(shapedKern(block.words, ...pairOfGlyphs, style.kerningStrength));
    const own = comparable ? fontWordOf(left.shaped.instance.face, left.shaped.item.script) : NO_WORD;
    const opinions = { font: fontMilliem, word: own, shape: shapeMilliem, atSpace };
    const given = roundMilliem(kerningFrom[style.kerning](opinions));
    const word = style.kerning === 'shape' ? NO_WORD : own;
    const handMilliem = handAt(block, place.at);
    const totalMilliem = roundMilliem(given + handMilliem);
    const { trackingMilliem, sizePt } = style;
    const distanceEm = inkDistances(left, right, profiles);
    const cursive = left.shaped.item.cursive && right.shaped.item.cursive;
    const least = proposal.apartMilliem ?? Number.NEGATIVE_INFINITY;
    const plainMilliem = style.kerning === 'weighed' ? given : word.kerned > 0 ? weighed(fontMilliem, shapeMilliem, word) : shapeMilliem;
    const shapes = { left: pairKindOf(profiles.left, 'right'), right: pairKindOf(profiles.right, 'left') };
    const pair = pairKind(shapes.left, shapes.right);
    const shouldMilliem = Math.round(
      Math.max(plainMilliem * amountOf(taste, pair), word.kerned > 0 ? Math.min(least, fontMilliem) : Math.min(least, shapeMilliem)),
    );
    ledgers.push({
      at: place.at,
      xPt: place.xPt,
      left: { start: left.cluster, end: left.end },
      right: { start: right.cluster, end: right.end },
      source: style.kerning,
      fontMilliem,
      shapeMilliem,
      weighedMilliem: roundMilliem(kerningFrom.weighed(opinions)),
      evennessPart: atSpace || cursive || own.only ? undefined : deviationOf(totalMilliem, fontMilliem, proposal.wantedMilliem * style.kerningStrength, own),
      handMilliem,
      totalMilliem,
      whiteMilliem: whiteOf(left, right, profiles, totalMilliem + trackingMilliem),
      targetMilliem: profiles.left && profiles.right ? roundMilliem(proposal.targetMilliem + trackingMilliem) : 0,
      limit: proposal.limit,
      shapes,
      pair,
      plainMilliem: roundMilliem(plainMilliem),
      shouldMilliem,
      certainty: certainty(fontMilliem, shapeMilliem, word),
      deviationMilliem:
        atSpace || cursive || word.only || proposal.limit === 'joined' ? 0 : roundMilliem(deviation(totalMilliem, shouldMilliem, trackingMilliem, distanceEm)),
      joined: cursive || (rhythmOf(left.shaped.instance).joined && (distanceEm?.(0) ?? 0) <= 0),
      distancePt: atSpace || !distanceEm ? undefined : finiteOr(distanceEm(totalMilliem + trackingMilliem) * sizePt),
      totalPt: milliemToPoints(totalMilliem, sizePt) * style.scaleX,
      trackingMilliem,
      sizePt,
      atSpace,
    });
  }
  return ledgers;
}

/** A letter of a line, shaped. */
interface ShapedLetter {
  cluster: number;
  end: number;
  /** Where it stands, in font units, from where its item begins. */
  x: number;
  shaped: StyledRun;
  /** The glyph that carries it. */
  base: number;
  style: Style;
  unitsPerEm: number;
}

/** Where the letters of a stretch stand. */
function letterPositions(surroundings: Surroundings, range: WordRange, kerning: KerningMode): ShapedLetter[] {
  const letters: ShapedLetter[] = [];
  let pen = 0;
  let item: ShapedItem | undefined;
  for (const shaped of inVisualOrder(runsOf(shapeItems(surroundings, range, kerning)))) {
    if (shaped.item !== item) pen = 0;
    item = shaped.item;
    let widest = 0;
    shaped.glyphs.forEach((glyph, i) => {
      const last = letters[letters.length - 1];
      const x = pen + glyph.xOffset;
      if (!last || last.shaped.item !== item || last.cluster !== glyph.cluster) {
        const { style, instance } = shaped;
        letters.push({ cluster: glyph.cluster, end: range.end, x, shaped, base: baseGlyph(shaped.glyphs, i), style, unitsPerEm: instance.unitsPerEm });
        widest = glyph.xAdvance;
      } else if (glyph.xAdvance > widest) {
        last.x = x; // the base of a letter with marks
        widest = glyph.xAdvance;
      }
      pen += glyph.xAdvance;
    });
  }
  const starts = letters.map(({ cluster }) => cluster).sort((a, b) => a - b);
  const next = new Map(starts.map((start, i) => [start, starts[i + 1] ?? range.end]));
  for (const letter of letters) letter.end = next.get(letter.cluster) ?? range.end;
  return letters;
}

const profileOfLetter = ({ shaped, base, style }: ShapedLetter): GlyphProfile | undefined => profileOf(shaped.instance, base, style.turnDeg);

interface Profiles {
  left: GlyphProfile | undefined;
  right: GlyphProfile | undefined;
}

function pairKindOf(profile: GlyphProfile | undefined, side: 'left' | 'right'): SideKind | undefined {
  return profile && sideShape(profile[side], profile).kind;
}

/** The white of a gap as a picture: both facing edges at equal heights, in points from the gap's place and the baseline, y down. */
export interface GapWhite {
  topPt: number;
  stepPt: number;
  /** Where the left letter's ink ends and the right letter's begins at each height; undefined where one has none. */
  edges: ({ left: number; right: number } | undefined)[];
}

/** The white between the two letters at a gap as set, or undefined beside a space. Letters hang at most `DEEPEST` em back. */
export function whiteOfGap(block: Block, line: SetLine, ledger: GapLedger, faces: FaceSet): GapWhite | undefined {
  const surroundings = { block: dressedOn(block, line), paragraph: paragraphAt(block.words, line.start), faces };
  const letters = letterPositions(surroundings, { start: line.start, end: line.visibleEnd }, 'as-styled');
  const left = letters.find(({ cluster }) => cluster === ledger.left.start);
  const right = letters.find(({ cluster }) => cluster === ledger.right.start);
  const a = left && profileOfLetter(left);
  const b = right && profileOfLetter(right);
  if (!left || !right || !a || !b) return undefined;
  const size = left.style.sizePt;
  const side = facing(a, b, left, right);
  const between = (ledger.totalMilliem + ledger.trackingMilliem) / 1000;
  const edges = a.right.seen.map((_, i) => i).reverse();
  // The white that is shown ends at ink that hangs over, whatever of it counts.
  const edge = ({ seen, raw }: GlyphSide, band: number): number => Math.min(seen[band] ?? 0, raw[band] ?? 0);
  return {
    topPt: -(bandHeight(BANDS - 1) + BAND / 2) * size - raisePt(left.shaped),
    stepPt: BAND * size,
    edges: Array.from(edges, (band) => {
      const open = (a.right.raw[band] ?? DEEPEST) >= DEEPEST && (side.raw[band] ?? DEEPEST) >= DEEPEST;
      if (open) return undefined;
      // Seen along the lean, shown where the ink is.
      const leant = (bandHeight(band) - a.lean.about) * a.lean.slope;
      return { left: (leant - edge(a.right, band) - between) * size, right: (leant + edge(side, band)) * size };
    }),
  };
}

/** The left side of a letter as it stands against the letter to its left. */
const facing = (a: GlyphProfile, b: GlyphProfile, left: ShapedLetter, right: ShapedLetter): GlyphSide => facedSide(a, b, standing(left.shaped, right.shaped));

function whiteOf(left: ShapedLetter, right: ShapedLetter, profiles: Profiles, offsetMilliem: number): number {
  if (!profiles.left || !profiles.right) return 0;
  const side = facing(profiles.left, profiles.right, left, right);
  return Math.round(1000 * whiteBetween(profiles.left.right, side, offsetMilliem / 1000, 4));
}

/** Hand values reach no farther. */
const MOST_HAND = 5000;
const LEAST_HAND = -1000;

/**
 * The hand values with which gaps of a line hold a white, as `whiteMilliem` of their ledgers counts it, kerning and tracking included. Gaps
 * beside a space, and those of letters that strokes join, have none to give. @param ledgers those of the gaps, of the line as set.
 */
export function handForWhite(
  block: Block,
  line: SetLine,
  ledgers: readonly GapLedger[],
  whiteMilliem: number,
  faces: FaceSet,
): { at: number; milliem: number }[] {
  const surroundings = { block: dressedOn(block, line), paragraph: paragraphAt(block.words, line.start), faces };
  const letters = letterPositions(surroundings, { start: line.start, end: line.visibleEnd }, 'as-styled');
  return ledgers.flatMap(({ at, left: { start }, right: { start: next }, atSpace, joined, totalMilliem, trackingMilliem, handMilliem }) => {
    const [left, right] = [letters.find(({ cluster }) => cluster === start), letters.find(({ cluster }) => cluster === next)];
    const [a, b] = [left && profileOfLetter(left), right && profileOfLetter(right)];
    if (!left || !right || !a || !b || atSpace || joined) return [];
    const side = facing(a, b, left, right);
    const without = totalMilliem - handMilliem + trackingMilliem;
    // White grows with the offset, so halving finds it; to a tenth, which is what hand values are stated in.
    let [closed, open] = [LEAST_HAND, MOST_HAND];
    while (open - closed > 0.05) {
      const middle = (open + closed) / 2;
      if (1000 * whiteBetween(a.right, side, (without + middle) / 1000, 4) < whiteMilliem) closed = middle;
      else open = middle;
    }
    return [{ at, milliem: roundMilliem(open) }];
  });
}

const finiteOr = (value: number): number | undefined => (Number.isFinite(value) ? value : undefined);

/** The distance of two neighbours' inks, in em of the left one, by how far their advances are moved apart in 1/1000 em; undefined beside a space. */
function inkDistances(left: ShapedLetter, right: ShapedLetter, profiles: Profiles): ((offsetMilliem: number) => number) | undefined {
  if (!profiles.left || !profiles.right) return undefined;
  const how = standing(left.shaped, right.shaped);
  // Letters that are moved along the line come nearer to one neighbour and leave the other.
  const moved = (movePt(right.style) - movePt(left.style)) / (left.style.sizePt * left.style.scaleX);
  const pair = {
    left: profiles.left,
    right: profiles.right,
    facing: { left: profiles.left.right, right: facedSide(profiles.left, profiles.right, how) },
    standing: how,
  };
  return (offsetMilliem) => inkDistance(pair, offsetMilliem / 1000 + moved);
}

/** How far a gap is from what it should hold, in 1/1000 em: too open only as far as closing it leaves the inks apart as proposals do. */
function deviation(total: number, wanted: number, tracking: number, distanceEm: ((offset: number) => number) | undefined): number {
  if (total <= wanted || !distanceEm) return total - wanted;
  let [closed, open] = [wanted, total];
  const standsApart = (offset: number): boolean => distanceEm(offset + tracking) >= LEAST_DISTANCE;
  if (standsApart(closed)) return total - wanted;
  while (open - closed > 1) {
    const middle = (open + closed) / 2;
    if (standsApart(middle)) open = middle;
    else closed = middle;
  }
  return Math.max(0, total - open);
}
