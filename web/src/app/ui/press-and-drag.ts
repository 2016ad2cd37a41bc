/** The gesture of a pressed pointer until it is released. */
export interface Pressed {
  move: (event: PointerEvent) => void;
  /** Let go, or taken away by the system. */
  end: (event: PointerEvent) => void;
}

/** Keeps a pointer that was pressed with an element: its moves and its end come here wherever it goes. */
export function pressAndDrag(element: Element, { pointerId }: PointerEvent, { move, end }: Pressed): void {
  element.setPointerCapture(pointerId);
  const over = new AbortController();
  const listen = (type: string, run: (event: PointerEvent) => void): void =>
    element.addEventListener(
      type,
      (event) => {
        if (event instanceof PointerEvent && event.pointerId === pointerId) run(event);
      },
      { signal: over.signal },
    );
  listen('pointermove', move);
  for (const type of ['pointerup', 'pointercancel']) {
    listen(type, (event) => {
      over.abort();
      element.releasePointerCapture(pointerId);
      end(event);
    });
  }
}
