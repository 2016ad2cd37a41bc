/** Words on bends: how far the white between turned letters departs from what it is on the straight line, and what solving it takes. */
import { flatten } from '@jentrix/core/face';
import { Inspector } from '@jentrix/core/findings';
import { type Arc, type Block, createBlock, createJob, visibleLetters, nudgeLetters, withLetters } from '@jentrix/core/job';
import { type FaceSet, type SetLine, glyphMatrix, inkOf, rideLines, setBlock, straightLines } from '@jentrix/core/setting';
import { BANDS, type GlyphSide, bandHeight, profileOutline, whiteBetween } from '@jentrix/core/spacing';
import { shippedFaces } from '@jentrix/core/testing';
import { medians, ms, printTable, ratio } from './table';

const FACES = [
  'playfair-display-bold',
  'playfair-display-italic',
  'eb-garamond-regular',
  'alegreya-extrabold',
  'josefin-sans-semibold',
  'league-gothic-regular',
  'source-sans-3-regular',
  'source-sans-3-bold',
];
const WORDS =
  'OBSERVATORY NIGHTS VALLEY FALLING STARS WATCH TONIGHT AVATAR Perseids Wrayfold Altair Vega Meteor Lecture Harvest skylight evening telescope Open-day TYPOGRAPHY';
/** In sizes of the type. */
const RADII = [2, 3, 5, 8, 12, 20];
const SIZE = 100;

const arc = (radius: number, bend: 'dome' | 'bowl', kerned: boolean): Arc => {
  const y = bend === 'dome' ? radius : -radius;
  return {
    kind: 'arc',
    start: { xPt: -radius, yPt: y },
    through: { xPt: 0, yPt: 0 },
    end: { xPt: radius, yPt: y },
    hold: 'centre',
    atShare: 0.5,
    side: 'above',
    distancePt: 0,
    letters: 'turned',
    kerned,
  };
};

/** A glyph's outline as drawn on the sheet, as straight pieces, points, y down. */
function piecesOf(line: SetLine, faces: FaceSet): { at: number; pieces: number[]; angle: number }[] {
  return line.runs.flatMap((run) =>
    run.glyphs.map((glyph) => {
      const m = glyphMatrix(glyph, run);
      const pieces: number[] = [];
      flatten(faces.instance(run.style).outline(glyph.glyphId), 12, (x0, y0, x1, y1) => {
        pieces.push(m.a * x0 + m.c * y0 + m.e, m.b * x0 + m.d * y0 + m.f, m.a * x1 + m.c * y1 + m.e, m.b * x1 + m.d * y1 + m.f);
      });
      return { at: glyph.cluster, pieces, angle: Math.atan2(m.b, m.a) };
    }),
  );
}

/** The white of every gap of a line as drawn: measured on the outlines where they stand, along the line that halves the letters' angle. */
function whitesOf(line: SetLine, faces: FaceSet): { near: number; wide: number }[] {
  const letters = piecesOf(line, faces);
  return letters.slice(1).flatMap((right, i) => {
    const left = letters[i]!;
    if (left.pieces.length === 0 || right.pieces.length === 0) return [];
    const angle = (left.angle + right.angle) / 2;
    const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
    // The middle of both feet is the origin: the baseline runs through it.
    const glyphs = line.runs.flatMap((run) => run.glyphs.map((glyph) => ({ glyph, m: glyphMatrix(glyph, run), run })));
    const foot = (at: number): { x: number; y: number } => {
      const { glyph, m, run } = glyphs.find((one) => one.glyph.cluster === at)!;
      const middle = faces.instance(run.style).advance(glyph.glyphId) / 2;
      return { x: m.a * middle + m.e, y: m.b * middle + m.f };
    };
    const [a, b] = [foot(left.at), foot(right.at)];
    const origin = { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 };
    const sideOf = (pieces: readonly number[], side: 'left' | 'right'): GlyphSide => {
      const values: number[][] = [];
      for (let p = 0; p < pieces.length; p += 4) {
        const turn = (x: number, y: number): number[] => [
          ((x - origin.x) * cos + (y - origin.y) * sin) / SIZE,
          ((x - origin.x) * sin - (y - origin.y) * cos) / SIZE,
        ];
        values.push([...turn(pieces[p]!, pieces[p + 1]!), ...turn(pieces[p + 2]!, pieces[p + 3]!)]);
      }
      const outline = values.flatMap(([x0 = 0, y0 = 0, x1 = 0, y1 = 0]) => [
        { type: 'M' as const, values: [x0 * 1000, y0 * 1000] },
        { type: 'L' as const, values: [x1 * 1000, y1 * 1000] },
      ]);
      return profileOutline(outline, 0, 1000)![side];
    };
    const [l, r] = [sideOf(left.pieces, 'right'), sideOf(right.pieces, 'left')];
    return [{ near: whiteBetween(l, r, 0, 4), wide: area(l, r) }];
  });
}

/** A plain mean of the distances at the heights of small letters, none counted as more than half an em: nothing that solving knows of. */
function area(left: GlyphSide, right: GlyphSide): number {
  let [sum, count] = [0, 0];
  for (let band = 0; band < BANDS; band++) {
    const height = bandHeight(band);
    if (height < 0 || height > 0.7) continue;
    sum += Math.min(0.5, (left.raw[band] ?? 1) + (right.raw[band] ?? 1));
    count++;
  }
  return sum / count;
}

