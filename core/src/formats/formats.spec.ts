import { pathData } from '../face';
import { type Block, JobFormatError, type Sheet, type Style, addBlock, createJob, createSheet, readJob, withHand } from '../job';
import { drawSheet } from '../drawing';
import { FaceSet, glyphMatrix, setSheet } from '../setting';
import { headline, shippedFaces } from '../testing';
import { escapeXml, fitted, readJobFile, writeJobFile, writeSvg } from './index';

let n = 0;
const sample = () => {
  const job = createJob('Perseids <&> “poster”', () => `id${++n}`);
  return addBlock(job, job.sheets[0]?.id ?? '', headline('A VALLEY\nof “stars” & fi', { id: 'head' }));
};

describe('svg', () => {
  let faces: FaceSet;
  let sheet: Sheet;
  beforeAll(async () => {
    faces = await shippedFaces('playfair-display-bold', 'source-sans-3-regular');
    sheet = withHand(sample(), 'head', 3, -60).sheets[0] as Sheet;
  });

  it('draws every letter’s outline exactly where the setting puts it', () => {
    const settings = setSheet(sheet, faces);
    const svg = writeSvg(drawSheet(sheet, settings), faces, { letters: 'outlines' });
    const expected = settings.flatMap((setting) =>
      setting.lines.flatMap((line) =>
        line.runs.flatMap((run) =>
          run.glyphs.map((glyph) => pathData(faces.instance(run.style).outline(glyph.glyphId), glyphMatrix(glyph, run))).filter(Boolean),
        ),
      ),
    );
    expect([...svg.matchAll(/<path d="([^"]*)"/g)].map((match) => match[1])).toEqual(expected);
    expect(svg).toContain('width="210mm" height="297mm" viewBox="0 0 595.2756 841.8898"');
    expect(svg).not.toContain('<text');
  });

  it('gives live text a position for every letter', () => {
    const settings = setSheet(sheet, faces);
    const svg = writeSvg(drawSheet(sheet, settings), faces, { letters: 'text' });
    const line = settings.find(({ blockId }) => blockId === 'head')?.lines[0];
    const positions = line?.runs[0]?.glyphs.map((glyph) => Number(glyph.xPt.toFixed(4)));
    const first = /<text[^>]*font-family="'Playfair Display'"[^>]*font-size="100"[^>]*><tspan x="([^"]*)">A VALLEY</.exec(svg);
    expect(first?.[1]?.split(' ').map(Number)).toEqual(positions);
    expect(svg).toContain('font-weight="700"');
    expect(svg).toContain('“stars” &amp; ');
  });

  it('says the language of live text', () => {
    const svg = (language: string | null): string => {
      const spoken = { ...sheet, blocks: sheet.blocks.map((block) => ({ ...block, language })) };
      return writeSvg(drawSheet(spoken, setSheet(spoken, faces)), faces, { letters: 'text' });
    };
    expect(svg('tr')).toContain('xml:lang="tr"');
    expect(svg(null)).not.toContain('xml:lang');
  });

  it('keeps the characters of a ligature together', () => {
    const garamond = { ...headline('fjord'), id: 'x' };
    const one: Sheet = { ...sheet, blocks: [garamond] };
    const svg = writeSvg(drawSheet(one, setSheet(one, faces)), faces, { letters: 'text' });
    const spans = [...svg.matchAll(/<tspan x="([^"]*)">([^<]*)</g)];
    expect(spans.map((match) => match[2]).join('')).toBe('fjord');
    for (const [, x = '', text = ''] of spans) expect([1, text.length]).toContain(x.split(' ').length);
  });

  it('escapes what XML can’t hold', () => {
    expect(escapeXml('<a href="x">&\u0000\u0008')).toBe('&lt;a href=&quot;x&quot;&gt;&amp;');
  });
});

