/** That no words cost more than their length lets expect: counted in what is given to the shaper, never in time. */
import { FaceInstance, type FeatureRange } from '../face';
import { type Block, type PairRule, createJob, pairAt, resolveBlock } from '../job';
import { headline, shippedFaces } from '../testing';
import { type FaceSet, setBlock } from './index';

describe('costs of setting', () => {
  let faces: FaceSet;
  let letters: number;
  let context: number;
  let mostFeatures: number;
  beforeAll(async () => {
    faces = await shippedFaces('eb-garamond-regular', 'league-gothic-regular');
  });
  beforeEach(() => {
    [letters, context, mostFeatures] = [0, 0, 0];
    const shape = FaceInstance.prototype.shape;
    spyOn(FaceInstance.prototype, 'shape').and.callFake(function (
      this: FaceInstance,
      text: string,
      start: number,
      end: number,
      features: readonly FeatureRange[] = [],
      ...rest
    ) {
      letters += end - start;
      context += text.length;
      mostFeatures = Math.max(mostFeatures, features.length);
      return shape.call(this, text, start, end, features, ...rest);
    });
  });

  const small = (words: string, change: Partial<Block> = {}, style: Partial<Block['style']> = {}): Block => {
    const block = headline(words, change);
    return { ...block, style: { ...block.style, faceId: 'eb-garamond-regular', sizePt: 1, ...style } };
  };
  const handAt = (places: readonly number[]): Block['hand'] => places.map((at) => ({ at, milliem: 7 }));
  const glyphsOf = (block: Block): string =>
    setBlock(block, faces)
      .lines.flatMap(({ runs }) => runs.flatMap(({ glyphs }) => glyphs.map(({ glyphId, cluster, xPt }) => `${glyphId}@${cluster}:${xPt.toFixed(6)}`)))
      .join(' ');

  it('halves its way to the ellipsis, and still lets as much stand as fits', () => {
    const frame = { xPt: 0, yPt: 0, widthPt: 3000, heightPt: 1 };
    const block = small(`${'avatarless'.repeat(2000)}\nmore`, { grow: 'fixed', frame });
    const { lines, cut } = setBlock(block, faces);
    expect(cut).toBeTrue();
    expect(letters).toBeLessThan(20 * block.words.length);
    const line = lines[0];
    const end = line?.visibleEnd ?? 0;
    const ellipsis = setBlock(small('…'), faces).lines[0]?.widthPt ?? 0;
    const widthTo = (at: number): number => (setBlock(small(block.words.slice(0, at)), faces).lines[0]?.widthPt ?? 0) + ellipsis;
    expect(line?.widthPt).toBeCloseTo(widthTo(end), 6);
    expect(widthTo(end)).toBeLessThanOrEqual(3000);
    expect(widthTo(end + 1)).toBeGreaterThan(3000);
  });

  it('shapes the last letters of lines once each, as the face, the language and the features asked for have them', () => {
    const ended = (change: Partial<Block> = {}, style: Partial<Block['style']> = {}): string => {
      const block = small('Ta Va Ra', { frame: { xPt: 0, yPt: 0, widthPt: 1.4, heightPt: 9 }, ...change }, style);
      const alone = block.words.split(' ').map((words) => glyphsOf({ ...block, words }).replace(/@\d+/g, ''));
      expect(glyphsOf(block).replace(/@\d+/g, '')).toBe(alone.join(' '));
      return alone.join(' ');
    };
    const plain = ended();
    letters = 0;
    const block = small('Ta Va Ra', { frame: { xPt: 0, yPt: 0, widthPt: 1.4, heightPt: 9 } });
    expect(setBlock(block, faces).lines.map(({ visibleEnd }) => visibleEnd)).toEqual([2, 5, 8]);
    expect(letters).toBe(block.words.length);
    // The same letters otherwise: none is taken for another.
    expect(ended({}, { features: { smcp: 1 } })).not.toBe(plain);
    expect(ended({}, { faceId: 'league-gothic-regular' })).not.toBe(plain);
    expect(ended({ language: 'tr' })).toBe(plain);
    expect(ended()).toBe(plain);
  });

  it('gives each stretch its near surroundings only', () => {
    setBlock(small('aα'.repeat(2000)), faces);
    expect(context).toBeLessThan(4000 * 40);
    context = 0;
    setBlock(small('aB'.repeat(2000), {}, { faceId: 'league-gothic-regular', case: 'small' }), faces);
    expect(context).toBeLessThan(4000 * 40 * 2);
  });

  it('takes any number of ligatures apart with few features a call, as it takes few apart', () => {
    for (const unit of ['fi ', 'fi', 'office, ']) {
      const inside = unit.indexOf('i');
      const count = 450;
      const places = Array.from({ length: count }, (_, i) => i * unit.length + inside);
      const many = small(unit.repeat(count), { hand: handAt(places) });
      mostFeatures = 0;
      const set = glyphsOf(many);
      expect(mostFeatures).toBeLessThan(2000);
      if (unit === 'fi') expect(set.split(' ').length).toBe(many.words.length);
      // A hundred of them fit into one call: what many calls give must go on as one gives.
      const few = small(unit.repeat(100), { hand: handAt(places.slice(0, 100)) });
      const before = (text: string): string[] => text.split(' ').filter((glyph) => Number(/@(\d+):/.exec(glyph)?.[1]) < 99 * unit.length);
      expect(before(set)).toEqual(before(glyphsOf(few)));
      expect(before(set).length).toBeGreaterThan(190);
    }
  });

  it('shapes paragraphs with hand values once each', () => {
    const words = 'a\n'.repeat(3000);
    setBlock(small(words, { hand: handAt(Array.from({ length: words.length - 1 }, (_, i) => i + 1)) }), faces);
    expect(letters).toBeLessThan(2 * words.length);
  });

  it('refuses more features than the shaper can take, before it is damaged', () => {
    const instance = faces.instance({ faceId: 'eb-garamond-regular', axes: {} });
    const features = Array.from({ length: 4200 }, (_, i): FeatureRange => ({ tag: 'kern', value: 1, start: i, end: i + 1 }));
    expect(() => instance.shape('Vega', 0, 4, features)).toThrowError(RangeError);
    expect(instance.shape('Vega', 0, 4).length).toBe(4);
  });

  it('finds pair rules by pair: as looking through all of them does, strongest first', () => {
    const job = createJob('Pairs', () => 'id');
    const words = 'AVATAR VALLEY at a valley';
    const block = { ...headline(words), id: 'b' };
    const rule = (left: string, right: string, scope: PairRule['scope'], milliem: number): PairRule => ({
      left,
      right,
      faceId: block.style.faceId,
      milliem,
      scope,
    });
    const pairs = [
      ...Array.from({ length: 1500 }, (_, i) => rule(String.fromCharCode(0x400 + i), 'x', { kind: 'job' }, 1)),
      rule('V', 'A', { kind: 'job' }, 10),
      rule('V', 'A', { kind: 'sheet', id: 's' }, 20),
      rule('A', 'T', { kind: 'block', id: 'b' }, 30),
      rule('A', 'T', { kind: 'sheet', id: 's' }, 40),
      rule('a', 'l', { kind: 'block', id: 'other' }, 50),
    ];
    const { hand } = resolveBlock({ ...job, pairs }, 's', block);
    const strength = { block: 0, sheet: 1, job: 2 };
    const expected = Array.from({ length: words.length - 1 }, (_, i) => i + 1).flatMap((at) => {
      const pair = pairAt(block, at);
      const found = pairs
        .filter(({ scope }) => scope.kind === 'job' || scope.id === (scope.kind === 'sheet' ? 's' : 'b'))
        .sort((a, b) => strength[a.scope.kind] - strength[b.scope.kind])
        .find((one) => one.left === pair?.left && one.right === pair.right && one.faceId === pair.faceId);
      return found ? [{ at, milliem: found.milliem }] : [];
    });
    expect(hand).toEqual(expected);
    expect(hand.length).toBe(3);
  });
});
