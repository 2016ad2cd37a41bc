/**
 * npm run bench:spacing -- scripts: Greek and Cyrillic against the designers of the families that kern them, beside Latin of the same families.
 * The models were fitted without the family, and on Latin letters alone.
 */
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Face } from '@jentrix/core/face';
import { NOTICED, type ShapeModel, kerningFrom, measureWord, proposeKerning, weighed } from '@jentrix/core/spacing';
import { root } from '@jentrix/e2e/harness';
import { printTable } from '../table';
import { type Samples, LEAST_KERNED } from './data';
import { designerKerning, sidesOf } from './families';
import { foldsOf } from './folds';
import { KINDS, type Kind, gapsOf } from './held-faces';
import type { TrainingPool } from './pool';
import { type Scores, score } from './report';
import { shapeModelOf } from './train';

type Script = 'latin' | 'greek' | 'cyrillic';

const LETTERS: Readonly<Record<Script, { upper: string; lower: string }>> = {
  latin: { upper: 'ABCDEFGHIJKLMNOPQRSTUVWXYZ', lower: 'abcdefghijklmnopqrstuvwxyz' },
  greek: { upper: 'ΑΒΓΔΕΖΗΘΙΚΛΜΝΞΟΠΡΣΤΥΦΧΨΩ', lower: 'αβγδεζηθικλμνξοπρστυφχψως' },
  cyrillic: { upper: 'АБВГДЕЖЗИЙКЛМНОПРСТУФХЦЧШЩЪЫЬЭЮЯ', lower: 'абвгдежзийклмнопрстуфхцчшщъыьэюя' },
};

/** Headlines of a script, in capitals and mixed. */
const HEADLINES: Readonly<Record<Script, readonly string[]>> = {
  latin: [
    'Two Nights to Watch',
    'A Valley of Falling Stars',
    'FALLING STARS',
    'Yonder Valley',
    'Warm Toast',
    'LATVIA',
    'The Dark Is Kind',
    'YESTERDAY',
    'Typography for Everyone',
    'Wave Tower',
  ],
  greek: [
    'Δύο νύχτες για παρατήρηση',
    'ΚΟΙΛΑΔΑ ΤΩΝ ΑΣΤΡΩΝ',
    'Τα αστέρια πέφτουν',
    'ΤΟ ΦΩΣ ΤΗΣ ΑΥΓΗΣ',
    'Γυάλινος ουρανός',
    'Ψυχή και τάξη',
    'ΑΥΛΗ',
    'Κάτω από τον ουρανό',
    'ΥΠΑΤΙΑ',
    'Ρυθμός του λευκού',
  ],
  cyrillic: [
    'Две ночи под звёздами',
    'ДОЛИНА ПАДАЮЩИХ ЗВЁЗД',
    'Тёмная сторона горы',
    'ГОТОВАЯ РАБОТА',
    'Утро начинается здесь',
    'Художник и буква',
    'ТАРТУ',
    'Глубокое небо',
    'УХОД',
    'Рукава галактики',
  ],
};

const SETS = ['UU', 'UL', 'LL', 'P'] as const;
type Set = (typeof SETS)[number];

function pairsOf(script: Script, set: Set): [string, string][] {
  const { upper, lower } = LETTERS[script];
  const sides: Readonly<Record<Set, readonly [string, string]>> = { UU: [upper, upper], UL: [upper, lower], LL: [lower, lower], P: [upper + lower, '.,-'] };
  const [left, right] = sides[set];
  return [...left].flatMap((one) => [...right].map((other): [string, string] => [one, other]));
}

/** Counts for one script in one kind of face. */
class Counts {
  readonly scores: Record<Set, Scores[]> = { UU: [], UL: [], LL: [], P: [] };
  faces = 0;
  gaps = 0;
  alarms = 0;
  moved = 0;

  add(face: Face, script: Script, model: ShapeModel): void {
    const instance = face.instance();
    const side = sidesOf(instance);
    let kerns = false;
    for (const set of SETS) {
      const pairs = pairsOf(script, set).flatMap(([a, b]) => {
        const [left, right] = [side(a), side(b)];
        return left && right ? [{ truth: designerKerning(instance, a, b), proposed: proposeKerning(left, right, undefined, model).milliem }] : [];
      });
      if (pairs.filter(({ truth }) => truth !== 0).length < LEAST_KERNED) continue;
      kerns = true;
      this.scores[set].push(
        score(
          pairs.map(({ proposed }) => proposed),
          pairs.map(({ truth }) => truth),
        ),
      );
    }
    // A font that doesn't kern the script has no designer to agree with.
    if (!kerns) return;
    this.faces++;
    const word = { ...measureWord(face, model), unlearned: script !== 'latin' };
    for (const { font, shape } of HEADLINES[script].flatMap((text) => gapsOf(instance, text, model)).filter(({ atSpace }) => !atSpace)) {
      this.gaps++;
      if (Math.abs(font - weighed(font, shape, word)) >= NOTICED) this.alarms++;
      this.moved += Math.abs(kerningFrom.weighed({ font, shape, atSpace: false, word }) - font);
    }
  }

  row(name: string, latin: Counts | undefined): string[] {
    const mean = (scores: readonly Scores[], of: (one: Scores) => number): number => scores.reduce((sum, one) => sum + of(one), 0) / Math.max(1, scores.length);
    return [
      name,
      String(this.faces),
      ...SETS.map((set) => {
        const own = this.scores[set];
        if (own.length === 0) return '–';
        const r = mean(own, (one) => one.r);
        const latinR = latin && mean(latin.scores[set], (one) => one.r);
        const share = latinR === undefined ? '' : ` (${(r / latinR).toFixed(2)})`;
        return `${r.toFixed(3)}${share} / ${(mean(own, ({ error }) => error) / (mean(own, ({ none }) => none) || 1)).toFixed(2)}`;
      }),
      ((100 * this.alarms) / Math.max(1, this.gaps)).toFixed(1),
      (this.moved / Math.max(1, this.gaps)).toFixed(2),
    ];
  }
}

/** Prints the figures of each script and kind. @param samples of all families. */
export async function reportScripts(samples: readonly Samples[], pool: TrainingPool): Promise<void> {
  const all = new Map<string, Counts>();
  for (const { held, model: learnt } of await foldsOf(samples, pool)) {
    const model = shapeModelOf(learnt);
    for (const kind of Object.keys(KINDS) as Kind[]) {
      for (const family of held) {
        for (const style of KINDS[kind]) {
          for (const script of Object.keys(LETTERS) as Script[]) {
            const file = join(root, `node_modules/@fontsource/${family}/files/${family}-${script}-${style}.woff`);
            if (!existsSync(file)) continue;
            const face = await Face.open(new Uint8Array(readFileSync(file)));
            const key = `${kind} ${script}`;
            const counts = all.get(key) ?? new Counts();
            all.set(key, counts);
            counts.add(face, script, model);
            face.dispose();
          }
        }
      }
    }
  }
  printTable('Greek and Cyrillic in families held out: r (of Latin’s) / error over no kerning', [
    ['', 'faces', ...SETS, 'false alarms / 100 gaps', 'weighed moves'],
    ...(Object.keys(KINDS) as Kind[]).flatMap((kind) =>
      (Object.keys(LETTERS) as Script[]).flatMap((script) => {
        const counts = all.get(`${kind} ${script}`);
        return counts ? [counts.row(`${kind} ${script}`, script === 'latin' ? undefined : all.get(`${kind} latin`))] : [];
      }),
    ),
    ['aim', '', ...SETS.map(() => 'r >= 0.85 of Latin’s'), '<= 2', ''],
  ]);
}
