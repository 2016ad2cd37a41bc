import { Resvg } from '@resvg/resvg-js';
import { withPhysicalSize } from './png';

describe('a PNG', () => {
  it('states its physical size and is a sound file', () => {
    const png = new Resvg('<svg xmlns="http://www.w3.org/2000/svg" width="96" height="48"><rect width="96" height="48" fill="red"/></svg>').render().asPng();
    const sized = withPhysicalSize(png, 72);
    const at = sized.indexOf('pHYs');
    // 96 pixels an inch are 3780 a metre, both ways; the unit is the metre.
    expect([sized.readUInt32BE(at + 4), sized.readUInt32BE(at + 8), sized.readUInt8(at + 12)]).toEqual([3780, 3780, 1]);
    expect(at).toBeLessThan(sized.indexOf('IDAT'));
    expect(Buffer.from(withPhysicalSize(png, 36)).readUInt32BE(at + 4)).toBe(7559);
    const again = `data:image/png;base64,${sized.toString('base64')}`;
    const drawn = new Resvg(
      `<svg xmlns="http://www.w3.org/2000/svg" width="2" height="2"><image width="2" height="2" preserveAspectRatio="none" href="${again}"/></svg>`,
    ).render();
    expect([...drawn.pixels.subarray(0, 4)]).toEqual([255, 0, 0, 255]);
  });
});
