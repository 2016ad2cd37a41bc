import { type Finding, RULES } from '@jentrix/core/findings';
import { clearHand, moveBlocks, nudgeHand } from '@jentrix/core/job';
import type { BenchStore } from './bench.store';
import { type KeyBinding, type KeyContext, type Pass, key, stepOf } from './pass';

const withControl = (letter: string, shift: boolean) => (event: KeyboardEvent) =>
  (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === letter && event.shiftKey === shift;

/** Without a gap, the arrows first put the caret somewhere. */
function nudge(context: KeyContext, event: KeyboardEvent, direction: 1 | -1): void {
  const { gap } = context.store.view;
  if (!gap) context.store.walk(1);
  else context.store.apply((job) => nudgeHand(job, gap.blockId, gap.at, direction * stepOf(context, event)), context.gesture);
}

/** The rules whose findings N walks: those of the pass, or all where the pass has none. */
function rulesOf({ view }: BenchStore): ReadonlySet<string> {
  const own = RULES.filter(({ pass }) => pass === view.pass);
  return new Set((own.length > 0 ? own : RULES).map(({ id }) => id));
}

/** The most visible finding of the pass at the caret, or of the block where there is no caret. */
function findingAtCaret(store: BenchStore): Finding | undefined {
  const { gap, blockId } = store.view;
  const rules = rulesOf(store);
  return store.findings.findings.find(({ rule, blockId: id, at }) => rules.has(rule) && id === (gap?.blockId ?? blockId) && at === (gap?.at ?? 0));
}

const NUDGES: Readonly<Record<string, readonly [number, number]>> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

const BENCH_KEYS: readonly KeyBinding[] = [
  {
    group: 'Gaps',
    shown: ['←', '→'],
    says: 'Walk the gaps, across lines and blocks',
    matches: key('ArrowLeft', 'ArrowRight'),
    run: ({ store }, event) => store.walk(event.key === 'ArrowLeft' ? -1 : 1),
  },
  {
    group: 'Gaps',
    shown: ['↑', '↓'],
    says: 'Open or close the gap by the fine step; with Shift by the coarse',
    matches: key('ArrowUp', 'ArrowDown'),
    run: (context, event) => nudge(context, event, event.key === 'ArrowUp' ? 1 : -1),
  },
  {
    group: 'Gaps',
    shown: ['Delete'],
    says: 'Clear the hand value',
    matches: key('Delete', 'Backspace'),
    run: ({ store }) => {
      const { gap } = store.view;
      if (gap) store.apply((job) => clearHand(job, gap.blockId, gap.at));
    },
  },
  {
    group: 'Findings',
    shown: ['N'],
    says: 'Go to the next finding, most visible first',
    matches: key('n', 'N'),
    run: ({ store }) => store.nextFinding(rulesOf(store)),
  },
  {
    group: 'Findings',
    shown: ['Enter'],
    says: 'Take what the finding, or the shapes of the gap, propose',
    matches: key('Enter'),
    run: ({ store }) => {
      const finding = findingAtCaret(store);
      if (finding?.proposal) store.accept(finding);
      else store.takeProposal();
    },
  },
  {
    group: 'Findings',
    shown: ['I'],
    says: 'The finding is as intended: silence it',
    matches: key('i', 'I'),
    run: ({ store }) => {
      const finding = findingAtCaret(store);
      if (finding) store.intend(finding, true);
    },
  },
  {
    group: 'Gaps',
    shown: ['Esc'],
    says: 'Back out one level: gap, picked letters, block',
    matches: key('Escape'),
    run: ({ store }) => {
      if (store.view.picking) store.pickColour(undefined);
      else if (store.view.drawing) store.draw(undefined);
      else if (store.view.gap) store.placeGap(undefined);
      else if (store.range && store.block) store.setSelection(store.block.id, undefined, false);
      else store.selectBlock(undefined);
    },
  },
  {
    group: 'Letter space and lines',
    shown: ['Page ↑', 'Page ↓'],
    says: 'Larger or smaller by 0.1 pt; with Shift by 1 pt',
    matches: key('PageUp', 'PageDown'),
    run: ({ store, gesture }, event) => {
      const { style } = store;
      const by = (event.key === 'PageUp' ? 1 : -1) * (event.shiftKey ? 1 : 0.1);
      if (style) store.applyStyle({ sizePt: Math.min(5000, Math.max(1, Math.round((style.sizePt + by) * 100) / 100)) }, gesture);
    },
  },
  {
    group: 'Blocks',
    shown: ['Alt', '←↑→↓'],
    says: 'Nudge the picked blocks by a point; with Shift by ten',
    matches: (event) => event.altKey && !event.ctrlKey && !event.metaKey && event.key in NUDGES,
    run: ({ store, gesture }, event) => {
      const [x = 0, y = 0] = NUDGES[event.key] ?? [];
      const by = event.shiftKey ? 10 : 1;
      store.apply((job) => moveBlocks(job, store.picked, x * by, y * by), gesture);
    },
  },
  {
    group: 'Blocks',
    shown: ['D'],
    says: 'Draw a new block on the sheet',
    matches: key('d', 'D'),
    run: ({ store }) => store.draw('block'),
  },
  {
    group: 'Letter space and lines',
    shown: ['R'],
    says: 'Draw a rule along the picture, for baselines to meet; with Shift level or upright',
    matches: key('r', 'R'),
    run: ({ store }) => store.draw('rule'),
  },
  {
    group: 'Blocks',
    shown: ['Ctrl', 'D'],
    says: 'Duplicate the picked blocks',
    matches: withControl('d', false),
    run: ({ store }) => store.duplicatePicked(),
  },
  {
    group: 'Blocks',
    shown: ['F2'],
    says: 'Edit the words; two clicks on the sheet do the same',
    matches: key('F2'),
    run: ({ store }) => {
      const { block, view } = store;
      const at = view.gap?.at ?? block?.words.length ?? 0;
      if (block) store.editWords(block.id, { start: at, end: at });
    },
  },
  { group: 'Work', shown: ['Ctrl', 'F'], says: 'Find and replace in the job', matches: withControl('f', false), run: ({ find }) => find() },
  { group: 'Work', shown: ['Ctrl', 'Z'], says: 'Undo', matches: withControl('z', false), run: ({ store }) => store.undo() },
  {
    group: 'Work',
    shown: ['Ctrl', 'Shift', 'Z'],
    says: 'Redo',
    matches: (event) => withControl('z', true)(event) || withControl('y', false)(event),
    run: ({ store }) => store.redo(),
  },
  { group: 'Work', shown: ['B'], says: 'The block fills the table', matches: key('b', 'B'), run: ({ zoom }) => zoom('block') },
  { group: 'Work', shown: ['V'], says: 'The sheet fits the table', matches: key('v', 'V'), run: ({ zoom }) => zoom('sheet') },
  { group: 'Work', shown: ['?'], says: 'These keys', matches: key('?'), run: ({ help }) => help() },
];

/** All keys: those that bring passes up and those that passes add stand between those of the bench. */
export const keysOf = (passes: readonly Pass[]): readonly KeyBinding[] => [
  ...BENCH_KEYS,
  ...passes.flatMap(({ keys }) => keys),
  ...passes.map((pass): KeyBinding => ({
    group: 'Passes',
    shown: [pass.key.toUpperCase()],
    says: `The ${pass.name} pass`,
    matches: key(pass.key, pass.key.toUpperCase()),
    run: ({ store }) => store.showPass(pass.id),
  })),
];

/** The groups of keys in the order people are told them. */
export const KEY_GROUPS: readonly KeyBinding['group'][] = ['Gaps', 'Findings', 'Letter space and lines', 'Passes', 'Blocks', 'Work'];
