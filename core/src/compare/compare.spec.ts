import assert from 'node:assert/strict';
import fc from 'fast-check';
import {
  type Job,
  addBlock,
  addSheet,
  allBlocks,
  blockSchema,
  changeFace,
  createBlock,
  createJob,
  createSheet,
  findBlock,
  moveSheet,
  newFit,
  orderBlock,
  relead,
  removeBlock,
  restyle,
  sheetSchema,
  updateBlock,
  withBlockSettings,
  withHand,
  withSheet,
} from '../job';
import { editWords } from '../wording';
import { BLOCK_ASPECTS, SHEET_ASPECTS, compareJobs, revertChanges } from '.';

const frame = { xPt: 10, yPt: 10, widthPt: 300, heightPt: 100 };

/** Two sheets: `a` and `b` on the first, `c` on the second. */
function sample(): Job {
  let n = 0;
  const job = createJob('Open day', () => `id${n++}`);
  const blocks = [createBlock('a', 'AVATAR nights', frame), createBlock('b', 'on the hill', frame)];
  return {
    ...job,
    sheets: [
      { ...createSheet('one', 'First', 600, 800, 'mm'), blocks },
      { ...createSheet('two', 'Second', 600, 800, 'mm'), blocks: [createBlock('c', 'Tea and cocoa', frame)] },
    ],
  };
}

