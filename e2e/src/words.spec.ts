import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './harness';
import { type ReadText, keyTexts, textsOfDocuments, textsOfPage, textsOfPrograms } from './texts';

/** Retired words, with what Jentrix says instead. */
const RETIRED: readonly (readonly [RegExp, string])[] = [
  [/\bstrand(s|ed|ing)?\b/i, 'short last line'],
  [/\bas intended\b/i, 'ignore'],
  [/\b(give|gives|gave|given|giving) (it |all |them )?back\b/i, 'revert, reset'],
  [/\blet(s|ting)? go\b/i, 'release, discard'],
  [/\bwhat is seen\b/i, 'optical'],
  [/\bstand-in|\bstands? in for\b/i, 'substitute'],
  [/\bat hand\b/i, 'my faces, ready'],
  [/\blaid over|wiped over\b/i, 'overlay, wipe'],
  [/\bmend(s|ed|ing)?\b/i, 'fix'],
  [/\bstill open\b/i, 'findings'],
  [/\bpixels an inch\b/i, 'ppi'],
  [/\bby hand\b|\bhand (value|kerning)/i, 'manual'],
  [/\bframe grows\b/i, 'frame: fits lines, fits height, fixed size'],
  [/\bwords stand\b/i, 'vertical align'],
  [/\blines broken\b/i, 'line breaks'],
  [/\btorn\b/i, 'bad break'],
  [/\bserver is away\b/i, 'the server can’t be reached'],
  [/\bjust now\b/i, 'right now'],
  [/\b(isn’t|is not) here\b/i, 'is missing'],
  [/\bthe ground\b/i, 'background'],
  [/\bshould hold\b/i, 'target'],
  [/\bshortest distance\b/i, 'closest distance'],
  [/\bread along\b/i, 'reading caret'],
  [/\bstands alone\b/i, 'short last line'],
  [/\bgoes down with\b/i, 'bring down'],
  [/\bmoved along\b/i, 'move'],
  [/\btie words\b/i, 'keep together'],
  [/\beven white\b/i, 'even spacing'],
  [/\blet out\b/i, 'overshoot'],
  [/\bunseen down to|goes unseen\b/i, 'invisible'],
  [/\bmake it so\b/i, 'apply brief'],
  [/\blook plainly\b/i, 'plain view'],
  [/\btaken (in|off|up)\b/i, 'imported, removed'],
  [/\bzoom to (block|sheet)\b/i, 'fit block, fit sheet'],
  [/\btrim to capitals\b/i, 'trim to cap height'],
  [/\bno title holds\b/i, 'no jobs match'],
  [/\bwithout the ground\b/i, 'transparent background'],
  [/\bfor good\b/i, 'permanently'],
];

/** Labels and sentences are no longer than this, in words (docs/glossary.md). */
const LABEL = 4;
const SENTENCE = 20;

/** A number and what is behind it; a value that is printed stands as `{}`. */
const BARE_NUMBER = /(?:^|\s)(?:by|at least|at most) \{\}(?=\.|,|;|$)/;

const wordsIn = (text: string): number =>
  text
    .replaceAll('{}', 'x')
    .split(' ')
    .filter((word) => /[\p{L}\p{N}]/u.test(word)).length;
const told = ({ file, text }: ReadText, why: string): string => `${file}: “${text.slice(0, 90)}”: ${why}`;

describe('what Jentrix says', () => {
  const page = textsOfPage();
  const programs = textsOfPrograms();
  const documents = textsOfDocuments();

  it('is read whole', () => {
    expect(page.length).toBeGreaterThan(1000);
    expect(programs.length).toBeGreaterThan(800);
    expect(documents.length).toBeGreaterThan(150);
    for (const [texts, text] of [
      [page, 'Optical edges'],
      [page, 'Keep lines apart'],
      [programs, 'Short last lines'],
      [programs, 'Not found'],
      [programs, 'jentrix: the words are longer'],
      [programs, 'short last lines'],
      [documents, 'Fit lines to a width'],
    ] as const)
      expect(texts.some((one) => one.text.includes(text)))
        .withContext(text)
        .toBeTrue();
  });

  it('uses the trade’s words, and none that were retired', () => {
    const found = [...page, ...programs, ...documents].flatMap((one) =>
      RETIRED.flatMap(([retired, instead]) => (retired.test(one.text) ? [told(one, instead)] : [])),
    );
    expect(found).toEqual([]);
  });

  it('has labels of four words at most, in sentence case', () => {
    const labels = page.filter(({ kind }) => kind === 'label');
    expect(labels.length).toBeGreaterThan(150);
    expect(labels.filter(({ text }) => wordsIn(text) > LABEL).map((one) => told(one, `more than ${LABEL} words`))).toEqual([]);
    expect(labels.filter(({ text }) => /^[a-z]/.test(text) && !/^[a-z]-|^[xy]$/.test(text)).map((one) => told(one, 'without a capital'))).toEqual([]);
  });

  it('has no sentence over twenty words on the page', () => {
    const long = page.filter(({ text }) => text.split(/(?<=[.!?:]) /).some((sentence) => wordsIn(sentence) > SENTENCE));
    expect(long.map((one) => told(one, `more than ${SENTENCE} words`))).toEqual([]);
  });

  it('prints no number of an amount without its unit', () => {
    const bare = page.filter(({ text }) => BARE_NUMBER.test(text));
    expect(bare.map((one) => told(one, 'a number without unit'))).toEqual([]);
  });

  it('has every text of the templates in the catalogue (npm run texts), each by an id of its own meaning', () => {
    const { translations } = JSON.parse(readFileSync(join(root, 'docs/texts.json'), 'utf8')) as { translations: Record<string, string> };
    const folder = join(root, 'web/src/app');
    const marked = readdirSync(folder, { recursive: true, encoding: 'utf8' })
      .filter((file) => /\.(html|ts)$/.test(file) && !file.includes('spec'))
      .flatMap((file) => [...readFileSync(join(folder, file), 'utf8').matchAll(/i18n(?:-[\w-]+)?="@@([\w.]+)"/g)].map(([, id = '']) => id));
    expect(Object.keys(translations).sort()).toEqual([...new Set(marked)].sort());
    expect(Object.values(translations).filter((text) => text.trim() === '')).toEqual([]);
  });

  it('says of one key the same everywhere', () => {
    const says = new Map<string, string>();
    for (const [, id = '', text = ''] of keyTexts()) {
      expect([text, says.get(id) ?? text])
        .withContext(id)
        .toEqual([text, text]);
      says.set(id, text);
    }
    expect(says.size).toBeGreaterThan(30);
  });
});
