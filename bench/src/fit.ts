/** Fits, breaks and edges: what solving costs beside setting, and how even the white along a margin is. */
import { readFileSync, readdirSync } from 'node:fs';
import { uprightProfile, whiteAlong } from '@jentrix/core/edges';
import { Face } from '@jentrix/core/face';
import { TRACKING_LIMITS, shortLastLineIn } from '@jentrix/core/findings';
import { type Block, type FitTarget, USUAL_EDGES, createBlock, leversWith, newFit } from '@jentrix/core/job';
import { FaceSet, inkOf, setBlock } from '@jentrix/core/setting';
import { leanOf } from '@jentrix/core/spacing';
import { shippedFaces } from '@jentrix/core/testing';
import { median, ms, percentile, printTable, ratio } from './table';

const LOCK_UP = 'WRAYFOLD\nOBSERVATORY\nOPEN DAY\nFALLING STARS\nTWO NIGHTS\nTO WATCH\nTHE VALLEY\nPERSEIDS\nAT NIGHT\nUNDER DOME\nFREE ENTRY\nALL NIGHT';
const HEADLINES = [
  'Two nights on the hill to watch the sky fall',
  'Why Venus turns the wrong way',
  'A walk to the old dome at noon',
  'Soup and bread for whoever counts',
];
const COPY =
  'The gates open at nine. Bring something warm to sit on, a lamp with a red glass, and nobody in a hurry. From ten until midnight the large telescope shows Saturn, its rings nearly edge-on this summer; queues are short after eleven. At midnight everybody lies down in the meadow, since nothing that falls can be seen through a telescope. Perseids come in ones and twos, then in handfuls towards three. Count aloud with your neighbours: our keepers add the numbers up and print them at breakfast. Whoever is under twelve may ring the bell for a bright one. Soup, bread and hot apple juice stand in the dome.';
/** Beginnings of lines: every letter, as words begin. */
const BEGINNINGS =
  'Altair Bring Count Dome Every Falling Gates Hill In Juice Keepers Look Midnight Night Open Perseids Queues Rings Saturn The Under Venus Watch Xenon Your Zenith above bright count dusk every falling gates hill in just keepers lamp meadow nine open print queues red soup the under valley wait xenon your zenith TWO AVALLEY WATCH FOLD OPEN VEGA LAWN YES'.split(
    ' ',
  );
/** Limits beyond which a request is refused, of as much as a block can hold. */
const LETTERS = 20_000;
const LINES = 'TWO NIGHTS\n'.repeat(LETTERS / 11);
const everyLever = leversWith({ size: 1, letters: 1, words: 1, width: 1 });
const PT300: FitTarget = { kind: 'pt', pt: 300 };
const HOSTILE: Readonly<Record<string, { words: string; settings: Partial<Block> }>> = {
  'a fit of many lines, all levers, white even': { words: LINES, settings: { fit: newFit({ to: PT300, by: everyLever, even: true, steps: true }) } },
  'the same of no more letters than are fitted': {
    words: LINES.slice(0, 5000),
    settings: { fit: newFit({ to: PT300, by: everyLever, even: true, steps: true }) },
  },
  'a fit of one endless word to a point': { words: 'x'.repeat(LETTERS), settings: { fit: newFit({ to: { kind: 'pt', pt: 1 }, by: everyLever }) } },
  'a fit that no lever may carry out': { words: LINES, settings: { fit: newFit({ to: { kind: 'pt', pt: 50_000 }, by: leversWith({}) }) } },
  'width and height of many lines': { words: LINES, settings: { fit: newFit({ to: PT300, height: { kind: 'pt', pt: 1 }, overshoot: 1 }) } },
  'broken evenly, two letters a word': { words: 'to '.repeat(LETTERS / 3), settings: { breaking: { way: 'even', shape: 'narrowing' } } },
  'justified, all gives way, narrow': {
    words: 'a to '.repeat(LETTERS / 5),
    settings: { align: 'justified', breaking: { way: 'total', shape: 'even' }, justify: { lettersMilliem: 200, width: 0.02, last: 'full' } },
  },
  'edges by eye, everything hangs': { words: '“…*—'.repeat(LETTERS / 4), settings: { edges: USUAL_EDGES } },
};