describe('two states of a job', () => {
  const before = sample();
  const says = (after: Job, from = before): string[] => compareJobs(from, after, { names: (id) => `Face ${id}` }).map((change) => change.says);

  it('are told apart in the words of the trade, each thing with its place', () => {
    expect(says(before)).toEqual([]);
    expect(says(restyle(before, 'a', { trackingMilliem: -12 }))).toEqual(['Tracking: 0 → −12']);
    expect(says(relead(relead(before, 'a', { kind: 'pt', pt: 65 }), 'b', { kind: 'pt', pt: 72 }))).toEqual([
      'Leading: auto, 57.6 pt → 65 pt',
      'Leading: auto, 57.6 pt → 72 pt',
    ]);
    expect(says(withHand(before, 'a', 1, -20))).toEqual(['Kerning of “AV”: none → −20']);
    expect(says(withHand(before, 'a', 1, 30), withHand(before, 'a', 1, -20))).toEqual(['Kerning of “AV”: −20 → +30']);
    expect(says(before, withHand(before, 'a', 6, -20))).toEqual(['Kerning of “R ”: −20 → none']);
    expect(says(restyle(before, 'a', { colour: '#ff0000' }, { start: 1, end: 3 }))).toEqual(['Colour of “VA”: #1f2528 → #ff0000']);
    expect(says(changeFace(before, 'b', 'lora'))[0]).toBe('Face: Face source-sans-3-regular → Face lora');
    expect(says(withBlockSettings(before, 'a', { fit: newFit(), align: 'centre' }))).toEqual(['Align: left → centre', 'Fit: not fitted → to the frame']);
    expect(says(editWords(before, 'c', [{ start: 0, end: 3, insert: 'Soup' }]))).toEqual(['Words: “Tea” → “Soup”']);
    expect(says(editWords(before, 'c', [{ start: 3, end: 4, insert: '\u00a0' }]))).toEqual(['Kept together: “Tea and”']);
    expect(says(before, editWords(before, 'c', [{ start: 3, end: 4, insert: '\u00a0' }]))).toEqual(['Released: “Tea and”']);
    expect(says(editWords(before, 'c', [{ start: 10, end: 10, insert: '\u00ad' }]))).toEqual(['Hyphenation added: “cocoa”']);
    expect(says(removeBlock(addBlock(before, 'two', createBlock('d', 'New', frame)), 'b'))).toEqual(['Block deleted: “on the hill”', 'Block added: “New”']);
    expect(says(withSheet(before, 'two', { widthPt: 72, name: 'Last' })).length).toBe(2);
    expect(says(orderBlock(moveSheet(before, 0, 1), 'a', 'front'))).toEqual(['Order of sheets changed', 'Order of blocks changed']);
    const [hand] = compareJobs(before, withHand(before, 'a', 1, -20));
    expect([hand?.sheet, hand?.blockId, hand?.words, hand?.at, hand?.from, hand?.to]).toEqual(['First', 'a', 'AVATAR nights', 1, 'none', '−20']);
  });

  it('see kerning and styles where their letters are now', () => {
    const kerned = restyle(withHand(before, 'a', 9, -20), 'a', { underline: true }, { start: 7, end: 13 });
    const edited = editWords(kerned, 'a', [{ start: 0, end: 0, insert: 'THE ' }]);
    expect(says(edited, kerned)).toEqual(['Words: “AVATAR” → “THE AVATAR”']);
    expect(says(withHand(edited, 'a', 13, 0), kerned)).toEqual(['Words: “AVATAR” → “THE AVATAR”', 'Kerning of “ig”: −20 → none']);
  });

  it('give back one thing and leave the others', () => {
    const after = withHand(restyle(relead(before, 'a', { kind: 'pt', pt: 65 }), 'a', { trackingMilliem: 50 }), 'a', 1, -20);
    const tracking = compareJobs(before, after).find(({ what }) => what === 'tracking');
    const back = revertChanges(before, after, [tracking?.id ?? '', 'no such thing']);
    expect(says(back)).toEqual(
      ['Leading: auto, 57.6 pt → 65 pt'].concat('Kerning of “AV”: none → −20').sort((a, b) => says(after).indexOf(a) - says(after).indexOf(b)),
    );
    expect(revertChanges(before, after, [])).toBe(after);
  });

  it('give words back with the work that stood at them, and what was done since stays', () => {
    const worked = restyle(withHand(withHand(before, 'a', 1, -20), 'a', 9, 7), 'a', { colour: '#ff0000' }, { start: 0, end: 6 });
    const cut = withHand(editWords(worked, 'a', [{ start: 0, end: 7, insert: '' }]), 'a', 1, 11);
    const words = compareJobs(worked, cut).find(({ what }) => what === 'words');
    const back = findBlock(revertChanges(worked, cut, [words?.id ?? '']), 'a');
    expect(back?.words).toBe('AVATAR nights');
    expect(back?.hand).toEqual([
      { at: 1, milliem: -20 },
      { at: 8, milliem: 11 },
      { at: 9, milliem: 7 },
    ]);
    expect(back?.runs).toEqual([{ start: 0, end: 6, style: { colour: '#ff0000' } }]);
  });

  it('give back the gap that letters were set into, and the value of a block with the letters that said the same', () => {
    const kerned = withHand(before, 'c', 3, 5);
    const edited = editWords(editWords(kerned, 'c', [{ start: 3, end: 3, insert: 'VA' }]), 'c', [{ start: 0, end: 1, insert: '' }]);
    const words = compareJobs(kerned, edited).find(({ what }) => what === 'words');
    expect(findBlock(revertChanges(kerned, edited, [words?.id ?? '']), 'c')?.hand).toEqual([{ at: 3, milliem: 5 }]);

    const tracked = restyle(restyle(before, 'c', { trackingMilliem: 49 }, { start: 7, end: 13 }), 'c', { trackingMilliem: 49 });
    const [tracking] = compareJobs(before, tracked);
    expect(says(revertChanges(before, tracked, [tracking?.id ?? '']))).toEqual([]);
    // And letters that departed from the block before do so again.
    const apart = restyle(before, 'c', { trackingMilliem: 49 }, { start: 7, end: 13 });
    const own = restyle(tracked, 'c', { trackingMilliem: 10 }, { start: 0, end: 3 });
    const block = compareJobs(apart, own).find(({ what }) => what === 'tracking');
    expect(says(revertChanges(apart, own, [block?.id ?? '']), apart)).toEqual(['Tracking of “Tea”: 0 → +10']);
  });

  it('leave nothing of a block or a sheet untold', () => {
    const told = new Set<string>(['id', 'words', 'style', 'runs', 'hand', 'parked', ...BLOCK_ASPECTS.flatMap(({ keys }) => keys)]);
    expect(Object.keys(blockSchema.shape).filter((key) => !told.has(key))).toEqual([]);
    // What a sheet is matched with is no part of it that is handed over.
    const ofSheet = new Set<string>(['id', 'blocks', 'reference', ...SHEET_ASPECTS.flatMap(({ keys }) => keys)]);
    expect(Object.keys(sheetSchema.shape).filter((key) => !ofSheet.has(key))).toEqual([]);
  });

  it('are the same again once everything is given back, whatever was done', () => {
    const id = fc.constantFrom('a', 'b', 'c');
    const at = fc.nat(12);
    const edit = fc.oneof(
      fc.record({ kind: fc.constant('hand' as const), id, at, value: fc.integer({ min: -90, max: 90 }) }),
      fc.record({ kind: fc.constant('track' as const), id, at, value: fc.integer({ min: -50, max: 90 }) }),
      fc.record({ kind: fc.constant('colour' as const), id, at, value: fc.integer({ min: 0, max: 2 }) }),
      fc.record({ kind: fc.constant('words' as const), id, at, value: fc.integer({ min: 0, max: 4 }) }),
      fc.record({ kind: fc.constant('face' as const), id, at, value: fc.integer({ min: 0, max: 1 }) }),
      fc.record({ kind: fc.constant('settings' as const), id, at, value: fc.integer({ min: 1, max: 40 }) }),
      fc.record({ kind: fc.constant('order' as const), id, at, value: fc.nat(1) }),
      fc.record({ kind: fc.constant('remove' as const), id, at, value: fc.nat(1) }),
      fc.record({ kind: fc.constant('add' as const), id, at, value: fc.nat(1000) }),
    );
    const carryOut = (job: Job, { kind, id: blockId, at: place, value }: { kind: string; id: string; at: number; value: number }): Job => {
      const block = findBlock(job, blockId);
      if (kind === 'add') {
        const fresh = `n${value}`;
        return findBlock(job, fresh)
          ? job
          : addSheet(addBlock(job, 'one', createBlock(fresh, 'New', frame)), createSheet(`s${job.sheets.length} ${value}`, 'New', 1, 1, 'pt'));
      }
      if (!block) return job;
      const { length } = block.words;
      const range = { start: Math.min(place, length - 1), end: Math.min(length, place + 1 + value) };
      switch (kind) {
        case 'hand':
          return withHand(job, blockId, Math.min(place + 1, length - 1), value);
        case 'track':
          return range.start < 0 ? job : restyle(job, blockId, { trackingMilliem: value }, place % 2 ? range : undefined);
        case 'colour':
          return range.start < 0 ? job : restyle(job, blockId, { colour: ['#ff0000', '#00ff00', '#1f2528'][value] ?? '' }, range);
        case 'words':
          return editWords(job, blockId, [{ start: Math.min(place, length), end: Math.min(length, place + value), insert: place % 3 ? 'VA' : '' }]);
        case 'face':
          return changeFace(job, blockId, ['lora', 'source-sans-3-regular'][value] ?? '');
        case 'settings':
          return updateBlock(job, blockId, (one) => ({
            ...one,
            frame: { ...one.frame, xPt: value },
            lineLeading: [{ at: 3, byPt: value }],
            rotationDeg: value,
          }));
        case 'order':
          return orderBlock(moveSheet(job, 0, value), blockId, 'front');
        default:
          return removeBlock(job, blockId);
      }
    };
    const kerned = restyle(withHand(withHand(before, 'a', 1, -20), 'c', 3, 5), 'a', { trackingMilliem: 30 }, { start: 2, end: 5 });
    expect(() => {
      fc.assert(
        fc.property(fc.array(edit, { maxLength: 12 }), (edits) => {
          const after = edits.reduce(carryOut, kerned);
          const changes = compareJobs(kerned, after);
          const ids = changes.map((change) => change.id);
          assert.equal(new Set(ids).size, ids.length);
          const back = revertChanges(kerned, after, ids);
          assert.deepEqual(says(back, kerned), []);
          const plain = (job: Job) => allBlocks(job).map(({ parked: _, ...block }) => block);
          assert.deepEqual(plain(back), plain(kerned));
          // One at a time in any order comes to the same.
          let left = after;
          for (let turn = 0; says(left, kerned).length > 0; turn++) {
            assert.ok(turn < 100, `still differs: ${says(left, kerned).join('; ')}`);
            const open = compareJobs(kerned, left);
            left = revertChanges(kerned, left, [open[(turn * 7919) % open.length]?.id ?? '']);
          }
        }),
        { numRuns: 400 },
      );
    }).not.toThrow();
  });
});
