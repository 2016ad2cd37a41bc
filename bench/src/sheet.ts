/** A full sheet: 40 blocks, 2,000 letters. A key on it, opening it beside bare shaping and drawing, and a search of 1,000 faces. */
import { Inspector } from '@jentrix/core/findings';
import { FONT_UNITS, pathData } from '@jentrix/core/face';
import { createBlock, createJob, withHand } from '@jentrix/core/job';
import { inkOf, setBlock, setSheet } from '@jentrix/core/setting';
import { searchFaces } from '@jentrix/core/advice';
import { fontBytes, shippedFaces } from '@jentrix/core/testing';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from '@jentrix/e2e/harness';
import { WARM_UP, median, medians, ms, printTable, ratio } from './table';

const FACE = 'playfair-display-bold';
const COPY = 'Bring a blanket and leave the torch. Stars to see. ';

const ROUNDS = 140;

export async function benchSheet(): Promise<void> {
  const faces = await shippedFaces(FACE);
  const hb = await import('harfbuzzjs');
  let n = 0;
  const job = createJob('Full', () => `id${n++}`);
  const [empty] = job.sheets;
  if (!empty) return;
  const blocks = Array.from({ length: 40 }, (_, i) =>
    createBlock(`b${i}`, COPY.slice(0, 50), { xPt: 20, yPt: 20 * i, widthPt: 500, heightPt: 20 }, { faceId: FACE, sizePt: 14 }),
  );
  const sheet = { ...empty, blocks };
  const whole = { ...job, sheets: [sheet] };

  // One key: the edit, the block set, its ink, its line measured.
  const inspector = new Inspector(() => faces);
  for (const block of blocks) inspector.inspect(block, setBlock(block, faces));
  let now = whole;
  const key = median(200, (i) => {
    now = withHand(now, 'b20', 4, (i % 50) + 1);
    const block = now.sheets[0]?.blocks[20];
    if (!block) return;
    const setting = setBlock(block, faces);
    inkOf(setting, faces);
    inspector.inspect(block, setting);
  });

  // Opening: setting everything and writing every outline, beside shaping and drawing the same with nothing around it.
  // Both sides get faces that nobody has used yet, opened beforehand: one for every round, those that warm up included. There are as many
  // rounds as it takes until both run compiled.
  const fresh = Array.from({ length: ROUNDS + WARM_UP }, () => new hb.Face(new hb.Blob(fontBytes(FACE))));
  const buffer = new hb.Buffer();
  const shapeAndDraw = (): void => {
    const face = fresh.pop();
    if (!face) throw new Error('Too few faces');
    const font = new hb.Font(face);
    const drawn = new Set<number>();
    for (const { words } of blocks) {
      buffer.clearContents();
      buffer.addText(words);
      buffer.guessSegmentProperties();
      hb.shape(font, buffer);
      buffer.getGlyphPositions();
      for (const { codepoint } of buffer.getGlyphInfos()) {
        if (drawn.has(codepoint)) continue;
        drawn.add(codepoint);
        font.glyphToPath(codepoint);
      }
    }
  };
  const unused = await Promise.all(Array.from({ length: ROUNDS + WARM_UP }, () => shippedFaces(FACE)));
  const open = (): void => {
    const fresh = unused.pop();
    if (!fresh) throw new Error('Too few faces');
    const drawn = new Set<number>();
    for (const setting of setSheet(sheet, fresh)) {
      for (const run of setting.lines.flatMap(({ runs }) => runs)) {
        const instance = fresh.instance(run.style);
        for (const { glyphId } of run.glyphs) {
          if (drawn.has(glyphId)) continue;
          drawn.add(glyphId);
          pathData(instance.outline(glyphId), FONT_UNITS, 2);
        }
      }
    }
  };
  const [bare = 0, opening = 0] = medians(ROUNDS, shapeAndDraw, open);

  const listed = JSON.parse(readFileSync(join(root, 'faces/catalogue/catalogue.json'), 'utf8')) as Parameters<typeof searchFaces>[0];
  const thousand = Array.from({ length: 1000 }, (_, i) => ({ ...(listed[i % listed.length] ?? listed[0]!), style: `Cut ${i}` }));
  const search = median(60, (i) => {
    searchFaces(thousand, { q: ['sl', 'serif', 'cut 9', 'lora bold'][i % 4] ?? '', sort: i % 2 ? 'family' : 'stem', order: 'asc' });
  });

  printTable('A sheet of 40 blocks and 2,000 letters (medians)', [
    ['', 'time', 'against', 'aim'],
    ['one kerning key: edit, set, measure', ms(key), `${ratio(key / 16.7)} of a frame`, '<= 1x'],
    ['bare HarfBuzz: shape and draw everything', ms(bare), '', ''],
    ['open: set and outline everything', ms(opening), `${ratio(opening / bare)} of bare`, '<= 1.6x'],
    ['search a catalogue of 1,000 faces', ms(search), `${ratio(search / 16.7)} of a frame`, ''],
  ]);
}
