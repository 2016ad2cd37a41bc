/** Tracking advice against what the designers of optical-size fonts did: the mean white beside their letters, size by size. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Face } from '@jentrix/core/face';
import { meanWhite, whiteShare } from '@jentrix/core/advice';
import { root } from '@jentrix/e2e/harness';
import { printTable } from '../table';

const FONTS = ['fraunces', 'source-serif-4', 'roboto-flex', 'bricolage-grotesque', 'inter'];
const SIZES = [8, 10, 12, 18, 24, 32, 48, 60, 72, 96, 120, 144];
const READING_PT = 14;

export async function reportOpticalSizes(): Promise<void> {
  const rows: string[][] = [['font (opsz)', 'sizes', 'designer at the largest', 'advice there', 'mean error', 'error of no tracking']];
  let all = 0;
  let none = 0;
  let count = 0;
  for (const name of FONTS) {
    const face = await Face.open(new Uint8Array(readFileSync(join(root, `faces/catalogue/${name}-variable.ttf`))));
    const axis = face.axes.find(({ tag }) => tag === 'opsz');
    if (!axis) continue;
    const whiteAt = (opsz: number): number => meanWhite(face.instance({ wght: 400, opsz }));
    const reading = whiteAt(Math.max(axis.min, READING_PT));
    const sizes = SIZES.filter((size) => size >= axis.min && size <= axis.max);
    const pairs = sizes.map((size) => ({ designer: whiteAt(size) - reading, advice: reading * (whiteShare(size) - 1) }));
    const error = pairs.reduce((sum, { designer, advice }) => sum + Math.abs(designer - advice), 0);
    const still = pairs.reduce((sum, { designer }) => sum + Math.abs(designer), 0);
    const last = pairs.at(-1);
    rows.push([
      `${name} (${axis.min}-${axis.max})`,
      String(sizes.length),
      (last?.designer ?? 0).toFixed(1),
      (last?.advice ?? 0).toFixed(1),
      (error / sizes.length).toFixed(1),
      (still / sizes.length).toFixed(1),
    ]);
    all += error;
    none += still;
    count += sizes.length;
  }
  rows.push(['all', String(count), '', '', (all / count).toFixed(1), (none / count).toFixed(1)]);
  printTable('Tracking by size: change of white from 14 pt in 1/1000 em, advice against the designers of optical-size fonts', rows);
}
