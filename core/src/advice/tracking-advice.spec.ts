import { readFileSync } from 'node:fs';
import { linkedWordSpace } from '../job';
import { Face } from '../face';
import { openShipped } from '../testing';
import { letterSpaceOf } from '../spacing';
import { type Anatomy, adviseLeading, adviseTracking, contrast, luminance, meanWhite, measureAnatomy, partnering, searchFaces, whiteShare } from '.';

describe('tracking advice', () => {
  const plain = { capitals: false, lightOnDark: false };

  it('tightens as size grows, for every face', async () => {
    for (const id of ['playfair-display-bold', 'source-sans-3-regular', 'league-gothic-regular', 'eb-garamond-italic']) {
      const { at } = adviseTracking((await openShipped(id)).instance(), plain);
      const values = [6, 12, 24, 48, 96, 192].map(at);
      expect(values)
        .withContext(id)
        .toEqual([...values].sort((a, b) => b - a));
      expect(at(12)).toBeGreaterThan(at(120));
    }
  });

  it('leaves a text face alone at reading size, and wants capitals and light letters looser', async () => {
    const instance = (await openShipped('source-sans-3-regular')).instance();
    expect(Math.abs(adviseTracking(instance, plain).at(14))).toBeLessThan(12);
    expect(adviseTracking(instance, plain).at(72)).toBeLessThan(-5);
    expect(adviseTracking(instance, { ...plain, capitals: true }).at(24)).toBeGreaterThan(adviseTracking(instance, plain).at(24));
    expect(adviseTracking(instance, { ...plain, lightOnDark: true }).at(24) - adviseTracking(instance, plain).at(24)).toBe(6);
    expect(meanWhite(instance)).toBeGreaterThan(40);
    expect(whiteShare(14)).toBe(1);
  });

  it('is a smooth curve, that opens capitals at every size below the largest and never closes them', async () => {
    for (const id of ['josefin-sans-semibold', 'league-gothic-regular', 'playfair-display-bold', 'eb-garamond-italic', 'source-sans-3-bold']) {
      const instance = (await openShipped(id)).instance();
      for (const capitals of [false, true]) {
        for (const lightOnDark of [false, true]) {
          const { at } = adviseTracking(instance, { capitals, lightOnDark });
          const sizes = Array.from({ length: 120 }, (_, i) => 6 * 2 ** (i / 16));
          const values = sizes.map(at);
          // No step: the slope changes by next to nothing from one point to the next.
          for (let i = 2; i < values.length; i++)
            expect(Math.abs(values[i]! - 2 * values[i - 1]! + values[i - 2]!))
              .withContext(`${id} ${sizes[i]}`)
              .toBeLessThan(0.3);
          if (capitals) for (const value of values) expect(value).withContext(id).toBeGreaterThan(0);
        }
      }
      expect(adviseTracking(instance, { ...plain, capitals: true }).at(4000)).toBeCloseTo(0, 0);
    }
  });

  it('says in one line what a size gets and why', async () => {
    const instance = (await openShipped('source-sans-3-regular')).instance();
    expect(adviseTracking(instance, plain).reasonsAt(72)).toMatch(/^larger than the \d+ pt the face is drawn for −\d+$/);
    expect(adviseTracking(instance, plain).reasonsAt(8)).toMatch(/^smaller than the \d+ pt the face is drawn for \+\d+$/);
    expect(adviseTracking(instance, { capitals: true, lightOnDark: true }).reasonsAt(72)).toMatch(/^capitals \+\d+, light on dark \+6$/);
  });

  it('leaves faces alone whose spacing is part of how they are made', async () => {
    for (const name of ['ibm-plex-mono-400.woff', 'great-vibes-400.woff']) {
      const face = await Face.open(new Uint8Array(readFileSync(new URL(`../../../faces/catalogue/${name}`, import.meta.url))));
      const { at, reasonsAt } = adviseTracking(face.instance(), { capitals: true, lightOnDark: true });
      expect([8, 72, 300].map(at)).withContext(name).toEqual([0, 0, 0]);
      expect(reasonsAt(72)).withContext(name).toContain('not tracked');
    }
  });

  it('keeps word space in proportion to letter space', () => {
    const style = { trackingMilliem: 0, wordSpaceMilliem: 0 };
    const link = { ownMilliem: 230, letterMilliem: 120 };
    const seen = (tracking: number): number => (230 + linkedWordSpace(style, tracking, link) + 2 * tracking) / (120 + tracking);
    expect(linkedWordSpace(style, 0, link)).toBe(0);
    for (const tracking of [-40, -10, 25, 80]) expect(seen(tracking)).toBeCloseTo(230 / 120, 2);
    // There and back again, also from where hardly any white is left.
    for (const tracking of [-300, -120, -60, 40]) {
      const wordSpaceMilliem = linkedWordSpace(style, tracking, link);
      expect(Math.abs(wordSpaceMilliem)).toBeLessThan(700);
      expect(Math.abs(linkedWordSpace({ trackingMilliem: tracking, wordSpaceMilliem }, 0, link))).toBeLessThan(1.5);
    }
  });

  it('knows the distance a face puts between its letters, whatever it is drawn like', async () => {
    for (const id of ['playfair-display-bold', 'source-sans-3-regular', 'eb-garamond-italic', 'league-gothic-regular']) {
      const milliem = letterSpaceOf((await openShipped(id)).instance());
      expect(milliem).withContext(id).toBeGreaterThan(50);
      expect(milliem).withContext(id).toBeLessThan(260);
    }
  });

  it('knows WCAG contrast', () => {
    expect(contrast('#000000', '#ffffff')).toBeCloseTo(21, 6);
    expect(contrast('#777777', '#ffffff')).toBeCloseTo(4.48, 2);
    expect(luminance('#ffffff')).toBeCloseTo(1, 6);
  });
});

