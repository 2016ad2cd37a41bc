import {
  type Block,
  type Job,
  type Sheet,
  PLAIN_JUSTIFY,
  USUAL_EDGES,
  addSheet,
  createBlock,
  createJob,
  createSheet,
  findBlock,
  newFit,
  newPath,
  removeBlock,
  removeSheet,
  restyle,
  retitle,
  updateBlock,
  withHand,
  withKind,
  withSheet,
} from '../job';
import { editWords } from '../wording';
import { compareJobs, revertChanges, inShort, nameStep, onLines, sayChange } from '.';

const frame = { xPt: 72, yPt: 36, widthPt: 288, heightPt: 100 };

function sample(): Job {
  let n = 0;
  const sheet = (id: string, name: string, blocks: Block[]): Sheet => ({ ...createSheet(id, name, 720, 1440, 'in'), safeShare: 0, blocks });
  return {
    ...createJob('Open day', () => `id${n++}`),
    sheets: [
      sheet('one', 'First', [createBlock('a', 'AVATAR nights', frame), createBlock('b', 'on the hill', frame)]),
      sheet('two', 'Second', [createBlock('c', 'Tea and cocoa', frame)]),
    ],
  };
}

describe('what is told of a change', () => {
  const before = sample();
  const edit = (change: Partial<Block>): Job => updateBlock(before, 'a', (block) => ({ ...block, ...change }));
  const sheet = (change: Partial<Sheet>): Job => withSheet(before, 'one', change);
  const says = (after: Job, from = before): string[] => compareJobs(from, after, { names: (id) => `Face ${id}` }).map((change) => change.says);
  const fit = (to: NonNullable<ReturnType<typeof newFit>['to']> | null) => edit({ fit: newFit({ to }) });

  const OF_BLOCKS: readonly (readonly [after: Job, ...says: string[]])[] = [
    [edit({ leading: { kind: 'multiple', factor: 1.15 } }), 'Leading: auto, 120 % → 115 %'],
    [edit({ lineLeading: [{ at: 3, byPt: 2 }] }), 'Leading of single lines: none → 1 line'],
    [
      edit({
        lineLeading: [
          { at: 3, byPt: 2 },
          { at: 5, byPt: 1 },
        ],
      }),
      'Leading of single lines: none → 2 lines',
    ],
    [edit({ language: 'de' }), 'Language: of the job → de'],
    [edit({ align: 'right' }), 'Align: left → right'],
    [edit({ rotationDeg: -7.25 }), 'Rotation: 0° → −7.3°'],
    [edit({ path: newPath('arc', frame, 100) }), 'Path: straight → arc, rise 46.1 pt'],
    [edit({ ends: { of: 'words', which: 'both', ratio: 1.25, align: 'foot' } }), 'End letters: none → first and last of words 125 %'],
    [edit({ ends: { of: 'lines', which: 'first', ratio: 2, align: 'foot' } }), 'End letters: none → first of lines 200 %'],
    [fit({ kind: 'frame' }), 'Fit: not fitted → to the frame'],
    [fit({ kind: 'margins' }), 'Fit: not fitted → to the margins'],
    [fit({ kind: 'pt', pt: 144 }), 'Fit: not fitted → to 2 in'],
    [fit({ kind: 'between', leftPt: 72, rightPt: 216 }), 'Fit: not fitted → from 1 in to 3 in'],
    [fit({ kind: 'block', id: 'b', line: null }), 'Fit: not fitted → to another block'],
    [fit({ kind: 'block', id: 'b', line: 1 }), 'Fit: not fitted → to line 2 of another block'],
    [fit(null), 'Fit: not fitted → by height only'],
    [edit({ breaking: { way: 'total', shape: 'even' } }), 'Line breaks: fill → even spaces'],
    [edit({ breaking: { way: 'even', shape: 'even' } }), 'Line breaks: fill → balanced'],
    [edit({ breaking: { way: 'even', shape: 'widening' } }), 'Line breaks: fill → balanced, widening'],
    [edit({ breaking: { way: 'total', shape: 'widening' } }), 'Line breaks: fill → even spaces'],
    [
      edit({ justify: { ...PLAIN_JUSTIFY, lettersMilliem: 15, width: 0.02, last: 'full' } }),
      'Justification: letter space ±0/1000 em, letter width ±0 %, last line natural → letter space ±15/1000 em, letter width ±2 %, last line full',
    ],
    [edit({ edges: { ...USUAL_EDGES, optical: 0.5 } }), 'Edges: metric → optical, 50 %'],
    [
      edit({
        lineIndents: [
          { at: 0, byPt: 36 },
          { at: 7, byPt: -72 },
        ],
      }),
      'Manual line offsets: none → 0.5 in, −1 in',
    ],
    [
      edit({
        tightened: [
          { start: 0, end: 6, milliem: -12 },
          { start: 7, end: 9, milliem: -3.5 },
        ],
      }),
      'Tightened: nowhere → −12, −3.5',
    ],
    [edit({ locked: true }), 'Lock: off → on'],
    [edit({ frame: { ...frame, xPt: 144 } }), 'Frame: 4 in wide, at 1 in, 0.5 in → 4 in wide, at 2 in, 0.5 in'],
    [edit({ frame: { ...frame, heightPt: 101 } }), 'Frame changed'],
    [edit({ grow: 'fixed' }), 'Frame: fits height → fixed size'],
    [edit({ grow: 'both' }), 'Frame: fits height → fits lines'],
    [edit({ vertical: 'middle' }), 'Vertical align: top → middle'],
    [edit({ vertical: 'bottom' }), 'Vertical align: top → bottom'],
    [edit({ trim: true }), 'Trim to cap height: off → on'],
    [
      edit({ paragraph: { indentPt: 18, beforePt: 36, afterPt: 72, list: 'number' } }),
      'Paragraphs: first-line indent 0 in, space before 0 in, space after 0 in, list none → first-line indent 0.3 in, space before 0.5 in, space after 1 in, list number',
    ],
    [edit({ recipeId: 'r' }), 'Recipe: none → used'],
    [edit({ part: 'p' }), 'Shared words: detached → shared with other sheets'],
    [edit({ intended: [{ at: 3, rule: 'gap-open' }] }), 'Ignored'],
    [restyle(before, 'a', { faceId: 'lora' }), 'Face: Face source-sans-3-regular → Face lora'],
    [restyle(before, 'a', { underline: true, gradient: { to: '#112233', angleDeg: 90 } }), 'Gradient: off → on', 'Underline: off → on'],
    [withKind(retitle(before, 'Open night'), 'flyer'), 'Title: Open day → Open night', 'Kind of work: other → flyer'],
    [{ ...before, language: 'fr' }, 'Language of the job: none → fr'],
  ];
  const OF_SHEETS: readonly (readonly [after: Job, ...says: string[]])[] = [
    [sheet({ name: 'Front' }), 'Sheet name: First → Front'],
    [sheet({ widthPt: 792 }), 'Sheet size: 10 in × 20 in → 11 in × 20 in'],
    [sheet({ margins: { topPt: 36, rightPt: 72, bottomPt: 108, leftPt: 144 } }), 'Margins 0.5 in, 1 in, 1.5 in, 2 in'],
    [sheet({ background: { kind: 'gradient', from: '#111111', to: '#222222', angleDeg: 0 } }), 'Background #111111 to #222222'],
    [sheet({ background: { kind: 'picture', pictureId: 'p', fit: 'cover', colour: '#000000' } }), 'Background a picture'],
    [sheet({ background: { kind: 'colour', colour: '#0a0b0c' } }), 'Background #0a0b0c'],
    [sheet({ guides: [{ axis: 'x', atPt: 1 }] }), 'Guides: none → 1 guide'],
    [sheet({ safeShare: 0.05 }), 'Title-safe area: off → 5 %'],
    [sheet({ centreLines: !sample().sheets[0]!.centreLines }), 'Centre lines'],
  ];

  it('names each thing of a block as people do, with what it was and is, and gives it back', () => {
    for (const [after, ...expected] of OF_BLOCKS) {
      expect(says(after)).toEqual(expected);
      const changes = compareJobs(before, after);
      for (const change of changes)
        if (change.blockId !== undefined)
          expect(change).toEqual(jasmine.objectContaining({ sheetId: 'one', sheet: 'First', blockId: 'a', words: 'AVATAR nights' }));
      expect(
        revertChanges(
          before,
          after,
          changes.map(({ id }) => id),
        ),
      )
        .withContext(expected.join())
        .toEqual(before);
    }
  });

  it('says when findings speak again', () => {
    const silenced = edit({
      intended: [
        { at: 3, rule: 'gap-open' },
        { at: 5, rule: 'gap-open' },
      ],
    });
    expect(says(before, silenced)).toEqual(['Shown again']);
    expect(
      says(
        edit({
          intended: [
            { at: 4, rule: 'gap-open' },
            { at: 5, rule: 'gap-open' },
          ],
        }),
        silenced,
      ),
    ).toEqual(['Shown again']);
  });

  it('names each thing of a sheet, and gives it back', () => {
    for (const [after, expected = ''] of OF_SHEETS) {
      const [change, ...more] = compareJobs(before, after);
      expect(more).withContext(expected).toEqual([]);
      expect(change?.says).toMatch(new RegExp(`^${expected.split(/[ :]/)[0]!}`));
      expect(change?.says.endsWith(expected.slice(expected.search(/[ :]/) + 1)))
        .withContext(`${change?.says}`)
        .toBe(!expected.startsWith('Centre'));
      expect(change?.sheetId).toBe('one');
      expect(revertChanges(before, after, [change?.id ?? '']))
        .withContext(expected)
        .toEqual(before);
    }
    const lines = sheet({ centreLines: true });
    expect(says(lines, sheet({ centreLines: false }))).toEqual(['Centre lines: off → on']);
  });

  it('tells of rules for pairs, wherever they hold', () => {
    const rule = { left: 'A', right: 'V', faceId: 'f', milliem: -20, scope: { kind: 'job' } } as const;
    const ruled: Job = { ...before, pairs: [rule, { ...rule, scope: { kind: 'sheet', id: 'one' }, milliem: 5 }] };
    expect(says(ruled)).toEqual(['Every AV: none → −20', 'Every AV: none → +5']);
    expect(compareJobs(before, ruled).map(({ id }) => id)).toEqual(['pair AV f job', 'pair AV f one']);
    const changed: Job = { ...ruled, pairs: [{ ...rule, milliem: -30 }, ...ruled.pairs.slice(1)] };
    expect(says(changed, ruled)).toEqual(['Every AV: −20 → −30']);
    expect(revertChanges(ruled, changed, ['pair AV f job']).pairs).toEqual([ruled.pairs[1]!, rule]);
    expect(says(before, ruled)).toEqual(['Every AV: −20 → none', 'Every AV: +5 → none']);
    expect(revertChanges(ruled, before, ['pair AV f one']).pairs).toEqual([ruled.pairs[1]!]);
    expect(revertChanges(before, ruled, ['pair AV f one']).pairs).toEqual([rule]);
    expect(says(ruled, ruled)).toEqual([]);
  });

  it('tells of sheets and blocks that came, went, or moved, and puts them back where they were', () => {
    const more = addSheet(before, createSheet('three', 'Third', 10, 10, 'pt'), 'one');
    expect(compareJobs(before, more).map(({ id, what, from, to, says: said, sheet: name }) => [id, what, from, to, said, name])).toEqual([
      ['added three', 'sheet', 'none', 'Third', 'Sheet added: “Third”', 'Third'],
    ]);
    expect(revertChanges(before, more, ['added three'])).toEqual(before);
    const fewer = removeSheet(before, 'one');
    const [gone] = compareJobs(before, fewer);
    expect([gone?.id, gone?.what, gone?.from, gone?.to, gone?.says]).toEqual(['gone one', 'sheet', 'First', 'none', 'Sheet deleted: “First”']);
    expect(revertChanges(before, fewer, ['gone one'])).toEqual(before);
    // A block of it that stands elsewhere by now stays there.
    const rescued: Job = { ...fewer, sheets: fewer.sheets.map((one) => ({ ...one, blocks: [...one.blocks, findBlock(before, 'b')!] })) };
    const back = revertChanges(before, rescued, ['gone one']);
    expect(back.sheets.map(({ id, blocks }) => [id, blocks.map((block) => block.id)])).toEqual([
      ['one', ['a']],
      ['two', ['c', 'b']],
    ]);
    const off = removeBlock(before, 'a');
    const [taken] = compareJobs(before, off);
    expect([taken?.id, taken?.what, taken?.from, taken?.to, taken?.says, taken?.blockId]).toEqual([
      'gone a',
      'block',
      'AVATAR nights',
      'none',
      'Block deleted: “AVATAR nights”',
      undefined,
    ]);
    expect(revertChanges(before, off, ['gone a'])).toEqual(before);
    expect(compareJobs(off, before).map(({ id, from, to, says: said }) => [id, from, to, said])).toEqual([
      ['added a', 'none', 'AVATAR nights', 'Block added: “AVATAR nights”'],
    ]);
    const moved: Job = {
      ...off,
      sheets: off.sheets.map((one) => (one.id === 'two' ? { ...one, blocks: [...one.blocks, findBlock(before, 'a')!] } : one)),
    };
    const [change] = compareJobs(before, moved);
    expect([change?.id, change?.sheet, change?.what, change?.from, change?.to, change?.says]).toEqual([
      'moved a',
      'Second',
      'sheet',
      'First',
      'Second',
      'Sheet: First → Second',
    ]);
    expect(compareJobs(before, moved).length).toBe(1);
    expect(revertChanges(before, moved, ['moved a'])).toEqual(before);
  });

  it('tells of another order, and keeps the places of what is new when it is given back', () => {
    const swapped: Job = { ...before, sheets: [...before.sheets].reverse() };
    expect(compareJobs(before, swapped).map(({ id, what, from, to, says: said }) => [id, what, from, to, said])).toEqual([
      ['sheets', 'order of sheets', '', '', 'Order of sheets changed'],
    ]);
    expect(revertChanges(before, swapped, ['sheets'])).toEqual(before);
    const blocks = findBlock(before, 'n') ? [] : [createBlock('n', 'New', frame), ...[...before.sheets[0]!.blocks].reverse()];
    const mixed = sheet({ blocks });
    const order = compareJobs(before, mixed).find(({ what }) => what === 'order of blocks');
    expect([order?.id, order?.sheet, order?.from, order?.to, order?.says]).toEqual(['one order', 'First', '', '', 'Order of blocks changed']);
    expect(revertChanges(before, mixed, ['one order']).sheets[0]?.blocks.map(({ id }) => id)).toEqual(['n', 'a', 'b']);
  });

  it('quotes the words around an edit, and counts the others', () => {
    const typed = (...edits: { start: number; end: number; insert: string }[]) => says(editWords(before, 'c', edits));
    expect(typed({ start: 4, end: 7, insert: '' })).toEqual(['Words: “and” → none']);
    expect(typed({ start: 0, end: 3, insert: 'Soup' }, { start: 8, end: 13, insert: 'bread' })).toEqual(['Words: “Tea” → “Soup” and 1 more']);
    expect(typed({ start: 5, end: 6, insert: 'r' })).toEqual(['Words: “and” → “ard”']);
    expect(typed({ start: 3, end: 4, insert: '\u202f' })).toEqual(['Kept together: “Tea and”']);
    const [change] = compareJobs(before, editWords(before, 'c', [{ start: 8, end: 13, insert: 'milk' }]));
    expect(change).toEqual({
      id: 'c words',
      sheetId: 'two',
      sheet: 'Second',
      blockId: 'c',
      words: 'Tea and milk',
      at: 8,
      what: 'words',
      from: '“cocoa”',
      to: '“milk”',
      says: 'Words: “cocoa” → “milk”',
    });
    const divided = editWords(before, 'c', [{ start: 10, end: 10, insert: '\u00ad' }]);
    expect(says(before, divided)).toEqual(['Released: “cocoa”']);
  });

  it('tells what letters and gaps had and have, at their places', () => {
    const red = restyle(before, 'a', { colour: '#ff0000' }, { start: 1, end: 3 });
    const [letters] = compareJobs(before, red);
    expect([letters?.id, letters?.at, letters?.what, letters?.from, letters?.to]).toEqual(['a letters colour', 1, 'colour of “VA”', '#1f2528', '#ff0000']);
    expect(says(before, red)).toEqual(['Colour of “VA”: #ff0000 → #1f2528']);
    expect(says(restyle(red, 'a', { colour: '#00ff00' }, { start: 1, end: 3 }), red)).toEqual(['Colour of “VA”: #ff0000 → #00ff00']);
    expect(says(restyle(red, 'a', { colour: '#ff0000' }, { start: 7, end: 9 }), red)).toEqual(['Colour of “ni”: #1f2528 → #ff0000']);
    expect(revertChanges(before, red, ['a letters colour'])).toEqual(before);
    const gaps = withHand(withHand(withHand(before, 'a', 9, 7), 'a', 1, -20), 'a', 4, 12.5);
    expect(says(gaps)).toEqual(['Kerning of “AV”: none → −20', 'Kerning of “TA”: none → +12.5', 'Kerning of “ig”: none → +7']);
    expect(compareJobs(before, gaps).map(({ id, at, what, from, to }) => [id, at, what, from, to])).toEqual([
      ['a hand 1', 1, 'AV', 'none', '−20'],
      ['a hand 4', 4, 'TA', 'none', '+12.5'],
      ['a hand 9', 9, 'ig', 'none', '+7'],
    ]);
    expect(findBlock(revertChanges(before, gaps, ['a hand 4']), 'a')?.hand.map(({ at }) => at)).toEqual([1, 9]);
    expect(findBlock(revertChanges(gaps, before, ['a hand 9', 'a hand 1']), 'a')?.hand).toEqual([
      { at: 1, milliem: -20 },
      { at: 9, milliem: 7 },
    ]);
    expect(says(edit({ hand: [{ at: 12, milliem: 0 }] }))).toEqual(['Kerning of “ts”: none → 0']);
    const broken = editWords(before, 'c', [{ start: 3, end: 4, insert: '\n' }]);
    expect(says(withHand(broken, 'c', 3, 5), broken)).toEqual(['Kerning of “a ”: none → +5']);
  });

  it('adds the line where a block has several', () => {
    const changes = compareJobs(before, withHand(withHand(before, 'a', 1, -20), 'a', 9, 7));
    const lines = [
      { start: 0, end: 7 },
      { start: 7, end: 13 },
    ];
    expect(onLines(changes, () => lines).map(({ says: said, line }) => [said, line])).toEqual([
      ['Kerning of “AV”: none → −20, line 1', 1],
      ['Kerning of “ig”: none → +7, line 2', 2],
    ]);
    const plain = changes.map(({ says: said }) => said);
    expect(onLines(changes, () => lines.slice(0, 1)).map(({ says: said }) => said)).toEqual(plain);
    expect(onLines(changes, () => undefined)).toEqual(changes);
    expect(
      onLines(changes, () => [
        { start: 0, end: 2 },
        { start: 2, end: 9 },
      ]).map(({ line }) => line),
    ).toEqual([1, undefined]);
    expect(onLines(compareJobs(before, edit({ locked: true })), () => lines).map(({ line }) => line)).toEqual([undefined]);
    expect(onLines(compareJobs(before, retitle(before, 'x')), () => lines).map(({ line }) => line)).toEqual([undefined]);
    expect(onLines(compareJobs(before, restyle(before, 'a', { colour: '#ff0000' }, { start: 7, end: 9 })), () => lines)[0]?.line).toBe(2);
  });

  it('shortens words to one line', () => {
    expect(inShort(' two\nlines ')).toBe('two lines');
    expect(inShort('a'.repeat(40))).toBe('a'.repeat(40));
    expect(inShort('a'.repeat(41))).toBe(`${'a'.repeat(39)}…`);
    expect(inShort('one two three', 9)).toBe('one two…');
    expect(inShort('one two three', 8)).toBe('one two…');
  });

  it('is said to people who don’t see the sheet, the nearest thing first', () => {
    const face = (id: string): string => id;
    expect(sayChange(before, { ...before, language: 'de' })).toBe('Language of the job: de.');
    expect(sayChange({ ...before, language: 'de' }, before)).toBe('Language of the job: none.');
    expect(sayChange(before, removeSheet(before, 'two'))).toBe('1 sheet.');
    expect(sayChange(removeSheet(before, 'two'), before)).toBe('2 sheets.');
    const rule = { left: 'A', right: 'V', faceId: 'f', milliem: -20, scope: { kind: 'job' } } as const;
    expect(sayChange(before, { ...before, pairs: [rule] })).toBe('1 rule for pairs.');
    expect(sayChange(before, { ...before, pairs: [rule, { ...rule, left: 'T' }] })).toBe('2 rules for pairs.');
    expect(sayChange(before, sheet({ blocks: [...before.sheets[0]!.blocks].reverse() }))).toBe('Order of blocks changed.');
    const both = restyle(restyle(before, 'a', { trackingMilliem: 5 }), 'b', { trackingMilliem: 5 });
    expect(sayChange(before, both)).toBe('2 blocks: Tracking +5.');
    const red = restyle(before, 'a', { colour: '#ff0000' }, { start: 1, end: 3 });
    expect(sayChange(red, before)).toBe('Colour of some letters as in the block.');
    // What stands at places moves with the words that are typed; those are read as they are typed.
    const led = edit({ lineLeading: [{ at: 7, byPt: 2 }], hand: [{ at: 9, milliem: 4 }] });
    expect(sayChange(led, editWords(led, 'a', [{ start: 0, end: 0, insert: 'x' }]))).toBe('');
    expect(sayChange(before, edit({ lineLeading: [{ at: 7, byPt: 2 }] }))).toBe('Leading of single lines 1 line.');
    expect(sayChange(before, edit({ align: 'right', locked: true }))).toBe('Align right, lock on.');
    expect(nameStep(before, withHand(before, 'a', 1, -20), face)).toBe('kerning of “AV” −20');
    expect(nameStep(withHand(before, 'a', 1, -20), before, face)).toBe('kerning of “AV” reset');
    expect(nameStep(before, retitle(before, 'Night'), face)).toBe('title: Night');
    expect(nameStep(before, sheet({ blocks: [...before.sheets[0]!.blocks].reverse() }))).toBe('order of blocks changed');
    expect(nameStep(before, editWords(before, 'c', [{ start: 0, end: 3, insert: 'A very long line of words' }]))).toBe('typing “A very long line of…”');
    expect(nameStep(before, editWords(before, 'c', [{ start: 3, end: 7, insert: '' }]))).toBe('deleting “and”');
  });
});
