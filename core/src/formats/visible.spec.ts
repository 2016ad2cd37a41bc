import { type Block, type Style, createSheet } from '../job';
import { type FaceSet, setSheet } from '../setting';
import { headline, shippedFaces } from '../testing';
import { drawSheet } from '../drawing';
import { sheetVisible, visibleIn } from './visible';
import { type SvgOptions, writeSvg } from '.';

describe('what is drawn', () => {
  let faces: FaceSet;
  beforeAll(async () => {
    faces = await shippedFaces('playfair-display-bold');
  });
  const at = (xPt: number, yPt: number, style: Partial<Style> = {}, change: Partial<Block> = {}): Block => {
    const block = headline('VALLEY', { frame: { xPt, yPt, widthPt: 900, heightPt: 100 }, ...change });
    return { ...block, style: { ...block.style, ...style } };
  };
  const drawn = (block: Block, options: Partial<SvgOptions> = {}): string => {
    const sheet = { ...createSheet('s', 'Sheet', 500, 300, 'pt'), blocks: [block] };
    return writeSvg(drawSheet(sheet, setSheet(sheet, faces)), faces, { letters: 'outlines', ...options });
  };
  const paths = (svg: string): number => svg.match(/<path/g)?.length ?? 0;

  it('is what can be seen: letters off the sheet are left out, with their groups', () => {
    expect(paths(drawn(at(10, 10)))).toBe(6);
    for (const [x, y] of [
      [-2000, 10],
      [10, -400],
      [10, 900],
      [3000, 10],
    ] as const) {
      const svg = drawn(at(x, y, { opacity: 0.9, shadow: { xMilliem: 10, yMilliem: 10, blurMilliem: 50, colour: '#000000' } }));
      expect(svg).not.toMatch(/<path|<filter|opacity="0.9"|id="b"/);
    }
    expect(paths(drawn(at(-150, 10)))).toBeLessThan(6);
    expect(paths(drawn(at(-150, 10)))).toBeGreaterThan(0);
    expect(drawn(at(3000, 10), { letters: 'text' })).not.toContain('<text');
  });

  it('sees turned blocks where they are turned to', () => {
    // Left of the sheet, but turned half around a middle that stands on its left edge.
    const block = at(-450, 100, {}, { rotationDeg: 180, frame: { xPt: -450, yPt: 100, widthPt: 900, heightPt: 100 } });
    expect(paths(drawn({ ...block, rotationDeg: 0 }))).toBe(0);
    expect(paths(drawn(block))).toBeGreaterThan(2);
    const turned = { kind: 'group' as const, nodes: [], turn: { degrees: 90, xPt: 50, yPt: 50 } };
    const { seen, shows } = visibleIn(turned, sheetVisible({ widthPt: 500, heightPt: 300 }));
    expect([seen.leftPt, seen.topPt, seen.rightPt, seen.bottomPt].map((side) => Math.round(side) + 0)).toEqual([0, -400, 300, 100]);
    expect(shows({ leftPt: 10, topPt: -200, rightPt: 20, bottomPt: -190 })).toBeTrue();
    expect(shows({ leftPt: 10, topPt: 110, rightPt: 20, bottomPt: 120 })).toBeFalse();
  });

  it('keeps letters off the sheet whose shadow or outline falls on it', () => {
    const left = at(-700, 10);
    expect(paths(drawn(left))).toBe(0);
    const cast = { ...left, style: { ...left.style, shadow: { xMilliem: 4000, yMilliem: 0, blurMilliem: 0, colour: '#000000' } } };
    expect(paths(drawn(cast))).toBeGreaterThan(0);
  });

  it('cuts rules to what can be seen, and blurs no farther than needed', () => {
    const long = drawn(at(-40_000, 10, { sizePt: 5000, scaleX: 10, underline: true }, { frame: { xPt: -40_000, yPt: -4000, widthPt: 50_000, heightPt: 100 } }));
    for (const [, width = '0'] of long.matchAll(/<rect x="[^"]*" y="[^"]*" width="([\d.]+)"/g)) expect(Number(width)).toBeLessThan(1000);
    const soft = drawn(at(10, 10, { shadow: { xMilliem: 0, yMilliem: 0, blurMilliem: 5000, colour: '#000000' } }));
    const [, x = '', width = ''] = /<filter [^>]*x="([-\d.]+)" y="[^"]*" width="([\d.]+)"/.exec(soft) ?? [];
    expect(Number(x)).toBeGreaterThanOrEqual(-750);
    expect(Number(width)).toBeLessThanOrEqual(500 + 1500);
  });

  it('has a shadow drawn by whoever can do it better, in its place', () => {
    const asked: { deviationPt: number; shape: string }[] = [];
    const svg = drawn(at(10, 10, { shadow: { xMilliem: 100, yMilliem: 0, blurMilliem: 60, colour: '#aa0000' } }), {
      soften: (shape, _room, deviationPt) => {
        asked.push({ deviationPt, shape });
        return { href: 'data:image/png;base64,AA==', rendering: 'auto' };
      },
    });
    expect(asked.map(({ deviationPt }) => deviationPt)).toEqual([3]);
    expect(asked[0]?.shape).toContain('fill="#aa0000"');
    expect(svg).not.toContain('<filter');
    expect(svg).toContain('transform="translate(10 0)"');
  });

  it('is drawn at just the pixels that are asked for', () => {
    expect(drawn(at(10, 10), { pixels: { width: 7, height: 3 } })).toMatch(/^<svg [^>]*width="7" height="3" preserveAspectRatio="none" viewBox="0 0 500 300"/);
  });
});
