import { createBlock } from '../job';
import { shippedFaces } from '../testing';
import { inkOf } from './ink';
import { setBlock } from './set-block';

describe('the ink of a setting', () => {
  it('is that of the faces it is asked with: remembered of a run, it is not kept when another face takes the place of a stand-in', async () => {
    const faceId = 'league-gothic-regular';
    const [narrow, standIn] = [await shippedFaces(faceId), await shippedFaces('playfair-display-bold')];
    const frame = { xPt: 0, yPt: 0, widthPt: 900, heightPt: 100 };
    const setting = setBlock(createBlock('b', 'HAVEN', frame, { faceId, sizePt: 60 }), narrow);
    const before = inkOf(setting, standIn);
    expect(inkOf(setting, narrow)).not.toEqual(before);
    expect(inkOf(setting, narrow)).toEqual(inkOf(structuredClone(setting), narrow));
    expect(inkOf(setting, standIn)).toEqual(before);
  });
});
