/**
 * The faults of a page as it is drawn: controls that are out of reach, cut off, covered or too small for a finger, words that are
 * cut or lie over others, pages that scroll where they should not. It runs inside the page, so it uses nothing from outside itself.
 * @returns a sentence a fault, numbers in it as #, so that the same fault of two places is one.
 */
export function layoutFaults(): string[] {
  const faults = new Set<string>();
  const fingers = matchMedia('(pointer: coarse)').matches;
  const roomy = innerWidth >= 1000;
  const root = document.documentElement;
  // What is behind a dialog waits.
  const shown = document.querySelector('ngb-modal-window') ?? document.body;

  function ancestors(element: Element): Element[] {
    const all: Element[] = [];
    for (let one = element.parentElement; one && one !== document.body; one = one.parentElement) all.push(one);
    return all;
  }
  function nameOf(element: Element): string {
    const host = [element, ...ancestors(element)].find(({ tagName }) => tagName.startsWith('JX-'));
    const text = (element.getAttribute('aria-label') ?? element.textContent).trim().replace(/\s+/g, ' ').replace(/\d+/g, '#').slice(0, 40);
    return `${host?.tagName.toLowerCase() ?? 'page'} ${element.tagName.toLowerCase()} “${text}”`;
  }
  const isSeen = (element: Element): boolean =>
    element.checkVisibility({ opacityProperty: true, visibilityProperty: true }) &&
    getComputedStyle(element).clipPath === 'none' &&
    !element.closest('.visually-hidden, .cdk-visually-hidden, .skips, [inert]');
  const overflow = (element: Element): string => getComputedStyle(element).overflow;
  const scrolls = (element: Element): boolean => /auto|scroll/.test(overflow(element));
  const clips = (element: Element): boolean => /hidden|clip/.test(overflow(element)) && !scrolls(element);
  const sticksOut = (inner: DOMRect, outer: { left: number; right: number; top: number; bottom: number }, by: number): boolean =>
    inner.left < outer.left - by || inner.right > outer.right + by || inner.top < outer.top - by || inner.bottom > outer.bottom + by;
  const view = { left: 0, top: 0, right: innerWidth, bottom: innerHeight };

  function judgeControl(control: Element): void {
    const box = control.getBoundingClientRect();
    const around = ancestors(control);
    const scroller = around.find(scrolls);
    if (scroller && sticksOut(box, scroller.getBoundingClientRect(), 1)) return;
    const cutter = around.find((one) => clips(one) && sticksOut(box, one.getBoundingClientRect(), 1));
    if (cutter) faults.add(`cut off: ${nameOf(control)}`);
    else if (sticksOut(box, view, 1)) {
      if (!scroller && roomy) faults.add(`out of the window: ${nameOf(control)}`);
    } else {
      const top = document.elementFromPoint(box.left + box.width / 2, box.top + box.height / 2);
      const labels = control instanceof HTMLInputElement ? [...(control.labels ?? [])] : [];
      if (top && ![control, ...labels].some((one) => one.contains(top) || top.contains(one))) faults.add(`covered by ${nameOf(top)}: ${nameOf(control)}`);
    }
    if (fingers && (box.width < 23.5 || box.height < 23.5)) faults.add(`too small for a finger: ${nameOf(control)}`);
  }

  /** The visible part of a run of words, or nothing. */
  function seenPart(element: Element, words: DOMRect): DOMRect | undefined {
    let [left, top, right, bottom] = [words.left, words.top, words.right, words.bottom];
    for (const one of [element, ...ancestors(element)].filter((candidate) => scrolls(candidate) || clips(candidate))) {
      const box = one.getBoundingClientRect();
      const ends = getComputedStyle(one).textOverflow === 'ellipsis' && element.closest('[title]') !== null;
      if (clips(one) && !ends && !element.closest('.shown, .hints') && (right > box.right + 1.5 || bottom > box.bottom + 3))
        faults.add(`words cut: ${nameOf(element)}`);
      [left, top, right, bottom] = [Math.max(left, box.left), Math.max(top, box.top), Math.min(right, box.right), Math.min(bottom, box.bottom)];
    }
    return right - left > 1 && bottom - top > 1 ? new DOMRect(left, top, right - left, bottom - top) : undefined;
  }

  /** The nearest element that floats over the page on a background of its own. */
  const floater = (element: Element): Element | undefined =>
    [element, ...ancestors(element)].find((one) => {
      const { position, backgroundColor } = getComputedStyle(one);
      return position !== 'static' && position !== 'relative' && backgroundColor !== 'rgba(0, 0, 0, 0)';
    });

  function judgeWords(): void {
    const runs: { element: Element; box: DOMRect; floats: Element | undefined }[] = [];
    const walker = document.createTreeWalker(shown, NodeFilter.SHOW_TEXT);
    for (let node = walker.nextNode(); node; node = walker.nextNode()) {
      const element = node.parentElement;
      if (!element || !node.textContent?.trim() || /^(script|style|option|title|desc)$/i.test(element.tagName) || !isSeen(element)) continue;
      const range = document.createRange();
      range.selectNodeContents(node);
      const lines = new Set([...range.getClientRects()].filter(({ width }) => width > 0.5).map(({ top }) => Math.round(top / 4)));
      const box = lines.size > 0 ? seenPart(element, range.getBoundingClientRect()) : undefined;
      if (!box) continue;
      // Findings are sentences; what is pressed otherwise is a name.
      if (roomy && lines.size > 1 && element.closest('button, legend, h2') && !element.closest('.row, .card-job, jx-new-job-dialog'))
        faults.add(`broken into lines: ${nameOf(element)}`);
      runs.push({ element, box, floats: floater(element) });
    }
    for (const [i, one] of runs.entries())
      for (const other of runs.slice(i + 1)) {
        if (one.element.contains(other.element) || other.element.contains(one.element) || one.floats !== other.floats) continue;
        if (one.element.closest('jx-table') && other.element.closest('jx-table')) continue;
        const width = Math.min(one.box.right, other.box.right) - Math.max(one.box.left, other.box.left);
        const height = Math.min(one.box.bottom, other.box.bottom) - Math.max(one.box.top, other.box.top);
        if (width > 2 && height > 4) faults.add(`words over words: ${nameOf(one.element)} and ${nameOf(other.element)}`);
      }
  }

  if (root.scrollWidth > innerWidth + 1) faults.add('the page scrolls sideways');
  if (roomy && root.scrollHeight > innerHeight + 1) faults.add('the page scrolls down');
  // Lists scroll; fields do not, but for those that are one a line.
  if (innerWidth >= 1280)
    for (const fields of document.querySelectorAll('.deck :is(.settings, .deck-numbers)'))
      if (isSeen(fields) && !fields.closest('jx-leading-deck') && fields.scrollHeight > fields.clientHeight + 2) faults.add(`fields scroll: ${nameOf(fields)}`);
  // Tools of a block stand clear of the words and the spec line of any.
  for (const tools of [...document.querySelectorAll('.entry .tools')].filter(isSeen))
    for (const other of document.querySelectorAll('.entry :is(.words, jx-spec-line)')) {
      const [over, under] = [tools.getBoundingClientRect(), other.getBoundingClientRect()];
      if (isSeen(other) && over.bottom > under.top + 0.5 && over.top < under.bottom - 0.5) faults.add(`tools over ${nameOf(other)}`);
    }
  for (const control of shown.querySelectorAll('button, a[href], input:not([type=hidden], [type=file]), select, textarea, [tabindex="0"]'))
    if (isSeen(control) && !control.closest('svg') && control.getBoundingClientRect().width > 0) judgeControl(control);
  judgeWords();
  return [...faults];
}

/**
 * Where the keys are on the page: what Tab has come to, and what is wrong with how it shows. It runs inside the page.
 * @returns undefined once Tab has left the page.
 */
export function focusFault(): string | undefined {
  const focused = document.activeElement;
  if (!focused || focused === document.body) return undefined;
  focused.setAttribute('data-met', '');
  const box = focused.getBoundingClientRect();
  const ringed = (element: Element): boolean => getComputedStyle(element).outlineStyle !== 'none' || getComputedStyle(element).boxShadow !== 'none';
  const name = `${focused.tagName.toLowerCase()} “${(focused.getAttribute('aria-label') ?? focused.textContent).trim().slice(0, 40)}”`;
  if (![focused, focused.parentElement ?? focused].some(ringed)) return `no ring: ${name}`;
  if (box.left < -1 || box.top < -1 || box.right > innerWidth + 1 || box.bottom > innerHeight + 1) return `out of view: ${name}`;
  return '';
}
