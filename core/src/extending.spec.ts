/** One of each is added from outside, and turns up wherever its kind does: nothing else has to know of it. */
import * as z from 'zod';
import { drawSheet } from './drawing';
import { FINDING_RULES, type Rule, checkJob } from './findings';
import { SHEET_FORMATS, endingOf, optionKeysOf, queryOf, textFormat } from './formats';
import { DEFAULT_STYLE, STYLE_PROPERTIES, type StyleTable, createJob, createSheet, parseSpec, printSpec, property, styleKind } from './job';
import { writeSheets } from './rendering';
import { setSheet } from './setting';
import { headline, shippedFaces } from './testing';
import { parseMilliem, printSigned } from './units';

const job = () => {
  let n = 0;
  const whole = createJob('Toy', () => `id${n++}`);
  const sheet = { ...createSheet('s', 'Sheet', 600, 300, 'pt'), blocks: [headline('AVATAR\nTWO')] };
  return { ...whole, sheets: [sheet] };
};

describe('adding', () => {
  it('a property of the style: schema, default, upgrade, spec line', () => {
    const slant = property({
      schema: z.number().min(-500).max(500),
      default: 0,
      since: 99,
      changes: 'shift',
      name: 'slant',
      spec: { word: 'slanted', read: parseMilliem, print: (value) => printSigned(value) },
    });
    const kind = styleKind({ ...(STYLE_PROPERTIES as unknown as StyleTable), slant: slant });
    expect(kind.schema.safeParse({ ...DEFAULT_STYLE, slant: 20 }).success).toBeTrue();
    expect(kind.schema.safeParse(DEFAULT_STYLE).success).toBeFalse();
    expect(kind.upgrade(DEFAULT_STYLE, 4)).toEqual({ ...DEFAULT_STYLE, slant: 0 });
    const face = { id: 'source-sans-3-regular', family: 'Source Sans 3', style: 'Regular' };
    const style = { ...DEFAULT_STYLE, slant: 25 };
    const line = printSpec(face, { style, leading: { kind: 'auto' }, align: 'left' }, kind.entries);
    expect(line).toContain('slanted +25');
    expect(parseSpec(line, { faces: [face], sizePt: 10, properties: kind.entries }).style).toEqual(jasmine.objectContaining({ slant: 25 }));
    expect(() => parseSpec(line, { faces: [face], sizePt: 10 })).toThrowError(/Didn’t understand/);
  });

  it('a finding rule for each thing that rules look at: counted, and its proposal carried out', async () => {
    const faces = await shippedFaces('playfair-display-bold');
    const found = { at: 0, severity: 'notice' as const, visiblePt: 1, subject: 'toy', message: 'looked at' };
    const toy = { pass: 'words' as const, name: 'Toy' };
    const rules: Rule[] = [
      { ...toy, id: 'toy-gap', looksAt: 'gap', look: ({ gap }) => [{ ...found, at: gap.at, proposal: { hand: [{ at: gap.at, milliem: 7 }] } }] },
      { ...toy, id: 'toy-line', looksAt: 'line', look: ({ line, gaps }) => [{ ...found, at: line.start, subject: String(gaps.length) }] },
      { ...toy, id: 'toy-block', looksAt: 'block', look: ({ block }) => [{ ...found, subject: block.id }] },
      { ...toy, id: 'toy-sheet', looksAt: 'sheet', look: ({ sheet, blocks }) => [{ ...found, subject: `${sheet.name} ${blocks.length}` }] },
      { ...toy, id: 'toy-job', looksAt: 'job', look: ({ job: { title } }) => [{ ...found, subject: title }] },
    ];
    const { findings } = checkJob(job(), faces, { rules: [...FINDING_RULES, ...rules] });
    const of = (id: string) => findings.filter(({ rule }) => rule === id);
    expect(of('toy-gap').length).toBe(7);
    expect(of('toy-line').map(({ at, subject }) => [at, subject])).toEqual([
      [0, '5'],
      [7, '2'],
    ]);
    expect([of('toy-block'), of('toy-sheet'), of('toy-job')].map(([one]) => one?.subject)).toEqual(['b', 'Sheet 1', 'Toy']);
    expect([of('toy-block')[0]?.blockId, of('toy-sheet')[0]?.sheetId, of('toy-job')[0]?.blockId]).toEqual(['b', 's', undefined]);
  });

  it('a format: its file, its name, its address', async () => {
    const faces = await shippedFaces('playfair-display-bold');
    const letters = textFormat({
      kind: 'text',
      id: 'words',
      name: 'Words',
      mediaType: 'text/plain',
      extension: '.txt',
      options: z.object({ upper: z.coerce.boolean().default(false) }),
      says: 'for proofs',
      fields: [{ kind: 'switch', name: 'Capitals', key: 'upper' }],
      suffix: ({ upper }) => (upper ? '@upper' : ''),
      write: ({ drawing }, { upper }) => drawing.blocks.map(({ label }) => (upper ? label.toUpperCase() : label.toLowerCase())).join('\n'),
    });
    const [sheet] = job().sheets;
    if (!sheet) throw new Error('no sheet');
    const material = { drawing: drawSheet(sheet, setSheet(sheet, faces)), faces, pictures: new Map() };
    const options = letters.options.parse({ upper: 'yes' });
    // As server, command and page write any.
    const written = (asked: unknown) => writeSheets(letters, [material], { title: 'Toy', language: undefined }, letters.options.parse(asked));
    expect(await written({ upper: 'yes' })).toBe('AVATAR TWO');
    expect(await written({})).toBe('avatar two');
    expect(endingOf(letters, options)).toBe('@upper.txt');
    expect(queryOf({ upper: false, not: undefined })).toBe('upper=false');
    // What people are offered is what the format takes, and comes back from an address as it went in.
    for (const { fields, options: schema } of SHEET_FORMATS) {
      for (const field of fields) {
        const ways = field.kind === 'choice' ? field.of.map(({ set }) => set) : [{ [field.key]: field.kind === 'switch' ? true : field.max }];
        for (const set of ways) expect(schema.parse(Object.fromEntries(new URLSearchParams(queryOf(set))))).toEqual(jasmine.objectContaining(set));
        for (const set of ways) expect(optionKeysOf(field)).toEqual(jasmine.arrayContaining(Object.keys(set)));
      }
    }
  });
});
