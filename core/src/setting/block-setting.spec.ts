import { readFileSync } from 'node:fs';
import { type Block, type Style } from '../job';
import { Face, controlBounds } from '../face';
import { headline, shippedFaces } from '../testing';
import { FaceSet, type SetLine, alternatesOf, hasSmallCaps, inkOf, ledgersOf, liveFeatures, setBlock } from '.';

const FRAME = { xPt: 50, yPt: 20, widthPt: 600, heightPt: 300 };

describe('a block on its sheet', () => {
  let faces: FaceSet;
  beforeAll(async () => {
    faces = await shippedFaces('playfair-display-bold', 'eb-garamond-regular', 'league-gothic-regular');
  });
  const styled = (words: string, style: Partial<Style>, change: Partial<Block> = {}): Block => {
    const block = headline(words, { frame: FRAME, ...change });
    return { ...block, style: { ...block.style, ...style } };
  };
  const textOf = (block: Block): string[] => setBlock(block, faces).lines.map((line) => block.words.slice(line.start, line.visibleEnd));
  const wordsOf = (words: string, line: SetLine | undefined): string => words.slice(line?.start, line?.visibleEnd);
  const glyphs = (line: SetLine | undefined): number[] => line?.runs.flatMap((run) => run.glyphs.map(({ glyphId }) => glyphId)) ?? [];

  it('grows both ways, keeping the edge or middle its lines align to', () => {
    const left = setBlock(styled('A valley of falling stars', {}, { grow: 'both' }), faces);
    expect(left.lines.length).toBe(1);
    expect(left.frame.widthPt).toBeCloseTo(left.lines[0]?.widthPt ?? 0, 6);
    expect(left.frame.xPt).toBe(50);
    const right = setBlock(styled('A valley of falling stars', {}, { grow: 'both', align: 'right' }), faces);
    expect(right.frame.xPt + right.frame.widthPt).toBeCloseTo(650, 6);
    const centre = setBlock(styled('A valley of falling stars', {}, { grow: 'both', align: 'centre' }), faces);
    expect(centre.frame.xPt + centre.frame.widthPt / 2).toBeCloseTo(350, 6);
  });

  it('grows downwards with its words', () => {
    const one = setBlock(styled('Vega', {}), faces);
    const three = setBlock(styled('Vega\nVega\nVega', {}), faces);
    expect(three.frame.heightPt - one.frame.heightPt).toBeCloseTo(240, 6);
  });

  it('cuts words in a fixed frame with an ellipsis that fits, and keeps them', () => {
    const words = 'Two nights to watch a valley of falling stars above the hill';
    const block = styled(words, {}, { grow: 'fixed', frame: { ...FRAME, heightPt: 260 } });
    const setting = setBlock(block, faces);
    expect(setting.cut).toBeTrue();
    expect(setting.lines.length).toBe(2);
    const last = setting.lines[1];
    expect((last?.leftPt ?? 0) + (last?.widthPt ?? 0)).toBeLessThanOrEqual(650.001);
    const ellipsis = faces.instance(block.style).nominalGlyph(0x2026);
    expect(glyphs(last).at(-1)).toBe(ellipsis);
    expect(block.words).toBe(words);
    expect(setBlock(styled(words, {}, { grow: 'fixed', frame: { ...FRAME, heightPt: 2000 } }), faces).cut).toBeFalse();
    expect(setBlock(styled('Vega', {}, { grow: 'fixed', frame: { ...FRAME, heightPt: 10 } }), faces).lines.length).toBe(1);
    expect(ledgersOf(block, last as SetLine, faces).length).toBeGreaterThan(3);
  });

  it('stands at the top, middle or bottom of a fixed frame', () => {
    const baseline = (vertical: Block['vertical']): number => setBlock(styled('Vega', {}, { grow: 'fixed', vertical }), faces).lines[0]?.baselinePt ?? 0;
    const height = setBlock(styled('Vega', {}), faces).heightPt;
    expect(baseline('bottom') - baseline('top')).toBeCloseTo(300 - height, 6);
    expect(baseline('middle') - baseline('top')).toBeCloseTo((300 - height) / 2, 6);
  });

  it('is trimmed to cap height and baseline', () => {
    const setting = setBlock(styled('HHH', {}, { trim: true }), faces);
    const { capHeight } = faces.instance(styled('', {}).style).metrics;
    expect(setting.lines[0]?.baselinePt).toBeCloseTo(20 + capHeight / 10, 6);
    expect(setting.heightPt).toBeCloseTo(capHeight / 10, 6);
  });

  it('indents first lines, separates paragraphs and hangs list marks', () => {
    const plain = setBlock(styled('Two nights to watch\nstars', { sizePt: 50 }), faces);
    const made = setBlock(styled('Two nights to watch\nstars', { sizePt: 50 }, { paragraph: { indentPt: 30, beforePt: 10, afterPt: 5, list: 'none' } }), faces);
    expect((made.lines[0]?.leftPt ?? 0) - (plain.lines[0]?.leftPt ?? 0)).toBe(30);
    expect((made.lines[1]?.baselinePt ?? 0) - (plain.lines[1]?.baselinePt ?? 0)).toBeCloseTo(15, 6);
    const list = setBlock(styled('One\nTwo\n\nThree', { sizePt: 50 }, { paragraph: { indentPt: 0, beforePt: 0, afterPt: 0, list: 'number' } }), faces);
    expect(list.lines.map(({ mark }) => mark?.glyphs.length ?? 0)).toEqual([2, 2, 0, 2]);
    const lefts = list.lines.filter(({ mark }) => mark).map(({ leftPt }) => leftPt);
    expect(new Set(lefts.map((left) => left.toFixed(6))).size).toBe(1);
    expect(lefts[0]).toBeGreaterThan(50);
    expect(list.lines[0]?.mark?.glyphs[0]?.xPt).toBeGreaterThanOrEqual(50 - 1e-6);
    const wrapped = setBlock(styled('Two nights to watch a valley', {}, { paragraph: { indentPt: 0, beforePt: 0, afterPt: 0, list: 'bullet' } }), faces);
    expect(wrapped.lines.length).toBeGreaterThan(1);
    for (const line of wrapped.lines) expect(line.leftPt + line.widthPt).toBeLessThanOrEqual(650.001);
  });

  it('shows letter case as a setting; the words stay as typed', () => {
    const typed = setBlock(styled('TWO NIGHTS', {}), faces);
    const capitals = setBlock(styled('two nights', { case: 'capitals' }), faces);
    expect(glyphs(capitals.lines[0])).toEqual(glyphs(typed.lines[0]));
    expect(capitals.lines[0]?.widthPt).toBeCloseTo(typed.lines[0]?.widthPt ?? 0, 9);
    const title = setBlock(styled('two nights’ end', { case: 'title' }), faces);
    expect(glyphs(title.lines[0])).toEqual(glyphs(setBlock(styled('Two Nights’ End', {}), faces).lines[0]));
    const sharp = setBlock(styled('große', { case: 'capitals' }), faces);
    expect(glyphs(sharp.lines[0]).length).toBe(6);
    expect(sharp.lines[0]?.runs[0]?.glyphs.map(({ cluster }) => cluster)).toEqual([0, 1, 2, 3, 3, 4]);
  });

  it('keeps hand kerning on letters whose case is shown otherwise', () => {
    const line = (hand: Block['hand']) => setBlock(styled('valley', { case: 'capitals' }, { hand }), faces).lines[0];
    expect((line([{ at: 2, milliem: 50 }])?.widthPt ?? 0) - (line([])?.widthPt ?? 0)).toBeCloseTo(5, 6);
  });

  it('takes real small capitals, or reduces capitals and says so', () => {
    expect(hasSmallCaps(faces.instance({ faceId: 'eb-garamond-regular', axes: {} }))).toBeTrue();
    const real = setBlock(styled('Vega', { case: 'small', faceId: 'eb-garamond-regular' }), faces);
    expect(real.reducedCaps).toBeFalse();
    expect(real.lines[0]?.runs.length).toBe(1);
    const reduced = setBlock(styled('Vega', { case: 'small', faceId: 'league-gothic-regular' }), faces);
    expect(reduced.reducedCaps).toBeTrue();
    expect(reduced.lines[0]?.runs.map(({ style }) => style.sizePt < 100)).toEqual([false, true]);
    expect(glyphs(reduced.lines[0])).toEqual(glyphs(setBlock(styled('VEGA', { faceId: 'league-gothic-regular' }), faces).lines[0]));
  });

  it('stands reduced capitals on the line of their size, with blanks and signs as small as the letters before them', () => {
    const style = { faceId: 'league-gothic-regular', case: 'small' as const };
    const twoLines = (words: string) => setBlock(styled(words, style), faces).lines.map(({ baselinePt, leadingPt }) => [baselinePt, leadingPt]);
    expect(twoLines('vega\nvega')).toEqual(twoLines('VEGA\nVEGA'));
    const sizes = (words: string) =>
      setBlock(styled(words, style), faces).lines[0]?.runs.map(({ start, end, style: { sizePt } }) => [words.slice(start, end), sizePt < 100]);
    expect(sizes('Two nights, To')).toEqual([
      ['T', false],
      ['wo nights, ', true],
      ['T', false],
      ['o', true],
    ]);
    expect(sizes('(a b) C. 2')).toEqual([
      ['(a b) ', true],
      ['C. 2', false],
    ]);
    // Kerning holds where the size changes.
    const gap = (kerning: 'font' | 'off') => setBlock(styled('Ta', { ...style, kerning }), faces).lines[0]?.widthPt ?? 0;
    expect(gap('font')).toBeLessThan(gap('off') - 1);
  });

  it('tracks letters that a case makes of one, and begins words in title case', () => {
    const width = (words: string, trackingMilliem: number, textCase: 'capitals' | 'typed' = 'typed') =>
      setBlock(styled(words, { case: textCase, trackingMilliem, kerning: 'off', features: { liga: 0 } }), faces).lines[0]?.widthPt ?? 0;
    expect(width('straße', 80, 'capitals')).toBeCloseTo(width('STRASSE', 80), 6);
    expect(width('ﬁne', 80, 'capitals')).toBeCloseTo(width('FINE', 80), 6);
    const titled = (words: string) => glyphs(setBlock(styled(words, { case: 'title' }), faces).lines[0]);
    const typed = (words: string) => glyphs(setBlock(styled(words, {}), faces).lines[0]);
    for (const [words, shown] of [
      ["'tis ‘but’ “the” dog’s", "'Tis ‘But’ “The” Dog’s"],
      ['’t ßa ﬁne', '’T Ssa Fine'],
      ["o'clock", "O'clock"],
    ] as const)
      expect(titled(words)).withContext(words).toEqual(typed(shown));
  });

  it('takes capitals and forms of letters from the language of the words', () => {
    const shown = (words: string, language: string | null, textCase: 'capitals' | 'title' | 'typed' = 'capitals') =>
      glyphs(setBlock(styled(words, { case: textCase, faceId: 'eb-garamond-regular', features: { liga: 0 } }, { language }), faces).lines[0]);
    const typed = (words: string) => shown(words, null, 'typed');
    expect(shown('istif', 'tr')).toEqual(typed('İSTİF'));
    expect(shown('istif', null)).toEqual(typed('ISTIF'));
    expect(shown('ijsland aan zee', 'nl', 'title')).toEqual(typed('IJsland Aan Zee'));
    expect(shown('ijsland', 'de', 'title')).toEqual(typed('Ijsland'));
    expect(shown('άνθρωπος', 'el')).toEqual(typed('ΑΝΘΡΩΠΟΣ'));
    // OpenType, locl: a comma below in Romanian.
    const face = faces.instance(styled('', {}).style);
    const local = (text: string, language?: string) => face.shape(text, 0, text.length, [], undefined, undefined, language).map(({ glyphId }) => glyphId);
    expect(local('ş', 'ro')).not.toEqual(local('ş'));
    expect(local('ş', 'tr')).toEqual(local('ş'));
  });

  it('shows no stand-in glyph for what ends lines or is a control', () => {
    const setting = setBlock(styled('a\u2028b\u000bc\u000cd\u0085e\rf\r\ng\th', {}), faces);
    expect(setting.lines.length).toBe(7);
    expect(setting.lines.flatMap(({ runs }) => runs.flatMap((run) => run.glyphs.map(({ glyphId }) => glyphId)))).not.toContain(0);
    expect(setting.lines[6]?.widthPt).toBeCloseTo(setBlock(styled('g h', {}), faces).lines[0]?.widthPt ?? 0, 6);
  });

  it('is trimmed to the capitals as they are drawn, in every face', async () => {
    const catalogue = JSON.parse(readFileSync(new URL('../../../faces/catalogue/catalogue.json', import.meta.url), 'utf8')) as { file: string }[];
    for (const { file } of catalogue) {
      const face = await Face.open(new Uint8Array(readFileSync(new URL(`../../../faces/catalogue/${file}`, import.meta.url))));
      const instance = face.instance();
      const own = new FaceSet('face');
      own.add('face', face);
      const block = styled('H', { faceId: 'face' }, { trim: true });
      if (instance.nominalGlyph(0x48))
        expect(inkOf(setBlock(block, own), own)?.topPt ?? 0)
          .withContext(file)
          .toBeGreaterThan(block.frame.yPt - 0.5);
      face.dispose();
    }
  });

  it('puts list marks and ellipses where the words begin and end, whichever way they run, and tracks the ellipsis', () => {
    const list = (words: string) =>
      setBlock(styled(words, { sizePt: 40 }, { paragraph: { indentPt: 0, beforePt: 0, afterPt: 0, list: 'bullet' } }), faces).lines[0];
    const right = list('Vega');
    const left = list('שלום');
    expect(right?.mark?.glyphs[0]?.xPt ?? 0).toBeLessThan(right?.leftPt ?? 0);
    expect(left?.leftPt).toBeCloseTo(FRAME.xPt, 6);
    expect(left?.mark?.glyphs[0]?.xPt ?? 0).toBeGreaterThan((left?.leftPt ?? 0) + (left?.widthPt ?? 0));
    const cut = (words: string, trackingMilliem = 0) =>
      setBlock(styled(words, { trackingMilliem }, { grow: 'fixed', frame: { ...FRAME, widthPt: 330, heightPt: 140 } }), faces).lines[0];
    const ellipsis = (line: SetLine | undefined): number => line?.runs.at(-1)?.glyphs[0]?.xPt ?? 0;
    expect(ellipsis(cut('שלום שלום שלום שלום'))).toBeCloseTo(FRAME.xPt, 6);
    const plain = cut('Vega to Altair');
    const tracked = cut('Vega to Altair', 50);
    expect(ellipsis(plain)).toBeGreaterThan((plain?.leftPt ?? 0) + 100);
    expect(ellipsis(tracked)).toBeCloseTo(
      (tracked?.leftPt ?? 0) + (tracked?.widthPt ?? 0) - ((plain?.leftPt ?? 0) + (plain?.widthPt ?? 0) - ellipsis(plain)),
      6,
    );
    const lettersPt = setBlock(styled(wordsOf('Vega to Altair', tracked), { trackingMilliem: 50 }), faces).lines[0]?.widthPt ?? 0;
    expect(ellipsis(tracked) - (tracked?.leftPt ?? 0)).toBeCloseTo(lettersPt + 5, 6);
  });

  it('knows the box of its ink', () => {
    const block = styled('HH', {});
    const setting = setBlock(block, faces);
    const ink = inkOf(setting, faces);
    const instance = faces.instance(block.style);
    const [first, last] = setting.lines[0]?.runs[0]?.glyphs ?? [];
    const bounds = controlBounds(instance.outline(first?.glyphId ?? 0));
    expect(ink?.leftPt).toBeCloseTo((first?.xPt ?? 0) + (bounds?.xMin ?? 0) / 10, 3);
    expect(ink?.rightPt).toBeCloseTo((last?.xPt ?? 0) + (bounds?.xMax ?? 0) / 10, 3);
    expect(ink?.bottomPt).toBeCloseTo(setting.lines[0]?.baselinePt ?? 0, 0);
    expect(inkOf(setBlock(styled(' ', {}), faces), faces)).toBeUndefined();
  });

  it('sets right-to-left and mixed words without losing a letter', () => {
    // No shipped face has Hebrew or Arabic: Latin letters that are told to run to the left are shaped, and stand, as those would.
    for (const [inner, before, after] of [
      ['Vega 12', 'To ', ' AV'],
      ['AVATAR', '', ''],
    ] as const) {
      const words = `${before}\u202e${inner}\u202c${after}`;
      const [line] = setBlock(styled(words, {}, { frame: { xPt: 0, yPt: 0, widthPt: 5000, heightPt: 100 } }), faces).lines;
      const glyphs = line?.runs.flatMap((run) => run.glyphs) ?? [];
      expect(glyphs.every(({ glyphId }) => glyphId !== 0)).toBeTrue();
      const letters = glyphs.filter(({ cluster }) => !/[\u202c\u202e]/.test(words.charAt(cluster)));
      expect(letters.map(({ cluster }) => words.charAt(cluster)).join('')).toBe(before + [...inner].reverse().join('') + after);
      expect(letters.map(({ xPt }) => xPt)).toEqual(letters.map(({ xPt }) => xPt).sort((a, b) => a - b));
      const [plain] = setBlock(styled([...inner].reverse().join(''), {}), faces).lines;
      if (before === '') expect(line?.widthPt).toBeCloseTo(plain?.widthPt ?? 0, 6);
    }
    expect(textOf(styled('👩‍🚀 Vega', {}))).toEqual(['👩‍🚀 Vega']);
  });
});

