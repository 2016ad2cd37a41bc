import { openFonts } from './families';
import { collect } from './data';
import { TrainingPool } from './pool';
import { reportFirstCut } from './first-cut';
import { reportFindings } from './findings';
import { reportEvenness } from './evenness';
const s = collect(await openFonts()); const pool = new TrainingPool();
await reportFirstCut(s, pool); await reportFindings(s, pool); await reportEvenness(s, pool);
process.exit(0);
