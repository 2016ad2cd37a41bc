import { fromPen } from './from-pen';

describe('an outline from the pen', () => {
  const OUTLINE = 'M120,-13.37Q300,-712.5 480.25,-700 512,-650 520,0ZM50,-900C60,-960 140,-960 150.01,-900L150,-850L50.5,-851.33Z';
  /** The box of what a path paints, under a transform or none. */
  function boxOf(data: string, transform?: string): Pick<DOMRect, 'x' | 'y' | 'width' | 'height'> {
    const svg = document.createElementNS('http://www.w3.org/2000/svg', 'svg');
    const group = svg.appendChild(document.createElementNS('http://www.w3.org/2000/svg', 'g'));
    const path = group.appendChild(document.createElementNS('http://www.w3.org/2000/svg', 'path'));
    path.setAttribute('d', data);
    if (transform) path.setAttribute('transform', transform);
    document.body.append(svg);
    const box = group.getBBox();
    svg.remove();
    return box;
  }

  const level = (scale: number, yScale = scale) => ({ a: scale, b: 0, c: 0, d: -yScale, e: 0, f: 0 });

  it('paints what the outline paints where a transform takes it, and nothing at the pen', () => {
    const matrices = [
      { ...level(0.018), e: 20.123456789, f: 1040.5 },
      { ...level(0.00613, 0.0107), e: 5, f: 9 },
      { ...level(0.6, 0.72), e: -300, f: 77.7 },
    ];
    for (const matrix of matrices) {
      const { a, d, e, f } = matrix;
      const ours = boxOf(fromPen(new Map([[7, OUTLINE]]), 7, matrix));
      const theirs = boxOf(OUTLINE, `matrix(${a} 0 0 ${-d} ${e} ${f})`);
      for (const side of ['x', 'y', 'width', 'height'] as const) expect(ours[side]).withContext(side).toBeCloseTo(theirs[side], 3);
    }
  });

  it('takes every place of a turned outline where its matrix takes it', () => {
    const matrix = { a: 0.013, b: 0.011, c: 0.009, d: -0.017, e: 40, f: -7 };
    const written = fromPen(new Map([[1, 'M10,-20L300,40L-50,700Z']]), 1, matrix);
    let [x, y] = [0, 0];
    const places = [...written.matchAll(/([Mml])(-?[\d.]+),(-?[\d.]+)/g)].map(([, type, dx, dy]) => {
      [x, y] = type === 'M' ? [Number(dx), Number(dy)] : [x + Number(dx), y + Number(dy)];
      return { x, y };
    });
    const wanted = [
      [0, 0],
      [10, 20],
      [300, -40],
      [-50, -700],
    ].map(([right = 0, up = 0]) => ({ x: 40 + 0.013 * right + 0.009 * up, y: -7 + 0.011 * right - 0.017 * up }));
    expect(places.length).toBe(wanted.length);
    for (const [i, place] of wanted.entries()) {
      expect(places[i]!.x).toBeCloseTo(place.x, 3);
      expect(places[i]!.y).toBeCloseTo(place.y, 3);
    }
  });

  it('does not drift over many segments', () => {
    const steps = Array.from({ length: 300 }, (_, i) => `L${i * 3.33},${-(i % 7) * 1.11}`);
    const places = [...fromPen(new Map([[1, `M0,0${steps.join('')}Z`]]), 1, level(0.01234)).matchAll(/l(-?[\d.]+),(-?[\d.]+)/g)];
    const x = places.reduce((sum, [, dx]) => sum + Number(dx), 0);
    expect(places.length).toBe(300);
    expect(x).toBeCloseTo(299 * 3.33 * 0.01234, 4);
  });

  it('is made anew where a face takes the place of its stand-in, and is none without an outline', () => {
    const outlines = new Map([[7, 'M0,0L100,-50Z']]);
    expect(fromPen(outlines, 7, level(0.01, 0.02))).toBe('M0,0m0,0l1,-1z');
    outlines.set(7, 'M0,0L200,-50Z');
    expect(fromPen(outlines, 7, level(0.01, 0.02))).toBe('M0,0m0,0l2,-1z');
    expect(fromPen(outlines, 7, level(0.02))).toBe('M0,0m0,0l4,-1z');
    expect(fromPen(outlines, 8, level(0.01))).toBe('');
    outlines.set(9, '');
    expect(fromPen(outlines, 9, level(0.01))).toBe('');
  });
});