describe('features', () => {
  let faces: FaceSet;
  beforeAll(async () => {
    faces = await shippedFaces('eb-garamond-regular', 'playfair-display-bold', 'source-sans-3-regular');
  });
  const garamond = () => faces.instance({ faceId: 'eb-garamond-regular', axes: {} });
  const tags = (words: string, features: Record<string, number> = {}): string[] => liveFeatures(garamond(), words, features).map(({ tag }) => tag);

  it('are offered only where the face has something for these letters', () => {
    expect(tags('affine')).toContain('liga');
    expect(tags('HOH')).not.toContain('liga');
    expect(tags('Vega 1234')).toEqual(jasmine.arrayContaining(['smcp', 'onum']));
    expect(tags('1/2')).toContain('frac');
    expect(tags('Vega')).not.toContain('frac');
    expect(liveFeatures(faces.instance({ faceId: 'playfair-display-bold', axes: {} }), 'Vega', {}).some(({ tag }) => tag === 'swsh')).toBeFalse();
  });

  it('tell whether they are on', () => {
    const on = (tag: string, features: Record<string, number>): boolean | undefined =>
      liveFeatures(garamond(), 'affine', features).find((feature) => feature.tag === tag)?.on;
    expect(on('liga', {})).toBeTrue();
    expect(on('liga', { liga: 0 })).toBeFalse();
    expect(on('smcp', {})).toBeFalse();
    expect(on('smcp', { smcp: 1 })).toBeTrue();
  });

  it('list every form of a single letter once, its own first', () => {
    const forms = alternatesOf(garamond(), 'Q');
    expect(forms[0]?.tag).toBe('');
    expect(forms.length).toBeGreaterThan(2);
    expect(new Set(forms.map(({ glyphId }) => glyphId)).size).toBe(forms.length);
    for (const { tag, value, glyphId } of forms.slice(1)) {
      expect(garamond().shape('Q', 0, 1, [{ tag, value }])[0]?.glyphId).toBe(glyphId);
    }
  });

  it('carry the names the font gives its stylistic sets', () => {
    const sans = faces.instance({ faceId: 'source-sans-3-regular', axes: {} });
    const names = new Map(liveFeatures(sans, 'Illegal glyph 0', {}).map(({ tag, name }) => [tag, name]));
    expect([names.get('ss02'), names.get('ss06'), names.get('ss10')]).toEqual(['Simple a g l', 'Serifed a', 'Dotted zero [ 0 ]']);
    expect(names.get('ss07')).toBeUndefined();
  });
});
