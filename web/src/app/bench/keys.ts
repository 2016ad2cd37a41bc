import type { Finding } from '@jentrix/core/findings';
import type { Preferences } from '@jentrix/core/preferences';
import { clearHand, moveBlocks, nudgeHand } from '@jentrix/core/job';
import type { BenchStore } from './bench.store';
import { ProofState } from './deck/proof/proof.state';
import { FirstCutState } from './first-cut/first-cut.state';
import { LetterPicks } from './state/letter-picks';
import { PathStroke } from './state/path-stroke';
import type { KeyLayer } from './key-layer';
import { type KeyBinding, type KeyContext, type KeyReach, PASSES, type Pass, isPlain, keyBinding, stepOf } from './pass';

const withControl = (letter: string, shift: boolean) => (event: KeyboardEvent) =>
  (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === letter && event.shiftKey === shift;

/** The arrow keys of the pass that is up, where they have a use of their own. */
const arrowsOf = ({ store, get }: KeyContext): Pass['arrows'] => get(PASSES).find(({ id }) => id === store.view.pass)?.arrows;

/** Without a gap, the arrows first put the caret somewhere. */
function nudge(context: KeyContext, event: KeyboardEvent, direction: 1 | -1): void {
  const own = arrowsOf(context);
  if (own) {
    own(context, event);
    return;
  }
  const { gap } = context.store.view;
  if (!gap) context.store.walk(1);
  else context.store.apply((job) => nudgeHand(job, gap.blockId, gap.at, direction * stepOf(context, event)), context.gesture);
}

/** The findings that N walks: those of the pass that is up. */
const findingsOf = ({ findings: { findings }, view }: BenchStore): readonly Finding[] => findings.filter(({ pass }) => pass === view.pass);

/** The most visible finding of the pass at the caret, or of the block where there is no caret. */
function findingAtCaret(store: BenchStore): Finding | undefined {
  const { gap, blockId } = store.view;
  return findingsOf(store).find(({ blockId: id, at }) => id === (gap?.blockId ?? blockId) && at === (gap?.at ?? 0));
}

const NUDGES: Readonly<Record<string, readonly [number, number]>> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

const BENCH_KEYS: readonly KeyBinding[] = [
  {
    group: 'Gaps',
    id: 'walk',
    shown: ['←', '→'],
    says: 'Next or previous gap, across lines and blocks',
    matches: keyBinding('ArrowLeft', 'ArrowRight'),
    run: (context, event) => {
      const own = arrowsOf(context);
      if (own) own(context, event);
      else context.store.walk(event.key === 'ArrowLeft' ? -1 : 1);
    },
  },
  {
    group: 'Gaps',
    id: 'nudge',
    shown: ['↑', '↓'],
    says: 'Open or close the gap by the fine step; with ⇧ by the coarse step',
    matches: keyBinding('ArrowUp', 'ArrowDown'),
    run: (context, event) => nudge(context, event, event.key === 'ArrowUp' ? 1 : -1),
  },
  {
    group: 'Gaps',
    id: 'clear',
    shown: ['Delete'],
    says: 'Clear the manual value',
    matches: keyBinding('Delete', 'Backspace'),
    run: ({ store }) => {
      const { gap } = store.view;
      if (gap) store.apply((job) => clearHand(job, gap.blockId, gap.at));
    },
  },
  {
    group: 'Findings',
    id: 'next-finding',
    reach: 'page',
    says: 'Next finding, most visible first; in Proof across the whole job',
    characters: ['n'],
    run: ({ store, get }) => {
      if (store.view.pass === 'proof') get(ProofState).ask('next');
      else store.nextFinding(findingsOf(store));
    },
  },
  {
    group: 'Findings',
    id: 'take',
    shown: ['Enter'],
    says: 'Apply the proposal of the finding or gap',
    matches: keyBinding('Enter'),
    run: ({ store, get }) => {
      if (store.view.drawing === 'path') {
        get(PathStroke).finish();
        return;
      }
      const finding = findingAtCaret(store);
      if (finding?.proposal) store.accept(finding);
      else store.takeProposal();
    },
  },
  {
    group: 'Findings',
    id: 'as-intended',
    says: 'Ignore the finding',
    characters: ['i'],
    run: ({ store }) => {
      const finding = findingAtCaret(store);
      if (finding) store.intend(finding, true);
    },
  },
  {
    group: 'Gaps',
    id: 'back-out',
    shown: ['Esc'],
    says: 'Step out: gap, picked letters, block',
    matches: keyBinding('Escape'),
    run: ({ store, get }) => {
      if (store.view.picking) store.pickColour(undefined);
      else if (store.view.drawing) store.draw(undefined);
      else if (store.view.pass === 'shift' && get(LetterPicks).value.length > 0) get(LetterPicks).clear();
      else if (store.view.gap) store.placeGap(undefined);
      else if (store.range && store.block) store.setSelection(store.block.id, undefined, false);
      else store.selectBlock(undefined);
    },
  },
  {
    group: 'Letter space and lines',
    id: 'size',
    shown: ['Page ↑', 'Page ↓'],
    says: 'Larger or smaller by 0.1 pt; with ⇧ by 1 pt',
    matches: keyBinding('PageUp', 'PageDown'),
    run: ({ store, gesture }, event) => {
      const { style } = store;
      const by = (event.key === 'PageUp' ? 1 : -1) * (event.shiftKey ? 1 : 0.1);
      if (style) store.applyStyle({ sizePt: Math.min(5000, Math.max(1, Math.round((style.sizePt + by) * 100) / 100)) }, gesture);
    },
  },
  {
    group: 'Blocks',
    id: 'nudge-blocks',
    shown: ['Alt', '←↑→↓'],
    says: 'Move the picked blocks by 1 pt; with ⇧ by 10 pt',
    matches: (event) => event.altKey && !event.ctrlKey && !event.metaKey && event.key in NUDGES,
    run: ({ store, gesture }, event) => {
      const [x = 0, y = 0] = NUDGES[event.key] ?? [];
      const by = event.shiftKey ? 10 : 1;
      store.apply((job) => moveBlocks(job, store.picked, x * by, y * by), gesture);
    },
  },
  {
    group: 'Blocks',
    id: 'draw-block',
    reach: 'page',
    says: 'Draw a new frame on the sheet',
    characters: ['d'],
    run: ({ store }) => store.draw('block'),
  },
  {
    group: 'Letter space and lines',
    id: 'draw-rule',
    reach: 'page',
    says: 'Draw a rule along the picture for baselines to snap to; with ⇧ horizontal or vertical',
    characters: ['r'],
    run: ({ store }) => store.draw('rule'),
  },
  {
    group: 'Blocks',
    id: 'draw-turn',
    reach: 'page',
    says: 'Rotate the block: draw along an edge of the picture',
    characters: ['z'],
    run: ({ store }) => {
      if (store.block) store.draw('turn');
    },
  },
  {
    group: 'Blocks',
    id: 'duplicate',
    shown: ['Ctrl', 'D'],
    says: 'Duplicate the picked blocks',
    matches: withControl('d', false),
    run: ({ store }) => store.duplicatePicked(),
  },
  {
    group: 'Blocks',
    id: 'edit-words',
    reach: 'page',
    shown: ['F2'],
    says: 'Edit the words; or double-click on the sheet',
    matches: keyBinding('F2'),
    run: ({ store }) => {
      const { block, view } = store;
      const at = view.gap?.at ?? block?.words.length ?? 0;
      if (block) store.editWords(block.id, { start: at, end: at });
    },
  },
  {
    id: 'find',
    reach: 'anywhere',
    group: 'Work',
    shown: ['Ctrl', 'F'],
    says: 'Find and replace in the job',
    matches: withControl('f', false),
    run: ({ find }) => find(),
  },
  { id: 'undo', reach: 'anywhere', group: 'Work', shown: ['Ctrl', 'Z'], says: 'Undo', matches: withControl('z', false), run: ({ store }) => store.undo() },
  {
    id: 'redo',
    reach: 'anywhere',
    group: 'Work',
    shown: ['Ctrl', 'Shift', 'Z'],
    says: 'Redo',
    matches: (event) => withControl('z', true)(event) || withControl('y', false)(event),
    run: ({ store }) => store.redo(),
  },
  {
    id: 'first-cut',
    group: 'Work',
    says: 'First cut: an automatic first pass; review each change',
    characters: ['x'],
    run: ({ get }) => get(FirstCutState).toggle(),
  },
  { id: 'zoom-block', reach: 'page', group: 'Work', says: 'Fit block to the table', characters: ['b'], run: ({ zoom }) => zoom('block') },
  { id: 'zoom-sheet', reach: 'page', group: 'Work', says: 'Fit sheet to the table', characters: ['v'], run: ({ zoom }) => zoom('sheet') },
  { id: 'keys', reach: 'page', group: 'Work', says: 'Keys and help', characters: ['?'], run: ({ help }) => help() },
];

/** All keys: those that bring passes up and those that passes add stand between those of the bench. */
export const allKeys = (passes: readonly Pass[]): readonly KeyBinding[] => [
  ...BENCH_KEYS,
  ...passes.flatMap(({ keys }) => keys),
  ...passes.map((pass): KeyBinding => ({
    id: `pass-${pass.id}`,
    reach: 'page',
    group: 'Passes',
    says: `The ${pass.name} pass`,
    characters: [pass.key],
    run: ({ store }) => store.showPass(pass.id),
  })),
];

/** The groups of keys in the order people are told them. */
export const KEY_GROUPS: readonly KeyBinding['group'][] = ['Gaps', 'Letters', 'Findings', 'Letter space and lines', 'Passes', 'Blocks', 'Proof', 'Work'];

/** Which layers a reach goes to. */
const REACHES: Readonly<Record<KeyReach, readonly KeyLayer[]>> = {
  bench: ['bench'],
  page: ['bench', 'control'],
  anywhere: ['bench', 'control', 'live field'],
};

/** A binding that a key means, and which of its characters it was. */
export interface HeardKey {
  binding: KeyBinding;
  which: number;
}

/** The characters that do something: the person's own, or else the usual ones. */
export const keyCharacters = ({ id, characters }: KeyBinding, { ownKeys }: Pick<Preferences, 'ownKeys'>): readonly string[] => {
  const own = ownKeys[id];
  return own && own.length === characters?.length ? own : (characters ?? []);
};

/** The binding of a key in a layer; undefined where it belongs to somebody else. @param pass the one that is up. */
export function heardKey(
  keys: readonly KeyBinding[],
  event: KeyboardEvent,
  layer: KeyLayer,
  preferences: Pick<Preferences, 'ownKeys' | 'characterKeys'>,
  pass?: string,
): HeardKey | undefined {
  if (!preferences.characterKeys && isPlain(event) && event.key.length === 1) return undefined;
  const own = keys.filter(({ within }) => within !== undefined && within === pass);
  for (const binding of [...own, ...keys.filter(({ within }) => within === undefined)]) {
    if (!REACHES[binding.reach ?? 'bench'].includes(layer)) continue;
    const which = binding.characters ? whichCharacter(binding, event, preferences) : binding.matches?.(event) ? 0 : -1;
    if (which >= 0) return { binding, which };
  }
  return undefined;
}

function whichCharacter(binding: KeyBinding, event: KeyboardEvent, preferences: Pick<Preferences, 'ownKeys'>): number {
  if (!isPlain(event)) return -1;
  const characters = keyCharacters(binding, preferences);
  if (characters === binding.characters && binding.codes) return binding.codes.indexOf(event.code);
  return characters.indexOf(event.key.toLowerCase());
}

/** How a key is told. */
export const shownKeys = (binding: KeyBinding, preferences: Pick<Preferences, 'ownKeys'>): readonly string[] =>
  binding.shown ?? keyCharacters(binding, preferences).map((one) => (one === "'" ? '’' : one.toUpperCase()));
