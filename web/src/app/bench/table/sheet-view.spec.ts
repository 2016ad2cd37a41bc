import { SCALES, onSheet, onTable, scaledView } from './sheet-view';

describe('the view of a sheet', () => {
  const view = { x: 40, y: -25, k: 1.75 };

  it('tells what of the sheet stands where on the table, both ways', () => {
    expect(onTable(view, { xPt: 0, yPt: 0 })).toEqual([40, -25]);
    expect(onTable(view, { xPt: 100, yPt: 20 })).toEqual([215, 10]);
    expect(onSheet(view, [215, 10])).toEqual({ xPt: 100, yPt: 20 });
  });

  it('is scaled about a point that stays where it is, within bounds', () => {
    const about = [300, 200] as const;
    const nearer = scaledView(view, 2, about);
    expect(nearer.k).toBe(3.5);
    for (const [i, place] of onTable(nearer, onSheet(view, about)).entries()) expect(place).toBeCloseTo(about[i] ?? NaN, 9);
    expect(scaledView(view, 1e6, about).k).toBe(SCALES[1]);
    expect(scaledView(view, 1e-6, about).k).toBe(SCALES[0]);
  });
});