describe('svg of everything a block can be', () => {
  let faces: FaceSet;
  beforeAll(async () => {
    faces = await shippedFaces('playfair-display-bold', 'league-gothic-regular');
  });
  const svgOf = (block: ReturnType<typeof headline>, letters: 'outlines' | 'text', change: Partial<Sheet> = {}): string => {
    const sheet = { ...createSheet('s', 'Sheet', 600, 400, 'pt'), blocks: [block], ...change };
    return writeSvg(drawSheet(sheet, setSheet(sheet, faces)), faces, { letters, pictures: new Map([['sky', 'data:image/png;base64,AAAA']]) });
  };
  const styled = (words: string, style: Partial<Style>, change: Partial<Block> = {}) => {
    const block = headline(words, { frame: { xPt: 10, yPt: 10, widthPt: 500, heightPt: 200 }, ...change });
    return { ...block, style: { ...block.style, ...style } };
  };

  it('shows live text in its case, and scaled where it stands', () => {
    expect(svgOf(styled('two nights', { case: 'capitals', sizePt: 20 }), 'text')).toContain('>TWO NIGHTS<');
    expect(svgOf(styled('two nights', { case: 'title', sizePt: 20 }), 'text')).toContain('>Two Nights<');
    const reduced = svgOf(styled('Vega', { case: 'small', faceId: 'league-gothic-regular' }), 'text');
    expect(reduced).toContain('>EGA<');
    const wide = svgOf(styled('Vega', { scaleX: 2 }), 'text');
    expect(wide).toContain('transform="scale(2 1)"');
    expect(/<tspan x="([\d.]+)/.exec(wide)?.[1]).toBe('5');
  });

  it('draws list marks and ellipses as outlines, in live text too', () => {
    const list = svgOf(styled('One\nTwo', { sizePt: 40 }, { paragraph: { indentPt: 0, beforePt: 0, afterPt: 0, list: 'bullet' } }), 'text');
    expect((list.match(/<path /g) ?? []).length).toBe(2);
    const cut = svgOf(styled('Two nights to watch a valley of stars', { sizePt: 80 }, { grow: 'fixed' }), 'text');
    expect((cut.match(/<path /g) ?? []).length).toBeGreaterThan(0);
  });

  it('paints grounds: a colour, a gradient, a picture that fills or fits, and one that is missing', () => {
    const ground = (background: Sheet['background']): string => svgOf(styled('A', {}), 'outlines', { background });
    expect(ground({ kind: 'colour', colour: '#123456' })).toContain('fill="#123456"');
    expect(ground({ kind: 'gradient', from: '#ff0000', to: '#00ff00', angleDeg: 90 })).toContain('stop-color="#00ff00"');
    expect(ground({ kind: 'picture', pictureId: 'sky', fit: 'cover', colour: '#000000' })).toContain('preserveAspectRatio="xMidYMid slice"');
    expect(ground({ kind: 'picture', pictureId: 'sky', fit: 'contain', colour: '#000000' })).toContain('preserveAspectRatio="xMidYMid meet"');
    const gone = ground({ kind: 'picture', pictureId: 'gone', fit: 'cover', colour: '#0b0b22' });
    expect(gone).not.toContain('<image');
    expect(gone).toContain('fill="#0b0b22"');
  });

  it('turns a block around the middle of its frame', () => {
    const svg = svgOf(styled('Vega', {}, { rotationDeg: -9, grow: 'fixed' }), 'outlines');
    expect(svg).toContain('transform="rotate(-9 260 110)"');
  });
});

describe('job file', () => {
  it('gives back what was written', () => {
    const job = withHand(sample(), 'head', 3, -60);
    expect(readJobFile(writeJobFile(job))).toEqual(job);
  });

  it('says what is wrong with a file', () => {
    const text = writeJobFile(sample());
    const refused = (input: string): string => {
      try {
        readJobFile(input);
      } catch (error) {
        if (error instanceof JobFormatError) return error.message;
        throw error;
      }
      throw new Error('was read');
    };
    expect(refused('')).toContain('empty');
    expect(refused(text.slice(0, 500))).toContain('not JSON');
    expect(refused('{"format":"something"}')).toContain('not a Jentrix job');
    expect(refused(text.replace(/"version": \d+/, '"version": 99'))).toContain('newer');
    expect(refused(text.replace('"align": "left"', '"align": "middle"'))).toMatch(/damaged: sheets\.0\.blocks\.0\.align/);
    expect(() => readJob({ format: 'jentrix.job', version: 3, sheets: [] })).toThrowError(/damaged/);
  });

  it('has SVG pictures say themselves how they fill their box', () => {
    const root = (attributes: string, fit: 'cover' | 'contain') => /<svg[^>]*>/.exec(fitted(`<svg ${attributes} xmlns="x"><svg width="5"/></svg>`, fit))?.[0];
    expect(root('width="10" height="10" viewBox="0 0 10 10"', 'cover')).toBe(
      '<svg preserveAspectRatio="xMidYMid slice" width="10" height="10" viewBox="0 0 10 10" xmlns="x">',
    );
    expect(root('preserveAspectRatio="none" width="10" height="10" viewBox="0 0 10 10"', 'contain')).toContain(
      '<svg preserveAspectRatio="xMidYMid meet" width="10"',
    );
    expect(root('width="10" height="10" viewBox="0 0 40 10"', 'cover')).toContain('width="40" height="10" viewBox="0 0 40 10"');
    expect(fitted('no picture', 'cover')).toBe('no picture');
  });
});
