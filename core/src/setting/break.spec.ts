import { readFileSync } from 'node:fs';
import { gunzipSync } from 'node:zlib';
import { opportunitiesOf } from './break';

/** Unicode's own test of UAX #14 as Unicode published it, of version 15.0. The package implements 15.1, which parted spaces beside quotation marks otherwise (LB15a, LB15b). */
const TEST = new URL('../../testing-data/LineBreakTest-15.0.0.txt.gz', import.meta.url);

describe('places where lines may end', () => {
  it('are those of Unicode’s own test file, but beside quotation marks and spaces, where the rules of 15.1 are newer', () => {
    const lines = gunzipSync(readFileSync(TEST))
      .toString('utf8')
      .split('\n')
      .map((line) => line.replace(/#.*/, '').trim())
      .filter((line) => line !== '');
    expect(lines.length).toBe(7654);
    const wrong = lines.filter((line) => {
      let text = '';
      const breaks: number[] = [];
      for (const token of line.split(/\s+/)) {
        if (token === '÷') breaks.push(text.length);
        else if (token !== '×') text += String.fromCodePoint(parseInt(token, 16));
      }
      return opportunitiesOf(text).join() !== breaks.filter((at) => at > 0).join();
    });
    expect(wrong.filter((line) => !/(?:0022|00AB).* 0020|0020.* 00BB/.test(line))).toEqual([]);
    expect(wrong.length).toBe(8);
  });
});