const FACE_COUNT = 24;
const SIZES = [20, 120];

/** Faces that shaped the figures of spacing are among these: nothing of edges was chosen by them. */
async function manyFaces(): Promise<{ faces: FaceSet; ids: string[] }> {
  const folder = new URL('../../faces/catalogue/', import.meta.url);
  const files = readdirSync(folder).filter((file) => file.endsWith('.woff'));
  const every = Math.max(1, Math.floor(files.length / FACE_COUNT));
  const chosen = files.filter((_, i) => i % every === 0).slice(0, FACE_COUNT);
  const faces = new FaceSet(chosen[0] ?? '');
  for (const file of chosen) faces.add(file, await Face.open(new Uint8Array(readFileSync(new URL(file, folder)))));
  return { faces, ids: chosen };
}

/** How far the white along the margin of each line departs from that of a stem, in points. */
function whitesOf(faceId: string, faces: FaceSet, edges: Block['edges']): { whites: number[]; past: number } {
  const instance = faces.instance({ faceId, axes: {} });
  const leans = leanOf(instance).slope !== 0;
  const stem = uprightProfile(instance, instance.nominalGlyph(0x48) ?? 0);
  const whites: number[] = [];
  let past = 0;
  BEGINNINGS.forEach((word, i) => {
    const sizePt = SIZES[i % SIZES.length] ?? 20;
    const block = { ...createBlock('b', word, { xPt: 0, yPt: 0, widthPt: 2000, heightPt: 10 }, { faceId, sizePt }), edges };
    const glyph = setBlock(block, faces).lines[0]?.runs[0]?.glyphs[0];
    const profile = glyph && uprightProfile(instance, glyph.glyphId);
    if (!glyph || !profile || !stem) return;
    const inkPt = glyph.xPt + profile.inkLeft * sizePt;
    // A tail of a leaning letter hangs under its neighbours, and is not the edge.
    if (leans && /^[fgjpqyQJ]/.test(word)) return;
    whites.push((whiteAlong(profile, 'left', -inkPt / sizePt, leans) - whiteAlong(stem, 'left', 0, leans)) * sizePt);
    past = Math.max(past, -inkPt / sizePt);
  });
  return { whites, past };
}

const deviation = (values: readonly number[]): number => {
  const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
  return Math.sqrt(values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / values.length);
};

