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
import { compareJobs, giveBack, inShort, nameStep, onLines, sayChange } from '.';

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
    [edit({ leading: { kind: 'multiple', factor: 1.15 } }), 'leading auto to 115%'],
    [edit({ lineLeading: [{ at: 3, byPt: 2 }] }), 'leading of single lines none to 1 line'],
    [edit({ lineLeading: [{ at: 3, byPt: 2 }, { at: 5, byPt: 1 }] }), 'leading of single lines none to 2 lines'], // prettier-ignore
    [edit({ language: 'de' }), 'language of the job to de'],
    [edit({ align: 'right' }), 'aligned left to right'],
    [edit({ rotationDeg: -7.25 }), 'rotated 0 degrees to −7.3 degrees'],
    [edit({ path: newPath('arc', frame, 100) }), 'words straight lines to on an arc, rise 46.1 pt'],
    [edit({ ends: { of: 'words', which: 'both', ratio: 1.25, align: 'foot' } }), 'end letters as the others to first and last of words 125 %'],
    [edit({ ends: { of: 'lines', which: 'first', ratio: 2, align: 'foot' } }), 'end letters as the others to first of lines 200 %'],
    [fit({ kind: 'frame' }), 'fitted to nothing to to the frame'],
    [fit({ kind: 'margins' }), 'fitted to nothing to to the margins'],
    [fit({ kind: 'pt', pt: 144 }), 'fitted to nothing to to 2 in'],
    [fit({ kind: 'between', leftPt: 72, rightPt: 216 }), 'fitted to nothing to from 1 in to 3 in'],
    [fit({ kind: 'block', id: 'b', line: null }), 'fitted to nothing to to another block'],
    [fit({ kind: 'block', id: 'b', line: 1 }), 'fitted to nothing to to line 2 of another block'],
    [fit(null), 'fitted to nothing to to a height'],
    [edit({ breaking: { way: 'total', shape: 'even' } }), 'lines broken as full as they go to for even spaces'],
    [edit({ breaking: { way: 'even', shape: 'even' } }), 'lines broken as full as they go to evenly'],
    [edit({ breaking: { way: 'even', shape: 'widening' } }), 'lines broken as full as they go to evenly, widening'],
    [edit({ breaking: { way: 'total', shape: 'widening' } }), 'lines broken as full as they go to for even spaces'],
    [edit({ justify: { ...PLAIN_JUSTIFY, lettersMilliem: 15, width: 0.02, last: 'full' } }), 'justified lines letters give 0, width 0 %, last line natural to letters give 15, width 2 %, last line full'], // prettier-ignore
    [edit({ edges: { ...USUAL_EDGES, optical: 0.5 } }), 'edges by side bearings to by eye, 50 %'],
    [edit({ lineIndents: [{ at: 0, byPt: 36 }, { at: 7, byPt: -72 }] }), 'indents of single lines none to 0.5 in, −1 in'], // prettier-ignore
    [edit({ tightened: [{ start: 0, end: 6, milliem: -12 }, { start: 7, end: 9, milliem: -3.5 }] }), 'tightened nowhere to −12, −3.5'], // prettier-ignore
    [edit({ locked: true }), 'block not locked to locked'],
    [edit({ frame: { ...frame, xPt: 144 } }), 'frame 4 in wide, at 1 in, 0.5 in to 4 in wide, at 2 in, 0.5 in'],
    [edit({ frame: { ...frame, heightPt: 101 } }), 'frame changed'],
    [edit({ grow: 'fixed' }), 'frame grows downwards to not'],
    [edit({ grow: 'both' }), 'frame grows downwards to both ways'],
    [edit({ vertical: 'middle' }), 'words stand at the top to in the middle'],
    [edit({ vertical: 'bottom' }), 'words stand at the top to at the bottom'],
    [edit({ trim: true }), 'frame trimmed to capitals off to on'],
    [edit({ paragraph: { indentPt: 18, beforePt: 36, afterPt: 72, list: 'number' } }), 'paragraphs indent 0 in, space 0 in before, 0 in after, list none to indent 0.3 in, space 0.5 in before, 1 in after, list number'], // prettier-ignore
    [edit({ recipeId: 'r' }), 'recipe none to followed'],
    [edit({ part: 'p' }), 'words of its own to the same on other sheets'],
    [edit({ intended: [{ at: 3, rule: 'gap-open' }] }), 'as intended: silenced'],
    [restyle(before, 'a', { faceId: 'lora' }), 'face Face source-sans-3-regular to Face lora'],
    [restyle(before, 'a', { underline: true, gradient: { to: '#112233', angleDeg: 90 } }), 'gradient off to on', 'underline off to on'],
    [withKind(retitle(before, 'Open night'), 'flyer'), 'title Open day to Open night', 'kind of work other to flyer'],
    [{ ...before, language: 'fr' }, 'language of the job none to fr'],
  ];
  const OF_SHEETS: readonly (readonly [after: Job, ...says: string[]])[] = [
    [sheet({ name: 'Front' }), 'sheet called First to Front'],
    [sheet({ widthPt: 792 }), 'sheet 10 in by 20 in to 11 in by 20 in'],
    [sheet({ margins: { topPt: 36, rightPt: 72, bottomPt: 108, leftPt: 144 } }), 'margins 0.5 in, 1 in, 1.5 in, 2 in'],
    [sheet({ background: { kind: 'gradient', from: '#111111', to: '#222222', angleDeg: 0 } }), 'background #111111 to #222222'],
    [sheet({ background: { kind: 'picture', pictureId: 'p', fit: 'cover', colour: '#000000' } }), 'background a picture'],
    [sheet({ background: { kind: 'colour', colour: '#0a0b0c' } }), 'background #0a0b0c'],
    [sheet({ guides: [{ axis: 'x', atPt: 1 }] }), 'guides none to 1 guide'],
    [sheet({ safeShare: 0.05 }), 'title-safe area off to 5 % kept free'],
    [sheet({ centreLines: !sample().sheets[0]!.centreLines }), 'centre lines'],
  ];

  it('names each thing of a block as people do, with what it was and is, and gives it back', () => {
    for (const [after, ...expected] of OF_BLOCKS) {
      expect(says(after)).toEqual(expected);
      const changes = compareJobs(before, after);
      for (const change of changes) if (change.blockId !== undefined) expect(change).toEqual(jasmine.objectContaining({ sheetId: 'one', sheet: 'First', blockId: 'a', words: 'AVATAR nights' })); // prettier-ignore
      expect(giveBack(before, after, changes.map(({ id }) => id))).withContext(expected.join()).toEqual(before); // prettier-ignore
    }
  });

  it('says when findings speak again', () => {
    const silenced = edit({ intended: [{ at: 3, rule: 'gap-open' }, { at: 5, rule: 'gap-open' }] }); // prettier-ignore
    expect(says(before, silenced)).toEqual(['speaks again']);
    expect(says(edit({ intended: [{ at: 4, rule: 'gap-open' }, { at: 5, rule: 'gap-open' }] }), silenced)).toEqual(['speaks again']); // prettier-ignore
  });

  it('names each thing of a sheet, and gives it back', () => {
    for (const [after, expected = ''] of OF_SHEETS) {
      const [change, ...more] = compareJobs(before, after);
      expect(more).withContext(expected).toEqual([]);
      expect(change?.says).toMatch(new RegExp(`^${expected.split(' ')[0]!}`));
      expect(change?.says.endsWith(expected.slice(expected.indexOf(' ') + 1)))
        .withContext(`${change?.says}`)
        .toBe(!expected.startsWith('centre'));
      expect(change?.sheetId).toBe('one');
      expect(giveBack(before, after, [change?.id ?? ''])).withContext(expected).toEqual(before); // prettier-ignore
    }
    const lines = sheet({ centreLines: true });
    expect(says(lines, sheet({ centreLines: false }))).toEqual(['centre lines off to on']);
  });

  it('tells of rules for pairs, wherever they hold', () => {
    const rule = { left: 'A', right: 'V', faceId: 'f', milliem: -20, scope: { kind: 'job' } } as const;
    const ruled: Job = { ...before, pairs: [rule, { ...rule, scope: { kind: 'sheet', id: 'one' }, milliem: 5 }] };
    expect(says(ruled)).toEqual(['every AV none to −20', 'every AV none to +5']);
    expect(compareJobs(before, ruled).map(({ id }) => id)).toEqual(['pair AV f job', 'pair AV f one']);
    const changed: Job = { ...ruled, pairs: [{ ...rule, milliem: -30 }, ...ruled.pairs.slice(1)] };
    expect(says(changed, ruled)).toEqual(['every AV −20 to −30']);
    expect(giveBack(ruled, changed, ['pair AV f job']).pairs).toEqual([ruled.pairs[1]!, rule]);
    expect(says(before, ruled)).toEqual(['every AV −20 to none', 'every AV +5 to none']);
    expect(giveBack(ruled, before, ['pair AV f one']).pairs).toEqual([ruled.pairs[1]!]);
    expect(giveBack(before, ruled, ['pair AV f one']).pairs).toEqual([rule]);
    expect(says(ruled, ruled)).toEqual([]);
  });

  it('tells of sheets and blocks that came, went, or moved, and puts them back where they were', () => {
    const more = addSheet(before, createSheet('three', 'Third', 10, 10, 'pt'), 'one');
    expect(compareJobs(before, more).map(({ id, what, from, to, says: said, sheet: name }) => [id, what, from, to, said, name])).toEqual([
      ['added three', 'sheet', 'none', 'Third', 'sheet “Third” added', 'Third'],
    ]);
    expect(giveBack(before, more, ['added three'])).toEqual(before);
    const fewer = removeSheet(before, 'one');
    const [gone] = compareJobs(before, fewer);
    expect([gone?.id, gone?.what, gone?.from, gone?.to, gone?.says]).toEqual(['gone one', 'sheet', 'First', 'none', 'sheet “First” taken out']);
    expect(giveBack(before, fewer, ['gone one'])).toEqual(before);
    // A block of it that stands elsewhere by now stays there.
    const rescued: Job = { ...fewer, sheets: fewer.sheets.map((one) => ({ ...one, blocks: [...one.blocks, findBlock(before, 'b')!] })) };
    const back = giveBack(before, rescued, ['gone one']);
    expect(back.sheets.map(({ id, blocks }) => [id, blocks.map((block) => block.id)])).toEqual([
      ['one', ['a']],
      ['two', ['c', 'b']],
    ]);
    const off = removeBlock(before, 'a');
    const [taken] = compareJobs(before, off);
    expect([taken?.id, taken?.what, taken?.from, taken?.to, taken?.says, taken?.blockId]).toEqual(['gone a', 'block', 'AVATAR nights', 'none', '“AVATAR nights” taken off', undefined]); // prettier-ignore
    expect(giveBack(before, off, ['gone a'])).toEqual(before);
    expect(compareJobs(off, before).map(({ id, from, to, says: said }) => [id, from, to, said])).toEqual([['added a', 'none', 'AVATAR nights', '“AVATAR nights” added']]); // prettier-ignore
    const moved: Job = {
      ...off,
      sheets: off.sheets.map((one) => (one.id === 'two' ? { ...one, blocks: [...one.blocks, findBlock(before, 'a')!] } : one)),
    };
    const [change] = compareJobs(before, moved);
    expect([change?.id, change?.sheet, change?.what, change?.from, change?.to, change?.says]).toEqual(['moved a', 'Second', 'sheet', 'First', 'Second', 'sheet First to Second']); // prettier-ignore
    expect(compareJobs(before, moved).length).toBe(1);
    expect(giveBack(before, moved, ['moved a'])).toEqual(before);
  });

  it('tells of another order, and keeps the places of what is new when it is given back', () => {
    const swapped: Job = { ...before, sheets: [...before.sheets].reverse() };
    expect(compareJobs(before, swapped).map(({ id, what, from, to, says: said }) => [id, what, from, to, said])).toEqual([['sheets', 'order of sheets', '', '', 'another order of sheets']]); // prettier-ignore
    expect(giveBack(before, swapped, ['sheets'])).toEqual(before);
    const blocks = findBlock(before, 'n') ? [] : [createBlock('n', 'New', frame), ...[...before.sheets[0]!.blocks].reverse()];
    const mixed = sheet({ blocks });
    const order = compareJobs(before, mixed).find(({ what }) => what === 'order of blocks');
    expect([order?.id, order?.sheet, order?.from, order?.to, order?.says]).toEqual(['one order', 'First', '', '', 'another order of blocks']);
    expect(giveBack(before, mixed, ['one order']).sheets[0]?.blocks.map(({ id }) => id)).toEqual(['n', 'a', 'b']);
  });

  it('quotes the words around an edit, and counts the others', () => {
    const typed = (...edits: { start: number; end: number; insert: string }[]) => says(editWords(before, 'c', edits));
    expect(typed({ start: 4, end: 7, insert: '' })).toEqual(['words “and” to nothing']);
    expect(typed({ start: 0, end: 3, insert: 'Soup' }, { start: 8, end: 13, insert: 'bread' })).toEqual(['words “Tea” to “Soup” and 1 more']);
    expect(typed({ start: 5, end: 6, insert: 'r' })).toEqual(['words “and” to “ard”']);
    expect(typed({ start: 3, end: 4, insert: '\u202f' })).toEqual(['“Tea and” tied']);
    const [change] = compareJobs(before, editWords(before, 'c', [{ start: 8, end: 13, insert: 'milk' }]));
    expect(change).toEqual({ id: 'c words', sheetId: 'two', sheet: 'Second', blockId: 'c', words: 'Tea and milk', at: 8, what: 'words', from: '“cocoa”', to: '“milk”', says: 'words “cocoa” to “milk”' }); // prettier-ignore
    const divided = editWords(before, 'c', [{ start: 10, end: 10, insert: '\u00ad' }]);
    expect(says(before, divided)).toEqual(['“cocoa” let go']);
  });

  it('tells what letters and gaps had and have, at their places', () => {
    const red = restyle(before, 'a', { colour: '#ff0000' }, { start: 1, end: 3 });
    const [letters] = compareJobs(before, red);
    expect([letters?.id, letters?.at, letters?.what, letters?.from, letters?.to]).toEqual(['a letters colour', 1, 'colour of “VA”', 'as the block', '#ff0000']);
    expect(says(before, red)).toEqual(['colour of “VA” #ff0000 to as the block']);
    expect(says(restyle(red, 'a', { colour: '#00ff00' }, { start: 1, end: 3 }), red)).toEqual(['colour of “VA” #ff0000 to #00ff00']);
    expect(says(restyle(red, 'a', { colour: '#ff0000' }, { start: 7, end: 9 }), red)).toEqual(['colour of “ni” as the block to #ff0000']);
    expect(giveBack(before, red, ['a letters colour'])).toEqual(before);
    const gaps = withHand(withHand(withHand(before, 'a', 9, 7), 'a', 1, -20), 'a', 4, 12.5);
    expect(says(gaps)).toEqual(['AV closed by 20', 'TA opened by 12.5', 'ig opened by 7']);
    expect(compareJobs(before, gaps).map(({ id, at, what, from, to }) => [id, at, what, from, to])).toEqual([
      ['a hand 1', 1, 'AV', 'nothing', '−20'],
      ['a hand 4', 4, 'TA', 'nothing', '+12.5'],
      ['a hand 9', 9, 'ig', 'nothing', '+7'],
    ]);
    expect(findBlock(giveBack(before, gaps, ['a hand 4']), 'a')?.hand.map(({ at }) => at)).toEqual([1, 9]);
    expect(findBlock(giveBack(gaps, before, ['a hand 9', 'a hand 1']), 'a')?.hand).toEqual([
      { at: 1, milliem: -20 },
      { at: 9, milliem: 7 },
    ]);
    expect(says(edit({ hand: [{ at: 12, milliem: 0 }] }))).toEqual(['ts stated as 0']);
    const broken = editWords(before, 'c', [{ start: 3, end: 4, insert: '\n' }]);
    expect(says(withHand(broken, 'c', 3, 5), broken)).toEqual(['a  opened by 5']);
  });

  it('adds the line where a block has several', () => {
    const changes = compareJobs(before, withHand(withHand(before, 'a', 1, -20), 'a', 9, 7));
    const lines = [{ start: 0, end: 7 }, { start: 7, end: 13 }]; // prettier-ignore
    expect(onLines(changes, () => lines).map(({ says: said, line }) => [said, line])).toEqual([
      ['AV closed by 20, line 1', 1],
      ['ig opened by 7, line 2', 2],
    ]);
    const plain = changes.map(({ says: said }) => said);
    expect(onLines(changes, () => lines.slice(0, 1)).map(({ says: said }) => said)).toEqual(plain);
    expect(onLines(changes, () => undefined)).toEqual(changes);
    expect(onLines(changes, () => [{ start: 0, end: 2 }, { start: 2, end: 9 }]).map(({ line }) => line)).toEqual([1, undefined]); // prettier-ignore
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
    expect(sayChange(before, sheet({ blocks: [...before.sheets[0]!.blocks].reverse() }))).toBe('Another order of blocks.');
    const both = restyle(restyle(before, 'a', { trackingMilliem: 5 }), 'b', { trackingMilliem: 5 });
    expect(sayChange(before, both)).toBe('2 blocks: Tracking +5.');
    const red = restyle(before, 'a', { colour: '#ff0000' }, { start: 1, end: 3 });
    expect(sayChange(red, before)).toBe('Colour of some letters as the block.');
    // What stands at places moves with the words that are typed; those are read as they are typed.
    const led = edit({ lineLeading: [{ at: 7, byPt: 2 }], hand: [{ at: 9, milliem: 4 }] });
    expect(sayChange(led, editWords(led, 'a', [{ start: 0, end: 0, insert: 'x' }]))).toBe('');
    expect(sayChange(before, edit({ lineLeading: [{ at: 7, byPt: 2 }] }))).toBe('Leading of single lines 1 line.');
    expect(sayChange(before, edit({ align: 'right', locked: true }))).toBe('Aligned right, block locked.');
    expect(nameStep(before, withHand(before, 'a', 1, -20), face)).toBe('kerning of “AV” −20');
    expect(nameStep(withHand(before, 'a', 1, -20), before, face)).toBe('kerning of “AV” reset');
    expect(nameStep(before, retitle(before, 'Night'), face)).toBe('The job is called Night');
    expect(nameStep(before, sheet({ blocks: [...before.sheets[0]!.blocks].reverse() }))).toBe('another order of blocks');
    expect(nameStep(before, editWords(before, 'c', [{ start: 0, end: 3, insert: 'A very long line of words' }]))).toBe('typing “A very long line of…”');
    expect(nameStep(before, editWords(before, 'c', [{ start: 3, end: 7, insert: '' }]))).toBe('deleting “and”');
  });
});