describe('anatomy', () => {
  it('tells kinds, weight, contrast and width from outlines', async () => {
    const of = async (id: string) => measureAnatomy((await openShipped(id)).instance());
    const [serif, sans, narrow, black] = await Promise.all(
      ['eb-garamond-regular', 'josefin-sans-regular', 'league-gothic-regular', 'playfair-display-black'].map(of),
    );
    expect([serif?.kind, sans?.kind, narrow?.kind]).toEqual(['serif', 'sans', 'sans']);
    expect([serif?.condensed, narrow?.condensed]).toEqual([false, true]);
    expect(black?.stem ?? 0).toBeGreaterThan((serif?.stem ?? 1) * 2);
    expect(serif?.contrast ?? 1).toBeLessThan(sans?.contrast ?? 0);
  });

  it('tells faces for large sizes by hairlines, blackness and swashes, and text faces from them', async () => {
    const catalogue = JSON.parse(readFileSync(new URL('../../../faces/catalogue/catalogue.json', import.meta.url), 'utf8')) as {
      id: string;
      anatomy: Anatomy;
    }[];
    const display = new Map(catalogue.map(({ id, anatomy }) => [id, anatomy.display]));
    for (const id of ['playfair-display-bold', 'playfair-display-italic', 'league-gothic-regular'])
      display.set(id, measureAnatomy((await openShipped(id)).instance()).display);
    for (const id of ['source-sans-3-regular', 'eb-garamond-italic', 'alegreya-medium'])
      display.set(id, measureAnatomy((await openShipped(id)).instance()).display);
    const large = [
      'abril-fatface-400',
      'alfa-slab-one-400',
      'anton-400',
      'gloock-400',
      'dm-serif-display-400',
      'yeseva-one-400',
      'great-vibes-400',
      'playfair-display-bold',
      'playfair-display-italic',
      'league-gothic-regular',
    ];
    const small = [
      'source-sans-3-regular',
      'eb-garamond-italic',
      'alegreya-medium',
      'inter-400',
      'lora-400',
      'merriweather-700',
      'roboto-400-italic',
      'ibm-plex-mono-400',
      'bitter-400',
      'spectral-400',
    ];
    for (const id of large) expect(display.get(id)).withContext(id).toBeTrue();
    for (const id of small) expect(display.get(id)).withContext(id).toBeFalse();
  });

  it('finds partners of another kind with matching x-height and enough difference, and says why', () => {
    const serif = { kind: 'serif' as const, stem: 0.16, contrast: 0.2, width: 1, xHeight: 0.5, capHeight: 0.7, condensed: false, display: false };
    const sans = { ...serif, kind: 'sans' as const, stem: 0.09, contrast: 0.85, xHeight: 0.505 };
    expect(partnering(serif, sans)?.reasons.join(', ')).toContain('x-heights within 1 %');
    expect(partnering(serif, { ...sans, xHeight: 0.6 })).toBeUndefined();
    expect(partnering(serif, serif)).toBeUndefined();
    expect(partnering(serif, { ...sans, stem: 0.155, contrast: 0.25 })).toBeUndefined();
  });

  it('searches by words in any order, kind and measure', () => {
    const face = (family: string, kind: 'serif' | 'sans', stem: number) => ({
      family,
      style: 'Bold',
      axes: [],
      anatomy: { kind, stem, contrast: 0.5, width: 1, xHeight: 0.5, capHeight: 0.7, condensed: false, display: false },
    });
    const faces = [face('Beta', 'sans', 0.1), face('Alpha', 'serif', 0.3), face('Gamma', 'sans', 0.2)];
    const names = (query: Partial<Parameters<typeof searchFaces>[1]>) =>
      searchFaces(faces, { q: '', sort: 'family', order: 'asc', ...query }).map(({ family }) => family);
    expect(names({})).toEqual(['Alpha', 'Beta', 'Gamma']);
    expect(names({ q: 'bold sans' })).toEqual(['Beta', 'Gamma']);
    expect(names({ sort: 'stem', order: 'desc' })).toEqual(['Alpha', 'Gamma', 'Beta']);
    expect(names({ kind: 'serif' })).toEqual(['Alpha']);
    const [first] = faces;
    if (first) first.anatomy.display = true;
    expect([names({ kind: 'display' }), names({ kind: 'sans' }), names({ q: 'sans display' })]).toEqual([['Beta'], ['Beta', 'Gamma'], ['Beta']]);
    expect(names({ variable: true })).toEqual([]);
  });

  it('leads small copy openly, large type closely, and lines of capitals by what they reach', () => {
    const lower = { up: 0.74, down: 0.22 };
    const capitals = { up: 0.7, down: 0.01 };
    const at = (reach: typeof lower) => [8, 14, 28, 56, 112, 400].map((size) => adviseLeading(reach, size));
    for (const factors of [at(lower), at(capitals)]) expect(factors).toEqual([...factors].sort((a, b) => b - a));
    expect(at(lower)[1]).toBeCloseTo(1.36, 2);
    expect(at(lower)[5]).toBeCloseTo(1.04, 2);
    expect(at(capitals)[5]).toBeLessThan(1);
    // Nothing meets: what reaches up and down is always less than the leading.
    for (const size of [8, 40, 300]) expect(adviseLeading(lower, size)).toBeGreaterThan(lower.up + lower.down);
  });
});