export async function benchFit(): Promise<void> {
  const faces = await shippedFaces('playfair-display-bold', 'source-sans-3-regular', 'eb-garamond-regular');
  const lockUp = createBlock('b', LOCK_UP, { xPt: 0, yPt: 0, widthPt: 900, heightPt: 100 }, { faceId: 'playfair-display-bold', sizePt: 100 });
  const wide: Block = { ...lockUp, grow: 'both' };
  const fitted: Block = { ...lockUp, fit: newFit({ to: { kind: 'pt', pt: 900 }, even: true }) };
  const widths = setBlock(fitted, faces).lines.map((line) => {
    const ink = inkOf({ lines: [line] }, faces);
    return ink ? ink.rightPt - ink.leftPt : 0;
  });
  const off = Math.max(...widths.map((width) => Math.abs(width - 900)));
  // Blocks are made anew each time: nothing of them is remembered.
  const plain = median(60, () => void setBlock({ ...wide }, faces));
  const fit = median(60, () => void setBlock({ ...fitted }, faces));

  const headlines = Array.from({ length: 40 }, (_, i) => {
    const words = HEADLINES[i % HEADLINES.length] ?? '';
    const block = createBlock(`b${i}`, words, { xPt: 0, yPt: 0, widthPt: 10_000, heightPt: 50 }, { faceId: 'source-sans-3-regular', sizePt: 40 });
    const whole = setBlock(block, faces).lines[0]?.widthPt ?? 0;
    return { ...block, frame: { ...block.frame, widthPt: whole - 6 - (i % 5) } };
  });
  const settings = headlines.map((block) => setBlock(block, faces));
  let fixes = 0;
  const shortLastLines = median(12, () => {
    fixes = 0;
    headlines.forEach((block, i) => {
      const setting = settings[i];
      if (setting) for (const one of shortLastLineIn(block, setting, faces, TRACKING_LIMITS)) fixes += one.fixes.length;
    });
  });
  const setAll = median(12, () => {
    for (const block of headlines) setBlock(block, faces);
  });

  const copy = createBlock('c', COPY.slice(0, 600), { xPt: 0, yPt: 0, widthPt: 150, heightPt: 50 }, { faceId: 'eb-garamond-regular', sizePt: 11 });
  const justified: Block = {
    ...copy,
    align: 'justified',
    breaking: { way: 'total', shape: 'even' },
    justify: { lettersMilliem: 20, width: 0.02, last: 'natural' },
  };
  const greedy = median(60, () => void setBlock({ ...copy }, faces));
  const total = median(60, () => void setBlock({ ...justified }, faces));

  printTable('Fits and breaks (medians)', [
    ['', 'time', 'over plain setting', 'aim', 'and then'],
    ['a lock-up of 12 lines to one width, white even', ms(fit), ratio(fit / plain), '<= 5 ms', `every line within ${off.toFixed(4)} pt`],
    ['the short last lines of ten sheets, 40 blocks', ms(shortLastLines), ratio(shortLastLines / setAll), '<= 50 ms', `${fixes} fixes`],
    ['600 letters justified, letters giving way', ms(total), ratio(total / greedy), '<= 10 ms', ''],
  ]);

  const hostile = Object.entries(HOSTILE).map(([name, { words, settings }]) => {
    const plainly: Block = createBlock('b', words, { xPt: 0, yPt: 0, widthPt: 300, heightPt: 50 }, { faceId: 'eb-garamond-regular', sizePt: 12 });
    const asked: Block = { ...plainly, ...settings };
    const alone = median(3, () => void setBlock({ ...plainly }, faces));
    const time = median(3, () => void setBlock({ ...asked }, faces));
    const setting = setBlock(asked, faces);
    const fixing = median(3, () => void shortLastLineIn(asked, setting, faces, TRACKING_LIMITS));
    return [name, ms(time - alone), ms(fixing), ratio(time / alone), '<= 200 ms'];
  });
  printTable(`Wishes that nobody should have, of up to ${LETTERS.toLocaleString('en')} letters (medians)`, [
    ['', 'the wish', 'short last lines in it', 'over plain setting', 'aim of both'],
    ...hostile,
  ]);

  const { faces: many, ids } = await manyFaces();
  const shares: number[] = [];
  let farthest = 0;
  for (const id of ids) {
    const metric = whitesOf(id, many, null);
    const optical = whitesOf(id, many, USUAL_EDGES);
    shares.push(deviation(optical.whites) / deviation(metric.whites));
    farthest = Math.max(farthest, optical.past);
  }
  printTable(`White along the margin: ${ids.length} faces, ${BEGINNINGS.length} beginnings of lines at ${SIZES.join(' and ')} pt`, [
    ['', 'spread over that of side bearings', 'aim'],
    ['median face', `${Math.round(percentile(shares, 0.5) * 100)} %`, '<= 25 %'],
    ['worst face', `${Math.round(Math.max(...shares) * 100)} %`, '<= 25 %'],
    ['farthest letter past the edge', `${farthest.toFixed(3)} em`, '<= 0.06 em'],
  ]);
}
