import { type Block, type Style, STYLE_PROPERTIES, styleProperties } from '../job';
import { headline, shippedFaces } from '../testing';
import type { FaceSet } from './faces';
import { itemise, toWords } from './itemise';
import { paragraphAt } from './paragraphs';
import { shapeItems } from './shape';

describe('itemise stage', () => {
  let faces: FaceSet;
  beforeAll(async () => {
    faces = await shippedFaces('playfair-display-bold', 'source-sans-3-regular', 'league-gothic-regular');
  });
  const items = (block: Block) => itemise({ block, paragraph: paragraphAt(block.words, 0), faces }, { start: 0, end: block.words.length });
  const coloured = (words: string, style: Partial<Style>, start = 1, end = 2): Block => headline(words, { runs: [{ start, end, style }] });

  /** Another value for every property of the style than headlines have. */
  const OTHERS: Partial<Style> = {
    faceId: 'source-sans-3-regular',
    sizePt: 30,
    trackingMilliem: 40,
    wordSpaceMilliem: 50,
    kerning: 'shape',
    kerningStrength: 0.5,
    colour: '#ff0000',
    scaleX: 1.5,
    scaleY: 0.5,
    baselineShiftMilliem: 100,
    scaleFrom: 'capitals',
    moveMilliem: 70,
    turnDeg: 12,
    opacity: 0.3,
    gradient: { to: '#00ff00', angleDeg: 0 },
    outline: { milliem: 10, colour: '#000000', join: 'round' },
    underline: true,
    strike: true,
    shadow: { xMilliem: 1, yMilliem: 1, blurMilliem: 1, colour: '#000000' },
    case: 'capitals',
    axes: {},
    features: { onum: 1 },
  };

  it('cuts at properties that choose glyphs, and at no others', () => {
    expect(Object.keys(OTHERS).sort()).toEqual(Object.keys(STYLE_PROPERTIES).sort());
    for (const [key, { changes }] of styleProperties) {
      // Axes of a static face choose nothing; a case is shown inside one item where the same instance draws it.
      if (key === 'axes' || key === 'case') continue;
      const found = items(coloured('AVATAR', { [key]: OTHERS[key] })).length;
      expect([key, found]).toEqual([key, changes === 'glyphs' ? 3 : 1]);
    }
  });

  it('cuts where the script or the direction changes', () => {
    expect(items(headline('VA Яв')).map(({ script }) => script)).toEqual(['Latn', 'Cyrl']);
    expect(items(headline('Vega שלום')).map(({ level }) => level)).toEqual([0, 1]);
  });

  it('keeps the way back from what is shown to the words', () => {
    const [item] = items({ ...headline('straße'), style: { ...headline('').style, case: 'capitals' } });
    expect(item?.text).toBe('STRASSE');
    expect(item && [...item.text].map((_, at) => toWords(item, at))).toEqual([0, 1, 2, 3, 4, 4, 5]);
  });

  it('shapes an item with its neighbours as context, and gives places in the words', () => {
    const block = headline('To AVATAR');
    const surroundings = { block, paragraph: paragraphAt(block.words, 0), faces };
    const [part] = shapeItems(surroundings, { start: 3, end: 9 });
    expect(part?.glyphs.map(({ cluster }) => cluster)).toEqual([3, 4, 5, 6, 7, 8]);
  });
});
