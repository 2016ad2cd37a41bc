/** npm run bench [-- setting|bend|fit|measure|sheet|ten|handover|key|shelf|save|load|proof|touching|slow]: figures as ratios measured in one run; machines differ and are noisy. */
import { benchBend } from './bend';
import { benchFit } from './fit';
import { benchHandOver } from './hand-over';
import { benchKey } from './key';
import { benchLoad } from './load';
import { benchMeasure } from './measure';
import { benchProof } from './proof';
import { benchSave } from './save';
import { benchSetting } from './setting';
import { benchSheet } from './sheet';
import { benchShelf } from './shelf';
import { benchSlow } from './slow';
import { benchTenSheets } from './ten-sheets';
import { benchTouching } from './touching';

const BENCHES = {
  setting: benchSetting,
  bend: benchBend,
  fit: benchFit,
  measure: benchMeasure,
  sheet: benchSheet,
  ten: benchTenSheets,
  handover: benchHandOver,
  key: benchKey,
  shelf: benchShelf,
  save: benchSave,
  load: benchLoad,
  proof: benchProof,
  touching: benchTouching,
  slow: benchSlow,
};

const wanted = process.argv.slice(2);
if (wanted[0] === 'spacing') {
  const { benchSpacing } = await import('./spacing/main');
  await benchSpacing(wanted.slice(1));
  process.exit(0);
}
if (wanted[0] === 'reading') {
  const { benchReading } = await import('./reading/main');
  await benchReading(wanted.slice(1));
  process.exit(0);
}
for (const [name, run] of Object.entries(BENCHES)) if (wanted.length === 0 || wanted.includes(name)) await run();
