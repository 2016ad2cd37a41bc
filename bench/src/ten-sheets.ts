/** A job of ten sheets: all its lines evened out by ink, and all its blocks made what a brief asks for, beside setting the job. */
import { applyBrief, createBlock, createJob, createSheet, findBlock, readBrief, updateBlock, writeBrief } from '@jentrix/core/job';
import { evenOut, lineGapsOf, setBlock, setSheet } from '@jentrix/core/setting';
import { shippedFaces } from '@jentrix/core/testing';
import { median, ms, printTable, ratio } from './table';

const FACES = [
  { id: 'playfair-display-bold', family: 'Playfair Display', style: 'Bold' },
  { id: 'source-sans-3-regular', family: 'Source Sans 3', style: 'Regular' },
];
const LINES = ['Two nights', 'to watch', 'a valley of', 'falling stars'];

export async function benchTenSheets(): Promise<void> {
  const faces = await shippedFaces(...FACES.map(({ id }) => id));
  let n = 0;
  const empty = createJob('Ten sheets', () => `id${n++}`);
  const sheets = Array.from({ length: 10 }, (_, s) => ({
    ...createSheet(`s${s}`, `Sheet ${s + 1}`, 600, 800, 'pt'),
    blocks: Array.from({ length: 8 }, (_, b) =>
      createBlock(`s${s}b${b}`, LINES.join('\n'), { xPt: 20, yPt: 95 * b, widthPt: 500, heightPt: 90 }, { faceId: FACES[b % 2]?.id ?? '', sizePt: 18 + b }),
    ),
  }));
  const job = { ...empty, sheets };
  const blocks = sheets.flatMap((sheet) => sheet.blocks);

  const setting = median(12, () => {
    for (const sheet of sheets) setSheet(sheet, faces);
  });
  const evening = median(12, () => {
    blocks.reduce((now, block) => updateBlock(now, block.id, (own) => ({ ...own, lineLeading: evenOut(own, lineGapsOf(setBlock(own, faces), faces)) })), job);
  });
  // What it came to: how far the white between lines still differs, at most.
  const evened = blocks.map((block) => ({ ...block, lineLeading: evenOut(block, lineGapsOf(setBlock(block, faces), faces)) }));
  const spread = Math.max(
    ...evened.map((block) => {
      const whites = lineGapsOf(setBlock(block, faces), faces).map(({ whitePt }) => whitePt);
      return Math.max(...whites) - Math.min(...whites);
    }),
  );

  const brief = blocks.map((_, i) => `Source Sans ${20 + (i % 9)}/${24 + (i % 9)} +${i % 30} centre caps wide 95%`).join('\n');
  const comparing = median(30, () => void readBrief(brief, blocks, FACES));
  const lines = readBrief(brief, blocks, FACES);
  const applying = median(30, () => void applyBrief(job, lines));
  const done = applyBrief(job, lines);
  const left = readBrief(
    brief,
    blocks.map(({ id }) => findBlock(done, id) ?? blocks[0]!),
    FACES,
  );
  const writing = median(30, () => void writeBrief(blocks, FACES));

  printTable(`Ten sheets, ${blocks.length} blocks, ${blocks.length * LINES.length} lines (medians)`, [
    ['', 'time', 'over setting it', 'and then'],
    ['set the job', ms(setting), '', ''],
    ['even out every block', ms(evening), ratio(evening / setting), `white between lines within ${spread.toFixed(2)} pt`],
    ['read a brief and compare', ms(comparing), ratio(comparing / setting), ''],
    ['make it so', ms(applying), ratio(applying / setting), `${left.reduce((sum, { differences }) => sum + differences.length, 0)} differences left`],
    ['write the brief of the job', ms(writing), ratio(writing / setting), ''],
  ]);
}
