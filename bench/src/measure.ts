/** Measuring white: beside HarfBuzz drawing the same outlines, and against the budgets of one key. */
import { inspectBlock } from '@jentrix/core/findings';
import { createBlock } from '@jentrix/core/job';
import { setBlock } from '@jentrix/core/setting';
import { profileOf, profileOutline, proposeKerning, rhythmOf } from '@jentrix/core/spacing';
import { fontBytes, openShipped, shippedFaces } from '@jentrix/core/testing';
import { median, medians, ms, printTable, ratio } from './table';

const FACE = 'playfair-display-bold';
const LETTERS = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789.,;:!?&'];

export async function benchMeasure(): Promise<void> {
  const hb = await import('harfbuzzjs');
  const face = await openShipped(FACE);
  const instance = face.instance();
  const font = new hb.Font(new hb.Face(new hb.Blob(fontBytes(FACE))));
  const glyphs = LETTERS.map((letter) => instance.nominalGlyph(letter.codePointAt(0) ?? 0) ?? 0);
  const outlines = glyphs.map((id) => ({ outline: instance.outline(id), advance: instance.advance(id) }));
  const [drawn = 0, profiled = 0] = medians(
    200,
    () => {
      for (const id of glyphs) font.glyphToJson(id);
    },
    () => {
      for (const { outline, advance } of outlines) profileOutline(outline, advance, instance.unitsPerEm);
    },
  );
  const rhythm = rhythmOf(instance);
  const sides = glyphs.flatMap((id) => profileOf(instance, id) ?? []);
  const pairs = sides.flatMap((left) => sides.map((right) => [left, right] as const));
  const proposing = median(7, () => {
    for (const [left, right] of pairs) proposeKerning({ profile: left, rhythm }, { profile: right, rhythm });
  });
  const faces = await shippedFaces(FACE);
  const block = createBlock(
    'b',
    'Two nights to watch a valley of falling stars above the hill',
    { xPt: 0, yPt: 0, widthPt: 1e4, heightPt: 100 },
    { faceId: FACE, sizePt: 90 },
  );
  const fresh = new Map(Array.from({ length: 60 }, (_, i) => [i, { ...block, hand: [{ at: 4, milliem: i + 1 }] }]));
  const measured = median(60, (i) => {
    const subject = fresh.get(i % 60) ?? block;
    inspectBlock(subject, setBlock(subject, faces), faces);
  });
  const cold = median(12, () => {
    // A size nobody has used: neither proposals nor distances are known.
    const subject = { ...block, runs: [{ start: 0, end: 1, style: { sizePt: 90 + Math.random() } }] };
    inspectBlock(subject, setBlock(subject, faces), faces);
  });
  printTable('Measuring white (medians)', [
    ['', 'time', 'against', 'aim'],
    ['HarfBuzz draws 69 outlines', ms(drawn), '', ''],
    ['their profiles', ms(profiled), `${ratio(profiled / drawn)} of drawing`, '<= 4x'],
    ['one proposal, profiles known', `${((proposing * 1000) / pairs.length).toFixed(1)} µs`, '', '<= 100 µs'],
    ['re-measure a 60-letter headline', ms(measured), '', '<= 5 ms'],
    ['the same with a letter in a new size', ms(cold), '', ''],
  ]);
}
