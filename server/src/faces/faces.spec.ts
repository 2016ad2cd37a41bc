import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { FaceError } from '@jentrix/core/face';
import { compress } from 'woff2-encoder';
import { fromRoot } from '../testing';
import { openFile } from './face-library';

describe('font files on the server', () => {
  it('opens WOFF2, and refuses a damaged one with a reason', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'jentrix-'));
    try {
      const ttf = fromRoot('faces/league-gothic-regular.ttf');
      const woff2 = await compress(readFileSync(ttf));
      const file = join(folder, 'a.woff2');
      writeFileSync(file, woff2);
      const face = await openFile(file);
      const plain = await openFile(ttf);
      expect(face.family).toBe('League Gothic');
      expect(face.instance().shape('Vega', 0, 4)).toEqual(plain.instance().shape('Vega', 0, 4));
      for (const change of [woff2.slice(0, 30), woff2.slice(0, woff2.length / 2), woff2.map((byte, i) => (i > 300 && i % 7 === 0 ? byte ^ 0x55 : byte))]) {
        writeFileSync(file, change);
        await expectAsync(openFile(file)).toBeRejectedWithError(FaceError);
      }
    } finally {
      rmSync(folder, { recursive: true });
    }
  });
});