const spread = (values: readonly number[]): number => {
  const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
  return Math.sqrt(values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / values.length);
};

export async function benchBend(): Promise<void> {
  const faces = await shippedFaces(...FACES);
  const words = WORDS.split(' ');
  const block = (faceId: string, text: string, path: Block['path']): Block => ({
    ...createBlock('b', text, { xPt: 0, yPt: 0, widthPt: 1, heightPt: 1 }, { faceId, sizePt: SIZE }),
    grow: 'both',
    path,
  });
  const rows = [['radius in sizes', 'bend', 'unmended', 'kerned', 'aim', 'unmended, plain mean', 'kerned, plain mean']];
  for (const radius of RADII) {
    for (const bend of ['dome', 'bowl'] as const) {
      const ratios = { off: [0, 0], on: [0, 0], straight: [0, 0] };
      for (const faceId of FACES) {
        for (const text of words) {
          const [straight] = straightLines(setBlock(block(faceId, text, arc(radius * SIZE, bend, false)), faces));
          if (!straight) continue;
          const whites = {
            straight: whitesOf(straight, faces),
            off: whitesOf(setBlock(block(faceId, text, arc(radius * SIZE, bend, false)), faces).lines[0]!, faces),
            on: whitesOf(setBlock(block(faceId, text, arc(radius * SIZE, bend, true)), faces).lines[0]!, faces),
          };
          for (const key of ['straight', 'off', 'on'] as const) {
            ratios[key][0]! += spread(whites[key].map(({ near }) => near));
            ratios[key][1]! += spread(whites[key].map(({ wide }) => wide));
          }
        }
      }
      const over = (key: 'off' | 'on', i: number): string => ratio(ratios[key][i]! / ratios.straight[i]!);
      rows.push([String(radius), bend, over('off', 0), over('on', 0), '<= 1.25x', over('off', 1), over('on', 1)]);
    }
  }
  printTable(
    `Spread of white along the bend over the same words straight: ${words.length} words, ${FACES.length} faces, measured on the placed outlines`,
    rows,
  );

  const long = 'Bring a blanket and leave the torch: the valley fills with fa';
  const subject = block('playfair-display-bold', long, arc(2000, 'dome', true));
  const path = subject.path as Arc;
  const straight = straightLines(setBlock(subject, faces));
  let turn = 0;
  const [set = Number.NaN, solved = Number.NaN] = medians(
    100,
    () => {
      setBlock({ ...subject, path: { kind: 'straight' } }, faces);
    },
    () => {
      // Another radius each time, of 5 to 40 sizes: letters are turned anew.
      rideLines(subject, arc(500 + ((turn++ * 1237) % 3500), 'dome', true), straight, faces, 70);
    },
  );
  const [again = Number.NaN] = medians(100, () => {
    rideLines(subject, path, straight, faces, 70);
  });
  printTable(`A line of ${long.length} letters on a curve`, [
    ['', 'median', 'aim'],
    ['set straight', ms(set), ''],
    ['re-kerned on a new curve', ms(solved), '<= 10 ms'],
    ['re-kerned on the same curve', ms(again), '<= 10 ms'],
  ]);

  const copy = 'Bring a blanket and leave the torch. Your eyes need twenty minutes to find the dark, then the valley fills with falling stars. ';
  const page = block('source-sans-3-regular', copy.repeat(16).slice(0, 2000), { kind: 'straight' });
  const wide = { ...page, grow: 'down' as const, frame: { xPt: 0, yPt: 0, widthPt: 4000, heightPt: 100 } };
  const letters = visibleLetters(wide.words)
    .filter((_, i) => i % 8 === 0)
    .slice(0, 200);
  const shifted = withLetters(wide, letters, { baselineShiftMilliem: 120, turnDeg: 10 });
  const job = { ...createJob('Bench', () => 'id'), sheets: [{ ...createJob('Bench', () => 'id').sheets[0]!, blocks: [shifted] }] };
  const inspector = new Inspector(() => faces);
  let one = shifted;
  const [plainMs = Number.NaN, keyMs = Number.NaN, wholeMs = Number.NaN] = medians(
    60,
    () => {
      setBlock({ ...wide }, faces);
    },
    () => {
      const next = nudgeLetters(job, 'b', letters, 'baselineShiftMilliem', 2);
      setBlock(next.sheets[0]!.blocks[0]!, faces);
    },
    (i) => {
      one = withLetters(one, [{ start: 20, end: 21 }], { baselineShiftMilliem: 4 + (i % 50) * 4 });
      const setting = setBlock(one, faces);
      inkOf(setting, faces);
      inspector.inspect(one, setting);
    },
  );
  printTable('2,000 letters, 200 of them shifted one by one: a key that raises those, set anew', [
    ['', 'median', 'aim'],
    ['set with none shifted', ms(plainMs), ''],
    ['raised and set', ms(keyMs), '<= 16.7 ms'],
    ['one raised: edit, set, measure', ms(wholeMs), '<= 16.7 ms'],
    ['over none shifted', ratio(keyMs / plainMs), ''],
  ]);
}
