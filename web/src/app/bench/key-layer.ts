/**
 * Who a key belongs to: each layer owns what is pressed while it is up, and the bench has what is left.
 * - `dialog`: one is open;
 * - `menu`: one is open;
 * - `field`: something is typed into; `live field`: every keystroke there is an edit of the job already, so that undo is the job's;
 * - `control`: a button, a link, a box that is ticked;
 * - `bench`: the sheet, or nothing at all, has the focus.
 */
export type KeyLayer = 'dialog' | 'menu' | 'field' | 'live field' | 'control' | 'bench';

/** Inputs that are no place to type. */
const NOT_TYPED = ['checkbox', 'radio', 'color', 'button', 'submit', 'reset', 'file', 'range', 'image'];

/** The attribute of fields whose every keystroke is an edit. */
export const LIVE = 'data-live';
/** The attribute of what stands for the bench itself when it has the focus. */
export const BENCH = 'data-bench';

/** The layer that a key pressed on an element belongs to. */
export function layerOf(target: EventTarget | null, page: Document): KeyLayer {
  if (page.querySelector('ngb-modal-window')) return 'dialog';
  if (page.querySelector('.dropdown-menu.show')) return 'menu';
  if (!(target instanceof Element) || target === page.body || target === page.documentElement || target.hasAttribute(BENCH)) return 'bench';
  const typed = target instanceof HTMLInputElement ? !NOT_TYPED.includes(target.type) : target.matches('textarea, select, [contenteditable]');
  if (!typed) return 'control';
  return target.hasAttribute(LIVE) ? 'live field' : 'field';
}
